"""The data sheet of a part."""

from __future__ import annotations

from typing import Any

from metaspira.outputs.output import any_part, made_in
from metaspira.parts import AnyPart

LISTED = 60

_FORMATS = {"pdf": "application/pdf", "html": "text/html"}


def _make(part: AnyPart, suffix: str) -> tuple[bytes, dict[str, Any]]:
    from metaspira.sheets import SHEETS, sheet_of

    return SHEETS[f".{suffix}"](sheet_of(part)), {}


_USE = "whoever buys and inspects it: figures, limits, loads, sources"

OUTPUTS = made_in(_FORMATS, "sheet", "Data sheet", _USE, any_part, _make)
