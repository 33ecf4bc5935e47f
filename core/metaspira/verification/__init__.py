"""The book of proof: figures held against published values and against other libraries.

A family of cases is one module in `cases`: its first line is the family's title, and `rows()` gives its rows.
The command line, the page in the application, `docs/verification.md` and the tests read it from there.
"""

from __future__ import annotations

import importlib
from collections.abc import Iterator
from pathlib import Path

from metaspira.verification.row import STANDINGS, Row, Standing

_CASES = Path(__file__).parent / "cases"

__all__ = ["STANDINGS", "Row", "Standing", "families", "rows_of"]


def families() -> dict[str, str]:
    """The families of cases: their titles by their names; none is imported for it."""
    files = sorted(file for file in _CASES.glob("*.py") if file.stem != "__init__")
    return {
        file.stem: file.read_text(encoding="utf-8").split('"""')[1].split("\n")[0].rstrip(".")
        for file in files
    }


def rows_of(family: str) -> Iterator[Row]:
    """The rows of a family, each calculated as it is asked for."""
    yield from importlib.import_module(f"{__name__}.cases.{family}").rows()
