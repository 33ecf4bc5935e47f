"""A trough."""

from __future__ import annotations

import itertools
import math
from typing import Any, Literal

import numpy as np
from pydantic import Field

from metaspira.numbers.fields import Length
from metaspira.numbers.kind import said, three_digits
from metaspira.sections.kinds.base import SectionBase
from metaspira.sections.kinds.corners import arcs, demand_most
from metaspira.sections.outline import Outline, arc, line


class Trough(SectionBase, title="half-round trough"):
    """A half-round trough that is open along the second axis: outside `width`, outside `depth`, `wall`.

    Deeper than half its width it has straight sides; shallower, its bottom is a flatter arc.
    """

    listed = 9
    kind: Literal["trough"]
    width: Length = Field(description="outside")
    depth: Length = Field(description="outside; open upward")
    wall: Length

    @classmethod
    def usual(cls, size: float) -> dict[str, Any]:
        return {
            "kind": "trough",
            "width": three_digits(size),
            "depth": three_digits(0.6 * size),
            "wall": three_digits(0.1 * size),
        }

    def words(self, unit: str) -> str:
        return f"trough {said(self.width, unit)} × {said(self.depth, unit)}"

    def shape(self, place: str) -> Outline:
        w, d, t = self.width / 2, self.depth, self.wall
        demand_most(t, 0.98 * min(w, d), f"{place}/wall", f"a wall of {t:.6g} mm fills the trough")
        top = d / 2
        if d >= w:
            low = -d / 2 + w
            outer = arc(np.array([-w, low]), np.array([w, low]), 1.0)
            inner = arc(np.array([w - t, low]), np.array([-(w - t), low]), -1.0)
            sides = d - w > 1e-9 * w
        else:
            radius = (w * w + d * d) / (2 * d)
            centre = np.array([0.0, -d / 2 + radius])
            within = radius - t
            x = math.sqrt(max(within**2 - (top - centre[1]) ** 2, 0.0))
            outer = arcs(
                np.array([-w, top]), np.array([w, top]), centre, 2 * math.asin(min(1.0, w / radius))
            )
            inner = arcs(
                np.array([x, top]), np.array([-x, top]), centre, -2 * math.asin(min(1.0, x / within))
            )
            sides = False
        edges = [*outer]
        corners = [outer[-1].points[-1]]
        if sides:
            corners += [np.array([w, top]), np.array([w - t, top])]
        corners.append(inner[0].points[0])
        edges += [line(tuple(a), tuple(b)) for a, b in itertools.pairwise(corners)]
        edges += inner
        corners = [inner[-1].points[-1]]
        if sides:
            corners += [np.array([-(w - t), top]), np.array([-w, top])]
        corners.append(outer[0].points[0])
        edges += [line(tuple(a), tuple(b)) for a, b in itertools.pairwise(corners)]
        return Outline(tuple(edges))
