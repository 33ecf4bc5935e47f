"""A trapezoid."""

from __future__ import annotations

from typing import Any, Literal

import numpy as np
from pydantic import Field

from metaspira.numbers.fields import Length
from metaspira.numbers.kind import said, three_digits
from metaspira.sections.kinds.base import SectionBase
from metaspira.sections.outline import Outline, polygon


class Trapezoid(SectionBase, title="trapezoid"):
    """A trapezoid: `base` below and `top` above, along the first axis, `height` along the second."""

    listed = 11
    kind: Literal["trapezoid"]
    base: Length = Field(description="below")
    top: Length = Field(description="above")
    height: Length

    @classmethod
    def usual(cls, size: float) -> dict[str, Any]:
        return {
            "kind": "trapezoid",
            "base": three_digits(size),
            "top": three_digits(0.6 * size),
            "height": three_digits(0.8 * size),
        }

    def words(self, unit: str) -> str:
        return f"trapezoid {said(self.base, unit)} to {said(self.top, unit)}"

    def shape(self, place: str) -> Outline:
        a, b, h = self.base / 2, self.top / 2, self.height / 2
        return polygon(np.array([[-a, -h], [a, -h], [b, h], [-b, h]]))
