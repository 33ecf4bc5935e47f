"""A dimensioned drawing on a sheet, with a title block."""

from __future__ import annotations

from typing import Any

from metaspira.outputs.output import any_part, made_in
from metaspira.parts import AnyPart

LISTED = 40

_FORMATS = {"pdf": "application/pdf", "svg": "image/svg+xml", "dxf": "image/vnd.dxf"}


def _make(part: AnyPart, suffix: str) -> tuple[bytes, dict[str, Any]]:
    from metaspira.drawings import DRAWINGS, drawing_of

    drawn = drawing_of(part)
    size = {"lines_and_texts": len(drawn.parts), "width": drawn.width, "height": drawn.height}
    return DRAWINGS[f".{suffix}"](drawn), size


_USE = "whoever makes it: views, dimensions, limits, title block"

OUTPUTS = made_in(_FORMATS, "drawing", "Drawing", _USE, any_part, _make)
