"""Any outline."""

from __future__ import annotations

from typing import Any, Literal

from pydantic import Field

from metaspira.numbers.kind import three_digits
from metaspira.sections.kinds.base import SectionBase
from metaspira.sections.loops import Loop, outline_of
from metaspira.sections.outline import Outline


class Free(SectionBase, title="free, by points or drawing"):
    """Any outline by `loops`: the outer one first, then holes; or one open line, which makes a skin."""

    listed = 12
    kind: Literal["free"] = "free"
    loops: tuple[Loop, ...] = Field(
        min_length=1, max_length=24, description="the outer one, then holes; or one open line"
    )

    @classmethod
    def usual(cls, size: float) -> dict[str, Any]:
        half = three_digits(size / 2)
        corners = [[-half, -half], [half, -half], [half, half], [-half, half]]
        return {"kind": "free", "loops": [{"points": corners}]}

    def words(self, unit: str) -> str:
        if not self.loops[0].closed:
            return "an open line"
        return "one drawn loop" if len(self.loops) == 1 else f"{len(self.loops)} drawn loops"

    def shape(self, place: str) -> Outline:
        return outline_of(self.loops, f"{place}/loops")
