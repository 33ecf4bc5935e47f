"""Vectors in space, over arrays (…, 3)."""

from __future__ import annotations

import math

import numpy as np

from metaspira.numbers.compiled import compiled
from metaspira.numbers.jets import Array


def cross(a: Array, b: Array) -> Array:
    """a × b over the last axis; several times faster than numpy's on small arrays."""
    ax, ay, az = a[..., 0], a[..., 1], a[..., 2]
    bx, by, bz = b[..., 0], b[..., 1], b[..., 2]
    return np.stack([ay * bz - az * by, az * bx - ax * bz, ax * by - ay * bx], axis=-1)


@compiled("f8[:, :, ::1]", "f8[:, :, ::1]", "f8")
def unit_crosses(a, b, sign):  # type: ignore[no-untyped-def]
    """sign · (a × b) made one long, over arrays (n, k, 3); zero where they are parallel."""
    out = np.empty_like(a)
    for i in range(a.shape[0]):
        for j in range(a.shape[1]):
            ax, ay, az = a[i, j]
            bx, by, bz = b[i, j]
            x, y, z = ay * bz - az * by, az * bx - ax * bz, ax * by - ay * bx
            scale = sign / max(math.sqrt(x * x + y * y + z * z), 1e-300)
            out[i, j, 0], out[i, j, 1], out[i, j, 2] = x * scale, y * scale, z * scale
    return out


def dots(a: Array, b: Array) -> Array:
    """a · b of each row (n, 3), as a column (n, 1)."""
    return row_dots(a, b)[:, None]


@compiled("f8[:, ::1]", "f8[:, ::1]")
def row_dots(a, b):  # type: ignore[no-untyped-def]
    """a · b of each row (n, 3), (n,)."""
    assert len(a) == len(b)
    out = np.empty(len(a))
    for i in range(len(a)):
        out[i] = a[i, 0] * b[i, 0] + a[i, 1] * b[i, 1] + a[i, 2] * b[i, 2]
    return out
