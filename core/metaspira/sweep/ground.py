"""Ground ends: what a plane square to the axis takes off a swept shape.

The plane z = c cuts the section's plane at s in a line. The section beyond that line has area A and first
moments M, and what is lost is  ∫ ± (a × b) · (A o' + M_u a' + M_v b') ds  over the wire that the plane
meets. A and M are those of the triangles from a point on the line to each clipped piece of the outline.
"""

from __future__ import annotations

from dataclasses import dataclass
from functools import lru_cache
from typing import TYPE_CHECKING

import numpy as np
from numpy.typing import NDArray

from metaspira.numbers.compiled import compiled
from metaspira.numbers.jets import Array
from metaspira.numbers.quadrature import gauss_points
from metaspira.problems import Problem, RecipeError
from metaspira.sweep.mesh import Fineness, Indices, Mesh, Strips, strips, tessellate
from metaspira.sweep.sweep import Sweep

_FACETS = 1440
_PIECES = 160
_BLOCKS = 8
_SHARP = 0.9


if TYPE_CHECKING:
    import manifold3d


@dataclass(frozen=True)
class GroundPlane:
    """The plane z = `height` of the wire's start, or else of its end; what is `above` it, or else below it,
    is ground away. `low` and `high` are the true lengths between which the wire meets it; `gone`, mm from the
    end that is ground, is all beyond it."""

    at_start: bool
    height: float
    above: bool
    low: float
    high: float
    gone: float

    @property
    def sign(self) -> float:
        """Of z where the shape is kept."""
        return -1.0 if self.above else 1.0

    def cuts(self, s: Array) -> NDArray[np.bool_]:
        """At which true lengths (n,) the wire meets it."""
        return (s >= self.low) & (s <= self.high)


@lru_cache(maxsize=64)
def ground_planes(sweep: Sweep) -> tuple[GroundPlane, ...]:
    """The planes of the ends that are ground, if any."""
    found = []
    for index, end in enumerate(sweep.ends):
        if end.kind != "ground":
            continue
        found.append(_plane(sweep, index, end.depth))
    return tuple(found)


def _plane(sweep: Sweep, index: int, depth: float) -> GroundPlane:
    s = sweep.stations(96, least=193)
    z = sweep.frames(s).points(sweep.ring(s, 96, 8))[..., 2]
    here, other = (0, -1) if index == 0 else (-1, 0)
    above = bool(z[here].mean() > z[other].mean())
    sign = -1.0 if above else 1.0
    outermost = float((sign * z).min())
    if depth <= 0:
        depth = 0.5 * float(np.ptp(z[here]))
    height = sign * (outermost + depth)
    cut = np.flatnonzero((sign * (z - height)).min(axis=1) < 0)
    step = float(np.diff(s).max())
    low = max(float(s[cut[0]]) - step, 0.0)
    high = min(float(s[cut[-1]]) + step, sweep.length)
    off = sign * (z - height)
    left = np.flatnonzero(off.max(axis=1) >= 0)
    if not len(left):
        return GroundPlane(index == 0, height, above, low, high, sweep.length)
    end = float(s[left[0]]) if index == 0 else sweep.length - float(s[left[-1]])
    tangent = sweep.path.at(s[[left[0], left[-1]]]).tangent[here]
    lean = abs(float(tangent[2])) / max(float(np.hypot(*tangent[:2])), 1e-9)
    shadow = float(np.ptp(z[left[here]])) * lean
    return GroundPlane(index == 0, height, above, low, high, max(end - step - shadow, 0.0))


def demand_left(sweep: Sweep, place: str) -> None:
    """Raise RecipeError, with a place below `place`, where grinding leaves nothing of a wire."""
    if not any(end.depth > 0 for end in sweep.ends):
        return
    planes = ground_planes(sweep)
    deepest = max(planes, key=lambda plane: plane.gone)
    least = max((plane.height for plane in planes if not plane.above), default=-np.inf)
    most = min((plane.height for plane in planes if plane.above), default=np.inf)
    if sum(plane.gone for plane in planes) < sweep.length and least < most:
        return
    end = "start" if deepest.at_start else "end"
    raise RecipeError(
        Problem(
            f"{place}/{end}/depth",
            "grinding this deep leaves nothing of the wire",
            "grind less, or leave the depth out for half the wire",
        )
    )


def volume_of(sweep: Sweep) -> float:
    """Predicted volume of a swept shape with its ends ground, mm³."""
    return sweep.volume - sum(_taken(sweep, plane) for plane in ground_planes(sweep))


def mesh_of(sweep: Sweep, fineness: Fineness) -> Mesh:
    """The mesh of a swept shape with its ends ground."""
    mesh, planes = tessellate(sweep, fineness), ground_planes(sweep)
    return _trimmed(mesh, planes) if planes else mesh


def strips_of(sweep: Sweep, fineness: Fineness) -> Strips:
    """The surface for shading, with the ends ground."""
    import trimesh

    if not ground_planes(sweep):
        return strips(sweep, fineness)
    mesh = mesh_of(sweep, fineness)
    whole = trimesh.Trimesh(mesh.vertices, mesh.faces, process=False)
    corners = mesh.faces.reshape(-1)
    flat = np.asarray(whole.face_normals)[:, None, :]
    smooth = np.asarray(whole.vertex_normals)[mesh.faces]
    rounded = np.einsum("fci,fci->fc", smooth, np.broadcast_to(flat, smooth.shape)) > _SHARP
    normals = np.where(rounded[..., None], smooth, flat).reshape(-1, 3)
    apart = Mesh(
        mesh.vertices[corners],
        np.arange(len(corners), dtype=np.int32).reshape(-1, 3),
        mesh.length[corners],
        mesh.paint,
        mesh.colours,
    )
    return Strips(apart, normals)


def _trimmed(mesh: Mesh, planes: tuple[GroundPlane, ...]) -> Mesh:
    """The mesh cut by the planes. What no plane meets stays as it is; the rest is closed by cones over its
    open edges, cut, and put back without them."""
    import manifold3d

    meets = np.zeros(len(mesh.vertices), dtype=bool)
    for plane in planes:
        meets |= plane.cuts(mesh.length)
    met = meets[mesh.faces].any(axis=1)
    tips, cones = _cones(mesh.vertices, mesh.faces[met])
    places = np.vstack([mesh.vertices, tips])
    faces = np.vstack([mesh.faces[met], cones])
    used, numbered = np.unique(faces, return_inverse=True)
    lengths = np.append(mesh.length, np.zeros(len(tips)))
    properties = np.column_stack([places, lengths, np.arange(len(places))])[used].astype(np.float32)
    body = manifold3d.Manifold(manifold3d.Mesh(properties, numbered.reshape(-1, 3).astype(np.uint32)))
    for plane in planes:
        body = body.trim_by_plane((0.0, 0.0, plane.sign), plane.sign * plane.height)
    cut, numbers = _cut_of(body.to_mesh(), places)
    corners = numbers[cut[1]]
    corners = corners[((corners < len(mesh.vertices)) | (corners >= len(places))).all(axis=1)]
    rows = np.vstack([np.column_stack([places, lengths]), cut[0]])
    kept, faces = np.unique(np.vstack([mesh.faces[~met], corners]), return_inverse=True)
    faces = np.ascontiguousarray(faces.reshape(-1, 3), dtype=np.int32)
    return Mesh(rows[kept, :3], faces, rows[kept, 3], np.full(len(faces), -1, dtype=np.int32))


def _cones(places: Array, faces: Indices) -> tuple[Array, Indices]:
    """Tips (t, 3) and faces that close every loop of edges which only one face has; the tips are numbered on
    from the places."""
    edges = np.concatenate([faces[:, [0, 1]], faces[:, [1, 2]], faces[:, [2, 0]]]).astype(np.int64)
    forth, back = edges @ [len(places), 1], edges @ [1, len(places)]
    open_edges = edges[~np.isin(forth, back)]
    after = dict(open_edges.tolist())
    tips: list[Array] = []
    cones: list[tuple[int, int, int]] = []
    while after:
        loop = [next(iter(after))]
        while (following := after.pop(loop[-1])) != loop[0]:
            loop.append(following)
        tip = len(places) + len(tips)
        tips.append(places[loop].mean(axis=0))
        cones += [(b, a, tip) for a, b in zip(loop, [*loop[1:], loop[0]], strict=True)]
    return np.array(tips).reshape(-1, 3), np.array(cones, dtype=np.int32).reshape(-1, 3)


def _cut_of(mesh: manifold3d.Mesh, places: Array) -> tuple[tuple[Array, Indices], Indices]:
    """The vertices that the cut made, with their true lengths (m, 4), and all faces; and the number of each
    vertex: that which it had among the places, or on from them."""
    rows = np.asarray(mesh.vert_properties)
    merged = np.arange(len(rows))
    merged[np.asarray(mesh.merge_from_vert, dtype=int)] = np.asarray(mesh.merge_to_vert, dtype=int)
    named = np.clip(np.rint(rows[:, 4]), 0, len(places) - 1).astype(np.int32)
    old = (rows[:, :3] == places[named].astype(np.float32)).all(axis=1)
    numbers = np.where(old, named, len(places) + np.cumsum(~old) - 1).astype(np.int32)
    faces = merged[np.asarray(mesh.tri_verts, dtype=int)].astype(np.int32)
    return (rows[~old, :4].astype(float), faces), numbers


def _taken(sweep: Sweep, plane: GroundPlane) -> float:
    """What a plane takes off, mm³."""
    s, weights = gauss_points(plane.low, plane.high, _PIECES)
    total = 0.0
    sign = plane.sign
    for at, weight in zip(np.array_split(s, _BLOCKS), np.array_split(weights, _BLOCKS), strict=True):
        frames = sweep.frames(at)
        slope = sign * np.stack([frames.first[:, 2], frames.second[:, 2]], axis=1)
        level = sign * (frames.origin[:, 2] - plane.height)
        moments = np.zeros((len(at), 3))
        for index, ring in enumerate(sweep.section.rings(_FACETS, 64)):
            points = sweep.uv(ring.points, at)
            points = points[None] if points.ndim == 2 else points
            taken = _beyond(np.ascontiguousarray(points), level, slope)
            moments += -taken if index else taken
        moving = (
            moments[:, 0:1] * frames.d_origin
            + moments[:, 1:2] * frames.d_first
            + moments[:, 2:3] * frames.d_second
        )
        total += float(weight @ np.einsum("ij,ij->i", frames.normal, moving))
    return sweep.orientation * total


@compiled("f8[:, :, ::1]", "f8[::1]", "f8[:, ::1]")
def _beyond(points, level, slope):  # type: ignore[no-untyped-def]
    """Area and first moments (n, 3) of polygons (n or 1, k, 2) where level + slope · p < 0, by the
    triangles from the line's foot (on which that is 0) to each clipped piece."""
    n, k = len(level), points.shape[1]
    out = np.zeros((n, 3))
    for i in range(n):
        row = points[i] if points.shape[0] > 1 else points[0]
        a, b, c = slope[i, 0], slope[i, 1], level[i]
        steep = max(a * a + b * b, 1e-300)
        fu, fv = -c * a / steep, -c * b / steep
        u0, v0 = row[k - 1, 0], row[k - 1, 1]
        d0 = c + a * u0 + b * v0
        for j in range(k):
            u1, v1 = row[j, 0], row[j, 1]
            d1 = c + a * u1 + b * v1
            if d0 < 0 or d1 < 0:
                su, sv, eu, ev = u0, v0, u1, v1
                if d0 >= 0 or d1 >= 0:
                    t = d0 / (d0 - d1)
                    xu, xv = u0 + t * (u1 - u0), v0 + t * (v1 - v0)
                    if d0 >= 0:
                        su, sv = xu, xv
                    else:
                        eu, ev = xu, xv
                area = 0.5 * ((su - fu) * (ev - fv) - (sv - fv) * (eu - fu))
                out[i, 0] += area
                out[i, 1] += area * (su + eu + fu) / 3
                out[i, 2] += area * (sv + ev + fv) / 3
            u0, v0, d0 = u1, v1, d1
    return out
