"""Tolerances of cold-coiled compression springs by grade (EN 15800; formulas, shares and the table of the
coil's diameter from memory).

A_F = ± Q (a_F k_f + 1.5 F / 100),   A_L0 = ± Q a_F k_f / R
a_F = 65.92 d^3.3 / D^1.6 · (−0.84 w̃³ + 3.781 w̃² − 4.244 w̃ + 2.274),   w̃ = w / 10
k_f = −1 / (3 n²) + 8 / (5 n) + 0.803,   Q = 0.63, 1, 1.6 in grades 1, 2, 3
"""

from __future__ import annotations

from bisect import bisect_left
from dataclasses import dataclass

from metaspira.springs.asked import Grade
from metaspira.springs.compression import Compression

_Q: dict[Grade, float] = {1: 0.63, 2: 1.0, 3: 1.6}
_DIAMETERS = (0.63, 1, 1.6, 2.5, 4, 6.3, 10, 16, 25, 31.5, 40, 50, 63, 80, 100, 125, 160, 200)
_INDICES = (4, 8, 14, 20)
_OF_DIAMETER: dict[Grade, tuple[tuple[float, float, float], ...]] = {
    1: (
        (0.05, 0.07, 0.1),
        (0.05, 0.07, 0.1),
        (0.07, 0.1, 0.15),
        (0.1, 0.1, 0.15),
        (0.1, 0.15, 0.2),
        (0.15, 0.15, 0.2),
        (0.15, 0.2, 0.25),
        (0.2, 0.25, 0.3),
        (0.25, 0.3, 0.35),
        (0.25, 0.3, 0.35),
        (0.3, 0.4, 0.5),
        (0.4, 0.5, 0.6),
        (0.5, 0.7, 0.8),
        (0.6, 0.8, 0.9),
        (0.7, 1.0, 1.1),
        (0.9, 1.2, 1.4),
        (1.2, 1.5, 1.7),
    ),
    2: (
        (0.07, 0.1, 0.15),
        (0.08, 0.1, 0.15),
        (0.1, 0.15, 0.2),
        (0.15, 0.2, 0.25),
        (0.2, 0.25, 0.3),
        (0.25, 0.3, 0.35),
        (0.3, 0.35, 0.4),
        (0.35, 0.45, 0.5),
        (0.4, 0.5, 0.6),
        (0.5, 0.6, 0.7),
        (0.6, 0.8, 0.9),
        (0.8, 1.0, 1.1),
        (1.0, 1.2, 1.4),
        (1.2, 1.5, 1.7),
        (1.4, 1.9, 2.2),
        (1.8, 2.3, 2.7),
        (2.1, 2.9, 3.3),
    ),
    3: (
        (0.1, 0.15, 0.2),
        (0.15, 0.2, 0.3),
        (0.2, 0.3, 0.4),
        (0.3, 0.4, 0.5),
        (0.4, 0.5, 0.6),
        (0.5, 0.6, 0.7),
        (0.6, 0.7, 0.8),
        (0.7, 0.9, 1.0),
        (0.8, 1.0, 1.2),
        (1.0, 1.2, 1.5),
        (1.2, 1.5, 1.8),
        (1.5, 2.0, 2.3),
        (1.8, 2.4, 2.8),
        (2.3, 3.0, 3.5),
        (2.8, 3.7, 4.4),
        (3.5, 4.6, 5.4),
        (4.2, 5.7, 6.6),
    ),
}
"""± of the coil's diameter, mm: a row for each range of `_DIAMETERS` (over, to), a column for each of
`_INDICES`."""

_SQUARE: dict[Grade, tuple[float, float]] = {1: (0.03, 0.015), 2: (0.05, 0.03), 3: (0.08, 0.06)}


@dataclass(frozen=True)
class Tolerances:
    """± of the free length (mm), of the coil's diameter (mm; None outside the standard's table) and of the
    force at each working point (N); and of ground ends how far they may be from square and from parallel,
    mm."""

    free_length: float
    diameter: float | None
    forces: tuple[float, ...]
    square: float
    parallel: float


def tolerances_of(spring: Compression) -> Tolerances | None:
    """The tolerances of a spring in the grade that is asked for, or None where it is no cylinder of round
    wire, of which alone the standard speaks, or gives way without a force."""
    if not spring.shape.round or not spring.turns.cylindrical or spring.rate <= 0:
        return None
    grade = spring.asked.grade
    d, w, n = spring.diameter, spring.index, spring.active
    mean = w * d
    share = w / 10
    reach = 65.92 * d**3.3 / mean**1.6 * (-0.84 * share**3 + 3.781 * share**2 - 4.244 * share + 2.274)
    unit = reach * (-1 / (3 * n**2) + 8 / (5 * n) + 0.803)
    quality = _Q[grade]
    forces = tuple(quality * (unit + 0.015 * point.force) for point in spring.points)
    square, parallel = _SQUARE[grade]
    return Tolerances(
        quality * unit / spring.rate,
        _of_diameter(grade, mean, w),
        forces,
        square * spring.free_length,
        parallel * (mean + d),
    )


def _of_diameter(grade: Grade, mean: float, index: float) -> float | None:
    if not (_DIAMETERS[0] < mean <= _DIAMETERS[-1] and _INDICES[0] <= index <= _INDICES[-1]):
        return None
    column = max(0, bisect_left(_INDICES, index) - 1)
    return _OF_DIAMETER[grade][bisect_left(_DIAMETERS, mean) - 1][column]
