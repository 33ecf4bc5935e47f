"""Wrap: a coil that lies on a turned body.

Along the body's outline (r(σ), z(σ)), σ its true length,

    X(σ) = (r cos θ, r sin θ, z),   θ = θ₀ ± 2π σ / pitch   or   θ₀ ± 2π |z − z₀| / pitch

for a pitch that is even along the outline, or along the axis.
"""

from __future__ import annotations

import math
from dataclasses import dataclass
from typing import Annotated, Any, Literal

import numpy as np
from pydantic import Field

from metaspira.numbers.fields import Angle, Distance, Length, Offset, Turns
from metaspira.numbers.jets import Array, Jet, sin_cos
from metaspira.numbers.kind import Words, three_digits
from metaspira.numbers.once import cached_property
from metaspira.paths.base import PathBase, Reach, turns_of, turns_or_pitch
from metaspira.paths.path import CoilFacts, CurvePath, Path
from metaspira.paths.turned import OffsetCurve, OutlineEase, Profile, TurnedSurface, outline_path
from metaspira.problems import Fix, Problem, RecipeError

_TURN = 2 * math.pi


@dataclass(frozen=True, eq=False)
class WrapCurve:
    """The curve of the module's head; its parameter is the outline's true length σ."""

    outline: Path
    rate: float
    phase: float
    by_axis: bool
    start: float = 0.0

    @property
    def end(self) -> float:
        return self.outline.length

    @property
    def breaks(self) -> tuple[float, ...]:
        return self.outline.breaks

    def derivatives(self, t: Array, order: int) -> tuple[Array, ...]:
        given = self.outline.derivatives(t, order)
        r, z = (Jet.of_derivatives([d[:, k] for d in given]) for k in (0, 2))
        along = z - self._start_height if self.by_axis else Jet.variable(t, order)
        sine, cosine = sin_cos(along * self.rate + self.phase)
        columns = zip((r * cosine).derivatives(), (r * sine).derivatives(), z.derivatives(), strict=True)
        return tuple(np.stack(column, axis=1) for column in columns)

    def speed(self, t: Array) -> Array:
        return np.linalg.norm(self.derivatives(t, 1)[1], axis=1)

    @cached_property
    def _start_height(self) -> float:
        return float(self.outline.derivatives(np.zeros(1), 0)[0][0, 2])

    def angle(self, t: Array) -> Array:
        """θ − θ₀ at σ (n,), without its sign."""
        along = (
            t if not self.by_axis else np.abs(self.outline.derivatives(t, 0)[0][:, 2] - self._start_height)
        )
        return abs(self.rate) * along


@dataclass(frozen=True, eq=False)
class WrapPath(CurvePath):
    """A wrap by its own true length; `seat` is the surface that it lies on."""

    seat: TurnedSurface | None = None

    def turned(self, s: Array) -> Array:
        curve = self.curve
        assert isinstance(curve, WrapCurve)
        t = self.parameter(s)
        return curve.angle(t) + curve.outline.turned(t)


class Wrap(PathBase, title="wrap on a turned body"):
    """A coil on a turned body, by its `profile`, and by turns or by a pitch that is even `along` the
    outline or the axis. `offset` moves the path off the surface; left out, the section lies on it."""

    listed = 6
    stance = "seated"
    kind: Literal["wrap"] = "wrap"
    profile: Profile
    ease: OutlineEase = Field(default="straight", title="Outline of the body")
    corner_radius: Distance = 0.0
    turns: Turns | None = None
    pitch: Length | None = None
    along: Annotated[Literal["profile", "axis"], Words({"profile": "the outline", "axis": "the axis"})] = (
        Field(default="profile", title="Even along")
    )
    offset: Offset | None = Field(
        default=None, title="Off the surface", description="left out, the section lies on the body"
    )
    hand: Literal["right", "left"] = "right"
    start_angle: Angle = 0.0

    def lies_on(self, place: str) -> Path:
        return outline_path(self.profile, self.ease, self.corner_radius, f"{place}/profile")

    @classmethod
    def usual(cls, size: float) -> dict[str, Any]:
        profile = ((0.3, 0), (0.5, 0.6), (0.5, 1.2), (0.35, 1.6))
        return {
            "kind": "wrap",
            "profile": [[three_digits(c * size) for c in point] for point in profile],
            "corner_radius": three_digits(0.2 * size),
            "pitch": three_digits(0.3 * size),
        }

    def words(self, unit: str) -> str:
        return f"wrap on a turned body, {turns_or_pitch(self.turns, self.pitch, unit)}"

    def curve(self, place: str, reach: Reach) -> Path:
        """The path of a resolved wrap. Raises RecipeError with places below `place`."""
        bare = outline_path(self.profile, self.ease, self.corner_radius, f"{place}/profile")
        body = TurnedSurface(bare, 0.0)
        offset = self.offset if self.offset is not None else -min(inward for inward, _, _ in reach)
        outline: Path = bare
        if offset != 0:
            outline = CurvePath(OffsetCurve(bare, offset * body.outward_sign))
        s = outline.stations_by_turning(96, 257)
        radius, height = (outline.derivatives(s, 0)[0][:, k] for k in (0, 2))
        if self.along == "axis" and np.any(np.diff(height) * np.sign(height[-1] - height[0]) < -1e-9):
            raise RecipeError(
                Problem(
                    f"{place}/along",
                    "the outline goes up and down again, so its height does not tell the turns",
                    "use “profile”",
                    Fix(f"{place}/along", "profile"),
                )
            )
        if offset != 0:
            self._demand_room(bare, offset * body.outward_sign, place)
        total = abs(float(height[-1] - height[0])) if self.along == "axis" else outline.length
        turns = turns_of(self.turns, self.pitch, total, place)
        hand = 1 if self.hand == "right" else -1
        signed = total if self.along == "profile" else float(height[-1] - height[0])
        spin = hand if height[-1] >= height[0] else -hand
        curve = WrapCurve(
            outline,
            spin * _TURN * turns / abs(signed) * np.sign(signed),
            self.start_angle,
            self.along == "axis",
        )
        rise = float(height[-1] - height[0])
        facts = CoilFacts(hand, turns, rise / turns, rise, float(radius[0]), float(radius[-1]))
        return WrapPath(curve, facts, turns if self.along == "profile" else None, seat=body)

    def _demand_room(self, bare: Path, offset: float, place: str) -> None:
        s = bare.stations_by_turning(96, 257)
        _, tangent, bend = bare.derivatives(s, 2)
        left = np.stack([-tangent[:, 2], 0 * s, tangent[:, 0]], axis=1)
        stretch = 1 - offset * np.einsum("ij,ij->i", bend, left)
        if np.any(stretch <= 0):
            at = float(s[int(np.argmin(stretch))])
            raise RecipeError(
                Problem(
                    f"{place}/profile",
                    f"the outline is hollow at {at:.4g} mm along it, tighter than the {abs(offset):.4g} mm "
                    "that the path keeps from it",
                    "use a larger corner_radius, or a smaller section",
                )
            )
