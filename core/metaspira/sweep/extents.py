"""Extents: how far the swept surface reaches from the z axis, and along it."""

from __future__ import annotations

import math
from dataclasses import dataclass
from functools import lru_cache

import numpy as np

from metaspira.numbers.jets import Array
from metaspira.sweep.ground import ground_planes
from metaspira.sweep.sweep import Sweep

_MOST_STATIONS = 4000
_FINE = 1440
_NEAR = 64
_STEPS = 9
_EACH = np.arange(4)


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
    values = _sought(sweep.frames(s).points(sweep.ring(s, 48)).reshape(-1, 3))
    found = np.argmax(values, axis=1)
    best = values[_EACH, found]
    rows, columns = np.divmod(found, values.shape[1] // len(s))
    coarse = sweep.section.rings(48)[0].points[0]
    fine = sweep.section.rings(_FINE)[0].points
    away = np.linalg.norm(fine[0] - coarse[columns][:, None], axis=2)
    nearest = np.argsort(away, axis=1)[:, :_NEAR]
    centres, half = s[rows], float(np.diff(s).max())
    for _ in range(8):
        places = centres[:, None] + half * np.linspace(-1, 1, _STEPS)
        places = np.clip(places, 0.0, sweep.length)
        uv = [
            np.broadcast_to(sweep.uv(fine[:, near], at), (_STEPS, len(near), 2))
            for near, at in zip(nearest, places, strict=True)
        ]
        points = sweep.frames(places.ravel()).points(np.concatenate(uv)).reshape(-1, 3)
        values = _sought(points).reshape(4, 4, -1)[_EACH, _EACH]
        found = np.argmax(values, axis=1)
        gained = values[_EACH, found] - best
        centres, half = places[_EACH, found // nearest.shape[1]], half / 4
        best = best + np.maximum(gained, 0.0)
        if np.all(gained < 1e-12 * np.abs(best)):
            break
    low, high, outside, inside = (float(value) for value in best)
    return -low, high, math.sqrt(outside), math.sqrt(-inside)


def _sought(points: Array) -> Array:
    """What is sought the greatest of, (4, …): −z, z, the squared distance from the axis, and less that."""
    square = points[..., 0] ** 2 + points[..., 1] ** 2
    return np.stack([-points[..., 2], points[..., 2], square, -square])
