"""File formats. A new one is a module with `write` and a line in FORMATS."""

from __future__ import annotations

import importlib
from collections.abc import Callable
from pathlib import Path as FilePath
from typing import cast

from metaspira.part import AnyPart
from metaspira.solids.proof import Proof

FORMATS = {
    ".step": "metaspira.formats.step",
    ".stl": "metaspira.formats.stl",
    ".glb": "metaspira.formats.glb",
    ".3mf": "metaspira.formats.threemf",
    ".obj": "metaspira.formats.obj",
    ".ply": "metaspira.formats.ply",
}

Progress = Callable[[float, str], None]
Writer = Callable[[AnyPart, FilePath, float, Progress], Proof]


def writer(suffix: str) -> Writer:
    """`write(part, file, chord_error, progress)` of a format; it proves the file it wrote.

    Loaded only here, since the STEP writer needs the kernel, which runs in a child process only.
    Raises KeyError for an unknown suffix.
    """
    return cast(Writer, importlib.import_module(FORMATS[suffix]).write)
