"""Schedules: values that change along something, over a share of it, 0 to 1.

Given as `total` (evenly from nothing), `from` and `to`, `points` (straight or smooth between them) or a
`formula` of t. Smooth points are joined by a monotone cubic (Fritsch and Carlson, SIAM J. Numer. Anal. 17
(1980) 238), which never overshoots.
"""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import dataclass, field
from typing import Any, Generic, Literal, TypeVar

import numpy as np
import scipy
from pydantic import Field

from metaspira.numbers.fields import (
    Angle,
    AnyAngle,
    AnyArea,
    AnyFactor,
    AnyLength,
    Area,
    Factor,
    Length,
    Share,
)
from metaspira.numbers.jets import Array, Jet
from metaspira.numbers.kind import Kind
from metaspira.numbers.taylor import of_pieces
from metaspira.problems import Problem, RecipeError

V = TypeVar("V")
F = TypeVar("F")

_SAMPLES, _PIECES, _LOWEST, _ZOOMS = 256, 64, 4, 6
_WAYS = ("total", "from and to", "points", "formula")


@dataclass(frozen=True, eq=False)
class Varying:
    """A function of a share t in 0..1. `breaks` are the t at which it is not smooth; `pieces` is how
    many stretches of its own it has, for sampling; `constant` is its one value, or None."""

    jet: Callable[[Array, int], Jet]
    breaks: tuple[float, ...] = ()
    pieces: int = 0
    constant: float | None = field(default=None)

    def __call__(self, t: Array) -> tuple[Array, Array]:
        """Value and change for a unit of t, each (n,)."""
        jet = self.jet(t, 1)
        return jet.c[0], jet.c[1]

    def value(self, t: Array) -> Array:
        return self.jet(t, 0).value

    def over(self, t: Array, end: float, order: int) -> Jet:
        """The jet at t (n,) by a parameter that runs from 0 to `end` while the share runs from 0 to 1."""
        jet = self.jet(t / end, order)
        return Jet([c * end**-k for k, c in enumerate(jet.c)])

    @property
    def ends(self) -> tuple[float, float]:
        values = self.value(np.array([0.0, 1.0]))
        return float(values[0]), float(values[1])

    def extremes(self) -> tuple[float, float]:
        """Least and greatest value."""
        if self.constant is not None:
            return self.constant, self.constant
        return least_of(self.value, self.breaks, self.pieces), -least_of(
            lambda t: -self.value(t), self.breaks, self.pieces
        )

    def mapped(self, function: Callable[[Jet], Jet]) -> Varying:
        """function(self), for a smooth function."""
        constant = self.constant
        if constant is not None:
            return constantly(float(function(Jet([np.array([constant])])).value[0]))
        return Varying(lambda t, order: function(self.jet(t, order)), self.breaks, self.pieces)


def least_of(function: Callable[[Array], Array], breaks: tuple[float, ...], pieces: int) -> float:
    """The least value of a function of a share that is smooth between breaks, searched ever finer."""
    t = np.unique(
        np.concatenate([np.linspace(0.0, 1.0, 1 + _SAMPLES * max(1, min(pieces, _PIECES))), breaks])
    )
    value = function(t)
    best = float(value.min())
    for at in np.argsort(value)[:_LOWEST]:
        low, high = t[max(at - 1, 0)], t[min(at + 1, len(t) - 1)]
        for _ in range(_ZOOMS):
            fine = np.linspace(low, high, 17)
            found = function(fine)
            best = min(best, float(found.min()))
            i = int(np.argmin(found))
            low, high = fine[max(i - 1, 0)], fine[min(i + 1, 16)]
    return best


def constantly(value: float) -> Varying:
    """The same value everywhere."""

    def jet(t: Array, order: int) -> Jet:
        zero = np.zeros_like(t)
        return Jet([zero + value, *([zero] * order)])

    return Varying(jet, constant=value)


def linearly(start: float, end: float) -> Varying:
    """Evenly from `start` to `end`."""
    if start == end:
        return constantly(start)

    def jet(t: Array, order: int) -> Jet:
        zero = np.zeros_like(t)
        return Jet([start + (end - start) * t, zero + (end - start), *([zero] * (order - 1))][: order + 1])

    return Varying(jet, pieces=1)


def piecewise(pieces: scipy.interpolate.PPoly, breaks: Array) -> Varying:
    """A piecewise polynomial of t; it goes on as its outer pieces do."""

    def jet(t: Array, order: int) -> Jet:
        return Jet(list(of_pieces(pieces.c, pieces.x, np.asarray(t, dtype=float), order)))

    return Varying(jet, tuple(float(b) for b in breaks), len(pieces.x) - 1)


def through(at: Array, values: Array, ease: Literal["straight", "smooth"]) -> Varying:
    """Through points at ascending shares, held constant before the first and after the last."""
    if len(at) == 1 or np.ptp(values) == 0:
        return constantly(float(values[0]))
    if at[0] > 0:
        at, values = np.append(0.0, at), np.append(values[0], values)
    if at[-1] < 1:
        at, values = np.append(at, 1.0), np.append(values, values[-1])
    if ease == "smooth":
        smooth = scipy.interpolate.PchipInterpolator(at, values)
        return piecewise(scipy.interpolate.PPoly(smooth.c, smooth.x), at[1:-1])
    slopes = np.diff(values) / np.diff(at)
    return piecewise(scipy.interpolate.PPoly(np.stack([slopes, values[:-1]]), at), at[1:-1])


class Schedule(Kind, Generic[V, F]):
    """A value that changes along the wire, given in one of four ways."""

    total: V | None = None
    from_: V | None = Field(default=None, alias="from")
    to: V | None = None
    points: tuple[tuple[Share, V], ...] | None = Field(default=None, min_length=1, max_length=200)
    ease: Literal["straight", "smooth"] = "straight"
    formula: F | None = None
    on: bool = True

    def varying(self, place: str, **changing: Callable[[Jet], Jet]) -> Varying:
        """The function of t that is described. `changing` are names that its formula may use beside t,
        each a function of t. Raises RecipeError with places below `place`."""
        ways = [
            way
            for way, given in zip(
                _WAYS,
                (
                    self.total is not None,
                    self.from_ is not None or self.to is not None,
                    self.points is not None,
                    self.formula is not None,
                ),
                strict=True,
            )
            if given
        ]
        if len(ways) != 1:
            given = " and ".join(ways) if ways else "nothing"
            raise RecipeError(Problem(place, f"it is given by {given}", f"use one of {', '.join(_WAYS)}"))
        if self.total is not None:
            return linearly(0.0, self.total)  # type: ignore[arg-type]
        if self.points is not None:
            return self.through_points(place)
        if self.formula is not None:
            return self._by_formula(changing)
        if self.from_ is None or self.to is None:
            missing = "from" if self.from_ is None else "to"
            raise RecipeError(Problem(f"{place}/{missing}", f"“{missing}” is missing", "add it"))
        return linearly(self.from_, self.to)  # type: ignore[arg-type]

    def through_points(self, place: str, last: float = 1.0) -> Varying:
        """The function through the points, which stand from 0 to `last`. Raises RecipeError below `place`."""
        assert self.points is not None
        at = np.array([float(p[0]) for p in self.points]) / last
        values = np.array([float(p[1]) for p in self.points])  # type: ignore[arg-type]
        steps = np.diff(at)
        if np.any(steps <= 0):
            wrong = int(np.argmax(steps <= 0)) + 1
            raise RecipeError(
                Problem(
                    f"{place}/points/{wrong}/0",
                    f"{at[wrong] * last:g} does not come after {at[wrong - 1] * last:g}",
                    "give the points in their order along the wire, each at a place of its own",
                )
            )
        if at[-1] > 1 + 1e-12:
            raise RecipeError(
                Problem(
                    f"{place}/points/{len(at) - 1}/0",
                    f"{at[-1] * last:g} is beyond the end",
                    f"stay at or below {last:g}",
                )
            )
        return through(at, values, self.ease)

    def _by_formula(self, changing: dict[str, Callable[[Jet], Jet]]) -> Varying:
        formula: Any = self.formula

        def jet(t: Array, order: int) -> Jet:
            share = Jet.variable(t, order)
            found: Jet = formula(t=share, **{name: f(share) for name, f in changing.items()})
            return found

        whole = jet(np.linspace(0.0, 1.0, 129), 1)
        if all(np.ptp(c) == 0 for c in whole.c):
            return constantly(float(whole.value[0]))
        return Varying(jet, pieces=6)


class AngleSchedule(Schedule[Angle, AnyAngle]):
    """An angle along the wire."""


class FactorSchedule(Schedule[Factor, AnyFactor]):
    """A factor along the wire."""


class LengthSchedule(Schedule[Length, AnyLength]):
    """A length along the wire."""


class AreaSchedule(Schedule[Area, AnyArea]):
    """An area along the wire."""
