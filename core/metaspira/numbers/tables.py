"""Tables as CSV (RFC 4180), which a spreadsheet reads as what they say: no text in a cell starts a
formula."""

from __future__ import annotations

import csv
import io
from collections.abc import Iterable

_STARTS = ("=", "+", "-", "@", "\t", "\r")


def csv_text(rows: Iterable[Iterable[str]]) -> str:
    """Rows of cells as CSV; a cell that would start a formula, and is no number, begins with an
    apostrophe."""
    text = io.StringIO()
    table = csv.writer(text)
    table.writerows([_plain(cell) for cell in row] for row in rows)
    return text.getvalue()


def _plain(cell: str) -> str:
    if not cell.startswith(_STARTS):
        return cell
    try:
        float(cell)
    except ValueError:
        return f"'{cell}"
    return cell
