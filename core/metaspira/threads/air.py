"""How near two threads on one screw come to each other, with the interval that holds it for certain.

A place of a thread is (z, r) and its angle θ; along its screw it stands at  ψ = z − kθ,  k = lead / 2π.
Of two places at an angle φ to each other

    d² = Δr² + 2 r₁r₂ (1 − cos φ) + (Δψ + kφ)²  ≥  Δr² + Δψ² A / (A + k²),    A = r₁r₂ (1 − φ²/12)

so that no places are nearer than profiles drawn in (ψ, r) with ψ a little shortened, whatever φ is. A stretch
along the axis between whose ends the levels of a thread vary (see `threads.lay`) is bounded by the most
material that it has anywhere, and halved until the interval is narrow.
"""

from __future__ import annotations

import heapq
import itertools
import math
from collections.abc import Callable, Iterable
from dataclasses import dataclass

import numpy as np

from metaspira.numbers.compiled import compiled
from metaspira.numbers.jets import Array
from metaspira.numbers.once import cached_property
from metaspira.threads.profile import Profile
from metaspira.threads.surface import Leg, ThreadSurface

_PIECES, _PARTS = 24, 8
_NEWTON = 6
_HEIGHTS, _HALVINGS, _AROUND = 17, 20, 64
_WIDTH, _SHARE = 1e-4, 5e-3
_NODES = 400
_FINEST = 1e-6
_ALWAYS = 1e9
_LEVEL = 1e-9
EXACT = 2e-6
"""Threads that overlap by no more, mm, touch."""


@dataclass(frozen=True)
class Air:
    """The least distance of two threads, mm, as measured between two places of them (negative: how deep they
    are in each other), the ends of the interval that holds it for certain, and the heights, mm, between which
    they overlap."""

    value: float
    low: float
    high: float
    overlap: tuple[float, float] | None = None


@dataclass(frozen=True)
class _Stretch:
    """A stretch of a thread between two heights: the base, its taper aside, and both levels of radius at
    either."""

    heights: tuple[float, float]
    base: tuple[float, float]
    low: tuple[float, float]
    high: tuple[float, float]

    @property
    def length(self) -> float:
        return self.heights[1] - self.heights[0]

    @property
    def is_even(self) -> bool:
        return all(abs(b - a) < _LEVEL for a, b in (self.base, self.low, self.high))

    def part(self, first: float, last: float) -> _Stretch:
        """What of it is between two heights."""
        a, b = ((z - self.heights[0]) / self.length for z in (first, last))
        base, low, high = (
            (ends[0] + (ends[1] - ends[0]) * a, ends[0] + (ends[1] - ends[0]) * b)
            for ends in (self.base, self.low, self.high)
        )
        return _Stretch((first, last), base, low, high)


class Member:
    """A thread of two that go into each other: one whose material lies below its profile, or above it; its
    radii grow by `slope` along its taper."""

    def __init__(self, profile: Profile, below: bool, stretches: Iterable[_Stretch], slope: float = 0.0):
        self.profile, self.below, self.stretches, self.slope = profile, below, tuple(stretches), slope

    @classmethod
    def endless(cls, profile: Profile, below: bool) -> Member:
        """A thread that has its full form everywhere."""
        ends = (-_ALWAYS, _ALWAYS)
        return cls(profile, below, [_Stretch(ends, (0.0, 0.0), ends[:1] * 2, ends[1:] * 2)])

    @classmethod
    def of(cls, surface: ThreadSurface, below: bool) -> Member:
        """A thread as it is built on a rod or in a bore, or on their taper."""
        first = surface.legs[0].outline.points
        slope = float((first[-1, 0] - first[0, 0]) / (first[-1, 1] - first[0, 1]))
        return cls(surface.profile, below, [_stretch(leg, slope) for leg in surface.legs], slope)

    @cached_property
    def line(self) -> Array:
        """The profile (k, 2) in (ψ, r) over one pitch, in chords."""
        return self.profile.line(_PIECES)

    @cached_property
    def chord(self) -> float:
        """How far the chords are off the profile, mm."""
        found = [0.0]
        for edge in (*self.profile.rising.edges, *self.profile.falling.edges):
            if not edge.is_line:
                t = np.linspace(0.0, 1.0, 2 * _PIECES + 1)
                place = edge.at(t)[0]
                off = place[1::2] - 0.5 * (place[:-1:2] + place[2::2])
                found.append(1.1 * float(np.linalg.norm(off, axis=1).max()))
        return max(found)

    def most(self, stretch: _Stretch) -> Array:
        """The line (k, 2) around the most material that a stretch has anywhere, its taper aside."""
        pick = max if self.below else min
        return _held(self.line, pick(stretch.base), pick(stretch.low), pick(stretch.high))

    def lifts(self, stretch: _Stretch) -> tuple[float, float]:
        """The least and the most by which the taper raises the radii of a stretch."""
        low, high = sorted(self.slope * z for z in stretch.heights)
        return low, high

    def radii(self, stretch: _Stretch, z: float, along: Array) -> Array:
        """Radii (n,) of the surface at a height, at places (n,) along the screw."""
        line = self.most(stretch.part(z, z))
        start = line[0, 0]
        found = np.interp(start + (along - start) % self.profile.pitch, line[:, 0], line[:, 1])
        return np.asarray(found + self.slope * z)


def _stretch(leg: Leg, slope: float) -> _Stretch:
    (r0, z0), (r1, z1) = leg.outline.points[[0, -1]].tolist()
    return _Stretch((z0, z1), (r0 - slope * z0, r1 - slope * z1), leg.low, leg.high)


def _held(line: Array, base: float, low: float, high: float) -> Array:
    """A profile's line between two levels, on its base."""
    r0, step = line[:-1, 1], np.diff(line[:, 1])
    shares = np.zeros((len(r0), 3))
    for k, level in enumerate((low, high)):
        share = np.divide(level - r0, step, out=np.zeros_like(r0), where=step != 0)
        shares[:, k + 1] = np.where((share > 0) & (share < 1), share, 0.0)
    rows = line[:-1, None] + np.sort(shares, axis=1)[..., None] * np.diff(line, axis=0)[:, None]
    rows = np.concatenate([rows.reshape(-1, 2), line[-1:]])
    return np.column_stack([rows[:, 0], base + np.minimum(np.maximum(rows[:, 1], low), high)])


def air_between(one: Member, two: Member, lead: float, allowed: float = EXACT) -> Air:
    """The air between an external thread and an internal one on one screw and one taper. Where they overlap
    by no more than `allowed` mm they touch."""
    return overlap_between(one, two, lead, allowed) or _searched(one, two, lead, allowed)


def overlap_between(one: Member, two: Member, lead: float, allowed: float = EXACT) -> Air | None:
    """How deep two threads are in each other, if by more than is allowed: the deepest of axial planes at
    heights, close to each other wherever the most material of both overlaps."""
    deepest, spans = 0.0, []
    for a, b in itertools.product(one.stretches, two.stretches):
        if _shared(a, b) <= 0:
            continue
        low, high = max(a.heights[0], b.heights[0]), min(a.heights[1], b.heights[1])

        def deep(low: float, high: float, a: _Stretch = a, b: _Stretch = b) -> float:
            lines = one.most(a.part(low, high)), two.most(b.part(low, high))
            return _depth(*lines, one.profile.pitch)

        if deep(low, high) <= allowed:
            continue
        z = np.linspace(low, high, 2 if a.is_even and b.is_even else _HEIGHTS)
        depths = np.array([deep(float(at), float(at)) for at in z])
        meet = np.flatnonzero(depths > allowed)
        if len(meet):
            deepest = max(deepest, float(depths.max()))
            for last, beyond in ((meet[0], meet[0] - 1), (meet[-1], meet[-1] + 1)):
                inside = 0 <= beyond < len(z)
                spans.append(_edge(deep, z[last], z[beyond], allowed) if inside else float(z[last]))
    if not spans:
        return None
    radius = max(one.profile.inner, _LEVEL)
    value = -deepest * math.cos(math.atan2(lead, 2 * math.pi * radius))
    return Air(value, -deepest, value, (min(spans), max(spans)))


def _edge(deep: Callable[[float, float], float], inside: float, outside: float, allowed: float) -> float:
    """The height at which an overlap ends, between one inside and one outside of it."""
    for _ in range(_HALVINGS):
        middle = 0.5 * (inside + outside)
        inside, outside = (middle, outside) if deep(middle, middle) > allowed else (inside, middle)
    return float(inside)


def _depth(outer: Array, inner: Array, pitch: float) -> float:
    """How deep the lines of an external and an internal thread are in each other in an axial plane: the
    deepest corner of either in the other, 0 where there is none."""
    return max(_deepest(inner, _thrice(outer, pitch), 1.0), _deepest(outer, _thrice(inner, pitch), -1.0))


@compiled("f8[:, ::1]", "f8[:, ::1]", "f8")
def _deepest(corners, line, side):  # type: ignore[no-untyped-def]
    """How deep the deepest of some corners (n, 2) is below a line (m, 2) along ψ, or above it where `side` is
    −1; 0 where none is."""
    deepest = 0.0
    k = 0
    for i in range(len(corners)):
        x, y = corners[i, 0], corners[i, 1]
        while k < len(line) - 2 and line[k + 1, 0] < x:
            k += 1
        while k > 0 and line[k, 0] > x:
            k -= 1
        step = line[k + 1, 0] - line[k, 0]
        share = 0.0 if step == 0.0 else min(1.0, max(0.0, (x - line[k, 0]) / step))
        if side * (line[k, 1] + share * (line[k + 1, 1] - line[k, 1]) - y) <= deepest:
            continue
        least = np.inf
        for j in range(len(line) - 1):
            least = min(least, _foot(corners[i], line[j], line[j + 1], 1.0)[0])
        deepest = max(deepest, math.sqrt(least))
    return deepest


@compiled()
def _foot(place, start, end, short):  # type: ignore[no-untyped-def]
    """The squared distance of a place from a straight part whose ψ is shortened, and the share of it at which
    it is nearest."""
    dx, dy = short * (end[0] - start[0]), end[1] - start[1]
    ex, ey = short * (place[0] - start[0]), place[1] - start[1]
    square = dx * dx + dy * dy
    share = 0.0 if square == 0.0 else min(1.0, max(0.0, (dx * ex + dy * ey) / square))
    return (ex - share * dx) ** 2 + (ey - share * dy) ** 2, share


def _thrice(line: Array, pitch: float) -> Array:
    """A pitch's line with those before and after it."""
    return np.concatenate([line + np.array([k * pitch, 0.0]) for k in (-1, 0, 1)])


def _searched(one: Member, two: Member, lead: float, allowed: float) -> Air:
    """The least distance of threads that do not overlap, by branch and bound over pairs of stretches."""
    rise = lead / (2 * math.pi)
    sheared = 1 - abs(one.slope) / 2
    best = certain = math.inf
    count = itertools.count()
    queue: list[tuple[float, int, _Stretch, _Stretch]] = []
    for a, b in itertools.product(one.stretches, two.stretches):
        heapq.heappush(queue, (_far(one, two, a, b), next(count), a, b))
    seen = 0
    while queue:
        low, _, a, b = heapq.heappop(queue)
        if seen == _NODES or low >= best - max(_WIDTH, _SHARE * best):
            certain = min(certain, low)
            break
        seen += 1
        bound, places = _bound(one, two, a, b, rise, best)
        low = max(low, sheared * bound)
        shift = _shift(places, lead)
        known, best = best, min(best, _measured(one, two, a, b, places, shift, rise))
        if best < known:
            low = max(low, sheared * _bound(one, two, a, b, rise, best)[0])
        along = abs(places[1, 0] - places[0, 0] + rise * shift)
        if (a.is_even and b.is_even and _shared(a, b) > 2 * along) or max(a.length, b.length) < _FINEST:
            certain = min(certain, low)
        elif low < best:
            for first, second in _halves(a, b):
                entry = max(low, _far(one, two, first, second)), next(count), first, second
                heapq.heappush(queue, entry)
    certain = max(min(certain, best) - one.chord - two.chord, 0.0)
    return Air(0.0 if best <= allowed else best, certain, best)


def _far(one: Member, two: Member, a: _Stretch, b: _Stretch) -> float:
    """A distance that two stretches keep by their heights and radii."""
    along = max(b.heights[0] - a.heights[1], a.heights[0] - b.heights[1], 0.0)
    top = max(a.base) + min(max(one.profile.outer, *a.low), max(a.high)) + one.lifts(a)[1]
    bottom = min(b.base) + max(min(two.profile.inner, *b.high), min(b.low)) + two.lifts(b)[0]
    return math.hypot(along, max(bottom - top, 0.0))


def _shared(a: _Stretch, b: _Stretch) -> float:
    """The height that two stretches share; negative where there is some between them."""
    return min(a.heights[1], b.heights[1]) - max(a.heights[0], b.heights[0])


def _halves(a: _Stretch, b: _Stretch) -> list[tuple[_Stretch, _Stretch]]:
    """The pair with the longer one halved."""
    split = a if a.length >= b.length else b
    low, high = split.heights
    parts = [split.part(low, 0.5 * (low + high)), split.part(0.5 * (low + high), high)]
    return [(part, b) if split is a else (a, part) for part in parts]


def _bound(
    one: Member, two: Member, a: _Stretch, b: _Stretch, rise: float, best: float
) -> tuple[float, Array]:
    """A distance that no places of two stretches are below, their taper aside, and the places (2, 2) in (ψ,
    r) between which it is."""
    first = _parts(one.most(a))
    second = _parts(_thrice(two.most(b), two.profile.pitch))
    lifts, places = (one.lifts(a)[0], two.lifts(b)[0]), np.empty((2, 2))
    return math.sqrt(_nearest(first, second, *lifts, rise, best, places)), places


def _parts(line: Array) -> Array:
    """Parts (n, 2, 2) of a line's pieces, the long ones cut."""
    step = np.diff(line, axis=0)
    longest = np.abs(step).max(axis=1)
    some = longest > 0
    count = np.ceil(_PARTS * longest[some] / longest.max()).astype(int)
    share = (np.arange(count.sum()) - np.repeat(np.cumsum(count) - count, count)) / np.repeat(count, count)
    low, step = (np.repeat(rows[some], count, axis=0) for rows in (line[:-1], step))
    first = low + share[:, None] * step
    return np.stack([first, first + step / np.repeat(count, count)[:, None]], axis=1)


@compiled("f8[:, :, ::1]", "f8[:, :, ::1]", "f8", "f8", "f8", "f8", "f8[:, ::1]")
def _nearest(one, two, lift1, lift2, rise, best, places):  # type: ignore[no-untyped-def]
    """The least squared bound over all parts of one (n, 2, 2) and of two (m, 2, 2), 0 where they cross, and
    the places (2, 2) where it is."""
    found = np.inf
    p, q = np.empty(2), np.empty(2)
    shortest = _shortened(one[:, :, 1].min() + lift1, two[:, :, 1].min() + lift2, rise, best)
    for i in range(len(one)):
        x0, x1 = min(one[i, 0, 0], one[i, 1, 0]), max(one[i, 0, 0], one[i, 1, 0])
        y0, y1 = min(one[i, 0, 1], one[i, 1, 1]), max(one[i, 0, 1], one[i, 1, 1])
        for j in range(len(two)):
            x2, x3 = min(two[j, 0, 0], two[j, 1, 0]), max(two[j, 0, 0], two[j, 1, 0])
            y2, y3 = min(two[j, 0, 1], two[j, 1, 1]), max(two[j, 0, 1], two[j, 1, 1])
            along, off = shortest * max(x2 - x1, x0 - x3, 0.0), max(y2 - y1, y0 - y3, 0.0)
            if along * along + off * off >= found:
                continue
            square = _between(one[i], two[j], _shortened(y0 + lift1, y2 + lift2, rise, best), p, q)
            if square < found:
                found = square
                places[0], places[1] = p, q
    return found


@compiled()
def _shortened(r1, r2, rise, best):  # type: ignore[no-untyped-def]
    """By what ψ is shortened at radii of no less than r1 and r2, for places no farther apart than `best`."""
    if rise == 0.0:
        return 1.0
    product = max(r1, 0.0) * max(r2, 0.0)
    turned = math.pi
    if best < 2 * math.sqrt(product):
        turned = 2 * math.asin(best / 2 / math.sqrt(product))
    product *= 1 - turned**2 / 12
    return math.sqrt(product / (product + rise**2))


@compiled()
def _between(a, b, short, p, q):  # type: ignore[no-untyped-def]
    """The squared distance of two straight parts whose ψ is shortened, and the places p and q between which
    it is."""
    ux, uy = short * (a[1, 0] - a[0, 0]), a[1, 1] - a[0, 1]
    vx, vy = short * (b[1, 0] - b[0, 0]), b[1, 1] - b[0, 1]
    wx, wy = short * (b[0, 0] - a[0, 0]), b[0, 1] - a[0, 1]
    cross = ux * vy - uy * vx
    if abs(cross) > 1e-14:
        s, t = (wx * vy - wy * vx) / cross, (wx * uy - wy * ux) / cross
        if 0.0 <= s <= 1.0 and 0.0 <= t <= 1.0:
            for c in range(2):
                p[c] = a[0, c] + s * (a[1, c] - a[0, c])
                q[c] = p[c]
            return 0.0
    least = np.inf
    for k in range(4):
        base, end = (a, b[k % 2]) if k < 2 else (b, a[k % 2])
        square, share = _foot(end, base[0], base[1], short)
        if square < least:
            least = square
            for c in range(2):
                foot = base[0, c] + share * (base[1, c] - base[0, c])
                p[c], q[c] = (foot, end[c]) if k < 2 else (end[c], foot)
    return least


def _shift(places: Array, lead: float) -> float:
    """The angle φ at which two places (2, 2) in (ψ, r) of two screws are nearest, by Newton's method from 0,
    near which it is for surfaces this close."""
    rise = lead / (2 * math.pi)
    product, along = float(places[0, 1] * places[1, 1]), float(places[1, 0] - places[0, 0])
    phi = 0.0
    for _ in range(_NEWTON):
        slope = product * math.sin(phi) + rise * (along + rise * phi)
        phi -= slope / (product * max(math.cos(phi), 0.1) + rise**2)
        phi = min(max(phi, -1.5), 1.5)
    return phi


def _measured(
    one: Member, two: Member, a: _Stretch, b: _Stretch, places: Array, shift: float, rise: float
) -> float:
    """The distance of two actual places on two stretches, near `places` or where the stretches are
    nearest."""
    z1 = min(max(0.5 * sum(b.heights), a.heights[0]), a.heights[1])
    if _shared(a, b) > 0:
        z1 = 0.5 * (max(a.heights[0], b.heights[0]) + min(a.heights[1], b.heights[1]))
    along = float(places[0, 0]) + one.profile.pitch * np.arange(_AROUND) / _AROUND
    least = math.inf
    for phi, wanted in ((shift, z1 + float(places[1, 0] - places[0, 0]) + rise * shift), (0.0, z1)):
        z2 = min(max(wanted, b.heights[0]), b.heights[1])
        r1 = one.radii(a, z1, along)
        r2 = np.maximum(two.radii(b, z2, along + (z2 - z1) - rise * phi), r1)
        square = (r2 - r1) ** 2 + 2 * r1 * r2 * (1 - math.cos(phi)) + (z2 - z1) ** 2
        least = min(least, math.sqrt(float(square.min())))
    return least
