"""A made spring's readings of length and force, beside its design: rate, offset and hysteresis, and what
would explain the difference.

The rate is that of a straight line through the readings from 30 to 70 % of the design's travel (EN 13906-1
measures it there), or through all that bear a force where fewer than three lie there. It goes as d⁴, D⁻³,
1/n and G, so that one input alone explains it by the root of the ratio; the free length is where the line
meets no force, or the initial tension.
"""

from __future__ import annotations

from dataclasses import dataclass

import numpy as np
from numpy.typing import NDArray

from metaspira.numbers.jets import Array
from metaspira.springs.extension import Extension
from metaspira.springs.made import made_of
from metaspira.springs.working import Axial

_LINE = (0.3, 0.7)
_FEWEST = 3
_LITTLE = 0.02
_FLAT = 1e-3
_STEPS = 101


@dataclass(frozen=True)
class Explained:
    """An input that alone would explain a difference: its design and the value that would, in `unit`; and its
    tolerance, ±, where one is known."""

    key: str
    title: str
    unit: str
    design: float
    value: float
    either: float | None


@dataclass(frozen=True)
class Measured:
    """Readings (n, 4): length, mm, force, N, the calculated force there, and whether the spring was on
    its way back (1) or not (0); the rate by a straight line between two lengths, mm, and the design's there,
    N/mm; the offset of the force in the middle of them, N; the greatest difference of force going and coming
    back, N, and the share of the work that is lost, None without a way back; and what would explain them."""

    readings: list[list[float]]
    between: list[float]
    rate: float
    calculated_rate: float
    offset: float
    hysteresis: float | None
    lost: float | None
    explained: tuple[Explained, ...]


def measured_of(spring: Axial) -> Measured | None:
    """A spring's own readings beside it; None where it has none, or fewer than three at lengths of their
    own."""
    given = np.array(spring.asked.measured, dtype=float).reshape(-1, 2)
    lengths, forces = given.T
    if len(np.unique(lengths)) < _FEWEST:
        return None
    calculated = np.array([spring.at_length(float(length)).force for length in lengths])
    way = np.abs(lengths - spring.free_length)
    back = _back(way)
    some = _straight(spring, way, forces)
    rate, middle = _line(way[some], forces[some])
    design, at = _line(way[some], calculated[some])
    hysteresis, lost = _loop(way, forces, back)
    return Measured(
        np.column_stack([given, calculated, back]).tolist(),
        [float(lengths[some].min()), float(lengths[some].max())],
        rate,
        design,
        middle - at,
        hysteresis,
        lost,
        _explained(spring, rate, design, float(way[some].mean()), middle),
    )


def _back(way: Array) -> Array:
    """Whether a reading (n,) was taken on the way back: the spring gives way less than at the one before, or
    as much, which is where it turns."""
    less = np.diff(way) < 1e-9
    return np.append(0.0, less.astype(float))


def _straight(spring: Axial, way: Array, forces: Array) -> NDArray[np.bool_]:
    """The readings (n,) that the line goes through."""
    whole = abs(spring.span[1] - spring.span[0])
    some = (way >= _LINE[0] * whole - 1e-9) & (way <= _LINE[1] * whole + 1e-9)
    if len(np.unique(way[some])) < _FEWEST:
        some = forces > _LITTLE * forces.max()
    return some if len(np.unique(way[some])) > 1 else np.ones(len(way), dtype=bool)


def _line(way: Array, forces: Array) -> tuple[float, float]:
    """Slope of a straight line, and its force at the middle way."""
    slope, _ = np.polyfit(way - way.mean(), forces, 1)
    return float(slope), float(forces.mean())


def _loop(way: Array, forces: Array, back: Array) -> tuple[float | None, float | None]:
    """The greatest difference of force, and the share of the work that does not come back."""
    went, came = back == 0, back == 1
    if np.count_nonzero(came) < 2 or np.count_nonzero(went) < 2:
        return None, None
    low, high = max(way[went].min(), way[came].min()), min(way[went].max(), way[came].max())
    at = np.linspace(low, high, _STEPS)
    sides = []
    for some in (went, came):
        order = np.argsort(way[some])
        sides.append(np.interp(at, way[some][order], forces[some][order]))
    difference = sides[0] - sides[1]
    work = float(np.trapezoid(sides[0], at))
    return float(np.abs(difference).max()), float(np.trapezoid(difference, at)) / work if work > 0 else None


def _explained(spring: Axial, rate: float, design: float, way: float, force: float) -> tuple[Explained, ...]:
    if not rate > _FLAT * design > 0:
        return ()
    ratio = rate / design
    made = made_of(spring)
    kept = {one.key: one.either for one in made.inputs} if made else {}
    mean = 2 * float(spring.turns.radii.mean())
    rows = [
        ("wire", "Wire diameter", "mm", spring.diameter, spring.diameter * ratio**0.25, 1.0),
        ("diameter", "Mean diameter", "mm", mean, mean / ratio ** (1 / 3), 1.0),
        ("turns", "Active turns", "", spring.active, spring.active / ratio, 1.0),
        (
            "modulus",
            "Shear modulus",
            "MPa",
            spring.shear_modulus,
            spring.shear_modulus * ratio,
            spring.shear_modulus / 100,
        ),
    ]
    initial = spring.initial if isinstance(spring, Extension) else 0.0
    longer = way - (force - initial) / rate
    free = spring.free_length + (longer if isinstance(spring, Extension) else -longer)
    rows.append(("free_length", "Free length", "mm", spring.free_length, free, 1.0))
    return tuple(
        Explained(key, title, unit, design, value, kept[key] * scale if key in kept else None)
        for key, title, unit, design, value, scale in rows
    )
