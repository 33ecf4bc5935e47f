"""The files that jobs give, in Django's storage. A file counts once the end of its job names it."""

from __future__ import annotations

from typing import BinaryIO

from django.core.files import File
from django.core.files.base import ContentFile
from django.core.files.storage import Storage, storages
from django.utils.text import slugify


def file_stem(name: str) -> str:
    """What files of a design of this name are called, before what tells them apart."""
    return slugify(name) or "part"


def kept() -> Storage:
    """Where they are kept; a folder, or what METASPIRA_STORAGE names."""
    return storages["jobs"]


def keep(key: str, attempt: int, name: str, content: bytes | BinaryIO) -> str:
    """Keep a file of one attempt at a job, and give the name to open it by."""
    file = ContentFile(content) if isinstance(content, bytes) else File(content)
    return kept().save(f"{key}/{attempt}/{name}", file)


def drop(key: str, attempt: int) -> None:
    """Take out what an attempt left."""
    storage = kept()
    folder = f"{key}/{attempt}"
    try:
        _, names = storage.listdir(folder)
    except FileNotFoundError:
        return
    for name in names:
        storage.delete(f"{folder}/{name}")
    storage.delete(folder)
