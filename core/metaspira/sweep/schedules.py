"""Schedules: values that change along the wire, over the share of its true length, 0 to 1."""

from __future__ import annotations

from dataclasses import dataclass

import numpy as np
from pydantic import Field

from metaspira.numbers.fields import Angle, Factor
from metaspira.numbers.kind import Kind
from metaspira.paths.quadrature import Array


class Twist(Kind):
    """Roll about the wire, even in true length: `total` from start to end."""

    total: Angle
    on: bool = True


class Size(Kind):
    """Size of the section against what is typed for it, from the start to the end of the wire."""

    from_: Factor = Field(alias="from")
    to: Factor
    on: bool = True


class Along(Kind):
    """What changes along the wire."""

    twist: Twist | None = None
    size: Size | None = None


@dataclass(frozen=True)
class Linear:
    """A value that goes evenly from `start` to `end` over `length` mm."""

    start: float
    end: float
    length: float

    @property
    def rate(self) -> float:
        return (self.end - self.start) / self.length

    @property
    def constant(self) -> bool:
        return self.start == self.end

    def __call__(self, s: Array) -> tuple[Array, Array]:
        """Value and change per mm at true length s (n,), each (n,)."""
        return self.start + self.rate * s, np.full_like(s, self.rate)


def twist_of(along: Along, length: float) -> Linear:
    """Twist in radians over a wire of `length` mm."""
    total = along.twist.total if along.twist and along.twist.on else 0.0
    return Linear(0.0, total, length)


def size_at_ends(along: Along) -> tuple[float, float]:
    """Size factor at the start and at the end of the wire."""
    return (along.size.from_, along.size.to) if along.size and along.size.on else (1.0, 1.0)
