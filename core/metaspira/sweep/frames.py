"""A frame: where the section's plane stands, at n places of the wire, with its change per mm.

A section point (u, v) is at  X = o + u a + v b;  primes are d/ds.
"""

from __future__ import annotations

from dataclasses import dataclass

import numpy as np

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
        places = uv[..., 0:1] * self.first[:, None, :]
        places += self.origin[:, None, :]
        places += uv[..., 1:2] * self.second[:, None, :]
        return places

    def speeds(self, uv: Array) -> Array:
        """dX/ds (n, k, 3) of the section points uv (k, 2) or (n, k, 2), held in the section."""
        return (
            self.d_origin[:, None, :]
            + uv[..., 0:1] * self.d_first[:, None, :]
            + uv[..., 1:2] * self.d_second[:, None, :]
        )


def perpendicular(
    vector: Array, d_vector: Array, normal: Array, d_normal: Array
) -> tuple[Array, Array]:
    """The unit vector of `vector` made square to the unit vector `normal`, and its derivative.

    All arrays (n, 3); the derivatives are by the same variable.
    """
    along = dots(vector, normal)
    d_along = dots(d_vector, normal) + dots(vector, d_normal)
    return normalised(vector - along * normal, d_vector - d_along * normal - along * d_normal)


def normalised(vector: Array, d_vector: Array) -> tuple[Array, Array]:
    """vector / |vector| (n, 3) and its derivative."""
    size = np.linalg.norm(vector, axis=1, keepdims=True)
    unit = vector / size
    return unit, (d_vector - dots(d_vector, unit) * unit) / size
