"""Life under a load that comes and goes: Goodman's line through the endurance of a wire.

The greatest corrected stress that a wire bears from zero, as a share p of its strength, over the cycles, is
that of the tables for round wire in Associated Spring's Design Handbook (1981), from memory. The stress that
breaks it at once is Rm in bending, and 0.67 Rm in torsion (Shigley, Mechanical Engineering Design, section
10-9, from memory). The line through both, c Rm the stress that breaks it:

    σ_a / S_e + σ_m / (c Rm) = 1,   S_e = ½p Rm / (1 − ½p / c)
"""

from __future__ import annotations

import math
from collections.abc import Iterator
from dataclasses import dataclass

import numpy as np

from metaspira.numbers.jets import Array
from metaspira.springs.compression import Compression
from metaspira.springs.extension import Extension
from metaspira.springs.torsion import Torsion
from metaspira.springs.working import WoundSpring

_TORSION, _BENDING = 0.67, 1.0


@dataclass(frozen=True)
class Endurance:
    """Shares of the strength borne from zero at powers of ten of cycles, straight between them; `breaking` is
    the share that breaks at once. Where it `lasts`, the last one stands for any more cycles."""

    shares: dict[int, float]
    breaking: float
    lasts: bool = True

    def line(self, strength: float, cycles: float) -> tuple[float, float] | None:
        """Both ends of Goodman's line, MPa: the amplitude about no mean stress, and the stress that breaks at
        once; None beyond the last share that is known."""
        power = math.log10(cycles)
        if power > max(self.shares) + 1e-9 and not self.lasts:
            return None
        share = float(np.interp(power, list(self.shares), list(self.shares.values())))
        return 0.5 * share * strength / (1 - 0.5 * share / self.breaking), self.breaking * strength


PUSHING = {
    ("drawn", False): Endurance({5: 0.36, 6: 0.33, 7: 0.30}, _TORSION),
    ("drawn", True): Endurance({5: 0.42, 6: 0.39, 7: 0.36}, _TORSION),
    ("tempered", False): Endurance({5: 0.42, 6: 0.40, 7: 0.38}, _TORSION),
    ("tempered", True): Endurance({5: 0.49, 6: 0.47, 7: 0.46}, _TORSION),
}
BODY = Endurance({5: 0.36, 6: 0.33, 7: 0.30}, _TORSION)
HOOK_BENT = Endurance({5: 0.51, 6: 0.47, 7: 0.45}, _BENDING)
HOOK_TWISTED = Endurance({5: 0.34, 6: 0.30, 7: 0.28}, _TORSION)
TURNING = {
    ("drawn", False): Endurance({5: 0.53, 6: 0.50}, _BENDING, lasts=False),
    ("drawn", True): Endurance({5: 0.62, 6: 0.60}, _BENDING, lasts=False),
    ("tempered", False): Endurance({5: 0.55, 6: 0.53}, _BENDING, lasts=False),
    ("tempered", True): Endurance({5: 0.64, 6: 0.62}, _BENDING, lasts=False),
}
"""By the kind of wire and whether it is peened. Extension springs are those of drawn wire, whatever theirs.
"""


@dataclass(frozen=True)
class Life:
    """Corrected stresses between the outermost working points (MPa) at a place of the spring, both ends of
    Goodman's line there, and how much of it they use."""

    where: str
    cycles: float
    mean: float
    amplitude: float
    endurance: float
    breaking: float

    @property
    def utilisation(self) -> float:
        return self.amplitude / self.endurance + self.mean / self.breaking


def life_of(spring: WoundSpring) -> Life | None:
    """The life asked of a spring where it is shortest; None where none is asked, it has fewer than two
    working points, or no endurance of its kind is known."""
    if spring.asked.cycles is None or len(spring.points) < 2:
        return None
    lives = list(_lives(spring, spring.asked.cycles))
    return (
        None
        if None in lives
        else max((life for life in lives if life), key=lambda life: life.utilisation, default=None)
    )


def used(line: tuple[float, float], weak: Array, strong: Array) -> Array:
    """How much of Goodman's line stresses between two use (n,), all as shares of the strength."""
    endurance, breaking = line
    return (strong - weak) / 2 / endurance + (strong + weak) / 2 / breaking


def _lives(spring: WoundSpring, cycles: float) -> Iterator[Life | None]:
    def between(where: str, endurance: Endurance, stresses: list[float]) -> Life | None:
        line = endurance.line(spring.strength, cycles)
        if line is None:
            return None
        low, high = min(stresses), max(stresses)
        return Life(where, cycles, 0.5 * (high + low), 0.5 * (high - low), *line)

    corrected = [point.corrected for point in spring.points]
    if isinstance(spring, Compression):
        yield between("the wire", PUSHING[spring.wire.life, spring.asked.peened], corrected)
    elif isinstance(spring, Torsion):
        yield between("the wire", TURNING[spring.wire.life, spring.asked.peened], corrected)
    elif isinstance(spring, Extension):
        yield between("the body", BODY, corrected)
        hooks = [spring.hook_stresses(point.effort) for point in spring.points]
        known = [stresses for stresses in hooks if stresses is not None]
        if known:
            bent, twisted = zip(*known, strict=True)
            yield between("the hooks, bent", HOOK_BENT, list(bent))
            yield between("the hooks, twisted", HOOK_TWISTED, list(twisted))
