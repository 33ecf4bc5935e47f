"""The legs that a wire goes on in beyond its path: straight on, bends, hooks."""

from __future__ import annotations

import math
from collections.abc import Callable
from dataclasses import dataclass, replace
from typing import Annotated, ClassVar, Literal

import numpy as np
from pydantic import Field

from metaspira.numbers.fields import Angle, Distance, Length, Quantity
from metaspira.numbers.jets import Array
from metaspira.numbers.kind import Kind, Usual, Words, choice_words
from metaspira.paths.path import CurvePath, Path
from metaspira.paths.transport import square_to
from metaspira.problems import Problem, RecipeError

_SIDES = {"outward": 0.0, "up": 90.0, "inward": 180.0, "down": 270.0}


@dataclass(frozen=True, eq=False)
class Heading:
    """Where a leg goes on: its point, its tangent, and the directions outward and up there, (3,) each."""

    point: Array
    tangent: Array
    out: Array
    up: Array


class LegBase(Kind):
    """What all legs share. `word` is what the trade calls one."""

    word: ClassVar[str]

    def sizes(self, length: Callable[[float], str]) -> str:
        """What it is with its sizes, lengths (mm) as they are told."""
        raise NotImplementedError

    def steps(self, path: Path, at_end: bool, place: str) -> tuple[StraightLeg | ArcLeg, ...]:
        """The straight pieces and bends that it is made of. Raises RecipeError below `place`."""
        raise NotImplementedError

    @property
    def bend_radii(self) -> tuple[float, ...]:
        """The radii of the bends that it is made of, mm."""
        return ()

    def hook(self, coil_radius: float) -> tuple[float, float] | None:
        """The radii of its loop and of the bend to it, mm, where it is a hook."""


class StraightLeg(LegBase, title="straight"):
    """Straight on."""

    kind: Literal["straight"] = "straight"
    length: Annotated[Length, Usual(2)]
    word: ClassVar[str] = "straight"

    def sizes(self, length: Callable[[float], str]) -> str:
        return f"straight {length(self.length)}"

    def steps(self, path: Path, at_end: bool, place: str) -> tuple[StraightLeg | ArcLeg, ...]:
        return (self,)

    def laid(self, here: Heading, backward: bool) -> tuple[Path, Heading]:
        """Its piece of path from a heading, run `backward` or not, and the heading behind it."""
        ray = RayCurve(here.point, here.tangent, self.length, backward)
        return CurvePath(ray, even=True), replace(here, point=here.point + self.length * here.tangent)


class ArcLeg(LegBase, title="arc"):
    """A bend of `radius` through `angle`, towards `side`: a word, or an angle from outward to up."""

    kind: Literal["arc"] = "arc"
    radius: Annotated[Length, Usual(1)]
    angle: Annotated[float, Quantity("angle", 1e-6, 4 * math.pi), Usual(90)]
    side: (
        Annotated[
            Literal["outward", "inward", "up", "down"],
            Words({"up": "up the axis", "down": "down the axis"}),
        ]
        | Angle
    ) = Field(default="outward", title="Bends", description="of the axis, or an angle from outward to up")
    word: ClassVar[str] = "bend"

    def sizes(self, length: Callable[[float], str]) -> str:
        return f"bend of R {length(self.radius)} through {math.degrees(self.angle):.5g}°"

    def steps(self, path: Path, at_end: bool, place: str) -> tuple[StraightLeg | ArcLeg, ...]:
        return (self,)

    def laid(self, here: Heading, backward: bool) -> tuple[Path, Heading]:
        """As of a straight leg."""
        angle = math.radians(_SIDES[self.side]) if isinstance(self.side, str) else self.side
        side = math.cos(angle) * here.out + math.sin(angle) * here.up
        cos, sin = math.cos(self.angle), math.sin(self.angle)

        def turned(axis: Array) -> Array:
            return axis + (axis @ side) * ((cos - 1) * side - sin * here.tangent)

        point = here.point + self.radius * (sin * here.tangent + (1 - cos) * side)
        behind = Heading(point, cos * here.tangent + sin * side, turned(here.out), turned(here.up))
        return CurvePath(ArcCurve(here.point, here.tangent, side, self.radius, self.angle, backward)), behind

    @property
    def bend_radii(self) -> tuple[float, ...]:
        return (self.radius,)


class HookLeg(LegBase, title="hook"):
    """A hook: a bend of `bend_radius` away from the coil, `reach` straight on, and a loop.

    `half-loop` and `full-loop` turn over the axis through 180° and 300°, `side-loop` turns through 300°
    at the side of the coil. Left out, the loop's radius is that of the coil, and the reach is nothing
    before a half loop, and the loop's radius before a longer one, which keeps it off the coil.
    """

    kind: Literal["hook"] = "hook"
    form: Annotated[
        Literal["full-loop", "half-loop", "side-loop"],
        Words(
            {
                "full-loop": "full loop over the axis",
                "half-loop": "half loop over the axis",
                "side-loop": "full loop at the side",
            }
        ),
    ] = "full-loop"
    bend_radius: Annotated[Length, Usual(1)] = Field(title="Bend")
    reach: Distance | None = None
    radius: Length | None = Field(default=None, title="Loop", description="the coil’s where left out")
    word: ClassVar[str] = "hook"

    def sizes(self, length: Callable[[float], str]) -> str:
        form = choice_words(HookLeg, "form", self.form)
        loop = "" if self.radius is None else f", loop R {length(self.radius)}"
        return f"{form}, bend R {length(self.bend_radius)}{loop}"

    def hook(self, coil_radius: float) -> tuple[float, float]:
        return coil_radius if self.radius is None else self.radius, self.bend_radius

    def steps(self, path: Path, at_end: bool, place: str) -> tuple[StraightLeg | ArcLeg, ...]:
        radius = self.radius
        if radius is None:
            if path.coil is None:
                raise RecipeError(
                    Problem(f"{place}/radius", "only a coil tells the radius of its hook", "give the radius")
                )
            radius = path.coil.end_radius if at_end else path.coil.start_radius
        stations = path.at(np.array([path.length if at_end else 0.0]))
        climb = float(stations.tangent[0][2])
        rise = math.pi / 2 - math.asin(min(1.0, max(-1.0, climb)))
        away = "up" if at_end else "down"
        bend = ArcLeg.model_construct(kind="arc", radius=self.bend_radius, angle=rise, side=away)
        reach = self.reach if self.reach is not None else 0.0 if self.form == "half-loop" else radius
        straight = [StraightLeg.model_construct(kind="straight", length=reach)] if reach > 0 else []
        turn = math.pi if self.form == "half-loop" else math.radians(300)
        side = "inward" if self.form != "side-loop" else "down" if at_end else "up"
        loop = ArcLeg.model_construct(kind="arc", radius=radius, angle=turn, side=side)
        return (bend, *straight, loop)


Leg = Annotated[StraightLeg | ArcLeg | HookLeg, Field(discriminator="kind")]


class Legs(Kind):
    """What the wire does beyond the path, each list from the path outward."""

    start: tuple[Leg, ...] = Field(default=(), max_length=20)
    end: tuple[Leg, ...] = Field(default=(), max_length=20)


@dataclass(frozen=True, eq=False)
class ArcCurve:
    """x(t) = p + R (sin t T + (1 − cos t) D), t from 0 to the angle; `backward` runs it from its end."""

    origin: Array
    tangent: Array
    side: Array
    radius: float
    end: float
    backward: bool = False
    start: float = 0.0
    breaks: tuple[float, ...] = ()

    def derivatives(self, t: Array, order: int) -> tuple[Array, ...]:
        sign = -1.0 if self.backward else 1.0
        angle = (self.end - t if self.backward else t)[:, None]
        out = []
        for k in range(order + 1):
            quarter = k * math.pi / 2
            turn = np.sin(angle + quarter) * self.tangent - np.cos(angle + quarter) * self.side
            out.append(sign**k * self.radius * turn)
        out[0] = out[0] + self.origin + self.radius * self.side
        return tuple(out)

    def speed(self, t: Array) -> Array:
        return np.full_like(t, self.radius)


@dataclass(frozen=True, eq=False)
class RayCurve:
    """x(t) = p + t T over a length; `backward` runs it from its end."""

    origin: Array
    tangent: Array
    end: float
    backward: bool = False
    start: float = 0.0
    breaks: tuple[float, ...] = ()

    def derivatives(self, t: Array, order: int) -> tuple[Array, ...]:
        along = (self.end - t if self.backward else t)[:, None]
        direction = np.broadcast_to(-self.tangent if self.backward else self.tangent, (len(t), 3))
        zero = np.zeros((len(t), 3))
        return (self.origin + along * self.tangent, direction, *([zero] * (order - 1)))[: order + 1]

    def speed(self, t: Array) -> Array:
        return np.ones_like(t)


def leg_paths(path: Path, form: Path, legs: tuple[Leg, ...], at_end: bool, place: str) -> list[Path]:
    """The pieces of path of legs, from the path outward, each running as the wire does; hooks formed on
    `form`. Raises RecipeError below `place`."""
    if not legs:
        return []
    stations = path.at(np.array([path.length if at_end else 0.0]))
    point = stations.position[0]
    tangent = stations.tangent[0] if at_end else -stations.tangent[0]
    away = path.away(stations)
    out = square_to(tangent) if away is None else away[0][0]
    out = out - (out @ tangent) * tangent
    out = out / np.linalg.norm(out)
    up = np.cross(tangent, out)
    if up[2] < 0:
        up = -up
    here = Heading(point, tangent, out, up)
    pieces: list[Path] = []
    for index, leg in enumerate(legs):
        for step in leg.steps(form, at_end, f"{place}/{index}"):
            piece, here = step.laid(here, not at_end)
            pieces.append(piece)
    return pieces
