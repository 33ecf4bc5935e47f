"""Lines that close: what lies at each share, from 0 to 1, of a pitch or of the way around, by bins."""

from __future__ import annotations

import numpy as np
from numpy.typing import NDArray

from metaspira.numbers.jets import Array


def bins_of(share: Array, count: int) -> NDArray[np.int_]:
    """The bin, of `count`, of each share (n,)."""
    return np.minimum((share * count).astype(int), count - 1)


def middles(share: Array, values: Array, count: int, fewest: int) -> Array:
    """The median of the values (n,) in each bin (count,); NaN where there are fewer than `fewest`."""
    index = bins_of(share, count)
    ordered = values[np.lexsort((values, index))]
    held = np.bincount(index, minlength=count)
    full, first = held >= max(fewest, 1), np.cumsum(held) - held
    found = np.full(count, np.nan)
    low, high = ((first + half // 2)[full] for half in (held - 1, held))
    found[full] = (ordered[low] + ordered[high]) / 2
    return found


def grid_of(rows: Array, columns: Array, values: Array, shape: tuple[int, int]) -> Array:
    """The mean of values (n,) in each cell of a grid, by their shares of its height and its width; NaN where
    there are none."""
    cell = bins_of(rows, shape[0]) * shape[1] + bins_of(columns, shape[1])
    size = shape[0] * shape[1]
    count = np.bincount(cell, minlength=size)
    with np.errstate(invalid="ignore"):
        return np.asarray((np.bincount(cell, values, size) / count).reshape(shape))


def equations_by_bin(
    row: NDArray[np.int_], columns: Array, off: Array, weight: Array, count: int
) -> tuple[Array, Array]:
    """The normal equations of least squares in each bin: the matrices (count, k, k) and the right sides
    (count, k) of the steps along columns (n, k) that make up for how far the places of each `row` (n,) are
    `off`."""
    k = columns.shape[1]
    normal, right = np.zeros((count, k, k)), np.zeros((count, k))
    for i in range(k):
        right[:, i] = np.bincount(row, weight * columns[:, i] * off, count)
        for j in range(k):
            normal[:, i, j] = np.bincount(row, weight * columns[:, i] * columns[:, j], count)
    return normal, right


def wound(angle: Array, out: Array, up: Array) -> Array:
    """The places (n, 3) at angles around z, distances from it and heights (n,)."""
    return np.stack([out * np.cos(angle), out * np.sin(angle), up], axis=1)


def between(at: Array, stations: Array | NDArray[np.int_], line: Array) -> Array:
    """The places (m, k) of a line at `at` (m,), straight from each of its places (n, k) at `stations` (n,) to
    the next."""
    return np.stack([np.interp(at, stations, one) for one in line.T], axis=1)


def share_around(angle: Array) -> Array:
    """Angles as shares, from 0 to 1, of the way around."""
    return np.asarray(angle % (2 * np.pi) / (2 * np.pi))


def slope_around(line: Array) -> Array:
    """How much the values of a line (n,) grow, a radian, at each of its bins around."""
    return np.asarray((np.roll(line, -1) - np.roll(line, 1)) * len(line) / (4 * np.pi))


def without_gaps(line: Array, least: float) -> Array | None:
    """A line (n,) with its gaps bridged; None where less than the share `least` of it is known."""
    count, known = len(line), np.isfinite(line)
    if known.mean() < least:
        return None
    around = np.concatenate([np.flatnonzero(known) + k * count for k in (-1, 0, 1)])
    return np.asarray(np.interp(np.arange(count), around, np.tile(line[known], 3)))


def value_at(line: Array, share: Array) -> Array:
    """The values of a line (n,) at shares (m,), straight from the middle of one bin to the next."""
    count = len(line)
    return np.asarray(np.interp(share * count, np.arange(-1, count + 1) + 0.5, np.pad(line, 1, mode="wrap")))
