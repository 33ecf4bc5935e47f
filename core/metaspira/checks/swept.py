"""Gaps of wire of any section.

Each point P of the outline at s₁ is carried into the section's plane at the s₂ where that plane holds P,
and its signed distance to the outline there is taken, so that P is inside the wire exactly where it is
negative; outside, the distance is then minimised over s₂. The frames between stations are cubic Hermite,
and outlines that change go over linearly; `error` states what sampling and interpolation can amount to.
"""

from __future__ import annotations

import math
from dataclasses import dataclass

import numpy as np
from numba import njit
from scipy.spatial import cKDTree

from metaspira.checks.check import Lane
from metaspira.checks.meeting import (
    Gaps,
    Ints,
    meant_to_touch,
    nothing,
    pairs_within,
    reach_of_search,
)
from metaspira.numbers.jets import Array
from metaspira.sweep.frames import Frames
from metaspira.sweep.sweep import Sweep

_ZOOM_POINTS = 20
_COARSE = 48
_FINE = 360
_REFINED = 12
_MANY = 50_000


@dataclass(frozen=True, eq=False)
class _Wire:
    """A wire at stations s (n,): its frames as a table (n, 21), its outlines as polygons (n or 1, m, 2)
    in mm, and where its sections' middles are (n, 3)."""

    sweep: Sweep
    s: Array
    table: Array
    polygons: Array
    centre: Array
    reach: float


def _wire(sweep: Sweep, s: Array, facets: int) -> _Wire:
    frames = sweep.rigid(s)
    polygons = _scaled(sweep, s, sweep.ring(s, facets, 1))
    low, high = polygons.min(axis=1), polygons.max(axis=1)
    middle = 0.5 * (low + high)
    centre = frames.origin + middle[:, 0:1] * frames.first + middle[:, 1:2] * frames.second
    reach = 0.5 * float(np.linalg.norm(high - low, axis=1).max())
    return _Wire(sweep, s, _table(frames), np.ascontiguousarray(polygons), centre, reach)


def _scaled(sweep: Sweep, s: Array, uv: Array) -> Array:
    """Section points at s, in mm along unit axes: (1, k, 2), or (n, k, 2) where they change."""
    uv = uv[None] if uv.ndim == 2 else uv
    if sweep.keeps_size:
        return uv
    width, _, depth, _ = sweep.scale(s)
    scale = np.stack([np.maximum(width, 0.0), np.maximum(depth, 0.0)], axis=1)[:, None, :]
    return uv * scale


def within(sweep: Sweep, s: Array, meant: float) -> Gaps:
    """The gaps of a wire to itself, searched from stations s (n,). Where the wire is wound to touch,
    only an overlap deeper than `meant` mm counts."""
    wire = _wire(sweep, s, _COARSE if len(s) < _MANY else 24)
    whole = sweep.path.turning if sweep.closed else None
    near = reach_of_search(wire.centre, sweep.path.turned(s), 0.0, whole) + 2.05 * wire.reach
    pairs = pairs_within(wire.centre, near)
    pairs = pairs[pairs[:, 1] - pairs[:, 0] > 1]
    both = np.concatenate([pairs, pairs[:, ::-1]])
    apart = np.linalg.norm(wire.centre[both[:, 0]] - wire.centre[both[:, 1]], axis=1)
    both = both[np.lexsort((apart, both[:, 0]))]
    touching = meant_to_touch(sweep, s)
    return _searched(wire, wire, both, (touching, meant, len(s) - 1 if sweep.closed else 0))


def between(one: Sweep, s1: Array, two: Sweep, s2: Array) -> Gaps:
    """The gaps of a wire to another, searched from stations s1 (n,) and s2 (m,)."""
    first, second = _wire(one, s1, _COARSE), _wire(two, s2, _COARSE)
    tree = cKDTree(second.centre)
    nearest = float(tree.query(first.centre)[0].min())
    spacing = float(np.linalg.norm(np.diff(second.centre, axis=0), axis=1).max())
    found = tree.query_ball_point(first.centre, nearest + 1.05 * (first.reach + second.reach) + spacing)
    pairs = [(i, j) for i, others in enumerate(found) for j in sorted(others)]
    if not pairs:
        return nothing(s1)
    return _searched(first, second, np.array(pairs, dtype=np.int64), (np.zeros(0, dtype=bool), 0.0, -1))


def _searched(one: _Wire, two: _Wire, pairs: Ints, same: tuple[np.ndarray, float, int]) -> Gaps:
    """The gaps from pairs (m, 2) of stations in order; `same` tells of one wire which stations are meant
    to touch, how deep, and how many stations go around it where it is closed (−1: two wires)."""
    touching, meant, lap = same
    first = np.searchsorted(pairs[:, 0], np.arange(len(one.s) + 1))
    samples = one.sweep.section.rings(24, 6)[0].points
    frames = one.sweep.rigid(one.s)
    points = frames.points(_scaled(one.sweep, one.s, one.sweep.uv(samples, one.s)))
    gap, k, t = _nearest_strangers(
        np.ascontiguousarray(points),
        first,
        np.ascontiguousarray(pairs[:, 1]),
        two.table,
        two.polygons,
        _least_apart(one, two, pairs),
        touching,
        meant,
        lap,
    )
    lane = np.where(np.isfinite(gap), gap, np.nan)
    if np.all(np.isnan(lane)):
        return nothing(one.s)
    i = int(np.nanargmin(lane))
    return _zoomed(one, two, lane, i, samples, int(k[i]), float(t[i]))


def _least_apart(one: _Wire, two: _Wire, pairs: Ints) -> Array:
    """A distance (m,) below which no point of one's section comes to the wire between two's stations."""
    centres = np.linalg.norm(one.centre[pairs[:, 0]] - two.centre[pairs[:, 1]], axis=1)
    step = float(np.linalg.norm(np.diff(two.centre, axis=0), axis=1).max())
    return np.asarray(centres - one.reach - two.reach - step)


def _table(frames: Frames) -> Array:
    """Frames as one array (n, 21): o, a, b, their derivatives, and the unit normal of the plane."""
    normal = frames.normal / np.maximum(np.linalg.norm(frames.normal, axis=1, keepdims=True), 1e-300)
    columns = [getattr(frames, name) for name in Frames.__annotations__]
    return np.ascontiguousarray(np.concatenate([*columns, normal], axis=1))


def _zoomed(one: _Wire, two: _Wire, lane: Array, i: int, samples: Array, k: int, t: float) -> Gaps:
    """The smallest gap, searched ever finer around outline point k of station i of the first wire."""
    s = one.s
    base = min(max(int(t) - 3, 0), max(len(two.s) - 8, 0))
    local = slice(base, base + 8)
    fine = _scaled(two.sweep, two.s[local], two.sweep.ring(two.s[local], _FINE, 1))
    table, polygons = np.ascontiguousarray(two.table[local]), np.ascontiguousarray(fine)
    around = one.sweep.section.rings(1440, 256)[0].points
    half = (s[min(i + 1, len(s) - 1)] - s[max(i - 1, 0)]) / 2
    spread = float(np.linalg.norm(samples[0] - np.roll(samples[0], 1, axis=0), axis=1).max())
    place, uv, where = float(s[i]), samples[:, k], t - base
    smallest, before = float(lane[i]), math.inf
    for _ in range(7):
        away = np.linalg.norm(around[0] - uv[0], axis=1)
        nearby = around[:, away <= spread]
        nearby = np.concatenate(
            [uv[:, None], nearby[:, :: max(1, nearby.shape[1] // _ZOOM_POINTS)]], axis=1
        )
        stations = np.unique(np.clip(place + half * np.linspace(-1, 1, 7), s[0], s[-1]))
        shown = _scaled(one.sweep, stations, one.sweep.uv(nearby, stations))
        points = one.sweep.rigid(stations).points(shown).reshape(-1, 3)
        gap, at = _distances_near(points, int(where), table, polygons)
        best = int(np.argmin(gap))
        before = smallest
        if gap[best] < smallest:
            smallest = float(gap[best])
            place, where = float(stations[best // nearby.shape[1]]), float(at[best])
            uv = nearby[:, best % nearby.shape[1]]
        half, spread = half / 3, spread / 2
    j = min(int(where) + base, len(two.s) - 2)
    other = float(two.s[j] + (where + base - j) * (two.s[j + 1] - two.s[j]))
    here = np.array([place])
    shown = _scaled(one.sweep, here, one.sweep.uv(uv[:, None], here))
    x, y, z = (float(c) for c in one.sweep.rigid(here).points(shown)[0, 0])
    error = abs(before - smallest) + _interpolation_error(two, local) + _chord(polygons)
    return Gaps(smallest, (place, other), (x, y, z), Lane(s, lane), error)


def _interpolation_error(wire: _Wire, local: slice) -> float:
    """How far the Hermite curve between stations is from the path, mm, in the middle of each interval."""
    s, table = wire.s[local], wire.table[local]
    step = np.diff(s)[:, None]
    middle = 0.5 * (table[:-1, :3] + table[1:, :3]) + step / 8 * (table[:-1, 9:12] - table[1:, 9:12])
    there = wire.sweep.path.derivatives(0.5 * (s[:-1] + s[1:]), 0)[0]
    return float(np.linalg.norm(there - middle, axis=1).max())


def _chord(polygons: Array) -> float:
    size = float(np.linalg.norm(polygons, axis=2).max())
    return size * (1 - math.cos(math.pi / _FINE))


@njit(cache=True)
def _nearest_strangers(points, first, other, table, polygons, bound, touching, meant, lap):  # type: ignore[no-untyped-def]
    """For each station: least signed distance of its points to other parts, the point, the place.
    `bound` holds what the distance of each pair is at the least.

    `lap` ≥ 0: both are one wire, whose neighbouring stations are left out (across its seam too, where
    `lap` > 0)."""
    n, k, m = points.shape[0], points.shape[1], table.shape[0]
    gap = np.full(n, np.inf)
    which = np.zeros(n, dtype=np.int64)
    place = np.zeros(n)
    reach = np.empty(polygons.shape[0])
    for j in range(polygons.shape[0]):
        reach[j] = _farthest(polygons[j])
    for i in range(n):
        for q in range(first[i], first[i + 1]):
            j = other[q]
            if j + 1 >= m or bound[q] > gap[i]:
                continue
            if lap >= 0:
                step = abs(i - j)
                if step <= 1 or abs(i - j - 1) <= 1:
                    continue
                if lap > 0 and (lap - step <= 2):
                    continue
            for p in range(k):
                d, t = _plane_distance(points[i, p], j, table, polygons, reach, gap[i])
                if d < gap[i]:
                    if lap >= 0 and (touching[i] or touching[j]) and d > -meant:
                        continue
                    gap[i], which[i], place[i] = d, p, j + t
        if np.isfinite(gap[i]) and gap[i] > 0:
            gap[i], place[i] = _nearest_in_space(points[i, which[i]], place[i], table, polygons)
    return gap, which, place


@njit(cache=True)
def _distances_near(points, j, table, polygons):  # type: ignore[no-untyped-def]
    """Signed distances of points (m, 3) to the wire near station j, and the places."""
    m, n = points.shape[0], table.shape[0]
    gap = np.full(m, np.inf)
    place = np.zeros(m)
    reach = np.empty(polygons.shape[0])
    for k in range(polygons.shape[0]):
        reach[k] = _farthest(polygons[k])
    for p in range(m):
        for step in range(max(0, j - 2), min(n - 1, j + 3)):
            d, t = _plane_distance(points[p], step, table, polygons, reach, gap[p])
            if d < gap[p]:
                gap[p], place[p] = d, step + t
    nearest = np.argsort(gap)[:_REFINED]
    for p in nearest:
        if np.isfinite(gap[p]) and gap[p] > 0:
            gap[p], place[p] = _nearest_in_space(points[p], place[p], table, polygons)
    return gap, place


@njit(cache=True)
def _farthest(polygon):  # type: ignore[no-untyped-def]
    best = 0.0
    for i in range(polygon.shape[0]):
        best = max(best, math.hypot(polygon[i, 0], polygon[i, 1]))
    return best


@njit(cache=True)
def _plane_distance(point, j, table, polygons, reach, enough):  # type: ignore[no-untyped-def]
    """Signed distance in the section's plane between stations j and j+1 that holds the point.

    (inf, 0) where no plane there does, or where the distance is above `enough` for certain."""
    low = _station_height(point, table, j)
    high = _station_height(point, table, j + 1)
    if low * high > 0 or low == high:
        return np.inf, 0.0
    t = low / (low - high)
    row = _between(table, j, t)
    away = 0.0
    for c in range(3):
        away += (point[c] - row[c]) ** 2
    widest = reach[0] if len(reach) == 1 else max(reach[j], reach[j + 1])
    if math.sqrt(away) - 1.05 * widest > enough:
        return np.inf, 0.0
    t0, t1, h0, h1 = 0.0, 1.0, low, high
    for _ in range(6):
        h = _height(point, row)
        if abs(h) < 1e-12:
            break
        if h * h0 > 0:
            t0, h0 = t, h
        else:
            t1, h1 = t, h
        t = t0 + (t1 - t0) * h0 / (h0 - h1)
        row = _between(table, j, t)
    u, v = _in_plane(point, row)
    return _signed_distance(u, v, polygons, j, t), t


@njit(cache=True)
def _nearest_in_space(point, place, table, polygons):  # type: ignore[no-untyped-def]
    """Least distance of a point outside to the sections around `place` (station number)."""
    n = table.shape[0]
    low, high = max(0.0, place - 1.0), min(n - 1.0, place + 1.0)
    ratio = 0.6180339887498949
    a, b = high - ratio * (high - low), low + ratio * (high - low)
    fa, fb = _space_distance(point, a, table, polygons), _space_distance(point, b, table, polygons)
    for _ in range(20):
        if fa < fb:
            high, b, fb = b, a, fa
            a = high - ratio * (high - low)
            fa = _space_distance(point, a, table, polygons)
        else:
            low, a, fa = a, b, fb
            b = low + ratio * (high - low)
            fb = _space_distance(point, b, table, polygons)
    return min(fa, fb), 0.5 * (low + high)


@njit(cache=True)
def _space_distance(point, place, table, polygons):  # type: ignore[no-untyped-def]
    j = min(int(place), table.shape[0] - 2)
    row = _between(table, j, place - j)
    u, v = _in_plane(point, row)
    flat = max(0.0, _signed_distance(u, v, polygons, j, place - j))
    return math.hypot(flat, _height(point, row))


@njit(cache=True)
def _between(table, j, t):  # type: ignore[no-untyped-def]
    """o, a, b (9,) between stations by cubic Hermite; the step in s follows from o and o'."""
    step = 0.0
    for c in range(3):
        step += (table[j + 1, c] - table[j, c]) ** 2
    slope = 0.0
    for c in range(9, 12):
        slope += (0.5 * (table[j, c] + table[j + 1, c])) ** 2
    step = math.sqrt(step / max(slope, 1e-300))
    t2, t3 = t * t, t * t * t
    h00, h10, h01, h11 = 2 * t3 - 3 * t2 + 1, t3 - 2 * t2 + t, 3 * t2 - 2 * t3, t3 - t2
    weights = (h00, step * h10, h01, step * h11)
    return (
        _mix(table, j, 0, weights),
        _mix(table, j, 1, weights),
        _mix(table, j, 2, weights),
        _mix(table, j, 3, weights),
        _mix(table, j, 4, weights),
        _mix(table, j, 5, weights),
        _mix(table, j, 6, weights),
        _mix(table, j, 7, weights),
        _mix(table, j, 8, weights),
    )


@njit(cache=True)
def _mix(table, j, c, w):  # type: ignore[no-untyped-def]
    return (
        w[0] * table[j, c]
        + w[1] * table[j, c + 9]
        + w[2] * table[j + 1, c]
        + w[3] * table[j + 1, c + 9]
    )


@njit(cache=True)
def _station_height(point, table, j):  # type: ignore[no-untyped-def]
    return (
        (point[0] - table[j, 0]) * table[j, 18]
        + (point[1] - table[j, 1]) * table[j, 19]
        + (point[2] - table[j, 2]) * table[j, 20]
    )


@njit(cache=True)
def _height(point, row):  # type: ignore[no-untyped-def]
    """Height of a point over a section's plane, mm."""
    nx = row[4] * row[8] - row[5] * row[7]
    ny = row[5] * row[6] - row[3] * row[8]
    nz = row[3] * row[7] - row[4] * row[6]
    length = math.sqrt(nx * nx + ny * ny + nz * nz)
    if length < 1e-300:
        return 0.0
    return ((point[0] - row[0]) * nx + (point[1] - row[1]) * ny + (point[2] - row[2]) * nz) / length


@njit(cache=True)
def _in_plane(point, row):  # type: ignore[no-untyped-def]
    """Section coordinates (u, v) of a point, in mm along the axes."""
    aa = ab = bb = pa = pb = 0.0
    for c in range(3):
        a, b, p = row[3 + c], row[6 + c], point[c] - row[c]
        aa += a * a
        ab += a * b
        bb += b * b
        pa += p * a
        pb += p * b
    det = aa * bb - ab * ab
    if det < 1e-300:
        return 0.0, 0.0
    return (bb * pa - ab * pb) / det, (aa * pb - ab * pa) / det


@njit(cache=True)
def _signed_distance(u, v, polygons, j, t):  # type: ignore[no-untyped-def]
    """Distance to the closed polygon between those of stations j and j+1, negative inside."""
    m = polygons.shape[1]
    same = polygons.shape[0] == 1
    best = np.inf
    inside = False
    bx = by = 0.0
    for i in range(m + 1):
        k = i % m
        ax, ay = bx, by
        if same:
            bx, by = polygons[0, k, 0], polygons[0, k, 1]
        else:
            bx = (1 - t) * polygons[j, k, 0] + t * polygons[j + 1, k, 0]
            by = (1 - t) * polygons[j, k, 1] + t * polygons[j + 1, k, 1]
        if i == 0:
            continue
        dx, dy = bx - ax, by - ay
        square = dx * dx + dy * dy
        w = 0.0
        if square > 0:
            w = min(1.0, max(0.0, ((u - ax) * dx + (v - ay) * dy) / square))
        ex, ey = u - ax - w * dx, v - ay - w * dy
        best = min(best, ex * ex + ey * ey)
        if (ay > v) != (by > v) and u < ax + (v - ay) / (by - ay) * dx:
            inside = not inside
    return -math.sqrt(best) if inside else math.sqrt(best)
