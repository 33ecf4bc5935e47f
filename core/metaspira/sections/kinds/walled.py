"""What open sections with a wall share."""

from __future__ import annotations

from typing import Annotated

from pydantic import Field

from metaspira.numbers.fields import Length
from metaspira.numbers.kind import Usual, said
from metaspira.sections.kinds.base import SectionBase


class Walled(SectionBase):
    """Open along the second axis: outside `width` and `depth`, and `wall`."""

    kind: str
    width: Annotated[Length, Usual(1)] = Field(description="outside")
    depth: Annotated[Length, Usual(0.6)] = Field(description="outside; open upward")
    wall: Annotated[Length, Usual(0.1)]

    def words(self, unit: str) -> str:
        return f"{self.kind} {said(self.width, unit)} × {said(self.depth, unit)}"
