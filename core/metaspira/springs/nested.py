"""Compression springs one in the other, between the same two plates: at any length their forces add up.

The longest is pressed first, and the pair is solid where the first of them is.
"""

from __future__ import annotations

from dataclasses import dataclass, replace
from typing import Self

import numpy as np

from metaspira.numbers.jets import Array
from metaspira.numbers.once import cached_property
from metaspira.paths import Path
from metaspira.springs.asked import CompressionSpring, WorkingPoint
from metaspira.springs.compression import Compression, Pushing
from metaspira.springs.standard import Rules
from metaspira.springs.working import Axial, Bounds, Working


@dataclass(frozen=True, eq=False)
class Nested(Pushing, Axial):
    """A nest of compression springs, `alone` as each is without working points, the outer one first. What is
    not of all of them is of the outer one."""

    asked: CompressionSpring
    alone: tuple[Compression, ...]

    @cached_property
    def members(self) -> tuple[Compression, ...]:
        """Each spring at the lengths that they share."""
        lengths = tuple(WorkingPoint.model_construct(length=point.length) for point in self.points)
        return tuple(
            replace(one, asked=one.asked.model_copy(update={"points": lengths})) for one in self.alone
        )

    @property
    def rules(self) -> Rules:
        """By which the figures of all are; as drawn where those of one are."""
        return "as drawn" if any(one.rules == "as drawn" for one in self.alone) else self.alone[0].rules

    @cached_property
    def drawn(self) -> Self | None:
        """The same by the contact of its own turns, where figures of any are a standard's."""
        if all(one.drawn is None for one in self.alone):
            return None
        return replace(self, alone=tuple(one.drawn or one for one in self.alone))

    @property
    def active(self) -> float:
        """Active turns of the outer spring."""
        return self.alone[0].active

    @property
    def index(self) -> float:
        """The least spring index."""
        return min(one.index for one in self.alone)

    @property
    def allowed(self) -> float:
        """Plain shear stress allowed in the outer spring, MPa."""
        return self.alone[0].allowed

    @cached_property
    def free_length(self) -> float:
        """Of the longest, mm."""
        return max(one.free_length for one in self.alone)

    @cached_property
    def solid_length(self) -> float:
        """Of that which is solid first, mm."""
        return max(one.solid_length for one in self.alone)

    @property
    def deflection_to_block(self) -> float:
        return self.free_length - self.solid_length

    @property
    def block_force(self) -> float:
        return float(self._curve[1][-1])

    @property
    def span(self) -> tuple[float, float]:
        """The lengths, mm, between which it works: free, and at solid length."""
        return self.free_length, self.solid_length

    @property
    def bounds(self) -> Bounds:
        """Of each the one that binds first."""
        each, free = [one.bounds for one in self.alone], self.free_length
        least = max(one.solid_length + one.least_gaps for one in self.alone)
        buckles = [free - one.free_length + one.buckling for one in self.alone if one.buckling is not None]
        frequencies = [one.frequency for one in each if one.frequency is not None]
        return Bounds(
            free, self.solid_length, least, min(buckles, default=None), min(frequencies, default=None)
        )

    def forces(self, length: float) -> tuple[float, ...]:
        """What each spring bears at a length, mm; N."""
        return tuple(one.force_at(max(one.free_length - length, 0.0)) for one in self.alone)

    @cached_property
    def _curve(self) -> tuple[Array, Array]:
        """Deflection and force wherever a turn of any spring closes, or a spring is met."""
        late = [self.free_length - one.free_length for one in self.alone]
        own = [one.model.steps for one in self.alone]
        at = np.unique(
            np.concatenate([deflection + by for (deflection, _), by in zip(own, late, strict=True)])
        )
        at = np.append(
            np.append(0.0, at[(at > 0) & (at < self.deflection_to_block)]), self.deflection_to_block
        )
        force = [np.interp(at - by, *curve) for curve, by in zip(own, late, strict=True)]
        return at, np.sum(force, axis=0)

    def curve(self, count: int = 61) -> tuple[Array, Array]:
        """Deflection (mm) and force (N), each (count,), from free to solid length."""
        picked = np.linspace(0.0, self.deflection_to_block, count)
        return picked, np.interp(picked, *self._curve)

    @cached_property
    def rate(self) -> float:
        """Secant from 30 to 70 % of the deflection to solid length, N/mm."""
        low, high = (share * self.deflection_to_block for share in (0.3, 0.7))
        return float(np.diff(np.interp([low, high], *self._curve))[0]) / (high - low)

    def at_length(self, length: float) -> Working:
        """The nest at a length, mm; its stress is that of the spring that uses the most of what it is
        allowed."""
        each = [one.at_length(min(length, one.free_length)) for one in self.alone]
        most = max(each, key=lambda one: one.utilisation)
        return Working(
            length,
            sum(one.force for one in each),
            self.free_length - length,
            most.stress,
            most.corrected,
            most.utilisation,
            sum(one.energy for one in each),
        )

    def at_force(self, force: float) -> Working:
        """The nest under a force, N, up to solid length."""
        deflection, forces = self._curve
        return self.at_length(self.free_length - float(np.interp(force, forces, deflection)))

    def force_at_stress(self, share: float) -> float | None:
        """The force, N, at which the first spring has a share of its strength as plain stress, or None where
        the solid length comes first."""
        lengths = [
            one.free_length - one.deflection_at(force)
            for one in self.alone
            if (force := one.force_at_stress(share)) is not None
        ]
        first = max(lengths, default=0.0)
        return sum(self.forces(first)) if first > self.solid_length else None

    def stress_along(self, effort: float, share: Array) -> Array:
        """Corrected stress, MPa (n,), of the outer spring at shares of its turns, under a force on all."""
        return self.alone[0].stress_along(self.forces(self.at_force(effort).length)[0], share)

    def path_to(self, place: float) -> Path:
        """The centre line of the outer spring at a length, mm, held to the span."""
        return self.paths_to(place)[0]

    def paths_to(self, place: float) -> tuple[Path, ...]:
        """The centre line of each spring at a length, mm, held to the span."""
        return tuple(one.path_to(max(place, self.solid_length)) for one in self.alone)
