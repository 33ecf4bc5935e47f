"""How far places are from a reference body: positive outside, negative inside.

The nearest point is exact on the triangles. A body that is not closed has no inside.
"""

from __future__ import annotations

from dataclasses import dataclass
from functools import lru_cache
from typing import TYPE_CHECKING

import numpy as np

from metaspira.gaps.hulls import Hulls, hulls_of_triangles
from metaspira.numbers.jets import Array
from metaspira.numbers.nearest import Triangles
from metaspira.numbers.once import cached_property
from metaspira.references.asked import ReferenceBody
from metaspira.sweep.mesh import Indices

if TYPE_CHECKING:
    import trimesh

_SHARE = 24
_MOST = 60_000


@dataclass(frozen=True, eq=False)
class PlacedBody:
    """A body in the part's space, mm."""

    name: str
    error: float
    vertices: Array
    faces: Indices
    closed: bool

    @cached_property
    def _cut(self) -> tuple[Array, Indices]:
        import trimesh

        edge = float(np.ptp(self.vertices, axis=0).max()) / _SHARE
        most = _MOST + len(self.faces)
        while True:
            places, faces = trimesh.remesh.subdivide_to_size(self.vertices, self.faces, edge, max_iter=20)
            if len(faces) <= most:
                return np.asarray(places), np.asarray(faces)
            edge *= 1.5

    @property
    def places(self) -> Array:
        """Places (n, 3) all over the surface, mm: the corners of its triangles, cut small."""
        return self._cut[0]

    @cached_property
    def triangles(self) -> Array:
        """(n, 3, 3), cut small."""
        return self._cut[0][self._cut[1]]

    @cached_property
    def surface(self) -> Hulls:
        """The triangles for the search of gaps."""
        return hulls_of_triangles(self.vertices[self.faces], self.error)

    @cached_property
    def _own(self) -> Triangles:
        return Triangles(self.vertices[self.faces])

    def distance(self, points: Array) -> Array:
        """Signed distance (n,), mm, of points (n, 3)."""
        away, along = self._own.nearest(points)
        return np.where(along < 0, -away, away) if self.closed else away


def placed(body: ReferenceBody) -> PlacedBody:
    """A body of a resolved recipe at its place; the same object for the same body."""
    vertices = np.array(body.mesh["vertices"], dtype=float)
    faces = np.array(body.mesh["faces"], dtype=np.int32)
    return _placed(body.name, body.error, vertices.tobytes(), faces.tobytes(), body.at, body.turn)


@lru_cache(maxsize=16)
def _placed(
    name: str, error: float, vertices: bytes, faces: bytes, at: tuple[float, ...], turn: float
) -> PlacedBody:
    import trimesh

    mesh = trimesh.Trimesh(
        np.frombuffer(vertices).reshape(-1, 3), np.frombuffer(faces, dtype=np.int32).reshape(-1, 3)
    )
    cos, sin = np.cos(turn), np.sin(turn)
    mesh.vertices = mesh.vertices @ np.array([[cos, sin, 0], [-sin, cos, 0], [0, 0, 1]]) + np.array(at)
    return placed_mesh(name, error, mesh)


def placed_mesh(name: str, error: float, mesh: trimesh.Trimesh) -> PlacedBody:
    """A mesh where it stands; one that is closed is turned to face outward, in place."""
    closed = bool(mesh.is_watertight)
    if closed and mesh.volume < 0:
        mesh.invert()
    return PlacedBody(name, error, np.array(mesh.vertices), np.array(mesh.faces, np.int32), closed)
