"""Volume moments of a swept shape: ∫ dV, ∫ x dV and ∫ x xᵀ dV.

    x = o + u a + v b,   dV = J du dv ds,   J = n · (o′ + u a′ + v b′)

so that all of them follow from the section's moments ∬ uⁱ vʲ up to the third degree, which are exact, and one
integral along the wire. What a plane grinds away is the difference of two meshes of the same fineness,
brought to its exact volume.
"""

from __future__ import annotations

from dataclasses import dataclass
from functools import lru_cache

import numpy as np

from metaspira.numbers.jets import Array
from metaspira.numbers.quadrature import gauss_points
from metaspira.sweep.ground import ground_planes, mesh_of, volume_of
from metaspira.sweep.mesh import Mesh, fineness_for, tessellate
from metaspira.sweep.sweep import Stretch, Sweep

_DOUBLINGS = 4
_CLOSE = 1e-11
_FINE = 1e-2


@dataclass(frozen=True)
class Moments:
    """Volume (mm³), ∫ x dV (3,) mm⁴ and ∫ x xᵀ dV (3, 3) mm⁵."""

    volume: float
    first: Array
    second: Array

    def __add__(self, other: Moments) -> Moments:
        return Moments(self.volume + other.volume, self.first + other.first, self.second + other.second)

    def times(self, factor: float) -> Moments:
        return Moments(factor * self.volume, factor * self.first, factor * self.second)


NOTHING = Moments(0.0, np.zeros(3), np.zeros((3, 3)))


def moments_of(sweep: Sweep) -> Moments:
    """The moments of a swept shape with its ends ground."""
    total = NOTHING
    for stretch in sweep.stretches:
        pieces = sweep.pieces_of(stretch)
        found = _along(sweep, stretch, pieces)
        for _ in range(_DOUBLINGS):
            before, pieces = found, 2 * pieces
            found = _along(sweep, stretch, pieces)
            if np.abs(found.second - before.second).max() <= _CLOSE * np.abs(found.second).max():
                break
        total += found
    total = total.times(sweep.orientation)
    return total + _taken(sweep).times(-1.0)


def ground_area(sweep: Sweep) -> float:
    """By how much grinding its ends changes the surface of a swept shape, mm²."""
    import trimesh

    if not ground_planes(sweep):
        return 0.0
    ground, whole = (trimesh.Trimesh(m.vertices, m.faces, process=False).area for m in _meshes(sweep))
    return float(ground - whole)


def _taken(sweep: Sweep) -> Moments:
    """What planes grind away: that of two meshes, brought to the exact volume."""
    if not ground_planes(sweep):
        return NOTHING
    ground, whole = (mesh_moments(mesh) for mesh in _meshes(sweep))
    rough = whole + ground.times(-1.0)
    return rough.times((sweep.volume - volume_of(sweep)) / rough.volume)


@lru_cache(maxsize=8)
def _meshes(sweep: Sweep) -> tuple[Mesh, Mesh]:
    fineness = fineness_for(sweep, _FINE * sweep.reach())
    return mesh_of(sweep, fineness), tessellate(sweep, fineness)


def mesh_moments(mesh: Mesh) -> Moments:
    """The moments of what a closed mesh encloses, by its tetrahedra to the origin."""
    corners = mesh.vertices[mesh.faces]
    six = np.einsum("ij,ij->i", corners[:, 0], np.cross(corners[:, 1], corners[:, 2]))
    middle = corners.sum(axis=1)
    squares = np.einsum("i,ikj,ikl->jl", six, corners, corners)
    second = (squares + np.einsum("i,ij,il->jl", six, middle, middle)) / 120
    return Moments(float(six.sum()) / 6, six @ middle / 24, second)


def _along(sweep: Sweep, stretch: Stretch, pieces: int) -> Moments:
    p, weights = gauss_points(0.0, 1.0, pieces)
    s, pace = stretch.place(p)
    frames = sweep.frames(s)
    m = sweep.section.products(sweep.changes.shape.value(s / sweep.length))
    still, by_u, by_v = (
        np.einsum("ij,ij->i", frames.normal, of) for of in (frames.d_origin, frames.d_first, frames.d_second)
    )
    weight = weights * pace

    def k(i: int, j: int) -> Array:
        return weight * (still * m[i, j] + by_u * m[i + 1, j] + by_v * m[i, j + 1])

    o, a, b = frames.origin, frames.first, frames.second
    first = k(0, 0) @ o + k(1, 0) @ a + k(0, 1) @ b
    second = np.zeros((3, 3))
    for x, y, factor in ((o, o, k(0, 0)), (a, a, k(2, 0)), (b, b, k(0, 2))):
        second += np.einsum("i,ij,il->jl", factor, x, y)
    for x, y, factor in ((o, a, k(1, 0)), (o, b, k(0, 1)), (a, b, k(1, 1))):
        mixed = np.einsum("i,ij,il->jl", factor, x, y)
        second += mixed + mixed.T
    return Moments(float(k(0, 0).sum()), first, second)
