"""Tolerances of cold-coiled compression springs by grade (EN 15800, formulas and shares from memory).

A_F = ± Q (a_F k_f + 1.5 F / 100),   A_L0 = ± Q a_F k_f / R
a_F = 65.92 d^3.3 / D^1.6 · (−0.84 w̃³ + 3.781 w̃² − 4.244 w̃ + 2.274),   w̃ = w / 10
k_f = −1 / (3 n²) + 8 / (5 n) + 0.803,   Q = 0.63, 1, 1.6 in grades 1, 2, 3
"""

from __future__ import annotations

from dataclasses import dataclass

import numpy as np

from metaspira.springs.asked import Grade
from metaspira.springs.compression import Compression

_Q: dict[Grade, float] = {1: 0.63, 2: 1.0, 3: 1.6}
_EVEN = 1e-3
_SQUARE: dict[Grade, tuple[float, float]] = {1: (0.03, 0.015), 2: (0.05, 0.03), 3: (0.08, 0.06)}


@dataclass(frozen=True)
class Tolerances:
    """± of the free length (mm) and of the force at each working point (N); of ground ends how far they may be
    from square and from parallel, mm; and the least and greatest rate that both forces of the outermost points
    allow, N/mm."""

    free_length: float
    forces: tuple[float, ...]
    square: float
    parallel: float
    rate: tuple[float, float] | None


def tolerances_of(spring: Compression) -> Tolerances | None:
    """The tolerances of a spring in the grade that is asked for, or None where it is no cylinder of round wire,
    of which alone the standard speaks."""
    radii = spring.turns.radii
    if not spring.shape.round or float(np.ptp(radii)) > _EVEN * float(radii.max()):
        return None
    grade = spring.asked.grade
    d, w, n = spring.diameter, spring.index, spring.turns.active
    mean = w * d
    share = w / 10
    reach = 65.92 * d**3.3 / mean**1.6 * (-0.84 * share**3 + 3.781 * share**2 - 4.244 * share + 2.274)
    unit = reach * (-1 / (3 * n**2) + 8 / (5 * n) + 0.803)
    quality = _Q[grade]
    forces = tuple(quality * (unit + 0.015 * point.force) for point in spring.points)
    square, parallel = _SQUARE[grade]
    return Tolerances(
        quality * unit / spring.rate, forces, square * spring.free_length, parallel * (mean + d), _stack(spring, forces)
    )  # fmt: skip


def _stack(spring: Compression, forces: tuple[float, ...]) -> tuple[float, float] | None:
    """The rates between the outermost working points with their forces at opposite ends of tolerance."""
    both = sorted(zip(spring.points, forces, strict=True), key=lambda pair: pair[0].deflection)
    if len(both) < 2 or both[-1][0].deflection - both[0][0].deflection < 1e-9:
        return None
    (first, low), (last, high) = both[0], both[-1]
    travel = last.deflection - first.deflection
    rise = last.force - first.force
    return (rise - low - high) / travel, (rise + low + high) / travel
