"""Extents: how far the swept surface reaches from the z axis, and along it."""

from __future__ import annotations

from dataclasses import dataclass
from functools import lru_cache

import numpy as np

from metaspira.gaps.hulls import hulls_of
from metaspira.gaps.reach import DOWN, UP, reaches
from metaspira.sweep.ground import ground_planes
from metaspira.sweep.sweep import Sweep

_WIDTH = 1e-4


@dataclass(frozen=True)
class Extents:
    """Largest and smallest distance of the surface from the z axis, 0 where the axis runs through the wire,
    and its least and most z; mm. The true values are farther out by no more than `error`."""

    outside_radius: float
    inside_radius: float
    low: float
    high: float
    error: float = 0.0

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
        max(part.error for part in parts),
    )


@lru_cache(maxsize=64)
def extents(sweep: Sweep, solid: bool = True, width: float = _WIDTH) -> Extents:
    """Extents of the swept surface, certain within the stated error: about `width`, a share of the section's
    reach."""
    grounds = ground_planes(sweep)
    value = np.full(4, -np.inf)
    bound = value
    for hulls in hulls_of(sweep, solid, ground=True):
        more, most = reaches(hulls, value, width * sweep.section.reach())
        value, bound = more, np.maximum(bound, most)
    for plane in grounds:
        which, height = (UP, plane.height) if plane.above else (DOWN, -plane.height)
        value[which] = bound[which] = height
    low, high, outside, inside = (float(v) for v in value)
    seen = np.isfinite(value)
    return Extents(outside, -inside, -low, high, float(np.max(bound[seen] - value[seen], initial=0.0)))


def heights(sweep: Sweep) -> tuple[float, float]:
    """Least and most z of the solid, mm, as certain as its extents; where both ends are ground, the planes
    they are ground to."""
    planes = ground_planes(sweep)
    above = [plane.height for plane in planes if plane.above]
    below = [plane.height for plane in planes if not plane.above]
    if above and below:
        return below[0], above[0]
    box = extents(sweep, True)
    return box.low, box.high
