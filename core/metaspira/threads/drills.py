"""The drills that are made, and which of them a thread is tapped from.

Metric drills by ISO 235: in steps of 0.05 mm up to 3, 0.1 up to 14, 0.25 up to 50, 1 above, and the halves up
to 100 that DIN 336 lists. Inch drills by ASME B94.11M: numbers, letters, and sixty-fourths up to 3 in,
sixteenths above, which are bored. None checked against the printed standard.
"""

from __future__ import annotations

import math
from dataclasses import dataclass
from fractions import Fraction
from functools import cache

from metaspira.threads.family import INCH
from metaspira.threads.thread import Thread

RULE = "of the usual series, within D₁"
DRILLS = "ISO 235, DIN 336, ASME B94.11M, not checked against the printed standards; which, common practice"
_METRIC = ((0.2, 3.0, 0.05), (3.0, 14.0, 0.1), (14.0, 50.0, 0.25), (50.0, 100.0, 0.5), (100.0, 1000.0, 1.0))
_NUMBERS = (
    228, 221, 213, 209, 205.5, 204, 201, 199, 196, 193.5, 191, 189, 185, 182, 180, 177, 173, 169.5, 166, 161,
    159, 157, 154, 152, 149.5, 147, 144, 140.5, 136, 128.5, 120, 116, 113, 111, 110, 106.5, 104, 101.5, 99.5,
    98, 96, 93.5, 89, 86, 82, 81, 78.5, 76, 73, 70, 67, 63.5, 59.5, 55, 52, 46.5, 43, 42, 41, 40, 39, 38, 37,
    36, 35, 33, 32, 31, 29.2, 28, 26, 25, 24, 22.5, 21, 20, 18, 16, 14.5, 13.5,
)  # fmt: skip
_LETTERS = (
    234, 238, 242, 246, 250, 257, 261, 266, 272, 277, 281, 290, 295, 302, 316, 323, 332, 339, 348, 358, 368,
    377, 386, 397, 404, 413,
)  # fmt: skip
"""Thousandths of an inch, from #1 and from A on."""
_DRILLED, _BORED = 3, 24
_OF_SHARP = 0.75
"""The share of the height 0.75 H that a unified thread's hole leaves, usually."""
_PASSED_OVER = 0.001 * INCH
"""9/16-18 UNF is tapped from 33/64 in, 0.0006 in over its limit (common practice, no source)."""
_INCH_FAMILIES = ("unified", "unified-j", "acme", "pipe-american", "hose")


@dataclass(frozen=True)
class Drill:
    """A drill as it is called, and its diameter, mm."""

    name: str
    diameter: float


@cache
def _inch_drills() -> tuple[Drill, ...]:
    found = [Drill(f"#{k}", size * INCH / 1000) for k, size in enumerate(_NUMBERS, start=1)]
    found += [Drill(chr(ord("A") + k), size * INCH / 1000) for k, size in enumerate(_LETTERS)]
    sizes = (*range(1, 64 * _DRILLED + 1), *range(64 * _DRILLED, 64 * _BORED + 1, 4))
    for sixty_fourths in sizes:
        whole, part = divmod(Fraction(sixty_fourths, 64), 1)
        name = f"{whole} {part}" if whole and part else str(part or whole)
        found.append(Drill(f"{name} in", sixty_fourths / 64 * INCH))
    return tuple(sorted(found, key=lambda drill: drill.diameter))


@cache
def _metric_drills() -> tuple[Drill, ...]:
    sizes = {
        round(low + step * k, 2)
        for low, high, step in _METRIC
        for k in range(round((high - low) / step) + 1)
    }  # fmt: skip
    return tuple(Drill(f"{size:g} mm", size) for size in sorted(sizes))


def drills_of(thread: Thread) -> tuple[Drill, ...]:
    """The drills that a thread is tapped from, all of its system of units, the thinnest first."""
    return _inch_drills() if thread.family in _INCH_FAMILIES else _metric_drills()


def drills_within(thread: Thread) -> list[Drill]:
    """Those that leave an internal minor diameter within its limits; where none is made that does, those that
    are out of them by what tables pass over."""
    minor = thread.internal.minor
    if minor.min is None or minor.max is None:
        return []
    for over in (1e-9, _PASSED_OVER):
        low, high = minor.min - over, minor.max + over
        found = [drill for drill in drills_of(thread) if low <= drill.diameter <= high]
        if found:
            return found
    return []


def tapping_drill(thread: Thread) -> Drill:
    """The usual one (common practice, no source): nearest to d − P of metric threads, to three quarters of
    the sharp height of unified ones, both within the limits of the internal minor diameter; of other
    threads with such limits the thickest within them; of the rest the thinnest that leaves the minor diameter
    free, and of tapered ones the nearest to it. Where none is made within the limits, their middle; of two as
    near the even tenth, as tables have it."""
    minor, fits = thread.internal.minor, drills_within(thread)
    major = thread.external.major.basic
    limited = minor.min is not None and minor.max is not None
    if thread.family in ("metric", "metric-j"):
        wanted = major - thread.pitch
    elif thread.family in ("unified", "unified-j"):
        wanted = major - _OF_SHARP * 1.5 * math.sqrt(3) / 2 * thread.pitch
    elif thread.taper or thread.family == "pipe-taper":
        wanted = minor.basic
    elif limited:
        wanted = minor.at("max")
    else:
        wanted = minor.basic
        fits = [drill for drill in drills_of(thread) if drill.diameter >= wanted - 1e-9]
    if limited and not fits:
        middle = minor.at("middle")
        in_inches = thread.family in _INCH_FAMILIES
        return Drill(f"{middle / INCH:.3f} in" if in_inches else f"{round(middle, 3):g} mm", middle)

    def far(drill: Drill) -> tuple[float, int]:
        return round(abs(drill.diameter - wanted), 6), round(10 * drill.diameter) % 2

    return min(fits or drills_of(thread), key=far)
