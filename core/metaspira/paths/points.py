"""Points: a smooth curve through points in space, open or closed."""

from __future__ import annotations

from typing import Any, Literal

import numpy as np
from pydantic import Field

from metaspira.numbers.fields import Offset
from metaspira.numbers.jets import Array
from metaspira.numbers.kind import three_digits
from metaspira.numbers.splines import SplineCurve, spline_through
from metaspira.paths.base import PathBase, Reach
from metaspira.paths.path import CurvePath, Path
from metaspira.problems import Problem, RecipeError

_SAMPLES, _STILL = 32, 1e-6


class Points(PathBase, title="through points"):
    """A curve through `points` in space, in their order; `closed` joins the last to the first."""

    listed = 3
    kind: Literal["points"] = "points"
    points: tuple[tuple[Offset, Offset, Offset], ...] = Field(
        min_length=2, max_length=500, description="a list of `[x, y, z]`"
    )
    closed: bool = Field(default=False, title="Closed: the last point leads to the first")

    @property
    def corners(self) -> tuple[tuple[float, float, float], ...]:
        return self.points

    @classmethod
    def usual(cls, size: float) -> dict[str, Any]:
        places = ((0, 0, 0), (1, 0, 0.3), (1.4, 1, 0.6), (0.4, 1.4, 0.9))
        return {"kind": "points", "points": [[three_digits(c * size) for c in p] for p in places]}

    def words(self, unit: str) -> str:
        return f"{'closed, ' if self.closed else ''}through {len(self.points)} points"

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
        curve = spline_through(points, self.closed)
        _demand_moving(curve, points, f"{place}/points")
        return CurvePath(curve, closed=self.closed)


def _demand_moving(curve: SplineCurve, points: Array, place: str) -> None:
    """Refuse a curve that stands still, as it does where it comes back on itself, and say at which point."""
    knots = curve.spline.t[(curve.spline.t >= curve.start) & (curve.spline.t <= curve.end)]
    even = np.linspace(curve.start, curve.end, _SAMPLES * len(points) + 1)
    t = np.unique(np.concatenate([even, knots]))
    speed = curve.speed(t)
    slowest = int(np.argmin(speed))
    if speed[slowest] > _STILL * float(np.median(speed)):
        return
    here = np.asarray(curve.spline(t[slowest]))
    nearest = int(np.argmin(np.linalg.norm(points - here, axis=1)))
    raise RecipeError(
        Problem(
            f"{place}/{nearest}",
            "the curve comes back on itself here, at a tip without width",
            "move this point, or one beside it, so that the curve goes around",
        )
    )
