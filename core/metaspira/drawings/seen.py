"""The edges of a body that one sees from a direction: silhouettes, sharp edges and rims, without what is
hidden.

An edge is drawn where one of its faces looks at the viewer and the other away, where they meet at a sharp
angle, or where there is only one. What stands in front of it is found in a picture of depths: a place is
hidden where every pixel around it is nearer, so that a silhouette, beside which one sees past the body, never
hides itself.
"""

from __future__ import annotations

import math
from dataclasses import dataclass

import numpy as np
from numpy.typing import NDArray
from scipy.spatial import cKDTree
from shapely import LineString, MultiLineString, line_merge

from metaspira.numbers.compiled import compiled
from metaspira.numbers.jets import Array
from metaspira.numbers.vectors import cross, row_dots
from metaspira.sweep.mesh import Indices, welding

Flags = NDArray[np.bool_]

_SHARP = math.cos(math.radians(32))
_PIXELS = 1500
_STEP = 2.0
_WELD = 1e-7
_EDGEWISE = 1e-4
_GRID = 0.05
_BEFORE = 8
_SLIVER = 0.4
_GAP, _TOUCHING, _CRUMB, _BACK = 24.0, 0.5, 5.0, 4
_STRAIGHT = math.cos(math.radians(22))
_RIM = 1e-9


@dataclass(frozen=True)
class View:
    """A parallel view: unit vectors to the right, upward and towards the viewer."""

    right: tuple[float, float, float]
    up: tuple[float, float, float]

    @property
    def axes(self) -> Array:
        """(3, 3): right, up, towards the viewer."""
        return np.array([self.right, self.up, np.cross(self.right, self.up)])


FRONT = View((1.0, 0.0, 0.0), (0.0, 0.0, 1.0))
TOP = View((1.0, 0.0, 0.0), (0.0, 1.0, 0.0))


def seen_edges(vertices: Array, faces: Indices, view: View, fine: float) -> list[Array]:
    """Polylines (n, 2) in the view's plane, mm, of what is seen of a mesh; bends under `fine` mm are drawn
    straight."""
    keep, welded, whole = welding(vertices, faces, _WELD * float(np.ptp(vertices, axis=0).max()))
    vertices, faces = vertices[keep], welded[whole]
    seen = vertices @ view.axes.T
    corners = seen[faces]
    sides = np.roll(corners, -1, axis=1) - corners
    normal = cross(sides[:, 0], sides[:, 1])
    size = np.sqrt(row_dots(normal, normal))
    longest = np.sqrt(np.einsum("nij,nij->ni", sides, sides).max(axis=1))
    whole = size > 0
    faces, size, longest = faces[whole], size[whole], longest[whole]
    normal = normal[whole] / size[:, None]
    low, high = seen[:, :2].min(axis=0), seen[:, :2].max(axis=0)
    pixel = float((high - low).max()) / _PIXELS or 1.0
    ends = _drawn(faces, normal, size / longest > _SLIVER * pixel)
    flat = np.column_stack([(seen[:, :2] - low) / pixel + 2, seen[:, 2]])
    wide, tall = (math.ceil(c) + 5 for c in (high - low) / pixel)
    depth = np.full((tall, wide), -np.inf)
    _fill(depth, flat, faces)
    segments = _visible(depth, flat, ends, pixel)
    lines = _bridged(_merged(segments))
    shift = low - 2 * pixel
    return [np.array(LineString(line * pixel + shift).simplify(fine).coords) for line in lines]


def _merged(segments: Array) -> list[Array]:
    """Segments (n, 2, 2) as polylines (n, 2), end to end."""
    merged = line_merge(MultiLineString(list(segments)))
    lines = merged.geoms if isinstance(merged, MultiLineString) else [merged]
    return [np.array(line.coords) for line in lines if not line.is_empty]


def _bridged(lines: list[Array]) -> list[Array]:
    """Polylines, in pixels, with the short gaps between those that go on in each other closed: an edge along
    which two bodies all but touch is seen and hidden by turns. What is left of it alone is no line."""
    if len(lines) < 2:
        return lines
    ends = np.array([line[k] for line in lines for k in (0, -1)])
    before = np.array([line[min(_BACK, len(line) - 1)] for line in lines])
    after = np.array([line[max(-1 - _BACK, -len(line))] for line in lines])
    inner = np.stack([before, after], axis=1).reshape(-1, 2)
    way = ends - inner
    way /= np.maximum(np.linalg.norm(way, axis=1, keepdims=True), 1e-12)
    pairs = cKDTree(ends).query_pairs(_GAP, output_type="ndarray")
    pairs = pairs[pairs[:, 0] // 2 != pairs[:, 1] // 2]
    gap = ends[pairs[:, 1]] - ends[pairs[:, 0]]
    size = np.linalg.norm(gap, axis=1)
    along = gap / np.maximum(size, 1e-12)[:, None]
    onward = np.einsum("ni,ni->n", along, way[pairs[:, 0]]) > _STRAIGHT
    onward &= np.einsum("ni,ni->n", -along, way[pairs[:, 1]]) > _STRAIGHT
    onward |= size < _TOUCHING
    order = np.argsort(size[onward])
    free = np.ones(len(ends), dtype=bool)
    bridges = []
    for one, other in pairs[onward][order]:
        if free[one] and free[other]:
            free[[one, other]] = False
            bridges.append(np.array([ends[one], ends[other]]))
    merged = line_merge(MultiLineString([*lines, *bridges]))
    joined = [np.array(line.coords) for line in getattr(merged, "geoms", [merged])]
    return [line for line in joined if np.linalg.norm(np.diff(line, axis=0), axis=1).sum() > _CRUMB]


def _drawn(faces: Indices, normal: Array, sound: Flags) -> Array:
    """The edges (n, 2) that are drawn where nothing hides them; only `sound` faces (n,) know where they
    look."""
    start, stop = faces.T.ravel(), np.roll(faces.T, -1, axis=0).ravel()
    count = int(faces.max(initial=0)) + 1
    key = np.minimum(start, stop).astype(np.int64) * count + np.maximum(start, stop)
    order = np.argsort(key, kind="stable")
    key, owner = key[order], order % len(faces)
    same = key[1:] == key[:-1]
    first = np.flatnonzero(same)
    a, b = normal[owner[first]], normal[owner[first + 1]]
    front, beside = a[:, 2] > _EDGEWISE, b[:, 2] > _EDGEWISE
    towards, turns = front | beside, front != beside
    sharp = np.einsum("ni,ni->n", a, b) < _SHARP
    lone = ~(np.concatenate([same, [False]]) | np.concatenate([[False], same]))
    both = sound[owner[first]] & sound[owner[first + 1]]
    drawn = np.concatenate([key[first[both & (turns | (sharp & towards))]], key[lone]])
    return np.stack(np.divmod(drawn, count), axis=1)


def _visible(depth: Array, flat: Array, ends: Array, pixel: float) -> Array:
    """Lines (n, 2, 2), in pixels, of what nothing hides of edges."""
    start, stop = flat[ends[:, 0]], flat[ends[:, 1]]
    pieces = np.maximum(np.ceil(np.linalg.norm((stop - start)[:, :2], axis=1) / _STEP), 1).astype(int)
    edge = np.repeat(np.arange(len(ends)), pieces)
    count = np.arange(len(edge)) - np.repeat(np.cumsum(pieces) - pieces, pieces)
    low = (count / pieces[edge])[:, None]
    high = ((count + 1) / pieces[edge])[:, None]
    middle = start[edge] + (low + high) / 2 * (stop - start)[edge]
    x, y = np.floor(middle[:, 0]).astype(int), np.floor(middle[:, 1]).astype(int)
    farthest = np.min([depth[y + dy, x + dx] for dx in (-1, 0, 1) for dy in (-1, 0, 1)], axis=0)
    shown = middle[:, 2] >= farthest - 2 * pixel
    return _runs(start, stop, edge[shown], count[shown], pieces, depth.shape, _BEFORE * pixel)


def _runs(
    start: Array,
    stop: Array,
    edge: Array,
    count: Array,
    pieces: Array,
    shape: tuple[int, int],
    margin: float,
) -> Array:
    """Lines (n, 2, 2) in pixels, each once, from the pieces of edges that are shown; those in a row are one,
    and those that lie under nearer ones are left out."""
    if not len(edge):
        return np.zeros((0, 2, 2))
    new = np.flatnonzero(np.concatenate([[True], (np.diff(edge) != 0) | (np.diff(count) != 1)]))
    last = np.concatenate([new[1:] - 1, [len(edge) - 1]])
    own = edge[new]
    way = (stop - start)[own]
    low, high = (count[new] / pieces[own])[:, None], ((count[last] + 1) / pieces[own])[:, None]
    lines = np.stack([start[own] + low * way, start[own] + high * way], axis=1)
    lines = lines[np.argsort(-lines[:, :, 2].mean(axis=1))]
    grid = np.round(lines[_uncovered(lines, *shape, margin)][:, :, :2] / _GRID).astype(np.int64)
    swapped = (grid[:, 0, 0] > grid[:, 1, 0]) | (
        (grid[:, 0, 0] == grid[:, 1, 0]) & (grid[:, 0, 1] > grid[:, 1, 1])
    )
    grid[swapped] = grid[swapped][:, ::-1]
    grid = np.unique(grid[np.any(grid[:, 0] != grid[:, 1], axis=1)], axis=0)
    return np.asarray(grid * _GRID, dtype=float)


@compiled("f8[:, ::1]", "f8[:, ::1]", "i4[:, ::1]")
def _fill(depth, flat, faces):  # type: ignore[no-untyped-def]
    """Draw the faces into the picture of depths; the nearest stays."""
    tall, wide = depth.shape
    for f in range(len(faces)):
        a, b, c = flat[faces[f, 0]], flat[faces[f, 1]], flat[faces[f, 2]]
        area = (b[0] - a[0]) * (c[1] - a[1]) - (c[0] - a[0]) * (b[1] - a[1])
        if abs(area) < 1e-12:
            continue
        scale = 1 / area
        left = max(math.floor(min(a[0], b[0], c[0]) - 0.5), 0)
        right = min(math.ceil(max(a[0], b[0], c[0]) - 0.5), wide - 1)
        bottom = max(math.floor(min(a[1], b[1], c[1]) - 0.5), 0)
        top = min(math.ceil(max(a[1], b[1], c[1]) - 0.5), tall - 1)
        du, dv = (b[1] - c[1]) * scale, (c[1] - a[1]) * scale
        px = left + 0.5
        for y in range(bottom, top + 1):
            py = y + 0.5
            u = ((b[0] - px) * (c[1] - py) - (c[0] - px) * (b[1] - py)) * scale
            v = ((c[0] - px) * (a[1] - py) - (a[0] - px) * (c[1] - py)) * scale
            low, high = _within(u, du, 0.0, float(right - left))
            low, high = _within(v, dv, low, high)
            low, high = _within(1 - u - v, -du - dv, low, high)
            for k in range(math.ceil(low), math.floor(high) + 1):
                across, up = u + k * du, v + k * dv
                near = across * a[2] + up * b[2] + (1 - across - up) * c[2]
                if near > depth[y, left + k]:
                    depth[y, left + k] = near


@compiled()
def _within(value, step, low, high):  # type: ignore[no-untyped-def]
    """The part of an interval in which a share, `value` at 0 and growing by `step`, is not below 0."""
    if step > 0.0:
        return max(low, (-_RIM - value) / step), high
    if step < 0.0:
        return low, min(high, (-_RIM - value) / step)
    return low, high if value >= -_RIM else low - 1


@compiled("f8[:, :, ::1]", "i8", "i8", "f8")
def _uncovered(lines, tall, wide, margin):  # type: ignore[no-untyped-def]
    """Which lines (n, 2, 3), the nearest first, are not drawn over by ones well in front of them."""
    ink = np.full((tall, wide), -np.inf)
    keep = np.ones(len(lines), dtype=np.bool_)
    for n in range(len(lines)):
        a, b = lines[n, 0], lines[n, 1]
        steps = int(max(abs(b[0] - a[0]), abs(b[1] - a[1])) * 1.5) + 1
        depth = 0.5 * (a[2] + b[2])
        covered = True
        for k in range(steps + 1):
            x = int(a[0] + (b[0] - a[0]) * k / steps)
            y = int(a[1] + (b[1] - a[1]) * k / steps)
            if ink[y - 1 : y + 2, x - 1 : x + 2].max() < depth + margin:
                covered = False
                break
        keep[n] = not covered
        if covered:
            continue
        for k in range(steps + 1):
            x = int(a[0] + (b[0] - a[0]) * k / steps)
            y = int(a[1] + (b[1] - a[1]) * k / steps)
            ink[y, x] = max(ink[y, x], depth)
    return keep
