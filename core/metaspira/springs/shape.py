"""The shape of spring wire, as the sums need it: round, or a rectangle with one side square to the axis.

Rectangle of half sides a ≥ b (Roark's Formulas for Stress and Strain, table 10.7, from memory):

    J = a b³ (16/3 − 3.36 b/a (1 − b⁴ / 12a⁴))
    τ = 3 T / (8 a b²) · (1 + 0.6095 b/a + 0.8865 (b/a)² − 1.8023 (b/a)³ + 0.91 (b/a)⁴)
"""

from __future__ import annotations

import math
from dataclasses import dataclass

from metaspira.numbers.jets import Array


@dataclass(frozen=True)
class WireShape:
    """Its width, away from the axis, and its height, along it, mm; both the diameter where it is round."""

    width: float
    height: float
    round: bool

    @property
    def area(self) -> float:
        """mm²"""
        return math.pi / 4 * self.width**2 if self.round else self.width * self.height

    @property
    def equal(self) -> float:
        """Diameter of the round wire of the same area, mm: the strength of the wire goes by it."""
        return self.width if self.round else math.sqrt(4 * self.area / math.pi)

    @property
    def stiffness(self) -> float:
        """J, mm⁴: torque over shear modulus and twist."""
        if self.round:
            return math.pi / 32 * self.width**4
        a, b = self._halves
        return a * b**3 * (16 / 3 - 3.36 * b / a * (1 - b**4 / (12 * a**4)))

    @property
    def modulus(self) -> float:
        """W, mm³: torque over its greatest shear stress on straight wire."""
        if self.round:
            return math.pi / 16 * self.width**3
        a, b = self._halves
        q = b / a
        return 8 * a * b**2 / 3 / (1 + 0.6095 * q + 0.8865 * q**2 - 1.8023 * q**3 + 0.91 * q**4)

    @property
    def inertia(self) -> tuple[float, float]:
        """I, mm⁴: bent away from the axis, in the plane of its turns, and along it."""
        if self.round:
            return (math.pi / 64 * self.width**4,) * 2
        return self.height * self.width**3 / 12, self.width * self.height**3 / 12

    @property
    def _halves(self) -> tuple[float, float]:
        low, high = sorted((self.width / 2, self.height / 2))
        return high, low

    def correction(self, index: Array) -> Array:
        """What raises the stress at the inside of the coil, by the spring index (n,): k = (w + 0.5) / (w −
        0.75) of round wire (EN 13906-1), 1 + 1.2/w + 0.56/w² + 0.5/w³ of square wire (Roark, from memory)."""
        if self.round:
            return (index + 0.5) / (index - 0.75)
        return 1 + 1.2 / index + 0.56 / index**2 + 0.5 / index**3
