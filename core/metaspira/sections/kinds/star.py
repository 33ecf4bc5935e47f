"""A star."""

from __future__ import annotations

import math
from typing import Annotated, Literal

import numpy as np
from pydantic import Field

from metaspira.numbers.fields import Count, Distance, Length
from metaspira.numbers.kind import Usual, said
from metaspira.sections.kinds.base import HoleBase, SectionBase, Shape
from metaspira.sections.kinds.corners import demand_most, rounded_polygon
from metaspira.sections.outline import Outline, polygon


class _Star(Shape, title="star"):
    """A star of `points` tips on the outer circle and as many valleys on the inner one, all rounded by
    `fillet`. A tip faces along the first axis."""

    listed = 7
    kind: Literal["star"] = "star"
    points: Annotated[Count, Usual(5)] = Field(description="how many, 3 to 64; one faces outward")
    outer_diameter: Annotated[Length, Usual(1)]
    inner_diameter: Annotated[Length, Usual(0.6)]
    fillet: Annotated[Distance, Usual(0.04)] = Field(default=0.0, description="on tips and valleys")

    def words(self, unit: str) -> str:
        return f"star of {said(self.points)}, ⌀ {said(self.outer_diameter, unit)}"

    def shape(self, place: str) -> Outline:
        n = int(self.points)
        demand_most(
            self.inner_diameter,
            0.999 * self.outer_diameter,
            f"{place}/inner_diameter",
            "the inner diameter is no less than the outer",
        )
        angle = np.arange(2 * n) * math.pi / n
        radius = np.where(np.arange(2 * n) % 2 == 0, self.outer_diameter / 2, self.inner_diameter / 2)
        corners = radius[:, None] * np.stack([np.cos(angle), np.sin(angle)], axis=1)
        if self.fillet == 0:
            return polygon(corners)
        return rounded_polygon(corners, self.fillet, f"{place}/fillet")


class Star(_Star, SectionBase):
    """A star with rounded tips and valleys."""


class StarHole(_Star, HoleBase):
    """A hole of this shape."""
