"""Data sheets: what is on them, once, and how it is written. A new format is one module and one line in
SHEETS."""

from __future__ import annotations

from collections.abc import Callable

from metaspira.sheets.html import html_of
from metaspira.sheets.pdf import pdf_of
from metaspira.sheets.sheet import Sheet

SHEETS: dict[str, Callable[[Sheet], bytes]] = {
    ".html": lambda sheet: html_of(sheet).encode(),
    ".pdf": pdf_of,
}
"""The writers of a sheet's formats, by suffix."""
