"""Several sections that blend into each other."""

from __future__ import annotations

from typing import TYPE_CHECKING, Any, Literal

from pydantic import Field

from metaspira.numbers.fields import Angle, Share
from metaspira.numbers.kind import Kind
from metaspira.sections.blend import SectionAlong, blended
from metaspira.sections.kinds.base import SectionBase
from metaspira.sections.kinds.polygon import Polygon
from metaspira.sections.kinds.round import Round
from metaspira.sections.outline import Outline

if TYPE_CHECKING:
    PlainSection = SectionBase


class BlendAt(Kind):
    """One section of a blend: its place, 0 to 1, and by how much its matching is turned by hand."""

    at: Share = Field(title="At, 0 to 1")
    section: PlainSection
    turn: Angle = Field(default=0.0, title="Turned by hand", description="of the whole way around")


class Blend(SectionBase, title="several that blend"):
    """Several sections that blend into each other along the wire, straight or smooth."""

    listed = 13
    kind: Literal["blend"] = "blend"
    sections: tuple[BlendAt, ...] = Field(min_length=2, max_length=24)
    ease: Literal["straight", "smooth"] = Field(default="straight", title="From one to the next")

    @classmethod
    def usual(cls, size: float) -> dict[str, Any]:
        ends = Round.usual(size), Polygon.usual(size)
        return {"kind": "blend", "sections": [{"at": k, "section": end} for k, end in enumerate(ends)]}

    def words(self, unit: str) -> str:
        return f"{len(self.sections)} sections that blend"

    def shape(self, place: str) -> Outline:
        return self.sections[0].section.outline(f"{place}/sections/0/section")

    def along(self, place: str) -> SectionAlong:
        outlines = [
            one.section.outline(f"{place}/sections/{i}/section") for i, one in enumerate(self.sections)
        ]
        places, turns = [one.at for one in self.sections], [one.turn for one in self.sections]
        return blended(outlines, places, turns, self.ease, place)
