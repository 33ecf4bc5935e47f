"""What open sections with a wall share."""

from __future__ import annotations

from typing import Any

from pydantic import Field

from metaspira.numbers.fields import Length
from metaspira.numbers.kind import said, tag_of, three_digits
from metaspira.sections.kinds.base import SectionBase


class Walled(SectionBase):
    """Open along the second axis: outside `width` and `depth`, and `wall`."""

    kind: str
    width: Length = Field(description="outside")
    depth: Length = Field(description="outside; open upward")
    wall: Length

    @classmethod
    def usual(cls, size: float) -> dict[str, Any]:
        sizes = {"width": size, "depth": 0.6 * size, "wall": 0.1 * size}
        return {"kind": tag_of(cls), **{key: three_digits(value) for key, value in sizes.items()}}

    def words(self, unit: str) -> str:
        return f"{self.kind} {said(self.width, unit)} × {said(self.depth, unit)}"
