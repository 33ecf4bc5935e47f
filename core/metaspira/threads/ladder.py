"""A fit ladder as a recipe asks for it: pairs of a stud and a nut whose allowance grows from pair to pair."""

from __future__ import annotations

import math
from typing import Annotated

from pydantic import Field

from metaspira.numbers.fields import Distance, Length, Quantity
from metaspira.numbers.kind import Kind

Pairs = Annotated[float, Quantity("count", 2, 12)]
Shrinks = Annotated[float, Quantity("number", 0.0, 10.0)]


class Ladder(Kind):
    """Its first allowance and the step from pair to pair, how many pairs; the height of a printed layer; and
    by how much the material shrinks along x, y and z, in per cent, which the plate is made larger by."""

    first: Distance = Field(default=0.0, title="First allowance")
    step: Length | None = Field(default=None, title="Step")
    pairs: Pairs = 6.0
    layer: Length | None = Field(default=None, title="Height of a layer")
    shrinks_x: Shrinks = Field(default=0.0, title="Shrinks along x, %")
    shrinks_y: Shrinks = Field(default=0.0, title="Shrinks along y, %")
    shrinks_z: Shrinks = Field(default=0.0, title="Shrinks along z, %")

    def allowances(self, pitch: float) -> tuple[float, ...]:
        """Of each pair, mm: in whole hundredths up to 0.09 of the pitch where no step is given."""
        pairs = round(self.pairs)
        step = self.step or max(math.floor(9 * pitch / (pairs - 1)) / 100, 0.01)
        return tuple(round(self.first + step * k, 6) for k in range(pairs))
