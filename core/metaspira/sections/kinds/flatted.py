"""Round with a flat."""

from __future__ import annotations

import math
from typing import Annotated, Literal

import numpy as np
from pydantic import Field

from metaspira.numbers.fields import Length
from metaspira.numbers.kind import Usual, said
from metaspira.sections.kinds.base import SectionBase
from metaspira.sections.kinds.corners import arcs, demand_most
from metaspira.sections.outline import Outline, line


class Flatted(SectionBase, title="flatted round"):
    """Round with one flat that faces along the first axis; `flat` is the size across it, from the flat to
    the round side opposite, as a caliper measures it."""

    listed = 6
    kind: Literal["flatted"] = "flatted"
    diameter: Annotated[Length, Usual(1)]
    flat: Annotated[Length, Usual(0.8)] = Field(
        title="Across the flat",
        description="from the flat, which faces outward, to the round side opposite",
    )

    def words(self, unit: str) -> str:
        return f"flatted round ⌀ {said(self.diameter, unit)}"

    def shape(self, place: str) -> Outline:
        r = self.diameter / 2
        demand_most(
            self.flat,
            0.9999 * self.diameter,
            f"{place}/flat",
            f"a size of {self.flat:.6g} mm across the flat is no less than the diameter",
        )
        x = self.flat - r
        y = math.sqrt(max(r * r - x * x, 0.0))
        angle = 2 * math.pi - 2 * math.atan2(y, x)
        start, end = np.array([x, y]), np.array([x, -y])
        round_ = arcs(start, end, np.zeros(2), angle)
        return Outline((*round_, line((x, -y), (x, y))))
