"""A scanned surface: places all over it with what faces outward there, without the plate it lay on."""

from __future__ import annotations

from dataclasses import dataclass
from typing import TypeAlias

import numpy as np
import trimesh
from numpy.typing import NDArray
from scipy.spatial import cKDTree

from metaspira.numbers.jets import Array
from metaspira.studies.trace.facing import facing_of

Mask = NDArray[np.bool_]

PLACES = 60_000
_SEED = 1
_CLOUD = 120_000
_NEIGHBOURS = (12, 24, 48, 96)
_LEVEL = 0.06
_PLATE = 0.05
_TRIALS = 120
_ABOVE = 0.6
_ALIKE = 0.4


@dataclass(frozen=True, eq=False)
class Scan:
    """Places (n, 3), mm, all over a surface, and the unit normals (n, 3) there, that face outward and are
    smoothed over their neighbours; `plate` is the share of the surface that was taken for a flat plate and
    left out; `noise` how far places lie off their neighbours, mm."""

    points: Array
    normals: Array
    plate: float
    noise: float

    @property
    def size(self) -> float:
        return float(np.ptp(self.points, axis=0).max())

    def part(self, kept: Mask) -> Scan:
        """The places of a mask (n,)."""
        return Scan(self.points[kept], self.normals[kept], self.plate, self.noise)


def spread_of(off: Array) -> float:
    """The standard deviation that distances from 0 have, by the median of their sizes."""
    return 1.4826 * float(np.median(np.abs(off)))


Surface: TypeAlias = trimesh.Trimesh | Array
"""A mesh, or points (n, 3), mm, of a surface."""


def scan_of(surface: Surface) -> Scan:
    """Places spread evenly over a surface, as many for any number of triangles or points."""
    cloud, facing = _spread(surface)
    points, normals = cloud[:PLACES], facing[:PLACES]
    on_plate = _plate(points, normals)
    points, normals = points[~on_plate], normals[~on_plate]
    tree = cKDTree(cloud)
    normals, noise = _level(points, normals, cloud, facing, tree)
    return Scan(points, normals, float(on_plate.mean()), noise)


def _spread(surface: Surface) -> tuple[Array, Array]:
    """Places (n, 3) in no order, and what the surface faces there."""
    if isinstance(surface, trimesh.Trimesh):
        cloud, faces = trimesh.sample.sample_surface(surface, _CLOUD, seed=_SEED)
        return np.asarray(cloud, dtype=float), np.asarray(surface.face_normals)[faces]
    once = np.unique(surface, axis=0)
    return facing_of(once[np.random.default_rng(_SEED).permutation(len(once))[:_CLOUD]])


def _level(points: Array, normals: Array, cloud: Array, facing: Array, tree: cKDTree) -> tuple[Array, float]:
    """The normals of the planes through each place's neighbours, as few of them as the noise allows, and the
    noise, mm."""
    for count in _NEIGHBOURS:
        reach, near = tree.query(points, k=count)
        alike = np.einsum("ikj,ij->ik", facing[near], normals) > _ALIKE
        weight = (alike / np.maximum(alike.sum(axis=1, keepdims=True), 1))[..., None]
        around = cloud[near] - (weight * cloud[near]).sum(axis=1, keepdims=True)
        _, axes = np.linalg.eigh(np.einsum("ikl,ikm->ilm", weight * around, around))
        level = axes[:, :, 0]
        mean = _unit((weight * facing[near]).sum(axis=1))
        off = np.einsum("ikj,ij->ik", around, level)
        noise = spread_of(off[alike])
        level = level * np.sign(np.einsum("ij,ij->i", level, mean))[:, None]
        slack = noise / (0.5 * float(np.median(reach[:, -1])) * np.sqrt(count))
        if slack < _LEVEL:
            break
    # few triangles lie level with each other: what they face is surer than the plane through them
    return (mean if count == _NEIGHBOURS[0] else level), noise


def _plate(points: Array, normals: Array) -> Mask:
    """Which places lie on the flat face that holds the most of them, where that is a large share, and
    everything else lies on one side of it (random sample consensus; Fischler and Bolles, Communications of
    the ACM 24 (1981))."""
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
        return np.zeros(len(points), dtype=bool)
    up = _unit(normals[best].mean(axis=0))
    height = (points - points[best].mean(axis=0)) @ up
    below = height < -tolerance
    thick = best | (below & (np.abs(normals @ up) > 0.9)) | (np.abs(height) < tolerance)
    beside = height[~thick]
    if len(beside) < 0.05 * len(points) or (beside > 0).mean() < 0.9:
        return np.zeros(len(points), dtype=bool)
    return np.asarray(height < 2 * tolerance)


def _unit(vectors: Array) -> Array:
    return np.asarray(vectors / np.maximum(np.linalg.norm(vectors, axis=-1, keepdims=True), 1e-300))
