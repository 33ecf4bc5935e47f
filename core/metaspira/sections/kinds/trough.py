"""A trough."""

from __future__ import annotations

import itertools
import math
from typing import Literal

import numpy as np

from metaspira.sections.kinds.corners import arcs, demand_most
from metaspira.sections.kinds.walled import Walled
from metaspira.sections.outline import Outline, arc, line


class Trough(Walled, title="half-round trough"):
    """A half-round trough that is open along the second axis: outside `width`, outside `depth`, `wall`.

    Deeper than half its width it has straight sides; shallower, its bottom is a flatter arc.
    """

    listed = 9
    kind: Literal["trough"] = "trough"

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
            outer = arcs(np.array([-w, top]), np.array([w, top]), centre, 2 * math.asin(min(1.0, w / radius)))
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
