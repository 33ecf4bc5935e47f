"""The section kinds: models of what is typed, each with its outline."""

from __future__ import annotations

import math
from typing import Literal

import numpy as np

from metaspira.numbers.fields import Count, Distance, Length, Offset
from metaspira.numbers.kind import Kind
from metaspira.problems import Fix, Problem, RecipeError
from metaspira.sections.outline import Edge, Outline, ellipse, line, polygon, quarter

RidesAt = Literal["centre", "inside", "outside"] | tuple[Offset, Offset]


class SectionBase(Kind):
    """What all sections share: the plane they are given in and the point that rides on the path."""

    plane: Literal["across", "axial"] = "across"
    rides_at: RidesAt = "centre"

    def shape(self, place: str) -> Outline:
        """The outline around its own centre. Raises RecipeError with places below `place`."""
        raise NotImplementedError

    def outline(self, place: str) -> Outline:
        """The outline with the origin at the point that rides on the path."""
        shape = self.shape(place)
        low, high, _, _ = shape.box
        if self.rides_at == "centre":
            return shape
        if self.rides_at == "inside":
            return shape.moved(-low, 0.0)
        if self.rides_at == "outside":
            return shape.moved(-high, 0.0)
        u, v = self.rides_at
        return shape.moved(-u, -v)


class Round(SectionBase):
    """Round wire."""

    kind: Literal["round"]
    diameter: Length

    def shape(self, place: str) -> Outline:
        return ellipse(self.diameter, self.diameter)


class Ellipse(SectionBase):
    """An ellipse, `width` along the first axis and `height` along the second."""

    kind: Literal["ellipse"]
    width: Length
    height: Length

    def shape(self, place: str) -> Outline:
        return ellipse(self.width, self.height)


class Rectangle(SectionBase):
    """A rectangle, its corners rounded by `corner_radius`."""

    kind: Literal["rectangle"]
    width: Length
    height: Length
    corner_radius: Distance = 0.0

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


class Polygon(SectionBase):
    """A regular polygon with a flat facing along the first axis.

    `across_flats` is the diameter of the circle that touches its sides.
    """

    kind: Literal["polygon"]
    sides: Count
    across_flats: Length

    def shape(self, place: str) -> Outline:
        sides = int(self.sides)
        corner_radius = self.across_flats / 2 / math.cos(math.pi / sides)
        angle = (2 * np.arange(sides) - 1) * math.pi / sides
        return polygon(corner_radius * np.stack([np.cos(angle), np.sin(angle)], axis=1))
