"""What tracing a body says."""

from __future__ import annotations

from dataclasses import dataclass
from typing import Any, Literal, TypeAlias

TracedKind: TypeAlias = Literal["coil", "thread", "bar", "winding"]

LEAST_SURE = 1e-3  # half the width of a pitch's interval, mm, at the least


@dataclass(frozen=True)
class TracedNumber:
    """A number that was measured, with the half width `sure` of its interval (95 %) by noise and facets;
    `input` points to it in the recipe, where it stands there."""

    key: str
    title: str
    value: float
    sure: float
    unit: str
    input: str | None = None


@dataclass(frozen=True)
class Deviation:
    """How far the body's surface is from the recipe's, mm: on average, at 95 of 100 places, at the most."""

    mean: float
    p95: float
    max: float


@dataclass(frozen=True)
class Designation:
    """A standard thread that it may be: how probable; how far off are its surface (the root of the mean
    square), its pitch and the diameter of its crest, mm."""

    designation: str
    probable: float
    off: float
    pitch_off: float
    diameter_off: float


@dataclass(frozen=True)
class Ghost:
    """Places (n, 3), mm, all over the body, where the recipe's part stands; and how far each is out of the
    part's surface, mm, of the recipe as it was measured, and `rounded`."""

    places: list[list[float]]
    off: list[float]
    rounded: list[float]


@dataclass(frozen=True)
class Traced:
    """A body as a recipe, and `rounded` to a designer's numbers; how far its surface is off each of them, mm,
    None where all of it is far. `told` says in words what could not be told, or was left out; the `ghost` is
    the body."""

    kind: TracedKind
    recipe: dict[str, Any]
    rounded: dict[str, Any]
    figures: list[TracedNumber]
    deviation: Deviation | None
    rounded_deviation: Deviation | None
    designations: list[Designation]
    told: list[str]
    ghost: Ghost
