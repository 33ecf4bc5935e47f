"""A scanned surface: places all over it with the directions that face outward, without the plate it lay on."""

from __future__ import annotations

from dataclasses import dataclass

import numpy as np
import trimesh
from scipy.spatial import cKDTree

from metaspira.numbers.jets import Array

PLACES = 30_000
_SEED = 1
_NEAR = 12
_PLATE = 0.12
_TRIALS = 120
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

    def part(self, kept: Array) -> Scan:
        """The places of a mask (n,)."""
        return Scan(self.points[kept], self.normals[kept], self.plate, self.noise)


def scan_of(mesh: trimesh.Trimesh) -> Scan:
    """Places spread evenly over a mesh, as many for any number of triangles."""
    points, faces = trimesh.sample.sample_surface(mesh, PLACES, seed=_SEED)
    points = np.asarray(points, dtype=float)
    normals = np.asarray(mesh.face_normals)[faces]
    on_plate = _plate(points, normals)
    points, normals = points[~on_plate], normals[~on_plate]
    neighbours = cKDTree(points).query(points, k=_NEAR)[1]
    for _ in range(2):
        alike = np.einsum("ikj,ij->ik", normals[neighbours], normals) > _ALIKE
        normals = _unit(np.einsum("ikj,ik->ij", normals[neighbours], alike))
    around = points[neighbours] - points[neighbours].mean(axis=1, keepdims=True)
    off = np.abs(np.einsum("ikj,ij->ik", around, normals))
    return Scan(points, normals, float(on_plate.mean()), float(np.median(off)) * 1.4826)


def _plate(points: Array, normals: Array) -> Array:
    """Which places lie on the flat face that holds the most of them, where that is a large share, and
    everything else lies on one side of it (random sample consensus; Fischler and Bolles, Communications of the
    ACM 24 (1981))."""
    rng = np.random.default_rng(_SEED)
    tolerance = 2e-3 * float(np.ptp(points, axis=0).max())
    best = np.zeros(len(points), dtype=bool)
    for index in rng.choice(len(points), _TRIALS):
        height = (points - points[index]) @ normals[index]
        found = (np.abs(height) < tolerance) & (normals @ normals[index] > 0.9)
        if found.sum() > best.sum():
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
