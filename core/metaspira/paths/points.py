"""Points: a smooth curve through points in space, open or closed."""

from __future__ import annotations

from typing import Literal

import numpy as np
from pydantic import Field

from metaspira.numbers.fields import Offset
from metaspira.numbers.splines import spline_through
from metaspira.paths.base import PathBase, Reach
from metaspira.paths.path import CurvePath, Path
from metaspira.problems import Problem, RecipeError


class Points(PathBase):
    """A curve through `points` in space, in their order; `closed` joins the last to the first."""

    kind: Literal["points"]
    points: tuple[tuple[Offset, Offset, Offset], ...] = Field(min_length=2, max_length=500)
    closed: bool = False

    def curve(self, place: str, reach: Reach) -> Path:
        """The path of resolved points. Raises RecipeError with places below `place`."""
        points = np.array(self.points, dtype=float)
        if self.closed and len(points) < 3:
            raise RecipeError(
                Problem(f"{place}/points", "two points do not make a closed curve", "add a third")
            )
        ring = np.concatenate([points, points[:1]]) if self.closed else points
        steps = np.linalg.norm(np.diff(ring, axis=0), axis=1)
        if np.any(steps < 1e-6):
            where = (int(np.argmin(steps)) + 1) % len(points)
            raise RecipeError(
                Problem(
                    f"{place}/points/{where}",
                    "this point is where the one before it is",
                    "move it, or take it out",
                )
            )
        return CurvePath(spline_through(points, self.closed), closed=self.closed)
