"""The record that ships with the package: every row as it was calculated last."""

from __future__ import annotations

import json
from dataclasses import dataclass
from functools import cache
from pathlib import Path
from typing import Any

from metaspira.verification.row import Row

RECORD = Path(__file__).parent / "data" / "record.json"
_DIGITS = 10


@dataclass(frozen=True)
class Family:
    """A family of cases, with its rows."""

    name: str
    title: str
    rows: tuple[Row, ...]


@cache
def recorded() -> tuple[Family, ...]:
    """The families as they were recorded."""
    told = json.loads(RECORD.read_text(encoding="utf-8"))
    return tuple(
        Family(one["name"], one["title"], tuple(_row(cells) for cells in one["rows"])) for one in told
    )


def about(figure: str) -> tuple[Family, ...]:
    """The families with their rows that hold a figure, by its key."""
    found = (
        Family(one.name, one.title, tuple(row for row in one.rows if row.holds(figure))) for one in recorded()
    )
    return tuple(one for one in found if one.rows)


def as_json(families: tuple[Family, ...]) -> str:
    """The record's text, a row a line: figures, case, value, ours, allowed, unit, source, standing."""
    said = [
        f'{{"name": {_said(one.name)}, "title": {_said(one.title)}, "rows": [\n'
        + ",\n".join(_said(_cells(row)) for row in one.rows)
        + "\n]}"
        for one in families
    ]
    return "[" + ",\n".join(said) + "]\n"


def _cells(row: Row) -> list[Any]:
    numbers = [float(f"{number:.{_DIGITS}g}") for number in (row.value, row.ours, row.allowed)]
    return [list(row.figures), row.case, *numbers, row.unit, row.source, row.standing]


def _row(cells: list[Any]) -> Row:
    figures, *rest = cells
    return Row(tuple(figures), *rest)


def _said(value: Any) -> str:
    return json.dumps(value, ensure_ascii=False)
