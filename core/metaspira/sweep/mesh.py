"""Triangles of a swept shape: one grid of stations × ring points, closed by two caps.

The vertices are shared, so the mesh is watertight; `Strips` is the same surface for shading, with
normals of its own on either side of each edge of the section.
"""

from __future__ import annotations

import math
from dataclasses import dataclass

import manifold3d
import numpy as np
from numpy.typing import NDArray

from metaspira.paths.quadrature import Array
from metaspira.sections.outline import Ring
from metaspira.sweep.frames import Frames, cross
from metaspira.sweep.sweep import Sweep

Indices = NDArray[np.int32]

MAX_VERTICES = 120_000


@dataclass(frozen=True, eq=False)
class Mesh:
    """vertices (n, 3) mm, faces (m, 3) turning counter-clockwise seen from outside, and the true
    length (n,) at which each vertex stands."""

    vertices: Array
    faces: Indices
    length: Array


@dataclass(frozen=True)
class Fineness:
    """Stations for each turn of the wire, facets for each turn of the section's outline, and pieces
    of each of its straight edges (which a twist makes hollow)."""

    per_turn: int = 32
    facets: int = 32
    line_pieces: int = 1

    def ring(self, sweep: Sweep) -> Ring:
        return sweep.outline.ring(self.facets, self.line_pieces)


def preview_fineness(sweep: Sweep) -> Fineness:
    """As fine as looks smooth, coarser for very long coils so that the mesh stays in bounds."""
    fineness = Fineness(per_turn=48, line_pieces=1 if sweep.twist.constant else 4)
    turns = max(1.0, sweep.turning / (2 * math.pi))
    while fineness.per_turn * turns * len(fineness.ring(sweep).points) > MAX_VERTICES:
        coarser = Fineness(
            max(8, fineness.per_turn * 3 // 4), max(6, fineness.facets * 3 // 4), fineness.line_pieces
        )
        if coarser == fineness:
            break
        fineness = coarser
    return fineness


def fineness_for(sweep: Sweep, chord_error: float) -> Fineness:
    """Stations and facets that keep the mesh within `chord_error` mm of the shape."""
    coil = sweep.path.coil
    size = max(abs(sweep.size.start), abs(sweep.size.end))
    swing = sweep.outline.reach * size
    if coil is not None:
        swing += max(coil.start_radius, coil.end_radius)
    facets = 8
    while facets < 512 and sweep.outline.ring(facets).chord_error * size > chord_error / 2:
        facets = facets * 5 // 4
    per_turn = _arcs(swing, chord_error / 2)
    twisting = abs(sweep.twist.rate) * sweep.length / max(sweep.turning, 1e-12)
    hollow = sweep.outline.reach * size * 2 * math.pi / per_turn * twisting
    return Fineness(per_turn, facets, min(48, max(1, math.ceil(hollow / chord_error))))


def _arcs(radius: float, chord_error: float) -> int:
    share = min(1.0, chord_error / radius)
    return max(12, min(512, math.ceil(math.pi / math.acos(1 - share))))


def tessellate(sweep: Sweep, fineness: Fineness) -> Mesh:
    """The watertight mesh of a sweep."""
    ring = fineness.ring(sweep)
    s = sweep.stations(fineness.per_turn)
    points = sweep.frames(s).points(ring.points)
    n, k = points.shape[:2]
    faces = np.concatenate(
        [_grid_faces(n, k, closed=True), _cap_faces(ring, 0), _cap_faces(ring, n - 1)]
    )
    first_cap = len(faces) - 2 * (k - 2)
    faces[first_cap : first_cap + k - 2] = faces[first_cap : first_cap + k - 2, ::-1]
    if sweep.orientation < 0:
        faces = faces[:, ::-1]
    return Mesh(points.reshape(-1, 3), np.ascontiguousarray(faces), np.repeat(s, k))


@dataclass(frozen=True, eq=False)
class Strips:
    """The surface for shading: `mesh` with a unit normal (n, 3) at each vertex."""

    mesh: Mesh
    normals: Array


def strips(sweep: Sweep, fineness: Fineness) -> Strips:
    """The surface of a sweep, each section edge a smooth strip of its own."""
    ring = fineness.ring(sweep)
    s = sweep.stations(fineness.per_turn)
    frames = sweep.frames(s)
    grid = frames.points(ring.points)
    n = len(s)
    vertices, normals, faces, lengths = [], [], [], []
    count = 0
    for index, edge in enumerate(sweep.outline.edges):
        on_edge = np.flatnonzero(ring.edge == index)
        columns = np.append(on_edge, (on_edge[-1] + 1) % len(ring.points))
        point, slope = edge.at(np.append(ring.t[on_edge], 1.0))
        k = len(columns)
        vertices.append(grid[:, columns].reshape(-1, 3))
        normals.append(_normals(sweep, frames, point, slope).reshape(-1, 3))
        faces.append(_grid_faces(n, k, closed=False) + count)
        lengths.append(np.repeat(s, k))
        count += n * k
    cap = _cap_faces(ring, 0)
    for at, sign in ((0, -1.0), (n - 1, 1.0)):
        end = Frames(*(getattr(frames, name)[at : at + 1] for name in Frames.__annotations__))
        vertices.append(grid[at])
        normal = sign * sweep.orientation * end.normal
        normals.append(
            np.repeat(normal / max(float(np.linalg.norm(normal)), 1e-300), len(ring.points), 0)
        )
        faces.append((cap if sign > 0 else cap[:, ::-1]) + count)
        lengths.append(np.full(len(ring.points), s[at]))
        count += len(ring.points)
    all_faces = np.concatenate(faces)
    if sweep.orientation < 0:
        all_faces = all_faces[:, ::-1]
    mesh = Mesh(np.concatenate(vertices), np.ascontiguousarray(all_faces), np.concatenate(lengths))
    return Strips(mesh, np.concatenate(normals))


def _grid_faces(n: int, k: int, closed: bool) -> Indices:
    columns = k if closed else k - 1
    row, column = np.meshgrid(np.arange(n - 1), np.arange(columns), indexing="ij")
    a = (row * k + column).ravel()
    b = (row * k + (column + 1) % k).ravel()
    faces = np.stack([np.stack([a, b, a + k], 1), np.stack([b, b + k, a + k], 1)], 1)
    return faces.reshape(-1, 3).astype(np.int32)


def _cap_faces(ring: Ring, station: int) -> Indices:
    k = len(ring.points)
    triangles = np.asarray(manifold3d.triangulate([ring.points]), dtype=np.int32)
    return triangles + np.int32(station * k)


def _normals(sweep: Sweep, frames: Frames, point: Array, slope: Array) -> Array:
    along = frames.speeds(point)
    around = (
        slope[None, :, 0:1] * frames.first[:, None, :] + slope[None, :, 1:2] * frames.second[:, None, :]
    )
    normal = sweep.orientation * cross(around, along)
    return normal / np.maximum(np.linalg.norm(normal, axis=2, keepdims=True), 1e-300)
