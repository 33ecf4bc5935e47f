"""Springs that turn: wire or strip bent in the plane of its turns by a torque (EN 13906-3, ends held firmly).

    α = c M L / (E I),   σ = p M / W,   I = πd⁴/64 of round wire, b t³/12 of strip,   allowed 0.7 Rm

L is the length of the turns; c and p are 1 where both ends are held firmly. Bent wire is stressed most at the
inside of its turns, q times as much (`shape`).
"""

from __future__ import annotations

import math
from abc import abstractmethod
from dataclasses import dataclass
from typing import ClassVar

import numpy as np

from metaspira.numbers.jets import Array
from metaspira.numbers.once import cached_property
from metaspira.springs.asked import TurningSpring
from metaspira.springs.working import Mark, WoundSpring

ALLOWED = 0.7
"""Plain bending stress allowed, as a share of the tensile strength."""

BEYOND = 1.1
"""How far beyond what the wire bears a spring is drawn, as a share of it."""


@dataclass(frozen=True)
class Turned:
    """The spring wound by an angle (degrees, closing it): torque (N mm), the bending stress plain and
    corrected (MPa), its share of what the wire allows, and the energy stored (N mm)."""

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
class Turning(WoundSpring):
    """A spring that turns by a torque between its ends."""

    asked: TurningSpring

    units: ClassVar[tuple[str, str]] = ("°", "N mm")
    sign: ClassVar[str] = "M"
    diagram: ClassVar[str] = "Torque over angle"

    @property
    def marks(self) -> tuple[Mark, ...]:
        return (Mark(self.most_torque, "0.7 Rm", "stop"),)

    @property
    @abstractmethod
    def length(self) -> float:
        """Length of the wire that bends, mm."""

    @property
    def give(self) -> float:
        """c: how much more it turns than one whose ends are held firmly."""
        return 1.0

    @property
    def peak(self) -> float:
        """p: the greatest moment in its wire over its torque."""
        return 1.0

    @property
    def active(self) -> float:
        """Turns that take part: all of them."""
        return self.turns.turns

    @property
    def index(self) -> float:
        """Least w = D / d."""
        return 2 * float(self.turns.radii.min()) / self.shape.width

    @property
    def stiffness(self) -> float:
        """E I of its wound wire, N mm²."""
        stiffer = float(1 / (1 / self.turns.wound.stiffer_bent(self.turns.radii)).mean())
        return self.elastic_modulus * self.shape.inertia[0] * stiffer

    @property
    def modulus(self) -> float:
        """W, mm³: moment over the bending stress."""
        return self.shape.bending

    @cached_property
    def rate(self) -> float:
        """Torque a degree, N mm/°."""
        return math.radians(1.0) * self.stiffness / (self.give * self.length)

    @property
    def allowed(self) -> float:
        """Plain bending stress allowed, MPa: 0.7 Rm."""
        return ALLOWED * self.strength

    @property
    def most_torque(self) -> float:
        """The torque, N mm, at which the wire has all the stress that is allowed."""
        return self.allowed * self.modulus / self.peak

    @property
    def span(self) -> tuple[float, float]:
        """The angles, degrees, between which it is drawn: from free to a little beyond what the wire
        bears."""
        return 0.0, BEYOND * self.most_torque / self.rate

    def curve(self, count: int = 61) -> tuple[Array, Array]:
        """Angle (degrees) and torque (N mm), each (count,)."""
        angle = np.linspace(*self.span, count)
        return angle, self.rate * angle

    def at_angle(self, angle: float) -> Turned:
        torque = self.rate * angle
        stress = self.peak * abs(torque) / self.modulus
        corrected = float(self.turns.wound.bent(self.turns.radii).max()) * stress
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

    def stress_along(self, effort: float, share: Array) -> Array:
        """Corrected stress, MPa (n,), under a torque at shares of the turns, the moment as great all
        along."""
        return self.turns.wound.bent(self.turns.radius.value(share)) * self.peak * abs(effort) / self.modulus
