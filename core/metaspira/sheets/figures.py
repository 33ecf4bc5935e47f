"""Rows of figures, each with its unit and its formula."""

from __future__ import annotations

from collections.abc import Sequence

from metaspira.numbers.figure import Told
from metaspira.numbers.shown import number_shown, quantity_shown
from metaspira.parts import AnyPart
from metaspira.sheets.sheet import Row


def figure_rows(figures: Sequence[Told]) -> tuple[Row, ...]:
    """Those that there are."""
    return tuple(
        Row(one.title, f"{number_shown(one.value)} {one.unit}".rstrip(), one.formula)
        for one in figures
        if one.value is not None
    )


def part_rows(part: AnyPart) -> tuple[Row, ...]:
    """The figures of the part itself."""
    rows = []
    for figure in part.figures:
        one, value = figure.why(part.known()), part.quick_figures[figure.key]
        if value is not None and figure.rail != "never":
            told = _mass(part, value) if one.unit == "g" else f"{number_shown(value)} {one.unit}".rstrip()
            rows.append(Row(one.title, told, one.formula))
    return tuple(rows)


def _mass(part: AnyPart, value: float) -> str:
    return quantity_shown(value, "g", part.typed.unit)
