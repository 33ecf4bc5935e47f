"""Life under a load that comes and goes: Goodman's line through the endurance of a wire.

The greatest corrected stress that a wire bears from zero, as a share p of its strength, over the cycles, from
the table for round-wire compression springs in Associated Spring's Design Handbook (1981), from memory; the
stress that breaks it at once in torsion is 0.67 Rm (Shigley, Mechanical Engineering Design, section 10-9, from
memory). The line through both:

    τ_a / S_e + τ_m / 0.67 Rm = 1,   S_e = ½p Rm / (1 − ½p / 0.67)
"""

from __future__ import annotations

import math
from dataclasses import dataclass

import numpy as np

from metaspira.springs.compression import Compression
from metaspira.springs.wire import SpringWire

_TORSION = 0.67
_CYCLES = (5.0, 6.0, 7.0)
_SHARES = {
    ("drawn", False): (0.36, 0.33, 0.30),
    ("drawn", True): (0.42, 0.39, 0.36),
    ("tempered", False): (0.42, 0.40, 0.38),
    ("tempered", True): (0.49, 0.47, 0.46),
}
"""By the kind of wire and whether it is peened: the share at 10⁵, 10⁶ and 10⁷ cycles; straight in lg N."""


@dataclass(frozen=True)
class Life:
    """Corrected stresses between the first and the last working point (MPa), both ends of Goodman's line, and how
    much of it they use."""

    cycles: float
    mean: float
    amplitude: float
    endurance: float
    breaking: float

    @property
    def utilisation(self) -> float:
        return self.amplitude / self.endurance + self.mean / self.breaking


def life_of(spring: Compression) -> Life | None:
    """The life asked of a spring, or None where none is, or where it has fewer than two working points."""
    cycles = spring.asked.cycles
    if cycles is None or len(spring.points) < 2:
        return None
    stresses = [point.corrected for point in spring.points]
    low, high = min(stresses), max(stresses)
    ends = endurance_of(spring.wire, spring.strength, cycles, spring.asked.peened)
    return Life(cycles, 0.5 * (high + low), 0.5 * (high - low), *ends)


def endurance_of(wire: SpringWire, strength: float, cycles: float, peened: bool) -> tuple[float, float]:
    """Both ends of Goodman's line, MPa: the amplitude about no mean stress, and the stress that breaks at once."""
    share = float(np.interp(math.log10(cycles), _CYCLES, _SHARES[wire.life, peened]))
    return 0.5 * share * strength / (1 - 0.5 * share / _TORSION), _TORSION * strength
