"""Faces drawn into pixels: the nearest one at each, shaded smoothly where the surface is smooth."""

from __future__ import annotations

import math

import numpy as np
from numpy.typing import NDArray

from metaspira.numbers.compiled import compiled
from metaspira.numbers.jets import Array
from metaspira.sweep.mesh import Indices

Pixels = NDArray[np.uint8]

_CREASE = math.cos(math.radians(40))


def rasterised(seen: Array, faces: Indices, colours: Array, width: int, height: int) -> Pixels:
    """An RGBA image (height, width, 4) of `faces` (m, 3) of `colours` (m, 3; 0 to 255), over a clear ground.

    `seen` (n, 3) are places in pixels: to the right, downward, and away. The light comes from above at the
    left, behind the eye; faces are lit on both sides, and flow into each other where they meet within 40°.
    """
    corners = seen[faces]
    normals = np.cross(corners[:, 1] - corners[:, 0], corners[:, 2] - corners[:, 0])
    areas = np.linalg.norm(normals, axis=1, keepdims=True)
    units = normals / np.maximum(areas, 1e-300)
    order = np.argsort(faces.ravel(), kind="stable")
    starts = np.searchsorted(faces.ravel()[order], np.arange(len(seen) + 1))
    smooth = _smooth(faces, order // 3, starts, units, areas.ravel())
    image: Pixels = np.zeros((height, width, 4), dtype=np.uint8)
    _draw(image, np.full((height, width), np.inf), corners, smooth, colours)
    return image


@compiled("i8[:, ::1]", "i8[::1]", "i8[::1]", "f8[:, ::1]", "f8[::1]")
def _smooth(faces, around, starts, units, areas):  # type: ignore[no-untyped-def]
    """The normal at each corner of each face (m, 3, 3): of the faces that meet there without a crease."""
    out = np.zeros((len(faces), 3, 3))
    for face in range(len(faces)):
        for k in range(3):
            vertex = faces[face, k]
            for at in range(starts[vertex], starts[vertex + 1]):
                other = around[at]
                if np.dot(units[face], units[other]) > _CREASE:
                    out[face, k] += units[other] * areas[other]
            length = np.sqrt(np.sum(out[face, k] ** 2))
            if length > 0:
                out[face, k] /= length
    return out


@compiled("u1[:, :, ::1]", "f8[:, ::1]", "f8[:, :, ::1]", "f8[:, :, ::1]", "f8[:, ::1]")
def _draw(image, depth, corners, normals, colours):  # type: ignore[no-untyped-def]
    height, width = depth.shape
    for face in range(len(corners)):
        ax, ay, az = corners[face, 0]
        bx, by, bz = corners[face, 1]
        cx, cy, cz = corners[face, 2]
        twice = (bx - ax) * (cy - ay) - (by - ay) * (cx - ax)
        if abs(twice) < 1e-12:
            continue
        left = max(0, int(np.floor(min(ax, bx, cx))))
        right = min(width - 1, int(np.ceil(max(ax, bx, cx))))
        top = max(0, int(np.floor(min(ay, by, cy))))
        bottom = min(height - 1, int(np.ceil(max(ay, by, cy))))
        for y in range(top, bottom + 1):
            for x in range(left, right + 1):
                v = ((x + 0.5 - ax) * (cy - ay) - (y + 0.5 - ay) * (cx - ax)) / twice
                w = ((bx - ax) * (y + 0.5 - ay) - (by - ay) * (x + 0.5 - ax)) / twice
                u = 1.0 - v - w
                if u < -1e-9 or v < -1e-9 or w < -1e-9:
                    continue
                z = u * az + v * bz + w * cz
                if z >= depth[y, x]:
                    continue
                depth[y, x] = z
                normal = u * normals[face, 0] + v * normals[face, 1] + w * normals[face, 2]
                normal /= max(np.sqrt(np.sum(normal**2)), 1e-300)
                if normal[2] > 0:
                    normal = -normal
                light = max(0.0, -0.35 * normal[0] - 0.66 * normal[1] - 0.66 * normal[2])
                shine = light**24
                for k in range(3):
                    shade = colours[face, k] * (0.36 + 0.66 * light) + 70.0 * shine
                    image[y, x, k] = min(255, int(shade))
                image[y, x, 3] = 255
