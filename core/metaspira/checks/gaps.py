"""How near the wires of a part come to themselves and to each other."""

from __future__ import annotations

import math
from collections.abc import Callable
from dataclasses import dataclass, replace
from functools import lru_cache
from itertools import combinations

import numpy as np

from metaspira.checks.check import WHOLE, Lane, Window
from metaspira.gaps.measure import (
    Gap,
    Shape,
    comes_within,
    gap_between,
    gap_within,
    lane_of,
    overlap_between,
    overlap_within,
)
from metaspira.numbers.jets import Array
from metaspira.numbers.once import cached_property
from metaspira.parts import Body, Part

_MEANT = 0.02


@dataclass(frozen=True)
class Named:
    """A gap of a wire to itself (`of` holds its name), or of two wires, by their names."""

    gap: Gap
    of: tuple[str, ...]


@dataclass(frozen=True, eq=False)
class PartGaps:
    """The smallest gap of any wire to itself, and of any two wires; None where nothing meets. `lane` is the
    gap along the first wire."""

    within: Named | None
    between: Named | None
    along: Callable[[], Lane]

    @cached_property
    def lane(self) -> Lane:
        return self.along()

    @property
    def least(self) -> Named | None:
        """The smaller of the two."""
        known = [named for named in (self.within, self.between) if named is not None]
        return min(known, key=lambda named: named.gap.value, default=None)

    @property
    def smallest(self) -> float | None:
        """The smallest gap, mm; None where nothing meets."""
        return None if self.least is None else self.least.gap.value

    @property
    def interval(self) -> tuple[float, float] | None:
        """The least and the greatest that the smallest gap can be, mm; None where nothing meets."""
        known = [named.gap for named in (self.within, self.between) if named is not None]
        return (min(gap.low for gap in known), min(gap.high for gap in known)) if known else None


def part_gaps(part: Part, window: Window = WHOLE, certain: bool = True) -> PartGaps:
    """All gaps of a part. `window` limits the search to a share of the wire, where there is only one;
    `certain` refines until the interval is on one side of what is asked for, where else the values alone are
    sought."""
    return _part_gaps(part, window, certain)


@lru_cache(maxsize=64)
def _part_gaps(part: Part, window: Window, certain: bool) -> PartGaps:
    bodies = part.bodies
    limits = tuple(sorted({0.0, part.recipe.fit.gap or 0.0})) if certain else (-math.inf,)
    shapes = [_shape(part, body, window if len(bodies) == 1 else WHOLE) for body in bodies]
    within: Named | None = None
    for body, shape in zip(bodies, shapes, strict=True):
        within = _lesser(within, gap_within(shape, limits, _value(within)), body.name)
        deep = overlap_within(shape, _MEANT * shape.size)
        within = _lesser(within, (deep, math.inf), body.name)
    between: Named | None = None
    touching = set()
    for i, j in combinations(range(len(bodies)), 2):
        found: tuple[Gap | None, float] = (None, math.inf)
        if bodies[i].bundle and bodies[i].bundle == bodies[j].bundle:
            allowed = _MEANT * min(shapes[i].size, shapes[j].size)
            if comes_within(shapes[i], shapes[j], allowed):
                touching.add((i, j))
                found = (overlap_between(shapes[i], shapes[j], allowed), math.inf)
        if (i, j) not in touching:
            found = gap_between(shapes[i], shapes[j], limits, _value(between))
        between = _lesser(between, found, bodies[i].name, bodies[j].name)
    others = tuple(shapes[j] for j in range(1, len(shapes)) if (0, j) not in touching)

    def lane() -> Lane:
        return Lane(*_marked(lane_of(shapes[0], others), bodies[0].name, within, between))

    return PartGaps(within, between, lane)


def _shape(part: Part, body: Body, window: Window) -> Shape:
    length = body.sweep.length
    return Shape(body.sweep, not part.is_skin, window[0] * length, window[1] * length)


def _value(known: Named | None) -> float:
    return math.inf if known is None else known.gap.value


def _lesser(known: Named | None, found: tuple[Gap | None, float], *of: str) -> Named | None:
    """The smaller of two gaps, with an interval that holds it whatever else was seen."""
    gap, low = found
    if gap is None and known is None:
        return None
    if gap is None or (known is not None and known.gap.value <= gap.value):
        assert known is not None
        return Named(replace(known.gap, low=min(known.gap.low, low)), known.of)
    return Named(replace(gap, low=min(gap.low, low, math.inf if known is None else known.gap.low)), of)


def _marked(lane: tuple[Array, Array], first: str, *named: Named | None) -> tuple[Array, Array]:
    """The lane with the places of the smallest gaps of the first wire in it."""
    s, value = lane
    for one in named:
        if one is not None and one.of[0] == first:
            at = np.array(one.gap.at if len(one.of) == 1 else one.gap.at[:1])
            where = np.searchsorted(s, at)
            s, value = np.insert(s, where, at), np.insert(value, where, one.gap.value)
    order = np.argsort(s, kind="stable")
    return s[order], value[order]


__all__ = ["Named", "PartGaps", "part_gaps"]
