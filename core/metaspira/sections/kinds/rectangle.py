"""A rectangle."""

from __future__ import annotations

from typing import Annotated, Literal

import numpy as np
from pydantic import Field

from metaspira.numbers.fields import Distance, Length
from metaspira.numbers.kind import Usual, said
from metaspira.problems import Fix, Problem, RecipeError
from metaspira.sections.kinds.base import HoleBase, SectionBase, Shape
from metaspira.sections.outline import Edge, Outline, line, polygon, quarter


class _Rectangle(Shape, title="rectangle"):
    """A rectangle, its corners rounded by `corner_radius`."""

    listed = 3
    kind: Literal["rectangle"] = "rectangle"
    width: Annotated[Length, Usual(1)] = Field(
        title="Width, from the axis", description="along the first axis"
    )
    height: Annotated[Length, Usual(1)] = Field(title="Height, along it", description="along the second axis")
    corner_radius: Distance = 0.0

    def words(self, unit: str) -> str:
        return f"rectangle {said(self.width, unit)} × {said(self.height, unit)}"

    def shape(self, place: str) -> Outline:
        a, b, r = self.width / 2, self.height / 2, self.corner_radius
        most = min(a, b)
        if r > most:
            raise RecipeError(
                Problem(
                    f"{place}/corner_radius",
                    f"a corner radius of {r:.6g} mm does not fit a side of {2 * most:.6g} mm",
                    f"use {most:.6g} mm or less",
                    Fix(f"{place}/corner_radius", f"{most:.9g} mm"),
                )
            )
        corners = np.array([[a, -b], [a, b], [-a, b], [-a, -b]])
        if r == 0:
            return polygon(corners)
        edges: list[Edge] = []
        legs = np.roll(corners, -1, axis=0) - corners
        directions = legs / np.linalg.norm(legs, axis=1, keepdims=True)
        for i in range(4):
            into, out = directions[i - 1], directions[i]
            edges.append(quarter(corners[i] - r * into, corners[i], corners[i] + r * out))
            start, end = corners[i] + r * out, corners[(i + 1) % 4] - r * out
            if np.linalg.norm(end - start) > 1e-9 * most:
                edges.append(line(tuple(start), tuple(end)))
        return Outline(tuple(edges))


class Rectangle(_Rectangle, SectionBase):
    """A rectangle, its corners rounded by `corner_radius`."""

    is_strip = True


class RectangleHole(_Rectangle, HoleBase):
    """A hole of this shape."""
