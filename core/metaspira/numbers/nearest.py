"""The nearest point of many triangles.

Boxes around triangles, halved at the middle of the longest side, are gone through nearest first, and left out
where they are further away than what was found (Ericson, Real-Time Collision Detection, 2005, chapters 5 and
6). Of triangles that are as near, the one that faces the point most tells on which side it lies (Bærentzen
and Aanæs, IEEE Trans. Visualization and Computer Graphics 11 (2005) 243).
"""

from __future__ import annotations

import math

import numpy as np

from metaspira.numbers.compiled import compiled
from metaspira.numbers.jets import Array

_LEAF = 4
_DEEP = 128
_TIED, _LEVEL = 1e-6, 1e-9


class Triangles:
    """Triangles (n, 3, 3), ready to be asked for the nearest."""

    def __init__(self, corners: Array):
        count = len(corners)
        low, high = corners.min(axis=1), corners.max(axis=1)
        order = np.arange(count)
        boxes = np.empty((2 * count, 6))
        parts = np.empty((2 * count, 3), dtype=np.int64)
        used = _halve(low, high, order, boxes, parts)
        self._corners = np.ascontiguousarray(corners[order], dtype=float)
        self._boxes, self._parts = boxes[:used].copy(), parts[:used].copy()

    def nearest(self, points: Array) -> tuple[Array, Array]:
        """How far (n,) points (n, 3) are from the nearest triangle, and how far (n,) along its normal,
        negative behind it; 0 by a triangle without an area."""
        away, along = np.empty(len(points)), np.empty(len(points))
        _nearest(self._corners, self._boxes, self._parts, points, away, along)
        return away, along


@compiled("f8[:, ::1]", "f8[:, ::1]", "i8[::1]", "f8[:, ::1]", "i8[:, ::1]")
def _halve(low, high, order, boxes, parts):  # type: ignore[no-untyped-def]
    """Fill the boxes (k, 6), and for each the number of its second half, or 0 (its first is the next one),
    and from where to where in `order`, which is rearranged, its triangles are. Gives k."""
    todo = np.empty((_DEEP, 3), dtype=np.int64)
    todo[0, 0], todo[0, 1], todo[0, 2] = 0, len(order), -1
    waiting, used = 1, 0
    while waiting > 0:
        waiting -= 1
        first, end, above = todo[waiting]
        here = used
        used += 1
        if above >= 0:
            parts[above, 0] = here
        for k in range(3):
            boxes[here, k], boxes[here, 3 + k] = np.inf, -np.inf
        least, most = np.full(3, np.inf), np.full(3, -np.inf)
        for i in order[first:end]:
            for k in range(3):
                boxes[here, k] = min(boxes[here, k], low[i, k])
                boxes[here, 3 + k] = max(boxes[here, 3 + k], high[i, k])
                middle = 0.5 * (low[i, k] + high[i, k])
                least[k], most[k] = min(least[k], middle), max(most[k], middle)
        parts[here, 0], parts[here, 1], parts[here, 2] = 0, first, end
        axis = 0
        for k in range(1, 3):
            if most[k] - least[k] > most[axis] - least[axis]:
                axis = k
        if end - first <= _LEAF:
            continue
        middle = 0.5 * (least[axis] + most[axis])
        i, j = first, end - 1
        while i <= j:
            if 0.5 * (low[order[i], axis] + high[order[i], axis]) < middle:
                i += 1
            else:
                order[i], order[j] = order[j], order[i]
                j -= 1
        if i in (first, end) or waiting > _DEEP - 40:
            i = (first + end) // 2
        todo[waiting, 0], todo[waiting, 1], todo[waiting, 2] = i, end, here
        todo[waiting + 1, 0], todo[waiting + 1, 1], todo[waiting + 1, 2] = first, i, -1
        waiting += 2
    return used


@compiled("f8[:, :, ::1]", "f8[:, ::1]", "i8[:, ::1]", "f8[:, ::1]", "f8[::1]", "f8[::1]")
def _nearest(corners, boxes, parts, points, away, along):  # type: ignore[no-untyped-def]
    """Fill how far points (n, 3) are `away` (n,) and `along` the normal (n,)."""
    todo, far = np.empty(_DEEP, dtype=np.int64), np.empty(_DEEP)
    for p in range(len(points)):
        x, y, z = points[p, 0], points[p, 1], points[p, 2]
        best, side = np.inf, 0.0
        todo[0], far[0], waiting = 0, 0.0, 1
        while waiting > 0:
            waiting -= 1
            here = todo[waiting]
            if far[waiting] > best * (1 + _TIED) + _LEVEL:
                continue
            if parts[here, 0] == 0:
                for i in range(parts[here, 1], parts[here, 2]):
                    length, facing = _to_triangle(corners[i], x, y, z)
                    if length < best * (1 - _TIED) - _LEVEL or (
                        length <= best * (1 + _TIED) + _LEVEL and abs(facing) > abs(side)
                    ):
                        side = facing
                    best = min(best, length)
                continue
            first, second = here + 1, parts[here, 0]
            a, b = _to_box(boxes[first], x, y, z), _to_box(boxes[second], x, y, z)
            if a < b:
                first, second, a, b = second, first, b, a
            todo[waiting], far[waiting] = first, a
            todo[waiting + 1], far[waiting + 1] = second, b
            waiting += 2
        away[p], along[p] = best, side


@compiled()
def _to_box(box, x, y, z):  # type: ignore[no-untyped-def]
    dx = max(box[0] - x, 0.0, x - box[3])
    dy = max(box[1] - y, 0.0, y - box[4])
    dz = max(box[2] - z, 0.0, z - box[5])
    return math.sqrt(dx * dx + dy * dy + dz * dz)


@compiled()
def _to_triangle(t, x, y, z):  # type: ignore[no-untyped-def]
    """How far a place is from a triangle (3, 3), and along its normal (Ericson, section 5.1.5)."""
    ux, uy, uz = t[1, 0] - t[0, 0], t[1, 1] - t[0, 1], t[1, 2] - t[0, 2]
    vx, vy, vz = t[2, 0] - t[0, 0], t[2, 1] - t[0, 1], t[2, 2] - t[0, 2]
    px, py, pz = x - t[0, 0], y - t[0, 1], z - t[0, 2]
    d1, d2 = ux * px + uy * py + uz * pz, vx * px + vy * py + vz * pz
    uu, uv, vv = ux * ux + uy * uy + uz * uz, ux * vx + uy * vy + uz * vz, vx * vx + vy * vy + vz * vz
    d3, d4, d5, d6 = d1 - uu, d2 - uv, d1 - uv, d2 - vv
    va, vb, vc = d3 * d6 - d5 * d4, d5 * d2 - d1 * d6, d1 * d4 - d3 * d2
    if d1 <= 0.0 and d2 <= 0.0:
        f = g = 0.0
    elif d3 >= 0.0 and d4 <= d3:
        f, g = 1.0, 0.0
    elif d6 >= 0.0 and d5 <= d6:
        f, g = 0.0, 1.0
    elif vc <= 0.0 and d1 >= 0.0 and d3 <= 0.0:
        f, g = d1 / max(d1 - d3, 1e-300), 0.0
    elif vb <= 0.0 and d2 >= 0.0 and d6 <= 0.0:
        f, g = 0.0, d2 / max(d2 - d6, 1e-300)
    elif va <= 0.0 and d4 - d3 >= 0.0 and d5 - d6 >= 0.0:
        g = (d4 - d3) / max((d4 - d3) + (d5 - d6), 1e-300)
        f = 1.0 - g
    else:
        whole = va + vb + vc
        f, g = vb / whole, vc / whole
    ax, ay, az = px - f * ux - g * vx, py - f * uy - g * vy, pz - f * uz - g * vz
    nx, ny, nz = uy * vz - uz * vy, uz * vx - ux * vz, ux * vy - uy * vx
    size = math.sqrt(nx * nx + ny * ny + nz * nz)
    return math.sqrt(ax * ax + ay * ay + az * az), (ax * nx + ay * ny + az * nz) / max(size, 1e-300)
