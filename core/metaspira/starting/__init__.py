"""Starting points: small real recipes from which a new design begins. A new one is one file in `data`, named
by its place in the order and its key."""

from __future__ import annotations

import json
from dataclasses import dataclass
from functools import cache
from pathlib import Path
from typing import Any

from metaspira.problems import Problem, RecipeError, suggested

_DATA = Path(__file__).parent / "data"


@dataclass(frozen=True)
class StartingPoint:
    """What a new design may begin as; `recipe` is JSON, in millimetres."""

    key: str
    group: str
    title: str
    sentence: str
    recipe: dict[str, Any]


@cache
def starting_points() -> dict[str, StartingPoint]:
    """All of them by their keys, in the order in which they are offered."""
    files = sorted(_DATA.glob("*.json"))
    named = ((file.stem.split("-", 1)[1], json.loads(file.read_text(encoding="utf-8"))) for file in files)
    return {key: StartingPoint(key=key, **told) for key, told in named}


def starting_point(key: str) -> StartingPoint:
    """The one of this key. Raises RecipeError."""
    found = starting_points().get(key)
    if found is None:
        known = starting_points()
        remedy = suggested(key, known, f"choose one of {', '.join(known)}")
        raise RecipeError(Problem("", f"“{key}” is no starting point", remedy))
    return found
