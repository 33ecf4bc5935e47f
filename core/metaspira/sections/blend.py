"""Sections along the wire: one that stays the same, or several that blend into each other.

For a blend every outline is cut at common shares of its perimeter, counted from starts that are matched so
that corresponding points lie as near to each other as they can; each piece becomes a polynomial Bézier
edge of the same degree (exact for straight ones, of degree 9 for others: an arc of 90° within 1e-10).
The section at s then has the control points Σ βⱼ(s) Cⱼ, and everything that is linear in them blends.
"""

from __future__ import annotations

import itertools
import math
from collections.abc import Iterator
from dataclasses import dataclass
from functools import lru_cache
from typing import Literal

import numpy as np
from numpy.typing import NDArray

from metaspira.numbers.jets import Array
from metaspira.numbers.once import cached_property
from metaspira.numbers.quadrature import RunningIntegral
from metaspira.problems import Problem, RecipeError
from metaspira.schedules import Varying, constantly, through
from metaspira.sections.loops import fitted
from metaspira.sections.outline import Edge, Outline, chebyshev

_DEGREE = 9
_NODES = chebyshev(_DEGREE)
_SAMPLES = 360
_SAME = 1e-7
_MOMENTS = 3
_GAUSS, _WEIGHTS = (0.5 * (x + k) for x, k in zip(np.polynomial.legendre.leggauss(24), (1, 0), strict=True))


@dataclass(frozen=True, eq=False)
class Rings:
    """Points around one loop of every outline, at the same places: points (outlines, k, 2); piece i runs
    on edge `edge[i]`. `strip` and `slopes` (outlines, m, 2) hold the same points with both ends of each
    edge and their derivatives; `strip_edge` (m,) is the edge that each is on."""

    points: Array
    edge: NDArray[np.int64]
    strip: Array
    slopes: Array
    strip_edge: NDArray[np.int64]
    closed: bool


@dataclass(frozen=True, eq=False)
class SectionAlong:
    """The section at each share of the wire: outlines that all have the same edges, and how they mix.

    `mix` holds one function of the share for each outline; they add up to 1.
    """

    outlines: tuple[Outline, ...]
    mix: tuple[Varying, ...] = (constantly(1.0),)

    @property
    def first(self) -> Outline:
        return self.outlines[0]

    @property
    def varies(self) -> bool:
        return len(self.outlines) > 1

    @property
    def breaks(self) -> tuple[float, ...]:
        return self.mix[0].breaks

    @property
    def pieces(self) -> int:
        return self.mix[0].pieces

    def weights(self, share: Array) -> Array:
        """How much of each outline there is, (n, outlines)."""
        return np.stack([m.value(share) for m in self.mix], axis=1)

    def rates(self, share: Array) -> Array:
        """How fast the share of each outline changes with the share of the wire, (n, outlines)."""
        return np.stack([m(share)[1] for m in self.mix], axis=1)

    def spread(self, values: Array, share: Array) -> Array:
        """Values (outlines, k, 2) mixed at each share, (n, k, 2); (k, 2) where the section stays the same."""
        if not self.varies:
            return values[0]
        return np.asarray(np.tensordot(self.weights(share), values, axes=1))

    def rings(self, facets: int, line_pieces: int = 1) -> tuple[Rings, ...]:
        """Points around each loop: `facets` to a full turn on curved edges, lines in `line_pieces`."""
        return _rings(self, facets, line_pieces)

    def reach(self) -> float:
        """Distance of the farthest point of any outline from the origin, mm."""
        return max(outline.reach for outline in self.outlines)

    def moments(self, share: Array) -> tuple[Array, Array, Array]:
        """Area (mm²) and first moments (mm³) at each share, (n,) each; holes are taken off."""
        if not self.varies:
            one = np.ones_like(share)
            area, first_u, first_v = self.first.moments
            return area * one, first_u * one, first_v * one
        weights = self.weights(share)
        total = [np.zeros_like(share) for _ in range(3)]
        for loop, sign in self._loops:
            for points, slopes in loop:
                point, slope = (
                    weights @ points.reshape(len(points), -1),
                    weights @ slopes.reshape(len(slopes), -1),
                )
                u, v = (point.reshape(len(share), -1, 2)[..., k] for k in (0, 1))
                du, dv = (slope.reshape(len(share), -1, 2)[..., k] for k in (0, 1))
                total[0] += sign * ((u * dv - v * du) @ _WEIGHTS) / 2
                total[1] += sign * ((u * u * dv) @ _WEIGHTS) / 2
                total[2] -= sign * ((v * v * du) @ _WEIGHTS) / 2
        return total[0], total[1], total[2]

    def products(self, share: Array) -> dict[tuple[int, int], Array]:
        """Moments ∬ uⁱ vʲ du dv, i + j ≤ 3, by (i, j), at each share, (n,) each: ∮ uⁱ⁺¹ vʲ dv / (i + 1);
        holes are taken off."""
        at = share if self.varies else share[:1]
        weights = self.weights(at)
        powers = [(i, j) for i in range(_MOMENTS + 1) for j in range(_MOMENTS + 1 - i)]
        total = {power: np.zeros(len(at)) for power in powers}
        for loop, sign in self._loops:
            for points, slopes in loop:
                point = np.tensordot(weights, points, axes=1)
                rise = np.tensordot(weights, slopes, axes=1)[..., 1]
                for i, j in powers:
                    density = point[..., 0] ** (i + 1) * point[..., 1] ** j * rise
                    total[i, j] += sign * (density @ _WEIGHTS) / (i + 1)
        return {power: np.broadcast_to(value, share.shape) for power, value in total.items()}

    @cached_property
    def _loops(self) -> list[tuple[list[tuple[Array, Array]], float]]:
        loops = []
        for index in range(len(self.first.loops)):
            edges = zip(*(outline.loops[index].edges for outline in self.outlines), strict=True)
            at = [[edge.at(_GAUSS) for edge in across] for across in edges]
            pairs = [
                (np.stack([point for point, _ in row]), np.stack([slope for _, slope in row])) for row in at
            ]
            loops.append((pairs, -1.0 if index else 1.0))
        return loops

    def centroids(self, share: Array) -> Array:
        """Centre of area at each share, (n, 2)."""
        area, first_u, first_v = self.moments(share)
        safe = np.where(np.abs(area) > 0, area, 1.0)
        return np.stack([first_u / safe, first_v / safe], axis=1)

    def at(self, share: float) -> Outline:
        """The outline at one share."""
        if not self.varies:
            return self.first
        weight = self.weights(np.array([share]))[0]
        loops = []
        for index in range(len(self.first.loops)):
            edges = []
            for across in zip(*(o.loops[index].edges for o in self.outlines), strict=True):
                points = sum(w * edge.points for w, edge in zip(weight, across, strict=True))
                edges.append(Edge(np.asarray(points), across[0].weights, across[0].colour))
            loops.append(Outline(tuple(edges)))
        return Outline(loops[0].edges, tuple(loops[1:]), self.first.closed)


@lru_cache(maxsize=256)
def _rings(section: SectionAlong, facets: int, line_pieces: int) -> tuple[Rings, ...]:
    found = []
    for same, spans in _spans(section, facets, line_pieces):
        at = [[edge.at(t) for edge, t in zip(loop.edges, spans, strict=True)] for loop in same]
        points = [np.concatenate([p[:-1] for p, _ in row]) for row in at]
        strip, slopes = (np.stack([np.concatenate([pair[k] for pair in row]) for row in at]) for k in (0, 1))
        edge_of = np.concatenate([np.full(len(t) - 1, i) for i, t in enumerate(spans)])
        strip_edge = np.concatenate([np.full(len(t), i) for i, t in enumerate(spans)])
        if not section.first.closed:
            points = [
                np.concatenate([p, loop.edges[-1].at(np.ones(1))[0]])
                for p, loop in zip(points, same, strict=True)
            ]
        closed = section.first.closed
        found.append(Rings(np.stack(points), edge_of, strip, slopes, strip_edge, closed))
    return tuple(found)


def _spans(
    section: SectionAlong, facets: int, line_pieces: int
) -> Iterator[tuple[list[Outline], list[Array]]]:
    """Of each loop the outlines, and the parameters at which each of their edges is cut."""
    for index in range(len(section.first.loops)):
        same = [outline.loops[index] for outline in section.outlines]
        spans = []
        for across in zip(*(loop.edges for loop in same), strict=True):
            pieces = max(
                line_pieces if edge.is_line else max(1, math.ceil(facets * edge.turning - 1e-9))
                for edge in across
            )
            spans.append(np.linspace(0.0, 1.0, pieces + 1))
        yield same, spans


def pieces_around(section: SectionAlong, facets: int, line_pieces: int) -> Array:
    """Where each piece of the rings starts, is halfway and ends, (3, outlines, k, 2)."""
    found = []
    for same, spans in _spans(section, facets, line_pieces):
        places = [(t[:-1], 0.5 * (t[1:] + t[:-1]), t[1:]) for t in spans]
        found.append(
            [
                [
                    np.concatenate([e.at(t[k])[0] for e, t in zip(loop.edges, places, strict=True)])
                    for loop in same
                ]
                for k in range(3)
            ]
        )
    return np.concatenate([np.array(row) for row in found], axis=2)


def blended(
    outlines: list[Outline],
    at: list[float],
    turns: list[float],
    ease: Literal["straight", "smooth"],
    place: str,
) -> SectionAlong:
    """The blend of outlines at ascending shares, each matching turned by `turns` (radians) by hand."""
    for i in range(1, len(at)):
        if at[i] <= at[i - 1]:
            raise RecipeError(
                Problem(
                    f"{place}/sections/{i}/at",
                    f"{at[i]:g} does not come after {at[i - 1]:g}",
                    "give the sections in their order along the wire",
                )
            )
    counts = [len(outline.holes) for outline in outlines]
    for i, outline in enumerate(outlines):
        here = f"{place}/sections/{i}/section"
        if not outline.closed:
            raise RecipeError(Problem(here, "an open line does not blend", "close it"))
        if counts[i] != counts[0]:
            raise RecipeError(
                Problem(
                    here,
                    f"it has {counts[i]} holes, and the first section {counts[0]}",
                    "give every section of a blend the same number of holes",
                )
            )
    loops = [_matched([o.loops[k] for o in outlines], turns) for k in range(counts[0] + 1)]
    matched = tuple(
        Outline(loops[0][i].edges, tuple(loop[i] for loop in loops[1:])) for i in range(len(outlines))
    )
    places = np.array(at)
    mix = tuple(through(places, row, ease) for row in np.eye(len(at)))
    return SectionAlong(matched, mix)


class _Loop:
    """A loop by the share of its perimeter."""

    def __init__(self, outline: Outline):
        self.outline = outline
        self._lengths = [RunningIntegral(edge.speed, 0.0, 1.0) for edge in outline.edges]
        ends = np.cumsum([length.total for length in self._lengths])
        self.ends = np.concatenate([[0.0], ends / ends[-1]])
        self.perimeter = float(ends[-1])

    @cached_property
    def corners(self) -> Array:
        """Shares at which direction or bend jumps."""
        found = []
        edges = self.outline.edges
        for i, edge in enumerate(edges):
            before, after = edges[i - 1], edge
            if not (
                _alike(_slope(before, 1.0), _slope(after, 0.0), 1e-5)
                and _alike(np.array([_bend(before, 1.0)]), np.array([_bend(after, 0.0)]), 1e-4)
            ):
                found.append(self.ends[i])
        return np.array(found)

    def at(self, share: Array) -> Array:
        """Points (n, 2) at shares (n,) of any size."""
        share = np.mod(share, 1.0)
        which = np.clip(np.searchsorted(self.ends, share, "right") - 1, 0, len(self._lengths) - 1)
        out = np.empty((len(share), 2))
        for k in np.unique(which):
            on = which == k
            run = (share[on] - self.ends[k]) * self.perimeter
            t = np.clip(self._lengths[k].inverse(run), 0.0, 1.0)
            out[on] = self.outline.edges[k].at(t)[0]
        return out

    def within(self, low: float, high: float, nodes: Array) -> Array:
        """Points at nodes (0..1) between two shares that hold no corner inside; the ends are of this side."""
        inset = 1e-13
        return self.at(low + inset + (high - low - 2 * inset) * nodes)

    def edge_at(self, share: float) -> Edge:
        which = int(np.clip(np.searchsorted(self.ends, share % 1.0, "right") - 1, 0, len(self._lengths) - 1))
        return self.outline.edges[which]


def _slope(edge: Edge, t: float) -> Array:
    slope = edge.at(np.array([t]))[1][0]
    return np.asarray(slope / np.linalg.norm(slope))


def _bend(edge: Edge, t: float) -> float:
    if edge.is_line:
        return 0.0
    h = 1e-4
    inside = np.array([t, t + h if t < 0.5 else t - h])
    slopes = edge.at(inside)[1]
    angle = np.arctan2(slopes[:, 1], slopes[:, 0])
    turn = float((angle[1] - angle[0] + math.pi) % (2 * math.pi) - math.pi)
    return turn / (float(np.linalg.norm(slopes[0])) * (inside[1] - inside[0]))


def _alike(a: Array, b: Array, tolerance: float) -> bool:
    return bool(np.abs(a - b).max() <= tolerance * max(1.0, float(np.abs(a).max())))


def _matched(outlines: list[Outline], turns: list[float]) -> list[Outline]:
    """The same loops cut into the same edges, matched to the first of them."""
    loops = [_Loop(outline) for outline in outlines]
    starts = [0.0]
    for loop, turn in zip(loops[1:], turns[1:], strict=True):
        starts.append(_best_start(loops[0], loop) + turn / (2 * math.pi))
    starts[0] = turns[0] / (2 * math.pi)
    cuts = np.unique(
        np.round(
            np.concatenate(
                [np.mod(loop.corners - start, 1.0) for loop, start in zip(loops, starts, strict=True)]
            ),
            12,
        )
    )
    cuts = cuts[np.concatenate([[True], np.diff(cuts) > _SAME])] if len(cuts) else cuts
    if len(cuts) and cuts[-1] > 1 - _SAME:
        cuts = cuts[:-1]
    if not len(cuts):
        cuts = np.zeros(1)
    bounds = np.append(cuts, cuts[0] + 1.0)
    fine: list[float] = []
    for low, high in itertools.pairwise(bounds):
        turning = max(
            _turning(loop, start + low, start + high) for loop, start in zip(loops, starts, strict=True)
        )
        fine += list(np.linspace(low, high, max(1, math.ceil(turning / (math.pi / 2) - 1e-6)) + 1)[:-1])
    fine.append(fine[0] + 1.0)
    made: list[list[Edge]] = [[] for _ in loops]
    for low, high in itertools.pairwise(fine):
        points = [
            loop.within(start + low, start + high, _NODES) for loop, start in zip(loops, starts, strict=True)
        ]
        straight = all(_is_straight(p) for p in points)
        colour = loops[0].edge_at(starts[0] + 0.5 * (low + high)).colour
        for edges, p in zip(made, points, strict=True):
            ends = p[[0, -1]]
            edges.append(Edge(ends, np.ones(2), colour) if straight else fitted(_NODES, p, colour))
    return [Outline(tuple(_joined(edges))) for edges in made]


def _joined(edges: list[Edge]) -> list[Edge]:
    """The same edges, each starting exactly where the one before it ends."""
    out = []
    for i, edge in enumerate(edges):
        points = edge.points.copy()
        points[0] = edges[i - 1].points[-1]
        out.append(Edge(points, edge.weights, edge.colour))
    return out


def _is_straight(points: Array) -> bool:
    chord = points[-1] - points[0]
    offset = points - points[0]
    away = np.abs(chord[0] * offset[:, 1] - chord[1] * offset[:, 0]) / max(float(np.hypot(*chord)), 1e-300)
    return bool(away.max() < 1e-10 * max(float(np.hypot(*chord)), 1e-9))


def _turning(loop: _Loop, low: float, high: float) -> float:
    points = loop.within(low, high, np.linspace(0, 1, 33))
    steps = np.diff(points, axis=0)
    angle = np.unwrap(np.arctan2(steps[:, 1], steps[:, 0]))
    return float(np.abs(np.diff(angle)).sum()) * 33 / 32


def _best_start(one: _Loop, other: _Loop) -> float:
    """The share of `other` that lies nearest to the start of `one`, all around."""
    even = np.arange(_SAMPLES) / _SAMPLES
    first, second = (_centred(loop, even) for loop in (one, other))
    tries = np.concatenate([even, *(np.mod(other.corners - c, 1.0) for c in one.corners)])
    shifted = np.mod(even[None, :] + tries[:, None], 1.0)
    columns = [np.interp(shifted, np.append(even, 1.0), np.append(c, c[0])) for c in second.T]
    cost = sum(np.sum((column - c) ** 2, axis=1) for column, c in zip(columns, first.T, strict=True))
    nearest = np.flatnonzero(cost <= cost.min() * (1 + 1e-3) + 1e-12)
    return float(tries[nearest[-1] if nearest[-1] >= _SAMPLES else nearest[0]])


def _centred(loop: _Loop, share: Array) -> Array:
    """Points (n, 2) of a loop about its middle, for an area of 1."""
    points = loop.at(share)
    return np.asarray((points - points.mean(axis=0)) / math.sqrt(max(abs(loop.outline.area), 1e-300)))
