"""An ellipse."""

from __future__ import annotations

from typing import Annotated, Literal

from pydantic import Field

from metaspira.numbers.fields import Length
from metaspira.numbers.kind import Usual, said
from metaspira.sections.kinds.base import HoleBase, SectionBase, Shape
from metaspira.sections.outline import Outline, ellipse


class _Ellipse(Shape, title="ellipse"):
    """An ellipse, `width` along the first axis and `height` along the second."""

    listed = 5
    kind: Literal["ellipse"] = "ellipse"
    width: Annotated[Length, Usual(1)] = Field(
        title="Width, from the axis", description="along the first axis"
    )
    height: Annotated[Length, Usual(1)] = Field(title="Height, along it", description="along the second axis")

    def words(self, unit: str) -> str:
        return f"ellipse {said(self.width, unit)} × {said(self.height, unit)}"

    def shape(self, place: str) -> Outline:
        return ellipse(self.width, self.height)


class Ellipse(_Ellipse, SectionBase):
    """An ellipse, `width` along the first axis and `height` along the second."""


class EllipseHole(_Ellipse, HoleBase):
    """A hole of this shape."""
