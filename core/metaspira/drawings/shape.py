"""Views of a part's surface: as it is seen, and cut through its axis."""

from __future__ import annotations

from collections.abc import Sequence

import numpy as np
import trimesh
from shapely import MultiLineString
from shapely.ops import polygonize
from trimesh.intersections import mesh_plane, slice_faces_plane

from metaspira.drawings.marks import Hatch, Line, Mark
from metaspira.drawings.seen import FRONT, View, seen_edges
from metaspira.numbers.jets import Array
from metaspira.parts import AnyPart, Body, bodies_of
from metaspira.sweep.mesh import Mesh, as_one
from metaspira.sweep.sweep import Sweep

_MOST_VERTICES = 400_000
_FINE = 1 / 250
_PLACES = 7
_AROUND, _ALONG, _PER_TURN, _TIMES = 2880, 41, 4, 3


def reach_of(part: AnyPart) -> float:
    """The reach of the wire, or of the thread, mm."""
    return max(part.reach, 1e-3)


def meshes_of(part: AnyPart) -> list[Mesh]:
    """The bodies as fine as a drawing shows them, and no finer than memory allows."""
    error = reach_of(part) * _FINE
    while sum(body.vertex_count(error) for body in bodies_of(part)) > _MOST_VERTICES:
        error *= 2
    return [body.mesh(error) for body in bodies_of(part)]


def seen(meshes: Sequence[Mesh], view: View, fine: float) -> list[Mark]:
    """What one sees of bodies, mm of the part."""
    return _lines(seen_edges(*as_one(meshes), view, fine))


def cut(meshes: Sequence[Mesh], fine: float) -> list[Mark]:
    """What one sees of bodies behind the plane y = 0, from the front, and their sections by it, hatched."""
    vertices, faces = as_one(meshes)
    plane = np.array([0.0, 1.0, 0.0]), np.zeros(3)
    behind, left, _ = slice_faces_plane(vertices, faces, *plane)
    marks = _lines(seen_edges(behind, np.asarray(left, dtype=np.int32), FRONT, fine))
    for mesh in meshes:
        solid = trimesh.Trimesh(mesh.vertices, mesh.faces, process=False)
        pieces = np.round(mesh_plane(solid, *plane)[:, :, ::2], _PLACES)
        for face in polygonize(MultiLineString(list(pieces)).geoms):
            marks.append(Hatch(tuple(tuple(ring.coords) for ring in (face.exterior, *face.interiors))))
    return marks


def box_of(meshes: Sequence[Mesh], view: View) -> tuple[float, float, float, float]:
    """Left, foot, right and top of bodies as one sees them."""
    places = as_one(meshes)[0] @ view.axes.T[:, :2]
    (left, low), (right, high) = places.min(axis=0), places.max(axis=0)
    return float(left), float(low), float(right), float(high)


def span(part: AnyPart, meshes: Sequence[Mesh], axis: int) -> tuple[float, float]:
    """The least and the greatest x, y or z of the surface, mm: from its mesh, then from the surface itself
    around the place."""
    found = []
    for sign in (-1.0, 1.0):
        places = [(float((sign * mesh.vertices[:, axis]).max()), k) for k, mesh in enumerate(meshes)]
        most, which = max(places)
        body = bodies_of(part)[which]
        if isinstance(body, Body):
            mesh = meshes[which]
            s = float(mesh.length[np.argmax(sign * mesh.vertices[:, axis])])
            most = max(most, _refined(body.sweep, s, axis, sign))
        found.append(sign * most)
    return found[0], found[1]


def _refined(sweep: Sweep, s: float, axis: int, sign: float) -> float:
    """The greatest height of the surface near a true length s."""
    ring = sweep.section.rings(_AROUND, 1)[0].points
    reach = sweep.length / max(_PER_TURN * sweep.turning, 8.0)
    for _ in range(_TIMES):
        at = np.linspace(max(s - reach, 0.0), min(s + reach, sweep.length), _ALONG)
        heights = sign * sweep.frames(at).points(sweep.uv(ring, at))[:, :, axis]
        s = float(at[np.argmax(heights.max(axis=1))])
        reach *= 2.5 / _ALONG
    return float(heights.max())


def _lines(found: list[Array]) -> list[Mark]:
    return [Line(tuple((float(x), float(y)) for x, y in line)) for line in found]
