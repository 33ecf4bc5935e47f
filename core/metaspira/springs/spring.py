"""The spring that a part is, if its recipe says that it is one."""

from __future__ import annotations

import math

from metaspira.paths.coil import Coil
from metaspira.problems import Problem, RecipeError
from metaspira.recipe.model import Recipe
from metaspira.sections import Round
from metaspira.springs.compression import Compression
from metaspira.springs.turns import turns_of
from metaspira.sweep.extents import extents
from metaspira.sweep.sweep import Sweep

_LYING = 0.5


def spring_of(recipe: Recipe, sweep: Sweep, density: float) -> Compression | None:
    """The spring of a resolved recipe, its wire swept as `sweep` and `density` g/mm³ heavy. Raises RecipeError
    where the part cannot be one."""
    asked = recipe.spring
    if asked is None:
        return None
    wire = asked.spring_wire()
    if not isinstance(recipe.section, Round) or recipe.section.plane != "across":
        raise RecipeError(
            Problem("/spring", "the sums of a spring stand for round wire here", "use a round section, or leave the load out")
        )  # fmt: skip
    for index, point in enumerate(asked.points):
        if (point.length is None) == (point.force is None):
            raise RecipeError(
                Problem(
                    f"/spring/points/{index}", "a working point has either a length or a force", "give one of them"
                )
            )  # fmt: skip
    turns = turns_of(sweep.path, recipe.section.diameter, _lying(recipe))
    if turns.active <= 0:
        raise RecipeError(
            Problem("/path/pitch", "every turn touches the next, so nothing is left to close", "use a larger pitch")
        )  # fmt: skip
    mass = sweep.wire_length * math.pi / 4 * turns.wire**2 * density
    return Compression(asked, wire, turns, extents(sweep).height, mass)


def _lying(recipe: Recipe) -> tuple[float, float]:
    """Turns that lie on their seats because they are ground without being closed."""
    closed = recipe.path.closed if isinstance(recipe.path, Coil) else None
    counts = (closed.start, closed.end) if closed else (0.0, 0.0)
    first, last = (
        _LYING if end is not None and end.kind == "ground" and count == 0 else 0.0
        for end, count in zip((recipe.ends.start, recipe.ends.end), counts, strict=True)
    )
    return first, last
