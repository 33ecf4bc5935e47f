"""A simulated load tester: it presses, or pulls, a spring step by step and reports the forces, with the
faults of a made spring and of a load cell, from a seed."""

from __future__ import annotations

from dataclasses import dataclass

import numpy as np

from metaspira.numbers.jets import Array
from metaspira.springs.working import Axial

SIMULATED = "simulated: no spring was pressed"
_FRICTION = 0.15
_CELL = 2000


@dataclass(frozen=True)
class Reading:
    """A length, mm, the force that was read there going and coming back, N, and the calculated one."""

    length: float
    going: float
    back: float
    calculated: float


@dataclass(frozen=True)
class LoadTest:
    """Readings, the rate by a straight line through them, N/mm, and the rate calculated."""

    readings: tuple[Reading, ...]
    rate: float
    calculated_rate: float


def load_test(spring: Axial, seed: int, scatter: float = 0.02, steps: int = 11) -> LoadTest:
    """Press or pull a spring to its furthest working point and back. `scatter` is the standard deviation of
    its rate from spring to spring, as a share; its free length scatters by a fifth of that, and friction
    takes a seventh of it."""
    random = np.random.default_rng(seed)
    stiff = 1 + scatter * random.standard_normal()
    longer = spring.free_length * scatter / 5 * random.standard_normal()
    free = spring.free_length
    furthest = max(
        (point.length for point in spring.points),
        key=lambda length: abs(length - free),
        default=spring.span[1],
    )
    lengths = np.linspace(free, furthest, steps)
    calculated = np.array([spring.at_length(float(length)).force for length in lengths])
    shifted = np.clip(lengths - longer, min(free, furthest), max(free, furthest))
    made = np.array([spring.at_length(float(length)).force for length in shifted])
    largest = float(np.abs(calculated).max())
    cell = largest / _CELL
    friction = _FRICTION * scatter * largest * np.sin(np.pi * np.linspace(0, 1, steps))

    def read(force: Array, sign: float) -> Array:
        raw = stiff * force + sign * friction + cell * random.standard_normal(steps)
        return np.round(np.maximum(raw, 0.0) / cell) * cell

    going, back = read(made, 1.0), read(made, -1.0)
    readings = tuple(
        Reading(*(float(value) for value in row))
        for row in zip(lengths, going, back, calculated, strict=True)
    )
    return LoadTest(readings, _slope(lengths, (going + back) / 2), _slope(lengths, calculated))


def _slope(lengths: Array, forces: Array) -> float:
    return abs(float(np.polyfit(lengths[1:], forces[1:], 1)[0]))
