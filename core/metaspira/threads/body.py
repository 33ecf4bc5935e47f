"""A threaded body: loops of surfaces that share their pieces along the axis, closed by a plane at each
end."""

from __future__ import annotations

import itertools
import math
from dataclasses import dataclass, replace
from typing import Any, Protocol

import manifold3d
import numpy as np
from numpy.typing import NDArray

from metaspira.numbers.jets import Array
from metaspira.numbers.once import cached_property
from metaspira.numbers.vectors import cross
from metaspira.sweep.mesh import Mesh, Strips
from metaspira.threads.surface import Piece, Slot, ThreadSurface

Numbers = NDArray[np.integer[Any]]

_PREVIEW_FACETS = 48
_LEAST_FACETS = 10
_MOST_VERTICES = 50_000
_STEP = 1e-5
_CUT = 2.0


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
        return np.concatenate([flat, np.broadcast_to(height[:, None, None], (*flat.shape[:2], 1))], axis=2)


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
        share = min(chord_error / 2.2 / self.outer_radius, 0.2)
        return max(12.0, math.pi / math.acos(1 - share))

    def vertex_count(self, chord_error: float | None) -> int:
        """About how many vertices a mesh has."""
        facets = self.facets(chord_error)
        turns = self.length / self.thread.lead
        across = sum(facets + len(loop.around()) for loop in self.loops)
        return int((turns * facets + 8 * len(self.pieces)) * across)

    def mesh(self, chord_error: float | None = None) -> Mesh:
        """The watertight mesh."""
        grids = self._grids(chord_error)
        places = np.concatenate([block for grid in grids for block in grid.vertices])
        faces = [
            patch.faces(self.leans)[:, :: -1 if index else 1]
            for index, grid in enumerate(grids)
            for patch in grid.patches
        ]
        faces += [self._cap(grids, places, 0)[:, ::-1], self._cap(grids, places, -1)]
        every = np.ascontiguousarray(np.concatenate(faces).astype(np.int32))
        whole = (every != np.roll(every, 1, axis=1)).all(axis=1)
        every = every[whole]
        heights = places[:, 2] - self.pieces[0].leg.heights[0]
        return Mesh(places, every, heights, np.full(len(every), -1, dtype=np.int32))

    def strips(self, chord_error: float | None = None) -> Strips:
        """The surface for shading: the same triangles, each patch a smooth strip of its own."""
        grids = self._grids(chord_error)
        places = np.concatenate([block for grid in grids for block in grid.vertices])
        vertices, normals = [], []
        faces: list[Numbers] = []
        count = 0
        for index, (loop, grid) in enumerate(zip(self.loops, grids, strict=True)):
            for patch in grid.patches:
                strip = patch.renumbered(count).faces(self.leans)
                vertices.append(places[patch.numbers])
                normals.append(patch.normals(loop) * (-1 if index else 1))
                faces.append(strip[:, ::-1] if index else strip)
                count += len(vertices[-1])
        for k, sign in ((0, -1.0), (-1, 1.0)):
            cap = self._cap(grids, places, k)
            order, back = np.unique(cap, return_inverse=True)
            vertices.append(places[order])
            normals.append(np.tile([0.0, 0.0, sign], (len(order), 1)))
            cap = back.reshape(cap.shape) + count
            faces.append(cap if sign > 0 else cap[:, ::-1])
            count += len(order)
        every = np.concatenate(faces).astype(np.int32)
        points = np.concatenate(vertices)
        mesh = Mesh(
            points,
            np.ascontiguousarray(every),
            points[:, 2] - self.pieces[0].leg.heights[0],
            np.full(len(every), -1, dtype=np.int32),
        )
        return Strips(mesh, np.concatenate(normals))

    @property
    def leans(self) -> bool:
        """The diagonals of cells run against the growing angle, along which a right-hand thread bends
        least."""
        return self.thread.hand == "right"

    def _grids(self, chord_error: float | None) -> list[_Grid]:
        grids: list[_Grid] = []
        for loop in self.loops:
            grids.append(_Grid(loop, self.facets(chord_error), grids[-1].count if grids else 0))
        return grids

    def _cap(self, grids: list[_Grid], places: Array, end: int) -> Numbers:
        """Triangles, facing +z, of the plane at the first end (0) or the last one (−1)."""
        rings = [grid.first if end == 0 else grid.last for grid in grids]
        numbers = [ring if index == 0 else ring[::-1] for index, ring in enumerate(rings)]
        triangles = np.asarray(
            manifold3d.triangulate([places[own][:, :2] for own in numbers]), dtype=np.int64
        )
        return np.concatenate(numbers)[triangles]


@dataclass(frozen=True, eq=False)
class _Patch:
    """The vertex numbers of one patch of a piece, by planes along it: `first` (k,), `between` (n, m) at the
    places `q` (n,) and `last` (k,)."""

    piece: Piece
    slot: Slot
    start: int
    q: Array
    first: Numbers
    between: Numbers
    last: Numbers

    @property
    def numbers(self) -> Numbers:
        return np.concatenate([self.first, self.between.ravel(), self.last])

    def renumbered(self, count: int) -> _Patch:
        """The same with its own vertices numbered from `count` on, in the order of `numbers`."""
        after = count + len(self.first)
        end = after + self.between.size
        return replace(
            self,
            first=np.arange(count, after),
            between=np.arange(after, end).reshape(self.between.shape),
            last=np.arange(end, end + len(self.last)),
        )

    def faces(self, leans: bool) -> Numbers:
        """Triangles between the rows."""
        block = self.between
        if not len(block):
            return _zipped(self.first, self.last, leans)
        cells = _quads(block[:-1, :-1], block[:-1, 1:], block[1:, :-1], block[1:, 1:], leans)
        return np.concatenate(
            [_zipped(self.first, block[0], leans), cells, _zipped(block[-1], self.last, leans)]
        )

    def normals(self, loop: Lateral) -> Array:
        """Unit normals (n, 3) away from the axis at the vertices, in the order of `numbers`."""
        across = self.between.shape[1]
        if len(self.first) == across == len(self.last):
            groups = [(np.concatenate([[0.0], self.q, [1.0]]), across)]
        else:
            groups = [(np.zeros(1), len(self.first)), (self.q, across), (np.ones(1), len(self.last))]
        return np.concatenate(
            [
                _normals(
                    loop, self.piece, self.slot, self.start, q, np.linspace(0, 1, max(count, 2))[:count]
                ).reshape(-1, 3)
                for q, count in groups
                if len(q)
            ]
        )


class _Grid:
    """Vertices and patches of a surface around the axis: rings at the ends of its pieces, and rows
    between."""

    def __init__(self, loop: Lateral, facets: float, count: int):
        self.vertices: list[Array] = []
        self.patches: list[_Patch] = []
        self.count = count
        around, pieces = loop.around(), loop.pieces
        columns = [[_columns(loop, piece, slot, facets) for _, slot in around] for piece in pieces]
        before = [row[0] for row in self._rows(loop, pieces[0], np.zeros(1), 0, columns[0])]
        self.first = _ids(before)
        for k, piece in enumerate(pieces):
            q = _rows(piece, loop.lead, facets)[1:-1]
            between = self._rows(loop, piece, q, 1, columns[k])
            last = k + 1 == len(pieces)
            wanted = columns[k] if last else np.maximum(columns[k], columns[k + 1]).tolist()
            ring = [row[0] for row in self._rows(loop, piece, np.ones(1), 2, wanted)]
            for (start, slot), low, block, high in zip(around, before, between, ring, strict=True):
                if max(len(low), block.shape[1], len(high)) > 1:
                    self.patches.append(_Patch(piece, slot, start, q, low, block, high))
            before = ring
        self.last = _ids(before)

    def _rows(self, loop: Lateral, piece: Piece, q: Array, place: int, columns: list[int]) -> list[Numbers]:
        """New vertices at places q (n,) of a piece: for each patch their numbers (n, m), its last ones the
        first of the next. `place` is 0 at the piece's first plane, 2 at its last."""
        around = loop.around()
        counts = [
            0 if loop.is_nothing(piece, slot)[place] else max(own, 1)
            for (_, slot), own in zip(around, columns, strict=True)
        ]
        if len(q):
            blocks = [
                loop.patch(piece, slot, start, q, np.arange(own) / own)
                for (start, slot), own in zip(around, counts, strict=True)
                if own
            ]
            self.vertices.append(np.concatenate(blocks, axis=1).reshape(-1, 3))
        total = sum(counts)
        row = self.count + np.arange(len(q))[:, None] * total
        self.count += len(q) * total
        return [row + np.arange(a, b + 1) % total for a, b in itertools.pairwise(np.cumsum([0, *counts]))]


def _ids(ring: list[Numbers]) -> Numbers:
    return np.concatenate([numbers[:-1] for numbers in ring])


def _columns(loop: Lateral, piece: Piece, slot: Slot, facets: float) -> int:
    if loop.is_nothing(piece, slot)[1]:
        return 1
    return max(1, math.ceil(loop.width(piece, slot) * facets * _crowded(piece) / (2 * math.pi) - 1e-9))


def _crowded(piece: Piece) -> float:
    """How many times as many rows and columns a piece has in which a cone cuts the thread, or in which it
    runs out: there its patches narrow as they run. More of one alone would lean the triangles."""
    leg = piece.leg
    cut = leg.low[0] != leg.low[1] or leg.high[0] != leg.high[1]
    return _CUT if cut or any(piece.ease) else 1.0


def _rows(piece: Piece, lead: float, facets: float) -> Array:
    low, high = piece.leg.heights
    least = 1 if lead == math.inf else 2
    curved = 1 if piece.leg.outline.is_line else max(8, math.ceil(facets * piece.leg.outline.turning))
    eased = 4 if any(piece.ease) else 1
    rows = max(least, curved, eased, math.ceil(abs(high - low) / lead * facets * _crowded(piece)))
    return np.linspace(0, 1, rows + 1)


def _normals(loop: Lateral, piece: Piece, slot: Slot, start: int, q: Array, w: Array) -> Array:
    """Unit normals (n, m, 3) away from the axis, by differences; along the axis where a patch has no
    width."""
    inside = np.clip(q, _STEP, 1 - _STEP)
    forth = np.where(w < 0.5, _STEP, -_STEP)
    up = np.where(q < 0.5, _STEP, -_STEP)
    here = loop.patch(piece, slot, start, inside, w)
    around = (loop.patch(piece, slot, start, inside, w + forth) - here) * np.sign(forth)[None, :, None]
    along = (loop.patch(piece, slot, start, inside + up, w) - here) * np.sign(up)[:, None, None]
    normal = cross(around, along)
    size = np.linalg.norm(normal, axis=2, keepdims=True)
    return np.where(size > 1e-300, normal / np.maximum(size, 1e-300), np.array([0.0, 0.0, 1.0]))


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
