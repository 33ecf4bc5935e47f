"""A channel."""

from __future__ import annotations

from typing import Annotated, Literal

import numpy as np

from metaspira.numbers.fields import Length
from metaspira.numbers.kind import Usual
from metaspira.sections.kinds.corners import demand_most
from metaspira.sections.kinds.walled import Walled
from metaspira.sections.outline import Outline, polygon


class Channel(Walled, title="channel"):
    """A square channel that is open along the second axis: outside `width` and `depth`, and `wall`."""

    listed = 10
    kind: Literal["channel"] = "channel"
    wall: Annotated[Length, Usual(0.12)]

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
