"""What stands on a data sheet: sections of rows, and drawings."""

from __future__ import annotations

from dataclasses import dataclass

from metaspira.drawings.marks import Drawing


@dataclass(frozen=True)
class Row:
    """A line of a section; `note` says where it comes from or what it allows."""

    label: str
    value: str
    note: str = ""


@dataclass(frozen=True)
class Section:
    title: str
    rows: tuple[Row, ...]


@dataclass(frozen=True)
class Sheet:
    title: str
    subtitle: str
    sections: tuple[Section, ...]
    drawings: tuple[Drawing, ...]
    footer: str
