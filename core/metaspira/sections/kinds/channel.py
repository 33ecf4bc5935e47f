"""A channel."""

from __future__ import annotations

from typing import Any, Literal

import numpy as np
from pydantic import Field

from metaspira.numbers.fields import Length
from metaspira.numbers.kind import said, three_digits
from metaspira.sections.kinds.base import SectionBase
from metaspira.sections.kinds.corners import demand_most
from metaspira.sections.outline import Outline, polygon


class Channel(SectionBase, title="channel"):
    """A square channel that is open along the second axis: outside `width` and `depth`, and `wall`."""

    listed = 10
    kind: Literal["channel"]
    width: Length = Field(description="outside")
    depth: Length = Field(description="outside; open upward")
    wall: Length

    @classmethod
    def usual(cls, size: float) -> dict[str, Any]:
        return {
            "kind": "channel",
            "width": three_digits(size),
            "depth": three_digits(0.6 * size),
            "wall": three_digits(0.12 * size),
        }

    def words(self, unit: str) -> str:
        return f"channel {said(self.width, unit)} × {said(self.depth, unit)}"

    def shape(self, place: str) -> Outline:
        w, d, t = self.width / 2, self.depth / 2, self.wall
        demand_most(t, 0.98 * min(w, 2 * d), f"{place}/wall", f"a wall of {t:.6g} mm fills the channel")
        corners = [
            [-w, d],
            [-w, -d],
            [w, -d],
            [w, d],
            [w - t, d],
            [w - t, -d + t],
            [-w + t, -d + t],
            [-w + t, d],
        ]
        return polygon(np.array(corners))
