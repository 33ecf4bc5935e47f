"""The book of proof: figures held against published values and against other libraries.

A family of cases is one module in `cases`: its first line is the family's title, and `rows()` gives its rows.
The command line, the page in the application, `docs/verification.md` and the tests read it from there.
"""

from __future__ import annotations

import importlib
import pkgutil
from collections.abc import Iterator
from types import ModuleType

from metaspira.verification import cases
from metaspira.verification.row import STANDINGS, Row, Standing

__all__ = ["STANDINGS", "Row", "Standing", "families", "rows_of"]


def families() -> dict[str, str]:
    """The families of cases: their titles by their names."""
    names = sorted(one.name for one in pkgutil.iter_modules(cases.__path__))
    return {name: str(_module(name).__doc__).split("\n")[0].rstrip(".") for name in names}


def rows_of(family: str) -> Iterator[Row]:
    """The rows of a family, each calculated as it is asked for."""
    yield from _module(family).rows()


def _module(family: str) -> ModuleType:
    return importlib.import_module(f"{cases.__name__}.{family}")
