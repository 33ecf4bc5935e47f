"""Planes through the neighbours of places, and work on many places a few at a time."""

from __future__ import annotations

from collections.abc import Callable
from typing import Any, TypeAlias

import numpy as np
from numpy.typing import NDArray
from scipy.sparse import csr_array
from scipy.spatial import cKDTree

from metaspira.numbers.jets import Array

Indices: TypeAlias = NDArray[np.int_]

_AT_ONCE = 15_000
_PAIRS = np.triu_indices(3)
_WHOLE = np.array([[0, 1, 2], [1, 3, 4], [2, 4, 5]])


def means_of(values: Array, near: Indices, weight: Array | None = None) -> Array:
    """The means (n, m) of what belongs to the neighbours `near` (n, k) of places, of all `values` (l, m),
    each of the `weight` (n, k)."""
    count = near.shape[1]
    weight = np.ones(near.shape) if weight is None else weight
    shares = weight / np.maximum(weight.sum(axis=1, keepdims=True), 1e-300)
    starts = np.arange(0, near.size + 1, count)
    return np.asarray(csr_array((shares.ravel(), near.ravel(), starts), (len(near), len(values))) @ values)


def planes_through(cloud: Array, near: Indices, weight: Array | None = None) -> tuple[Array, Array, Array]:
    """Of neighbours `near` (n, k) of places, in a `cloud` (l, 3) and each of the `weight` (n, k): their
    middles (n, 3); unit normals (n, 3), of either sign, of the planes that lie closest to them; and how thick
    they lie beside how wide (n,)."""
    origin = cloud[near[0, 0]]
    places = cloud - origin
    row, column = _PAIRS
    means = means_of(np.hstack([places, places[:, row] * places[:, column]]), near, weight)
    middle = means[:, :3]
    whole = means[:, 3:] - middle[:, row] * middle[:, column]
    spread, axes = np.linalg.eigh(whole[:, _WHOLE])
    thick = np.sqrt(np.maximum(spread[:, 0], 0.0) / np.maximum(spread[:, 1], 1e-300))
    return middle + origin, axes[:, :, 0], thick


def nearest(tree: cKDTree, places: Array, count: int) -> Indices:
    """The places of a tree (n, k) that are nearest to others (n, 3): so many, or all of fewer."""
    return np.asarray(tree.query(places, k=min(count, tree.n))[1])


def in_pieces(places: Array, work: Callable[[Array], NDArray[Any]]) -> NDArray[Any]:
    """What `work` makes of places (n, 3), some thousands that lie together at a time: the neighbours of all
    take much memory, and of those far apart much time."""
    order = cKDTree(places).indices
    pieces = [work(places[order[k : k + _AT_ONCE]]) for k in range(0, len(places), _AT_ONCE)]
    found = np.concatenate(pieces)
    found[order] = found.copy()
    return found
