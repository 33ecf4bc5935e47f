"""The axial profile of a thread over one pitch, in the plane (z, r), mm.

It runs along +z from the inner flat up the rising flank to the outer flat and down the falling one. On an
external thread the material lies below it, on an internal one above. Flanks meet the pitch line, r = d₂/2, where
space and material are each half a pitch wide:

    rising   z = P/4 + (r − d₂/2) tan α        falling   z = 3P/4 − (r − d₂/2) tan β
"""

from __future__ import annotations

import math
from collections.abc import Sequence
from dataclasses import dataclass
from functools import cached_property

import numpy as np

from metaspira.numbers.jets import Array
from metaspira.problems import Problem, RecipeError
from metaspira.sections.outline import Edge, fillet, line
from metaspira.threads.thread import Side, Thread

_FLAT = 1e-9
_NODES, _WEIGHTS = np.polynomial.legendre.leggauss(20)


@dataclass(frozen=True, eq=False)
class Chain:
    """Edges in (z, r) along which r only grows, or only falls."""

    edges: tuple[Edge, ...]

    @cached_property
    def levels(self) -> Array:
        """Radii (k + 1,) at the ends of the edges."""
        return np.array([self.edges[0].points[0, 1], *(edge.points[-1, 1] for edge in self.edges)])

    def parameters(self, level: Array) -> Array:
        """For radii (n,) and each edge its parameter there, (k, n), held to 0..1."""
        return np.stack([_parameter(edge, level) for edge in self.edges])

    def place(self, level: Array) -> Array:
        """z (n,) at radii (n,), held to the chain's own."""
        z = np.full(level.shape, self.edges[0].points[0, 0])
        for edge, t in zip(self.edges, self.parameters(level), strict=True):
            z = np.where(t > 0, edge.at(t)[0][:, 0], z)
        return z


@dataclass(frozen=True, eq=False)
class Profile:
    """One pitch of a thread: its inner flat runs from `falling`'s end, a pitch back, to `rising`'s start."""

    pitch: float
    rising: Chain
    falling: Chain

    @property
    def inner(self) -> float:
        return float(self.rising.levels[0])

    @property
    def outer(self) -> float:
        return float(self.rising.levels[-1])

    @cached_property
    def levels(self) -> Array:
        """Every radius at which an edge ends, in order."""
        return np.unique(np.round(np.concatenate([self.rising.levels, self.falling.levels]), 12))

    @property
    def inner_flat(self) -> float:
        return self.rising.edges[0].points[0, 0] - (self.falling.edges[-1].points[-1, 0] - self.pitch)

    @property
    def outer_flat(self) -> float:
        return self.falling.edges[0].points[0, 0] - self.rising.edges[-1].points[-1, 0]

    def moved(self, by: float) -> Profile:
        """The same with `by` added to every radius."""

        def shift(chain: Chain) -> Chain:
            return Chain(tuple(edge.moved(0.0, by) for edge in chain.edges))

        return Profile(self.pitch, shift(self.rising), shift(self.falling))

    def line(self, pieces: int = 12) -> Array:
        """The profile as points (k, 2) in (z, r) over one pitch."""
        rows = [np.array([[self.falling.edges[-1].points[-1, 0] - self.pitch, self.inner]])]
        for chain in (self.rising, self.falling):
            rows.append(chain.edges[0].points[:1])
            for edge in chain.edges:
                rows.append(edge.at(np.linspace(0, 1, 2 if edge.is_line else pieces + 1))[0][1:])
        return np.concatenate(rows)

    def moments(self, low: Array, high: Array) -> tuple[Array, Array]:
        """∫ r dz (mm²) and ∫ r² dz (mm³), each (n,), over one pitch of the profile held between `low` and
        `high` (n,)."""
        bottom = np.minimum(np.maximum(self.inner, low), high)
        top = np.minimum(np.maximum(self.outer, low), high)
        starts, ends = self.spans(low, high)
        wide, narrow = starts[0] - ends[1] + self.pitch, starts[1] - ends[0]
        first, second = bottom * wide + top * narrow, bottom**2 * wide + top**2 * narrow
        for rising in (True, False):
            chain = self.rising if rising else self.falling
            for edge, a, b in zip(chain.edges, *self.ranges(rising, low, high), strict=True):
                t = 0.5 * (a + b)[:, None] + 0.5 * (b - a)[:, None] * _NODES
                point, slope = edge.at(t.ravel())
                r, rate = point[:, 1].reshape(t.shape), slope[:, 0].reshape(t.shape)
                first += 0.5 * (b - a) * ((r * rate) @ _WEIGHTS)
                second += 0.5 * (b - a) * ((r * r * rate) @ _WEIGHTS)
        return first, second

    def spans(self, low: Array, high: Array) -> tuple[tuple[Array, Array], tuple[Array, Array]]:
        """z at which the rising and the falling chain begin, and at which they end, held between levels."""
        lowest, highest = (np.clip(level, self.inner, self.outer) for level in (low, high))
        return (
            (self.rising.place(lowest), self.falling.place(highest)),
            (self.rising.place(highest), self.falling.place(lowest)),
        )

    def ranges(self, rising: bool, low: Array, high: Array) -> tuple[Array, Array]:
        """Of each edge of a chain the parameters, (k, n) each, between which it lies within the levels."""
        chain = self.rising if rising else self.falling
        lowest, highest = (np.clip(level, self.inner, self.outer) for level in (low, high))
        a, b = chain.parameters(lowest), chain.parameters(highest)
        return (a, b) if rising else (b, a)


def profile_of(thread: Thread, side: Side, state: str = "basic", allowance: float = 0.0) -> Profile:
    """The profile of one member at `basic` size, the `middle` of its limits, or its `max` or `min` diameters,
    opened by `allowance` mm square to its surface, away from the other member."""
    member = thread.member(side)
    apart = -allowance if side == "external" else allowance
    shift = 0.0 if state == "basic" else member.pitch.at(state) - member.pitch.basic
    root = member.root + shift
    pitch_diameter = member.pitch.at(state)
    if side == "external":
        outer = member.major.at(state)
        inner = member.minor.min if state == "min" and member.minor.min is not None else root
    else:
        outer, inner = root, member.minor.at(state)
    return flanked(
        thread.pitch,
        0.5 * outer + apart,
        0.5 * pitch_diameter,
        0.5 * inner + apart,
        thread.leading,
        thread.trailing,
        member.outer_round,
        member.inner_round,
        -apart,
    )


def flanked(
    pitch: float,
    outer: float,
    middle: float,
    inner: float,
    leading: float,
    trailing: float,
    outer_round: float = 0.0,
    inner_round: float = 0.0,
    thinner: float = 0.0,
    place: str = "/thread",
) -> Profile:
    """The profile with two straight flanks between the radii `inner` and `outer`, half a pitch wide at
    `middle`, its corners rounded as far as there is room; each flank then stands back by `thinner` mm, square
    to itself. Raises RecipeError where the flanks meet before."""
    up, down = math.tan(leading), math.tan(trailing)
    first, last = pitch / 4 + thinner / math.cos(leading), 3 * pitch / 4 - thinner / math.cos(trailing)
    a = (first + (inner - middle) * up, inner)
    b = (first + (outer - middle) * up, outer)
    c = (last - (outer - middle) * down, outer)
    d = (last - (inner - middle) * down, inner)
    outer_flat, inner_flat = c[0] - b[0], a[0] + pitch - d[0]
    for flat, name in ((outer_flat, "crest"), (inner_flat, "root")):
        if flat < -1e-6 * pitch or inner >= outer:
            raise RecipeError(
                Problem(
                    place,
                    f"the flanks overlap the next turn's by {-flat:.3g} mm at the {'outer' if name == 'crest' else 'inner'} end"
                    if inner < outer
                    else "the crest is no higher than the root",
                    "use a larger pitch, a lesser height or steeper flanks",
                )
            )
    rising = _rounded(a, b, inner_flat / 2, outer_flat / 2, inner_round, outer_round)
    falling = _rounded(c, d, outer_flat / 2, inner_flat / 2, outer_round, inner_round)
    return Profile(pitch, Chain(rising), Chain(falling))


def free_form(points: Sequence[tuple[float, float]], pitch: float, reference: float, place: str) -> Profile:
    """The profile through points (z, r) over one pitch that rise once and fall once, r from the radius
    `reference` on. Raises RecipeError."""
    xy = np.array(points, dtype=float)
    z, r = xy[:, 0], xy[:, 1] + reference
    if np.any(np.diff(z) < -1e-12) or z[-1] - z[0] > pitch * (1 + 1e-9):
        raise RecipeError(Problem(place, "the points of a form run along the axis, within one pitch", "order them by z, from 0 on"))
    top, bottom = float(r.max()), float(r.min())
    high = np.flatnonzero(r > top - _FLAT)
    first, last = int(high[0]), int(high[-1])
    up, down = r[: first + 1], r[last:]
    if abs(r[0] - bottom) > _FLAT or abs(r[-1] - bottom) > _FLAT or np.any(np.diff(up) < 0) or np.any(np.diff(down) > 0):
        raise RecipeError(Problem(place, "a form rises once from its root and falls back to it", "begin and end it at its lowest r"))
    start, end = int(np.flatnonzero(up < bottom + _FLAT)[-1]), last + int(np.flatnonzero(down < bottom + _FLAT)[0])
    level = [k for k in range(start, end) if k not in range(first, last) and abs(r[k + 1] - r[k]) < _FLAT]
    if level or top - bottom < 1e-6:
        raise RecipeError(Problem(place, "a form has no flat between its root and its crest", "slope it a little"))
    corners = list(zip(z.tolist(), r.tolist(), strict=True))

    def chain(low: int, high: int) -> Chain:
        return Chain(tuple(line(corners[k], corners[k + 1]) for k in range(low, high)))

    return Profile(pitch, chain(start, first), chain(last, end))


def _rounded(
    start: tuple[float, float], end: tuple[float, float], start_room: float, end_room: float,
    start_round: float, end_round: float,
) -> tuple[Edge, ...]:  # fmt: skip
    """A flank from one flat to the next, its two corners rounded within half the flats beside it and half its
    own length."""
    a, b = np.array(start), np.array(end)
    along = (b - a) / np.linalg.norm(b - a)
    axis = np.array([1.0, 0.0])
    half = float(np.tan(0.5 * math.acos(float(np.clip(along @ axis, -1, 1)))))
    room = 0.5 * float(np.linalg.norm(b - a))
    low, high = a, b
    before: tuple[Edge, ...] = ()
    after: tuple[Edge, ...] = ()
    radius = min(start_round, start_room / half, room / half) if start_round > 0 else 0.0
    if radius * half > 1e-7 * room:
        edge, trim = fillet(a - axis, a, b, radius)
        low, before = a + trim * along, (edge,)
    radius = min(end_round, end_room / half, room / half) if end_round > 0 else 0.0
    if radius * half > 1e-7 * room:
        edge, trim = fillet(a, b, b + axis, radius)
        high, after = b - trim * along, (edge,)
    flank = line((float(low[0]), float(low[1])), (float(high[0]), float(high[1])))
    return (*before, flank, *after)


def _parameter(edge: Edge, level: Array) -> Array:
    """Where a monotone edge has the radius `level` (n,), held to 0..1."""
    first, last = float(edge.points[0, 1]), float(edge.points[-1, 1])
    if edge.is_line:
        return np.clip((level - first) / (last - first), 0.0, 1.0)
    sign = 1.0 if last > first else -1.0
    low, high = np.zeros(level.shape), np.ones(level.shape)
    for _ in range(52):
        middle = 0.5 * (low + high)
        below = sign * (edge.at(middle)[0][:, 1] - level) < 0
        low, high = np.where(below, middle, low), np.where(below, high, middle)
    t = 0.5 * (low + high)
    t = np.where(sign * (level - first) <= 0, 0.0, t)
    return np.where(sign * (level - last) >= 0, 1.0, t)
