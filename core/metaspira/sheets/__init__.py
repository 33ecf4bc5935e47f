"""Data sheets: what is on them, once, and how it is written. A new format is one module and one line in
SHEETS."""

from __future__ import annotations

from collections.abc import Callable
from typing import Any

from metaspira.parts import AnyPart, Part, ThreadedPart
from metaspira.sheets.html import html_of
from metaspira.sheets.pdf import pdf_of
from metaspira.sheets.sheet import Sheet
from metaspira.sheets.springs import spring_sheet
from metaspira.sheets.swept import swept_sheet
from metaspira.sheets.thread import thread_sheet

SHEETS: dict[str, Callable[[Sheet], bytes]] = {
    ".html": lambda sheet: html_of(sheet).encode(),
    ".pdf": pdf_of,
}
"""The writers of a sheet's formats, by suffix."""


def sheet_of(part: AnyPart) -> Sheet:
    """The data sheet of any part."""
    return _PARTS[type(part)](part)


def _of_wire(part: Part) -> Sheet:
    return swept_sheet(part) if part.spring is None else spring_sheet(part, part.spring)


_PARTS: dict[type[AnyPart], Callable[[Any], Sheet]] = {Part: _of_wire, ThreadedPart: thread_sheet}
