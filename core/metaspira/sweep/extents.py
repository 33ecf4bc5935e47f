"""Extents: how far the swept surface reaches from the z axis, and along it."""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import dataclass
from functools import lru_cache

import numpy as np

from metaspira.paths.quadrature import Array
from metaspira.sweep.sweep import Sweep

_MOST_STATIONS = 4000


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


@lru_cache(maxsize=8)
def extents(sweep: Sweep) -> Extents:
    """Extents of the swept surface: sampled (densest near the ends), then refined."""
    s = sweep.stations(24, least=9)
    ends = 48
    if len(s) > _MOST_STATIONS:
        between = s[np.linspace(ends, len(s) - ends, _MOST_STATIONS).astype(int)]
        s = np.unique(np.concatenate([s[:ends], between, s[-ends:]]))
    uv = sweep.outline.ring(48).points
    points = sweep.frames(s).points(uv)
    return Extents(
        _refined(sweep, s, uv, points, _radius, 1.0),
        _refined(sweep, s, uv, points, _radius, -1.0),
        _refined(sweep, s, uv, points, _height, -1.0),
        _refined(sweep, s, uv, points, _height, 1.0),
    )


def _radius(points: Array) -> Array:
    return np.hypot(points[..., 0], points[..., 1])


def _height(points: Array) -> Array:
    return points[..., 2]


def _refined(
    sweep: Sweep, s: Array, uv: Array, points: Array, figure: Callable[[Array], Array], sign: float
) -> float:
    """The extreme of `figure` over the surface, searched ever finer from the best sample."""
    value = sign * figure(points)
    i, k = np.unravel_index(int(np.argmax(value)), value.shape)
    best = float(value[i, k])
    around = sweep.outline.ring(1440).points
    around = around[np.argsort(np.linalg.norm(around - uv[k], axis=1))[:64]]
    centre, half = float(s[i]), float(np.diff(s).max())
    for _ in range(8):
        places = np.clip(centre + half * np.linspace(-1, 1, 9), 0.0, sweep.length)
        found = sign * figure(sweep.frames(places).points(around))
        i, k = np.unravel_index(int(np.argmax(found)), found.shape)
        centre, half = float(places[i]), half / 4
        gained = float(found[i, k]) - best
        best = max(best, float(found[i, k]))
        if gained < 1e-12 * abs(best):
            break
    return sign * best
