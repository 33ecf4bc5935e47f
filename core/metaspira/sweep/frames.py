"""A frame: where the section's plane stands, at n places of the wire, with its change per mm.

A section point (u, v) is at  X = o + u a + v b;  primes are d/ds.
"""

from __future__ import annotations

from dataclasses import dataclass

import numpy as np

from metaspira.numbers.compiled import compiled
from metaspira.numbers.jets import Array
from metaspira.numbers.vectors import cross, dots


@dataclass(frozen=True)
class Frames:
    """All arrays (n, 3): origin, first and second axis, and their derivatives by true length."""

    origin: Array
    first: Array
    second: Array
    d_origin: Array
    d_first: Array
    d_second: Array

    def turned(self, angle: Array, rate: Array) -> Frames:
        """The axes turned in their own plane by `angle` (n,), which changes by `rate` (n,) per mm."""
        cos, sin = np.cos(angle)[:, None], np.sin(angle)[:, None]
        rate = rate[:, None]
        first = cos * self.first + sin * self.second
        second = cos * self.second - sin * self.first
        return Frames(
            self.origin,
            first,
            second,
            self.d_origin,
            cos * self.d_first + sin * self.d_second + rate * second,
            cos * self.d_second - sin * self.d_first - rate * first,
        )

    def scaled(self, width: Array, d_width: Array, depth: Array, d_depth: Array) -> Frames:
        """The axes multiplied by width and depth (n,), which change by d_width and d_depth per mm."""
        width, d_width, depth, d_depth = (v[:, None] for v in (width, d_width, depth, d_depth))
        return Frames(
            self.origin,
            width * self.first,
            depth * self.second,
            self.d_origin,
            width * self.d_first + d_width * self.first,
            depth * self.d_second + d_depth * self.second,
        )

    def tilted(self, angle: Array, rate: Array) -> Frames:
        """The second axis leant by `angle` (n,) about the first, out of the plane towards first × second;
        the angle changes by `rate` (n,) per mm. The axes must be unit vectors."""
        out = cross(self.first, self.second)
        d_out = cross(self.d_first, self.second) + cross(self.first, self.d_second)
        cos, sin, rate = np.cos(angle)[:, None], np.sin(angle)[:, None], rate[:, None]
        second = cos * self.second + sin * out
        d_second = cos * self.d_second + sin * d_out + rate * (cos * out - sin * self.second)
        return Frames(self.origin, self.first, second, self.d_origin, self.d_first, d_second)

    @property
    def normal(self) -> Array:
        """first × second (n, 3): square to the section's plane, as long as size²."""
        return cross(self.first, self.second)

    def points(self, uv: Array) -> Array:
        """Places (n, k, 3) in space of the section points uv (k, 2), or (n, k, 2) where they change."""
        return _places(*_rows(self.origin, self.first, self.second), _at_each(uv))

    def speeds(self, uv: Array) -> Array:
        """dX/ds (n, k, 3) of the section points uv (k, 2) or (n, k, 2), held in the section."""
        return _places(*_rows(self.d_origin, self.d_first, self.d_second), _at_each(uv))

    def slopes(self, uv: Array) -> Array:
        """u first + v second (n, k, 3): what a step uv (k, 2) or (n, k, 2) in the section is in space."""
        first, second = _rows(self.first, self.second)
        return _places(np.zeros_like(first), first, second, _at_each(uv))


def _rows(*arrays: Array) -> tuple[Array, ...]:
    return tuple(np.ascontiguousarray(array) for array in arrays)


def _at_each(uv: Array) -> Array:
    """(1, k, 2) where the points are the same at each station, else (n, k, 2)."""
    return np.ascontiguousarray(uv[None] if uv.ndim == 2 else uv)


@compiled("f8[:, ::1]", "f8[:, ::1]", "f8[:, ::1]", "f8[:, :, ::1]")
def _places(origin, first, second, uv):  # type: ignore[no-untyped-def]
    n, k = len(origin), uv.shape[1]
    assert len(uv) == 1 or len(uv) == n
    out = np.empty((n, k, 3))
    for i in range(n):
        row = uv[i if len(uv) > 1 else 0]
        for j in range(k):
            u, v = row[j, 0], row[j, 1]
            for c in range(3):
                out[i, j, c] = origin[i, c] + u * first[i, c] + v * second[i, c]
    return out


def perpendicular(vector: Array, d_vector: Array, normal: Array, d_normal: Array) -> tuple[Array, Array]:
    """The unit vector of `vector` made square to the unit vector `normal`, and its derivative.

    All arrays (n, 3); the derivatives are by the same variable.
    """
    along = dots(vector, normal)
    d_along = dots(d_vector, normal) + dots(vector, d_normal)
    return normalised(vector - along * normal, d_vector - d_along * normal - along * d_normal)


def normalised(vector: Array, d_vector: Array) -> tuple[Array, Array]:
    """vector / |vector| (n, 3) and its derivative."""
    size = np.sqrt(dots(vector, vector))
    with np.errstate(divide="ignore", invalid="ignore"):
        unit = vector / size
    return unit, (d_vector - dots(d_vector, unit) * unit) / size
