"""A core with lobes."""

from __future__ import annotations

import math
from typing import Annotated, Literal

import numpy as np
from pydantic import Field

from metaspira.numbers.fields import Count, Length
from metaspira.numbers.kind import Usual, said
from metaspira.sections.kinds.base import HoleBase, SectionBase, Shape
from metaspira.sections.kinds.corners import arcs, demand_most
from metaspira.sections.outline import Edge, Outline


class _Lobed(Shape, title="lobed"):
    """A round core with `lobes` round lobes whose centres lie on the core's circle."""

    listed = 8
    kind: Literal["lobed"] = "lobed"
    lobes: Annotated[Count, Usual(3)] = Field(description="3 to 64")
    core_diameter: Annotated[Length, Usual(0.55)] = Field(
        description="of the circle on which the centres of the lobes lie"
    )
    lobe_diameter: Annotated[Length, Usual(0.45)]

    def words(self, unit: str) -> str:
        return f"{said(self.lobes)} lobes on ⌀ {said(self.core_diameter, unit)}"

    def shape(self, place: str) -> Outline:
        n, rc, rl = int(self.lobes), self.core_diameter / 2, self.lobe_diameter / 2
        demand_most(
            self.lobe_diameter,
            1.99 * self.core_diameter,
            f"{place}/lobe_diameter",
            "one lobe swallows the core",
        )
        half = math.pi / n
        meet_core = 2 * math.asin(rl / (2 * rc))
        apart = rc * math.sin(half)
        edges: list[Edge] = []
        for k in range(n):
            turn = 2 * math.pi * k / n
            centre = rc * np.array([math.cos(turn), math.sin(turn)])
            if meet_core >= half:
                reach = rc * math.cos(half) + math.sqrt(max(rl * rl - apart * apart, 0.0))
                ends = [reach * np.array([math.cos(turn + s), math.sin(turn + s)]) for s in (-half, half)]
            else:
                ends = [
                    rc * np.array([math.cos(turn + s), math.sin(turn + s)]) for s in (-meet_core, meet_core)
                ]
            first, last = (math.atan2(*(e - centre)[::-1]) for e in ends)
            edges += arcs(ends[0], ends[1], centre, (last - first) % (2 * math.pi))
            if meet_core < half:
                after = rc * np.array(
                    [math.cos(turn + 2 * half - meet_core), math.sin(turn + 2 * half - meet_core)]
                )
                edges += arcs(ends[1], after, np.zeros(2), 2 * (half - meet_core))
        return Outline(tuple(edges))


class Lobed(_Lobed, SectionBase):
    """A round core with round lobes."""


class LobedHole(_Lobed, HoleBase):
    """A hole of this shape."""
