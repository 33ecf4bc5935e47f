"""How near the wire comes to itself: the smallest distance between parts that are not neighbours.

Two places of the wire are not neighbours where the distance between them has a minimum of its own,
away from s₁ = s₂ (the doubly critical distance of Gonzalez and Maddocks, PNAS 96 (1999) 4769).

Tube (round, square to the wire, centred on the path): f(s₁, s₂) = |x(s₁) − x(s₂)| − r(s₁) − r(s₂),
minimised by Newton's method from a sampled start: exact to rounding. With a size that changes, r(s) is
the radius of the ball around x(s), which contains the section: never more air than there is.

Any other section: each point P of the outline at s₁ is carried into the section's plane at the s₂ where
that plane holds P, and its signed distance to the outline is taken there, so that P is inside the wire
exactly where it is negative; outside, the distance is then minimised over s₂. The frames between
stations are cubic Hermite; `error` states what sampling and interpolation can amount to.
"""

from __future__ import annotations

import math
from dataclasses import dataclass
from functools import lru_cache

import numpy as np
from numba import njit
from numpy.typing import NDArray
from scipy.spatial import cKDTree

from metaspira.checks.check import WHOLE, Lane, Window
from metaspira.paths.quadrature import Array
from metaspira.sections.outline import Outline
from metaspira.sweep.frames import Frames
from metaspira.sweep.sweep import Sweep

_PER_TURN = 32
_PROBES = 24
_NEIGHBOUR_TURN = math.pi / 2
_ZOOM_POINTS = 20
_CROWD = 64
_CROWDED_PAIRS = 1e6

Ints = NDArray[np.int64]


@dataclass(frozen=True)
class Gaps:
    """`smallest` gap in mm (negative: depth of overlap; None: nothing to meet), the two places
    `at` where it is, `point` between them in space, the gap along the wire, and the stated error."""

    smallest: float | None
    at: tuple[float, float]
    point: tuple[float, float, float]
    lane: Lane
    error: float


@lru_cache(maxsize=64)
def self_gaps(sweep: Sweep, window: Window) -> Gaps:
    """The gaps of a sweep to itself. `window` limits the search to a share of the wire (from, to)."""
    s = _stations(sweep, window)
    if sweep.is_tube:
        return _tube(sweep, s)
    return _swept(sweep, s)


def _stations(sweep: Sweep, window: Window) -> Array:
    s = sweep.stations(_PER_TURN, least=9)
    if window == WHOLE:
        return s
    low, high = window[0] * sweep.length, window[1] * sweep.length
    inner = s[(s > low) & (s < high)]
    return np.concatenate([[low], inner, [high]])


def _none(s: Array) -> Gaps:
    return Gaps(None, (0.0, 0.0), (0.0, 0.0, 0.0), Lane(s, np.full_like(s, np.nan)), 0.0)


# --- which stations can meet at all


def _turned(sweep: Sweep, s: Array) -> Array:
    """Angle by which the path itself has turned at s; zero all along a straight path."""
    return sweep.path.parameter(s) if sweep.path.coil is not None else np.zeros_like(s)


def _reach_of_search(centre: Array, turned: Array, size: float) -> float:
    """A distance within which every station's nearest stranger lies, judged by a few of them."""
    nearest = []
    for i in np.unique(np.linspace(0, len(centre) - 1, _PROBES).astype(int)):
        distance = np.linalg.norm(centre - centre[i], axis=1)
        low = _is_minimum(distance) & (np.abs(turned - turned[i]) > _NEIGHBOUR_TURN)
        if low.any():
            nearest.append(float(distance[low].min()))
    return max(1.1 * max(nearest, default=0.0), 2.1 * size)


def _is_minimum(value: Array) -> NDArray[np.bool_]:
    padded = np.concatenate([[np.inf], value, [np.inf]])
    return (value <= padded[:-2]) & (value <= padded[2:])


def _pairs(centre: Array, within: float) -> Ints:
    """Pairs (m, 2) of stations within a distance of each other; of a wire packed so densely that they
    would not fit in memory (it overlaps for certain), the pairs among its first stations."""
    n = len(centre)
    probes = centre[np.linspace(0, n - 1, _PROBES).astype(int)]
    tree = cKDTree(centre)
    near = tree.query_ball_point(probes, within, return_length=True)
    expected = float(np.mean(near)) * n / 2
    if expected > max(_CROWD * n, _CROWDED_PAIRS):
        tree = cKDTree(centre[: math.ceil(n * math.sqrt(_CROWDED_PAIRS / expected))])
    pairs = tree.query_pairs(within, output_type="ndarray")
    return np.asarray(pairs, dtype=np.int64).reshape(-1, 2)


# --- tubes


def _tube(sweep: Sweep, s: Array) -> Gaps:
    centre = sweep.path.at(s).position
    radius = sweep.outline.reach * np.maximum(sweep.size(s)[0], 0.0)
    turned = _turned(sweep, s)
    pairs = _pairs(centre, _reach_of_search(centre, turned, float(radius.max())))
    pairs = pairs[turned[pairs[:, 1]] - turned[pairs[:, 0]] > _NEIGHBOUR_TURN]
    i, j = np.concatenate([pairs, pairs[:, ::-1]]).T
    gap = _ball_gap(centre, radius, i, j)
    before = np.where(j > 0, _ball_gap(centre, radius, i, np.maximum(j - 1, 0)), np.inf)
    last = len(s) - 1
    after = np.where(j < last, _ball_gap(centre, radius, i, np.minimum(j + 1, last)), np.inf)
    low = (gap <= before) & (gap <= after)
    if not low.any():
        return _none(s)
    i, j, gap = i[low], j[low], gap[low]
    order = np.lexsort((gap, i))
    i, j = i[order], j[order]
    first = np.concatenate([[True], i[1:] != i[:-1]])
    i, j = i[first], j[first]
    bounds = (s[np.maximum(j - 1, 0)], s[np.minimum(j + 1, last)])
    second, gap = _newton_one(sweep, s[i], s[j], bounds)
    lane = np.full_like(s, np.nan)
    lane[i] = gap
    best = np.argsort(gap)[:8]
    pair, smallest = _newton_two(sweep, s[i[best]], second[best], s)
    ends = sweep.path.at(np.array(pair)).position
    middle = ends.mean(axis=0)
    return Gaps(smallest, pair, (middle[0], middle[1], middle[2]), Lane(s, lane), 0.0)


def _ball_gap(centre: Array, radius: Array, i: Ints, j: Ints) -> Array:
    return np.asarray(np.linalg.norm(centre[i] - centre[j], axis=1) - radius[i] - radius[j])


@dataclass(frozen=True)
class _Local:
    """f and its derivatives by s₁ and s₂, each (n,)."""

    f: Array
    f1: Array
    f2: Array
    f11: Array
    f12: Array
    f22: Array


def _ball_gap_at(sweep: Sweep, s1: Array, s2: Array) -> _Local:
    one, two = sweep.path.at(s1), sweep.path.at(s2)
    reach = sweep.outline.reach
    (size1, rate1), (size2, rate2) = sweep.size(s1), sweep.size(s2)
    delta = one.position - two.position
    distance = np.maximum(np.linalg.norm(delta, axis=1), 1e-12)
    u = delta / distance[:, None]
    u1 = np.einsum("ij,ij->i", u, one.tangent)
    u2 = np.einsum("ij,ij->i", u, two.tangent)
    k1 = np.einsum("ij,ij->i", delta, one.curvature)
    k2 = np.einsum("ij,ij->i", delta, two.curvature)
    tangents = np.einsum("ij,ij->i", one.tangent, two.tangent)
    return _Local(
        distance - reach * (np.maximum(size1, 0) + np.maximum(size2, 0)),
        u1 - reach * rate1,
        -u2 - reach * rate2,
        (1 + k1 - u1 * u1) / distance,
        (u1 * u2 - tangents) / distance,
        (1 - k2 - u2 * u2) / distance,
    )


def _newton_one(sweep: Sweep, s1: Array, s2: Array, bounds: tuple[Array, Array]) -> tuple[Array, Array]:
    """The s₂ (n,) nearest to each s₁, within bounds, and the gap there."""
    local = _ball_gap_at(sweep, s1, s2)
    for _ in range(8):
        safe = np.where(local.f22 > 0, local.f22, np.inf)
        step = np.clip(s2 - local.f2 / safe, *bounds) - s2
        if np.all(np.abs(step) < 1e-12 * sweep.length):
            break
        s2 = s2 + step
        local = _ball_gap_at(sweep, s1, s2)
    return s2, local.f


def _newton_two(sweep: Sweep, s1: Array, s2: Array, s: Array) -> tuple[tuple[float, float], float]:
    """The smallest f within a station's distance of the starts s₁, s₂ (n,)."""
    bounds = (s[0], s[-1])
    best = ((float(s1[0]), float(s2[0])), math.inf)
    near = float(np.diff(s).max())
    low1, high1 = (np.clip(s1 + sign * near, *bounds) for sign in (-1, 1))
    low2, high2 = (np.clip(s2 + sign * near, *bounds) for sign in (-1, 1))
    for _ in range(12):
        local = _ball_gap_at(sweep, s1, s2)
        at = int(np.argmin(local.f))
        if local.f[at] < best[1]:
            best = ((float(s1[at]), float(s2[at])), float(local.f[at]))
        if np.all(np.abs(local.f1) + np.abs(local.f2) < 1e-12):
            break
        damping = 1e-9 * (np.abs(local.f11) + np.abs(local.f22)) + 1e-300
        a, b, c = local.f11 + damping, local.f12, local.f22 + damping
        determinant = a * c - b * b
        convex = (determinant > 1e-12 * a * c) & (a > 0)
        scale = np.where(convex, determinant, np.inf)
        step = np.stack([(c * local.f1 - b * local.f2) / scale, (a * local.f2 - b * local.f1) / scale])
        if np.all(np.abs(step) < 1e-13 * sweep.length):
            break
        s1 = np.clip(s1 - step[0], low1, high1)
        s2 = np.clip(s2 - step[1], low2, high2)
    return best


# --- any section


def _swept(sweep: Sweep, s: Array) -> Gaps:
    size = sweep.size(s)[0]
    if np.any(size <= 0):
        s = s[size > 1e-6]
        if len(s) < 3:
            return _none(s)
    outline = sweep.outline
    frames = sweep.frames(s)
    samples = _samples(sweep, 6)
    table = _table(frames)
    polygon = np.ascontiguousarray(outline.ring(360).points)
    u0, u1, v0, v1 = outline.box
    middle = np.array([[0.5 * (u0 + u1), 0.5 * (v0 + v1)]])
    centre = frames.points(middle)[:, 0]
    reach = 0.5 * math.hypot(u1 - u0, v1 - v0) * float(np.abs(size).max())
    turned = _turned(sweep, s)
    near = _reach_of_search(centre, turned, 0.0) + 2.05 * reach
    pairs = _pairs(centre, near)
    pairs = pairs[pairs[:, 1] - pairs[:, 0] > 1]
    both = np.concatenate([pairs, pairs[:, ::-1]])
    both = both[np.lexsort((both[:, 1], both[:, 0]))]
    first = np.searchsorted(both[:, 0], np.arange(len(s) + 1))
    coarse = np.ascontiguousarray(outline.ring(48).points)
    points = np.ascontiguousarray(frames.points(samples))
    gap, k, t = _nearest_strangers(points, first, np.ascontiguousarray(both[:, 1]), table, coarse)
    lane = np.where(np.isfinite(gap), gap, np.nan)
    if np.all(np.isnan(lane)):
        return _none(s)
    i = int(np.nanargmin(lane))
    return _zoomed(sweep, s, lane, i, samples, int(k[i]), float(t[i]), table, polygon)


def _samples(sweep: Sweep, pieces: int) -> Array:
    """Points (k, 2) around the outline: curved edges every 1/24 turn, lines in `pieces`."""
    ring = sweep.outline.ring(24)
    points = []
    for index, edge in enumerate(sweep.outline.edges):
        t = np.linspace(0, 1, pieces + 1)[:-1] if edge.is_line else ring.t[ring.edge == index]
        points.append(edge.at(t)[0])
    return np.concatenate(points)


@lru_cache(maxsize=64)
def _around(outline: Outline) -> Array:
    """The outline (n, 2) as finely as the zoom ends."""
    return outline.ring(1440, 256).points


def _table(frames: Frames) -> Array:
    """Frames as one array (n, 21): o, a, b, their derivatives, and the unit normal of the plane."""
    normal = frames.normal / np.maximum(np.linalg.norm(frames.normal, axis=1, keepdims=True), 1e-300)
    columns = [getattr(frames, name) for name in Frames.__annotations__]
    return np.ascontiguousarray(np.concatenate([*columns, normal], axis=1))


def _zoomed(
    sweep: Sweep,
    s: Array,
    lane: Array,
    i: int,
    samples: Array,
    k: int,
    t: float,
    table: Array,
    polygon: Array,
) -> Gaps:
    """The smallest gap, searched ever finer around outline point k of station i."""
    around = _around(sweep.outline)
    half = (s[min(i + 1, len(s) - 1)] - s[max(i - 1, 0)]) / 2
    spread = float(np.linalg.norm(samples - np.roll(samples, 1, axis=0), axis=1).max())
    place, uv, where = float(s[i]), samples[k], t
    smallest, before = float(lane[i]), math.inf
    for _ in range(7):
        away = np.linalg.norm(around - uv, axis=1)
        nearby = around[away <= spread]
        nearby = np.concatenate([uv[None], nearby[:: max(1, len(nearby) // _ZOOM_POINTS)]])
        stations = np.unique(np.clip(place + half * np.linspace(-1, 1, 7), s[0], s[-1]))
        points = sweep.frames(stations).points(nearby).reshape(-1, 3)
        gap, at = _distances_near(points, int(where), table, polygon)
        best = int(np.argmin(gap))
        before = smallest
        if gap[best] < smallest:
            smallest = float(gap[best])
            place, where = float(stations[best // len(nearby)]), float(at[best])
            uv = nearby[best % len(nearby)]
        half, spread = half / 3, spread / 2
    j = min(int(where), len(s) - 2)
    other = float(s[j] + (where - j) * (s[j + 1] - s[j]))
    point = sweep.frames(np.array([place])).points(uv[None])[0, 0]
    error = abs(before - smallest) + _interpolation_error(table, s) + _chord(polygon)
    return Gaps(smallest, (place, other), (point[0], point[1], point[2]), Lane(s, lane), error)


def _interpolation_error(table: Array, s: Array) -> float:
    """h⁴/384 · |x⁗|, with |x⁗| from differences of the third order of the tangents."""
    if len(s) < 5:
        return 0.0
    third = np.abs(np.diff(table[:, 9:12], n=3, axis=0)).max()
    return float(third * np.diff(s).max() / 384)


def _chord(polygon: Array) -> float:
    size = float(np.linalg.norm(polygon, axis=1).max())
    return size * (1 - math.cos(math.pi / 360))


@njit(cache=True)
def _nearest_strangers(points, first, other, table, polygon):  # type: ignore[no-untyped-def]
    """For each station: least signed distance of its points to other parts, the point, the place."""
    n, k = points.shape[0], points.shape[1]
    gap = np.full(n, np.inf)
    which = np.zeros(n, dtype=np.int64)
    place = np.zeros(n)
    reach = _farthest(polygon)
    for i in range(n):
        for q in range(first[i], first[i + 1]):
            j = other[q]
            if j + 1 >= n or abs(i - j - 1) <= 1:
                continue
            for p in range(k):
                d, t = _plane_distance(points[i, p], j, table, polygon, reach, gap[i])
                if d < gap[i]:
                    gap[i], which[i], place[i] = d, p, j + t
        if np.isfinite(gap[i]) and gap[i] > 0:
            gap[i], place[i] = _nearest_in_space(points[i, which[i]], place[i], table, polygon)
    return gap, which, place


@njit(cache=True)
def _distances_near(points, j, table, polygon):  # type: ignore[no-untyped-def]
    """Signed distances of points (m, 3) to the wire near station j, and the places."""
    m, n = points.shape[0], table.shape[0]
    gap = np.full(m, np.inf)
    place = np.zeros(m)
    reach = _farthest(polygon)
    for p in range(m):
        for step in range(max(0, j - 2), min(n - 1, j + 3)):
            d, t = _plane_distance(points[p], step, table, polygon, reach, gap[p])
            if d < gap[p]:
                gap[p], place[p] = d, step + t
        if np.isfinite(gap[p]) and gap[p] > 0:
            gap[p], place[p] = _nearest_in_space(points[p], place[p], table, polygon)
    return gap, place


@njit(cache=True)
def _farthest(polygon):  # type: ignore[no-untyped-def]
    best = 0.0
    for i in range(polygon.shape[0]):
        best = max(best, math.hypot(polygon[i, 0], polygon[i, 1]))
    return best


@njit(cache=True)
def _plane_distance(point, j, table, polygon, reach, enough):  # type: ignore[no-untyped-def]
    """Signed distance in the section's plane between stations j and j+1 that holds the point.

    (inf, 0) where no plane there does, or where the distance is above `enough` for certain."""
    low = _station_height(point, table, j)
    high = _station_height(point, table, j + 1)
    if low * high > 0 or low == high:
        return np.inf, 0.0
    t = low / (low - high)
    row = _between(table, j, t)
    away = 0.0
    size = 0.0
    for c in range(3):
        away += (point[c] - row[c]) ** 2
        size += row[3 + c] ** 2
    if math.sqrt(away) - 1.05 * reach * math.sqrt(size) > enough:
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
    u, v, size = _in_plane(point, row)
    return size * _signed_distance(u, v, polygon), t


@njit(cache=True)
def _nearest_in_space(point, place, table, polygon):  # type: ignore[no-untyped-def]
    """Least distance of a point outside to the sections around `place` (station number)."""
    n = table.shape[0]
    low, high = max(0.0, place - 1.0), min(n - 1.0, place + 1.0)
    ratio = 0.6180339887498949
    a, b = high - ratio * (high - low), low + ratio * (high - low)
    fa, fb = _space_distance(point, a, table, polygon), _space_distance(point, b, table, polygon)
    for _ in range(20):
        if fa < fb:
            high, b, fb = b, a, fa
            a = high - ratio * (high - low)
            fa = _space_distance(point, a, table, polygon)
        else:
            low, a, fa = a, b, fb
            b = low + ratio * (high - low)
            fb = _space_distance(point, b, table, polygon)
    return min(fa, fb), 0.5 * (low + high)


@njit(cache=True)
def _space_distance(point, place, table, polygon):  # type: ignore[no-untyped-def]
    j = min(int(place), table.shape[0] - 2)
    row = _between(table, j, place - j)
    u, v, size = _in_plane(point, row)
    flat = max(0.0, size * _signed_distance(u, v, polygon))
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
    """Section coordinates (u, v) of a point, and the size factor."""
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
        return 0.0, 0.0, 0.0
    return (bb * pa - ab * pb) / det, (aa * pb - ab * pa) / det, math.sqrt(math.sqrt(det))


@njit(cache=True)
def _signed_distance(u, v, polygon):  # type: ignore[no-untyped-def]
    """Distance to a closed polygon (m, 2), negative inside."""
    m = polygon.shape[0]
    best = np.inf
    inside = False
    for i in range(m):
        ax, ay = polygon[i, 0], polygon[i, 1]
        bx, by = polygon[(i + 1) % m, 0], polygon[(i + 1) % m, 1]
        dx, dy = bx - ax, by - ay
        square = dx * dx + dy * dy
        t = 0.0
        if square > 0:
            t = min(1.0, max(0.0, ((u - ax) * dx + (v - ay) * dy) / square))
        ex, ey = u - ax - t * dx, v - ay - t * dy
        best = min(best, ex * ex + ey * ey)
        if (ay > v) != (by > v) and u < ax + (v - ay) / (by - ay) * dx:
            inside = not inside
    return -math.sqrt(best) if inside else math.sqrt(best)
