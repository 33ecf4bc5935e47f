"""What all sections and holes share."""

from __future__ import annotations

from collections.abc import Callable
from typing import TYPE_CHECKING, Annotated, ClassVar, Literal

from pydantic import Field, StringConstraints
from shapely import Polygon as Area

from metaspira.numbers.fields import Offset
from metaspira.numbers.kind import Kind, Words, counted
from metaspira.problems import Fix, Problem, RecipeError
from metaspira.sections.blend import SectionAlong
from metaspira.sections.outline import Edge, Outline

if TYPE_CHECKING:
    from metaspira.sections.kinds import HoleKind

RidesAt = Literal["centre", "inside", "outside"] | tuple[Offset, Offset]
Colour = Annotated[str, StringConstraints(pattern=r"^#[0-9a-fA-F]{6}$")]


class Paint(Kind):
    """A colour on one edge of the outer loop, by its number from 0: a band along the wire."""

    edge: int = Field(ge=0, le=2000)
    colour: Colour


class Shape(Kind):
    """Something with an outline."""

    def shape(self, place: str) -> Outline:
        """The outline around its own centre. Raises RecipeError with places below `place`."""
        raise NotImplementedError


class HoleBase(Shape):
    """A hole all the way through a section; `centre` is where its centre lies from the section's own."""

    centre: tuple[Offset, Offset] = (0.0, 0.0)

    def outline(self, place: str) -> Outline:
        """The hole's outline, in the section that it is in."""
        return self.shape(place).moved(*self.centre)


class SectionBase(Shape):
    """What all sections share: the plane they are given in, the point that rides on the path, holes, and
    paint."""

    by_diameter: ClassVar[bool] = False
    """A drawing gives its diameter in place of its width and height."""

    is_strip: ClassVar[bool] = False
    """It is bent as a strip is."""

    plane: Annotated[
        Literal["across", "axial"], Words({"across": "across the wire", "axial": "through the axis"})
    ] = Field(default="across", title="Given in the plane")
    rides_at: RidesAt = Field(default="centre", title="Rides at its")
    holes: tuple[HoleKind, ...] = Field(default=(), max_length=24)
    paint: tuple[Paint, ...] = Field(default=(), max_length=200)

    @property
    def round_diameter(self) -> float | None:
        """Of a round one, holes or not."""
        return None

    def note(self, length: Callable[[float], str]) -> str | None:
        """What a drawing says beside its width and height; `length` writes one."""
        return None

    def sentence(self, unit: str) -> str:
        """What it is in words, with its holes and its plane."""
        holes = f", {counted(len(self.holes), 'hole')}" if self.holes else ""
        plane = "through the axis" if self.plane == "axial" else "across the wire"
        return f"{self.words(unit)}{holes}, {plane}"

    def outline(self, place: str) -> Outline:
        """The outline with holes and paint, its origin at the point that rides on the path."""
        shape = self.shape(place)
        bare = shape
        if self.holes:
            holes = [h.outline(f"{place}/holes/{i}") for i, h in enumerate(self.holes)]
            shape = _pierced(shape, holes, place)
        if self.paint:
            shape = _painted(shape, self.paint, place)
        if self.rides_at == "centre":
            return shape
        if self.rides_at == "inside":
            return shape.moved(-bare.box[0], 0.0)
        if self.rides_at == "outside":
            return shape.moved(-bare.box[1], 0.0)
        u, v = self.rides_at
        return shape.moved(-u, -v)

    def along(self, place: str) -> SectionAlong:
        """The section along the wire: the same all the way."""
        return SectionAlong((self.outline(place),))


def _pierced(shape: Outline, holes: list[Outline], place: str) -> Outline:
    outer = Area(shape.ring(96, 2).points)
    taken = [Area(hole.ring(96, 2).points) for hole in shape.holes]
    for i, hole in enumerate(holes):
        here = f"{place}/holes/{i}"
        inner = Area(hole.ring(96, 2).points)
        if not hole.closed or hole.holes:
            raise RecipeError(Problem(here, "a hole is one closed loop", "use a plain section for it"))
        if not outer.contains(inner):
            raise RecipeError(
                Problem(here, "this hole does not lie inside the section", "make it smaller, or move it")
            )
        if any(inner.intersects(other) for other in taken):
            raise RecipeError(Problem(here, "this hole meets another", "move them apart"))
        taken.append(inner)
    return Outline(shape.edges, (*shape.holes, *holes))


def _painted(shape: Outline, paint: tuple[Paint, ...], place: str) -> Outline:
    edges = list(shape.edges)
    for i, band in enumerate(paint):
        if band.edge >= len(edges):
            raise RecipeError(
                Problem(
                    f"{place}/paint/{i}/edge",
                    f"the section has {len(edges)} edges, numbered from 0",
                    f"use {len(edges) - 1} or less",
                    Fix(f"{place}/paint/{i}/edge", len(edges) - 1),
                )
            )
        edge = edges[band.edge]
        edges[band.edge] = Edge(edge.points, edge.weights, band.colour.lower())
    return Outline(tuple(edges), shape.holes, shape.closed)
