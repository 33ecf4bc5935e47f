"""Loops as they are typed or read from a drawing: points joined by lines, arcs and cubic curves.

Each entry of a loop leads from the point before it to its own:
    [x, y]                      a straight line
    [x, y, bulge]               an arc; bulge is tan of a quarter of its angle, positive counter-clockwise
    [x₁, y₁, x₂, y₂, x, y]      a cubic Bézier curve with the two control points first
The first entry's last two numbers are where the loop starts. A `smooth` loop is a spline through its
points.
"""

from __future__ import annotations

import itertools
import math
from typing import Literal

import numpy as np
import scipy
from pydantic import Field
from shapely import LinearRing, LineString, Polygon
from shapely.validation import explain_validity

from metaspira.numbers.fields import Factor, Offset
from metaspira.numbers.jets import Array
from metaspira.numbers.kind import Kind
from metaspira.numbers.splines import spline_through
from metaspira.problems import Problem, RecipeError
from metaspira.sections.outline import Edge, Outline, arc, bernstein, line

Entry = (
    tuple[Offset, Offset]
    | tuple[Offset, Offset, Factor]
    | tuple[Offset, Offset, Offset, Offset, Offset, Offset]
)

TINY = 1e-6
_JOINT = 5e-5


MOST_ENTRIES = 2000


class Loop(Kind):
    """One loop of a section, or one open line. `paint` gives edges, by their number, a colour."""

    points: tuple[Entry, ...] = Field(min_length=2, max_length=MOST_ENTRIES)
    ease: Literal["straight", "smooth"] = "straight"
    closed: bool = True

    def outline(self, place: str) -> Outline:
        """The loop's outline, counter-clockwise where it is closed. Raises RecipeError below `place`."""
        edges = self._smooth(place) if self.ease == "smooth" else self._joined(place)
        outline = Outline(tuple(edges), (), self.closed)
        if not self.closed:
            return outline
        ring = outline.ring(64, 2).points
        _demand_simple(ring, place)
        if outline.area < 0:
            outline = Outline(tuple(edge.reversed() for edge in reversed(edges)))
        if outline.area < TINY:
            raise RecipeError(
                Problem(
                    place,
                    f"the loop is tiny: {outline.area:.3g} mm²",
                    "leave it out, or draw it larger",
                )
            )
        return outline

    def _joined(self, place: str) -> list[Edge]:
        edges: list[Edge] = []
        start = here = np.array(self.points[0][-2:] if len(self.points[0]) != 3 else self.points[0][:2])
        for index, entry in enumerate(self.points[1:], 1):
            numbers = [float(n) for n in entry]
            there = np.array(numbers[:2] if len(numbers) < 6 else numbers[4:])
            if np.linalg.norm(there - here) < TINY and len(numbers) < 6:
                if index == len(self.points) - 1 and self.closed:
                    break
                raise RecipeError(
                    Problem(
                        f"{place}/points/{index}",
                        "this point is where the one before it is",
                        "take it out",
                    )
                )
            if len(numbers) == 3 and numbers[2] != 0:
                edges += arc(here, there, numbers[2])
            elif len(numbers) == 6:
                control = np.array([here, numbers[:2], numbers[2:4], there])
                edges.append(Edge(control, np.ones(4)))
            else:
                edges.append(line(tuple(here), tuple(there)))
            here = there
        if self.closed and np.linalg.norm(here - start) > TINY:
            edges.append(line(tuple(here), tuple(start)))
        if self.closed and len(edges) < 2:
            raise RecipeError(Problem(f"{place}/points", "these points enclose nothing", "add a point"))
        return edges

    def _smooth(self, place: str) -> list[Edge]:
        wrong = next((i for i, entry in enumerate(self.points) if len(entry) != 2), None)
        if wrong is not None:
            raise RecipeError(
                Problem(
                    f"{place}/points/{wrong}",
                    "a smooth loop goes through plain points",
                    "give x and y only",
                )
            )
        points = np.array([[*entry, 0.0] for entry in self.points], dtype=float)
        if self.closed and np.linalg.norm(points[0] - points[-1]) < TINY:
            points = points[:-1]
        if self.closed and len(points) < 3:
            raise RecipeError(Problem(f"{place}/points", "these points enclose nothing", "add a point"))
        ring = np.concatenate([points, points[:1]]) if self.closed else points
        steps = np.linalg.norm(np.diff(ring, axis=0), axis=1)
        if np.any(steps < TINY):
            at = (int(np.argmin(steps)) + 1) % len(points)
            raise RecipeError(
                Problem(f"{place}/points/{at}", "this point is where the one before it is", "take it out")
            )
        curve = spline_through(points, self.closed)
        return bezier_pieces(curve.spline, curve.start, curve.end)


def bezier_pieces(spline: scipy.interpolate.BSpline, low: float, high: float) -> list[Edge]:
    """The edges, one for each polynomial piece, of a plane B-spline (n, 3) between two parameters."""
    degree = spline.k
    knots = np.unique(np.clip(spline.t, low, high))
    choose = np.array([[math.comb(j, i) for i in range(degree + 1)] for j in range(degree + 1)])
    edges = []
    for a, b in itertools.pairwise(knots):
        if b - a > 1e-12:
            slopes = [spline(a, nu=i)[:2] * (b - a) ** i / math.factorial(i) for i in range(degree + 1)]
            control = np.asarray((choose / choose[degree]) @ np.array(slopes), dtype=float)
            edges.append(Edge(control.astype(float), np.ones(degree + 1)))
    return edges


def _demand_simple(ring: Array, place: str) -> None:
    if LinearRing(ring).is_simple:
        return
    said = explain_validity(Polygon(ring))
    at = said[said.find("[") + 1 : said.find("]")].split() if "[" in said else []
    where = f" at {float(at[0]):.4g}, {float(at[1]):.4g}" if len(at) == 2 else ""
    raise RecipeError(Problem(place, f"the loop crosses itself{where}", "move its points apart there"))


def outline_of(loops: tuple[Loop, ...], place: str) -> Outline:
    """One outline of a loop and its holes, or of one open line. Raises RecipeError below `place`."""
    outlines = [loop.outline(f"{place}/{i}") for i, loop in enumerate(loops)]
    if not loops[0].closed:
        if len(loops) > 1:
            raise RecipeError(
                Problem(
                    f"{place}/1",
                    "beside an open line there is no other loop",
                    "take it out, or close the first",
                )
            )
        return outlines[0]
    outer = Polygon(outlines[0].ring(64, 2).points)
    for i, hole in enumerate(outlines[1:], 1):
        if not hole.closed:
            raise RecipeError(Problem(f"{place}/{i}", "a hole is not open", "close it, or take it out"))
        inner = Polygon(hole.ring(64, 2).points)
        if not outer.contains(inner):
            raise RecipeError(
                Problem(
                    f"{place}/{i}",
                    "this hole does not lie inside the first loop",
                    "move it inside, clear of the edge",
                )
            )
        for j, other in enumerate(outlines[1:i], 1):
            if inner.intersects(Polygon(other.ring(64, 2).points)):
                raise RecipeError(Problem(f"{place}/{i}", f"this hole meets hole {j}", "move them apart"))
    return Outline(outlines[0].edges, tuple(outlines[1:]))


def thickened(outline: Outline, thickness: float, place: str) -> Outline:
    """The closed outline of an open line made `thickness` mm thick, half to either side.

    Lines and arcs are offset exactly, other edges through 24 points each; the ends are flat.
    """
    half = thickness / 2
    ring = outline.ring(96, 1).points
    body = LineString(ring).buffer(half, cap_style="flat", join_style="mitre", quad_segs=32)
    if body.geom_type != "Polygon" or body.interiors:
        raise RecipeError(
            Problem(place, f"a thickness of {thickness:.4g} mm runs into itself", "use a thinner one")
        )
    sides: list[list[Edge]] = []
    for sign in (1.0, -1.0):
        shifted = [_shifted(edge, sign * half) for edge in outline.edges]
        sides.append(_mitred(shifted, _JOINT * half))
    right, left = sides[1], [edge.reversed() for edge in reversed(sides[0])]
    ends = [
        line(tuple(right[-1].points[-1]), tuple(left[0].points[0])),
        line(tuple(left[-1].points[-1]), tuple(right[0].points[0])),
    ]
    edges = [*right, ends[0], *left, ends[1]]
    made = Outline(tuple(edges))
    _demand_simple(made.ring(64, 1).points, place)
    return made if made.area > 0 else Outline(tuple(edge.reversed() for edge in reversed(edges)))


def scaled(outline: Outline, factor: float) -> Outline:
    """The outline, `factor` times as large."""
    edges = tuple(Edge(factor * edge.points, edge.weights, edge.colour) for edge in outline.edges)
    return Outline(edges, tuple(scaled(hole, factor) for hole in outline.holes), outline.closed)


def _shifted(edge: Edge, distance: float) -> Edge:
    """The edge moved to its left by `distance`."""
    if edge.is_line:
        along = edge.points[1] - edge.points[0]
        left = np.array([-along[1], along[0]]) / np.linalg.norm(along)
        return Edge(edge.points + distance * left, edge.weights, edge.colour)
    if len(edge.points) == 3 and edge.weights[0] == edge.weights[2] == 1 and edge.weights[1] < 1:
        a, corner, b = edge.points
        into, out = (corner - a) / np.linalg.norm(corner - a), (b - corner) / np.linalg.norm(b - corner)
        turn = 2 * math.acos(float(edge.weights[1]))
        if abs(float(np.linalg.norm(corner - a) - np.linalg.norm(b - corner))) < 1e-9:
            shift = [np.array([-d[1], d[0]]) for d in (into, out)]
            start, end = a + distance * shift[0], b + distance * shift[1]
            side = (start - end) @ (start - end)
            if side > TINY**2:
                leg = np.linalg.norm(end - start) / (2 * math.cos(turn / 2))
                return Edge(np.array([start, start + leg * into, end]), edge.weights, edge.colour)
    t = np.linspace(0.0, 1.0, 8)
    point, slope = edge.at(t)
    left = np.stack([-slope[:, 1], slope[:, 0]], axis=1) / np.linalg.norm(slope, axis=1, keepdims=True)
    return fitted(t, point + distance * left, edge.colour)


def fitted(t: Array, points: Array, colour: str | None = None) -> Edge:
    """The polynomial Bézier edge through points (n, 2) at parameters t (n,) from 0 to 1."""
    degree = len(t) - 1
    control: Array = np.linalg.solve(bernstein(degree, t), points).astype(float)
    control[0], control[-1] = points[0], points[-1]
    return Edge(control, np.ones(degree + 1), colour)


def _mitred(edges: list[Edge], near: float) -> list[Edge]:
    """Shifted edges made to meet: joined where their ends are within `near` mm (they were tangent but for
    rounding), cut where they cross, else led on straight to a common corner."""
    out = [edges[0]]
    for edge in edges[1:]:
        before = out[-1]
        end, start = before.points[-1], edge.points[0]
        if float(np.linalg.norm(start - end)) < max(near, 1e-9):
            points = edge.points.copy()
            points[0] = end
            out.append(Edge(points, edge.weights, edge.colour))
            continue
        crossing = _crossing(before, edge)
        if crossing is not None:
            out[-1] = before.part(0.0, crossing[0])
            out.append(edge.part(crossing[1], 1.0))
            continue
        into, away = (_unit(e.at(np.array([t]))[1][0]) for e, t in ((before, 1.0), (edge, 0.0)))
        if abs(into[0] * away[1] - into[1] * away[0]) > 0.1:
            run = np.linalg.solve(np.stack([into, away], axis=1), start - end)
            corner = end + run[0] * into
            out += [line(tuple(end), tuple(corner)), line(tuple(corner), tuple(start))]
        else:
            out.append(line(tuple(end), tuple(start)))
        out.append(edge)
    return out


def _crossing(one: Edge, two: Edge) -> tuple[float, float] | None:
    """Parameters at which the end of one edge crosses the start of the next, by Newton's method."""
    t = np.array([1.0, 0.0])
    for _ in range(40):
        (p, dp), (q, dq) = (e.at(t[k : k + 1]) for k, e in ((0, one), (1, two)))
        slopes = np.stack([dp[0], -dq[0]], axis=1)
        if abs(np.linalg.det(slopes)) < 1e-12:
            return None
        step = np.linalg.solve(slopes, q[0] - p[0])
        t = t + step
        if np.any(t < -0.5) or np.any(t > 1.5):
            return None
        if np.abs(step).max() < 1e-14:
            return (float(t[0]), float(t[1])) if 0 < t[0] < 1 and 0 < t[1] < 1 else None
    return None


def _unit(vector: Array) -> Array:
    return np.asarray(vector / np.linalg.norm(vector))
