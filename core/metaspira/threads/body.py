"""A threaded body: loops of surfaces that share their pieces along the axis, closed by a plane at each end."""

from __future__ import annotations

import itertools
import math
from collections.abc import Sequence
from dataclasses import dataclass
from functools import cached_property
from typing import Any, Protocol

import manifold3d
import numpy as np
from numpy.typing import NDArray

from metaspira.numbers.jets import Array
from metaspira.numbers.vectors import cross
from metaspira.sweep.mesh import Mesh, Strips
from metaspira.threads.surface import Piece, Slot, ThreadSurface

Numbers = NDArray[np.integer[Any]]

_PREVIEW_FACETS = 48
_LEAST_FACETS = 10
_MOST_VERTICES = 50_000
_STEP = 1e-5


class Lateral(Protocol):
    """A surface around the axis: patches, piece by piece along it."""

    @property
    def pieces(self) -> tuple[Piece, ...]: ...
    @property
    def slots(self) -> tuple[Slot, ...]: ...
    @property
    def lead(self) -> float: ...
    @property
    def outer_radius(self) -> float: ...
    @property
    def inner_radius(self) -> float: ...
    @property
    def volume(self) -> float: ...
    def around(self) -> list[tuple[int, Slot]]: ...
    def is_nothing(self, piece: Piece, slot: Slot) -> tuple[bool, bool, bool]: ...
    def width(self, piece: Piece, slot: Slot) -> float: ...
    def patch(self, piece: Piece, slot: Slot, start: int, q: Array, w: Array) -> Array: ...


@dataclass(frozen=True, eq=False)
class Wall:
    """A round wall of a radius, or one of `sides` flats whose inscribed circle has it."""

    pieces: tuple[Piece, ...]
    radius: float
    sides: int = 0

    lead: float = math.inf

    @property
    def slots(self) -> tuple[Slot, ...]:
        return (Slot(True, -1),)

    @property
    def outer_radius(self) -> float:
        return self.radius / math.cos(math.pi / self.sides) if self.sides else self.radius

    @property
    def inner_radius(self) -> float:
        return self.radius

    @property
    def volume(self) -> float:
        length = self.pieces[-1].leg.heights[1] - self.pieces[0].leg.heights[0]
        area = math.pi if not self.sides else self.sides * math.tan(math.pi / self.sides)
        return area * self.radius**2 * length

    def around(self) -> list[tuple[int, Slot]]:
        return [(start, self.slots[0]) for start in range(self.sides or 2)]

    def is_nothing(self, piece: Piece, slot: Slot) -> tuple[bool, bool, bool]:
        return False, False, False

    def width(self, piece: Piece, slot: Slot) -> float:
        return 0.0 if self.sides else math.pi

    def patch(self, piece: Piece, slot: Slot, start: int, q: Array, w: Array) -> Array:
        height = piece.values(q)[0]
        count = self.sides or 2
        first, last = (2 * math.pi * (start + k) / count for k in (0, 1))
        if self.sides:
            reach = self.outer_radius
            a, b = (np.array([reach * math.cos(t), reach * math.sin(t)]) for t in (first, last))
            place = a + (b - a) * w[:, None]
        else:
            angle = first + (last - first) * w
            place = self.radius * np.stack([np.cos(angle), np.sin(angle)], axis=1)
        flat = np.broadcast_to(place, (len(q), *place.shape))
        return np.concatenate(
            [flat, np.broadcast_to(height[:, None, None], (*flat.shape[:2], 1))], axis=2
        )


@dataclass(frozen=True, eq=False)
class ThreadBody:
    """A solid between an outer surface and, where there is a second one, its hole."""

    name: str
    loops: tuple[Lateral, ...]
    thread: ThreadSurface

    @property
    def pieces(self) -> tuple[Piece, ...]:
        return self.thread.pieces

    @cached_property
    def volume(self) -> float:
        """mm³"""
        return self.loops[0].volume - sum(hole.volume for hole in self.loops[1:])

    @property
    def length(self) -> float:
        return self.pieces[-1].leg.heights[1] - self.pieces[0].leg.heights[0]

    @property
    def outer_radius(self) -> float:
        return self.loops[0].outer_radius

    def facets(self, chord_error: float | None) -> float:
        """Facets a turn that keep within `chord_error` mm, or as many as look smooth."""
        turns = self.length / self.thread.lead
        if chord_error is None:
            most = math.sqrt(_MOST_VERTICES / max(turns, 1.0))
            return max(_LEAST_FACETS, min(_PREVIEW_FACETS, most))
        share = min(chord_error / 2 / self.outer_radius, 0.2)
        return max(12.0, math.pi / math.acos(1 - share))

    def vertex_count(self, chord_error: float | None) -> int:
        """About how many vertices a mesh has."""
        facets = self.facets(chord_error)
        turns = self.length / self.thread.lead
        across = sum(facets + len(loop.around()) for loop in self.loops)
        return int((turns * facets + 8 * len(self.pieces)) * across)

    def mesh(self, chord_error: float | None = None) -> Mesh:
        """The watertight mesh."""
        facets = self.facets(chord_error)
        vertices: list[Array] = []
        faces: list[Numbers] = []
        ends: tuple[list[Numbers], list[Numbers]] = ([], [])
        count = 0
        for index, loop in enumerate(self.loops):
            grid = _Grid(loop, facets, count, self.leans)
            vertices += grid.vertices
            count = grid.count
            lateral = np.concatenate(grid.faces)
            faces.append(lateral[:, ::-1] if index else lateral)
            ends[0].append(grid.first)
            ends[1].append(grid.last)
        places = np.concatenate(vertices)
        faces += [_cap(ends[0], places)[:, ::-1], _cap(ends[1], places)]
        every = np.ascontiguousarray(np.concatenate(faces).astype(np.int32))
        heights = places[:, 2] - self.pieces[0].leg.heights[0]
        return Mesh(places, every, heights, np.full(len(every), -1, dtype=np.int32))

    @property
    def leans(self) -> bool:
        """The diagonals of cells run against the growing angle, along which a right-hand thread bends least."""
        return self.thread.hand == "right"

    def strips(self, chord_error: float | None = None) -> Strips:
        """The surface for shading, each patch a smooth strip of its own."""
        facets = self.facets(chord_error)
        low = self.pieces[0].leg.heights[0]
        vertices, normals = [], []
        faces: list[Numbers] = []
        count = 0
        for index, loop in enumerate(self.loops):
            for piece in loop.pieces:
                q = _rows(piece, loop.lead, facets)
                for start, slot in loop.around():
                    if loop.is_nothing(piece, slot)[1]:
                        continue
                    w = np.linspace(0, 1, _columns(loop, piece, slot, facets) + 1)
                    places = loop.patch(piece, slot, start, q, w)
                    normal = _normals(loop, piece, slot, start, q, w) * (-1 if index else 1)
                    grid = _cells(len(q), len(w), self.leans) + count
                    vertices.append(places.reshape(-1, 3))
                    normals.append(normal.reshape(-1, 3))
                    faces.append(grid[:, ::-1] if index else grid)
                    count += places.shape[0] * places.shape[1]
        for k, sign in ((0, -1.0), (-1, 1.0)):
            rings = [_ring(loop, k, facets) for loop in self.loops]
            points = np.concatenate(rings)
            starts = np.cumsum([0, *(len(ring) for ring in rings)])
            numbers = [np.arange(a, b) for a, b in itertools.pairwise(starts)]
            cap = _cap(numbers, points) + count
            vertices.append(points)
            normals.append(np.tile([0.0, 0.0, sign], (len(points), 1)))
            faces.append(cap if sign > 0 else cap[:, ::-1])
            count += len(points)
        every = np.concatenate(faces).astype(np.int32)
        places = np.concatenate(vertices)
        mesh = Mesh(
            places,
            np.ascontiguousarray(every),
            places[:, 2] - low,
            np.full(len(every), -1, dtype=np.int32),
        )
        return Strips(mesh, np.concatenate(normals))


class _Grid:
    """Vertices and triangles of a surface around the axis: rings at the ends of its pieces, and rows between."""

    def __init__(self, loop: Lateral, facets: float, count: int, leans: bool):
        self.vertices: list[Array] = []
        self.faces: list[Numbers] = []
        self.count = count
        self.leans = leans
        patches = loop.around()
        pieces = loop.pieces
        columns = [[_columns(loop, piece, slot, facets) for _, slot in patches] for piece in pieces]
        before = self._ring(loop, pieces[0], 0, columns[0])
        self.first = _ids(before)
        for k, piece in enumerate(pieces):
            q = _rows(piece, loop.lead, facets)[1:-1]
            if len(q):
                before = self._rows(loop, piece, q, columns[k], before)
            wanted = (
                columns[k] if k + 1 == len(pieces) else np.maximum(columns[k], columns[k + 1]).tolist()
            )
            ring = self._ring(loop, piece, 1, wanted)
            self._stitch(before, ring)
            before = ring
        self.last = _ids(before)

    def _ring(self, loop: Lateral, piece: Piece, end: int, columns: list[int]) -> list[Numbers]:
        """Vertex numbers of each patch at one end of a piece, its last one the first of the next."""
        q = np.array([float(end)])
        starts = []
        for (start, slot), wanted in zip(loop.around(), columns, strict=True):
            number = 0 if loop.is_nothing(piece, slot)[2 * end] else max(wanted, 1)
            if number:
                self.vertices.append(loop.patch(piece, slot, start, q, np.arange(number) / number)[0])
            starts.append(number)
        return self._numbered(starts)

    def _numbered(self, counts: list[int]) -> list[Numbers]:
        first = self.count
        total = sum(counts)
        self.count += total
        at = np.cumsum([0, *counts])
        return [first + np.arange(a, b + 1) % total for a, b in itertools.pairwise(at)]

    def _rows(
        self, loop: Lateral, piece: Piece, q: Array, columns: list[int], before: list[Numbers]
    ) -> list[Numbers]:
        counts = [
            0 if loop.is_nothing(piece, slot)[1] else own
            for (_, slot), own in zip(loop.around(), columns, strict=True)
        ]
        blocks = [
            loop.patch(piece, slot, start, q, np.arange(own) / own)
            for (start, slot), own in zip(loop.around(), counts, strict=True)
            if own
        ]
        block = np.concatenate(blocks, axis=1)
        width = block.shape[1]
        base = self.count
        self.vertices.append(block.reshape(-1, 3))
        first = self._numbered(counts)
        self._stitch(before, first)
        self.count = base + len(q) * width
        row = np.arange(len(q) - 1)[:, None] * width
        left = base + row + np.arange(width)
        right = base + row + (np.arange(width) + 1) % width
        self.faces.append(_quads(left, right, left + width, right + width, self.leans))
        last = base + (len(q) - 1) * width
        return [last + (numbers - base) for numbers in first]

    def _stitch(self, low: list[Numbers], high: list[Numbers]) -> None:
        for a, b in zip(low, high, strict=True):
            if len(a) > 1 or len(b) > 1:
                self.faces.append(_zipped(a, b, self.leans))


def _ids(ring: list[Numbers]) -> Numbers:
    return np.concatenate([numbers[:-1] for numbers in ring])


def _ring(loop: Lateral, k: int, facets: float) -> Array:
    """The places (n, 3) of the first (k 0) or the last (k −1) ring."""
    piece = loop.pieces[k]
    q = np.array([0.0 if k == 0 else 1.0])
    rows = []
    for start, slot in loop.around():
        if not loop.is_nothing(piece, slot)[0 if k == 0 else 2]:
            own = _columns(loop, piece, slot, facets)
            rows.append(loop.patch(piece, slot, start, q, np.arange(own) / own)[0])
    return np.concatenate(rows)


def _columns(loop: Lateral, piece: Piece, slot: Slot, facets: float) -> int:
    if loop.is_nothing(piece, slot)[1]:
        return 1
    return max(1, math.ceil(loop.width(piece, slot) * facets / (2 * math.pi) - 1e-9))


def _rows(piece: Piece, lead: float, facets: float) -> Array:
    low, high = piece.leg.heights
    least = 1 if lead == math.inf else 2
    curved = 1 if piece.leg.outline.is_line else max(8, math.ceil(facets * piece.leg.outline.turning))
    eased = 4 if any(piece.ease) else 1
    rows = max(least, curved, eased, math.ceil(abs(high - low) / lead * facets))
    return np.linspace(0, 1, rows + 1)


def _normals(loop: Lateral, piece: Piece, slot: Slot, start: int, q: Array, w: Array) -> Array:
    """Unit normals (n, m, 3) away from the axis, by differences; along the axis where a patch has no width."""
    inside = np.clip(q, _STEP, 1 - _STEP)
    forth = np.where(w < 0.5, _STEP, -_STEP)
    up = np.where(q < 0.5, _STEP, -_STEP)
    here = loop.patch(piece, slot, start, inside, w)
    around = (loop.patch(piece, slot, start, inside, w + forth) - here) * np.sign(forth)[None, :, None]
    along = (loop.patch(piece, slot, start, inside + up, w) - here) * np.sign(up)[:, None, None]
    normal = cross(around, along)
    size = np.linalg.norm(normal, axis=2, keepdims=True)
    return np.where(size > 1e-300, normal / np.maximum(size, 1e-300), np.array([0.0, 0.0, 1.0]))


def _cells(rows: int, columns: int, leans: bool) -> Numbers:
    at = np.arange(rows * columns).reshape(rows, columns)
    return _quads(at[:-1, :-1], at[:-1, 1:], at[1:, :-1], at[1:, 1:], leans)


def _quads(a: Numbers, b: Numbers, c: Numbers, d: Numbers, leans: bool) -> Numbers:
    """Two triangles for each cell with the corners a, b below and c, d above."""
    faces = [a, b, c, b, d, c] if leans else [a, b, d, a, d, c]
    return np.stack(faces, axis=-1).reshape(-1, 3)


def _zipped(low: Numbers, high: Numbers, leans: bool) -> Numbers:
    """Triangles between two rows of vertices of any count, each spread evenly over the same side."""
    m, n = len(low) - 1, len(high) - 1
    if m == n:
        return _quads(low[:-1], low[1:], high[:-1], high[1:], leans)
    faces = []
    i = j = 0
    while i < m or j < n:
        if j == n or (i < m and (i + 1) * n <= (j + 1) * m):
            faces.append((low[i], low[i + 1], high[j]))
            i += 1
        else:
            faces.append((low[i], high[j + 1], high[j]))
            j += 1
    return np.array(faces)


def _cap(rings: Sequence[Numbers], vertices: Array) -> Numbers:
    """Triangles, facing +z, of the plane between an outer ring of vertices and its holes."""
    numbers = [ring if index == 0 else ring[::-1] for index, ring in enumerate(rings)]
    polygons = [vertices[own][:, :2] for own in numbers]
    triangles = np.asarray(manifold3d.triangulate(polygons), dtype=np.int64)
    return np.concatenate(numbers)[triangles]
