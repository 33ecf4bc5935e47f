"""Rules of EN 13906-1 for cold coiled compression springs, over numbers or arrays."""

from __future__ import annotations

import math

import numpy as np

from metaspira.numbers.jets import Array

ALLOWED, ALLOWED_SOLID = 0.5, 0.56
"""Plain shear stress allowed at work and at block, as shares of the tensile strength."""

INDEX = (4.0, 20.0)
"""Least and greatest spring index that is wound well."""

LEAST_TURNS = 2.0
"""Least active turns."""


def gap_wanted(mean: Array, wire: float, cycled: bool) -> Array:
    """The gap, mm, that a turn is to keep at the greatest load: 0.0015 D²/d + 0.1 d, half as much again where it is
    cycled."""
    return (0.0015 * mean**2 / wire + 0.1 * wire) * (1.5 if cycled else 1.0)


def buckles_at(free: float, mean: Array, seat: float, moduli: float) -> Array:
    """The deflection, mm, at which a spring buckles, infinite where it does not; `seat` is ν, `moduli` G/E:

    s = L₀ · 0.5 / (1 − G/E) · (1 − √(1 − (1 − G/E) / (0.5 + G/E) · (πD / νL₀)²))
    """
    root = 1 - (1 - moduli) / (0.5 + moduli) * (math.pi * mean / (seat * free)) ** 2
    deflection = free * 0.5 / (1 - moduli) * (1 - np.sqrt(np.maximum(root, 0.0)))
    return np.where(root < 0, np.inf, deflection)
