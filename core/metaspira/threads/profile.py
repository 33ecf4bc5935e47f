"""The axial profile of a thread over one pitch, in the plane (z, r), mm.

It runs along +z from the inner flat up the rising flank to the outer flat and down the falling one. On an
external thread the material lies below it, on an internal one above. Flanks meet the pitch line, r = d₂/2,
where space and material are each half a pitch wide:

    rising   z = P/4 + (r − d₂/2) tan α        falling   z = 3P/4 − (r − d₂/2) tan β
"""

from __future__ import annotations

import math
from collections.abc import Callable, Sequence
from dataclasses import dataclass, replace
from typing import Literal

import numpy as np

from metaspira.numbers.jets import Array
from metaspira.numbers.once import cached_property
from metaspira.problems import Problem, RecipeError
from metaspira.sections.outline import Edge, fillet, line
from metaspira.threads.thread import Side, Thread

Flat = Literal["inner", "outer"]
Kept = Literal["before", "after"]

_FLAT = 1e-9
_SLIVER = 3e-3
_NODES, _WEIGHTS = np.polynomial.legendre.leggauss(20)


@dataclass(frozen=True, eq=False)
class Chain:
    """Edges in (z, r) along which r only grows, or only falls."""

    edges: tuple[Edge, ...]

    @cached_property
    def levels(self) -> Array:
        """Radii (k + 1,) at the ends of the edges."""
        return np.array([self.edges[0].points[0, 1], *(edge.points[-1, 1] for edge in self.edges)])

    @cached_property
    def corners(self) -> Array:
        """z (k + 1,) at the ends of the edges."""
        return np.array([self.edges[0].points[0, 0], *(edge.points[-1, 0] for edge in self.edges)])

    @property
    def is_upright(self) -> bool:
        """Whether it is one edge square to the axis."""
        return len(self.edges) == 1 and self.corners[1] - self.corners[0] < _FLAT

    def parameters(self, level: Array) -> Array:
        """For radii (n,) and each edge its parameter there, (k, n), held to 0..1."""
        return np.stack([_parameter(edge, level, 1) for edge in self.edges])

    def parameters_at(self, z: Array) -> Array:
        """For places z (n,) and each edge its parameter there, (k, n), held to 0..1."""
        return np.stack([_parameter(edge, z, 0) for edge in self.edges])

    def place(self, parameters: Array, axis: int = 0) -> Array:
        """z (n,), or r where `axis` is 1, that the parameters (k, n) of its edges reach."""
        found = np.full(parameters.shape[1], self.edges[0].points[0, axis])
        for edge, t in zip(self.edges, parameters, strict=True):
            found = np.where(t > 0, edge.at(t)[0][:, axis], found)
        return found


@dataclass(frozen=True, eq=False)
class Cut:
    """Where a plane through the axis cuts a lobe: z (n,), the radii (n,) of the lobe there and of the flat
    that it stands on, and the chain that the lobe ends with on that side."""

    keeps: Kept
    z: Array
    top: Array
    foot: Array
    chain: Chain


@dataclass(frozen=True, eq=False)
class Held:
    """A profile held between two levels (n,) of radius: of each edge of its chains the parameters, (k, n),
    between which it is left, and z (n,) at which each chain begins and ends."""

    low: Array
    high: Array
    rising: tuple[Array, Array]
    falling: tuple[Array, Array]
    rising_z: tuple[Array, Array]
    falling_z: tuple[Array, Array]
    cut: Cut | None = None


@dataclass(frozen=True, eq=False)
class Profile:
    """One pitch of a thread: its inner flat runs from `falling`'s end, a pitch back, to `rising`'s start.

    A lobe is what stands out from one of the flats: from the inner one the rising chain, the outer flat and
    the falling chain; from the outer one the falling chain a pitch back, the inner flat and the rising chain.
    """

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
        found = np.unique(np.concatenate([self.rising.levels, self.falling.levels]))
        return found[np.concatenate([[True], np.diff(found) > _FLAT])]

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

    def lobe(self, rests: Flat) -> Array:
        """z (k,) of the corners of the lobe that stands on a flat, in order."""
        if rests == "inner":
            return np.concatenate([self.rising.corners, self.falling.corners])
        return np.concatenate([self.falling.corners - self.pitch, self.rising.corners])

    def lobe_ends(self, rests: Flat) -> tuple[Chain, Chain]:
        """The chains that the lobe on a flat begins and ends with."""
        return (self.rising, self.falling) if rests == "inner" else (self.falling, self.rising)

    def cut(self, held: Held, z: Array, keeps: Kept, rests: Flat) -> Held:
        """The held profile with its lobe, which stands on the flat `rests`, cut at z (n,): what lies before
        the cut is kept, or what lies after it."""
        clip: Callable[[Array, Array], Array] = np.minimum if keeps == "before" else np.maximum
        back = self.pitch if rests == "outer" else 0.0
        ranges, places, radii = [], [], []
        for chain, own, ends, by in (
            (self.rising, held.rising, held.rising_z, 0.0),
            (self.falling, held.falling, held.falling_z, back),
        ):
            places.append((clip(ends[0], z + by), clip(ends[1], z + by)))
            if chain.is_upright:
                ranges.append(own)
                continue
            t = chain.parameters_at(z + by)
            ranges.append((clip(own[0], t), clip(own[1], t)))
            radii.append(chain.place(t, 1))
        flat, crest = (self.inner, self.outer) if rests == "inner" else (self.outer, self.inner)
        fold = np.minimum if rests == "inner" else np.maximum
        radius = fold.reduce([np.full(len(z), crest), *radii])
        top, foot = (np.minimum(np.maximum(r, held.low), held.high) for r in (radius, flat))
        chain = self.lobe_ends(rests)[1 if keeps == "before" else 0]
        return replace(
            held,
            rising=ranges[0],
            falling=ranges[1],
            rising_z=places[0],
            falling_z=places[1],
            cut=Cut(keeps, z + back if chain is self.falling else z, top, foot, chain),
        )

    def moments(self, held: Held) -> tuple[Array, Array]:
        """∫ r dz (mm²) and ∫ r² dz (mm³), each (n,), over one pitch of the profile as it is held."""
        low, high = held.low, held.high
        bottom = np.minimum(np.maximum(self.inner, low), high)
        top = np.minimum(np.maximum(self.outer, low), high)
        wide = held.rising_z[0] - held.falling_z[1] + self.pitch
        narrow = held.falling_z[0] - held.rising_z[1]
        first, second = bottom * wide + top * narrow, bottom**2 * wide + top**2 * narrow
        for chain, ranges in ((self.rising, held.rising), (self.falling, held.falling)):
            for edge, a, b in zip(chain.edges, *ranges, strict=True):
                t = 0.5 * (a + b)[:, None] + 0.5 * (b - a)[:, None] * _NODES
                point, slope = edge.at(t.ravel())
                r, rate = point[:, 1].reshape(t.shape), slope[:, 0].reshape(t.shape)
                first += 0.5 * (b - a) * ((r * rate) @ _WEIGHTS)
                second += 0.5 * (b - a) * ((r * r * rate) @ _WEIGHTS)
        return first, second

    def held(self, low: Array, high: Array) -> Held:
        """The profile between levels (n,)."""
        lowest, highest = (np.clip(level, self.inner, self.outer) for level in (low, high))
        rising = self.rising.parameters(lowest), self.rising.parameters(highest)
        falling = self.falling.parameters(highest), self.falling.parameters(lowest)
        return Held(
            low,
            high,
            rising,
            falling,
            (self.rising.place(rising[0]), self.rising.place(rising[1])),
            (self.falling.place(falling[0]), self.falling.place(falling[1])),
        )


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
                    (
                        f"the flanks overlap the next turn's by {-flat:.3g} mm at the "
                        f"{'outer' if name == 'crest' else 'inner'} end"
                    )
                    if inner < outer
                    else "the crest is no higher than the root",
                    "use a larger pitch, a lesser height or steeper flanks",
                )
            )
    inner_round, outer_round = (
        _fitting(radius, flat, leading, trailing, pitch)
        for radius, flat in ((inner_round, inner_flat), (outer_round, outer_flat))
    )
    rising = _rounded(a, b, inner_round, outer_round)
    falling = _rounded(c, d, outer_round, inner_round)
    return Profile(pitch, Chain(rising), Chain(falling))


def _fitting(radius: float, flat: float, leading: float, trailing: float, pitch: float) -> float:
    """The radius that fits at both ends of a flat: the one that takes up all of it where little would be
    left."""
    room = sum(math.tan(0.25 * math.pi - 0.5 * angle) for angle in (leading, trailing))
    return flat / room if radius * room > flat - _SLIVER * pitch else radius


def free_form(points: Sequence[tuple[float, float]], pitch: float, reference: float, place: str) -> Profile:
    """The profile through points (z, r) over one pitch that rise once and fall once, r from the radius
    `reference` on. Raises RecipeError."""
    xy = np.array(points, dtype=float)
    z, r = xy[:, 0], xy[:, 1] + reference
    if np.any(np.diff(z) < -1e-12) or z[-1] - z[0] > pitch * (1 + 1e-9):
        raise RecipeError(
            Problem(
                place,
                "the points of a form run along the axis, within one pitch",
                "order them by z, from 0 on",
            )
        )
    top, bottom = float(r.max()), float(r.min())
    high = np.flatnonzero(r > top - _FLAT)
    first, last = int(high[0]), int(high[-1])
    up, down = r[: first + 1], r[last:]
    if (
        abs(r[0] - bottom) > _FLAT
        or abs(r[-1] - bottom) > _FLAT
        or np.any(np.diff(up) < 0)
        or np.any(np.diff(down) > 0)
    ):
        raise RecipeError(
            Problem(
                place,
                "a form rises once from its root and falls back to it",
                "begin and end it at its lowest r",
            )
        )
    start, end = (
        int(np.flatnonzero(up < bottom + _FLAT)[-1]),
        last + int(np.flatnonzero(down < bottom + _FLAT)[0]),
    )
    level = [k for k in range(start, end) if k not in range(first, last) and abs(r[k + 1] - r[k]) < _FLAT]
    if level or top - bottom < 1e-6:
        raise RecipeError(
            Problem(place, "a form has no flat between its root and its crest", "slope it a little")
        )
    corners = list(zip(z.tolist(), r.tolist(), strict=True))

    def chain(low: int, high: int) -> Chain:
        return Chain(tuple(line(corners[k], corners[k + 1]) for k in range(low, high)))

    return Profile(pitch, chain(start, first), chain(last, end))


def _rounded(
    start: tuple[float, float], end: tuple[float, float], start_round: float, end_round: float
) -> tuple[Edge, ...]:
    """A flank from one flat to the next with rounded corners, as far as half its length allows."""
    a, b = np.array(start), np.array(end)
    along = (b - a) / np.linalg.norm(b - a)
    axis = np.array([1.0, 0.0])
    half = math.tan(0.5 * math.acos(float(np.clip(along @ axis, -1, 1))))
    most = 0.5 * float(np.linalg.norm(b - a)) / half
    low, high = a, b
    before: tuple[Edge, ...] = ()
    after: tuple[Edge, ...] = ()
    if start_round > _FLAT:
        edge, trim = fillet(a - axis, a, b, min(start_round, most))
        low, before = a + trim * along, (edge,)
    if end_round > _FLAT:
        edge, trim = fillet(a, b, b + axis, min(end_round, most))
        high, after = b - trim * along, (edge,)
    if before and after and float(np.linalg.norm(high - low)) < _FLAT:
        return (*before, *after)
    flank = line((float(low[0]), float(low[1])), (float(high[0]), float(high[1])))
    return (*before, flank, *after)


def _parameter(edge: Edge, level: Array, axis: int) -> Array:
    """Where a monotone edge, a line or an arc (a rational quadratic), has z, or r where `axis` is 1, at
    `level` (n,), held to 0..1.

    In u = t / (1 − t) an arc's radius solves (r₀ − l) + 2w (r₁ − l) u + (r₂ − l) u² = 0.
    """
    first, last = float(edge.points[0, axis]), float(edge.points[-1, axis])
    if edge.is_line:
        return np.clip((level - first) / (last - first), 0.0, 1.0)
    sign = 1.0 if last > first else -1.0
    c, a = sign * (first - level), sign * (last - level)
    b = 2 * float(edge.weights[1]) * sign * (edge.points[1, axis] - level)
    root = np.sqrt(np.maximum(b * b - 4 * a * c, 0.0))
    with np.errstate(divide="ignore", invalid="ignore"):
        ratio = np.where(b < 0, (root - b) / (2 * a), -2 * c / (b + root))
        t = ratio / (1 + ratio)
    t = np.where(c >= 0, 0.0, t)
    return np.where(a <= 0, 1.0, t)
