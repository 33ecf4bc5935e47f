"""The path of the wire: a table, a drawing in space and unrolled, a front view with the unrolled line."""

from __future__ import annotations

from typing import Any

from metaspira.outputs.output import made_in, wound_only
from metaspira.parts import AnyPart, Part

LISTED = 20

_FORMATS = {"csv": "text/csv", "dxf": "image/vnd.dxf", "svg": "image/svg+xml"}


def _make(part: AnyPart, suffix: str) -> tuple[bytes, dict[str, Any]]:
    from metaspira.formats.lines import lines_of

    assert isinstance(part, Part)
    text, proof = lines_of(part, f".{suffix}")
    return text.encode(), proof.as_dict()


_MISFIT = wound_only("a thread has no path to write", "write its solid")

_USE = "bending machines, robots and sweeps elsewhere: the centre line"

OUTPUTS = made_in(_FORMATS, "path", "Path of the wire", _USE, _MISFIT, _make)
