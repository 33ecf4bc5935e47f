"""A file that was sent, as the core reads it."""

from __future__ import annotations

from pathlib import PurePath
from typing import NamedTuple

from ninja.files import UploadedFile


class Sent(NamedTuple):
    """The bytes of a file, one more than may be read at the most; its suffix, and its name without it."""

    data: bytes
    suffix: str
    name: str


def sent(file: UploadedFile, most: int) -> Sent:
    """What is in a file, of which `most` bytes are read."""
    name = PurePath(file.name or "body")
    return Sent(file.read(most + 1), name.suffix, name.stem)
