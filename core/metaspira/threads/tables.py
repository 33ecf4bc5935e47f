"""The standards' tables, which ship as JSON with their source, and preferred numbers."""

from __future__ import annotations

import json
import math
from functools import cache
from pathlib import Path
from typing import Any

_R40 = (
    1.0,
    1.06,
    1.12,
    1.18,
    1.25,
    1.32,
    1.4,
    1.5,
    1.6,
    1.7,
    1.8,
    1.9,
    2.0,
    2.12,
    2.24,
    2.36,
    2.5,
    2.65,
    2.8,
    3.0,
    3.15,
    3.35,
    3.55,
    3.75,
    4.0,
    4.25,
    4.5,
    4.75,
    5.0,
    5.3,
    5.6,
    6.0,
    6.3,
    6.7,
    7.1,
    7.5,
    8.0,
    8.5,
    9.0,
    9.5,
    10.0,
)


@cache
def table(name: str) -> dict[str, Any]:
    """A table by its file's name: `source`, `rows` and what else it holds."""
    file = Path(__file__).parent / "data" / f"{name}.json"
    found: dict[str, Any] = json.loads(file.read_text(encoding="utf-8"))
    return found


def rows(name: str) -> list[list[Any]]:
    found: list[list[Any]] = table(name)["rows"]
    return found


def preferred(value: float) -> float:
    """The number of the R40 series (ISO 3) that is nearest in ratio."""
    decade = 10.0 ** math.floor(math.log10(value))
    best = min(_R40, key=lambda r: abs(math.log(r * decade / value)))
    return float(f"{best * decade:.4g}")
