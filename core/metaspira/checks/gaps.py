"""How near the wires of a part come to themselves and to each other.

Two places of one wire are not neighbours where the distance between them has a minimum of its own,
away from s₁ = s₂ (the doubly critical distance of Gonzalez and Maddocks, PNAS 96 (1999) 4769). Round
wire is measured in `tubes`, any other section in `swept`.
"""

from __future__ import annotations

from collections.abc import Iterator
from dataclasses import dataclass, replace
from functools import lru_cache
from itertools import combinations

import numpy as np

from metaspira.checks import swept, tubes
from metaspira.checks.check import WHOLE, Lane, Window
from metaspira.checks.meeting import Gaps, stations_in
from metaspira.part import Body, Part
from metaspira.sweep.sweep import Sweep

_MEANT = 0.02


@dataclass(frozen=True)
class PartGaps:
    """`within` holds each wire's gaps to itself, `between` those of pairs of wires, each with the words
    for where; `lane` is the least gap along the first wire."""

    within: tuple[tuple[str, Gaps], ...]
    between: tuple[tuple[str, Gaps], ...]
    lane: Lane

    @property
    def least(self) -> tuple[str, Gaps] | None:
        """The smallest gap and where it is; None where nothing meets."""
        known = [item for item in (*self.within, *self.between) if item[1].smallest is not None]
        return min(known, key=lambda item: item[1].smallest or 0.0, default=None)

    @property
    def smallest(self) -> float | None:
        """The smallest gap, mm; None where nothing meets."""
        return None if self.least is None else self.least[1].smallest


@lru_cache(maxsize=64)
def part_gaps(part: Part, window: Window) -> PartGaps:
    """All gaps of a part. `window` limits the search to a share of the wire, where there is only one."""
    bodies = part.bodies
    if len(bodies) == 1:
        gaps = self_gaps(bodies[0].sweep, window)
        return PartGaps(((bodies[0].name, gaps),), (), gaps.lane)
    within = tuple((body.name, self_gaps(body.sweep, WHOLE)) for body in bodies)
    between = tuple(
        (
            f"between {one.name} and {two.name}",
            pair_gaps(one.sweep, two.sweep, meant=bool(one.bundle) and one.bundle == two.bundle),
        )
        for one, two in _near(bodies)
    )
    lane = within[0][1].lane
    first = bodies[0].name
    value = lane.value
    for name, gaps in between:
        if name.startswith(f"between {first} and ") and len(gaps.lane.s):
            other = np.interp(
                lane.s, gaps.lane.s, np.where(np.isnan(gaps.lane.value), np.inf, gaps.lane.value)
            )
            value = np.fmin(value, np.where(np.isfinite(other), other, np.nan))
    return PartGaps(within, between, Lane(lane.s, value))


def _near(bodies: tuple[Body, ...]) -> Iterator[tuple[Body, Body]]:
    """Pairs of bodies whose boxes overlap, or nearly."""
    boxes = []
    for body in bodies:
        line = body.sweep.path.derivatives(body.sweep.stations(24, least=17), 0)[0]
        reach = body.sweep.reach()
        boxes.append((line.min(axis=0) - reach, line.max(axis=0) + reach))
    for (one, a), (two, b) in combinations(zip(bodies, boxes, strict=True), 2):
        margin = 0.5 * (np.linalg.norm(a[1] - a[0]) + np.linalg.norm(b[1] - b[0]))
        if np.all(a[0] - margin <= b[1]) and np.all(b[0] - margin <= a[1]):
            yield one, two


@lru_cache(maxsize=128)
def self_gaps(sweep: Sweep, window: Window) -> Gaps:
    """The gaps of one wire to itself. `window` limits the search to a share of it (from, to)."""
    s = stations_in(sweep, window)
    if sweep.is_tube:
        return tubes.within(sweep, s, _MEANT * sweep.outline.reach)
    return swept.within(sweep, s, _MEANT * sweep.outline.reach)


@lru_cache(maxsize=512)
def pair_gaps(one: Sweep, two: Sweep, meant: bool = False) -> Gaps:
    """The gaps between two wires; where they are `meant` to touch, touching counts as nothing to meet."""
    s1, s2 = stations_in(one, WHOLE), stations_in(two, WHOLE)
    found = (tubes if one.is_tube and two.is_tube else swept).between(one, s1, two, s2)
    allowed = _MEANT * min(one.reach(), two.reach())
    if meant and found.smallest is not None and abs(found.smallest) < allowed:
        return replace(found, smallest=None, lane=Lane(s1, np.full_like(s1, np.nan)))
    return found


__all__ = ["Gaps", "PartGaps", "pair_gaps", "part_gaps", "self_gaps"]
