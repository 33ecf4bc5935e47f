"""The curves of coils around the z axis.

    r(θ) = r₀ + k θ,   x(θ) = (r cos(θ₀ ± θ), r sin(θ₀ ± θ), c θ),   0 ≤ θ ≤ 2π·turns

k = 0 is the cylinder, c = 0 the flat (Archimedean) spiral; + winds right-handed, − left-handed. Where the
diameter or the pitch varies, r and dz/dθ are functions of θ; a base outline that is not round stretches
the y direction, or replaces the circle by a rounded rectangle.
"""

from __future__ import annotations

import math
from collections.abc import Callable
from dataclasses import dataclass, field

import numpy as np

from metaspira.numbers.compiled import compiled
from metaspira.numbers.jets import Array, Jet, sin_cos
from metaspira.numbers.quadrature import RunningIntegral
from metaspira.paths.path import CurvePath, Stations, radial
from metaspira.schedules import Varying

_TURN = 2 * math.pi

Base = Callable[[Jet], tuple[Jet, Jet]]
"""A base outline: x and y for a radius of 1, from the angle."""


@dataclass(frozen=True)
class LinearCoil:
    """The curve of the module's head; parameter θ in radians."""

    start_radius: float
    widening: float
    climb: float
    hand: int
    start_angle: float
    end: float
    start: float = 0.0
    breaks: tuple[float, ...] = ()

    def derivatives(self, t: Array, order: int) -> tuple[Array, ...]:
        radii = self.start_radius, self.widening
        return tuple(_linear(t, order, *radii, self.climb, self.hand, self.start_angle))

    def speed(self, t: Array) -> Array:
        r = self.start_radius + self.widening * t
        return np.sqrt(r * r + self.widening**2 + self.climb**2)


@compiled("f8[::1]", "i8", "f8", "f8", "f8", "i8", "f8")
def _linear(t, order, radius, widening, climb, hand, start):  # type: ignore[no-untyped-def]
    """Derivatives (order + 1, n, 3): those of r e^{iφ} in the plane are (±i)ᵏ r e^{iφ} + k (±i)ᵏ⁻¹ r′
    e^{iφ}."""
    out = np.zeros((order + 1, len(t), 3))
    for i in range(len(t)):
        angle = start + hand * t[i]
        plane = complex(math.cos(angle), math.sin(angle))
        before = 0j
        for k in range(order + 1):
            here = (radius + widening * t[i]) * plane + k * widening * before
            out[k, i, 0], out[k, i, 1] = here.real, here.imag
            before, plane = plane, complex(-hand * plane.imag, hand * plane.real)
        out[0, i, 2] = climb * t[i]
        if order > 0:
            out[1, i, 2] = climb
    return out


@dataclass(frozen=True, eq=False)
class ShapedCoil:
    """A coil whose radius and pitch are any functions of the share of its turns; parameter θ.

    `base` gives the base outline's x and y for a radius of 1, as jets of the angle.
    """

    radius: Varying
    pitch: Varying
    hand: int
    start_angle: float
    end: float
    base: Base
    base_breaks: tuple[float, ...] = ()
    around: bool = True
    start: float = 0.0
    _rise: RunningIntegral = field(init=False)

    def __post_init__(self) -> None:
        rise = RunningIntegral(
            lambda t: self.pitch.value(t / self.end) / _TURN, 0.0, self.end, breaks=self._pitch_breaks
        )
        object.__setattr__(self, "_rise", rise)

    @property
    def _pitch_breaks(self) -> tuple[float, ...]:
        return tuple(b * self.end for b in self.pitch.breaks)

    @property
    def breaks(self) -> tuple[float, ...]:
        own = [b * self.end for b in self.radius.breaks] + list(self._pitch_breaks)
        return tuple(sorted({*own, *self.base_breaks}))

    def derivatives(self, t: Array, order: int) -> tuple[Array, ...]:
        theta = Jet.variable(t, order)
        radius = self.radius.over(t, self.end, order)
        climb = [c / _TURN for c in self.pitch.over(t, self.end, order).c]
        height = Jet(climb[:order]).integral(self._rise(t)) if order else Jet([self._rise(t)])
        u, v = self.base(theta * self.hand + self.start_angle)
        x, y = radius * u, radius * v
        columns = zip(x.derivatives(), y.derivatives(), height.derivatives(), strict=True)
        return tuple(np.stack(column, axis=1) for column in columns)

    def speed(self, t: Array) -> Array:
        return np.linalg.norm(self.derivatives(t, 1)[1], axis=1)

    def away(self, path: CurvePath, stations: Stations) -> tuple[Array, Array]:
        """Away from the axis on a round base; square to the outline on any other."""
        if self.around:
            return radial(stations)
        level = np.stack([stations.tangent[:, 1], -stations.tangent[:, 0], 0 * stations.s], axis=1)
        bend = np.stack([stations.curvature[:, 1], -stations.curvature[:, 0], 0 * stations.s], axis=1)
        size = np.maximum(np.linalg.norm(level, axis=1, keepdims=True), 1e-300)
        unit = self.hand * level / size
        change = self.hand * bend / size
        return unit, change - np.einsum("ij,ij->i", change, unit)[:, None] * unit


def circle(angle: Jet) -> tuple[Jet, Jet]:
    sine, cosine = sin_cos(angle)
    return cosine, sine
