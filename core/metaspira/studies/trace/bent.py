"""What is bent along a curve: the curve that it follows, and its places laid straight along that.

A place keeps its distance from the curve and the way it is off it, counted from a direction that is carried
along without roll: what is square to the curve stays as it is, what goes along it is longer or shorter by how
far out of the bend it is.
"""

from __future__ import annotations

from collections.abc import Iterator
from dataclasses import dataclass, replace

import numpy as np
from scipy.optimize import least_squares
from scipy.sparse import csr_matrix
from scipy.sparse.csgraph import connected_components, dijkstra
from scipy.spatial import cKDTree

from metaspira.numbers.jets import Array
from metaspira.numbers.once import cached_property
from metaspira.numbers.splines import spline_through
from metaspira.numbers.vectors import cross
from metaspira.paths.path import CurvePath, Path
from metaspira.paths.transport import Transport, square_to
from metaspira.studies.trace.around import between
from metaspira.studies.trace.scan import Scan

_PLACES, _SEEDS, _NEAREST, _BESIDE = 15_000, 3000, 6, 0.8
_REACHES = (2.5, 5.0, 10.0, 20.0)
_WHOLE, _FAR, _SLENDER = 0.9, 0.3, 3.0
_STATIONS, _STEPS = 2000, 3
_LEVELS, _FEWEST, _PIECES = 16, 8, (12, 12, 12, 12)
_BALL, _TWO, _OFTEN = 0.12, 0.2, 0.7
_MOST_BENT, _HOLLOW = 0.8, 0.15
_DENSE, _MOST = 200, 95
_FINE, _TRIES, _RING_ROUNDS = 400, 6, 3

POINTS = (3, 4, 5, 6, 7, 8, 10, 13, 17, 22, 30)
"""How many points a curve is tried with, the fewest first; one that closes has four at least."""


@dataclass(frozen=True, eq=False)
class Bend:
    """A curve in space, and directions carried along it without roll."""

    path: Path

    @cached_property
    def _carried(self) -> Transport:
        return Transport(self.path, square_to(self.path.derivatives(np.zeros(1), 1)[1][0]))

    def _axes(self, s: Array) -> tuple[Array, Array]:
        """Places (n, 3) of the curve at true lengths (n,), and three unit vectors (n, 3, 3) there, the last
        along it; beyond its ends it goes straight on."""
        within = self.path.at(s % self.path.length if self.path.closed else np.clip(s, 0, self.path.length))
        first = self._carried.directions(within)[0]
        beyond = 0.0 if self.path.closed else (s - within.s)[:, None] * within.tangent
        axes = np.stack([first, cross(within.tangent, first), within.tangent], axis=1)
        return within.position + beyond, axes

    def laid(self, points: Array, near: Array | None = None) -> Array:
        """Places (n, 3) laid straight along z; those that are `near` (n,), mm along it, from there."""
        s = self._nearest(points, near)
        centre, axes = self._axes(s)
        beside = np.einsum("nij,nj->ni", axes, points - centre)
        return np.column_stack([beside[:, :2], s])

    def straight(self, scan: Scan) -> Scan:
        """The scan laid straight along z."""
        points = self.laid(scan.points)
        normals = np.einsum("nij,nj->ni", self._axes(points[:, 2])[1], scan.normals)
        corners = self.laid(scan.corners) if len(scan.corners) else scan.corners
        return replace(scan, points=points, normals=normals, corners=corners)

    def hollow(self, scan: Scan) -> bool:
        """Whether much of a scan faces the curve, as a wire does that is wound around it."""
        laid = self.straight(scan.thinned(_PLACES))
        outward = np.einsum("ij,ij->i", laid.points[:, :2], laid.normals[:, :2])
        return float((outward < 0).mean()) > _HOLLOW

    def bent(self, laid: Array) -> Array:
        """Where places (n, 3) that were laid straight are in space."""
        centre, axes = self._axes(laid[:, 2])
        return np.asarray(centre + laid[:, :1] * axes[:, 0] + laid[:, 1:2] * axes[:, 1])

    def along(self, s: Array) -> Array:
        """Places (n, 3) of the curve at true lengths (n,)."""
        return self._axes(s)[0]

    def _nearest(self, points: Array, near: Array | None) -> Array:
        """The true length (n,) at which the curve is nearest to places (n, 3), beyond its ends that of the
        way straight on; sought about `near` (n,), else everywhere."""
        length = self.path.length
        if near is None:
            stations = np.linspace(0, length, _STATIONS)
            near = stations[cKDTree(self.path.derivatives(stations, 0)[0]).query(points)[1]]
        s = near
        for _ in range(_STEPS):
            at = self.path.at(s % length if self.path.closed else np.clip(s, 0, length))
            off = points - at.position
            stiff = np.maximum(1 - np.einsum("ij,ij->i", off, at.curvature), 1 - _MOST_BENT)
            if self.path.closed:
                s = s + np.einsum("ij,ij->i", off, at.tangent) / stiff
            else:
                beyond = (at.s <= 0) | (at.s >= length)
                s = at.s + np.einsum("ij,ij->i", off, at.tangent) / np.where(beyond, 1.0, stiff)
        return np.asarray(s)


def bend_through(points: Array, closed: bool) -> Bend:
    """The bend along a smooth curve through points (n, 3)."""
    return Bend(CurvePath(spline_through(points, closed), closed=closed))


def few_points(bend: Bend, ends: tuple[float, float], closed: bool, tolerance: float) -> Array:
    """As few places (k, 3) as a smooth curve through them keeps to a curve, between true lengths, by the
    `tolerance`, mm."""
    dense = bend.along(np.linspace(*ends, _DENSE))
    for count in POINTS[closed:]:
        points = as_many_points(bend, ends, closed, count)
        off = bend_through(points, closed).laid(dense)[:, :2]
        if np.percentile(np.linalg.norm(off, axis=1), _MOST) < tolerance:
            break
    return points


def as_many_points(bend: Bend, ends: tuple[float, float], closed: bool, count: int) -> Array:
    """So many places (count, 3) as that a smooth curve through them keeps closest to a curve, between true
    lengths."""
    begun = bend.along(np.linspace(*ends, count, endpoint=not closed))
    return _closest(begun, bend.along(np.linspace(*ends, _DENSE)), closed)


def _closest(points: Array, dense: Array, closed: bool) -> Array:
    """The places (k, 3) near to points through which a smooth curve lies closest to places (n, 3) that are
    evenly along it."""

    def off(x: Array) -> Array:
        curve = spline_through(x.reshape(-1, 3), closed)
        fine = curve.spline(np.linspace(curve.start, curve.end, _FINE))
        length = np.concatenate([[0.0], np.cumsum(np.linalg.norm(np.diff(fine, axis=0), axis=1))])
        even = np.linspace(0, length[-1], len(dense))
        return np.asarray((between(even, length, fine) - dense).ravel())

    return np.asarray(least_squares(off, points.ravel(), max_nfev=_TRIES).x.reshape(-1, 3))


@dataclass(frozen=True, eq=False)
class Level:
    """A place (3,) that is moved to the origin, and the rotation (3, 3) about it."""

    origin: Array
    turned: Array

    @classmethod
    def of(cls, points: Array) -> Level:
        """The first of places (n, 3) to the origin, and the plane that lies closest to all to that of x
        and y."""
        turned = np.linalg.svd(points - points.mean(axis=0), full_matrices=False)[2]
        return cls(points[0], turned * [[1], [1], [np.linalg.det(turned)]])

    def moved(self, points: Array) -> Array:
        """Places (n, 3) moved with it."""
        return np.asarray((points - self.origin) @ self.turned.T)

    def of_scan(self, scan: Scan) -> Scan:
        """A scan moved with it."""
        points, corners = self.moved(scan.points), self.moved(scan.corners)
        return replace(scan, points=points, normals=scan.normals @ self.turned.T, corners=corners)


def bends_of(scan: Scan) -> Iterator[Bend]:
    """The curves that the places of a scan may lie around, the finest first: each by how far they are, over
    steps of one reach, from the one that is farthest away, and then moved into their middle."""
    scan = scan.thinned(_PLACES)
    seeds = scan.points[:_SEEDS]
    size = float(np.ptp(seeds, axis=0).max())
    near = float(np.median(cKDTree(seeds).query(seeds, k=_NEAREST)[0][:, -1]))
    known: list[float] = []
    for reach in _REACHES:
        if reach * near > _FAR * size:
            return
        nodes = _nodes(seeds, reach * near)
        if nodes is None:
            continue
        begun = bend_through(*nodes)
        beside = np.linalg.norm(begun.laid(seeds)[:, :2], axis=1)
        if begun.path.length < _SLENDER * 2 * float(np.median(beside)):
            continue
        bend = _settled(begun, scan, _PIECES * (_RING_ROUNDS if begun.path.closed else 1))
        if bend is None or any(abs(bend.path.length / one - 1) < 0.02 for one in known):
            continue
        known.append(bend.path.length)
        yield bend


def _settled(bend: Bend | None, scan: Scan, pieces: tuple[int, ...]) -> Bend | None:
    for count in pieces:
        if bend is not None:
            bend = _in_the_middle(bend, scan, count)
    return bend


def _nodes(seeds: Array, reach: float) -> tuple[Array, bool] | None:
    """Nodes (k, 3) along what places lie around, and whether it comes back to its beginning; None where the
    steps do not reach over all of it."""
    pairs = cKDTree(seeds).query_pairs(reach, output_type="ndarray")
    weight = np.linalg.norm(seeds[pairs[:, 0]] - seeds[pairs[:, 1]], axis=1)
    graph = csr_matrix((weight, pairs.T), (len(seeds), len(seeds)))
    label = connected_components(graph, directed=False)[1]
    own = label == np.argmax(np.bincount(label))
    if own.mean() < _WHOLE:
        return None
    graph, places = graph[own][:, own], seeds[own]
    far = _from_the_end(graph)
    closed = _comes_back(graph, far)
    if closed:
        rest = far > _BALL * far.max()
        ball = places[~rest].mean(axis=0)
        graph, places = graph[rest][:, rest], places[rest]
        far = _from_the_end(graph)
        reached = np.isfinite(far)
        far, places = far[reached], places[reached]
        return np.concatenate([_levels(places, far), ball[None]]), True
    return _levels(places, far)[1:-1], False


def _from_the_end(graph: csr_matrix) -> Array:
    """How far each place is from one of those that are farthest apart."""
    far = dijkstra(graph, directed=False, indices=0)
    end = int(np.argmax(np.where(np.isfinite(far), far, -1)))
    return np.asarray(dijkstra(graph, directed=False, indices=end))


def _comes_back(graph: csr_matrix, far: Array) -> bool:
    """Whether what is as far from an end is mostly in two places, as around a ring."""
    edges = np.linspace(0, far.max(), _LEVELS + 1)
    two = 0
    middle = range(_LEVELS // 4, 3 * _LEVELS // 4)
    for k in middle:
        level = (far >= edges[k]) & (far < edges[k + 1])
        label = connected_components(graph[level][:, level], directed=False)[1]
        sizes = np.sort(np.bincount(label))[::-1]
        two += len(sizes) > 1 and bool(sizes[1] > _TWO * level.sum())
    return two > _OFTEN * len(middle)


def _levels(places: Array, far: Array) -> Array:
    """The middles (k, 3) of places that are as far."""
    edges = np.linspace(0, float(far.max()) * (1 + 1e-9), _LEVELS + 1)
    row = np.searchsorted(edges, far, side="right") - 1
    held = [k for k in range(_LEVELS) if (row == k).sum() >= _FEWEST]
    return np.array([places[row == k].mean(axis=0) for k in held])


def _in_the_middle(bend: Bend, scan: Scan, pieces: int) -> Bend | None:
    """The curve moved to the middles of the circles through what lies around each piece of it."""
    straight = bend.straight(scan)
    laid = straight.points[np.abs(straight.normals[:, 2]) < _BESIDE]
    length = bend.path.length
    low, high = (0.0, length) if bend.path.closed else np.percentile(laid[:, 2], [0.5, 99.5])
    row = np.floor((laid[:, 2] - low) / (high - low) * pieces).astype(int)
    at, beside = [], []
    for k in range(pieces):
        own = laid[row == k]
        if len(own) < _FEWEST:
            continue
        # x² + y² = 2 a x + 2 b y + c (Kåsa, IEEE Transactions on Instrumentation and Measurement 25 (1976))
        columns = np.column_stack([2 * own[:, :2], np.ones(len(own))])
        found = np.linalg.lstsq(columns, (own[:, :2] ** 2).sum(axis=1), rcond=None)[0]
        at.append(float(own[:, 2].mean()))
        beside.append(found[:2])
    if len(at) < 4:
        return None
    nodes = np.column_stack([np.array(beside), at])
    if not bend.path.closed:
        nodes = _to_the_ends(nodes, float(low), float(high))
    return bend_through(bend.bent(nodes), bend.path.closed)


def _to_the_ends(nodes: Array, low: float, high: float) -> Array:
    """Nodes (k, 3) with one more at each end, straight on."""
    first = nodes[0] + (nodes[0] - nodes[1]) * (nodes[0, 2] - low) / (nodes[1, 2] - nodes[0, 2])
    last = nodes[-1] + (nodes[-1] - nodes[-2]) * (high - nodes[-1, 2]) / (nodes[-1, 2] - nodes[-2, 2])
    return np.concatenate([[first], nodes, [last]])
