"""How a nut's turns share a load: a bolt in tension and a nut in compression, tied by springs all along the
thread (Sopwith, Proc. IMechE 159 (1948); the teeth's yielding after Yamamoto, The Theory and Computation of
Threads Connection (1980); neither checked against the printed page).

    F(x) = F sinh λx / sinh λL,   λ² = (1/(A_b E_b) + 1/(A_n E_n)) / ((k_b/E_b + k_n/E_n) P/(π d₂))
"""

from __future__ import annotations

import math
from dataclasses import dataclass

import numpy as np

from metaspira.numbers.jets import Array

_NU = 0.3
_ROOT_EXTERNAL, _REACH_EXTERNAL = 0.833, 0.289
_ROOT_INTERNAL, _REACH_INTERNAL = 0.875, 0.325
_AT_PITCH = 0.5
"""Of a tooth, in pitches: its width at the root, its height from there to the pitch line, its width there."""


@dataclass(frozen=True)
class Pair:
    """Pitch, pitch diameter, root of the bolt and outside of the nut, mm; flank angle, radians; moduli of
    bolt and nut, MPa."""

    pitch: float
    diameter: float
    root: float
    outside: float
    flank: float
    bolt: float
    nut: float


def _yielding(pair: Pair, root: float, reach: float, wide: float) -> float:
    """How far a tooth gives along the axis under a load of E a mm of helix, without what its body gives
    across."""
    flank = max(pair.flank, math.radians(3))
    a, b, c, p = root * pair.pitch, wide * pair.pitch, reach * pair.pitch, pair.pitch
    cot, tan = 1 / math.tan(flank), math.tan(flank)
    plane = 1 - _NU**2
    bends = plane * 0.75 * ((1 - (2 - b / a) ** 2 + 2 * math.log(a / b)) * cot**3 - 4 * (c / a) ** 2 * tan)
    shears = (1 + _NU) * 1.2 * cot * math.log(a / b)
    tilts = plane * 12 * c / (math.pi * a**2) * (c - a / 2 * tan)
    sinks = (
        plane
        * 2
        / math.pi
        * (p / a * math.log((p + a / 2) / (p - a / 2)) + 0.5 * math.log(4 * p**2 / a**2 - 1))
    )
    return (bends + shears + tilts + sinks) * math.cos(flank)


def _spreading(pair: Pair, of_nut: bool) -> float:
    """What its body gives across, along the axis, under a load of E a mm of helix."""
    wide, mid = pair.outside**2, pair.diameter**2
    round_about = (wide + mid) / max(wide - mid, 1e-9) + _NU if of_nut else 1 - _NU
    return round_about * math.tan(pair.flank) / 2 * pair.diameter / pair.pitch * math.sin(pair.flank)


def stiffness_ratio(pair: Pair) -> float:
    """λ, 1/mm."""
    bolt = math.pi / 4 * pair.root**2 * pair.bolt
    nut = math.pi / 4 * max(pair.outside**2 - pair.diameter**2, 1e-9) * pair.nut
    gives = (
        _yielding(pair, _ROOT_EXTERNAL, _REACH_EXTERNAL, _AT_PITCH) + _spreading(pair, False)
    ) / pair.bolt + (
        _yielding(pair, _ROOT_INTERNAL, _REACH_INTERNAL, _AT_PITCH) + _spreading(pair, True)
    ) / pair.nut
    return math.sqrt((1 / bolt + 1 / nut) / (gives * pair.pitch / (math.pi * pair.diameter)))


def shares(pair: Pair, length: float) -> Array:
    """The share of the load on each turn (n,) of an engagement, mm, from the bearing face on; the last is a
    part of a turn where the engagement is no whole number of them."""
    turns = max(math.ceil(length / pair.pitch - 1e-9), 1)
    rate = stiffness_ratio(pair)
    at = np.maximum(length - pair.pitch * np.arange(turns + 1), 0.0)
    force = np.sinh(np.minimum(rate * at, 600.0)) / math.sinh(min(rate * length, 600.0))
    return np.asarray(force[:-1] - force[1:])
