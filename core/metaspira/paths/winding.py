"""Winding: a coil around another path, even in that path's own true length.

    X(s) = c(s) + r (cos φ N + sin φ B),   φ = φ₀ ± 2π · turns · s / L

with c the core path, s its true length and L its length, and N, B carried along it without roll, so that
each turn takes the same length of the core whatever its shape. |X'|² = (1 − r K·e)² + (r φ')².
"""

from __future__ import annotations

import math
from dataclasses import dataclass
from typing import TYPE_CHECKING, Any, Literal

import numpy as np
from pydantic import Field

from metaspira.numbers.fields import Angle, Length, Turns
from metaspira.numbers.jets import Array, Jet, sin_cos
from metaspira.numbers.kind import three_digits
from metaspira.numbers.once import cached_property
from metaspira.numbers.vectors import cross, dots
from metaspira.paths.base import NO_REACH, PathBase, Reach, turns_of, turns_or_pitch
from metaspira.paths.coil import Coil
from metaspira.paths.path import CurvePath, Path, Stations
from metaspira.paths.transport import Transport, square_to
from metaspira.problems import Fix, Problem, RecipeError

if TYPE_CHECKING:
    from metaspira.paths import PathKind

_TURN = 2 * math.pi


@dataclass(frozen=True, eq=False)
class WoundCurve:
    """The curve of the module's head; its parameter is the core's true length."""

    core: Path
    transport: Transport
    radius: float
    rate: float
    phase: float
    start: float = 0.0

    @property
    def end(self) -> float:
        return self.core.length

    @property
    def breaks(self) -> tuple[float, ...]:
        return self.core.breaks

    def derivatives(self, t: Array, order: int) -> tuple[Array, ...]:
        if order <= 2:
            return self._near(t)[: order + 1]
        core = self.core.derivatives(t, order + 1)
        centre = [Jet.of_derivatives([d[:, k] for d in core]) for k in range(3)]
        tangent = [c.derivative() for c in centre]
        normal, side = self.transport.jets(t, tangent, order)
        cosine, sine = self._turn(t, order)
        columns = [
            (centre[k] + (normal[k] * cosine + side[k] * sine) * self.radius).derivatives() for k in range(3)
        ]
        return tuple(np.stack([c[k] for c in columns], axis=1) for k in range(order + 1))

    def _near(self, t: Array) -> tuple[Array, Array, Array]:
        """X, X' and X″, with e away from the core and f = T × e:  e' = ω f − (K·e) T,
        f' = −ω e − (K·f) T,  X' = (1 − r K·e) T + r ω f."""
        centre, tangent, bend, jerk = self.core.derivatives(t, 3)
        away = self._outward(Stations(t, centre, tangent, bend))
        beside = cross(tangent, away)
        rate, r = self.rate + self.transport.roll, self.radius
        inward = np.einsum("ij,ij->i", bend, away)[:, None]
        sideways = np.einsum("ij,ij->i", bend, beside)[:, None]
        change = np.einsum("ij,ij->i", jerk, away)[:, None] + rate * sideways
        return (
            centre + r * away,
            (1 - r * inward) * tangent + r * rate * beside,
            (1 - r * inward) * bend - r * (change + rate * sideways) * tangent - r * rate**2 * away,
        )

    def speed(self, t: Array) -> Array:
        core = self.core.at(t)
        bend = np.einsum("ij,ij->i", core.curvature, self._outward(core))
        return np.hypot(1 - self.radius * bend, self.radius * (self.rate + self.transport.roll))

    def away(self, path: CurvePath, stations: Stations) -> tuple[Array, Array]:
        """Away from the core, with its derivative by the winding's own true length."""
        t = path.parameter(stations.s)
        direction, change = self._direction(self.core.at(t))
        return direction, change / self.speed(t)[:, None]

    def _turn(self, t: Array, order: int) -> tuple[Jet, Jet]:
        angle = Jet.variable(t, order) * (self.rate + self.transport.roll) + self.phase
        sine, cosine = sin_cos(angle)
        return cosine, sine

    def _direction(self, core: Stations) -> tuple[Array, Array]:
        """Away from the core at its stations (n, 3), and its derivative by the core's length:
        e' = ω f − (K·e) T."""
        away = self._outward(core)
        rate = self.rate + self.transport.roll
        return away, rate * cross(core.tangent, away) - dots(core.curvature, away) * core.tangent

    def _outward(self, core: Stations) -> Array:
        """Away from the core at its stations (n, 3)."""
        normal = self.transport.carried(core)
        angle = ((self.rate + self.transport.roll) * core.s + self.phase)[:, None]
        return np.cos(angle) * normal + np.sin(angle) * cross(core.tangent, normal)


@dataclass(frozen=True, eq=False)
class WoundPath(CurvePath):
    """A winding by its own true length; it turns by its angle around the core and as the core turns."""

    def turned(self, s: Array) -> Array:
        curve = self.curve
        assert isinstance(curve, WoundCurve)
        t = self.parameter(s)
        return abs(curve.rate) * t + curve.core.turned(t)

    @cached_property
    def core(self) -> Path:
        """The path that it winds around."""
        assert isinstance(self.curve, WoundCurve)
        return self.curve.core


def wound(core: Path, radius: float, turns: float, hand: int, phase: float = 0.0) -> WoundPath:
    """The winding of `turns` at `radius` mm around `core`, starting at `phase` radians."""
    start = core.at(np.zeros(1))
    away = core.away(start)
    first = square_to(start.tangent[0]) if away is None else away[0][0]
    first = first - (first @ start.tangent[0]) * start.tangent[0]
    transport = Transport(core, first / np.linalg.norm(first))
    curve = WoundCurve(core, transport, radius, hand * _TURN * turns / core.length, phase)
    closed = core.closed and abs(turns - round(turns)) < 1e-9
    return WoundPath(curve, None, turns, closed)


class Winding(PathBase, title="winding around a path"):
    """A coil around another path at `radius`, by its turns or by its pitch along that path."""

    listed = 5
    stance = "outward"
    kind: Literal["winding"] = "winding"
    around: PathKind
    radius: Length = Field(title="Radius around the core")
    turns: Turns | None = None
    pitch: Length | None = Field(default=None, description="along the core")
    hand: Literal["right", "left"] = Field(default="right", title="Winding hand")
    start_angle: Angle = 0.0
    core: Length | None = Field(
        default=None,
        title="Core wire",
        description="diameter of a round core along the other path, shown and built with the winding",
    )

    def runs_around(self, place: str) -> Path:
        return self.around.path(f"{place}/around", NO_REACH)

    @classmethod
    def usual(cls, size: float) -> dict[str, Any]:
        around = Coil.usual(2 * size) | {"turns": 2, "pitch": three_digits(1.5 * size)}
        return {"kind": "winding", "around": around, "radius": three_digits(size / 4), "turns": 40}

    def words(self, unit: str) -> str:
        around = self.around.sentence(unit)
        return f"winding, {turns_or_pitch(self.turns, self.pitch, unit)}, around: {around}"

    def curve(self, place: str, reach: Reach) -> Path:
        """The path of a resolved winding. Raises RecipeError with places below `place`."""
        core = self.around.path(f"{place}/around", NO_REACH)
        turns = turns_of(self.turns, self.pitch, core.length, place)
        s = core.stations_by_turning(48, 65)
        bend = np.linalg.norm(core.derivatives(s, 2)[2], axis=1)
        tightest = 1 / max(float(bend.max()), 1e-300)
        if self.radius >= tightest:
            at = float(s[int(np.argmax(bend))])
            raise RecipeError(
                Problem(
                    f"{place}/radius",
                    f"the core bends with a radius of {tightest:.6g} mm at {at:.6g} mm, tighter than the "
                    f"winding's {self.radius:.6g} mm, which would run backwards there",
                    f"use a radius below {tightest:.4g} mm, or a wider core path",
                    Fix(f"{place}/radius", f"{0.8 * tightest:.4g} mm"),
                )
            )
        return wound(core, self.radius, turns, 1 if self.hand == "right" else -1, self.start_angle)
