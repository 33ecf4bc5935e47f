"""Every kind that a recipe may hold, by the name under which its schema is published, and what a new one
begins as."""

from __future__ import annotations

import math
from functools import cache
from typing import Any, get_args

from metaspira.numbers.kind import Kind
from metaspira.numbers.measure import unit as unit_of
from metaspira.problems import Problem, RecipeError, suggested
from metaspira.recipe.model import FORMAT, Recipe, ThreadRecipe
from metaspira.threads.thread import Side, Thread


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
    """A usual instance of a kind, about `size` across, as a recipe types it in its own unit. Raises
    RecipeError."""
    if name not in kinds():
        remedy = suggested(name, kinds(), "see the schema")
        raise RecipeError(Problem("/name", f"there is no kind “{name}”", remedy))
    if not (math.isfinite(size) and 1e-6 <= size <= 1e6):
        raise RecipeError(Problem("/size", f"a size of {size:g} is out of range", "use 0.000001 to 1000000"))
    return kinds()[name].usual(size)


def usual_thread(thread: Thread, side: Side) -> dict[str, Any]:
    """The recipe of a thread on a rod or in a bore that suits its size; in inches where its standard is."""
    unit = "in" if thread.inch else "mm"
    diameter = thread.external.major.basic / unit_of(unit).value
    length = float(f"{diameter * (2.5 if side == 'external' and not thread.taper else 1):.2g}")
    outside = float(f"{1.6 * diameter:.2g}")
    rod, bore = {"kind": "rod", "length": length}, {"kind": "bore", "length": length}
    return {
        "format": FORMAT,
        "name": thread.designation,
        "unit": unit,
        "thread": {"designation": thread.designation},
        "host": rod if side == "external" else {**bore, "outside": outside},
        "use": {"as": "body"},
        "material": "spring-steel",
    }
