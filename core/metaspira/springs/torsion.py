"""Torsion springs: wound by α, n turns become n + α/2π, and their diameter falls as their number grows (EN
13906-3, cold coiled).

A leg of length l that is held by its end alone bends as a cantilever, which adds M l / (3 E I) to the angle,
as if the turns were longer by a third of it (Shigley, Mechanical Engineering Design, section 10-12, from
memory).
"""

from __future__ import annotations

import math
from dataclasses import dataclass

import numpy as np

from metaspira.numbers.jets import Array
from metaspira.paths import Path
from metaspira.springs.asked import TorsionSpring
from metaspira.springs.deformed import edges_of, loaded_path
from metaspira.springs.turning import Turning

_THEORY, _RUBBING = 64 / (2 * math.pi), 10.8
"""What divides E d⁴ / (D n) to the torque a turn: by theory, and with friction between the turns."""


@dataclass(frozen=True, eq=False)
class Torsion(Turning):
    """A torsion spring. Its wire bends as it is wound, by a torque between its `legs`, mm long."""

    asked: TorsionSpring
    legs: tuple[float, float]

    @property
    def coiled(self) -> float:
        """Length of the turns, without their slope, mm: Σ 2π r Δn; of turns all alike π D n."""
        return 2 * math.pi * float(self.turns.radii.sum()) * self.turns.step

    @property
    def give(self) -> float:
        return _RUBBING / _THEORY if self.asked.by == "10.8" else 1.0

    @property
    def length(self) -> float:
        """Of the turns, and a third of the legs where they are held by their ends, mm."""
        return self.coiled + (sum(self.legs) / 3 if self.asked.held == "ends" else 0.0)

    def wound(self, angle: float) -> float:
        """How many times the turns become as many, wound by an angle, degrees, that their legs take their
        part of."""
        return 1 + angle * self.coiled / self.length / 360 / self.turns.turns

    def inside_diameter(self, angle: float) -> float:
        """The least inside diameter, mm, wound by an angle, degrees."""
        return 2 * float(self.turns.radii.min()) / self.wound(angle) - self.shape.width

    def path_to(self, place: float) -> Path:
        """The centre line of its turns, wound by an angle, degrees, held to the span; their pitch stays."""
        turns, wound = self.turns, self.wound(min(max(place, self.span[0]), self.span[1]))

        def pitch(share: Array) -> Array:
            return turns.pitch.value(share) * wound

        return loaded_path(turns, pitch, edges_of(turns, np.zeros(turns.count)), [], wound)
