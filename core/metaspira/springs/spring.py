"""The spring that a part is, if its recipe says that it is one."""

from __future__ import annotations

import math

from metaspira.paths.base import ArcLeg, HookLeg, Leg
from metaspira.paths.coil import Coil
from metaspira.paths.path import JoinedPath
from metaspira.problems import Problem, RecipeError
from metaspira.recipe.model import Recipe
from metaspira.sections import Round
from metaspira.springs.asked import ExtensionSpring
from metaspira.springs.compression import Compression
from metaspira.springs.extension import Extension, Hook
from metaspira.springs.turns import turns_of
from metaspira.springs.wire import SpringWire
from metaspira.sweep.extents import extents
from metaspira.sweep.sweep import Sweep

AnySpring = Compression | Extension

_LYING = 0.5


def spring_of(recipe: Recipe, sweep: Sweep, density: float) -> AnySpring | None:
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
    if isinstance(asked, ExtensionSpring):
        return _extension(asked, wire, recipe, sweep)
    turns = turns_of(sweep.path, recipe.section.diameter, _lying(recipe))
    if turns.active <= 0:
        raise RecipeError(
            Problem("/path/pitch", "every turn touches the next, so nothing is left to close", "use a larger pitch")
        )  # fmt: skip
    mass = sweep.wire_length * math.pi / 4 * turns.wire**2 * density
    return Compression(asked, wire, turns, extents(sweep).height, mass)


def _extension(asked: ExtensionSpring, wire: SpringWire, recipe: Recipe, sweep: Sweep) -> Extension:
    """Its free length is that between the insides of its hooks: all of it, less a wire at each end that has one."""
    path = sweep.path
    body = path.pieces[path.main] if isinstance(path, JoinedPath) else path
    d = 2 * sweep.section.reach()
    turns = turns_of(body, d, (0.0, 0.0))
    legs = recipe.path.legs
    hooks = [
        hook
        for own, radius in (
            (legs.start if legs else (), float(turns.radii[0])),
            (legs.end if legs else (), float(turns.radii[-1])),
        )
        if (hook := _hook(own, radius)) is not None
    ]
    return Extension(asked, wire, turns, extents(sweep).height - d * len(hooks), tuple(hooks))


def _hook(legs: tuple[Leg, ...], radius: float) -> Hook | None:
    for leg in legs:
        if isinstance(leg, HookLeg):
            return Hook(radius if leg.radius is None else leg.radius, leg.bend_radius)
    bends = [leg.radius for leg in legs if isinstance(leg, ArcLeg)]
    return Hook(max(bends), min(bends)) if bends else None


def _lying(recipe: Recipe) -> tuple[float, float]:
    """Turns that lie on their seats because they are ground without being closed."""
    closed = recipe.path.closed if isinstance(recipe.path, Coil) else None
    counts = (closed.start, closed.end) if closed else (0.0, 0.0)
    first, last = (
        _LYING if end is not None and end.kind == "ground" and count == 0 else 0.0
        for end, count in zip((recipe.ends.start, recipe.ends.end), counts, strict=True)
    )
    return first, last
