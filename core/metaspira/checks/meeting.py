"""Which stations of a wire can meet at all, and what is said of it."""

from __future__ import annotations

import math
from dataclasses import dataclass

import numpy as np
from numba import njit
from numpy.typing import NDArray
from scipy.spatial import cKDTree

from metaspira.checks.check import WHOLE, Lane, Window
from metaspira.numbers.jets import Array
from metaspira.sweep.sweep import Sweep

PER_TURN = 32
NEIGHBOUR_TURN = math.pi / 2
_PROBES = 24
_CROWD = 64
_CROWDED_PAIRS = 1e6

Ints = NDArray[np.int64]


@dataclass(frozen=True)
class Gaps:
    """`smallest` gap in mm (negative: depth of overlap; None: nothing to meet), the two places
    `at` where it is, `point` between them in space, the gap along the wire, and the stated error."""

    smallest: float | None
    at: tuple[float, float]
    point: tuple[float, float, float]
    lane: Lane
    error: float


def nothing(s: Array) -> Gaps:
    """Nothing comes near."""
    return Gaps(None, (0.0, 0.0), (0.0, 0.0, 0.0), Lane(s, np.full_like(s, np.nan)), 0.0)


def stations_in(sweep: Sweep, window: Window) -> Array:
    """True lengths (n,) of the stations that are searched."""
    s = sweep.stations(PER_TURN, least=9)
    if window == WHOLE:
        return s
    low, high = window[0] * sweep.length, window[1] * sweep.length
    inner = s[(s > low) & (s < high)]
    return np.concatenate([[low], inner, [high]])


def apart(turned: Array, i: Ints, j: Ints, whole: float | None) -> Array:
    """Angle (m,) by which the path turns between stations; around a closed path, of `whole` angle, the
    shorter way."""
    between = np.abs(turned[i] - turned[j])
    return between if whole is None else np.minimum(between, whole - between)


def reach_of_search(centre: Array, turned: Array, size: float, whole: float | None) -> float:
    """A distance within which every station's nearest stranger lies, judged by a few of them."""
    probes = np.unique(np.linspace(0, len(centre) - 1, _PROBES).astype(int))
    every = np.arange(len(centre))
    strangers = (apart(turned, np.full_like(every, i), every, whole) > NEIGHBOUR_TURN for i in probes)
    nearest = [_nearest(centre, i, far) for i, far in zip(probes, strangers, strict=True)]
    return max(1.1 * max((n for n in nearest if n < math.inf), default=0.0), 2.1 * size)


@njit(cache=True)
def _nearest(centre, i, far):  # type: ignore[no-untyped-def]
    """The least distance from station i to a `far` one (n,) that is nearer than those beside it; ∞ where there is none."""
    n = len(centre)
    squares = np.full(n + 2, np.inf)
    for j in range(n):
        squares[j + 1] = (
            (centre[j, 0] - centre[i, 0]) ** 2
            + (centre[j, 1] - centre[i, 1]) ** 2
            + (centre[j, 2] - centre[i, 2]) ** 2
        )
    least = np.inf
    for j in range(n):
        here = squares[j + 1]
        if far[j] and here <= squares[j] and here <= squares[j + 2]:
            least = min(least, here)
    return math.sqrt(least)


def pairs_within(centre: Array, within: float) -> Ints:
    """Pairs (m, 2) of stations within a distance of each other; of a wire packed so densely that they
    would not fit in memory (it overlaps for certain), the pairs among its first stations."""
    n = len(centre)
    probes = centre[np.linspace(0, n - 1, _PROBES).astype(int)]
    tree = cKDTree(centre)
    near = tree.query_ball_point(probes, within, return_length=True)
    expected = float(np.mean(near)) * n / 2
    if expected > max(_CROWD * n, _CROWDED_PAIRS):
        tree = cKDTree(centre[: math.ceil(n * math.sqrt(_CROWDED_PAIRS / expected))])
    pairs = tree.query_pairs(within, output_type="ndarray")
    return np.asarray(pairs, dtype=np.int64).reshape(-1, 2)


def meant_to_touch(sweep: Sweep, s: Array) -> NDArray[np.bool_]:
    """Which stations lie where the wire is wound to touch itself."""
    on = np.zeros(len(s), dtype=bool)
    for low, high in sweep.path.touching:
        on |= (s >= low - 1e-9) & (s <= high + 1e-9)
    return on
