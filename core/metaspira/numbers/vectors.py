"""Vectors in space, over arrays (…, 3)."""

from __future__ import annotations

import numpy as np

from metaspira.numbers.jets import Array


def cross(a: Array, b: Array) -> Array:
    """a × b over the last axis; several times faster than numpy's on small arrays."""
    ax, ay, az = a[..., 0], a[..., 1], a[..., 2]
    bx, by, bz = b[..., 0], b[..., 1], b[..., 2]
    return np.stack([ay * bz - az * by, az * bx - ax * bz, ax * by - ay * bx], axis=-1)


def dots(a: Array, b: Array) -> Array:
    """a · b of each row (n, 3), as a column (n, 1)."""
    return np.einsum("ij,ij->i", a, b)[:, None]
