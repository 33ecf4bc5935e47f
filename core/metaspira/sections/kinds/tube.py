"""A round tube."""

from __future__ import annotations

from collections.abc import Callable
from typing import Any, Literal

from pydantic import Field

from metaspira.numbers.fields import Length
from metaspira.numbers.kind import said, three_digits
from metaspira.sections.kinds.base import SectionBase
from metaspira.sections.kinds.corners import demand_most
from metaspira.sections.outline import Outline, ellipse


class Tube(SectionBase, title="tube"):
    """A round tube: outside diameter and wall."""

    listed = 2
    by_diameter = True
    kind: Literal["tube"]
    diameter: Length = Field(description="outside")
    wall: Length

    @classmethod
    def usual(cls, size: float) -> dict[str, Any]:
        return {"kind": "tube", "diameter": three_digits(size), "wall": three_digits(0.15 * size)}

    def words(self, unit: str) -> str:
        return f"tube ⌀ {said(self.diameter, unit)}, wall {said(self.wall, unit)}"

    def note(self, length: Callable[[float], str]) -> str:
        return f"wall {length(self.wall)}"

    def shape(self, place: str) -> Outline:
        demand_most(
            self.wall,
            0.499 * self.diameter,
            f"{place}/wall",
            f"a wall of {self.wall:.6g} mm fills the tube",
        )
        bore = self.diameter - 2 * self.wall
        return Outline(ellipse(self.diameter, self.diameter).edges, (ellipse(bore, bore),))
