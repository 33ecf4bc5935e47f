"""An ellipse."""

from __future__ import annotations

from typing import Any, Literal

from pydantic import Field

from metaspira.numbers.fields import Length
from metaspira.numbers.kind import said, three_digits
from metaspira.sections.kinds.base import HoleBase, SectionBase, Shape
from metaspira.sections.outline import Outline, ellipse


class _Ellipse(Shape, title="ellipse"):
    """An ellipse, `width` along the first axis and `height` along the second."""

    listed = 5
    kind: Literal["ellipse"]
    width: Length = Field(title="Width, from the axis", description="along the first axis")
    height: Length = Field(title="Height, along it", description="along the second axis")

    @classmethod
    def usual(cls, size: float) -> dict[str, Any]:
        return {"kind": "ellipse", "width": three_digits(size), "height": three_digits(size)}

    def words(self, unit: str) -> str:
        return f"ellipse {said(self.width, unit)} × {said(self.height, unit)}"

    def shape(self, place: str) -> Outline:
        return ellipse(self.width, self.height)


class Ellipse(_Ellipse, SectionBase):
    """An ellipse, `width` along the first axis and `height` along the second."""


class EllipseHole(_Ellipse, HoleBase):
    """A hole of this shape."""
