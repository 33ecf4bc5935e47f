"""Extents: how far the swept surface reaches from the z axis, and along it."""

from __future__ import annotations

import math
from dataclasses import dataclass
from functools import lru_cache

import numpy as np
from numba import njit

from metaspira.numbers.jets import Array
from metaspira.sweep.ground import ground_planes
from metaspira.sweep.sweep import Sweep

_MOST_STATIONS = 4000
_FINE = 1440
_NEAR = 64
_STEPS = 9


@dataclass(frozen=True)
class Extents:
    """Largest and smallest distance of the surface from the z axis, and its least and most z; mm."""

    outside_radius: float
    inside_radius: float
    low: float
    high: float

    @property
    def height(self) -> float:
        return self.high - self.low


def joint(parts: list[Extents]) -> Extents:
    """The extents of several bodies together."""
    return Extents(
        max(part.outside_radius for part in parts),
        min(part.inside_radius for part in parts),
        min(part.low for part in parts),
        max(part.high for part in parts),
    )


@lru_cache(maxsize=32)
def extents(sweep: Sweep) -> Extents:
    """Extents of the swept surface: sampled (densest near the ends), then refined."""
    s = sweep.stations(24, least=9)
    ends = 48
    if len(s) > _MOST_STATIONS:
        between = s[np.linspace(ends, len(s) - ends, _MOST_STATIONS).astype(int)]
        s = np.unique(np.concatenate([s[:ends], between, s[-ends:]]))
    low, high, outside, inside = _extremes(sweep, s)
    for plane in ground_planes(sweep):
        low, high = (low, plane.height) if plane.above else (plane.height, high)
    return Extents(outside, inside, low, high)


def _extremes(sweep: Sweep, s: Array) -> tuple[float, float, float, float]:
    """The least and the greatest z, the greatest and the least distance from the z axis: each searched ever finer from
    the best of samples at s (n,)."""
    points = sweep.frames(s).points(sweep.ring(s, 48))
    best, found = _greatest(points.reshape(-1, 3))
    rows, columns = np.divmod(found, points.shape[1])
    coarse = sweep.section.rings(48)[0].points[0]
    fine = sweep.section.rings(_FINE)[0].points
    away = np.linalg.norm(fine[0] - coarse[columns][:, None], axis=2)
    nearest = np.argsort(away, axis=1)[:, :_NEAR]
    centres, half, gained = s[rows], float(np.diff(s).max()), np.empty(4)
    for _ in range(8):
        places = centres[:, None] + half * np.linspace(-1, 1, _STEPS)
        places = np.clip(places, 0.0, sweep.length)
        uv = [
            np.broadcast_to(sweep.uv(fine[:, near], at), (_STEPS, len(near), 2))
            for near, at in zip(nearest, places, strict=True)
        ]
        points = sweep.frames(places.ravel()).points(np.concatenate(uv))
        for k, each in enumerate(points.reshape(4, -1, 3)):
            values, at = _greatest(each)
            gained[k] = values[k] - best[k]
            centres[k] = places[k, at[k] // nearest.shape[1]]
        half /= 4
        best += np.maximum(gained, 0.0)
        if np.all(gained < 1e-12 * np.abs(best)):
            break
    low, high, outside, inside = (float(value) for value in best)
    return -low, high, math.sqrt(outside), math.sqrt(-inside)


@njit(cache=True)
def _greatest(points):  # type: ignore[no-untyped-def]
    """The greatest −z, z, squared distance from the axis, and that below zero, (4,), of points (n, 3), and where each is."""
    best, where = np.full(4, -np.inf), np.zeros(4, dtype=np.int64)
    for i in range(len(points)):
        square, z = points[i, 0] ** 2 + points[i, 1] ** 2, points[i, 2]
        for k, value in enumerate((-z, z, square, -square)):
            if value > best[k]:
                best[k], where[k] = value, i
    return best, where
