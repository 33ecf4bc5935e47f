"""Every kind that a recipe may hold, by the name under which its schema is published."""

from __future__ import annotations

import math
from functools import cache
from typing import Any, get_args

from metaspira.numbers.kind import Kind
from metaspira.problems import Problem, RecipeError, nearest
from metaspira.recipe.model import Recipe, ThreadRecipe


@cache
def kinds() -> dict[str, type[Kind]]:
    """The kinds that are told by their `kind`, by their names in the schema's `$defs`."""
    found: dict[str, type[Kind]] = {}
    seen: set[type] = set()
    waiting: list[Any] = [Recipe, ThreadRecipe]
    while waiting:
        here = waiting.pop()
        if not (isinstance(here, type) and issubclass(here, Kind)):
            waiting += get_args(here)
            continue
        if here in seen:
            continue
        seen.add(here)
        if "kind" in here.model_fields:
            found[here.__name__] = here
        waiting += [field.annotation for field in here.model_fields.values()]
    return found


def usual(name: str, size: float) -> dict[str, Any]:
    """A usual instance of a kind, about `size` across, as a recipe types it in its own unit. Raises RecipeError."""
    if name not in kinds():
        hint = nearest(name, kinds())
        raise RecipeError(
            Problem(
                "/name",
                f"there is no kind “{name}”",
                f"did you mean “{hint}”" if hint else "see the schema",
            )
        )
    if not (math.isfinite(size) and 1e-6 <= size <= 1e6):
        raise RecipeError(
            Problem("/size", f"a size of {size:g} is out of range", "use 0.000001 to 1000000")
        )
    return kinds()[name].usual(size)
