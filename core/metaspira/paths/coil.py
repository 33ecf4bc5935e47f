"""Coil: around the z axis with a radius and a height that are linear in the angle.

    r(θ) = r₀ + k θ,   x(θ) = (r cos(θ₀ ± θ), r sin(θ₀ ± θ), c θ),   0 ≤ θ ≤ 2π·turns

k = 0 is the cylinder, c = 0 the flat (Archimedean) spiral; + winds right-handed, − left-handed.
"""

from __future__ import annotations

import math
from dataclasses import dataclass
from typing import Literal

import numpy as np

from metaspira.numbers.fields import Angle, Distance, Length, Turns
from metaspira.numbers.kind import Kind
from metaspira.paths.path import CoilFacts, Path
from metaspira.paths.quadrature import Array
from metaspira.problems import Fix, Problem, RecipeError

_TURN = 2 * math.pi


@dataclass(frozen=True)
class LinearCoil:
    """The curve of the module's head; parameter θ in radians."""

    start_radius: float
    widening: float
    climb: float
    hand: int
    start_angle: float
    end: float
    start: float = 0.0

    def derivatives(self, t: Array) -> tuple[Array, Array, Array]:
        angle = self.start_angle + self.hand * t
        cos, sin = np.cos(angle), np.sin(angle)
        r, k, h = self.start_radius + self.widening * t, self.widening, self.hand
        zero = np.zeros_like(t)
        return (
            np.stack([r * cos, r * sin, self.climb * t], axis=1),
            np.stack([k * cos - h * r * sin, k * sin + h * r * cos, zero + self.climb], axis=1),
            np.stack([-2 * k * h * sin - r * cos, 2 * k * h * cos - r * sin, zero], axis=1),
        )

    def speed(self, t: Array) -> Array:
        r = self.start_radius + self.widening * t
        return np.sqrt(r * r + self.widening**2 + self.climb**2)


class Coil(Kind):
    """A coil around the z axis, by any two of turns, pitch and height (of the centre line)."""

    kind: Literal["coil"]
    hand: Literal["right", "left"] = "right"
    start_angle: Angle = 0.0
    diameter: Length
    diameter_at: Literal["mean", "outside", "inside"] = "mean"
    end_diameter: Length | None = None
    cone_angle: Angle | None = None
    turns: Turns | None = None
    pitch: Distance | None = None
    height: Distance | None = None

    def path(self, place: str, reach: tuple[tuple[float, float], tuple[float, float]]) -> Path:
        """The path of a resolved coil.

        `reach` is how far the section extends along its first axis from the point that rides on the
        path, (inward ≤ 0, outward ≥ 0) in mm, at the start and at the end of the wire. Raises
        RecipeError with places below `place`.
        """
        turns, pitch, height = self._rise(place)
        start = self._mean_radius(self.diameter, reach[0], f"{place}/diameter")
        end = self._end_radius(place, start, height, reach[1])
        sweep = _TURN * turns
        hand = 1 if self.hand == "right" else -1
        curve = LinearCoil(start, (end - start) / sweep, height / sweep, hand, self.start_angle, sweep)
        return Path(curve, CoilFacts(hand, turns, pitch, height, start, end))

    def _rise(self, place: str) -> tuple[float, float, float]:
        given = [name for name in ("turns", "pitch", "height") if getattr(self, name) is not None]
        if len(given) == 3:
            raise RecipeError(
                Problem(
                    place,
                    "turns, pitch and height are all given, and two of them set the third",
                    "leave one of them out",
                )
            )
        if len(given) < 2:
            missing = [name for name in ("turns", "pitch", "height") if name not in given]
            raise RecipeError(
                Problem(
                    place,
                    f"a coil needs two of turns, pitch and height; it has {' '.join(given) or 'none'}",
                    f"add {' or '.join(missing)}",
                )
            )
        if self.height is None:
            assert self.turns is not None and self.pitch is not None
            return self.turns, self.pitch, self.turns * self.pitch
        if self.pitch is None:
            assert self.turns is not None
            return self.turns, self.height / self.turns, self.height
        if self.pitch == 0 or self.height == 0:
            raise RecipeError(
                Problem(
                    f"{place}/pitch",
                    "a flat coil has neither pitch nor height, so they do not tell its turns",
                    "give turns, and leave the pitch out",
                )
            )
        turns = self.height / self.pitch
        if not 1e-3 <= turns <= 20_000:
            raise RecipeError(
                Problem(
                    f"{place}/pitch",
                    f"height over pitch makes {turns:.6g} turns",
                    "choose a pitch that makes between 0.001 and 20000 turns",
                )
            )
        return turns, self.pitch, self.height

    def _mean_radius(self, diameter: float, reach: tuple[float, float], place: str) -> float:
        inward, outward = reach
        inset = {"mean": 0.0, "outside": outward, "inside": inward}[self.diameter_at]
        radius = diameter / 2 - inset
        if radius <= 0:
            raise RecipeError(
                Problem(
                    place,
                    f"the section reaches {inset:.6g} mm outward from the path, "
                    f"so no path is left inside an outside diameter of {diameter:.6g} mm",
                    f"use an outside diameter above {2 * inset:.6g} mm",
                )
            )
        return radius

    def _end_radius(self, place: str, start: float, height: float, reach: tuple[float, float]) -> float:
        if self.end_diameter is not None and self.cone_angle is not None:
            raise RecipeError(
                Problem(
                    f"{place}/cone_angle",
                    "the taper is given twice, by end_diameter and by cone_angle",
                    "leave one of them out",
                )
            )
        if self.end_diameter is not None:
            return self._mean_radius(self.end_diameter, reach, f"{place}/end_diameter")
        if self.cone_angle is None:
            return start
        if abs(self.cone_angle) >= math.radians(89):
            raise RecipeError(
                Problem(
                    f"{place}/cone_angle",
                    f"a half angle of {math.degrees(self.cone_angle):.6g}° is flat",
                    "stay between −89° and 89°, or use end_diameter with height 0",
                )
            )
        end = start + height * math.tan(self.cone_angle)
        if end <= 0:
            steepest = -math.degrees(math.atan(start / height))
            works = math.ceil(steepest * 0.999 * 100) / 100
            raise RecipeError(
                Problem(
                    f"{place}/cone_angle",
                    f"at {math.degrees(self.cone_angle):.6g}° the cone closes to a point "
                    f"below the end of the coil",
                    f"use {works:g}° or less of it",
                    Fix(f"{place}/cone_angle", works),
                )
            )
        return end
