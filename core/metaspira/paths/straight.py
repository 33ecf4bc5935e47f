"""Straight: up the z axis. With a twist it is the twisted bar."""

from __future__ import annotations

from dataclasses import dataclass
from typing import Annotated, Literal

import numpy as np
from pydantic import Field

from metaspira.numbers.fields import Length
from metaspira.numbers.jets import Array
from metaspira.numbers.kind import Usual, said
from metaspira.paths.base import PathBase, Reach
from metaspira.paths.path import CurvePath, Path


@dataclass(frozen=True)
class Line:
    """x(t) = origin + t direction, `direction` a unit vector."""

    end: float
    start: float = 0.0
    origin: tuple[float, float, float] = (0.0, 0.0, 0.0)
    direction: tuple[float, float, float] = (0.0, 0.0, 1.0)
    breaks: tuple[float, ...] = ()

    def derivatives(self, t: Array, order: int) -> tuple[Array, ...]:
        along = np.broadcast_to(self.direction, (len(t), 3)).copy()
        zero = np.zeros((len(t), 3))
        return (self.origin + t[:, None] * along, along, *([zero] * (order - 1)))[: order + 1]

    def speed(self, t: Array) -> Array:
        return np.ones_like(t)


class Straight(PathBase, title="straight"):
    """A straight piece of wire, `length` long, standing on the origin."""

    listed = 2
    kind: Literal["straight"] = "straight"
    length: Annotated[Length, Usual(4)] = Field(title="Length of the bar")

    def words(self, unit: str) -> str:
        return f"straight, {said(self.length, unit)}"

    @property
    def length_typed(self) -> float:
        return self.length

    def curve(self, place: str, reach: Reach) -> Path:
        """The path of a resolved straight; the section's `reach` does not move it."""
        return CurvePath(Line(self.length), even=True)
