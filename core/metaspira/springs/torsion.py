"""Torsion springs: torque over the angle that the legs are wound by (EN 13906-3, cold coiled, legs held firmly).

    α = M Σ 2π r Δn / (E I);  of round wire, all turns alike, 64 M D n / (E d⁴)
    σ = M / W,  W = πd³/32 of round wire;  allowed 0.7 Rm;  corrected by  q = (w + 0.07) / (w − 0.75)
    wound by α, n turns become n + α/2π, and their diameter falls as their number grows

Of rectangular wire q = (3w² − w − 0.8) / (3w (w − 1)) (Shigley, Mechanical Engineering Design, section 10-12, from memory).
"""

from __future__ import annotations

import math
from dataclasses import dataclass
from functools import cached_property

import numpy as np

from metaspira.numbers.jets import Array
from metaspira.paths import Path
from metaspira.springs.asked import TorsionSpring
from metaspira.springs.deformed import edges_of, loaded_path
from metaspira.springs.working import WoundSpring

_ALLOWED = 0.7
_BEYOND = 1.1


@dataclass(frozen=True)
class Turned:
    """The spring wound by an angle (degrees, closing it): torque (N mm), the bending stress plain and corrected
    (MPa), its share of what the wire allows, and the energy stored (N mm)."""

    angle: float
    torque: float
    stress: float
    corrected: float
    utilisation: float
    energy: float

    @property
    def place(self) -> float:
        """Where it works: its angle."""
        return self.angle

    @property
    def way(self) -> float:
        """How far from free."""
        return self.angle

    @property
    def effort(self) -> float:
        """What it takes: its torque."""
        return self.torque


@dataclass(frozen=True, eq=False)
class Torsion(WoundSpring):
    """A torsion spring. Its wire bends as it is wound, by a torque between its legs."""

    asked: TorsionSpring

    units = ("°", "N mm")

    @property
    def active(self) -> float:
        """Turns that take part: all of the coil."""
        return self.turns.turns

    @property
    def index(self) -> float:
        """Least w = D / d."""
        return 2 * float(self.turns.radii.min()) / self.shape.width

    @property
    def _bending(self) -> float:
        """I of the wire, mm⁴, bent in the plane of its turns."""
        shape = self.shape
        return math.pi / 64 * shape.width**4 if shape.round else shape.height * shape.width**3 / 12

    @property
    def modulus(self) -> float:
        """W, mm³: torque over the bending stress."""
        return self._bending / (self.shape.width / 2)

    @cached_property
    def rate(self) -> float:
        """Torque a degree, N mm/°."""
        length = 2 * math.pi * float(self.turns.radii.sum()) * self.turns.step
        return math.radians(1.0) * self.elastic_modulus * self._bending / length

    @property
    def allowed(self) -> float:
        """Plain bending stress allowed, MPa: 0.7 Rm."""
        return _ALLOWED * self.strength

    @property
    def most_torque(self) -> float:
        """The torque, N mm, at which the wire has all the stress that is allowed."""
        return self.allowed * self.modulus

    @property
    def span(self) -> tuple[float, float]:
        """The angles, degrees, between which it is drawn: from free to a little beyond what the wire bears."""
        return 0.0, _BEYOND * self.most_torque / self.rate

    def curve(self, count: int = 31) -> tuple[Array, Array]:
        """Angle (degrees) and torque (N mm), each (count,)."""
        angle = np.linspace(*self.span, count)
        return angle, self.rate * angle

    def at_angle(self, angle: float) -> Turned:
        torque = self.rate * angle
        stress = abs(torque) / self.modulus
        corrected = float(self._correction(2 * self.turns.radii / self.shape.width).max()) * stress
        return Turned(
            angle, torque, stress, corrected, stress / self.allowed, 0.5 * torque * math.radians(angle)
        )

    def at_torque(self, torque: float) -> Turned:
        return self.at_angle(torque / self.rate)

    @cached_property
    def points(self) -> tuple[Turned, ...]:
        """The working points that were asked for, in their order."""
        return tuple(
            self.at_torque(point.torque)
            if point.torque is not None
            else self.at_angle(math.degrees(point.angle or 0.0))
            for point in self.asked.points
        )

    def _correction(self, index: Array) -> Array:
        if self.shape.round:
            return (index + 0.07) / (index - 0.75)
        return (3 * index**2 - index - 0.8) / (3 * index * (index - 1))

    def wound(self, angle: float) -> float:
        """How many times the turns become as many, wound by an angle, degrees."""
        return 1 + angle / 360 / self.turns.turns

    def inside_diameter(self, angle: float) -> float:
        """The least inside diameter, mm, wound by an angle, degrees."""
        return 2 * float(self.turns.radii.min()) / self.wound(angle) - self.shape.width

    def stress_along(self, torque: float, share: Array) -> Array:
        """Corrected stress, MPa (n,), under a torque at shares of the turns."""
        index = 2 * self.turns.radius.value(share) / self.shape.width
        return self._correction(index) * abs(torque) / self.modulus

    def path_at(self, angle: float) -> Path:
        """The centre line of its turns, wound by an angle, degrees; their pitch stays."""
        turns, wound = self.turns, self.wound(angle)

        def pitch(share: Array) -> Array:
            return turns.pitch.value(share) * wound

        return loaded_path(turns, pitch, edges_of(turns, np.zeros(turns.count)), [], wound)
