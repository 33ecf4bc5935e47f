"""Compression springs: the standard's straight line where they are cylinders of even pitch, and beside it, or
in its place, the curve of the spring as it is drawn.

    R = G d⁴ / (8 D³ n),   τ = 8 F D / (π d³),   τₖ = k τ,   k = (w + 0.5) / (w − 0.75),   w = D / d

(EN 13906-1); wire of another section has its own G J, W and k in place of those of round wire (`shape`).
"""

from __future__ import annotations

import math
from abc import ABC, abstractmethod
from dataclasses import dataclass, replace
from typing import Literal, Self

import numpy as np

from metaspira.numbers.jets import Array
from metaspira.numbers.once import cached_property
from metaspira.paths import Path
from metaspira.springs.asked import SEATS, CompressionSpring
from metaspira.springs.characteristic import AsDrawn, Characteristic, StraightLine, TurnByTurn
from metaspira.springs.closing import Closing
from metaspira.springs.contact import PressedCoil
from metaspira.springs.standard import (
    ALLOWED,
    ALLOWED_SOLID,
    RULES,
    CoilEnd,
    Rules,
    buckles_at,
    dead_turns,
    gap_wanted,
    guided,
    rules_for,
    solid_length_of,
    why_other,
)
from metaspira.springs.working import Bounds, Mark, Spring, Working

_MOST_PRESSED = 200.0


class Pushing(ABC):
    """What is told of a spring that pushes, and of a nest of them."""

    asked: CompressionSpring

    @property
    @abstractmethod
    def rules(self) -> Rules:
        """The rules that its figures are by."""

    @abstractmethod
    def force_at_stress(self, share: float) -> float | None:
        """The force, N, at which the greatest plain stress is a share of the strength, or None where it is
        solid first."""

    @property
    def rules_why(self) -> str:
        return why_other(self.asked.rules, self.rules)

    @property
    def marks(self) -> tuple[Mark, ...]:
        """Where its wire reaches what it bears at rest, and what sets it."""
        found: tuple[tuple[float, str, Literal["watch", "stop"]], ...] = (
            (ALLOWED, "0.5 Rm", "watch"),
            (ALLOWED_SOLID, "0.56 Rm, sets", "stop"),
        )
        return tuple(
            Mark(force, words, verdict)
            for share, words, verdict in found
            if (force := self.force_at_stress(share)) is not None
        )


@dataclass(frozen=True, eq=False)
class Compression(Pushing, Spring):
    """A compression spring, the mass of its wire, g, and its ends, where it is a cylinder of even pitch."""

    asked: CompressionSpring
    wire_mass: float
    ends: tuple[CoilEnd, CoilEnd] | None

    @property
    def rules(self) -> Rules:
        """By which its figures are."""
        return rules_for(self.asked.rules, self.ends)

    @property
    def rules_named(self) -> str:
        """Its rules in words."""
        return RULES[self.rules]

    @cached_property
    def model(self) -> Characteristic:
        """That which its figures come from."""
        if self.ends is None or self.rules == "as drawn":
            return self.as_drawn if self.pressed else self._turn_by_turn
        total, shape = self.turns.turns, self.shape
        active = total - dead_turns(self.ends)
        radius = float(self.turns.radii.mean())
        tolerance = self.wire.tolerance(shape.height) if shape.round else 0.0
        solid = solid_length_of(self.rules, self.ends, total, shape.height, tolerance)
        unit = np.where(self.turns.room > 0, radius / shape.modulus, 0.0)
        stiffness = shape.stiffness * float(self.turns.wound.stiffer(np.array(radius)))
        slope = self.shear_modulus * stiffness / (2 * math.pi * radius**3 * active)
        return StraightLine(slope, max(self.free_length - solid, 0.0), active, unit)

    @cached_property
    def as_drawn(self) -> AsDrawn:
        """By the contact of its own turns."""
        coil = PressedCoil(self.turns, self.elastic_modulus, self.shear_modulus, self.reach)
        return AsDrawn(coil, self._closing.room)

    @property
    def pressed(self) -> bool:
        """Whether it has few enough turns to be pressed between plates."""
        return self.turns.turns <= _MOST_PRESSED

    @property
    def _turn_by_turn(self) -> TurnByTurn:
        stiffer = float(self.turns.wound.stiffer(self.turns.open[0]).mean())
        soft = 2 * math.pi / (self.shear_modulus * self.shape.stiffness * stiffer)
        return TurnByTurn(self._closing, soft, self.turns.radii / self.shape.modulus)

    @cached_property
    def drawn(self) -> Self | None:
        """The same by the contact of its own turns, where its figures are a standard's and it has not so many
        turns that its ends count for nothing."""
        return replace(self, ends=None) if self.rules != "as drawn" and self.pressed else None

    @cached_property
    def _closing(self) -> Closing:
        return Closing(self.turns)

    @property
    def active(self) -> float:
        """Turns that take part."""
        return self.model.active

    def curve(self, count: int = 61) -> tuple[Array, Array]:
        """Deflection (mm) and force (N), each (count,), from free to solid length."""
        deflection, force = self.model.steps
        picked = np.linspace(0.0, deflection[-1], count)
        return picked, np.interp(picked, deflection, force)

    @property
    def deflection_to_block(self) -> float:
        """mm"""
        return self.model.block

    @property
    def block_force(self) -> float:
        """N"""
        return self.model.block_force

    @property
    def solid_length(self) -> float:
        """mm"""
        return self.free_length - self.deflection_to_block

    @property
    def rate(self) -> float:
        """N/mm"""
        return self.model.rate

    def force_at(self, deflection: float) -> float:
        """N at a deflection, mm, up to solid length."""
        return self.model.force_at(deflection)

    def deflection_at(self, force: float) -> float:
        """mm under a force, N, up to solid length."""
        return self.model.deflection_at(force)

    @property
    def _mean(self) -> Array:
        """Mean diameter of the turns with room to close, mm (n,)."""
        return 2 * self.turns.radii[self.turns.room > 0]

    @property
    def index(self) -> float:
        """Least w = D / d of the active turns."""
        return float(self._mean.min()) / self.shape.width

    def stresses(self, force: float) -> tuple[Array, Array]:
        """Plain and corrected stress, MPa (n,), of the elements."""
        plain = self.model.torsion(force)
        return plain, plain * self.turns.wound.sheared(self.turns.radii)

    def force_at_stress(self, share: float) -> float | None:
        """The force, N, at which the greatest plain stress is a share of the strength, or None where it is
        solid first."""
        return self.model.force_at_stress(share * self.strength)

    @property
    def bounds(self) -> Bounds:
        solid = self.solid_length
        return Bounds(self.free_length, solid, solid + self.least_gaps, self.buckling, self.frequency)

    def stress_along(self, effort: float, share: Array) -> Array:
        """Corrected stress, MPa (n,), under a force at shares of the turns."""
        return np.interp(share, self.turns.share, self.stresses(effort)[1])

    def at_force(self, force: float) -> Working:
        return self._working(self.deflection_at(force), force)

    def at_length(self, length: float) -> Working:
        deflection = self.free_length - length
        return self._working(deflection, self.force_at(deflection))

    def _working(self, deflection: float, force: float) -> Working:
        plain, corrected = self.stresses(force)
        stress = float(plain.max())
        return Working(
            self.free_length - deflection,
            force,
            deflection,
            stress,
            float(corrected.max()),
            stress / self.allowed,
            self.model.energy(deflection),
        )

    @property
    def block(self) -> Working:
        return self._working(self.deflection_to_block, self.block_force)

    @property
    def set_at_block(self) -> float | None:
        """How much shorter it is once it was closed solid, mm, about; None of wire that is not round.

        The wire yields at 0.56 Rm, elastic and perfectly plastic (Timoshenko, Strength of Materials, part II,
        torsion beyond the elastic limit, from memory): twisted by x times as much as it yields at, it bears
        (4/3)(1 − 1/4x³) of the torque that it yields at, and springs back by that much alone. Each element
        has its share of the way to solid length by the energy that it stores.
        """
        if not self.shape.round:
            return None
        stress = self.model.torsion(self.block_force)
        if not stress.any():
            return 0.0
        twist = np.maximum(stress / self.allowed_solid, 1.0)
        back = 4 / 3 * (1 - 1 / (4 * twist**3)) / twist
        return self.deflection_to_block * float(np.average(1 - back, weights=stress**2))

    @property
    def allowed(self) -> float:
        """Plain shear stress allowed at rest, MPa: 0.5 Rm (EN 13906-1)."""
        return ALLOWED * self.strength

    @property
    def allowed_solid(self) -> float:
        """Plain shear stress allowed at solid length, MPa: 0.56 Rm (EN 13906-1, cold coiled)."""
        return ALLOWED_SOLID * self.strength

    @property
    def least_gaps(self) -> float:
        """The least sum of gaps wanted at the greatest load, mm."""
        each = gap_wanted(self._mean, self.shape.height, self.asked.cycles is not None)
        return float(each.mean()) * self.active

    @property
    def buckling(self) -> float | None:
        """The deflection, mm, at which it buckles, or None where it does not before solid length."""
        mean = self._mean.mean()
        moduli = self.shear_modulus / self.elastic_modulus
        deflection = float(buckles_at(self.free_length, mean, SEATS[self.asked.seat], moduli))
        return deflection if deflection < self.deflection_to_block else None

    def guided_by(self, bore: float | None, rod: float | None) -> bool:
        """Whether a bore or a rod, mm, is near enough to lead it."""
        mean, width = self._mean, self.shape.width
        return bool(guided(bore, rod, mean + width, mean - width, mean).all())

    @property
    def frequency(self) -> float:
        """First natural frequency between fixed ends, Hz: ½ √(R / m), m the mass of the active wire (EN
        13906-1)."""
        share = self.active / self.turns.turns
        return 0.5 * math.sqrt(self.rate * 1e3 / (self.wire_mass * 1e-3 * share))

    def outside_diameter(self, deflection: float) -> float:
        """The greatest outside diameter at a deflection, mm: the wire keeps its length while its pitch
        falls."""
        return 2 * float(self._closing.radii(deflection).max()) + self.shape.width

    @property
    def span(self) -> tuple[float, float]:
        """The lengths, mm, between which it works: free, and at solid length."""
        return self.free_length, self.solid_length

    def path_to(self, place: float) -> Path:
        """The centre line of its turns at a length, mm, held to the span."""
        return self._closing.path(self.free_length - place)
