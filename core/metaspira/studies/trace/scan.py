"""A scanned surface: places all over it with what faces outward there, without the plate it lay on."""

from __future__ import annotations

from dataclasses import dataclass, replace
from typing import TypeAlias

import numpy as np
import trimesh
from numpy.typing import NDArray
from scipy.spatial import cKDTree

from metaspira.numbers.jets import Array
from metaspira.studies.trace.facing import facing_of
from metaspira.studies.trace.planes import Indices, in_pieces, means_of, nearest, planes_through

Mask = NDArray[np.bool_]

PLACES = 60_000
_SEED = 1
_CLOUD = 120_000
_NEIGHBOURS = (12, 24, 48, 96)
_SMOOTHED, _CRUMPLED, _AGAIN = 24, 0.6, 3
_TRIED = 2000
_PLATE = 0.05
_TRIALS = 120
_ABOVE = 0.6
_ALIKE = 0.4


@dataclass(frozen=True, eq=False)
class Scan:
    """Places (n, 3), mm, all over a surface, and the unit normals (n, 3) there, that face outward and are
    smoothed over their neighbours; `corners` (m, 3) are those of a mesh, none of points: they lie on what was
    scanned, its triangles within; `plate` is the share of the surface that was taken for a flat plate and
    left out; `noise` how far places lie off their neighbours, mm."""

    points: Array
    normals: Array
    corners: Array
    plate: float
    noise: float

    @property
    def size(self) -> float:
        return float(np.ptp(self.points, axis=0).max())

    def thinned(self, count: int) -> Scan:
        """The scan by so many of its places alone."""
        return replace(
            self, points=self.points[:count], normals=self.normals[:count], corners=np.empty((0, 3))
        )

    def times(self, factors: Array) -> Scan:
        """The scan times 1 or -1 (3,) along each axis."""
        return replace(
            self, points=self.points * factors, normals=self.normals * factors, corners=self.corners * factors
        )

    def part(self, kept: Mask) -> Scan:
        """The places of a mask (n,)."""
        return replace(self, points=self.points[kept], normals=self.normals[kept])


def spread_of(off: Array) -> float:
    """The standard deviation that distances from 0 have, by the median of their sizes."""
    return 1.4826 * float(np.median(np.abs(off)))


def middle_near(off: Array, reach: float, fewest: int) -> float:
    """The median of those distances that are less than `reach`; 0 where no more than `fewest` are."""
    near = off[np.abs(off) < reach]
    return float(np.median(near)) if len(near) > fewest else 0.0


Surface: TypeAlias = trimesh.Trimesh | Array
"""A mesh, or points (n, 3), mm, of a surface."""


def scan_of(surface: Surface) -> Scan:
    """Places spread evenly over a surface, as many for any number of triangles or points."""
    cloud, facing = _spread(surface)
    points, normals = cloud[:PLACES], facing[:PLACES]
    plate = _plate(points, normals)
    on_plate = np.zeros(len(points), dtype=bool) if plate is None else plate.holds(points)
    points = points[~on_plate]
    corners = _corners(surface)
    if plate is not None:
        corners = corners[~plate.holds(corners)]
    normals, noise = _level(points, cloud, facing)
    return Scan(points, normals, corners, float(on_plate.mean()), noise)


def _corners(surface: Surface) -> Array:
    if not isinstance(surface, trimesh.Trimesh):
        return np.empty((0, 3))
    corners = np.unique(surface.vertices[np.unique(surface.faces)], axis=0)
    return np.asarray(np.random.default_rng(_SEED).permutation(corners)[:PLACES])


def _spread(surface: Surface) -> tuple[Array, Array]:
    """Places (n, 3) in no order, and what the surface faces there."""
    if isinstance(surface, trimesh.Trimesh):
        cloud, faces = trimesh.sample.sample_surface(surface, _CLOUD, seed=_SEED)
        return np.asarray(cloud, dtype=float), np.asarray(surface.face_normals)[faces]
    once = np.unique(surface, axis=0)
    return facing_of(once[np.random.default_rng(_SEED).permutation(len(once))[:_CLOUD]])


def _level(points: Array, cloud: Array, facing: Array) -> tuple[Array, float]:
    """The normals of the planes through each place's neighbours, as many of them as lie flattest, and how far
    they lie off those planes, mm."""
    order = cKDTree(cloud).indices
    cloud, facing = cloud[order], facing[order]
    tree = cKDTree(cloud)
    smooth = _smooth(cloud, facing, tree)
    some = points[:: max(1, len(points) // _TRIED)]
    tried = [_planes(some, cloud, smooth, tree, count) for count in _NEIGHBOURS]
    flattest = min(tried, key=lambda one: float(np.median(one.thick)))
    noise, count = flattest.noise(cloud), flattest.near.shape[1]
    if flattest is tried[0]:
        # few triangles lie level with each other: what they face is surer than the plane through them
        return smooth[tree.query(points)[1]], noise
    return in_pieces(points, lambda piece: _planes(piece, cloud, smooth, tree, count).level), noise


def _smooth(cloud: Array, facing: Array, tree: cKDTree) -> Array:
    """What the surface faces about each place, by its neighbours' neighbours as well where it is crumpled:
    there each of them faces anywhere, and all of them together what the smooth one does."""
    near = in_pieces(cloud, lambda piece: nearest(tree, piece, _SMOOTHED))
    mean = means_of(facing, near)
    if float(np.median(np.linalg.norm(mean, axis=1))) <= _CRUMPLED:
        for _ in range(_AGAIN):
            mean = means_of(mean, near)
    return unit(mean)


@dataclass(frozen=True, eq=False)
class _Planes:
    """Planes through those of the neighbours `near` (n, k) of places that face `alike` (n, k): their middles
    and unit normals `level` (n, 3), and how thick they lie beside how wide (n,)."""

    near: Indices
    alike: Mask
    middle: Array
    level: Array
    thick: Array

    def noise(self, cloud: Array) -> float:
        """How far the neighbours of a cloud (l, 3) lie off, mm."""
        off = np.einsum("nki,ni->nk", cloud[self.near] - self.middle[:, None], self.level)
        return spread_of(off[self.alike])


def _planes(points: Array, cloud: Array, facing: Array, tree: cKDTree, count: int) -> _Planes:
    near = nearest(tree, points, count)
    own = facing[near[:, 0]]
    alike = np.einsum("nki,ni->nk", facing[near], own) > _ALIKE
    middle, level, thick = planes_through(cloud, near, alike.astype(float))
    level = level * np.sign(np.einsum("ni,ni->n", level, own))[:, None]
    return _Planes(near, alike, middle, level, thick)


@dataclass(frozen=True, eq=False)
class _Plate:
    """A flat face at `height` along its normal `up` (3,), and how far off it what is on it lies, mm."""

    up: Array
    height: float
    tolerance: float

    def holds(self, points: Array) -> Mask:
        return np.asarray(points @ self.up - self.height < 2 * self.tolerance)


def _plate(points: Array, normals: Array) -> _Plate | None:
    """The flat face that holds the most places, where that is a large share, and everything else lies on one
    side of it (random sample consensus; Fischler and Bolles, Communications of the ACM 24 (1981))."""
    rng = np.random.default_rng(_SEED)
    tolerance = 2e-3 * float(np.ptp(points, axis=0).max())
    best = np.zeros(len(points), dtype=bool)
    for index in rng.choice(len(points), _TRIALS):
        height = (points - points[index]) @ normals[index]
        found = (np.abs(height) < tolerance) & (normals @ normals[index] > 0.9)
        above, below = (height > tolerance).sum(), (height < -tolerance).sum()
        if found.sum() > best.sum() and above > _ABOVE * (above + below):
            best = found
    if best.mean() < _PLATE:
        return None
    up = unit(normals[best].mean(axis=0))
    height = (points - points[best].mean(axis=0)) @ up
    below = height < -tolerance
    thick = best | (below & (np.abs(normals @ up) > 0.9)) | (np.abs(height) < tolerance)
    beside = height[~thick]
    if len(beside) < 0.05 * len(points) or (beside > 0).mean() < 0.9:
        return None
    return _Plate(up, float(points[best].mean(axis=0) @ up), tolerance)


def unit(vectors: Array) -> Array:
    """Vectors (..., 3) of length 1."""
    return np.asarray(vectors / np.maximum(np.linalg.norm(vectors, axis=-1, keepdims=True), 1e-300))
