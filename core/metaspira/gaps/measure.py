"""The gaps of a wire to itself, and between wires, with the interval that holds each for certain."""

from __future__ import annotations

import itertools
import math
from dataclasses import dataclass, replace
from typing import NamedTuple

import numpy as np

from metaspira.gaps.depth import beside, depth_between
from metaspira.gaps.hulls import (
    BOX,
    CARRIED,
    CHORD,
    CONVEX,
    FACES,
    HIGH,
    KIND,
    LOW,
    MARGIN,
    RADIUS,
    SOLID,
    TUBE,
    Hulls,
    hulls_of,
)
from metaspira.gaps.screws import move_alike
from metaspira.gaps.search import (
    EVERY,
    LOOSE,
    TOUCHING,
    along,
    box_distance,
    deepest_in,
    deepest_of,
    polished,
    search,
)
from metaspira.numbers.jets import Array
from metaspira.numbers.once import cached_property
from metaspira.sweep.sweep import Sweep

_WIDTH = 0.004
_SHARE = 0.02
_LEAST_NODES, _NODES_A_PIECE = 30_000, 150
_POLISH = 600
_LANE_NODES, _LANE_NODES_HOLLOW = 120, 60
_CROSSED = 1e-7
_AROUND, _STEPS = 720, np.array([1.0, 0.3, 0.1, 0.03, 0.01, 3e-3, 1e-3])
_LANE_FULL, _LANE_MOST = 100, 1200
_EACH = (300, 30_000)
_QUICK, _QUICK_NODES = (60,), 3_000
_NEAR = 4.0
_COARSE = 1e-3
_FINE, _FINE_NODES, _FINE_NODES_A_PIECE = 1e-4, 1_500, 3
_FAR_NODES = 6_000
_FLAT = 1e-6


@dataclass(frozen=True)
class Gap:
    """The smallest gap, mm, as measured between two actual places (negative: how far one must be moved to be
    free), and the ends of the interval that holds it for certain; the true lengths `at` of both places and
    the `point` between them."""

    value: float
    low: float
    high: float
    at: tuple[float, float]
    point: tuple[float, float, float]


@dataclass(frozen=True, eq=False)
class Shape:
    """A swept shape that gaps are measured of: what of it, and whether it encloses something."""

    sweep: Sweep
    solid: bool = True
    low: float = 0.0
    high: float = math.inf

    @property
    def hulls(self) -> tuple[Hulls, ...]:
        """Its surface with what is ground away."""
        return hulls_of(self.sweep, self.solid, self.low, self.high)

    @property
    def ground(self) -> tuple[Hulls, ...]:
        """Its surface as others meet it."""
        return hulls_of(self.sweep, self.solid, self.low, self.high, ground=True)

    @property
    def size(self) -> float:
        return self.sweep.section.reach()

    @cached_property
    def one_place(self) -> Array:
        """A place (3,) of its surface, in its middle."""
        s = np.array([0.5 * self.sweep.length])
        return self.sweep.frames(s).points(self.sweep.ring(s, 8))[0, 0]


class _Pair(NamedTuple):
    """Two parts of surfaces: whether they are the same, and whether one screw carries the runs of both."""

    one: Hulls
    two: Hulls
    alike: bool
    carried: bool


@dataclass(frozen=True)
class _Found:
    """The best of a search so far: its value, the bound below it, the pair of hulls and the spots on them,
    and the nodes seen."""

    value: float = math.inf
    low: float = math.inf
    pair: tuple[Hulls, Hulls] | None = None
    spots: Array | None = None
    seen: int = 0


def gap_within(shape: Shape, limits: tuple[float, ...], best: float = math.inf) -> tuple[Gap | None, float]:
    """The smallest gap of a wire to itself, away from where it is wound to touch, None where nothing of it
    comes back near it, or only at `best` mm or more; and what no gap is below. The interval lies on one side
    of each limit where that can be told."""
    which = LOOSE if shape.sweep.path.touching else EVERY
    found = _searched(_pairs(shape.hulls, None), True, which, best, limits, shape.size)
    return _gap(found, shape.sweep, shape.sweep, _is_quick(limits)), found.low


def overlap_within(shape: Shape, allowed: float) -> Gap | None:
    """The deepest overlap of a wire with itself where it is wound to touch, if it is deeper than `allowed`
    mm."""
    if not shape.sweep.path.touching:
        return None
    return _overlap(
        _pairs(_slimmer(shape.hulls, shape.size, allowed), None),
        shape.sweep,
        shape.sweep,
        True,
        TOUCHING,
        allowed,
    )


def gap_between(
    one: Shape, two: Shape, limits: tuple[float, ...], best: float = math.inf
) -> tuple[Gap | None, float]:
    """The smallest gap of two wires, in whatever order, None where it is `best` mm or more; and what no gap
    is below."""
    found = _searched(_pairs(one.ground, two.ground), False, EVERY, best, limits, min(one.size, two.size))
    if found.pair is not None and abs(found.value) <= _CROSSED * min(one.size, two.size):
        found = _decided(found, one, two)
    if not found.value < 0:
        inside = max(_held_in(one, two), _held_in(two, one))
        if inside > 0:
            nested = _nested(one, two, inside)
            return nested, nested.low
    return _gap(found, one.sweep, two.sweep, _is_quick(limits)), found.low


def comes_within(one: Shape, two: Shape, distance: float) -> bool:
    """Whether places of two wires are seen that are nearer than `distance` mm."""
    size = min(one.size, two.size)
    found = _searched(_pairs(one.ground, two.ground), False, EVERY, distance, (-math.inf,), size)
    return found.pair is not None


def gap_to_surface(shape: Shape, surface: Hulls, limits: tuple[float, ...]) -> tuple[float, float]:
    """The distance of a wire from a surface that is no wire, mm, 0 where they cross (or less, in round wire),
    and what it is not below for certain."""
    found = _searched(
        [_pair(hulls, surface) for hulls in shape.ground], False, EVERY, math.inf, limits, shape.size
    )
    return found.value, found.low


def deepest_within(shape: Shape, point: Array) -> float:
    """How deep a place (3,) is inside a wire, mm; 0 or less, or −∞, outside."""
    return max((float(deepest_in(hulls, point)) for hulls in shape.ground), default=-math.inf)


def _decided(found: _Found, one: Shape, two: Shape) -> _Found:
    """What is known of two wires whose surfaces meet at one place: where a place of one near it is inside the
    other, they overlap; else they touch."""
    assert found.pair is not None and found.spots is not None
    for (own, other), hulls, k in (((one, two), found.pair[0], 0), ((two, one), found.pair[1], 4)):
        if not (own.solid and other.solid):
            continue
        places = _places_near(own, hulls, found.spots[k : k + 4])
        sure = sum(
            max(h.facts[MARGIN] + h.facts[CHORD] for h in shape.ground if h.facts[KIND] != FACES)
            for shape in (own, other)
        )
        deep = max(float(deepest_of(h, places)[0]) for h in other.ground)
        if deep > sure:
            return replace(found, value=-deep, low=min(found.low, -deep))
    return found


def _places_near(shape: Shape, hulls: Hulls, spot: Array) -> Array:
    """Places (n, 3) of a surface at several distances from a spot of it."""
    i, size = int(spot[0]), shape.size
    s0 = float(hulls.pieces[i, LOW] + spot[2] * (hulls.pieces[i, HIGH] - hulls.pieces[i, LOW]))
    sweep, found = shape.sweep, []
    ring = sweep.section.rings(_AROUND, _AROUND // 8)
    for step in _STEPS * size:
        s = np.clip(s0 + step * np.linspace(-1, 1, 9), 0.0, sweep.length)
        for loop in ring:
            found.append(sweep.frames(s).points(sweep.uv(loop.points, s)).reshape(-1, 3))
    if hulls.facts[KIND] == FACES:
        face = hulls.frame[i]
        found += [
            face.mean(axis=0) + share * (face - face.mean(axis=0)) for share in np.linspace(0.02, 0.98, 25)
        ]
    places = np.concatenate(found)
    for sign, height, low, high in hulls.planes:
        if low <= s0 <= high:
            places = places[sign * (places[:, 2] - height) >= 0]
    return places


def overlap_between(one: Shape, two: Shape, allowed: float) -> Gap | None:
    """The deepest overlap of two wires that are laid to touch, if it is deeper than `allowed` mm."""
    slim = (_slimmer(shape.hulls, shape.size, allowed) for shape in (one, two))
    return _overlap(_pairs(*slim), one.sweep, two.sweep, False, EVERY, allowed)


def lane_of(shape: Shape, others: tuple[Shape, ...]) -> tuple[Array, Array]:
    """True lengths (n,) and the gap there, mm, of a wire to itself and to others, as far as sampled places
    tell; NaN where nothing is near."""
    s, value = [], []
    asked = np.array([_COARSE * shape.size, _COARSE * shape.size, _COARSE, 0.0])
    for hulls in shape.hulls:
        if hulls.facts[KIND] == FACES:
            continue
        gaps = np.full(len(hulls.frame), np.inf)
        every = 1 if len(gaps) <= _LANE_FULL else max(2, math.ceil(len(gaps) / _LANE_MOST))
        most = _LANE_NODES if hulls.facts[CONVEX] or hulls.facts[KIND] == TUBE else _LANE_NODES_HOLLOW
        for two in shape.hulls:
            along(hulls, two, True, hulls is two, LOOSE, every, gaps, asked, most)
        for other in others:
            for two in other.ground:
                along(hulls, two, False, False, EVERY, every, gaps, asked, most)
        s.append(hulls.pieces[::every, LOW : HIGH + 1].mean(axis=1))
        value.append(np.where(np.isfinite(gaps), gaps, np.nan)[::every])
    places, gap = np.concatenate(s), np.concatenate(value)
    order = np.argsort(places, kind="stable")
    return places[order], gap[order]


def _pairs(one: tuple[Hulls, ...], two: tuple[Hulls, ...] | None) -> list[_Pair]:
    if two is None:
        pairs = itertools.combinations_with_replacement(range(len(one)), 2)
        return [_pair(one[a], one[b], a == b) for a, b in pairs]
    return [_pair(a, b) for a in one for b in two]


def _pair(one: Hulls, two: Hulls, alike: bool = False) -> _Pair:
    """The parts of two surfaces, `alike` where they are the same."""
    reach = max(float(np.abs(h.tree[1, BOX : BOX + 6]).max()) for h in (one, two))
    allowed = CARRIED * min(one.facts[MARGIN], two.facts[MARGIN])
    return _Pair(one, two, alike, alike or move_alike(one.run, two.run, reach, allowed))


def _is_quick(limits: tuple[float, ...]) -> bool:
    """Whether the values alone are sought, an overlap as deep as it was seen."""
    return max(limits) == -math.inf


def _searched(
    pairs: list[_Pair],
    same: bool,
    which: int,
    best: float,
    limits: tuple[float, ...],
    size: float,
) -> _Found:
    """The search over all pairs of hulls: for certain of what is near, and then, where nothing is, once more
    for a figure."""
    pairs = sorted(pairs, key=lambda pair: box_distance(pair[0].tree[1], pair[1].tree[1]))
    near = _NEAR * size + 2 * max(*limits, 0.0)
    quick = _is_quick(limits)
    found = _bounded(
        pairs,
        same,
        which,
        min(best, near),
        limits,
        size,
        _QUICK if quick else _EACH,
        _QUICK_NODES if quick else _LEAST_NODES,
    )
    if found.pair is None and best > near:
        far = _bounded(pairs, same, which, best, limits, size, _EACH[:1], _FAR_NODES)
        found = replace(far, low=max(far.low, found.low))
    sharp = found.pair is not None and found.value > 0 and not quick
    return _sharpened(pairs, same, which, found, size) if sharp else found


def _bounded(
    pairs: list[_Pair],
    same: bool,
    which: int,
    best: float,
    limits: tuple[float, ...],
    size: float,
    nodes: tuple[int, ...],
    least_nodes: int = _LEAST_NODES,
) -> _Found:
    """The best of all pairs of hulls below `best`, searched with more and more nodes until the interval is as
    wide as it may be."""
    if box_distance(pairs[0][0].tree[1], pairs[0][1].tree[1]) >= max(best, 1e-12):
        return _Found(best, best)
    floor = 4 * max(a.facts[MARGIN] + b.facts[MARGIN] for a, b, *_ in pairs)
    limit = max(limits)
    found = _Found(best)
    for each in nodes:
        least = floor if each > nodes[0] else max(floor, _COARSE * size)
        asked = np.array([least, _WIDTH * size, _SHARE, limit])
        low = math.inf
        for one, two, alike, carried in pairs:
            most = least_nodes + _NODES_A_PIECE * least_nodes // _LEAST_NODES * (
                len(one.frame) + len(two.frame)
            )
            value, bound, spots, seen = search(
                one, two, same, alike, carried, which, found.value, asked, each, most
            )
            low, found = min(low, bound), replace(found, seen=found.seen + seen)
            if value < found.value:
                found = _polished(
                    replace(found, value=value, low=low, pair=(one, two), spots=spots), same, size
                )
        found = replace(found, low=min(low, found.value))
        open_ = [at for at in limits if found.low < at <= found.value and found.value - found.low > floor]
        if not open_ or found.value == math.inf:
            break
        limit = open_[0]
    return found


def _sharpened(pairs: list[_Pair], same: bool, which: int, found: _Found, size: float) -> _Found:
    """The best of all pairs, searched once more with a small width for as long as that takes few nodes; of
    two round wires the first look at each pair of pieces was exact."""
    tubes = [pair for pair in pairs if pair[0].facts[KIND] == pair[1].facts[KIND] == TUBE]
    pairs = [pair for pair in pairs if not any(pair is tube for tube in tubes)]
    fine = [_FINE_NODES + _FINE_NODES_A_PIECE * (len(one.frame) + len(two.frame)) for one, two, *_ in pairs]
    if not pairs or found.seen > max(fine):
        return found
    asked = np.array([_FINE * size, _FINE * size, 0.0, -math.inf])
    low, whole = math.inf, not tubes
    for (one, two, alike, carried), most in zip(pairs, fine, strict=True):
        value, bound, spots, seen = search(
            one, two, same, alike, carried, which, found.value, asked, _EACH[0], most
        )
        low, whole = min(low, bound), whole and seen < most
        if value < found.value:
            found = _polished(replace(found, value=value, pair=(one, two), spots=spots), same, size)
    return replace(found, low=min(max(low, found.low) if whole else found.low, found.value))


def _polished(found: _Found, same: bool, size: float) -> _Found:
    """The gap of the pair of pieces where the best was found, as near as it can be told; what is inside stays
    as it is."""
    if found.pair is None or found.spots is None or found.spots[1] == -2:
        return found
    one, two = found.pair
    value, spots = polished(
        one, int(found.spots[0]), two, int(found.spots[4]), same, found.value, 1e-5 * size, _POLISH
    )
    return found if np.isnan(spots[0]) else replace(found, value=value, spots=spots)


def _gap(found: _Found, one: Sweep, two: Sweep, quick: bool = False) -> Gap | None:
    if found.pair is None or found.spots is None:
        return None
    hulls, spots = found.pair, found.spots
    first, second = (
        float(
            h.pieces[int(spots[k]), LOW]
            + spots[k + 2] * (h.pieces[int(spots[k]), HIGH] - h.pieces[int(spots[k]), LOW])
        )
        for h, k in zip(hulls, (0, 4), strict=True)
    )
    at = (first, second)
    point = _middle(one, two, at)
    tubes = all(h.facts[KIND] == TUBE for h in hulls)
    if tubes:
        value, at = _exact(one, two, at, found.value, float(sum(h.facts[RADIUS] for h in hulls)))
        return Gap(value, min(found.low, value), value, at, point)
    if found.value >= 0 or quick:
        return Gap(found.value, found.low, found.value, at, point)
    near = [
        float(h.pieces[int(spots[k]), HIGH] - h.pieces[int(spots[k]), LOW])
        for h, k in zip(hulls, (0, 4), strict=True)
    ]
    at = beside(one, two, at, (near[0], near[1]))
    deep = max(depth_between(one, at[0], two, at[1]), -found.value)
    return Gap(-deep, -deep, found.value, at, point)


def _exact(
    one: Sweep, two: Sweep, at: tuple[float, float], value: float, radii: float
) -> tuple[float, tuple[float, float]]:
    """The gap of two round wires at the nearest places of the paths themselves, by Newton's method from `at`;
    along wires that run beside each other at one distance, all places are as good."""
    s = np.array(at)
    for _ in range(8):
        a, b = one.path.at(s[:1]), two.path.at(s[1:])
        away = (a.position - b.position)[0]
        t, u = a.tangent[0], b.tangent[0]
        gradient = np.array([away @ t, -away @ u])
        hessian = np.array([[1 + away @ a.curvature[0], -t @ u], [-t @ u, 1 - away @ b.curvature[0]]])
        steep, ways = np.linalg.eigh(hessian)
        if steep[1] <= 0 or steep[0] < -_FLAT * steep[1]:
            break
        way = ways[:, steep > _FLAT * steep[1]]
        step = way @ ((way.T @ gradient) / steep[steep > _FLAT * steep[1]])
        new = np.clip(s - step, 0.0, [one.length, two.length])
        moved, s = float(np.abs(new - s).max()), new
        if moved < 1e-12 * (one.length + two.length):
            break
    away = (one.path.derivatives(s[:1], 0)[0] - two.path.derivatives(s[1:], 0)[0])[0]
    exact = float(np.linalg.norm(away) - radii)
    if abs(exact - value) > 1e-5 * radii:
        return float(value), at
    return exact, (float(s[0]), float(s[1]))


def _middle(one: Sweep, two: Sweep, at: tuple[float, ...]) -> tuple[float, float, float]:
    ends = [sweep.path.derivatives(np.array([s]), 0)[0][0] for sweep, s in zip((one, two), at, strict=True)]
    x, y, z = (float(c) for c in 0.5 * (ends[0] + ends[1]))
    return x, y, z


def _slimmer(hulls: tuple[Hulls, ...], size: float, allowed: float) -> tuple[Hulls, ...]:
    """The wire, half of `allowed` mm slimmer all around; without its end faces."""
    found = []
    for one in hulls:
        if one.facts[KIND] == TUBE:
            facts = one.facts.copy()
            facts[RADIUS] -= allowed / 2
            found.append(one._replace(facts=facts))
        elif one.facts[SOLID] and len(one.coef[0]) > 1:
            frame = one.frame.copy()
            frame[:, :, 3:] *= 1 - allowed / (2 * size)
            found.append(one._replace(frame=frame))
    return tuple(found)


def _overlap(
    pairs: list[_Pair],
    one: Sweep,
    two: Sweep,
    same: bool,
    which: int,
    allowed: float,
) -> Gap | None:
    """The deepest overlap of wires that were made slimmer by `allowed` mm together, told of the wires as they
    are."""
    size = min(one.section.reach(), two.section.reach())
    gap = _gap(_searched(pairs, same, which, 0.0, (0.0,), size), one, two)
    if gap is None:
        return None
    return replace(
        gap, value=min(gap.value, gap.high - allowed), low=gap.low - allowed, high=gap.high - allowed
    )


def _held_in(one: Shape, two: Shape) -> float:
    """How deep a place of one wire is inside the other, which it does not cross; 0 or less outside."""
    around = any(_around(h, one.ground) for h in two.ground)
    return deepest_within(two, one.one_place) if around else -math.inf


def _around(one: Hulls, others: tuple[Hulls, ...]) -> bool:
    """Whether the box of one is around those of others."""
    box = one.tree[1]
    return all(bool(np.all(box[:3] <= h.tree[1, :3]) and np.all(box[3:6] >= h.tree[1, 3:6])) for h in others)


def _nested(one: Shape, two: Shape, inside: float) -> Gap:
    """The gap of a wire that lies wholly inside another one."""
    s1 = 0.5 * one.sweep.length
    here = one.sweep.path.derivatives(np.array([s1]), 0)[0][0]
    s = two.sweep.stations(24, least=17)
    s2 = float(s[np.argmin(np.linalg.norm(two.sweep.path.derivatives(s, 0)[0] - here, axis=1))])
    deep = max(depth_between(one.sweep, s1, two.sweep, s2), inside)
    return Gap(-deep, -deep, -inside, (s1, s2), _middle(one.sweep, two.sweep, (s1, s2)))


__all__ = [
    "Gap",
    "Shape",
    "comes_within",
    "deepest_within",
    "gap_between",
    "gap_to_surface",
    "gap_within",
    "lane_of",
    "overlap_between",
    "overlap_within",
]
