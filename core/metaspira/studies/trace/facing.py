"""What a surface faces where only points of it are known: the normals of the planes through each point's
neighbours, turned alike from one to the next where they are most alike, along a minimum spanning tree (Hoppe
et al., SIGGRAPH 1992), and outward where a piece of it reaches furthest."""

from __future__ import annotations

import itertools

import numpy as np
import scipy
from scipy.sparse.csgraph import breadth_first_order, connected_components, minimum_spanning_tree
from scipy.spatial import cKDTree

from metaspira.numbers.jets import Array
from metaspira.studies.trace.planes import in_pieces, nearest, planes_through

_NEIGHBOURS = (12, 24, 48, 96)
_LEVEL, _TRIED = 0.25, 2000
_LINKED = 8
_LEAST_PIECE = 60
_DIRECTIONS = np.array([way for way in itertools.product((-1.0, 0.0, 1.0), repeat=3) if any(way)])


def facing_of(points: Array) -> tuple[Array, Array]:
    """The points (n, 3) of pieces that are large enough, and the unit normals (n, 3) there, outward."""
    tree = cKDTree(points)
    normals = _normals(points, tree)
    near = tree.query(points, k=_LINKED + 1)[1][:, 1:]
    start, end = np.repeat(np.arange(len(points)), _LINKED), near.ravel()
    unlike = 1 + 1e-6 - np.abs(np.einsum("ij,ij->i", normals[start], normals[end]))
    graph = scipy.sparse.coo_array((unlike, (start, end)), shape=(len(points),) * 2).tocsr()
    spanning = minimum_spanning_tree(graph)
    _, piece = connected_components(spanning, directed=False)
    kept = np.bincount(piece)[piece] >= _LEAST_PIECE
    for one in np.unique(piece[kept]):
        members = np.flatnonzero(piece == one)
        _turn_alike(spanning, int(members[0]), normals)
        ends = members[np.argmax(points[members] @ _DIRECTIONS.T, axis=0)]
        if np.einsum("ij,ij->", normals[ends], _DIRECTIONS) < 0:
            normals[members] *= -1
    return points[kept], normals[kept]


def _normals(points: Array, tree: cKDTree) -> Array:
    """Of the planes through as few neighbours as lie in one, the noise allowing."""
    some = points[:: max(1, len(points) // _TRIED)]
    for count in _NEIGHBOURS:
        thick = _planes(points, some, tree, count)[1]
        if float(np.median(thick)) < _LEVEL:
            break
    return in_pieces(points, lambda piece: _planes(points, piece, tree, count)[0])


def _planes(points: Array, at: Array, tree: cKDTree, count: int) -> tuple[Array, Array]:
    """Unit normals (m, 3) at places (m, 3), and how thick their neighbours are beside how wide (m,)."""
    return planes_through(points, nearest(tree, at, count))[1:]


def _turn_alike(spanning: scipy.sparse.csr_array, first: int, normals: Array) -> None:
    """Turn the normals (n, 3) of the piece of a point to its own side, each as the one before it."""
    order, before = breadth_first_order(spanning, first, directed=False)
    alike = np.einsum("ij,ij->i", normals[order[1:]], normals[before[order[1:]]]) >= 0
    side = np.ones(len(normals))
    for here, behind, same in zip(
        order[1:].tolist(), before[order[1:]].tolist(), alike.tolist(), strict=True
    ):
        side[here] = side[behind] if same else -side[behind]
    normals[order] *= side[order, None]
