"""A spring of wire in torsion by the exact elasticity of its turns, beside its formulas: rate and greatest
stresses, between ends that cannot turn about the axis."""

from __future__ import annotations

import math
from dataclasses import dataclass

import numpy as np

from metaspira.numbers.jets import Array
from metaspira.springs.compression import Compression
from metaspira.springs.elasticity import turns_at
from metaspira.springs.extension import Extension

_TURN = 2 * math.pi


@dataclass(frozen=True)
class ExactLoad:
    """At a force, N: the greatest shear across the wire, exact and by the formulas, and the greatest
    equivalent stress (von Mises), MPa."""

    force: float
    shear: float
    formula_shear: float
    equivalent: float


@dataclass(frozen=True)
class Exact:
    """Rate, N/mm, with ends that cannot turn and with ends that can, and by the formulas, which are those of
    round wire, or of a straight bar in torsion where it is not round, as `formula` says; its working points;
    where the shear is greatest, mm on the section, u away from the axis and v along it; and for the turn that
    bears most the section as triangles: places (n, 2), corners (m, 3), and the shear at the places under the
    greatest force of its points, or under 1 N where it has none, MPa (n,)."""

    formula: str

    rate: float
    rate_turning: float
    formula_rate: float
    loads: tuple[ExactLoad, ...]
    most_at: list[float]
    force: float
    places: list[list[float]]
    corners: list[list[int]]
    shear: list[float]


def exact_of(spring: Compression | Extension) -> Exact:
    """The exact elasticity of a spring of one wire; of a cylinder one turn is solved, of other shapes a few,
    and their softness is taken between them by the radius. Raises RecipeError."""
    radii, pitches = spring.turns.open
    E, G, shape = spring.elastic_modulus, spring.shear_modulus, spring.shape
    solved = turns_at(shape.section, radii, pitches, E, G)
    at = np.array([turn.radius for turn in solved])
    soft = np.array([[1 / rate for rate in turn.rate] for turn in solved])
    held, free = (_over(at, one, radii) * spring.active for one in soft.T)
    straight = float(G * shape.stiffness / (_TURN * (radii**3).mean() * spring.active))
    hardest = solved[-1]
    shear, equivalent = float(hardest.shear.max()), float(hardest.equivalent.max())
    loads = tuple(
        ExactLoad(
            point.force,
            point.force * shear,
            point.corrected if shape.round else point.stress,
            point.force * equivalent,
        )
        for point in spring.points
    )
    force = max((load.force for load in loads), default=1.0)
    u, v = hardest.places[int(np.argmax(hardest.shear))]
    return Exact(
        "formula" if shape.round else "straight bar",
        float(1 / held),
        float(1 / free),
        spring.rate if shape.round else straight,
        loads,
        [float(u), float(v)],
        force,
        hardest.places.tolist(),
        hardest.corners.tolist(),
        (force * hardest.shear).tolist(),
    )


def _over(at: Array, soft: Array, radii: Array) -> float:
    """The mean softness over radii, between those that were solved by a power of the radius."""
    if len(at) == 1:
        return float(soft[0])
    return float(np.exp(np.interp(np.log(radii), np.log(at), np.log(soft))).mean())
