"""A spring by the exact elasticity of its turns, beside its formulas: of one that pushes or pulls the torsion
of its wire, between ends that cannot turn about the axis; of one that turns the bending of its wire."""

from __future__ import annotations

import math
from dataclasses import dataclass

import numpy as np

from metaspira.numbers.jets import Array
from metaspira.problems import Problem, RecipeError
from metaspira.springs.any_spring import AnySpring
from metaspira.springs.compression import Compression
from metaspira.springs.elasticity import Turn, turns_at
from metaspira.springs.extension import Extension
from metaspira.springs.shape import SectionWire
from metaspira.springs.torsion import Torsion

_TURN = 2 * math.pi


@dataclass(frozen=True)
class ExactLoad:
    """Under an effort, N or N mm: the greatest stress, exact and by the formulas, and the greatest equivalent
    stress (von Mises), MPa."""

    effort: float
    stress: float
    formula_stress: float
    equivalent: float


@dataclass(frozen=True)
class ExactHook:
    """Under a force, N: the greatest stress along the wire in the loops of the hooks and the greatest shear
    in the bends before them, exact and by the formulas, MPa."""

    effort: float
    stress: float
    shear: float
    formula_stress: float
    formula_shear: float


@dataclass(frozen=True)
class Exact:
    """Rate, N/mm or N mm/°, of one that pushes or pulls with ends that cannot turn and with ends that can,
    and by the formulas, of wire that is not round those of a straight bar, as `formula` says; how its `ends`
    are held in the first; its working points, and at them its hooks, where it has any; what `stress` is;
    where it is greatest, mm on the section, u away from the axis and v along it; and for the turn that bears
    most the section as triangles: places (n, 2), corners (m, 3), and the stress at the places under the
    greatest effort of its points, or under 1 where it has none, MPa (n,)."""

    formula: str
    rate: float
    rate_turning: float | None
    formula_rate: float
    ends: str
    loads: tuple[ExactLoad, ...]
    hooks: tuple[ExactHook, ...]
    stress: str
    most_at: list[float]
    effort: float
    places: list[list[float]]
    corners: list[list[int]]
    field: list[float]


def demand_exact(spring: AnySpring | None) -> Compression | Extension | Torsion:
    """The spring, where its turns are solved here. Raises RecipeError."""
    if not isinstance(spring, Compression | Extension | Torsion):
        raise RecipeError(
            Problem(
                "/spring/kind",
                "exact elasticity is here for single springs that push, pull or turn",
                "ask it of one of those",
            )
        )
    return spring


def exact_of(spring: Compression | Extension | Torsion) -> Exact:
    """The exact elasticity of a spring of one wire; of a cylinder one turn is solved, of other shapes a few,
    and their softness is taken between them by the radius. Raises RecipeError."""
    radii, pitches = spring.turns.open
    shape = spring.shape
    solved = turns_at(shape.section, radii, pitches, spring.elastic_modulus, spring.shear_modulus)
    if isinstance(spring, Torsion):
        rate, rate_turning, straight = _turned(spring, solved, radii)
        hardest, what, ends = solved[0], "stress along the wire", "wound"
        field, equivalent = np.abs(hardest.bending), hardest.equivalent_wound
    else:
        rate, rate_turning, straight = _pushed(spring, solved, radii)
        hardest, what, ends = solved[-1], "shear", "ends held from turning"
        field, equivalent = hardest.shear, hardest.equivalent
    most, most_equivalent = float(field.max()), float(equivalent.max())
    loads = tuple(
        ExactLoad(
            abs(point.effort),
            abs(point.effort) * most,
            point.corrected if shape.round else point.stress,
            abs(point.effort) * most_equivalent,
        )
        for point in spring.points
    )
    effort = max((load.effort for load in loads), default=1.0)
    u, v = hardest.places[int(np.argmax(field))]
    return Exact(
        "formula" if shape.round else "straight bar",
        rate,
        rate_turning,
        spring.rate if shape.round else straight,
        ends,
        loads,
        _hooked(spring) if isinstance(spring, Extension) else (),
        what,
        [float(u), float(v)],
        effort,
        hardest.places.tolist(),
        hardest.corners.tolist(),
        (effort * field).tolist(),
    )


def _pushed(spring: Compression | Extension, solved: list[Turn], radii: Array) -> tuple[float, float, float]:
    """Rates, N/mm: with ends that cannot turn, with ends that can, and of a straight bar."""
    held, free = (_over(solved, [1 / turn.rate[k] for turn in solved], radii) * spring.active for k in (0, 1))
    straight = (
        spring.shear_modulus * spring.shape.stiffness / (_TURN * float((radii**3).mean()) * spring.active)
    )
    return 1 / held, 1 / free, straight


def _turned(spring: Torsion, solved: list[Turn], radii: Array) -> tuple[float, None, float]:
    """Rates, N mm/°: of its turns and of legs that bend, and of a straight bar."""
    bar = spring.elastic_modulus * spring.shape.inertia[0]
    turns = _over(solved, [1 / turn.winding for turn in solved], radii) * spring.active
    legs = (spring.length - spring.coiled) / bar
    return math.radians(1) / (turns + legs), None, math.radians(1) * bar / spring.length


def _hooked(spring: Extension) -> tuple[ExactHook, ...]:
    """Rings as narrow as loops and bends: the force bends those by half the mean diameter, and draws, and
    twists these as it twists the turns."""
    shape = spring.shape
    solved = SectionWire(shape.section, spring.elastic_modulus, spring.shear_modulus)
    exact = spring.in_hooks(solved.hooked)
    formula = spring.in_hooks(shape.hooked if shape.round else lambda loop, bend: (loop**0, bend**0))
    if exact is None or formula is None:
        return ()
    forces = [point.force for point in spring.points]
    return tuple(ExactHook(f, *(f * stress for stress in (*exact, *formula))) for f in forces)


def _over(solved: list[Turn], soft: list[float], radii: Array) -> float:
    """The mean softness over radii, between those that were solved by a power of the radius."""
    if len(solved) == 1:
        return soft[0]
    at = np.log([turn.radius for turn in solved])
    return float(np.exp(np.interp(np.log(radii), at, np.log(soft))).mean())
