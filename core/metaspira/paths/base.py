"""What every path kind has: the span of it that is used, and its legs."""

from __future__ import annotations

from typing import Annotated, Any, ClassVar, Literal

from pydantic import Field, GetJsonSchemaHandler, model_validator
from pydantic_core import CoreSchema

from metaspira.numbers.fields import Quantity
from metaspira.numbers.kind import Kind, counted, said
from metaspira.paths.legs import Legs, leg_paths
from metaspira.paths.path import CurvePath, JoinedPath, Path, SpanOfPath
from metaspira.problems import Fix, Problem, RecipeError

Reach = tuple[tuple[float, float, float], tuple[float, float, float]]
"""How far the section extends from the point that rides on the path, (inward ≤ 0, outward ≥ 0) along its
first axis and how high it is along its second, in mm, at the start and at the end of the wire."""

NO_REACH: Reach = ((0.0, 0.0, 0.0), (0.0, 0.0, 0.0))

LEAST_TURNS, MOST_TURNS = 1e-3, 20_000

At = Annotated[float, Quantity("number", 0.0, 1e6)]
AtLength = Annotated[float, Quantity("length", 0.0, 1e9)]


def turns_or_pitch(turns: Any, pitch: Any, unit: str) -> str:
    """How closely something is wound."""
    return f"{said(turns)} turns" if turns is not None else f"pitch {said(pitch, unit)}"


class SpanBase(Kind):
    """What all ways to name a part of the path share; `unit` is what its ends count."""

    unit: ClassVar[str]

    def most(self, path: Path, place: str) -> float:
        """Where the path ends, as this counts. Raises RecipeError below `place`."""
        raise NotImplementedError

    def at(self, path: Path, value: float) -> float:
        """The true length, mm, at a value that this counts to."""
        raise NotImplementedError


class SpanByShare(SpanBase):
    """The part of the path that is used, by shares of its true length."""

    by: Literal["share"] = "share"
    from_: At = Field(default=0.0, alias="from")
    to: At = 1.0
    unit: ClassVar[str] = "of the length"

    def most(self, path: Path, place: str) -> float:
        return 1.0

    def at(self, path: Path, value: float) -> float:
        return path.length * value


class SpanByTurns(SpanBase):
    """The part of the path that is used, by its turns."""

    by: Literal["turns"]
    from_: At = Field(default=0.0, alias="from")
    to: At | None = None
    unit: ClassVar[str] = "turns"

    def most(self, path: Path, place: str) -> float:
        if path.turns is None or not isinstance(path, CurvePath):
            raise RecipeError(
                Problem(
                    f"{place}/by",
                    "this path has no turns",
                    "use “share” or “length”",
                    Fix(f"{place}/by", "share"),
                )
            )
        return path.turns

    def at(self, path: Path, value: float) -> float:
        assert isinstance(path, CurvePath)
        return path.length_at_turn(value)


class SpanByLength(SpanBase):
    """The part of the path that is used, by its true length."""

    by: Literal["length"]
    from_: AtLength = Field(default=0.0, alias="from")
    to: AtLength | None = None
    unit: ClassVar[str] = "mm"

    def most(self, path: Path, place: str) -> float:
        return path.length

    def at(self, path: Path, value: float) -> float:
        return value


SpanOf = Annotated[SpanByShare | SpanByTurns | SpanByLength, Field(discriminator="by")]


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

    @property
    def corners(self) -> tuple[tuple[float, float, float], ...] | None:
        """The points that it is given by, mm, where it is."""
        return None

    @property
    def length_typed(self) -> float | None:
        """Its height where that is a length of the recipe, mm."""
        return None

    @property
    def closed_counts(self) -> tuple[float, float]:
        """How many of its turns lie closed at the start and at the end."""
        return 0.0, 0.0

    def lies_on(self, place: str) -> Path | None:
        """The outline (r, 0, z) of the turned body that it lies on, where it does."""
        return None

    def runs_around(self, place: str) -> Path | None:
        """The path that it winds around, where it does."""
        return None

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
        before = leg_paths(path, form, self.legs.start, at_end=False, place=f"{place}/legs/start")
        after = leg_paths(path, form, self.legs.end, at_end=True, place=f"{place}/legs/end")
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
    most = span.most(path, place)
    high = most if span.to is None else span.to
    if high > most * (1 + 1e-12):
        raise RecipeError(
            Problem(
                f"{place}/to",
                f"the span ends at {high:.6g}, and the path has {most:.6g} {span.unit}",
                "leave “to” out for the whole of it",
                Fix(f"{place}/to", most) if span.by == "share" else None,
            )
        )
    ends = span.at(path, min(span.from_, most)), span.at(path, min(high, most))
    if ends[1] - ends[0] < 1e-6:
        raise RecipeError(
            Problem(
                f"{place}/from",
                "the span starts where it ends, or behind",
                "give a smaller “from”",
                Fix(f"{place}/from", 0),
            )
        )
    if ends == (0.0, path.length):
        return path
    return SpanOfPath(path, *ends)
