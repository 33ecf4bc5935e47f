"""Round wire."""

from __future__ import annotations

from typing import Annotated, Literal

from metaspira.numbers.fields import Length
from metaspira.numbers.kind import Usual, said
from metaspira.sections.kinds.base import HoleBase, SectionBase, Shape
from metaspira.sections.outline import Outline, ellipse


class _Round(Shape, title="round"):
    """Round wire."""

    listed = 1
    kind: Literal["round"] = "round"
    diameter: Annotated[Length, Usual(1)]

    def words(self, unit: str) -> str:
        return f"round ⌀ {said(self.diameter, unit)}"

    def shape(self, place: str) -> Outline:
        return ellipse(self.diameter, self.diameter)


class Round(_Round, SectionBase):
    """Round wire."""

    by_diameter = True

    @property
    def round_diameter(self) -> float:
        return self.diameter


class RoundHole(_Round, HoleBase):
    """A hole of this shape."""
