"""Rules for cold coiled compression springs, over numbers or arrays: EN 13906-1, and the table of end kinds
of the handbooks (Shigley, Mechanical Engineering Design, table 10-1).

Both count dead turns at each end and take the rest as active, the spring as one straight line to its solid
length:

    R = G d⁴ / (8 D³ n),   n = n_t − dead turns,   s_c = L₀ − L_c
    EN 13906-1: 2 dead turns, L_c = n_t d_max closed and ground, (n_t + 1.5) d_max closed and not ground
    handbook: plain 0, plain and ground 1, closed 2 dead turns; L_s = n_t d ground, (n_t + 1) d not ground
"""

from __future__ import annotations

import math
from dataclasses import dataclass
from typing import Literal, TypeVar

import numpy as np
from numpy.typing import NDArray

from metaspira.numbers.jets import Array

Number = TypeVar("Number", float, Array)
Rules = Literal["EN 13906", "handbook", "as drawn"]

RULES: dict[Rules, str] = {
    "EN 13906": "EN 13906-1",
    "handbook": "the handbook's table of end kinds",
    "as drawn": "contact of the drawn turns",
}
"""In words."""

ALLOWED, ALLOWED_SOLID = 0.5, 0.56
"""Plain shear stress allowed at work and at solid length, as shares of the tensile strength."""

INDEX = (4.0, 20.0)
"""Least and greatest spring index that is wound well."""

LEAST_TURNS = 2.0
"""Least active turns."""

GUIDED = 0.2
"""Air between a spring and what guides it, on the diameter, as a share of the mean diameter, at most."""

_PLAIN_GROUND = 0.5
_UNGROUND: dict[Rules, float] = {"EN 13906": 0.75, "handbook": 0.5}


@dataclass(frozen=True)
class CoilEnd:
    """An end of a cylinder of even pitch: how many turns are closed there, and whether it is ground."""

    closed: float
    ground: bool

    @property
    def dead(self) -> float:
        """Turns that do not take part."""
        if self.closed > 0:
            return max(self.closed, 1.0)
        return _PLAIN_GROUND if self.ground else 0.0


def rules_for(asked: Rules, ends: tuple[CoilEnd, CoilEnd] | None) -> Rules:
    """The rules that can be kept: EN 13906-1 speaks of closed ends alone, and neither of what is no cylinder
    of even pitch, which has no `ends` of theirs."""
    if ends is None:
        return "as drawn"
    if asked == "EN 13906" and not all(end.closed > 0 for end in ends):
        return "handbook"
    return asked


def why_other(asked: Rules, rules: Rules) -> str:
    """Why other rules are kept than those that were asked for; nothing where they are."""
    if asked == rules:
        return ""
    if rules == "as drawn":
        return "it is no cylinder of even pitch"
    return "EN 13906-1 speaks of closed ends alone"


def dead_turns(ends: tuple[CoilEnd, CoilEnd]) -> float:
    """Turns at both ends that do not take part."""
    return sum(end.dead for end in ends)


def solid_length_of(
    rules: Rules, ends: tuple[CoilEnd, CoilEnd], total: Number, wire: Number, tolerance: Number
) -> Number:
    """Solid length, mm, of so many turns in all of a wire with its tolerance, mm."""
    more = _UNGROUND[rules] * sum(not end.ground for end in ends)
    return (total + more) * (wire + tolerance if rules == "EN 13906" else wire)


def gap_wanted(mean: Array, wire: Array | float, cycled: bool) -> Array:
    """The gap, mm, that a turn is to keep at the greatest load: 0.0015 D²/d + 0.1 d, half as much again where
    it is cycled."""
    return (0.0015 * mean**2 / wire + 0.1 * wire) * (1.5 if cycled else 1.0)


def guided(
    bore: float | None, rod: float | None, outside: Array, inside: Array, mean: Array
) -> NDArray[np.bool_]:
    """Whether a bore or a rod keeps a spring from buckling sideways (n,): it is so near that the air to it,
    on the diameter, is at most a fifth of the mean diameter (common practice, no source)."""
    near = np.zeros(np.shape(mean), dtype=bool)
    if bore is not None:
        near |= bore - outside <= GUIDED * mean
    if rod is not None:
        near |= inside - rod <= GUIDED * mean
    return near


def buckles_at(free: float, mean: Array, seat: float, moduli: Array | float) -> Array:
    """The deflection, mm, at which a spring buckles, infinite where it does not; `seat` is ν, `moduli` G/E:

    s = L₀ · 0.5 / (1 − G/E) · (1 − √(1 − (1 − G/E) / (0.5 + G/E) · (πD / νL₀)²))
    """
    root = 1 - (1 - moduli) / (0.5 + moduli) * (math.pi * mean / (seat * free)) ** 2
    deflection = free * 0.5 / (1 - moduli) * (1 - np.sqrt(np.maximum(root, 0.0)))
    return np.where(root < 0, np.inf, deflection)
