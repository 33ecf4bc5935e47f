"""Force over deflection of a compression spring, with the torsion along its wire: the standard's straight
line, and the curve of the spring as it is drawn."""

from __future__ import annotations

from abc import ABC, abstractmethod
from dataclasses import dataclass

import numpy as np

from metaspira.numbers.jets import Array
from metaspira.numbers.once import cached_property
from metaspira.springs.closing import Closing
from metaspira.springs.contact import PressedCoil

_SHARES = np.array([0.0, 0.05, 0.1, 0.2, 0.3, 0.4, 0.5, 0.6, 0.7, 0.8, 0.9, 0.95, 0.99])


class Characteristic(ABC):
    """From free to solid length."""

    @property
    @abstractmethod
    def steps(self) -> tuple[Array, Array]:
        """Deflection (mm) and force (N), each (m,), between which it is straight."""

    @property
    @abstractmethod
    def active(self) -> float:
        """Turns that take part."""

    @abstractmethod
    def torsion(self, force: float) -> Array:
        """Plain shear stress, MPa (n,), of the elements of wire under a force, N."""

    @abstractmethod
    def force_at_stress(self, stress: float) -> float | None:
        """The force, N, at which the greatest plain stress is so many MPa, None where it is solid first."""

    @property
    def block(self) -> float:
        """Deflection to solid length, mm."""
        return float(self.steps[0][-1])

    @property
    def block_force(self) -> float:
        """N"""
        return float(self.steps[1][-1])

    @cached_property
    def rate(self) -> float:
        """Secant from 30 to 70 % of the deflection to solid length, N/mm (EN 13906-1)."""
        low, high = (share * self.block for share in (0.3, 0.7))
        return (self.force_at(high) - self.force_at(low)) / (high - low)

    def force_at(self, deflection: float) -> float:
        """N at a deflection, mm, up to solid length."""
        return float(np.interp(deflection, *self.steps))

    def deflection_at(self, force: float) -> float:
        """mm under a force, N, up to solid length."""
        deflection, forces = self.steps
        return float(np.interp(force, forces, deflection))

    def energy(self, deflection: float) -> float:
        """What is stored at a deflection, mm; N mm."""
        deflections, forces = self.steps
        inside = np.append(deflections[deflections < deflection], deflection)
        return float(np.trapezoid(np.interp(inside, deflections, forces), inside))


@dataclass(frozen=True, eq=False)
class StraightLine(Characteristic):
    """A rate (N/mm) up to a deflection at solid length (mm), over so many active turns; `unit` is the stress
    of the elements under 1 N, MPa (n,)."""

    slope: float
    to_block: float
    turns: float
    unit: Array

    @cached_property
    def steps(self) -> tuple[Array, Array]:
        ends = np.array([0.0, self.to_block])
        return ends, self.slope * ends

    @property
    def active(self) -> float:
        return self.turns

    @property
    def rate(self) -> float:
        return self.slope

    def torsion(self, force: float) -> Array:
        return force * self.unit

    def force_at_stress(self, stress: float) -> float | None:
        force = stress / float(self.unit.max())
        return force if force <= self.block_force else None


@dataclass(frozen=True, eq=False)
class TurnByTurn(Characteristic):
    """Turns that close each by its own room, for springs of so many that their ends count for nothing; `soft`
    is the effort that 1 N is, `unit` the plain stress of an element under 1 N, MPa (n,)."""

    closing: Closing
    soft: float
    unit: Array

    @cached_property
    def steps(self) -> tuple[Array, Array]:
        deflection, effort = self.closing.steps
        return deflection, effort / self.soft

    @property
    def active(self) -> float:
        return self.closing.turns.active

    def torsion(self, force: float) -> Array:
        return self.closing.efforts(force * self.soft) / self.soft * self.unit

    def force_at_stress(self, stress: float) -> float | None:
        needed = stress / self.unit
        reached = self.closing.efforts(np.inf) / self.soft >= needed
        return float(needed[reached].min()) if reached.any() else None


@dataclass(frozen=True, eq=False)
class AsDrawn(Characteristic):
    """A coil pressed between plates, by contact of its turns, up to the sum of its gaps, mm. The last
    hundredth goes on straight: there the turns' own unevenness is all that is left."""

    coil: PressedCoil
    gaps: float

    @cached_property
    def _pressed(self) -> tuple[Array, Array]:
        """Forces (m,), N, and torsion (m, n), MPa, at the shares of the way to solid length."""
        forces, torsion = [], []
        moved = None
        for share in _SHARES:
            force, along, moved = self.coil.pressed(share * self.gaps, moved)
            forces.append(force)
            torsion.append(np.interp(self.coil.turns.share, self.coil.sides, along))
        last = (1 - _SHARES[-1]) / (_SHARES[-1] - _SHARES[-2])
        for each in (forces, torsion):
            each.append(each[-1] + last * (each[-1] - each[-2]))
        forces[0], torsion[0] = 0.0, 0.0 * torsion[0]
        return np.maximum.accumulate(forces), np.array(torsion)

    @cached_property
    def steps(self) -> tuple[Array, Array]:
        return np.append(_SHARES, 1.0) * self.gaps, self._pressed[0]

    @property
    def active(self) -> float:
        return self.coil.turns.active

    def torsion(self, force: float) -> Array:
        forces, torsion = self._pressed
        k = int(np.clip(np.searchsorted(forces, force), 1, len(forces) - 1))
        share = min(max((force - forces[k - 1]) / max(forces[k] - forces[k - 1], 1e-12), 0.0), 1.0)
        return torsion[k - 1] + share * (torsion[k] - torsion[k - 1])

    def force_at_stress(self, stress: float) -> float | None:
        forces, torsion = self._pressed
        beyond = np.flatnonzero(torsion.max(axis=1) >= stress)
        if not len(beyond):
            return None
        k = int(beyond[0])
        low, high = torsion[k - 1], torsion[k]
        with np.errstate(divide="ignore", invalid="ignore"):
            share = np.where(high >= stress, (stress - low) / (high - low), np.inf).min()
        return float(forces[k - 1] + share * (forces[k] - forces[k - 1]))

    def exact_force(self, deflection: float) -> float:
        """N at a deflection, mm, up to solid length, without the whole curve."""
        if deflection <= 0:
            return 0.0
        if deflection > _SHARES[-1] * self.gaps:
            return self.force_at(deflection)
        return self.coil.pressed(deflection)[0]
