"""What every path kind has: the span of it that is used, and the legs that it goes on in at either end."""

from __future__ import annotations

import math
from dataclasses import dataclass
from typing import Annotated, Any, ClassVar, Literal

import numpy as np
from pydantic import Field, GetJsonSchemaHandler, model_validator
from pydantic_core import CoreSchema

from metaspira.numbers.fields import Angle, Distance, Length, Quantity
from metaspira.numbers.jets import Array
from metaspira.numbers.kind import Kind, Usual, Words, counted, said
from metaspira.paths.path import CurvePath, JoinedPath, Path, SpanOfPath
from metaspira.paths.transport import square_to
from metaspira.problems import Fix, Problem, RecipeError

Reach = tuple[tuple[float, float, float], tuple[float, float, float]]
"""How far the section extends from the point that rides on the path, (inward ≤ 0, outward ≥ 0) along its
first axis and how high it is along its second, in mm, at the start and at the end of the wire."""

NO_REACH: Reach = ((0.0, 0.0, 0.0), (0.0, 0.0, 0.0))

LEAST_TURNS, MOST_TURNS = 1e-3, 20_000

At = Annotated[float, Quantity("number", 0.0, 1e6)]
AtLength = Annotated[float, Quantity("length", 0.0, 1e9)]

_SIDES = {"outward": 0.0, "up": 90.0, "inward": 180.0, "down": 270.0}


def turns_or_pitch(turns: Any, pitch: Any, unit: str) -> str:
    """How closely something is wound."""
    return f"{said(turns)} turns" if turns is not None else f"pitch {said(pitch, unit)}"


class SpanByShare(Kind):
    """The part of the path that is used, by shares of its true length."""

    by: Literal["share"] = "share"
    from_: At = Field(default=0.0, alias="from")
    to: At = 1.0


class SpanByTurns(Kind):
    """The part of the path that is used, by its turns."""

    by: Literal["turns"]
    from_: At = Field(default=0.0, alias="from")
    to: At | None = None


class SpanByLength(Kind):
    """The part of the path that is used, by its true length."""

    by: Literal["length"]
    from_: AtLength = Field(default=0.0, alias="from")
    to: AtLength | None = None


SpanOf = Annotated[SpanByShare | SpanByTurns | SpanByLength, Field(discriminator="by")]


class StraightLeg(Kind, title="straight"):
    """Straight on."""

    kind: Literal["straight"] = "straight"
    length: Annotated[Length, Usual(2)]


class ArcLeg(Kind, title="arc"):
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


class HookLeg(Kind, title="hook"):
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


Leg = Annotated[StraightLeg | ArcLeg | HookLeg, Field(discriminator="kind")]


class Legs(Kind):
    """What the wire does beyond the path, each list from the path outward."""

    start: tuple[Leg, ...] = Field(default=(), max_length=20)
    end: tuple[Leg, ...] = Field(default=(), max_length=20)


class PathBase(Kind):
    """What all paths share; a kind adds its own fields and its `curve`."""

    @classmethod
    def __get_pydantic_json_schema__(
        cls, schema: CoreSchema, handler: GetJsonSchemaHandler
    ) -> dict[str, Any]:
        found = super().__get_pydantic_json_schema__(schema, handler)
        handler.resolve_ref_schema(found)["x-stance"] = cls.stance
        return found

    span: SpanOf | None = None
    legs: Legs | None = None

    @model_validator(mode="before")
    @classmethod
    def _usual_span(cls, data: Any) -> Any:
        if isinstance(data, dict) and isinstance(data.get("span"), dict) and "by" not in data["span"]:
            return {**data, "span": {"by": "share", **data["span"]}}
        return data

    def sentence(self, unit: str) -> str:
        """What it is in words, with its legs."""
        legs = len(self.legs.start) + len(self.legs.end) if self.legs else 0
        return self.words(unit) + (f", {counted(legs, 'leg')}" if legs else "")

    stance: ClassVar[str] = "steady"
    """The stance that a section is given on a new one; steady where it runs around no axis."""

    def curve(self, place: str, reach: Reach) -> Path:
        """The whole curve of a resolved path, without span and legs. Raises RecipeError below `place`."""
        raise NotImplementedError

    def path(self, place: str, reach: Reach) -> Path:
        """The path of a resolved recipe: the span of the curve, with its legs. Raises RecipeError with
        places below `place`."""
        path = self.curve(place, reach)
        if self.span is not None:
            path = _spanned(path, self.span, f"{place}/span")
        return self.with_legs(path, place)

    def with_legs(self, path: Path, place: str, formed_on: Path | None = None) -> Path:
        """A path with the legs that are asked for, formed as on it, or as on another one before it was
        loaded.
        Raises RecipeError below `place`."""
        form = formed_on or path
        if self.legs is None or not (self.legs.start or self.legs.end):
            return path
        if path.closed:
            raise RecipeError(
                Problem(
                    f"{place}/legs",
                    "a closed path has no end for a leg",
                    "take the legs out, or open it",
                )
            )
        before = _legs(path, form, self.legs.start, at_end=False, place=f"{place}/legs/start")
        after = _legs(path, form, self.legs.end, at_end=True, place=f"{place}/legs/end")
        return JoinedPath((*reversed(before), path, *after), len(before))


def turns_of(turns: float | None, pitch: float | None, length: float, place: str) -> float:
    """The turns of a coil that is spaced over `length` mm by its turns or by its pitch. Raises
    RecipeError with places at or below `place`."""
    if (turns is None) == (pitch is None):
        raise RecipeError(Problem(place, "it needs either turns or pitch", "give one of them"))
    found = turns if turns is not None else length / (pitch or 1.0)
    if not LEAST_TURNS <= found <= MOST_TURNS:
        raise RecipeError(
            Problem(
                f"{place}/pitch",
                f"the pitch makes {found:.6g} turns",
                f"choose a pitch that makes between {LEAST_TURNS:g} and {MOST_TURNS} turns",
            )
        )
    return found


def _spanned(path: Path, span: SpanByShare | SpanByTurns | SpanByLength, place: str) -> Path:
    whole = path.length
    if isinstance(span, SpanByShare):
        unit, most, low, high = "of the length", 1.0, span.from_, span.to
        ends = [whole * low, whole * high]
    elif isinstance(span, SpanByLength):
        unit, most, low = "mm", whole, span.from_
        high = whole if span.to is None else span.to
        ends = [low, high]
    else:
        if path.turns is None or not isinstance(path, CurvePath):
            raise RecipeError(
                Problem(
                    f"{place}/by",
                    "this path has no turns",
                    "use “share” or “length”",
                    Fix(f"{place}/by", "share"),
                )
            )
        unit, most, low = "turns", path.turns, span.from_
        high = path.turns if span.to is None else span.to
        ends = [path.length_at_turn(min(v, path.turns)) for v in (low, high)]
    if high > most * (1 + 1e-12):
        raise RecipeError(
            Problem(
                f"{place}/to",
                f"the span ends at {high:.6g}, and the path has {most:.6g} {unit}",
                "leave “to” out for the whole of it",
                Fix(f"{place}/to", most) if span.by == "share" else None,
            )
        )
    if ends[1] - ends[0] < 1e-6:
        raise RecipeError(
            Problem(
                f"{place}/from",
                "the span starts where it ends, or behind",
                "give a smaller “from”",
                Fix(f"{place}/from", 0),
            )
        )
    if ends == [0.0, whole]:
        return path
    return SpanOfPath(path, ends[0], min(ends[1], whole))


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


def _legs(path: Path, form: Path, legs: tuple[Leg, ...], at_end: bool, place: str) -> list[Path]:
    """The pieces of path of legs, from the path outward, each running as the wire does; hooks formed on
    `form`."""
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
    pieces: list[Path] = []
    for index, leg in enumerate(legs):
        for step in _steps(leg, form, at_end, f"{place}/{index}"):
            if isinstance(step, StraightLeg):
                pieces.append(CurvePath(RayCurve(point, tangent, step.length, not at_end), even=True))
                point = point + step.length * tangent
                continue
            angle = math.radians(_SIDES[step.side]) if isinstance(step.side, str) else step.side
            side = math.cos(angle) * out + math.sin(angle) * up
            arc = ArcCurve(point, tangent, side, step.radius, step.angle, not at_end)
            pieces.append(CurvePath(arc))
            cos, sin = math.cos(step.angle), math.sin(step.angle)
            point = point + step.radius * (sin * tangent + (1 - cos) * side)
            turned = []
            for axis in (out, up):
                lean = axis @ side
                turned.append(axis + lean * ((cos - 1) * side - sin * tangent))
            tangent = cos * tangent + sin * side
            out, up = turned
    return pieces


def _steps(leg: Leg, path: Path, at_end: bool, place: str) -> list[StraightLeg | ArcLeg]:
    if not isinstance(leg, HookLeg):
        return [leg]
    radius = leg.radius
    if radius is None:
        if path.coil is None:
            raise RecipeError(
                Problem(f"{place}/radius", "only a coil tells the radius of its hook", "give the radius")
            )
        radius = path.coil.end_radius if at_end else path.coil.start_radius
    stations = path.at(np.array([path.length if at_end else 0.0]))
    climb = float(stations.tangent[0][2])
    rise = math.pi / 2 - math.asin(min(1.0, max(-1.0, climb)))
    bend = ArcLeg.model_construct(
        kind="arc", radius=leg.bend_radius, angle=rise, side="up" if at_end else "down"
    )
    steps: list[StraightLeg | ArcLeg] = [bend]
    reach = leg.reach if leg.reach is not None else 0.0 if leg.form == "half-loop" else radius
    if reach > 0:
        steps.append(StraightLeg.model_construct(kind="straight", length=reach))
    loop = math.pi if leg.form == "half-loop" else math.radians(300)
    side = "inward" if leg.form != "side-loop" else "down" if at_end else "up"
    steps.append(ArcLeg.model_construct(kind="arc", radius=radius, angle=loop, side=side))
    return steps
