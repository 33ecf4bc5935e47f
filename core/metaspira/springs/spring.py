"""The spring that a part is, if its recipe says that it is one."""

from __future__ import annotations

from metaspira.paths import Path
from metaspira.paths.base import ArcLeg, HookLeg, Leg
from metaspira.paths.coil import Coil
from metaspira.paths.path import JoinedPath
from metaspira.problems import Problem, RecipeError
from metaspira.recipe.model import Recipe
from metaspira.sections import Round
from metaspira.sections.kinds import Rectangle
from metaspira.springs.asked import ExtensionSpring, TorsionSpring
from metaspira.springs.compression import Compression
from metaspira.springs.extension import Extension, Hook
from metaspira.springs.shape import WireShape
from metaspira.springs.torsion import Torsion
from metaspira.springs.turns import turns_of
from metaspira.springs.wire import SpringWire
from metaspira.sweep.extents import extents
from metaspira.sweep.sweep import Sweep

AnySpring = Compression | Extension | Torsion

_LYING = 0.5


def spring_of(recipe: Recipe, sweep: Sweep, density: float) -> AnySpring | None:
    """The spring of a resolved recipe, its wire swept as `sweep` and `density` g/mm³ heavy. Raises RecipeError
    where the part cannot be one."""
    asked = recipe.spring
    if asked is None:
        return None
    wire = asked.spring_wire()
    shape = _shape(recipe, sweep)
    for index, point in enumerate(asked.points):
        point.demand_one(f"/spring/points/{index}")
    if isinstance(asked, ExtensionSpring):
        return _extension(asked, wire, shape, recipe, sweep)
    if isinstance(asked, TorsionSpring):
        return Torsion(asked, wire, turns_of(_body(sweep.path), shape, (0.0, 0.0)))
    turns = turns_of(sweep.path, shape, _lying(recipe))
    if turns.active <= 0:
        raise RecipeError(
            Problem("/path/pitch", "every turn touches the next, so nothing is left to close", "use a larger pitch")
        )  # fmt: skip
    mass = sweep.wire_length * shape.area * density
    return Compression(asked, wire, turns, extents(sweep).height, mass)


def _extension(
    asked: ExtensionSpring, wire: SpringWire, shape: WireShape, recipe: Recipe, sweep: Sweep
) -> Extension:
    """Its free length is that between the insides of its hooks: all of it, less a wire at each end that has one."""
    if not shape.round:
        raise RecipeError(
            Problem(
                "/section/kind",
                "the hooks of an extension spring are of round wire here",
                "use a round section",
            )
        )
    turns = turns_of(_body(sweep.path), shape, (0.0, 0.0))
    legs = recipe.path.legs
    hooks = [
        hook
        for own, radius in (
            (legs.start if legs else (), float(turns.radii[0])),
            (legs.end if legs else (), float(turns.radii[-1])),
        )
        if (hook := _hook(own, radius)) is not None
    ]
    return Extension(
        asked, wire, turns, extents(sweep).height - shape.height * len(hooks), tuple(hooks)
    )


def _body(path: Path) -> Path:
    """A path without its legs."""
    return path.pieces[path.main] if isinstance(path, JoinedPath) else path


def _hook(legs: tuple[Leg, ...], radius: float) -> Hook | None:
    for leg in legs:
        if isinstance(leg, HookLeg):
            return Hook(radius if leg.radius is None else leg.radius, leg.bend_radius)
    bends = [leg.radius for leg in legs if isinstance(leg, ArcLeg)]
    return Hook(max(bends), min(bends)) if bends else None


def _shape(recipe: Recipe, sweep: Sweep) -> WireShape:
    section, changes = recipe.section, sweep.changes
    even = changes.size.constant == changes.width.constant == changes.depth.constant == 1
    if isinstance(section, Round) and section.plane == "across" and even:
        return WireShape(section.diameter, section.diameter, True)
    straight = changes.twist.constant == changes.tilt.constant == 0
    if isinstance(section, Rectangle) and section.plane == "across" and even and straight:
        return WireShape(section.width, section.height, False)
    raise RecipeError(
        Problem(
            "/spring", "the sums of a spring stand for wire of one size, round or rectangular, given across it",
            "use such a section, without twist where it is rectangular, or leave the load out",
        )
    )  # fmt: skip


def _lying(recipe: Recipe) -> tuple[float, float]:
    """Turns that lie on their seats because they are ground without being closed."""
    closed = recipe.path.closed if isinstance(recipe.path, Coil) else None
    counts = (closed.start, closed.end) if closed else (0.0, 0.0)
    first, last = (
        _LYING if end is not None and end.kind == "ground" and count == 0 else 0.0
        for end, count in zip((recipe.ends.start, recipe.ends.end), counts, strict=True)
    )
    return first, last
