"""Strands: several equal wires around one path, laid like a rope, or as the starts of a coil.

Strands on circles of radius a around a straight path, with a lay length L, keep between neighbours of N

    min over φ of √(2a² (1 − cos(2π/N + φ)) + (L φ / 2π)²)

which gives the radius at which wires of a diameter just touch (Olsen and Bohr, Theor. Chem. Acc. 125
(2010) 207, for N = 2 and more).
"""

from __future__ import annotations

import math
from functools import lru_cache
from typing import Annotated, Literal

import numpy as np
import scipy
from pydantic import Field

from metaspira.numbers.fields import Length, Quantity
from metaspira.numbers.kind import Kind
from metaspira.paths import CurvePath, Path
from metaspira.paths.helix import LinearCoil
from metaspira.paths.winding import wound
from metaspira.problems import Fix, Problem, RecipeError

StrandCount = Annotated[float, Quantity("count", 2, 37)]

_TURN = 2 * math.pi
_LEAST_LAY = 1.02
_STRAIGHT = 1e4


class Strands(Kind):
    """`count` equal wires. With a `lay` (mm of the path for one turn around it) they are laid around the
    path, touching each other where no `radius` is given, and around one more along it with `core`.
    Without a lay they are the starts of a coil, spread evenly around its axis."""

    count: StrandCount = Field(title="How many")
    lay: Length | None = Field(default=None, title="Lay length")
    radius: Length | None = None
    hand: Literal["right", "left"] = "right"
    core: bool = Field(default=False, title="One in the middle")

    def paths(self, path: Path, diameter: float, place: str) -> list[tuple[str, Path]]:
        """Each strand's name and path, for wires of `diameter` mm. Raises RecipeError below `place`."""
        count = int(self.count)
        if self.lay is None:
            return [(f"start {k + 1}", start) for k, start in enumerate(self._starts(path, count, place))]
        radius = self.laid_radius(diameter, place)
        bend = float(np.linalg.norm(path.derivatives(path.stations_by_turning(48, 65), 2)[2], axis=1).max())
        if radius * bend >= 1:
            raise RecipeError(
                Problem(
                    f"{place}/radius",
                    f"strands {radius:.4g} mm from a path that bends with a radius of {1 / bend:.4g} mm "
                    "would run backwards",
                    f"keep the radius below {0.9 / bend:.4g} mm, or widen the path",
                    Fix(f"{place}/radius", f"{0.8 / bend:.4g} mm"),
                )
            )
        turns = path.length / self.lay
        hand = 1 if self.hand == "right" else -1
        strands: list[tuple[str, Path]] = [
            (f"strand {k + 1}", wound(path, radius, turns, hand, _TURN * k / count)) for k in range(count)
        ]
        return [*strands, ("core strand", path)] if self.core else strands

    def laid_radius(self, diameter: float, place: str) -> float:
        """How far the strands lie from the path, mm. Raises RecipeError below `place`."""
        count, lay = int(self.count), self.lay
        if self.radius is not None or lay is None:
            return self.radius or 0.0
        if lay <= count * diameter * _LEAST_LAY:
            works = math.ceil(count * diameter * _LEAST_LAY * 1.05 * 100) / 100
            raise RecipeError(
                Problem(
                    f"{place}/lay",
                    (
                        f"{count} wires of {diameter:.4g} mm do not fit beside each other in a lay of "
                        f"{lay:.4g} mm"
                    ),
                    f"use {works:g} mm or more",
                    Fix(f"{place}/lay", f"{works:g} mm"),
                )
            )
        radius = touching_radius(count, lay, diameter)
        return max(radius, diameter) if self.core else radius

    def _starts(self, path: Path, count: int, place: str) -> list[Path]:
        curve = path.curve if isinstance(path, CurvePath) else None
        if not isinstance(curve, LinearCoil):
            raise RecipeError(
                Problem(
                    f"{place}/lay",
                    "only a plain coil has several starts; on this path strands need a lay",
                    "give the lay length",
                )
            )
        starts: list[Path] = []
        for k in range(count):
            turned = LinearCoil(
                curve.start_radius,
                curve.widening,
                curve.climb,
                curve.hand,
                curve.start_angle + _TURN * k / count,
                curve.end,
            )
            starts.append(CurvePath(turned, path.coil, path.turns, even=path.even))
        return starts


def strand_distance(count: int, lay: float, radius: float) -> float:
    """Distance, mm, between the centre lines of neighbouring strands around a straight path."""
    found = scipy.optimize.minimize_scalar(
        lambda phi: 2 * radius**2 * (1 - math.cos(_TURN / count + phi)) + (lay * phi / _TURN) ** 2,
        bounds=(-_TURN / count, 0.0),
        method="bounded",
        options={"xatol": 1e-12},
    )
    least = found.fun
    for other in range(2, count // 2 + 1):
        more = scipy.optimize.minimize_scalar(
            lambda phi, n=other: (
                2 * radius**2 * (1 - math.cos(n * _TURN / count + phi)) + (lay * phi / _TURN) ** 2
            ),
            bounds=(-_TURN * other / count, 0.0),
            method="bounded",
            options={"xatol": 1e-12},
        )
        least = min(least, more.fun)
    return math.sqrt(least)


@lru_cache(maxsize=256)
def touching_lay(count: int, radius: float, diameter: float) -> float | None:
    """The lay length, mm, at which `count` wires of `diameter`, `radius` from a straight path, just touch;
    None where they overlap at any lay, or never touch."""
    if strand_distance(count, _STRAIGHT * diameter, radius) <= diameter:
        return None
    short = count * diameter * 0.5
    if strand_distance(count, short, radius) >= diameter:
        return None
    return float(
        scipy.optimize.brentq(
            lambda lay: strand_distance(count, lay, radius) - diameter,
            short,
            _STRAIGHT * diameter,
            xtol=1e-9,
        )
    )


@lru_cache(maxsize=256)
def touching_radius(count: int, lay: float, diameter: float) -> float:
    """The radius, mm, at which `count` wires of `diameter` around a straight path just touch; the lay must
    be longer than all of them side by side."""
    low = diameter / 2
    high = low
    while strand_distance(count, lay, high) < diameter and high < 1e3 * diameter:
        high *= 1.05
    if high == low:
        return low
    return float(
        scipy.optimize.brentq(
            lambda a: strand_distance(count, lay, a) - diameter, high / 1.05, high, xtol=1e-12
        )
    )
