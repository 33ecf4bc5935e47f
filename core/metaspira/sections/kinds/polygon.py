"""A regular polygon."""

from __future__ import annotations

import math
from typing import Annotated, Literal

import numpy as np
from pydantic import Field

from metaspira.numbers.fields import Count, Length
from metaspira.numbers.kind import Usual, said
from metaspira.sections.kinds.base import HoleBase, SectionBase, Shape
from metaspira.sections.outline import Outline, polygon


class _Polygon(Shape, title="polygon"):
    """A regular polygon with a flat facing along the first axis.

    `across_flats` is the diameter of the circle that touches its sides.
    """

    listed = 4
    kind: Literal["polygon"] = "polygon"
    sides: Annotated[Count, Usual(6)] = Field(description="3 to 64")
    across_flats: Annotated[Length, Usual(1)] = Field(
        description="diameter of the circle inside it; a flat faces outward"
    )

    def words(self, unit: str) -> str:
        return f"{said(self.sides)} sides, {said(self.across_flats, unit)} across flats"

    def shape(self, place: str) -> Outline:
        sides = int(self.sides)
        corner_radius = self.across_flats / 2 / math.cos(math.pi / sides)
        angle = (2 * np.arange(sides) - 1) * math.pi / sides
        return polygon(corner_radius * np.stack([np.cos(angle), np.sin(angle)], axis=1))


class Polygon(_Polygon, SectionBase):
    """A regular polygon with a flat facing along the first axis."""


class PolygonHole(_Polygon, HoleBase):
    """A hole of this shape."""
