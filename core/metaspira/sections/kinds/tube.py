"""A round tube."""

from __future__ import annotations

from collections.abc import Callable
from typing import Annotated, Literal

from pydantic import Field

from metaspira.numbers.fields import Length
from metaspira.numbers.kind import Usual, said
from metaspira.sections.kinds.base import SectionBase
from metaspira.sections.kinds.corners import demand_most
from metaspira.sections.outline import Outline, ellipse


class Tube(SectionBase, title="tube"):
    """A round tube: outside diameter and wall."""

    listed = 2
    by_diameter = True
    kind: Literal["tube"] = "tube"
    diameter: Annotated[Length, Usual(1)] = Field(description="outside")
    wall: Annotated[Length, Usual(0.15)]

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
