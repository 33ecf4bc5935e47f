"""The section kinds: models of what is typed, each with its outline."""

from __future__ import annotations

import itertools
import math
from typing import Annotated, Literal, get_args

import numpy as np
from pydantic import Field, StringConstraints
from shapely import Polygon as Area

from metaspira.numbers.fields import Angle, Count, Distance, Length, Offset, Share
from metaspira.numbers.jets import Array
from metaspira.numbers.kind import Kind
from metaspira.problems import Fix, Problem, RecipeError
from metaspira.sections.loops import Loop, outline_of
from metaspira.sections.outline import Edge, Outline, arc, ellipse, fillet, line, polygon, quarter

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

    plane: Literal["across", "axial"] = "across"
    rides_at: RidesAt = "centre"
    holes: tuple[HoleKind, ...] = Field((), max_length=24)
    paint: tuple[Paint, ...] = Field((), max_length=200)

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
                Problem(
                    here, "this hole does not lie inside the section", "make it smaller, or move it"
                )
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


def _demand(value: float, most: float, place: str, reason: str) -> None:
    """Refuse a length above `most`, which works."""
    if value > most * (1 + 1e-12):
        works = math.floor(most * 1e6) / 1e6
        raise RecipeError(
            Problem(place, reason, f"use {works:.6g} mm or less", Fix(place, f"{works:.9g} mm"))
        )


class _Round(Shape):
    """Round wire."""

    kind: Literal["round"]
    diameter: Length

    def shape(self, place: str) -> Outline:
        return ellipse(self.diameter, self.diameter)


class Tube(SectionBase):
    """A round tube: outside diameter and wall."""

    kind: Literal["tube"]
    diameter: Length
    wall: Length

    def shape(self, place: str) -> Outline:
        _demand(
            self.wall,
            0.499 * self.diameter,
            f"{place}/wall",
            f"a wall of {self.wall:.6g} mm fills the tube",
        )
        bore = self.diameter - 2 * self.wall
        return Outline(ellipse(self.diameter, self.diameter).edges, (ellipse(bore, bore),))


class _Ellipse(Shape):
    """An ellipse, `width` along the first axis and `height` along the second."""

    kind: Literal["ellipse"]
    width: Length
    height: Length

    def shape(self, place: str) -> Outline:
        return ellipse(self.width, self.height)


class _Rectangle(Shape):
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


class _Polygon(Shape):
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


class Flatted(SectionBase):
    """Round with one flat that faces along the first axis; `flat` is the size across it, from the flat to
    the round side opposite, as a caliper measures it."""

    kind: Literal["flatted"]
    diameter: Length
    flat: Length

    def shape(self, place: str) -> Outline:
        r = self.diameter / 2
        _demand(
            self.flat,
            0.9999 * self.diameter,
            f"{place}/flat",
            f"a size of {self.flat:.6g} mm across the flat is no less than the diameter",
        )
        x = self.flat - r
        y = math.sqrt(max(r * r - x * x, 0.0))
        angle = 2 * math.pi - 2 * math.atan2(y, x)
        start, end = np.array([x, y]), np.array([x, -y])
        round_ = _arcs(start, end, np.zeros(2), angle)
        return Outline((*round_, line((x, -y), (x, y))))


class _Star(Shape):
    """A star of `points` tips on the outer circle and as many valleys on the inner one, all rounded by
    `fillet`. A tip faces along the first axis."""

    kind: Literal["star"]
    points: Count
    outer_diameter: Length
    inner_diameter: Length
    fillet: Distance = 0.0

    def shape(self, place: str) -> Outline:
        n = int(self.points)
        _demand(
            self.inner_diameter,
            0.999 * self.outer_diameter,
            f"{place}/inner_diameter",
            "the inner diameter is no less than the outer",
        )
        angle = np.arange(2 * n) * math.pi / n
        radius = np.where(np.arange(2 * n) % 2 == 0, self.outer_diameter / 2, self.inner_diameter / 2)
        corners = radius[:, None] * np.stack([np.cos(angle), np.sin(angle)], axis=1)
        if self.fillet == 0:
            return polygon(corners)
        return rounded_polygon(corners, self.fillet, f"{place}/fillet")


class _Lobed(Shape):
    """A round core with `lobes` round lobes whose centres lie on the core's circle."""

    kind: Literal["lobed"]
    lobes: Count
    core_diameter: Length
    lobe_diameter: Length

    def shape(self, place: str) -> Outline:
        n, rc, rl = int(self.lobes), self.core_diameter / 2, self.lobe_diameter / 2
        _demand(
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
                ends = [
                    reach * np.array([math.cos(turn + s), math.sin(turn + s)]) for s in (-half, half)
                ]
            else:
                ends = [
                    rc * np.array([math.cos(turn + s), math.sin(turn + s)])
                    for s in (-meet_core, meet_core)
                ]
            first, last = (math.atan2(*(e - centre)[::-1]) for e in ends)
            edges += _arcs(ends[0], ends[1], centre, (last - first) % (2 * math.pi))
            if meet_core < half:
                after = rc * np.array(
                    [math.cos(turn + 2 * half - meet_core), math.sin(turn + 2 * half - meet_core)]
                )
                edges += _arcs(ends[1], after, np.zeros(2), 2 * (half - meet_core))
        return Outline(tuple(edges))


class Trough(SectionBase):
    """A half-round trough that is open along the second axis: outside `width`, outside `depth`, `wall`.

    Deeper than half its width it has straight sides; shallower, its bottom is a flatter arc.
    """

    kind: Literal["trough"]
    width: Length
    depth: Length
    wall: Length

    def shape(self, place: str) -> Outline:
        w, d, t = self.width / 2, self.depth, self.wall
        _demand(t, 0.98 * min(w, d), f"{place}/wall", f"a wall of {t:.6g} mm fills the trough")
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
            outer = _arcs(
                np.array([-w, top]), np.array([w, top]), centre, 2 * math.asin(min(1.0, w / radius))
            )
            inner = _arcs(
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


class Channel(SectionBase):
    """A square channel that is open along the second axis: outside `width` and `depth`, and `wall`."""

    kind: Literal["channel"]
    width: Length
    depth: Length
    wall: Length

    def shape(self, place: str) -> Outline:
        w, d, t = self.width / 2, self.depth / 2, self.wall
        _demand(t, 0.98 * min(w, 2 * d), f"{place}/wall", f"a wall of {t:.6g} mm fills the channel")
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


class Trapezoid(SectionBase):
    """A trapezoid: `base` below and `top` above, along the first axis, `height` along the second."""

    kind: Literal["trapezoid"]
    base: Length
    top: Length
    height: Length

    def shape(self, place: str) -> Outline:
        a, b, h = self.base / 2, self.top / 2, self.height / 2
        return polygon(np.array([[-a, -h], [a, -h], [b, h], [-b, h]]))


class Free(SectionBase):
    """Any outline by `loops`: the outer one first, then holes; or one open line, which makes a skin."""

    kind: Literal["free"]
    loops: tuple[Loop, ...] = Field(min_length=1, max_length=24)

    def shape(self, place: str) -> Outline:
        return outline_of(self.loops, f"{place}/loops")


class Round(_Round, SectionBase):
    """Round wire."""


class RoundHole(_Round, HoleBase):
    """A hole of this shape."""


class Ellipse(_Ellipse, SectionBase):
    """An ellipse, `width` along the first axis and `height` along the second."""


class EllipseHole(_Ellipse, HoleBase):
    """A hole of this shape."""


class Rectangle(_Rectangle, SectionBase):
    """A rectangle, its corners rounded by `corner_radius`."""


class RectangleHole(_Rectangle, HoleBase):
    """A hole of this shape."""


class Polygon(_Polygon, SectionBase):
    """A regular polygon with a flat facing along the first axis."""


class PolygonHole(_Polygon, HoleBase):
    """A hole of this shape."""


class Star(_Star, SectionBase):
    """A star with rounded tips and valleys."""


class StarHole(_Star, HoleBase):
    """A hole of this shape."""


class Lobed(_Lobed, SectionBase):
    """A round core with round lobes."""


class LobedHole(_Lobed, HoleBase):
    """A hole of this shape."""


HoleKind = Annotated[
    RoundHole | EllipseHole | RectangleHole | PolygonHole | StarHole | LobedHole,
    Field(discriminator="kind"),
]
PlainSection = Annotated[
    Round
    | Tube
    | Rectangle
    | Polygon
    | Ellipse
    | Flatted
    | Star
    | Lobed
    | Trough
    | Channel
    | Trapezoid
    | Free,
    Field(discriminator="kind"),
]


class BlendAt(Kind):
    """One section of a blend: its place, 0 to 1, and by how much its matching is turned by hand."""

    at: Share
    section: PlainSection
    turn: Angle = 0.0


class Blend(SectionBase):
    """Several sections that blend into each other along the wire, straight or smooth."""

    kind: Literal["blend"]
    sections: tuple[BlendAt, ...] = Field(min_length=2, max_length=24)
    ease: Literal["straight", "smooth"] = "straight"

    def shape(self, place: str) -> Outline:
        return self.sections[0].section.outline(f"{place}/sections/0/section")


def _arcs(start: Array, end: Array, centre: Array, angle: float) -> list[Edge]:
    """The arc about `centre` from start to end through `angle` (signed, up to a full turn)."""
    halves = max(1, math.ceil(abs(angle) / math.pi - 1e-9))
    step = angle / halves
    spoke = start - centre
    cos, sin = math.cos(step), math.sin(step)
    edges: list[Edge] = []
    here = start
    for k in range(halves):
        spoke = np.array([cos * spoke[0] - sin * spoke[1], sin * spoke[0] + cos * spoke[1]])
        there = end if k == halves - 1 else centre + spoke
        edges += arc(here, there, math.tan(step / 4))
        here = there
    return edges


def rounded_polygon(corners: Array, radius: float, place: str) -> Outline:
    """The outline through corners (n, 2), each rounded by `radius`. Raises RecipeError at `place`."""
    n = len(corners)
    arcs, trims = [], []
    for i in range(n):
        edge, trim = fillet(corners[i - 1], corners[i], corners[(i + 1) % n], radius)
        arcs.append(edge)
        trims.append(trim)
    sides = np.linalg.norm(np.roll(corners, -1, axis=0) - corners, axis=1)
    taken = np.array(trims) + np.roll(trims, -1)
    share = float((taken / sides).max())
    if share > 1:
        _demand(
            radius, 0.999 * radius / share, place, f"a radius of {radius:.6g} mm does not fit the sides"
        )
    edges: list[Edge] = []
    for i in range(n):
        edges.append(arcs[i])
        start, end = arcs[i].points[-1], arcs[(i + 1) % n].points[0]
        if np.linalg.norm(end - start) > 1e-9 * sides[i]:
            edges.append(line(tuple(start), tuple(end)))
    return Outline(tuple(edges))


SectionKind = Annotated[PlainSection | Blend, Field(discriminator="kind")]

BlendAt.model_rebuild()
Blend.model_rebuild()
for _kind in get_args(get_args(PlainSection)[0]):
    _kind.model_rebuild()
