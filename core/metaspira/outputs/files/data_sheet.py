"""The data sheet of a spring."""

from __future__ import annotations

from datetime import date
from typing import Any

from metaspira.outputs.output import made_in
from metaspira.parts import AnyPart, Part
from metaspira.problems import Problem

LISTED = 60

_FORMATS = {"pdf": "application/pdf", "html": "text/html"}


def _misfit(part: AnyPart) -> Problem | None:
    if isinstance(part, Part) and part.spring is not None:
        return None
    return Problem("/spring", "the recipe says nothing of a spring", "say on the bench how it is loaded")


def _make(part: AnyPart, suffix: str) -> tuple[bytes, dict[str, Any]]:
    from metaspira.sheets import SHEETS
    from metaspira.sheets.spring import spring_sheet

    assert isinstance(part, Part)
    return SHEETS[f".{suffix}"](spring_sheet(part, date.today())), {}


OUTPUTS = made_in(_FORMATS, "sheet", "Data sheet", _misfit, _make)
