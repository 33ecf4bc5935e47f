"""Triangles of a swept shape: one grid of stations × ring points for each loop, closed by two caps.

The vertices are shared, so the mesh is watertight; `strips` is the same surface for shading, with
normals of its own on either side of each edge of the section.
"""

from __future__ import annotations

import math
from collections.abc import Sequence
from dataclasses import dataclass
from typing import Any

import numpy as np
from numpy.typing import NDArray

from metaspira.numbers.jets import Array
from metaspira.numbers.vectors import cross, unit_crosses
from metaspira.sections.blend import Rings, pieces_around
from metaspira.sweep.frames import Frames
from metaspira.sweep.sweep import Sweep

Indices = NDArray[np.int32]

MAX_VERTICES = 54_000
_SLIVER = 1e-9
_FINER, _MOST_PER_TURN, _MOST_PIECES = 40, 4000, 200
_MEASURED, _AT_ONCE, _STRAIGHT = 1000, 100_000, 1e-9


@dataclass(frozen=True, eq=False)
class Mesh:
    """vertices (n, 3) mm, faces (m, 3) turning counter-clockwise seen from outside, the true length (n,)
    at which each vertex stands, and the paint (m,) of each face: an index into `colours`, −1 for none."""

    vertices: Array
    faces: Indices
    length: Array
    paint: Indices
    colours: tuple[str, ...] = ()


def as_one(meshes: Sequence[Mesh]) -> tuple[Array, Indices]:
    """Vertices (n, 3) and faces (m, 3) of several meshes."""
    starts = np.cumsum([0, *(len(mesh.vertices) for mesh in meshes[:-1])])
    faces = [mesh.faces + start for mesh, start in zip(meshes, starts, strict=True)]
    return np.concatenate([mesh.vertices for mesh in meshes]), np.concatenate(faces)


@dataclass(frozen=True)
class Fineness:
    """Stations for each turn of the wire, facets for each turn of the section's outline, and pieces
    of each of its straight edges (which a twist makes hollow)."""

    per_turn: float = 32
    facets: int = 32
    line_pieces: int = 1


def preview_fineness(sweep: Sweep) -> Fineness:
    """As fine as looks smooth, coarser for very long coils so that the mesh stays in bounds."""
    hollow = sweep.changes.twist.constant is None or sweep.section.varies
    fineness = Fineness(per_turn=48, line_pieces=4 if hollow else 1)
    while vertex_count(sweep, fineness) > MAX_VERTICES:
        coarser = Fineness(
            max(8, int(fineness.per_turn) * 3 // 4),
            max(6, fineness.facets * 3 // 4),
            max(1, fineness.line_pieces - 1),
        )
        if coarser == fineness:
            break
        fineness = coarser
    return fineness


def vertex_count(sweep: Sweep, fineness: Fineness) -> int:
    """About how many vertices a mesh has."""
    rings = sweep.section.rings(fineness.facets, fineness.line_pieces)
    turns = max(1.0, sweep.turning / (2 * math.pi))
    return int(fineness.per_turn * turns) * sum(ring.points.shape[1] for ring in rings)


def fineness_for(sweep: Sweep, chord_error: float) -> Fineness:
    """Stations, facets and pieces of straight edges that keep the mesh within `chord_error` mm of the shape,
    measured on its cells: along the wire, around it, and across each cell, which a section that leans or
    twists makes hollow."""
    fineness = Fineness(24.0, 8, 1)
    for _ in range(_FINER):
        along, around, line, curve = chord_errors(sweep, fineness)
        worst = max(along, around, line, curve)
        if worst <= chord_error or fineness.per_turn > _MOST_PER_TURN:
            break
        per_turn, facets, pieces = fineness.per_turn, fineness.facets, fineness.line_pieces
        if along > chord_error / 2:
            per_turn *= _step(along, chord_error / 2)
        if around > chord_error / 2:
            facets = math.ceil(facets * _step(around, chord_error / 2))
        if (per_turn, facets) == (fineness.per_turn, fineness.facets):
            if line > chord_error and pieces < _MOST_PIECES:
                pieces = math.ceil(pieces * _step(line, chord_error))
            else:
                per_turn *= _step(max(line, curve), chord_error)
                facets = math.ceil(facets * _step(curve, chord_error)) if curve > chord_error else facets
        fineness = Fineness(per_turn, facets, pieces)
    return fineness


def _step(error: float, allowed: float) -> float:
    return min(2.0, max(1.05, math.sqrt(error / allowed)))


def chord_errors(sweep: Sweep, fineness: Fineness) -> tuple[float, float, float, float]:
    """How far the mesh is from the shape, mm: halfway along its edges that run along the wire, halfway along
    those around it, and halfway along the diagonals of its cells, on straight edges of the section and on
    curved ones."""
    s = sweep.stations(fineness.per_turn)
    first = np.arange(len(s) - 1)
    if len(first) > _MEASURED:
        first = np.unique(np.linspace(0, len(s) - 2, _MEASURED).astype(int))
    start, halfway, end = pieces_around(sweep.section, fineness.facets, fineness.line_pieces)
    straight = (
        np.linalg.norm(halfway - 0.5 * (start + end), axis=2).max(axis=0) < _STRAIGHT * sweep.section.reach()
    )
    worst = np.zeros(4)
    for some in np.array_split(first, math.ceil(len(first) * start.shape[1] / _AT_ONCE)):
        low, high = s[some], s[some + 1]
        low_at, middle_at, high_at = ((sweep.frames(at), at) for at in (low, 0.5 * (low + high), high))
        p, q = _cell_points(sweep, low_at, start), _cell_points(sweep, low_at, end)
        r = _cell_points(sweep, high_at, start)
        lengthwise = _cell_points(sweep, middle_at, start) - 0.5 * (p + r)
        crosswise = _cell_points(sweep, low_at, halfway) - 0.5 * (p + q)
        across = np.linalg.norm(_cell_points(sweep, middle_at, halfway) - 0.5 * (q + r), axis=2).max(axis=0)
        found = [np.linalg.norm(off, axis=2).max() for off in (lengthwise, crosswise)]
        found += [across[straight].max(initial=0.0), across[~straight].max(initial=0.0)]
        worst = np.maximum(worst, found)
    along, around, line, curve = worst.tolist()
    return along, around, line, curve


def _cell_points(sweep: Sweep, at: tuple[Frames, Array], points: Array) -> Array:
    return at[0].points(sweep.uv(points, at[1]))


def tessellate(sweep: Sweep, fineness: Fineness) -> Mesh:
    """The mesh of a sweep, watertight where it is a solid."""
    s = sweep.stations(fineness.per_turn)
    frames = sweep.frames(s)
    closes = end_faces(sweep)
    rows = len(s) - 1 if sweep.closed else len(s)
    vertices, faces, lengths, paint = [], [], [], []
    colours = _colours(sweep)
    count = 0
    starts = []
    rings = sweep.section.rings(fineness.facets, fineness.line_pieces)
    for index, ring in enumerate(rings):
        points = frames.points(sweep.uv(ring.points, s))[:rows]
        k = points.shape[1]
        grid = grid_faces(rows, k, ring.closed, sweep.closed)
        edge = np.tile(ring.edge.astype(np.int32), len(grid) // 2 // len(ring.edge))
        if index:
            grid = grid[:, ::-1]
        grid += count
        starts.append(count)
        vertices.append(points.reshape(-1, 3))
        faces.append(grid)
        paint.append(np.repeat(_paint(sweep, edge, colours, index), 2))
        lengths.append(np.repeat(s[:rows], k))
        count += rows * k
    for row, capped in ((0, closes[0]), (rows - 1, closes[1])):
        if capped:
            cap = _cap_faces(sweep, rings, s[row], starts, row)
            faces.append(cap[:, ::-1] if row == 0 else cap)
            paint.append(np.full(len(cap), -1, dtype=np.int32))
    all_faces = np.concatenate(faces)
    del faces, grid
    if sweep.orientation < 0:
        all_faces = all_faces[:, ::-1]
    mesh = Mesh(
        np.concatenate(vertices),
        np.ascontiguousarray(all_faces),
        np.concatenate(lengths),
        np.concatenate(paint).astype(np.int32, copy=False),
        colours,
    )
    return _without_slivers(mesh) if any(end.closes for end in sweep.ends) else mesh


def welding(vertices: Array, faces: Indices, cell: float) -> tuple[Indices, Indices, NDArray[np.bool_]]:
    """Which vertices (k,) stay where those in one cell of a grid are made one; the faces (m, 3) of these; and
    which faces (m,) are still triangles."""
    _, keep, back = np.unique(np.round(vertices / cell), axis=0, return_index=True, return_inverse=True)
    welded = back.reshape(-1)[faces].astype(np.int32)
    whole = (welded[:, 0] != welded[:, 1]) & (welded[:, 1] != welded[:, 2]) & (welded[:, 2] != welded[:, 0])
    return keep.astype(np.int32), welded, whole


def _without_slivers(mesh: Mesh) -> Mesh:
    """The mesh with the vertices of each tip, which lie in one place, made one."""
    keep, faces, whole = welding(mesh.vertices, mesh.faces, _SLIVER)
    return Mesh(
        mesh.vertices[keep],
        np.ascontiguousarray(faces[whole]),
        mesh.length[keep],
        mesh.paint[whole],
        mesh.colours,
    )


def end_faces(sweep: Sweep) -> tuple[bool, bool]:
    """Which ends have a face of their own."""
    if sweep.closed or not sweep.section.first.closed:
        return False, False
    first, last = (not end.closes and end.kind != "open" for end in sweep.ends)
    return first, last


def _colours(sweep: Sweep) -> tuple[str, ...]:
    found = {edge.colour for edge in sweep.outline.edges if edge.colour}
    return tuple(sorted(found))


def _paint(sweep: Sweep, edge: NDArray[np.integer[Any]], colours: tuple[str, ...], loop: int) -> Indices:
    if loop or not colours:
        return np.full(len(edge), -1, dtype=np.int32)
    known: dict[str | None, int] = {colour: i for i, colour in enumerate(colours)}
    known[None] = -1
    of_edge = np.array([known[e.colour] for e in sweep.outline.edges], dtype=np.int32)
    return of_edge[edge]


@dataclass(frozen=True, eq=False)
class Strips:
    """The surface for shading: `mesh` with a unit normal (n, 3) at each vertex."""

    mesh: Mesh
    normals: Array


def strips(sweep: Sweep, fineness: Fineness) -> Strips:
    """The surface of a sweep, each section edge a smooth strip of its own."""
    s = sweep.stations(fineness.per_turn)
    frames = sweep.frames(s)
    n = len(s)
    rings = sweep.section.rings(fineness.facets, fineness.line_pieces)
    colours = _colours(sweep)
    vertices, normals, faces, lengths, paint = [], [], [], [], []
    count = 0
    for loop, ring in enumerate(rings):
        point, slope = sweep.uv(ring.strip, s), sweep.uv(ring.slopes, s)
        k = ring.strip.shape[1]
        vertices.append(frames.points(point).reshape(-1, 3))
        along = frames.speeds(point) + sweep.flow(frames, s, ring.strip)
        sign = -sweep.orientation if loop else sweep.orientation
        normals.append(unit_crosses(frames.slopes(slope), along, sign).reshape(-1, 3))
        columns = np.flatnonzero(np.diff(ring.strip_edge) == 0)
        grid = _cells(np.arange(n - 1), columns, columns + 1, k, k)
        faces.append((grid[:, ::-1] if loop else grid) + count)
        mark = _paint(sweep, ring.strip_edge[columns], colours, loop)
        paint.append(np.repeat(np.tile(mark, n - 1), 2))
        lengths.append(np.repeat(s, k))
        count += n * k
    for row, capped, sign in zip((0, n - 1), end_faces(sweep), (-1.0, 1.0), strict=True):
        if not capped:
            continue
        end = Frames(*(getattr(frames, name)[row : row + 1] for name in Frames.__annotations__))
        points = [end.points(sweep.uv(ring.points, s[row : row + 1]))[0] for ring in rings]
        starts = [count + sum(len(p) for p in points[:i]) for i in range(len(points))]
        total = sum(len(p) for p in points)
        normal = sign * sweep.orientation * end.normal
        cap = _cap_faces(sweep, rings, s[row], starts, 0)
        vertices += points
        normals.append(np.repeat(normal / max(float(np.linalg.norm(normal)), 1e-300), total, 0))
        faces.append(cap if sign > 0 else cap[:, ::-1])
        paint.append(np.full(len(cap), -1))
        lengths.append(np.full(total, s[row]))
        count += total
    all_faces, all_paint = np.concatenate(faces), np.concatenate(paint).astype(np.int32)
    places = np.concatenate(vertices)
    if any(end.closes for end in sweep.ends):
        corners = places[all_faces]
        sides = np.linalg.norm(corners - np.roll(corners, 1, axis=1), axis=2)
        whole = sides.min(axis=1) > _SLIVER
        all_faces, all_paint = all_faces[whole], all_paint[whole]
    if sweep.orientation < 0:
        all_faces = all_faces[:, ::-1]
    mesh = Mesh(
        places,
        np.ascontiguousarray(all_faces.astype(np.int32)),
        np.concatenate(lengths),
        all_paint,
        colours,
    )
    return Strips(mesh, np.concatenate(normals))


def grid_faces(n: int, k: int, closed: bool, around: bool) -> Indices:
    """Two faces for each cell of n stations × k points; `around` joins the last station to the first."""
    columns = np.arange(k if closed else k - 1)
    rows = np.arange(n if around else n - 1)
    return _cells(rows, columns, (columns + 1) % k, k, k if not around else k - n * k)


def _cells(
    rows: NDArray[np.int64], left: NDArray[np.int64], right: NDArray[np.int64], k: int, last: int
) -> Indices:
    """Two faces for each row and each pair of columns; the row after row r begins k further on, after the
    last one `last`."""
    start = (rows * k).astype(np.int32)[:, None]
    step = np.full(len(rows), k, dtype=np.int32)
    step[-1:] = last
    a, b = start + left.astype(np.int32), start + right.astype(np.int32)
    c, d = a + step[:, None], b + step[:, None]
    return np.stack([a, b, c, b, d, c], axis=-1).reshape(-1, 3)


@dataclass(frozen=True)
class EndFace:
    """A section's face as flat convex pieces, corners (n, k, 3) mm, and how far its outline is off at the
    most."""

    corners: Array
    error: float


def end_face(sweep: Sweep, s: float, facets: int) -> EndFace:
    """The section's face at s: in one piece where it is convex, else in triangles."""
    rings = sweep.section.rings(facets)
    place = np.array([s])
    frames = sweep.frames(place)
    points = [frames.points(sweep.uv(ring.points, place))[0] for ring in rings]
    width, _, depth, _ = sweep.scale(place)
    loops = [loop for outline in sweep.section.outlines for loop in outline.loops]
    error = max(loop.ring(facets).chord_error for loop in loops) * float(max(abs(width[0]), abs(depth[0])))
    if len(points) == 1:
        side = np.roll(points[0], -1, axis=0) - points[0]
        turn = cross(side, np.roll(side, -1, axis=0)) @ frames.normal[0]
        if np.all(turn >= -1e-12 * np.abs(turn).max()) or np.all(turn <= 1e-12 * np.abs(turn).max()):
            return EndFace(points[0][None], error)
    starts = np.cumsum([0, *(len(row) for row in points[:-1])]).tolist()
    return EndFace(np.concatenate(points)[_cap_faces(sweep, rings, s, starts, 0)], error)


def _cap_faces(sweep: Sweep, rings: tuple[Rings, ...], s: float, starts: list[int], row: int) -> Indices:
    """Triangles of the end face at s; loop i's points of that row begin at starts[i] + row · k."""
    import manifold3d

    place = np.array([s])
    polygons = []
    numbers = []
    for index, ring in enumerate(rings):
        points = sweep.uv(ring.points, place)
        points = points[0] if points.ndim == 3 else points
        k = len(points)
        numbers.append(starts[index] + row * k + np.arange(k))
        polygons.append(points if index == 0 else points[::-1])
        if index:
            numbers[-1] = numbers[-1][::-1]
    triangles = np.asarray(manifold3d.triangulate(polygons), dtype=np.int64)
    return np.concatenate(numbers)[triangles].astype(np.int32)
