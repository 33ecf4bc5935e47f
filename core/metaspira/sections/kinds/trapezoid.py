"""A trapezoid."""

from __future__ import annotations

from typing import Annotated, Literal

import numpy as np
from pydantic import Field

from metaspira.numbers.fields import Length
from metaspira.numbers.kind import Usual, said
from metaspira.sections.kinds.base import SectionBase
from metaspira.sections.outline import Outline, polygon


class Trapezoid(SectionBase, title="trapezoid"):
    """A trapezoid: `base` below and `top` above, along the first axis, `height` along the second."""

    listed = 11
    kind: Literal["trapezoid"] = "trapezoid"
    base: Annotated[Length, Usual(1)] = Field(description="below")
    top: Annotated[Length, Usual(0.6)] = Field(description="above")
    height: Annotated[Length, Usual(0.8)]

    def words(self, unit: str) -> str:
        return f"trapezoid {said(self.base, unit)} to {said(self.top, unit)}"

    def shape(self, place: str) -> Outline:
        a, b, h = self.base / 2, self.top / 2, self.height / 2
        return polygon(np.array([[-a, -h], [a, -h], [b, h], [-b, h]]))
