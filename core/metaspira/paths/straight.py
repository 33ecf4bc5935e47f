"""Straight: up the z axis. With a twist it is the twisted bar."""

from __future__ import annotations

from dataclasses import dataclass
from typing import Literal

import numpy as np

from metaspira.numbers.fields import Length
from metaspira.numbers.kind import Kind
from metaspira.paths.path import Path
from metaspira.paths.quadrature import Array


@dataclass(frozen=True)
class Line:
    """x(t) = (0, 0, t)."""

    end: float
    start: float = 0.0

    def derivatives(self, t: Array) -> tuple[Array, Array, Array]:
        zero = np.zeros_like(t)
        up = np.stack([zero, zero, zero + 1.0], axis=1)
        return np.stack([zero, zero, t], axis=1), up, np.zeros_like(up)

    def speed(self, t: Array) -> Array:
        return np.ones_like(t)


class Straight(Kind):
    """A straight piece of wire, `length` long, standing on the origin."""

    kind: Literal["straight"]
    length: Length

    def path(self, place: str, reach: tuple[tuple[float, float], tuple[float, float]]) -> Path:
        """The path of a resolved straight; the section's `reach` does not move it."""
        return Path(Line(self.length))
