"""A coil of round wire whose axis is itself a curve: laid straight along that it is wound around an axis;
then its centre line is fitted where it is, and the curve is moved until that keeps one distance from it."""

from __future__ import annotations

import math
from dataclasses import dataclass, replace
from typing import Any

import numpy as np
from numpy.typing import NDArray
from scipy.ndimage import convolve1d, uniform_filter1d
from scipy.optimize import least_squares
from scipy.spatial import cKDTree

from metaspira.numbers.jets import Array
from metaspira.studies.trace.around import between, equations_by_bin, wound
from metaspira.studies.trace.bent import POINTS, Bend, Level, as_many_points, bend_through, few_points
from metaspira.studies.trace.scan import Scan, spread_of, unit
from metaspira.studies.trace.screw import about_z, screw_of
from metaspira.studies.trace.traced import LEAST_SURE, TracedNumber
from metaspira.studies.trace.wire import following_on, grown, middle_turns, wound_wire

_ROUNDS, _LAST_ROUNDS, _CORE_ROUNDS, _FINE, _SMOOTH = 4, 8, 12, 4, 5
_REACHED, _NEAR, _HALF, _FULL, _RIM = 0.6, 0.25, 0.5, 0.3, 3
_END = 1.5
_PER_TURN, _SHARE, _GROWS, _MORE, _MOST_LED, _ROUGH, _WHOLE = 60, 6, 2, 10, 40, 0.1, 0.95
_WAVES, _STIFF, _STEP = 10, 1e-3, 1e-5
_NODES = 40
_BETTER, _THIN, _FIT, _TRIES = 0.9, 300, 0.02, 12
_CUBIC = np.array([-36, 9, 44, 69, 84, 89, 84, 69, 44, 9, -36]) / 429
"""The middle of a cubic through eleven (Savitzky and Golay, Analytical Chemistry 36 (1964))."""
_KEPT, _CLOSES = 0.02, 0.6
_PLACES, _LEAST_TURNS, _FEWEST, _FEWEST_CORNERS, _STRAYS = 40_000, 3.0, 200, 1000, 0.05


@dataclass(frozen=True, eq=False)
class RoundWire:
    """A round wire of `radius` along the line of the nodes (n, 3), at `index` (n,) among those that it was
    begun with; `off` (m,) are the distances of places from it, of a share `covered` of all; `facets` is
    how far triangles were off what their corners lie on. mm."""

    nodes: Array
    radius: float
    off: Array
    covered: float
    index: Array
    facets: float = 0.0

    @property
    def noise(self) -> float:
        return spread_of(self.off)


@dataclass(frozen=True, eq=False)
class TracedWinding:
    """The recipe of a winding; `places` (n, 3), mm, are those of the scan where it stands, around its
    `wire`."""

    recipe: dict[str, Any]
    places: Array
    wire: RoundWire
    figures: list[TracedNumber]


def winding_of(scan: Scan, bend: Bend) -> TracedWinding | None:
    """The winding around a curve near to `bend`; None where no wire is wound around it."""
    found = _wound(scan.thinned(_PLACES) if bend.path.closed else scan, bend)
    if found is not None:
        wire, core = found
        whole = core.closed and wire.covered >= _WHOLE
        # what is not a whole ring is led on farther around the better curve
        found = _by_all(scan, wire, core) if whole else _wound(scan, core.bend)
    if found is None:
        return None
    wire, core = found
    if wire.noise > _ROUGH * wire.radius + 2 * scan.noise or (core.closed and wire.covered < _WHOLE):
        return None
    return _described(scan, _by_corners(wire, scan.corners), core)


def _by_all(scan: Scan, wire: RoundWire, core: _Core) -> tuple[RoundWire, _Core] | None:
    """A whole ring, by all places."""
    by_all = _fitted(scan.points, wire.nodes, wire.radius, _LAST_ROUNDS, 0, ring=True)
    if by_all is None:
        return None
    moved = _core(by_all.nodes, core.bend, _led(by_all, core.bend, core.at))
    return None if moved is None else (by_all, moved)


def _wound(scan: Scan, bend: Bend) -> tuple[RoundWire, _Core] | None:
    """The wire around a curve near to `bend`, and that curve."""
    laid = bend.straight(scan.thinned(_PLACES))
    screw = screw_of(laid)
    if screw.strays > _STRAYS:
        return None
    begun = _begun_in_a_ring(laid, screw.lead) if bend.path.closed else _begun(laid, screw.lead)
    if begun is None:
        return None
    radius, nodes = begun
    led = _led_on(scan.points, bend.bent(nodes), radius, bend, nodes[:, 2])
    if led is None or led[0].covered < _HALF or len(led[0].nodes) < _LEAST_TURNS * _PER_TURN:
        return None
    wire, at = led
    core = _core(wire.nodes, bend, at)
    return None if core is None else (wire, core)


def _begun(laid: Scan, lead: float) -> tuple[float, Array] | None:
    """The radius of a wire that is wound around z, and nodes (n, 3) along it."""
    wire = wound_wire(laid, about_z(lead))
    if wire is None or wire.turns < _LEAST_TURNS:
        return None
    nodes = wound(wire.angle, wire.out, wire.up) @ wire.axis.turned + wire.axis.centre
    return wire.radius, nodes


def _begun_in_a_ring(laid: Scan, lead: float) -> tuple[float, Array] | None:
    """The same by a few turns in the middle: a ring that was cut has no ends to hold on to."""
    found = middle_turns(laid.points, laid.normals, lead)
    if found is None:
        return None
    outline, line = found
    return float(np.median(outline)), wound(line.angle, line.out, line.up)


def _led_on(
    points: Array, nodes: Array, radius: float, bend: Bend, at: Array
) -> tuple[RoundWire, Array] | None:
    """The wire near to nodes (n, 3), which are `at` (n,) along the curve, led on at both ends as it is wound
    there for as long as there are places (n, 3) on it; and where its nodes are then."""
    wire: RoundWire | None = None
    closed = bend.path.closed
    for _ in range(_MOST_LED):
        before = len(nodes)
        further = (_turns_further if closed else _further)(bend.laid(nodes, at))
        more = (len(further) - before) // 2
        lap = closed and float(np.ptp(further[:, 2])) > bend.path.length
        if lap:
            further, more = further[np.abs(further[:, 2] - further[0, 2]) < bend.path.length], 0
        wire = _fitted(points, bend.bent(further), radius, _LAST_ROUNDS if lap else _ROUNDS, more, closed)
        if wire is None or len(wire.nodes) < _PER_TURN:
            return None
        nodes, radius = wire.nodes, wire.radius
        at = _led(wire, bend, further[:, 2])
        if lap or len(nodes) < before + _GROWS:
            break
    assert wire is not None
    return wire, at


def _led(wire: RoundWire, bend: Bend, at: Array) -> Array:
    """Where along a curve the nodes of a wire are, mm; it was begun with nodes that were `at` (n,) there."""
    return bend.laid(wire.nodes, np.interp(wire.index, np.arange(len(at)), at))[:, 2]


def _further(laid: Array) -> Array:
    """Nodes (n, 3) around z with more of them at both ends, that go on as those beside them."""
    line = np.stack([*_polar(laid), laid[:, 2]], axis=1)
    rates = [
        np.polyfit(np.arange(_PER_TURN), one, 1)[0] * [1, 0, 1]
        for one in (line[:_PER_TURN], line[-_PER_TURN:])
    ]
    more = np.arange(1, _MORE + 1)[:, None]
    return wound(*np.concatenate([line[0] - rates[0] * more[::-1], line, line[-1] + rates[1] * more]).T)


def _turns_further(laid: Array) -> Array:
    """Nodes (n, 3) around z with whole turns more at both ends, each as the one before, a share of all."""
    turns = max(1, round(len(laid) / _PER_TURN / _SHARE))
    angle, out = _polar(laid)
    way = math.copysign(1.0, angle[-1] - angle[0])
    angle = np.maximum.accumulate(way * angle)
    turn = 2 * math.pi
    more = np.arange(1, turns * _PER_TURN + 1) / _PER_TURN
    over = max(1, int((angle[-1] - angle[0]) / turn / 2))
    ends = []
    for end, sign in ((0, -1), (-1, 1)):
        within = angle[end] + sign * turn * ((more - 1e-9) % 1 - 1)
        lead = (laid[end, 2] - np.interp(angle[end] - sign * over * turn, angle, laid[:, 2])) / over
        up = np.interp(within, angle, laid[:, 2]) + lead * np.ceil(more - 1e-9)
        here = angle[end] + sign * turn * more
        ends.append(wound(way * here, np.interp(within, angle, out), up)[::sign])
    return np.concatenate([ends[0], laid, ends[1]])


def _polar(laid: Array) -> tuple[Array, Array]:
    """The angles around z, which run on, and the distances from it of places (n, 3) along a line."""
    return np.unwrap(np.arctan2(laid[:, 1], laid[:, 0])), np.hypot(laid[:, 0], laid[:, 1])


def _fitted(
    points: Array, nodes: Array, radius: float, rounds: int, more: int, ring: bool
) -> RoundWire | None:
    """The wire near to a line that the places (n, 3) of its surface fit best, as far as there are any; of the
    `more` nodes at each end as far as they follow on."""
    count = len(nodes)
    for _ in range(rounds):
        at, off, square = _off(_finer(nodes), points, radius)
        own = np.abs(off) < _REACHED * radius
        if own.sum() < _FEWEST:
            return None
        spread = max(spread_of(off[own]), 1e-6 * radius)
        weight = own / np.maximum(1.0, np.abs(off) / (2 * spread))
        row = np.clip(np.round(at / _FINE).astype(int), 0, count - 1)
        radius += float(np.average(off, weights=weight))
        step, ahead = _steps(square, off, weight, row, count), unit(np.gradient(nodes, axis=0))
        nodes = nodes + step - np.einsum("ij,ij->i", step, ahead)[:, None] * ahead
        if ring:  # it is begun by few turns, and led on far
            nodes = _smoothed(nodes)
    lies = np.abs(off) < max(4 * spread, _NEAR * radius)
    held = uniform_filter1d(np.bincount(row[lies], minlength=count).astype(float), _SMOOTH)
    full = np.flatnonzero(following_on(held > _FULL * np.median(held[held > 0]), more))
    if not len(full):
        return None
    reached = np.sort(at[lies] / _FINE)
    reached = reached[(reached > full[0] - 0.5) & (reached < full[-1] + 0.5)]
    if len(reached) <= 2 * _RIM:
        return None
    ends = reached[[_RIM, -1 - _RIM]]
    index = np.unique(np.concatenate([ends, np.arange(math.ceil(ends[0]), ends[1])]))
    line = between(index, np.arange(count), nodes)
    return RoundWire(line, radius - grown(spread, radius), off[lies], float(lies.mean()), index)


def _smoothed(nodes: Array) -> Array:
    """Nodes (n, 3) moved to the middle of a cubic through those about each."""
    rim = len(_CUBIC) // 2
    wider = np.pad(nodes, ((rim, rim), (0, 0)), mode="reflect", reflect_type="odd")
    return np.asarray(convolve1d(wider, _CUBIC, axis=0)[rim:-rim])


def _by_corners(wire: RoundWire, corners: Array) -> RoundWire:
    """The wire as thick as the corners of the mesh show it, which lie on what was scanned, where there are
    enough of them."""
    if not len(corners):
        return wire
    off = _off(_finer(wire.nodes), corners, wire.radius)[1]
    near = off[np.abs(off) < _NEAR * wire.radius]
    if len(near) < _FEWEST_CORNERS:
        return wire
    wider = float(np.median(near)) - grown(wire.noise, wire.radius)
    return replace(wire, radius=wire.radius + wider, facets=abs(wider))


def _off(fine: Array, points: Array, radius: float) -> tuple[NDArray[np.intp], Array, Array]:
    """Which nodes of a line places (n, 3) are nearest to, how far they are off a wire along it, and which way
    is square to it there (n, 3)."""
    at = cKDTree(fine).query(points)[1]
    ahead = unit(np.gradient(fine, axis=0))[at]
    away = points - fine[at]
    away -= np.einsum("ij,ij->i", away, ahead)[:, None] * ahead
    far = np.linalg.norm(away, axis=1)
    return at, far - radius, away / np.maximum(far, 1e-9)[:, None]


def _finer(nodes: Array) -> Array:
    """Nodes (n, 3) with more between them."""
    fine = np.linspace(0, len(nodes) - 1, _FINE * (len(nodes) - 1) + 1)
    return between(fine, np.arange(len(nodes)), nodes)


def _steps(square: Array, off: Array, weight: Array, row: NDArray[np.int_], count: int) -> Array:
    """The steps (count, 3) of nodes that make the places of each, and of those beside it, fit best."""
    normal, right = equations_by_bin(row, square, off, weight, count)
    normal, right = (uniform_filter1d(one, _SMOOTH, axis=0) for one in (normal, right))
    normal += 1e-2 * np.eye(3) * float(np.trace(normal.mean(axis=0)))
    return np.einsum("kij,kj->ki", np.linalg.inv(normal), right)


@dataclass(frozen=True, eq=False)
class _Core:
    """The curve that a wire is wound around at `radius`, mm; `at` (n,), mm, is where along it the nodes of
    the wire are, at the angles `angle` (n,), which run on, and `out` (n,), mm, from it."""

    bend: Bend
    at: Array
    angle: Array
    out: Array
    radius: float

    @property
    def closed(self) -> bool:
        return self.bend.path.closed

    @property
    def even(self) -> tuple[float, float]:
        """Radians a mm, and the angle where it begins."""
        rate, first = np.polyfit(self.at, self.angle, 1)
        return float(rate), float(first)

    @property
    def uneven(self) -> Array:
        """How far, radians, the nodes (n,) are before an even winding."""
        return self.angle - np.polyval(self.even, self.at)


def _around(nodes: Array, bend: Bend, at: Array, radius: float) -> _Core:
    """How nodes (n, 3) that are near `at` (n,) are around a curve."""
    laid = bend.laid(nodes, at)
    return _Core(bend, laid[:, 2], *_polar(laid), radius)


def _core(nodes: Array, bend: Bend, at: Array) -> _Core | None:
    """The curve near to `bend` that a wire keeps one distance from, at an even pitch; `at` (n,) is where its
    nodes (n, 3) are along that, mm."""
    core = _around(nodes, bend, at, 0.0)
    for k in range(_CORE_ROUNDS):
        moved = _moved(nodes, core, 1 + k)
        if moved is None:
            return None
        core = moved
    return core


def _moved(nodes: Array, core: _Core, few: int) -> _Core | None:
    """The curve moved, by least squares, to where the wire is farther from it on one side, and is along it
    sooner:

        out = R + a cos φ + b sin φ,   s = S(φ) − p/2πR (b cos φ − a sin φ) − R (a′ cos φ + b′ sin φ)

    with a and b, how far it is moved, and S smooth along it; of `few` waves at most."""
    bend, at, angle, out = core.bend, core.at, core.angle, core.out
    low, high = (0.0, bend.path.length) if core.closed else (float(at.min()), float(at.max()))
    few = min(few, _WAVES, int(np.ptp(angle) / (2 * math.pi) / 2))
    share = (at - low) / (high - low)
    waves = _waves(share, core.closed, few)
    rises = (_waves(share + _STEP, core.closed, few) - _waves(share - _STEP, core.closed, few)) / (2 * _STEP)
    rises = rises / (high - low)
    about, pitch = float(np.median(out)), 1 / core.even[0]
    cosine, sine = np.cos(angle)[:, None], np.sin(angle)[:, None]
    even = _waves((angle - angle[0]) / (angle[-1] - angle[0]), False, few)
    a_out, b_out = cosine * waves, sine * waves
    a_along = pitch / about * sine * waves - about * cosine * rises
    b_along = -pitch / about * cosine * waves - about * sine * rises
    one = np.ones((len(at), 1))
    rows = np.concatenate(
        [
            np.hstack([a_out, b_out, one, 0 * even]),
            np.hstack([a_along, b_along, 0 * one, even]),
        ]
    )
    stiff = _STIFF * math.sqrt(len(at)) * np.tile(_steep(core.closed, few), 2)
    rows = np.concatenate([rows, np.eye(len(stiff), rows.shape[1]) * stiff[:, None]])
    # its columns are well apart, and of its equations there are many more
    right = rows.T @ np.concatenate([out, at, np.zeros(len(stiff))])
    found = np.linalg.lstsq(rows.T @ rows, right, rcond=None)[0]
    share = np.linspace(0, 1, _NODES, endpoint=not core.closed)
    here, count = _waves(share, core.closed, few), waves.shape[1]
    beside = np.stack(
        [here @ found[:count], here @ found[count : 2 * count], low + share * (high - low)], axis=1
    )
    if np.abs(beside[:, :2]).max() > 2 * about:
        return None
    fresh = bend_through(bend.bent(beside), core.closed)
    return _around(nodes, fresh, (at - low) * fresh.path.length / (high - low), float(found[2 * count]))


def _waves(share: Array, closed: bool, count: int) -> Array:
    """Smooth functions (n, k) of the share of a curve: waves around a closed one, else polynomials."""
    if not closed:
        return np.asarray(np.polynomial.legendre.legvander(2 * share - 1, 2 * count))
    angle = 2 * math.pi * np.outer(share, np.arange(count + 1))
    return np.hstack([np.cos(angle), np.sin(angle[:, 1:])])


def _steep(closed: bool, count: int) -> Array:
    """How steep each of the smooth functions is, beside the first that is."""
    if not closed:
        return np.arange(2 * count + 1) ** 2 / 4
    waves = np.arange(count + 1)
    return np.concatenate([waves, waves[1:]]).astype(float)


def _described(scan: Scan, wire: RoundWire, core: _Core) -> TracedWinding:
    """The winding around a curve through as few points as keep to that which was found."""
    low, high = float(core.at.min()), float(core.at.max())
    pitch = 2 * math.pi / abs(core.even[0])
    closed = core.closed and high - low > core.bend.path.length - _CLOSES * pitch
    ends = (0.0, core.bend.path.length) if closed else (low, high)
    if closed:
        points = few_points(core.bend, ends, closed, max(_KEPT * 2 * wire.radius, 0.5 * wire.noise))
    else:
        core, count = _fewest(wire.nodes, core)
        ends = (float(core.at.min()), float(core.at.max()))
        points = as_many_points(core.bend, ends, False, count)
    level = Level.of(points)
    points, nodes = np.round(level.moved(points), 4), level.moved(wire.nodes)
    bend = bend_through(points, closed)
    length = bend.path.length
    own = _around(nodes, bend, (core.at - ends[0]) * length / (ends[1] - ends[0]), core.radius)
    rate, first = own.even
    turns = abs(rate) * length / (2 * math.pi)
    turns = float(round(turns)) if closed else turns
    recipe = {
        "format": "metaspira/1",
        "unit": "mm",
        "path": {
            "kind": "winding",
            "around": {"kind": "points", "points": points.tolist(), **({"closed": True} if closed else {})},
            "radius": round(core.radius, 4),
            "turns": round(turns, 4),
            "hand": "right" if rate > 0 else "left",
            "start_angle": round(math.degrees(first) % 360, 2),
        },
        "section": {"kind": "round", "diameter": round(2 * wire.radius, 4)},
    }
    return TracedWinding(recipe, level.moved(scan.points), wire, _figures(wire, own, turns, closed))


def _fewest(nodes: Array, core: _Core) -> tuple[_Core, int]:
    """The curve through as few points as let the nodes (n, 3) of a wire be evenly around it, and how many
    these are. By many waves its ends would wander."""
    ends = (float(core.at.min()), float(core.at.max()))
    first = len(few_points(core.bend, ends, False, _NEAR * core.radius))
    least, best, points = math.inf, core, first
    for count in (one for one in POINTS if one >= first):
        off, found = _evenly(nodes, core, count)
        if off > _BETTER * least:
            break
        least, best, points = off, found, count
    return best, points


def _evenly(nodes: Array, core: _Core, count: int) -> tuple[float, _Core]:
    """How far, mm, nodes (n, 3) of a wire are off an even winding around the curve near to that of `core`
    through so many points that leaves least of it."""
    thin = max(1, len(nodes) // _THIN)
    few, at = nodes[::thin], core.at[::thin]
    low, high = float(core.at.min()), float(core.at.max())
    points = as_many_points(core.bend, (low, high), False, count)

    def around(x: Array, nodes: Array, at: Array) -> _Core:
        bend = bend_through(x.reshape(-1, 3), False)
        found = _around(nodes, bend, (at - low) * bend.path.length / (high - low), 0.0)
        return replace(found, radius=float(np.median(found.out)))

    def off(x: Array) -> Array:
        found = around(x, few, at)
        return np.concatenate([found.out - found.radius, found.radius * found.uneven])

    settled = least_squares(off, points.ravel(), loss="soft_l1", f_scale=_FIT * core.radius, max_nfev=_TRIES)
    return spread_of(off(settled.x)), around(settled.x, nodes, core.at)


def _figures(wire: RoundWire, core: _Core, turns: float, closed: bool) -> list[TracedNumber]:
    """What was measured, each with half the width (95 %) of its interval: by the noise of the surface, by how
    many places each stands on, and by how far the wire is off an even winding."""
    off = float(np.std(core.out))
    point = 2 * wire.noise / math.sqrt(max(len(wire.off), 1) / 50) + wire.facets
    sure = 2 * (point + 2 * off / math.sqrt(turns))
    uneven = float(np.std(core.uneven))
    slack = (_END * wire.radius + 2 * (wire.noise + off)) / core.radius + uneven
    end = 0.0 if closed else 2 * slack / (2 * math.pi)
    length = core.bend.path.length
    pitch = length / turns
    return [
        TracedNumber("wire_diameter", "Wire diameter", 2 * wire.radius, 2 * point, "mm", "/section/diameter"),
        TracedNumber("radius", "Radius around the curve", core.radius, sure, "mm", "/path/radius"),
        TracedNumber("turns", "Turns", turns, end, "", "/path/turns"),
        TracedNumber("curve", "Length of the curve", length, sure + end * pitch, "mm"),
        TracedNumber(
            "pitch", "Pitch along the curve", pitch, max((sure + end * pitch) / turns, LEAST_SURE), "mm"
        ),
    ]
