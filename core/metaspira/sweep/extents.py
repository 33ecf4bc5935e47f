"""Extents: how far the swept surface reaches from the z axis, and along it."""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import dataclass
from functools import lru_cache

import numpy as np

from metaspira.numbers.jets import Array
from metaspira.sweep.ground import ground_planes
from metaspira.sweep.sweep import Sweep

_MOST_STATIONS = 4000
_FINE = 1440


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
    points = sweep.frames(s).points(sweep.ring(s, 48))
    low, high = (_refined(sweep, s, points, _height, sign) for sign in (-1.0, 1.0))
    for plane in ground_planes(sweep):
        low, high = (low, plane.height) if plane.above else (plane.height, high)
    return Extents(
        _refined(sweep, s, points, _radius, 1.0), _refined(sweep, s, points, _radius, -1.0), low, high
    )


def _radius(points: Array) -> Array:
    return np.hypot(points[..., 0], points[..., 1])


def _height(points: Array) -> Array:
    return points[..., 2]


def _refined(
    sweep: Sweep, s: Array, points: Array, figure: Callable[[Array], Array], sign: float
) -> float:
    """The extreme of `figure` over the surface, searched ever finer from the best sample."""
    value = sign * figure(points)
    i, k = np.unravel_index(int(np.argmax(value)), value.shape)
    best = float(value[i, k])
    coarse = sweep.section.rings(48)[0].points[0]
    fine = sweep.section.rings(_FINE)[0].points
    nearest = np.argsort(np.linalg.norm(fine[0] - coarse[k], axis=1))[:64]
    around = fine[:, nearest]
    centre, half = float(s[i]), float(np.diff(s).max())
    for _ in range(8):
        places = np.clip(centre + half * np.linspace(-1, 1, 9), 0.0, sweep.length)
        found = sign * figure(sweep.frames(places).points(sweep.uv(around, places)))
        i, k = np.unravel_index(int(np.argmax(found)), found.shape)
        centre, half = float(places[i]), half / 4
        gained = float(found[i, k]) - best
        best = max(best, float(found[i, k]))
        if gained < 1e-12 * abs(best):
            break
    return sign * best
