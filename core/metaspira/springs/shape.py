"""The shape of spring wire, as the sums need it: what it is as straight wire, and what winding does to it.

Round wire goes by its formulas, by the spring index w = D / d (EN 13906-1 and -3):

    k = (w + 0.5) / (w − 0.75) of the shear,   q = (w + 0.07) / (w − 0.75) of the bending stress

Wire of any other section goes by Saint-Venant's torsion while it is straight, and by the exact elasticity of
its turns once it is wound (`elasticity`); a strip that is bent goes by q = (3w² − w − 0.8) / (3w (w − 1))
(Shigley, Mechanical Engineering Design, section 10-12; not checked against the printed book).

Hooks of round wire go by the same book (section 10-11, from memory), of loops and bends of radii r₁ and r₂:

    bending  K_A = (4C₁² − C₁ − 1) / (4C₁ (C₁ − 1)),  C₁ = 2r₁ / d
    torsion  K_B = (4C₂ − 1) / (4C₂ − 4),             C₂ = 2r₂ / d

and of any other section by the exact elasticity of a ring as narrow as the loop, and of one as narrow as the
bend, about which the section stands on its side.
"""

from __future__ import annotations

import math
from abc import ABC, abstractmethod
from dataclasses import dataclass
from typing import TYPE_CHECKING

import numpy as np

from metaspira.numbers.jets import Array
from metaspira.numbers.once import cached_property
from metaspira.sections.outline import Outline, ellipse

if TYPE_CHECKING:
    from metaspira.springs.elasticity import Turn


_NARROWEST, _FLAT = 1.01, 0.01
_ON_ITS_SIDE = np.array([[0.0, -1.0], [1.0, 0.0]])


class Wound(ABC):
    """What winding does to wire: factors on what it is as straight wire, each (n,) by the radius of its
    turns, mm (n,)."""

    def stiffer(self, radius: Array) -> Array:
        """Of its stiffness in torsion."""
        return np.ones_like(radius)

    @abstractmethod
    def sheared(self, radius: Array) -> Array:
        """Of its greatest shear stress in torsion."""

    def stiffer_bent(self, radius: Array) -> Array:
        """Of its stiffness, bent in the plane of its turns."""
        return np.ones_like(radius)

    @abstractmethod
    def bent(self, radius: Array) -> Array:
        """Of its greatest stress, bent in the plane of its turns."""


class WireShape(ABC):
    """Straight wire."""

    round = False

    @property
    @abstractmethod
    def section(self) -> Outline:
        """Its section around its own centre, u away from the axis and v along it, mm."""

    @property
    @abstractmethod
    def width(self) -> float:
        """Away from the axis, mm."""

    @property
    @abstractmethod
    def height(self) -> float:
        """Along the axis, mm."""

    @property
    @abstractmethod
    def area(self) -> float:
        """mm²"""

    @property
    def equal(self) -> float:
        """Diameter of the round wire of the same area, mm: the strength of the wire goes by it."""
        return math.sqrt(4 * self.area / math.pi)

    @property
    @abstractmethod
    def stiffness(self) -> float:
        """J, mm⁴: torque over shear modulus and twist."""

    @property
    @abstractmethod
    def modulus(self) -> float:
        """W, mm³: torque over its greatest shear stress."""

    @property
    @abstractmethod
    def inertia(self) -> tuple[float, float]:
        """I, mm⁴: bent away from the axis, in the plane of its turns, and along it."""

    @property
    @abstractmethod
    def bending(self) -> float:
        """W, mm³: moment in the plane of its turns over its greatest stress."""

    @abstractmethod
    def wound(self, radii: Array, pitches: Array) -> Wound:
        """Wound into turns of radii and pitches, mm (n,)."""

    @abstractmethod
    def hooked(self, loop: Array, bend: Array) -> tuple[Array, Array]:
        """Factors (n,) on the greatest stress of a straight bar: bent in hooks' loops and twisted in the
        bends before them, of radii, mm (n,)."""


def round_hooked(loop: Array, bend: Array) -> tuple[Array, Array]:
    """K_A and K_B (n,) of round wire, by twice the radii of loop and bend over the wire (n,)."""
    c1, c2 = np.maximum(loop, _NARROWEST), np.maximum(bend, _NARROWEST)
    return (4 * c1**2 - c1 - 1) / (4 * c1 * (c1 - 1)), (4 * c2 - 1) / (4 * c2 - 4)


def round_sheared(index: Array) -> Array:
    """k (n,) of round wire, by the spring index (n,)."""
    return (index + 0.5) / (index - 0.75)


def round_bent(index: Array) -> Array:
    """q (n,) of round wire, by the spring index (n,)."""
    return (index + 0.07) / (index - 0.75)


@dataclass(frozen=True)
class _RoundWound(Wound):
    diameter: float

    def sheared(self, radius: Array) -> Array:
        return round_sheared(2 * radius / self.diameter)

    def bent(self, radius: Array) -> Array:
        return round_bent(2 * radius / self.diameter)


@dataclass(frozen=True)
class RoundWire(WireShape):
    """Of a diameter, mm."""

    diameter: float

    round = True

    @cached_property
    def section(self) -> Outline:
        return ellipse(self.diameter, self.diameter)

    @property
    def width(self) -> float:
        return self.diameter

    @property
    def height(self) -> float:
        return self.diameter

    @property
    def area(self) -> float:
        return math.pi / 4 * self.diameter**2

    @property
    def equal(self) -> float:
        return self.diameter

    @property
    def stiffness(self) -> float:
        return math.pi / 32 * self.diameter**4

    @property
    def modulus(self) -> float:
        return math.pi / 16 * self.diameter**3

    @property
    def inertia(self) -> tuple[float, float]:
        return (math.pi / 64 * self.diameter**4,) * 2

    @property
    def bending(self) -> float:
        return math.pi / 32 * self.diameter**3

    def wound(self, radii: Array, pitches: Array) -> Wound:
        return _RoundWound(self.diameter)

    def hooked(self, loop: Array, bend: Array) -> tuple[Array, Array]:
        return round_hooked(2 * loop / self.diameter, 2 * bend / self.diameter)


@dataclass(frozen=True, eq=False)
class SectionWire(WireShape):
    """Of a closed `outline` around its own centre, u away from the axis and v along it; moduli E and G, MPa.
    Its figures raise RecipeError where the section cannot be solved."""

    outline: Outline
    E: float
    G: float

    @property
    def section(self) -> Outline:
        return self.outline

    @property
    def width(self) -> float:
        low, high, _, _ = self.section.box
        return high - low

    @property
    def height(self) -> float:
        _, _, low, high = self.section.box
        return high - low

    @property
    def area(self) -> float:
        return self.section.area

    @cached_property
    def _bar(self) -> tuple[float, float, tuple[float, float]]:
        from metaspira.springs.elasticity import bar_of

        return bar_of(self.section)

    @property
    def stiffness(self) -> float:
        return self._bar[0]

    @property
    def modulus(self) -> float:
        return self._bar[1]

    @property
    def inertia(self) -> tuple[float, float]:
        return self._bar[2]

    @property
    def bending(self) -> float:
        low, high, _, _ = self.section.box
        return self.inertia[0] / max(high, -low)

    def wound(self, radii: Array, pitches: Array) -> Wound:
        return _SectionWound(self, radii, pitches)

    def hooked(self, loop: Array, bend: Array) -> tuple[Array, Array]:
        bent = [float(np.abs(self._ring(self.section, r).bending).max()) for r in loop]
        aside = self.section.mapped(_ON_ITS_SIDE)
        twisted = [float(turn.shear.max()) / turn.radius for turn in (self._ring(aside, r) for r in bend)]
        return np.array(bent) * self.bending, np.array(twisted) * self.modulus

    def _ring(self, section: Outline, radius: float) -> Turn:
        """A turn that is all but flat, no narrower than its section lets it be."""
        from metaspira.springs.elasticity import turns_at

        least = _NARROWEST * -section.box[0]
        r = np.array([max(float(radius), least)])
        return turns_at(section, r, _FLAT * r, self.E, self.G)[0]


@dataclass(frozen=True, eq=False)
class _SectionWound(Wound):
    """By the turns that are solved, and between them by the radius."""

    shape: SectionWire
    radii: Array
    pitches: Array

    @cached_property
    def _solved(self) -> tuple[Array, Array]:
        """Radii (m,), and the factors (4, m)."""
        from metaspira.springs.elasticity import turns_at

        shape = self.shape
        turns = turns_at(shape.section, self.radii, self.pitches, shape.E, shape.G)
        radius = np.array([turn.radius for turn in turns])
        rate, shear, winding, bending = np.array(
            [(turn.rate[0], turn.shear.max(), turn.winding, np.abs(turn.bending).max()) for turn in turns]
        ).T
        factors = (
            rate * 2 * math.pi * radius**3 / (shape.G * shape.stiffness),
            shear * shape.modulus / radius,
            winding * 2 * math.pi * radius / (shape.E * shape.inertia[0]),
            bending * shape.bending,
        )
        return radius, np.array(factors)

    def _at(self, which: int, radius: Array) -> Array:
        solved, factors = self._solved
        return np.interp(radius, solved, factors[which])

    def stiffer(self, radius: Array) -> Array:
        return self._at(0, radius)

    def sheared(self, radius: Array) -> Array:
        return self._at(1, radius)

    def stiffer_bent(self, radius: Array) -> Array:
        return self._at(2, radius)

    def bent(self, radius: Array) -> Array:
        return self._at(3, radius)


class Strip(SectionWire):
    """Rectangular wire or strip of a spring that turns: bent, it goes by its formula."""

    def wound(self, radii: Array, pitches: Array) -> Wound:
        return _StripWound(self, radii, pitches)


class _StripWound(_SectionWound):
    def stiffer_bent(self, radius: Array) -> Array:
        return np.ones_like(radius)

    def bent(self, radius: Array) -> Array:
        index = 2 * radius / self.shape.width
        return (3 * index**2 - index - 0.8) / (3 * index * (index - 1))
