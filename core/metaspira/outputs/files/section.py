"""The section at the start: a drawing across the wire and, on a coil, through the axis."""

from __future__ import annotations

from typing import Any

from metaspira.outputs.output import made_in, wound_only
from metaspira.parts import AnyPart, Part

LISTED = 30

_FORMATS = {"dxf": "image/vnd.dxf", "svg": "image/svg+xml"}


def _make(part: AnyPart, suffix: str) -> tuple[bytes, dict[str, Any]]:
    from metaspira.formats.outlines import outline_of

    assert isinstance(part, Part)
    text, proof = outline_of(part, f".{suffix}")
    return text.encode(), proof.as_dict()


_MISFIT = wound_only("a thread has no section across a wire", "write its solid")

_USE = "dies, rolls and drawings elsewhere: the outline in place and size"

OUTPUTS = made_in(_FORMATS, "section", "Section", _USE, _MISFIT, _make)
