"""A spring of wire in torsion by the exact elasticity of its turns, beside its formulas: rate and greatest
stresses, between ends that cannot turn about the axis."""

from __future__ import annotations

from dataclasses import dataclass

import numpy as np

from metaspira.numbers.jets import Array
from metaspira.sections.outline import Outline
from metaspira.springs.compression import Compression
from metaspira.springs.elasticity import Turn
from metaspira.springs.extension import Extension

_EVEN = 1e-3
_RADII = 5


@dataclass(frozen=True)
class ExactLoad:
    """At a force, N: the greatest shear across the wire and the greatest equivalent stress (von Mises),
    MPa."""

    force: float
    shear: float
    equivalent: float


@dataclass(frozen=True)
class Exact:
    """Rate, N/mm, with ends that cannot turn and with ends that can, and by the formulas; its working points;
    where the shear is greatest, mm on the section, u away from the axis and v along it; and for the turn that
    bears most the section as triangles: places (n, 2), corners (m, 3), and the shear at the places under the
    greatest force of its points, or under 1 N where it has none, MPa (n,)."""

    rate: float
    rate_turning: float
    formula_rate: float
    loads: tuple[ExactLoad, ...]
    most_at: list[float]
    force: float
    places: list[list[float]]
    corners: list[list[int]]
    shear: list[float]


def exact_of(spring: Compression | Extension, section: Outline) -> Exact:
    """The exact elasticity of a spring of one wire whose section it is; of a cylinder one turn is solved, of
    other shapes a few, and their softness is taken between them by the radius. Raises RecipeError."""
    turns = spring.turns
    open_ = turns.room > 0 if isinstance(spring, Compression) else np.ones(turns.count, dtype=bool)
    radii, pitches = turns.radii[open_], turns.pitches[open_]
    even = float(np.ptp(radii)) <= _EVEN * float(radii.max())
    at = np.array([radii.mean()]) if even else np.linspace(radii.min(), radii.max(), _RADII)
    order = np.argsort(radii)
    solved = [
        Turn(
            section,
            float(radius),
            float(np.median(pitches) if even else np.interp(radius, radii[order], pitches[order])),
            spring.elastic_modulus,
            spring.shear_modulus,
        )
        for radius in at
    ]
    soft = np.array([[1 / rate for rate in turn.rate] for turn in solved])
    held, free = (_over(at, one, radii) * spring.active for one in soft.T)
    forces = [point.force for point in spring.points]
    hardest = solved[-1]
    shear, equivalent = float(hardest.shear.max()), float(hardest.equivalent.max())
    force = max(forces, default=1.0)
    u, v = hardest.places[int(np.argmax(hardest.shear))]
    return Exact(
        float(1 / held),
        float(1 / free),
        spring.rate,
        tuple(ExactLoad(one, one * shear, one * equivalent) for one in forces),
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
