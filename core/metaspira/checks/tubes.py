"""Gaps of round wire, exact to rounding.

    f(s₁, s₂) = |x(s₁) − x(s₂)| − r(s₁) − r(s₂)

minimised by Newton's method from a sampled start. With a size that changes, r(s) is the radius of the
ball around x(s), which contains the section: never more air than there is.
"""

from __future__ import annotations

import math
from dataclasses import dataclass

import numpy as np
from numba import njit
from numpy.typing import NDArray
from scipy.spatial import cKDTree

from metaspira.checks.check import Lane
from metaspira.checks.meeting import (
    NEIGHBOUR_TURN,
    Gaps,
    Ints,
    apart,
    meant_to_touch,
    nothing,
    pairs_within,
    reach_of_search,
)
from metaspira.numbers.jets import Array
from metaspira.numbers.vectors import row_dots
from metaspira.paths.path import Stations
from metaspira.sweep.sweep import Sweep


def within(sweep: Sweep, s: Array, meant: float) -> Gaps:
    """The gaps of a wire to itself, searched from stations s (n,). Where the wire is wound to touch,
    only an overlap deeper than `meant` mm counts."""
    centre = sweep.path.derivatives(s, 0)[0]
    radius = _radius(sweep, s)[0]
    turned = sweep.path.turned(s)
    whole = sweep.path.turning if sweep.closed else None
    pairs = pairs_within(centre, reach_of_search(centre, turned, float(radius.max()), whole))
    pairs = pairs[apart(turned, pairs[:, 1], pairs[:, 0], whole) > NEIGHBOUR_TURN]
    nearest = _nearest(centre, radius, pairs, meant_to_touch(sweep, s), meant)
    found = np.flatnonzero(nearest >= 0)
    return _refined(sweep, s, found, sweep, s, nearest[found]) if len(found) else nothing(s)


def between(one: Sweep, s1: Array, two: Sweep, s2: Array) -> Gaps:
    """The gaps of a wire to another, searched from stations s1 (n,) and s2 (m,)."""
    there = cKDTree(two.path.derivatives(s2, 0)[0])
    j = there.query(one.path.derivatives(s1, 0)[0])[1].astype(np.int64)
    return _refined(one, s1, np.arange(len(s1)), two, s2, j)


def _refined(one: Sweep, s1: Array, i: Ints, two: Sweep, s2: Array, j: Ints) -> Gaps:
    """The gaps from pairs of stations i (m,) of one and j (m,) of two, each i once."""
    last = len(s2) - 1
    bounds = (s2[np.maximum(j - 1, 0)], s2[np.minimum(j + 1, last)])
    second, gap = _newton_one(one, s1[i], two, s2[j], bounds)
    lane = np.full_like(s1, np.nan)
    lane[i] = gap
    best = np.argsort(gap)[:8]
    pair, smallest = _newton_two(one, s1[i[best]], s1, two, second[best], s2)
    ends = [
        sweep.path.derivatives(np.array([at]), 0)[0][0]
        for sweep, at in zip((one, two), pair, strict=True)
    ]
    x, y, z = (float(c) for c in 0.5 * (ends[0] + ends[1]))
    return Gaps(smallest, pair, (x, y, z), Lane(s1, lane), 0.0)


def _radius(sweep: Sweep, s: Array) -> tuple[Array, Array]:
    """Radius of the ball around the wire at s (n,), and its change per mm."""
    reach = sweep.outline.reach
    if sweep.keeps_size:
        return np.full_like(s, reach), np.zeros_like(s)
    width, change, _, _ = sweep.scale(s)
    return reach * np.maximum(width, 0.0), reach * change


@njit(cache=True)
def _nearest(centre, radius, pairs, touching, meant):  # type: ignore[no-untyped-def]
    """For each station (n,) the one of its pairs with the smallest gap, among those with no smaller gap on either side of them;
    −1 where there is none."""
    nearest = np.full(len(centre), -1)
    smallest = np.full(len(centre), np.inf)
    for q in range(2 * len(pairs)):
        i, j = pairs[q // 2, q % 2], pairs[q // 2, 1 - q % 2]
        gap = _gap(centre, radius, i, j)
        if gap >= smallest[i] or ((touching[i] or touching[j]) and gap > -meant):
            continue
        if gap <= _gap(centre, radius, i, j - 1) and gap <= _gap(centre, radius, i, j + 1):
            smallest[i], nearest[i] = gap, j
    return nearest


@njit(cache=True)
def _gap(centre, radius, i, j):  # type: ignore[no-untyped-def]
    if j < 0 or j >= len(centre):
        return np.inf
    square = 0.0
    for c in range(3):
        square += (centre[i, c] - centre[j, c]) ** 2
    return math.sqrt(square) - radius[i] - radius[j]


@dataclass(frozen=True)
class _Local:
    """f and its derivatives by s₁ and s₂, each (n,)."""

    f: Array
    f1: Array
    f2: Array
    f11: Array
    f12: Array
    f22: Array


def _ball_gap_at(first: Sweep, s1: Array, second: Sweep, s2: Array) -> _Local:
    return _local(_ball(first, s1), _ball(second, s2))


@dataclass(frozen=True)
class _Ball:
    """The balls around a wire at n places: what the path is there, the radius and its change per mm."""

    at: Stations
    radius: Array
    rate: Array

    def only(self, some: NDArray[np.bool_]) -> _Ball:
        at = Stations(*(getattr(self.at, name)[some] for name in Stations.__annotations__))
        return _Ball(at, self.radius[some], self.rate[some])


def _ball(sweep: Sweep, s: Array) -> _Ball:
    return _Ball(sweep.path.at(s), *_radius(sweep, s))


def _local(first: _Ball, second: _Ball) -> _Local:
    one, two = first.at, second.at
    delta = one.position - two.position
    distance = np.maximum(np.sqrt(row_dots(delta, delta)), 1e-12)
    u1, u2 = row_dots(delta, one.tangent) / distance, row_dots(delta, two.tangent) / distance
    return _Local(
        distance - first.radius - second.radius,
        u1 - first.rate,
        -u2 - second.rate,
        (1 + row_dots(delta, one.curvature) - u1 * u1) / distance,
        (u1 * u2 - row_dots(one.tangent, two.tangent)) / distance,
        (1 - row_dots(delta, two.curvature) - u2 * u2) / distance,
    )


def _newton_one(
    one: Sweep, s1: Array, two: Sweep, s2: Array, bounds: tuple[Array, Array]
) -> tuple[Array, Array]:
    """The s₂ (n,) nearest to each s₁, within bounds, and the gap there."""
    here = _ball(one, s1)
    local = _local(here, _ball(two, s2))
    s2, gap = s2.copy(), local.f
    moving = np.ones(len(s2), dtype=bool)
    for _ in range(8):
        low, high = bounds[0][moving], bounds[1][moving]
        safe = np.where(local.f22 > 0, local.f22, np.inf)
        step = np.clip(s2[moving] - local.f2 / safe, low, high) - s2[moving]
        going = np.abs(step) >= 1e-9 * two.length
        s2[moving] += step
        moving[moving] = going
        if not moving.any():
            break
        local = _local(here.only(moving), _ball(two, s2[moving]))
        gap[moving] = local.f
    return s2, gap


def _newton_two(
    one: Sweep, s1: Array, stations1: Array, two: Sweep, s2: Array, stations2: Array
) -> tuple[tuple[float, float], float]:
    """The smallest f within a station's distance of the starts s₁, s₂ (n,)."""
    best = ((float(s1[0]), float(s2[0])), math.inf)
    (low1, high1), (low2, high2) = (
        [np.clip(start + sign * np.diff(stations).max(), stations[0], stations[-1]) for sign in (-1, 1)]
        for start, stations in ((s1, stations1), (s2, stations2))
    )
    for _ in range(12):
        local = _ball_gap_at(one, s1, two, s2)
        at = int(np.argmin(local.f))
        gained = best[1] - float(local.f[at])
        if gained > 0:
            best = ((float(s1[at]), float(s2[at])), float(local.f[at]))
        if abs(gained) < 1e-13 * (1 + abs(best[1])):
            break
        if np.all(np.abs(local.f1) + np.abs(local.f2) < 1e-12):
            break
        damping = 1e-9 * (np.abs(local.f11) + np.abs(local.f22)) + 1e-300
        a, b, c = local.f11 + damping, local.f12, local.f22 + damping
        determinant = a * c - b * b
        convex = (determinant > 1e-12 * a * c) & (a > 0)
        scale = np.where(convex, determinant, np.inf)
        step = np.stack([(c * local.f1 - b * local.f2) / scale, (a * local.f2 - b * local.f1) / scale])
        if np.all(np.abs(step) < 1e-13 * (one.length + two.length)):
            break
        s1 = np.clip(s1 - step[0], low1, high1)
        s2 = np.clip(s2 - step[1], low2, high2)
    return best
