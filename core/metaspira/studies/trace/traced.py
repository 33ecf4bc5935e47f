"""What tracing a body says."""

from __future__ import annotations

from dataclasses import dataclass
from typing import Any, Literal


@dataclass(frozen=True)
class TracedNumber:
    """A number that was measured, with the half width `sure` of its interval (95 %) by noise and facets."""

    key: str
    title: str
    value: float
    sure: float
    unit: str


@dataclass(frozen=True)
class Deviation:
    """How far the body's surface is from the recipe's, mm: on average, at 95 of 100 places, at the most."""

    mean: float
    most_of_it: float
    largest: float


@dataclass(frozen=True)
class Designation:
    """A standard thread that it may be: how probable, and how far its pitch and its crest are off, mm."""

    name: str
    probable: float
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
    None of a thread. `told` says in words what could not be told, or was left out; the `ghost` is the body,
    None of a thread."""

    kind: Literal["coil", "thread"]
    recipe: dict[str, Any]
    rounded: dict[str, Any]
    figures: list[TracedNumber]
    deviation: Deviation | None
    rounded_deviation: Deviation | None
    designations: list[Designation]
    told: list[str]
    ghost: Ghost | None = None
