"""Flat spiral springs of strip, wound up on an arbor: clock springs.

Held firmly at both ends the whole strip bends alike:  α = M L / (E I),  σ = 6 M / (b t²). Where its outer
end swivels it turns by 1.25 times as much, and its greatest moment, opposite that end, is twice the torque
(Wahl, Mechanical Springs, 2nd ed. 1963, chapter on spiral springs, from memory; the elastica gives the
same). Wound solid on its arbor a strip of length L makes

    n = (√(r² + L t/π) − r) / t   turns, r the arbor's radius: a ring of the strip's own area
"""

from __future__ import annotations

import math
from dataclasses import dataclass
from typing import ClassVar

import numpy as np
import scipy

from metaspira.numbers.jets import Array
from metaspira.numbers.once import cached_property
from metaspira.numbers.quadrature import RunningIntegral
from metaspira.paths import Path
from metaspira.paths.path import CoilFacts, CurvePath
from metaspira.problems import Fix, Problem, RecipeError
from metaspira.schedules import constantly, piecewise
from metaspira.springs.asked import SpiralSpring
from metaspira.springs.deformed import LoadedCoil
from metaspira.springs.elastica import Bent, Strip, bend
from metaspira.springs.standard import INDEX
from metaspira.springs.turning import Turning

_PER_TURN = 72
_LEAST = 96
_DEGREE = 5
_TURN = 2 * math.pi


@dataclass(frozen=True, eq=False)
class Spiral(Turning):
    """A spiral spring. Its place is the angle, degrees, that the arbor winds it up by; `free` is the centre
    line of its turns."""

    asked: SpiralSpring
    free: Path

    indices: ClassVar[tuple[float, float]] = (INDEX[0], math.inf)

    @property
    def give(self) -> float:
        return 1.0 if self._clamped else 1.25

    @property
    def peak(self) -> float:
        return 1.0 if self._clamped else 2.0

    @property
    def diameter(self) -> float:
        """Thickness of the strip, mm: its strength goes by it."""
        return self.shape.width

    @property
    def length(self) -> float:
        """Of the strip in its turns, mm."""
        return self.free.length

    @property
    def arbor(self) -> float:
        """Diameter of the arbor, mm: that of the strip's inside."""
        return 2 * min(self.turns.radius.ends) - self.shape.width

    @property
    def solid_turns(self) -> float:
        """Turns that it has wound solid on its arbor."""
        r, t = 0.5 * self.arbor, self.shape.width
        return (math.sqrt(r * r + self.length * t / math.pi) - r) / t

    @property
    def solid_angle(self) -> float:
        """The angle, degrees, at which it is wound solid."""
        return 360.0 * (self.solid_turns - self.turns.turns)

    @property
    def least_gap(self) -> float:
        """The least air between neighbouring turns when free, mm."""
        widening = np.abs(self.turns.radius(self.turns.share)[1]) / self.turns.turns
        return float(widening.min()) - self.shape.width

    @property
    def span(self) -> tuple[float, float]:
        """The angles, degrees, between which it works: from free to a little beyond what the strip bears, or
        to solid."""
        return 0.0, max(min(super().span[1], self.solid_angle), 0.0)

    def bent_to(self, angle: float) -> Bent | None:
        """The strip between its ends, wound by an angle, degrees; None where it has no shape without touching
        itself."""
        return bend(self._strip, math.radians(angle), self._clamped)

    def path_to(self, place: float) -> Path:
        """The centre line wound by an angle, degrees, held to the span: the elastica between arbor and outer
        end. Raises RecipeError where there is none."""
        angle = min(max(place, self.span[0]), self.span[1])
        if angle == 0:
            return self.free
        bent = self.bent_to(angle)
        if bent is None:
            raise RecipeError(
                Problem(
                    "/spring/points",
                    f"wound by {angle:.4g}° no shape is found that touches nothing",
                    "look at a smaller angle"
                    if self._clamped
                    else "look at a smaller angle, or clamp its outer end",
                    None if self._clamped else Fix("/spring/outer", "clamped"),
                )
            )
        return self._drawn(bent, math.radians(angle))

    @property
    def _clamped(self) -> bool:
        return self.asked.outer == "clamped"

    @property
    def _inner_first(self) -> bool:
        return bool(self.turns.radii[0] < self.turns.radii[-1])

    @cached_property
    def _strip(self) -> Strip:
        share = np.linspace(0.0, 1.0, max(_LEAST, math.ceil(self.turns.turns * 48)) + 1)
        on = self.free.at((share if self._inner_first else 1 - share) * self.length)
        tangent = on.tangent if self._inner_first else -on.tangent
        direction = np.unwrap(np.arctan2(tangent[:, 1], tangent[:, 0]))
        return Strip(self.length, share, on.position[:, :2], direction)

    def _drawn(self, bent: Bent, turned: float) -> Path:
        """The curve of a bent strip, laid from its outer end, which stays."""
        strip, turns = self._strip, self.turns
        share = np.linspace(0.0, 1.0, max(_LEAST, math.ceil(turns.turns * _PER_TURN)) + 1)
        spin = scipy.interpolate.make_interp_spline(share, bent.direction(share), k=_DEGREE)
        place = []
        for axis, part in enumerate((np.cos, np.sin)):
            along = RunningIntegral(lambda at, part=part: part(spin(at)), 0.0, 1.0)(share) * self.length  # type: ignore[misc]
            place.append(along - along[-1] + strip.place[-1, axis])
        if not self._inner_first:
            place = [values[::-1] for values in place]
        x, y = place
        angle = turns.hand * np.unwrap(np.arctan2(y, x))
        radius, wound = (
            piecewise(
                scipy.interpolate.PPoly.from_spline(
                    scipy.interpolate.make_interp_spline(share, values, k=_DEGREE)
                ),
                np.zeros(0),
            )
            for values in (np.hypot(x, y), angle)
        )
        count = turns.turns + turned / _TURN
        curve = LoadedCoil(radius, wound, constantly(0.0), _TURN * turns.turns, turns.hand, 0.0, ())
        return CurvePath(curve, CoilFacts(turns.hand, count, 0.0, 0.0, *radius.ends), count)

    def stress_along(self, effort: float, share: Array) -> Array:
        """Corrected stress, MPa (n,), under a torque at shares of the turns. Where the outer end swivels at
        radius R the moment is T (1 − (r/R) cos φ), φ the angle from that end."""
        radius = self.turns.radius.value(share)
        even = self.turns.wound.bent(radius) * abs(effort) / self.modulus
        if self._clamped:
            return even
        last = 1.0 if self._inner_first else 0.0
        outer = float(self.turns.radius.value(np.array([last]))[0])
        away = np.cos(_TURN * self.turns.turns * (share - last))
        return even * np.abs(1 - radius / outer * away)
