"""A curve in space, asked by true length.

x(t): t ∈ [start, end],   s(t) = ∫ |x'|,   T = dx/ds,   K = dT/ds (curvature vector)
"""

from __future__ import annotations

from dataclasses import dataclass
from functools import cached_property
from typing import Protocol

import numpy as np

from metaspira.paths.quadrature import Array, RunningIntegral


class Curve(Protocol):
    """A smooth parametric curve; its parameter is free, its unit of length the millimetre."""

    @property
    def start(self) -> float: ...

    @property
    def end(self) -> float: ...

    def derivatives(self, t: Array) -> tuple[Array, Array, Array]:
        """x, x', x'' at t, each (n, 3)."""

    def speed(self, t: Array) -> Array:
        """|x'| at t, (n,)."""


@dataclass(frozen=True)
class Stations:
    """What a path is at n places: s (n,), the rest (n, 3); `curvature` is the vector dT/ds."""

    s: Array
    position: Array
    tangent: Array
    curvature: Array


@dataclass(frozen=True)
class CoilFacts:
    """What is known of a coil beyond its curve: hand +1 or −1, turns, mm of rise a turn and in all."""

    hand: int
    turns: float
    pitch: float
    height: float
    start_radius: float
    end_radius: float


@dataclass(frozen=True)
class Path:
    """A curve by true length. `coil` is None where the path does not run around the z axis."""

    curve: Curve
    coil: CoilFacts | None = None

    @cached_property
    def _length(self) -> RunningIntegral:
        return RunningIntegral(self.curve.speed, self.curve.start, self.curve.end)

    @property
    def length(self) -> float:
        """True length, mm."""
        return self._length.total

    def parameter(self, s: Array) -> Array:
        """The curve's own parameter at true length s (n,)."""
        return self._length.inverse(s)

    def at(self, s: Array) -> Stations:
        """Position, tangent and curvature vector at true length s (n,), 0 ≤ s ≤ length."""
        position, first, second = self.curve.derivatives(self.parameter(s))
        speed = np.linalg.norm(first, axis=1, keepdims=True)
        tangent = first / speed
        along = np.einsum("ij,ij->i", second, tangent)[:, None]
        return Stations(s, position, tangent, (second - along * tangent) / speed**2)
