"""The tightest bend of a wire, and how little its fibres are stretched there, each searched by bounds on
every piece.

On a piece of the wire  J = (a × b) · (o′ + u a′ + v b′)  is a polynomial of degree 14 for each section
point, and affine in the point, so that no fibre of the piece is stretched less than the least of its
Bézier coefficients at the control points of the section's hull. Pieces that could hold less than the least
found so far are halved, and the best place is searched on the exact sweep.
"""

from __future__ import annotations

import math
from collections.abc import Callable
from functools import cache, lru_cache
from math import comb

import numpy as np

from metaspira.gaps.hulls import DEGREE, FACES, HIGH, KIND, LOW, TUBE, Hulls, Indices, hulls_of
from metaspira.numbers.compiled import compiled
from metaspira.numbers.jets import Array
from metaspira.sweep.sweep import Sweep

_PER_TURN = 48
_BLOCK = 4096
_MOST = 1024
_HALVINGS = 8
_TRIED = 64
_ZOOM, _ZOOMS = np.linspace(-1.0, 1.0, 17), 7
_SURE = 2e-4
_LEAST_SIZE = 1e-6
_FACETS = 64


@lru_cache(maxsize=128)
def tightest_bend(sweep: Sweep) -> tuple[float, float]:
    """The greatest curvature of the path, 1/mm, and the true length at which it is."""

    def bend(s: Array) -> Array:
        return np.asarray(-np.linalg.norm(sweep.path.derivatives(s, 2)[2], axis=1))

    if sweep.path.even:
        middle = np.array([0.5 * sweep.length])
        return -float(bend(middle)[0]), float(middle[0])

    def bounds(hulls: Hulls, some: Indices) -> Array:
        length = (hulls.pieces[some, HIGH] - hulls.pieces[some, LOW])[:, None, None]
        return np.asarray(DEGREE * (DEGREE - 1) * np.diff(hulls.frame[some, :, :3], n=2, axis=1) / length**2)

    value, at = _least(sweep, bend, bounds, lambda c: -np.linalg.norm(c, axis=2).max(axis=1))
    return -value, at


@lru_cache(maxsize=128)
def least_stretch(sweep: Sweep) -> tuple[float, float]:
    """The smallest stretch of any fibre, for a unit length of the centre line, and the true length at which
    it is."""
    if sweep.is_tube and sweep.keeps_size:
        bend, at = tightest_bend(sweep)
        return 1 - sweep.outline.reach * bend, at

    def bounds(hulls: Hulls, some: Indices) -> Array:
        count = len(hulls.outer) if hulls.facts[KIND] != TUBE else 1
        found = np.full((len(some), 3 * DEGREE, count), np.inf)
        if hulls.facts[KIND] != TUBE:
            length = hulls.pieces[some, HIGH] - hulls.pieces[some, LOW]
            products = (_products(DEGREE, DEGREE), _products(2 * DEGREE, DEGREE - 1))
            _fill(
                hulls.frame[some],
                hulls.outer,
                length,
                sweep.orientation,
                sweep.keeps_size,
                *products,
                found,
            )
        return found

    return _least(sweep, lambda s: stretch_at(sweep, s), bounds, lambda c: c.min(axis=(1, 2)))


def stretch_at(sweep: Sweep, s: Array) -> Array:
    """The smallest stretch of a fibre at s (n,); 1 where nothing is left of the section."""
    width, _, depth, _ = sweep.scale(s)
    area = width * depth
    least = sweep.jacobian(sweep.frames(s), sweep.ring(s, _FACETS)).min(axis=1)
    some = area > _LEAST_SIZE
    return np.where(some, least / np.where(some, area, 1.0), 1.0)


def _least(
    sweep: Sweep,
    exact: Callable[[Array], Array],
    bounds: Callable[[Hulls, Indices], Array],
    below: Callable[[Array], Array],
) -> tuple[float, float]:
    """The least value of a function of true length, and where. Of each piece `bounds` gives Bézier
    coefficients (n, k, …), and `below` the bound that they are; pieces that could hold less than the least
    known are halved."""
    low, high = sweep.ends[0].length, sweep.length - sweep.ends[1].length
    s = sweep.stations(_PER_TURN, least=17)
    value = np.concatenate([exact(block) for block in np.array_split(s, math.ceil(len(s) / _BLOCK))])
    i = int(np.argmin(value))
    best, at = float(value[i]), float(s[i])
    for hulls in hulls_of(sweep):
        if hulls.facts[KIND] == FACES:
            continue
        shaped = (hulls.pieces[:, LOW] < low - 1e-12) | (hulls.pieces[:, HIGH] > high + 1e-12)
        for some in np.array_split(np.flatnonzero(~shaped), math.ceil(len(shaped) / _BLOCK)):
            if not len(some):
                continue
            places, coefficients = hulls.pieces[some][:, [LOW, HIGH]], bounds(hulls, some)
            for _ in range(_HALVINGS):
                bound = below(coefficients)
                order = np.argsort(bound)[:_MOST]
                open_ = order[bound[order] < best - _SURE * max(abs(best), 1e-3)]
                if not len(open_):
                    break
                places, coefficients = places[open_], coefficients[open_]
                middle = places.mean(axis=1)
                value = exact(middle[:_TRIED])
                i = int(np.argmin(value))
                if value[i] < best:
                    best, at = float(value[i]), float(middle[i])
                places = np.concatenate(
                    [np.column_stack([places[:, 0], middle]), np.column_stack([middle, places[:, 1]])]
                )
                coefficients = np.concatenate(_halves(coefficients))
    return _sharpened(exact, s, best, at)


def _sharpened(exact: Callable[[Array], Array], s: Array, best: float, at: float) -> tuple[float, float]:
    """The least value near a place among stations s (n,), searched ever finer."""
    step = float(np.diff(s).max())
    for _ in range(_ZOOMS):
        places = np.clip(at + step * _ZOOM, 0.0, s[-1])
        value = exact(places)
        i = int(np.argmin(value))
        if value[i] < best:
            best, at = float(value[i]), float(places[i])
        step *= 2 * (_ZOOM[1] - _ZOOM[0])
    return best, at


def _halves(c: Array) -> tuple[Array, Array]:
    left, right = [c[:, 0]], [c[:, -1]]
    while c.shape[1] > 1:
        c = 0.5 * (c[:, :-1] + c[:, 1:])
        left.append(c[:, 0])
        right.append(c[:, -1])
    return np.stack(left, axis=1), np.stack(right[::-1], axis=1)


@cache
def _products(m: int, n: int) -> Array:
    """What the products of Bézier coefficients i and j of degrees m and n weigh in that of i + j, (m + 1, n +
    1)."""
    return np.array(
        [[comb(m, i) * comb(n, j) / comb(m + n, i + j) for j in range(n + 1)] for i in range(m + 1)]
    )


@compiled("f8[:, :, ::1]", "f8[:, ::1]", "f8[::1]", "f8", "b1", "f8[:, ::1]", "f8[:, ::1]", "f8[:, :, ::1]")
def _fill(frame, outer, length, orientation, unit, crossing, dotting, found):  # type: ignore[no-untyped-def]
    """Bézier coefficients of J over the area, of each piece at each control point of the hull, to found (n,
    15, h)."""
    m = outer.shape[1] - 1
    normal, slope, axes = np.empty((11, 3)), np.empty((5, 3)), np.empty((2, 6, 3))
    for i in range(len(frame)):
        axes[:] = 0.0
        for k in range(m):
            for r in range(6):
                for c in range(3):
                    axes[k % 2, r, c] += frame[i, r, 3 + 3 * k + c]
        normal[:] = 0.0
        for r in range(6):
            for q in range(6):
                a, b, w = axes[0, r], axes[1, q], orientation * crossing[r, q]
                normal[r + q, 0] += w * (a[1] * b[2] - a[2] * b[1])
                normal[r + q, 1] += w * (a[2] * b[0] - a[0] * b[2])
                normal[r + q, 2] += w * (a[0] * b[1] - a[1] * b[0])
        area = 1.0 if unit else 1e-300
        for r in range(0 if unit else 11):
            area = max(area, np.sqrt(normal[r, 0] ** 2 + normal[r, 1] ** 2 + normal[r, 2] ** 2))
        for j in range(len(outer)):
            for r in range(5):
                for c in range(3):
                    step = frame[i, r + 1, c] - frame[i, r, c]
                    for k in range(m):
                        step += outer[j, k] * (frame[i, r + 1, 3 + 3 * k + c] - frame[i, r, 3 + 3 * k + c])
                    slope[r, c] = 5.0 * step / (length[i] * area)
            found[i, :, j] = 0.0
            for r in range(11):
                for q in range(5):
                    found[i, r + q, j] += dotting[r, q] * (
                        normal[r, 0] * slope[q, 0] + normal[r, 1] * slope[q, 1] + normal[r, 2] * slope[q, 2]
                    )
