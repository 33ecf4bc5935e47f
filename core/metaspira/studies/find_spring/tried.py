"""Springs that were tried, over arrays: what each is, and how much of each limit it uses."""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import dataclass, field
from typing import Any, Protocol

import numpy as np

from metaspira.numbers.jets import Array
from metaspira.springs.standard import INDEX, LEAST_TURNS
from metaspira.springs.wire import SpringWire
from metaspira.studies.find_spring.wish import Wish

SPARE = 0.02
"""Air that is left beyond what is wanted, mm, for rounded diameters."""

_MOST_TURNS = 200.0


@dataclass(frozen=True)
class Tried:
    """Springs of one wire, each array (n,) or shaped so that all fit: wire and mean diameter (mm), turns in
    all, free length (mm, nothing of one that turns), the length that it takes at work (mm), mass (g), the
    plain stress at the second load (MPa), the greatest outside diameter at work (mm), and the use of each
    limit by its name; and what else can be bounded, by its name in a wish."""

    diameter: Array
    mean: Array
    turns: Array
    free_length: Array
    at_work: Array
    mass: Array
    stress: Array
    outside: Array
    uses: dict[str, Array]
    more: dict[str, Array] = field(default_factory=dict)

    @property
    def use(self) -> Array:
        """The most used limit's share."""
        most = self.mean
        for k, use in enumerate(self.uses.values()):
            most = np.maximum(most, use) if k else use + 0 * self.mean
        return np.where(np.isnan(most), np.inf, most)


class Searched(Protocol):
    """A kind of spring as it is searched: its dead turns, and the power of the mean diameter by which its
    rate falls."""

    DEAD: float
    POWER: float

    def stiff(self, wish: Wish, wire: SpringWire, diameter: Array) -> Array:
        """Active turns times that power of the mean diameter, which have the rate."""

    def tried(self, wish: Wish, wire: SpringWire, diameter: Array, mean: Array, active: Array) -> Tried:
        """Springs and the limits that they use."""

    def recipe(
        self, wish: Wish, wire: SpringWire, diameter: float, mean: float, turns: float
    ) -> dict[str, Any]:
        """The recipe of one, in millimetres."""


def by_diameter(of: Callable[[float], float], diameter: Array) -> Array:
    """A property of wire at each diameter, mm."""
    return np.vectorize(of, otypes=[float])(diameter)


def over(share: Array) -> Array:
    """The share of a room that is used, where it is more than there is; what fits, fits."""
    return np.where(share > 1, share, 0.0)


def shear_stiff(wish: Wish, wire: SpringWire, diameter: Array) -> Array:
    """n D³ that has the rate, of springs whose wire is twisted: R = G d⁴ / (8 D³ n)."""
    shear = by_diameter(lambda d: wire.cold_moduli(d)[1], diameter)
    return shear * diameter**4 / (8 * wish.rate)


def shared_uses(
    wish: Wish, diameter: Array, mean: Array, active: Array, outside: Array, inside: Array
) -> dict[str, Array]:
    """The turns, the index, and the room in bore and around the rod, by the greatest outside and the least
    inside diameter, mm."""
    index = mean / diameter
    uses = {
        "turns": over(np.maximum(LEAST_TURNS / active, active / _MOST_TURNS)),
        "spring index": np.maximum(INDEX[0] / index, index / INDEX[1]),
    }
    if wish.bore is not None:
        uses["bore"] = over((outside + 2 * wish.gap) / wish.bore)
    if wish.rod is not None:
        uses["rod"] = over(wish.rod / np.maximum(inside - 2 * wish.gap, 1e-9))
    return uses


def bound_uses(wish: Wish, found: Tried) -> dict[str, Array]:
    """How far the figures of springs are beyond what the wish bounds them by."""
    figures = {
        "wire_diameter": found.diameter,
        "mean_diameter": found.mean,
        "turns": found.turns,
        "index": found.mean / found.diameter,
        "free_length": found.free_length,
        "mass": found.mass,
        "stress": found.stress,
        "outside_diameter": found.mean + found.diameter,
        "inside_diameter": found.mean - found.diameter,
        **found.more,
    }
    return {
        name: over(value / limit if name.startswith("most") else limit / np.maximum(value, 1e-12))
        for bound in wish.limits
        for value in (figures[bound.figure],)
        for name, limit in bound.sides.items()
    }


def fit_of(wish: Wish) -> dict[str, float]:
    """The space of a recipe."""
    fit = {"bore": wish.bore, "rod": wish.rod, "gap": wish.gap or None}
    return {key: value for key, value in fit.items() if value is not None}


def spring_asked(wish: Wish, wire: SpringWire, **more: Any) -> dict[str, Any]:
    """The spring of a recipe, as the wish has it."""
    place = wish.told_by[0]
    points = [{place: float(f"{value:.9g}")} for value in wish.places]
    asked = {"kind": wish.kind, "wire": wire.name, "cycles": wish.cycles, "points": points, **more}
    return {key: value for key, value in asked.items() if value is not None}
