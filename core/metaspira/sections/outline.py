"""A section's outline: one closed loop of rational Bézier edges in the plane (u, v), in mm.

u runs along the section's first axis (its width), v along its second (its height). The loop runs
counter-clockwise; the origin is the point that rides on the path. Area and first moments are

    A = ∮ u dv,   M_u = ∮ u²/2 dv,   M_v = −∮ v²/2 du        (Green's theorem)
"""

from __future__ import annotations

import math
from dataclasses import dataclass
from functools import cached_property, lru_cache

import numpy as np
from numpy.typing import NDArray
from scipy.special import comb

Array = NDArray[np.float64]

_NODES, _WEIGHTS = np.polynomial.legendre.leggauss(40)
_QUADRATURE_T = 0.5 * (_NODES + 1)
_QUADRATURE_W = 0.5 * _WEIGHTS


@dataclass(frozen=True, eq=False)
class Edge:
    """A rational Bézier curve: control points (k, 2) in mm and weights (k,)."""

    points: Array
    weights: Array

    @property
    def is_line(self) -> bool:
        return len(self.points) == 2

    def at(self, t: Array) -> tuple[Array, Array]:
        """Points and derivatives by t, each (n, 2), at parameters t (n,) in 0..1."""
        degree = len(self.points) - 1
        basis = _bernstein(degree, t) * self.weights
        lower = _bernstein(degree - 1, t)
        weighted = self.points * self.weights[:, None]
        d_weighted = degree * np.diff(weighted, axis=0)
        d_weights = degree * np.diff(self.weights)
        w = basis.sum(axis=1, keepdims=True)
        point = (basis @ self.points) / w
        return point, (lower @ d_weighted - point * (lower @ d_weights)[:, None]) / w


@dataclass(frozen=True, eq=False)
class Outline:
    """A closed loop of edges, each starting where the one before it ends."""

    edges: tuple[Edge, ...]

    def moved(self, du: float, dv: float) -> Outline:
        """The same outline with (du, dv) added to each point."""
        shift = np.array([du, dv])
        return Outline(tuple(Edge(edge.points + shift, edge.weights) for edge in self.edges))

    @cached_property
    def moments(self) -> tuple[float, float, float]:
        """Area (mm²) and first moments ∫u, ∫v (mm³), exact to rounding."""
        area = first_u = first_v = 0.0
        for edge in self.edges:
            point, slope = edge.at(_QUADRATURE_T)
            u, v, du, dv = point[:, 0], point[:, 1], slope[:, 0], slope[:, 1]
            area += float(_QUADRATURE_W @ (u * dv - v * du)) / 2
            first_u += float(_QUADRATURE_W @ (u * u * dv)) / 2
            first_v -= float(_QUADRATURE_W @ (v * v * du)) / 2
        return area, first_u, first_v

    @property
    def area(self) -> float:
        return self.moments[0]

    @property
    def centroid(self) -> tuple[float, float]:
        area, first_u, first_v = self.moments
        return first_u / area, first_v / area

    @cached_property
    def box(self) -> tuple[float, float, float, float]:
        """(u least, u most, v least, v most) in mm."""
        points = self.ring(64).points
        low, high = points.min(axis=0), points.max(axis=0)
        return float(low[0]), float(high[0]), float(low[1]), float(high[1])

    @cached_property
    def reach(self) -> float:
        """Distance of the farthest point from the origin, mm."""
        return float(np.linalg.norm(self.ring(64).points, axis=1).max())

    def ring(self, facets: int, line_pieces: int = 1) -> Ring:
        """Points around the outline: `facets` to a full turn on its curved edges, by their turning,
        and every line in `line_pieces`."""
        return _ring(self, facets, line_pieces)


@dataclass(frozen=True, eq=False)
class Ring:
    """Points (k, 2) around an outline; piece i runs on edge `edge[i]` from parameter `t[i]`."""

    outline: Outline
    points: Array
    edge: NDArray[np.int64]
    t: Array

    @property
    def chord_error(self) -> float:
        """Largest distance of a chord from the curve it cuts off, mm."""
        worst = 0.0
        ends = np.roll(self.points, -1, axis=0)
        for i in np.flatnonzero([not self.outline.edges[e].is_line for e in self.edge]):
            edge = self.outline.edges[self.edge[i]]
            last = i + 1 == len(self.edge) or self.edge[i + 1] != self.edge[i]
            middle = edge.at(np.array([0.5 * (self.t[i] + (1.0 if last else self.t[i + 1]))]))[0][0]
            chord = ends[i] - self.points[i]
            offset = middle - self.points[i]
            worst = max(
                worst, abs(chord[0] * offset[1] - chord[1] * offset[0]) / float(np.hypot(*chord))
            )
        return worst


@lru_cache(maxsize=256)
def _ring(outline: Outline, facets: int, line_pieces: int) -> Ring:
    points, edge_of, t_of = [], [], []
    for index, edge in enumerate(outline.edges):
        pieces = line_pieces if edge.is_line else max(1, math.ceil(facets * _turning(edge) - 1e-9))
        t = np.linspace(0.0, 1.0, pieces + 1)
        points.append(edge.at(t)[0][:-1])
        edge_of.append(np.full(pieces, index))
        t_of.append(t[:-1])
    return Ring(outline, np.concatenate(points), np.concatenate(edge_of), np.concatenate(t_of))


def _bernstein(degree: int, t: Array) -> Array:
    k = np.arange(degree + 1)
    return comb(degree, k) * t[:, None] ** k * (1 - t[:, None]) ** (degree - k)


def _turning(edge: Edge) -> float:
    """Share of a full turn by which the edge's direction turns."""
    slope = edge.at(np.linspace(0, 1, 17))[1]
    angle = np.unwrap(np.arctan2(slope[:, 1], slope[:, 0]))
    return float(np.abs(np.diff(angle)).sum()) / (2 * math.pi)


def line(start: tuple[float, float], end: tuple[float, float]) -> Edge:
    return Edge(np.array([start, end], dtype=float), np.ones(2))


def quarter(corner_from: Array, corner: Array, corner_to: Array) -> Edge:
    """The quarter ellipse from `corner_from` to `corner_to`, tangent to both legs at `corner`."""
    return Edge(np.array([corner_from, corner, corner_to]), np.array([1.0, math.sqrt(0.5), 1.0]))


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
