"""A section's outline: rational Bézier edges in the plane (u, v), in mm: one loop around it, and one for
each hole; or one open line.

u runs along the section's first axis (its width), v along its second (its height). Loops run
counter-clockwise; the origin is the point that rides on the path. Area and first moments are

    A = ∮ u dv,   M_u = ∮ u²/2 dv,   M_v = −∮ v²/2 du        (Green's theorem)
"""

from __future__ import annotations

import math
from collections.abc import Callable
from dataclasses import dataclass
from functools import lru_cache

import numpy as np
from numpy.typing import NDArray

from metaspira.numbers.jets import Array
from metaspira.numbers.once import cached_property

_COARSE_T = np.linspace(0.0, 1.0, 33)
_PROMISING = 3
_NODES, _WEIGHTS = np.polynomial.legendre.leggauss(40)
_QUADRATURE_T = 0.5 * (_NODES + 1)
_QUADRATURE_W = 0.5 * _WEIGHTS


@dataclass(frozen=True, eq=False)
class Edge:
    """A rational Bézier curve: control points (k, 2) in mm, weights (k,), and its paint, if any."""

    points: Array
    weights: Array

    colour: str | None = None

    @property
    def is_line(self) -> bool:
        return len(self.points) == 2

    def speed(self, t: Array) -> Array:
        """|dX/dt| (n,) at parameters t (n,)."""
        return np.linalg.norm(self.at(t)[1], axis=1)

    @cached_property
    def turning(self) -> float:
        """Share of a full turn by which the edge's direction turns."""
        slope = self.at(np.linspace(0, 1, 17))[1]
        angle = np.unwrap(np.arctan2(slope[:, 1], slope[:, 0]))
        return float(np.abs(np.diff(angle)).sum()) / (2 * math.pi)

    def part(self, low: float, high: float) -> Edge:
        """The piece of the edge between two parameters (de Casteljau's algorithm)."""
        homogeneous = np.column_stack([self.points * self.weights[:, None], self.weights])
        if high < 1:
            homogeneous = _split(homogeneous, high)[0]
        if low > 0:
            homogeneous = _split(homogeneous, low / high)[1]
        weights = homogeneous[:, 2]
        return Edge(homogeneous[:, :2] / weights[:, None], weights, self.colour)

    def moved(self, du: float, dv: float) -> Edge:
        return Edge(self.points + np.array([du, dv]), self.weights, self.colour)

    def mapped(self, matrix: Array) -> Edge:
        return Edge(self.points @ matrix.T, self.weights, self.colour)

    def reversed(self) -> Edge:
        return Edge(self.points[::-1], self.weights[::-1], self.colour)

    def at(self, t: Array) -> tuple[Array, Array]:
        """Points and derivatives by t, each (n, 2), at parameters t (n,) in 0..1."""
        if self.is_line:
            slope = self.points[1] - self.points[0]
            return self.points[0] + t[:, None] * slope, np.broadcast_to(slope, (len(t), 2))
        degree = len(self.points) - 1
        basis = bernstein(degree, t) * self.weights
        lower = bernstein(degree - 1, t)
        weighted = self.points * self.weights[:, None]
        d_weighted = degree * np.diff(weighted, axis=0)
        d_weights = degree * np.diff(self.weights)
        w = basis.sum(axis=1, keepdims=True)
        point = (basis @ self.points) / w
        return point, (lower @ d_weighted - point * (lower @ d_weights)[:, None]) / w


@dataclass(frozen=True, eq=False)
class Outline:
    """A loop of edges, each starting where the one before it ends, and the loops of its holes.

    Where it is not `closed` it is one open line, without area.
    """

    edges: tuple[Edge, ...]
    holes: tuple[Outline, ...] = ()
    closed: bool = True

    def moved(self, du: float, dv: float) -> Outline:
        """The same outline with (du, dv) added to each point."""
        return Outline(
            tuple(edge.moved(du, dv) for edge in self.edges),
            tuple(hole.moved(du, dv) for hole in self.holes),
            self.closed,
        )

    def mapped(self, matrix: Array) -> Outline:
        """The same outline with each point taken through a matrix (2, 2)."""
        edges = tuple(edge.mapped(matrix) for edge in self.edges)
        if float(np.linalg.det(matrix)) < 0:
            edges = tuple(edge.reversed() for edge in edges[::-1])
        return Outline(edges, tuple(hole.mapped(matrix) for hole in self.holes), self.closed)

    @cached_property
    def loops(self) -> tuple[Outline, ...]:
        """The outer loop and then each hole, as outlines without holes."""
        return (Outline(self.edges, (), self.closed), *self.holes)

    @cached_property
    def moments(self) -> tuple[float, float, float]:
        """Area (mm²) and first moments ∫u, ∫v (mm³), exact to rounding; holes are taken off. An open
        line has none."""
        area = first_u = first_v = 0.0
        if not self.closed:
            return area, first_u, first_v
        for edge in self.edges:
            point, slope = edge.at(_QUADRATURE_T)
            u, v, du, dv = point[:, 0], point[:, 1], slope[:, 0], slope[:, 1]
            area += float(_QUADRATURE_W @ (u * dv - v * du)) / 2
            first_u += float(_QUADRATURE_W @ (u * u * dv)) / 2
            first_v -= float(_QUADRATURE_W @ (v * v * du)) / 2
        for hole in self.holes:
            less = hole.moments
            area, first_u, first_v = area - less[0], first_u - less[1], first_v - less[2]
        return area, first_u, first_v

    @property
    def area(self) -> float:
        return self.moments[0]

    @property
    def centroid(self) -> tuple[float, float]:
        """The centre of area; of an open line, the origin."""
        area, first_u, first_v = self.moments
        return (first_u / area, first_v / area) if area else (0.0, 0.0)

    @cached_property
    def perimeter(self) -> float:
        """Length of the outer loop, mm."""
        speeds = [np.linalg.norm(edge.at(_QUADRATURE_T)[1], axis=1) for edge in self.edges]
        return float(sum(_QUADRATURE_W @ speed for speed in speeds))

    @cached_property
    def box(self) -> tuple[float, float, float, float]:
        """(u least, u most, v least, v most) in mm."""
        return (
            -self._most(lambda p: -p[:, 0]),
            self._most(lambda p: p[:, 0]),
            -self._most(lambda p: -p[:, 1]),
            self._most(lambda p: p[:, 1]),
        )

    @cached_property
    def reach(self) -> float:
        """Distance of the farthest point from the origin, mm."""
        return self._most(lambda p: np.hypot(p[:, 0], p[:, 1]))

    def _most(self, figure: Callable[[Array], Array]) -> float:
        """The greatest value of a figure of points (n, 2) on the outer loop, searched ever finer."""
        coarse = [figure(edge.at(_COARSE_T)[0]) for edge in self.edges]
        best = max(float(value.max()) for value in coarse)
        promising = sorted(range(len(coarse)), key=lambda k: -float(coarse[k].max()))[:_PROMISING]
        for k in promising:
            edge, value, t = self.edges[k], coarse[k], _COARSE_T
            for _ in range(0 if edge.is_line else 6):
                i = int(np.argmax(value))
                t = np.linspace(t[max(i - 1, 0)], t[min(i + 1, len(t) - 1)], 33)
                value = figure(edge.at(t)[0])
                best = max(best, float(value.max()))
        return best

    def ring(self, facets: int, line_pieces: int = 1) -> Ring:
        """Points around the outer loop: `facets` to a full turn on its curved edges, by their turning,
        and every line in `line_pieces`. Of an open line, its last point is one of them."""
        return _ring(self, facets, line_pieces)


@dataclass(frozen=True, eq=False)
class Ring:
    """Points (k, 2) around an outline; piece i runs on edge `edge[i]` from parameter `t[i]`."""

    outline: Outline
    points: Array
    edge: NDArray[np.int64]
    t: Array

    @cached_property
    def chord_error(self) -> float:
        """Largest distance of a chord from the curve it cuts off, mm."""
        worst = 0.0
        ends = np.roll(self.points, -1, axis=0)
        for e, edge in enumerate(self.outline.edges):
            on = np.flatnonzero(self.edge == e)
            if not self.outline.closed and e == len(self.outline.edges) - 1:
                on = on[:-1]
            if edge.is_line or not len(on):
                continue
            middle = edge.at(0.5 * (self.t[on] + np.append(self.t[on[1:]], 1.0)))[0]
            chord, offset = ends[on] - self.points[on], middle - self.points[on]
            across = np.abs(chord[:, 0] * offset[:, 1] - chord[:, 1] * offset[:, 0])
            worst = max(worst, float((across / np.hypot(*chord.T)).max()))
        return worst


@lru_cache(maxsize=256)
def _ring(outline: Outline, facets: int, line_pieces: int) -> Ring:
    points, edge_of, t_of = [], [], []
    for index, edge in enumerate(outline.edges):
        pieces = line_pieces if edge.is_line else max(1, math.ceil(facets * edge.turning - 1e-9))
        t = np.linspace(0.0, 1.0, pieces + 1)
        points.append(edge.at(t)[0][:-1])
        edge_of.append(np.full(pieces, index))
        t_of.append(t[:-1])
    if not outline.closed:
        points.append(outline.edges[-1].at(np.ones(1))[0])
        edge_of.append(np.array([len(outline.edges) - 1]))
        t_of.append(np.ones(1))
    return Ring(outline, np.concatenate(points), np.concatenate(edge_of), np.concatenate(t_of))


def chebyshev(degree: int) -> Array:
    """The places (degree + 1,) from 0 to 1 through which a polynomial of that degree is best drawn."""
    return 0.5 - 0.5 * np.cos(np.pi * np.arange(degree + 1) / degree)


def bernstein(degree: int, t: Array) -> Array:
    """The Bernstein polynomials (n, degree + 1) at t (n,)."""
    if degree == 1:
        return np.stack([1 - t, t], axis=1)
    if degree == 2:
        return np.stack([(1 - t) ** 2, 2 * t * (1 - t), t * t], axis=1)
    k = np.arange(degree + 1)
    return _binomials(degree) * t[:, None] ** k * (1 - t[:, None]) ** (degree - k)


@lru_cache(maxsize=32)
def _binomials(degree: int) -> Array:
    return np.array([math.comb(degree, k) for k in range(degree + 1)], dtype=float)


def _split(points: Array, t: float) -> tuple[Array, Array]:
    """Control points (k, 3) of a Bézier curve before and after t."""
    left, right = [points[0]], [points[-1]]
    while len(points) > 1:
        points = (1 - t) * points[:-1] + t * points[1:]
        left.append(points[0])
        right.append(points[-1])
    return np.array(left), np.array(right[::-1])


def line(start: tuple[float, float], end: tuple[float, float]) -> Edge:
    return Edge(np.array([start, end], dtype=float), np.ones(2))


def quarter(corner_from: Array, corner: Array, corner_to: Array) -> Edge:
    """The quarter ellipse from `corner_from` to `corner_to`, tangent to both legs at `corner`."""
    return Edge(np.array([corner_from, corner, corner_to]), np.array([1.0, math.sqrt(0.5), 1.0]))


def arc(start: Array, end: Array, bulge: float) -> list[Edge]:
    """The arc from `start` to `end`, as rational quadratics of at most a quarter turn.

    `bulge` is tan of a quarter of its angle, positive where it runs counter-clockwise.
    """
    chord = end - start
    angle = 4 * math.atan(bulge)
    left = np.array([-chord[1], chord[0]])
    centre = 0.5 * (start + end) + left * (0.5 / math.tan(angle / 2))
    count = max(1, math.ceil(abs(angle) / (math.pi / 2) - 1e-9))
    turn = angle / count
    spoke = start - centre
    edges = []
    for k in range(count):
        c0, s0 = math.cos(k * turn), math.sin(k * turn)
        c1, s1 = math.cos((k + 1) * turn), math.sin((k + 1) * turn)
        a = np.array([c0 * spoke[0] - s0 * spoke[1], s0 * spoke[0] + c0 * spoke[1]])
        b = np.array([c1 * spoke[0] - s1 * spoke[1], s1 * spoke[0] + c1 * spoke[1]])
        weight = math.cos(turn / 2)
        corner = (a + b) / (2 * weight**2)
        last = end if k == count - 1 else centre + b
        edges.append(Edge(np.array([centre + a, centre + corner, last]), np.array([1.0, weight, 1.0])))
    return edges


def fillet(before: Array, corner: Array, after: Array, radius: float) -> tuple[Edge, float]:
    """The arc of `radius` that rounds a corner (2,) between points, and how much it takes off each leg."""
    into, out = corner - before, after - corner
    into, out = into / np.linalg.norm(into), out / np.linalg.norm(out)
    turn = math.acos(float(np.clip(into @ out, -1, 1)))
    trim = radius * math.tan(turn / 2)
    points = np.array([corner - trim * into, corner, corner + trim * out])
    return Edge(points, np.array([1.0, math.cos(turn / 2), 1.0])), trim


def ellipse(width: float, height: float) -> Outline:
    """Two half ellipses as rational cubics (weights 1, ⅓, ⅓, 1), which are exact."""
    a, b = width / 2, height / 2
    weights = np.array([1, 1 / 3, 1 / 3, 1])
    half = np.array([[a, 0], [a, 2 * b], [-a, 2 * b], [-a, 0]])
    return Outline((Edge(half, weights), Edge(-half, weights)))


def polygon(corners: Array) -> Outline:
    """Straight edges through `corners` (k, 2), counter-clockwise."""
    ends = np.roll(corners, -1, axis=0)
    return Outline(tuple(line(tuple(a), tuple(b)) for a, b in zip(corners, ends, strict=True)))
