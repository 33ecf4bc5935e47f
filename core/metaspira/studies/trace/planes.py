"""Planes through the neighbours of places, and work on many places a few at a time."""

from __future__ import annotations

from collections.abc import Callable

import numpy as np
from scipy.spatial import cKDTree

from metaspira.numbers.jets import Array

_AT_ONCE = 15_000


def planes_through(around: Array, weight: Array | None = None) -> tuple[Array, Array]:
    """Unit normals (n, 3), of either sign, of the planes that lie closest to places (n, k, 3) about their
    middle, each of the `weight` (n, k); and how thick those lie beside how wide (n,)."""
    heeded = around if weight is None else weight[..., None] * around
    spread, axes = np.linalg.eigh(heeded.swapaxes(1, 2) @ around)
    return axes[:, :, 0], np.sqrt(np.maximum(spread[:, 0], 0.0) / np.maximum(spread[:, 1], 1e-300))


def in_pieces(places: Array, work: Callable[[Array], Array]) -> Array:
    """What `work` makes of places (n, 3), some thousands that lie together at a time: the neighbours of all
    take much memory, and of those far apart much time."""
    order = cKDTree(places).indices
    pieces = [work(places[order[k : k + _AT_ONCE]]) for k in range(0, len(places), _AT_ONCE)]
    found = np.concatenate(pieces)
    found[order] = found.copy()
    return found
