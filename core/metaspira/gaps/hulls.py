"""Hulls: a body's surface as Bézier pieces, each of which lies within the convex hull of its control points.

A section point with coefficients cᵢ has the place  o(s) + Σ cᵢ Eᵢ(s)  (two axes E where the section stays the
same, two for each outline of a blend). On a short piece of the wire o and E are quintics, so a section edge
sweeps a patch whose control points are o's and E's own, mixed by the edge's. Quintics through value and slope
at both ends and in the middle are off by far less than `margin`, which is measured at a quarter of each piece
and added to every bound.

Round wire that keeps its size is a ball moved along its centre line, but for the last stretch before an end
that is no dome, where the disc at the end counts.

What lies beyond the plane of a ground end is not there. The face that the grinding leaves lies straight above
the surface that it takes away: pieces of that, made flat on the plane, stand for it.
"""

from __future__ import annotations

import itertools
import math
from collections.abc import Callable
from functools import lru_cache
from typing import NamedTuple

import numpy as np
import shapely
from numpy.typing import NDArray

from metaspira.gaps.screws import LAST, NO_RUN, run_of
from metaspira.numbers.compiled import compiled
from metaspira.numbers.jets import Array
from metaspira.paths.path import Span
from metaspira.sections.blend import SectionAlong
from metaspira.sections.outline import bernstein
from metaspira.sweep.ground import GroundPlane, ground_planes
from metaspira.sweep.mesh import end_face, end_faces
from metaspira.sweep.sweep import Stretch, Sweep

TUBE, SWEPT, FACES = 0, 1, 2
DEGREE = 5
_PER_TURN = {TUBE: 12, SWEPT: 20}
_LEAST = 5
_NEAR = {TUBE: 4e-6, SWEPT: 1e-6}
_ROUNDS = 7
_SAFE = 2.0
_EDGE_TURN = 0.13
_POLYGON = 360
_CAP_FACETS = 360
_INSET, _MOST_PROBED = 0.04, 16
_END = 1.1
CARRIED = 0.25
"""The share of the margin by which a run may miss the screw that carries it, and that of another."""
_EVEN = np.linspace(0.0, 1.0, DEGREE + 1)
NO_PLANES = np.empty((0, 4))
_TO_BERNSTEIN = np.linalg.inv(bernstein(DEGREE, _EVEN))


KIND, RADIUS, MARGIN, CHORD, WHOLE, CONVEX, SOLID, LEAVES = range(8)
LOW, HIGH, TURNED_LOW, TURNED_HIGH, STOP_LOW, STOP_HIGH, TOUCH = range(7)
BOX, PACE, RANGE, SOME, ALL, ENDS = 0, 6, 12, 14, 15, 16


Indices = NDArray[np.int64]
Curve = Callable[[Stretch, Array], tuple[Array, Array]]
"""What is interpolated, (n, k), and its change by the stretch's parameter, at parameters (n,)."""


class Hulls(NamedTuple):
    """Pieces of one kind, of one body; few arrays, since each is handed on at every call of a compiled loop.

    `frame` (n, 6, 3 + 3 m): the Bézier coefficients of o and of the m axes of each piece; of flat convex
    faces their corners, as many as they are. `coef` (j, m + 1): control points of the section's edges with
    their weights; `edges` (e + 1, 2): where each begins among them, and how far it is from straight; `outer`
    (h, m + 1): those around the whole section, with their number. `polygon` (k, m + 1): the section in short
    pieces, with the number of the loop. `probes` (p, m): places of the section, on its outline and just
    inside. `pieces` (n, 7), by LOW…: true length and turning of the path at both ends, whether the wire ends
    or has a corner there, and whether it is wound to touch. `tree` (2 leaves, 18), by BOX…: least and most x,
    y, z, the same of the derivatives along the wire, least and most turning, whether some or all are to
    touch, and whether one stops at its low or high end; piece i is leaf `leaves` + i, node k has the children
    2 k and 2 k + 1. `facts` (8,), by KIND… `run` (10,): pieces that a screw carries into each other
    (screws.py). `planes` (k, 4): of ground ends the sign of z where the wire is kept, the height, and the
    true lengths between which they cut.
    """

    frame: Array
    coef: Array
    edges: Array
    outer: Array
    polygon: Array
    probes: Array
    pieces: Array
    tree: Array
    facts: Array
    run: Array
    planes: Array


_ROWS, _ROW = "f8[:, ::1]", "f8[::1]"
HULLS = (Hulls, "f8[:, :, ::1]", *[_ROWS] * 7, _ROW, _ROW, _ROWS)


class _Section(NamedTuple):
    coef: Array
    edges: Array
    outer: Array
    polygon: Array
    probes: Array
    chord: float
    convex: bool


_NO_SECTION = _Section(
    np.ones((1, 1)),
    np.array([[0.0, 0.0], [1.0, 0.0]]),
    np.zeros((1, 1)),
    np.zeros((1, 1)),
    np.zeros((1, 1)),
    0.0,
    False,
)


def hulls_of(
    sweep: Sweep, solid: bool = True, low: float = 0.0, high: float = np.inf, ground: bool = False
) -> tuple[Hulls, ...]:
    """The surface of a swept shape between two true lengths; `solid` where it encloses something, its ends
    `ground` where they are or else as they were before. A skin has no end faces."""
    planes = ground_planes(sweep) if ground else ()
    for plane in planes:
        if plane.at_start:
            low = max(low, plane.gone)
        else:
            high = min(high, sweep.length - plane.gone)
    return _hulls_of(sweep, solid, max(low, 0.0), min(high, sweep.length), planes)


@lru_cache(maxsize=128)
def _hulls_of(
    sweep: Sweep, solid: bool, low: float, high: float, ground: tuple[GroundPlane, ...]
) -> tuple[Hulls, ...]:
    planes = np.array([[p.sign, p.height, p.low, p.high] for p in ground]).reshape(-1, 4)
    spans, radius = _tube_spans(sweep, ground) if solid else (((0.0, sweep.length),), 0.0)
    found = []
    if radius > 0:
        core = (max(spans[0][1], low), min(spans[-1][0], high)) if not sweep.closed else (low, high)
        if core[1] > core[0]:
            found.append(_tube(sweep, radius, *core))
        spans = () if sweep.closed else spans
    cut = [(max(a, low), min(b, high)) for a, b in spans]
    pieces = [pair for pair in cut if pair[1] > pair[0]]
    if pieces:
        found.append(_swept(sweep, pieces, solid, planes))
    if solid:
        caps = _caps(sweep, low, high, planes)
        if caps is not None:
            found.append(caps)
    return tuple(found)


def hulls_of_triangles(corners: Array, margin: float) -> Hulls:
    """A surface of triangles (n, 3, 3), off by at most `margin` mm."""
    corners = corners[_side_by_side(corners.mean(axis=1))]
    none = np.zeros((len(corners), 2))
    return _faces(corners, margin, none, none, none[:, 0])


def _side_by_side(points: Array) -> Indices:
    """An order of points (n, 3) in which near ones follow each other: along Morton's curve of a grid of 2¹⁶
    steps."""
    low, size = points.min(axis=0), max(float(np.ptp(points, axis=0).max()), 1e-300)
    cell = ((points - low) / size * (2**16 - 1)).astype(np.int64)
    code = np.zeros(len(points), dtype=np.int64)
    for bit in range(16):
        for c in range(3):
            code |= (cell[:, c] >> bit & 1) << (3 * bit + c)
    return np.argsort(code, kind="stable")


def _tube_spans(
    sweep: Sweep, ground: tuple[GroundPlane, ...]
) -> tuple[tuple[tuple[float, float], ...], float]:
    """The true lengths (two spans) near the ends at which a round wire is no moved ball, and its radius; the
    whole wire and 0 where it is none. What is ground is no moved ball."""
    changes = sweep.changes
    plain = all(c.constant is not None for c in (changes.size, changes.width, changes.depth))
    whole = ((0.0, sweep.length),)
    if not sweep.is_tube or not plain or sweep.stand.stretch is not None:
        return whole, 0.0
    radius = sweep.outline.reach * float(changes.size.constant or 0.0)
    if radius <= 0:
        return whole, 0.0
    taken = []
    for end in sweep.ends:
        ball = end.kind == "dome" and end.closes and abs(end.length - radius) < 1e-9 * radius
        taken.append(end.length if ball else end.length + _END * radius)
    for plane in ground:
        if plane.at_start:
            taken[0] = max(taken[0], plane.high)
        else:
            taken[1] = max(taken[1], sweep.length - plane.low)
    if not sweep.closed and sum(taken) >= sweep.length:
        return whole, 0.0
    first, last = (0.0 if end.kind == "dome" and end.closes else 1.0 for end in sweep.ends)
    return (
        (
            (taken[0] * (1 - first), taken[0]),
            (sweep.length - taken[1], sweep.length - taken[1] * (1 - last)),
        ),
        radius,
    )


def _tube(sweep: Sweep, radius: float, low: float, high: float) -> Hulls:
    def curve(stretch: Stretch, p: Array) -> tuple[Array, Array]:
        s, pace = stretch.place(p)
        found = sweep.path.derivatives(s, 1)
        return found[0], found[1] * pace[:, None]

    frame, place, stop, error = _pieces(sweep, TUBE, curve, [(low, high)], radius)
    return _with_tree(sweep, TUBE, frame, _NO_SECTION, radius, error, place, stop, True)


def _swept(sweep: Sweep, spans: list[tuple[float, float]], solid: bool, planes: Array) -> Hulls:
    def curve(stretch: Stretch, p: Array) -> tuple[Array, Array]:
        s, pace = stretch.place(p)
        frames = sweep.frames(s)
        axes = [frames.origin, frames.first, frames.second]
        slopes = [frames.d_origin, frames.d_first, frames.d_second]
        if sweep.section.varies:
            place, rate = sweep.changes.shape(s / sweep.length)
            mix = sweep.section.weights(place)
            change = sweep.section.rates(place) * (rate / sweep.length)[:, None]
            axes, slopes = axes[:1], slopes[:1]
            for k in range(mix.shape[1]):
                for axis, slope in ((frames.first, frames.d_first), (frames.second, frames.d_second)):
                    axes.append(mix[:, k : k + 1] * axis)
                    slopes.append(change[:, k : k + 1] * axis + mix[:, k : k + 1] * slope)
        return np.concatenate(axes, axis=1), np.concatenate(slopes, axis=1) * pace[:, None]

    section = _section(sweep.section)
    frame, place, stop, error = _pieces(sweep, SWEPT, curve, spans, section.coef)
    return _with_tree(sweep, SWEPT, frame, section, 0.0, error, place, stop, solid, planes)


def _pieces(
    sweep: Sweep, kind: int, curve: Curve, spans: list[tuple[float, float]], section: float | Array
) -> tuple[Array, Array, Array, float]:
    """Bézier coefficients (n, 6, k) of a curve on short pieces, their places (n, 2), where they stop (n, 2),
    and how far they are off at the most, mm; `section` is a radius, or control points."""
    frames, places, stops, worst = [], [], [], 0.0
    reach = float(np.abs(section[:, :-1]).sum(axis=1).max()) if isinstance(section, np.ndarray) else section
    allowed = _NEAR[kind] * reach
    stretches = list(sweep.stations_by_stretch(_PER_TURN[kind], least=_LEAST))
    for span, (stretch, p, _) in itertools.product(spans, stretches):
        p = _within(stretch, _with_ends(stretch, p, sweep.path.touching), span)
        if len(p) < 2:
            continue
        low, high = p[:-1], p[1:]
        done: list[tuple[Array, Array, Array]] = []
        for round_ in range(_ROUNDS):
            fitted = (
                _fitted_even(stretch, curve, low, high) if stretch.tip else _fitted(stretch, curve, low, high)
            )
            probe = 0.3 if stretch.tip else 0.25
            there = curve(stretch, low + probe * (high - low))[0]
            ours = np.einsum("j,njk->nk", bernstein(DEGREE, np.array([probe]))[0], fitted)
            off = np.abs(there - ours)
            off[:, 3:] *= reach
            error = off[:, :3].max(axis=1) + (off[:, 3:].max(axis=1) if off.shape[1] > 3 else 0.0)
            good = (error <= allowed) | (round_ == _ROUNDS - 1)
            done.append((low[good], high[good], fitted[good]))
            worst = max(worst, float(error[good].max(initial=0.0)))
            if good.all():
                break
            middle = 0.5 * (low + high)[~good]
            low, high = np.concatenate([low[~good], middle]), np.concatenate([middle, high[~good]])
        low, high, fitted = (np.concatenate([row[k] for row in done]) for k in range(3))
        order = np.argsort(low)
        low, high = low[order], high[order]
        frames.append(fitted[order])
        places.append(np.stack([stretch.place(low)[0], stretch.place(high)[0]], axis=1))
        stop = np.zeros((len(low), 2), dtype=bool)
        stop[0, 0] = low[0] == 0.0 and not (sweep.closed and stretch.low == 0.0 and len(sweep.stretches) == 1)
        stop[-1, 1] = high[-1] == 1.0 and not (sweep.closed and len(sweep.stretches) == 1)
        stops.append(stop)
    scale = max(float(np.abs(f[..., :3]).max()) for f in frames)
    return (
        np.concatenate(frames),
        np.concatenate(places),
        np.concatenate(stops),
        _SAFE * worst + 4e-16 * scale,
    )


def _with_ends(stretch: Stretch, p: Array, spans: tuple[Span, ...]) -> Array:
    """The stations p (n,) of a stretch and, among them, the ends of spans of true length."""
    size = stretch.high - stretch.low
    if stretch.tip or not spans:
        return p
    ends = (np.array(spans).ravel() - stretch.low) / size
    margin = 0.1 * float(np.diff(p).min())
    ends = ends[(ends > margin) & (ends < 1 - margin)]
    away = np.abs(p[None, :] - ends[:, None]).min(axis=1, initial=1.0) if len(ends) else ends
    return np.unique(np.concatenate([p, ends[away > margin]]))


def _within(stretch: Stretch, p: Array, span: tuple[float, float]) -> Array:
    """The stations p (n,) of a stretch that lie within a span, and the ends of the span."""
    if stretch.tip:
        return p if span[0] <= 0.5 * (stretch.low + stretch.high) <= span[1] else p[:0]
    size = stretch.high - stretch.low
    low, high = ((min(max(at, stretch.low), stretch.high) - stretch.low) / size for at in span)
    if high - low < 1e-9:
        return p[:0]
    margin = 1e-3 / len(p)
    return np.concatenate([[low], p[(p > low + margin) & (p < high - margin)], [high]])


def _fitted(stretch: Stretch, curve: Curve, low: Array, high: Array) -> Array:
    """Quintics (n, 6, k) through value and slope at both ends and in the middle."""
    n = len(low)
    shared = n > 1 and bool(np.all(low[1:] == high[:-1]))
    if shared:
        knots = np.concatenate([low, high[-1:]])
        value, slope = curve(stretch, np.concatenate([knots, 0.5 * (low + high)]))
        x0, x1, xm = value[:n], value[1 : n + 1], value[n + 1 :]
        d0, d1, dm = slope[:n], slope[1 : n + 1], slope[n + 1 :]
    else:
        value, slope = curve(stretch, np.concatenate([low, high, 0.5 * (low + high)]))
        (x0, x1, xm), (d0, d1, dm) = np.split(value, 3), np.split(slope, 3)
    h = (high - low)[:, None]
    b1, b4 = x0 + h * d0 / 5, x1 - h * d1 / 5
    total = (32 * xm - x0 - 5 * b1 - 5 * b4 - x1) / 10
    differ = (3.2 * h * dm + x0 + 3 * b1 - 3 * b4 - x1) / 2
    return np.stack([x0, b1, (total - differ) / 2, (total + differ) / 2, b4, x1], axis=1)


def _fitted_even(stretch: Stretch, curve: Curve, low: Array, high: Array) -> Array:
    """Quintics (n, 6, k) through six values; for tips, whose slope by length has no bound."""
    p = low[:, None] + (high - low)[:, None] * _EVEN
    value = curve(stretch, p.ravel())[0].reshape(len(low), DEGREE + 1, -1)
    return np.asarray(np.einsum("ij,njk->nik", _TO_BERNSTEIN, value))


@lru_cache(maxsize=128)
def _section(section: SectionAlong) -> _Section:
    """The section's control points, in short edges."""
    outlines = section.outlines
    coefs: list[Array] = []
    edges: list[list[float]] = []
    for loop in range(len(outlines[0].loops)):
        for index in range(len(outlines[0].loops[loop].edges)):
            same = [outline.loops[loop].edges[index] for outline in outlines]
            turning = 0.0 if all(e.is_line for e in same) else max(e.turning for e in same)
            parts = max(1, math.ceil(turning / _EDGE_TURN))
            for k in range(parts):
                cut = [e.part(k / parts, (k + 1) / parts) for e in same] if parts > 1 else same
                points = np.concatenate([e.points for e in cut], axis=1)
                even = np.linspace(0.0, 1.0, len(points))[:, None]
                bent = np.abs(points - points[0] - even * (points[-1] - points[0])).max()
                edges.append([float(sum(len(c) for c in coefs)), 0.0 if turning == 0.0 else float(bent)])
                coefs.append(np.column_stack([points, cut[0].weights]))
    coef = np.concatenate(coefs)
    edges.append([float(len(coef)), 0.0])
    rings = [np.concatenate(list(ring.points), axis=1) for ring in section.rings(_POLYGON, 1)]
    polygon = np.concatenate([np.column_stack([ring, np.full(len(ring), k)]) for k, ring in enumerate(rings)])
    chord = max(loop.ring(_POLYGON).chord_error for outline in outlines for loop in outline.loops)
    return _Section(
        coef,
        np.array(edges),
        _outermost(coef[:, :-1]),
        polygon,
        _probes(section),
        chord,
        _is_convex(section),
    )


def _probes(section: SectionAlong) -> Array:
    """Places (p, m) of a section: corners and middles of its edges, and just inside of the middles."""
    loops = [
        list(zip(*(outline.loops[k].edges for outline in section.outlines), strict=True))
        for k in range(len(section.first.loops))
    ]
    inset = _INSET * section.first.area / max(section.first.perimeter, 1e-300)
    found = []
    for k, loop in enumerate(loops):
        for same in loop[:: max(1, len(loop) // _MOST_PROBED)]:
            for at, deep in (
                (0.0, 0.0),
                (0.5, 0.0),
                (0.5, inset if k == 0 else -inset),
                (0.25, inset if k == 0 else -inset),
            ):
                row = []
                for edge in same:
                    point, slope = (value[0] for value in edge.at(np.array([at])))
                    inward = np.array([-slope[1], slope[0]]) / max(float(np.hypot(*slope)), 1e-300)
                    row.append(point + deep * inward)
                found.append(np.concatenate(row))
    return np.array(found)


def _outermost(coef: Array) -> Array:
    """The control points (j, m) that span the hull of all, with their numbers."""
    numbered = np.column_stack([coef, np.arange(len(coef))])
    if coef.shape[1] != 2:
        return numbered
    hull = shapely.convex_hull(shapely.multipoints(coef))
    corners = shapely.get_coordinates(hull)
    return numbered[(coef[:, None] == corners).all(axis=2).any(axis=1)] if hull.area > 0 else numbered


def _is_convex(section: SectionAlong) -> bool:
    """A convex polygon without holes, the same along the wire."""
    outline = section.first
    if section.varies or not outline.closed or outline.holes or not all(e.is_line for e in outline.edges):
        return False
    corners = np.array([e.points[0] for e in outline.edges])
    side = np.roll(corners, -1, axis=0) - corners
    turn = side[:, 0] * np.roll(side[:, 1], -1) - side[:, 1] * np.roll(side[:, 0], -1)
    return bool(np.all(turn > -1e-12 * np.abs(side).max() ** 2))


def _caps(sweep: Sweep, low: float, high: float, planes: Array) -> Hulls | None:
    """The end faces, within the chord error of their outline: one face each where they are convex, else
    triangles; in two where one of the planes (k, 4) cuts them."""
    ends = np.array([0.0, sweep.length])
    corners, places, error = [], [], 0.0
    for index, has_face in enumerate(end_faces(sweep)):
        if not has_face or not low <= ends[index] <= high:
            continue
        face = end_face(sweep, ends[index], _CAP_FACETS)
        for corner in face.corners:
            cut = _parted(corner, planes[(planes[:, 2] <= ends[index]) & (ends[index] <= planes[:, 3])])
            corners += cut
            places.append(np.full((len(cut), 2), ends[index]))
        error = max(error, face.error)
    if not corners:
        return None
    place, most = np.concatenate(places), max(len(face) for face in corners)
    faces = np.array([np.pad(face, ((0, most - len(face)), (0, 0)), mode="edge") for face in corners])
    turned = sweep.path.turned(place[:, 0])
    return _faces(faces, error, place, np.stack([turned, turned], axis=1), _touching(sweep, place), planes)


def _parted(corners: Array, planes: Array) -> list[Array]:
    """A convex face (k, 3) in the parts that planes (n, 4) cut it to."""
    parts = [corners]
    for sign, height, *_ in planes:
        found = []
        for part in parts:
            after = np.roll(part, -1, axis=0)
            off, off_after = sign * (part[:, 2] - height), sign * (after[:, 2] - height)
            crosses = off * off_after < 0
            share = np.where(crosses, off / np.where(crosses, off - off_after, 1.0), 0.0)
            met = part + share[:, None] * (after - part)
            met[:, 2] = height
            for side in (off, -off):
                rows = np.stack([part, met], axis=1).reshape(-1, 3)
                kept = rows[np.stack([side >= 0, crosses], axis=1).ravel()]
                if len(kept) > 2:
                    found.append(kept)
        parts = found
    return parts


def _faces(
    corners: Array,
    margin: float,
    place: Array,
    turned: Array,
    touching: Array,
    planes: Array = NO_PLANES,
) -> Hulls:
    pieces = np.column_stack([place, turned, np.ones((len(corners), 2)), touching])
    return _tree_of(FACES, corners, _NO_SECTION, pieces, 0.0, margin, 0.0, True, planes)


def _with_tree(
    sweep: Sweep,
    kind: int,
    frame: Array,
    section: _Section,
    radius: float,
    margin: float,
    place: Array,
    stop: Array,
    solid: bool,
    planes: Array = NO_PLANES,
) -> Hulls:
    turned = sweep.path.turned(place.ravel()).reshape(-1, 2)
    whole = sweep.path.turning if sweep.closed else 0.0
    pieces = np.column_stack([place, turned, stop, _touching(sweep, place)])
    return _tree_of(kind, frame, section, pieces, radius, margin, whole, solid, planes)


def _touching(sweep: Sweep, place: Array) -> Array:
    """Which pieces, between true lengths `place` (n, 2), are wound to touch."""
    found = np.zeros(len(place), dtype=bool)
    for low, high in sweep.path.touching:
        margin = 1e-9 * sweep.length
        found |= (place[:, 0] <= high - margin) & (place[:, 1] >= low + margin)
        found |= (place[:, 0] == place[:, 1]) & (place[:, 0] >= low - margin) & (place[:, 1] <= high + margin)
    return found


def _tree_of(
    kind: int,
    frame: Array,
    section: _Section,
    pieces: Array,
    radius: float,
    margin: float,
    whole: float,
    solid: bool,
    planes: Array,
) -> Hulls:
    leaves = 1 << max(0, math.ceil(math.log2(max(len(frame), 1))))
    frame, pieces = np.ascontiguousarray(frame), np.ascontiguousarray(pieces, dtype=float)
    run = NO_RUN
    if kind != FACES:
        reach = float(np.abs(section.outer[:, :-1]).sum(axis=1).max()) if kind == SWEPT else 0.0
        alone = pieces[:, STOP_LOW] + pieces[:, STOP_HIGH] > 0
        for _, _, first, last in planes:
            alone |= (pieces[:, HIGH] >= first) & (pieces[:, LOW] <= last)
        run = run_of(frame, np.where(alone, -1.0, pieces[:, TOUCH]), reach, CARRIED * margin)
        if run[LAST] > 0:
            margin *= 1 + 2 * CARRIED
    facts = np.array(
        [kind, radius, margin, section.chord, whole, section.convex and solid, solid, leaves],
        dtype=float,
    )
    tree = _grown(frame, section.outer, pieces, facts, planes)
    outlines = section.coef, section.edges, section.outer, section.polygon, section.probes
    made = frame, *outlines, pieces, tree, facts, run, planes
    return Hulls(*(np.ascontiguousarray(one, dtype=float) for one in made))


@compiled("f8[:, :, ::1]", "f8[:, ::1]", "f8[:, ::1]", "f8[::1]", "f8[:, ::1]")
def _grown(frame, outer, pieces, facts, planes):  # type: ignore[no-untyped-def]
    """The tree, from the leaves to its root at 1; empty leaves have boxes turned inside out."""
    n, m, leaves, radius = len(frame), outer.shape[1] - 1, int(facts[LEAVES]), facts[RADIUS]
    tree = np.zeros((2 * leaves, 18))
    for c in range(3):
        tree[:, BOX + c], tree[:, BOX + 3 + c] = np.inf, -np.inf
        tree[:, PACE + c], tree[:, PACE + 3 + c] = np.inf, -np.inf
    tree[:, RANGE], tree[:, RANGE + 1], tree[:, ALL] = np.inf, -np.inf, 1.0
    swept = facts[KIND] == SWEPT
    count, rows = len(outer) if swept else 1, frame.shape[1]
    for i in range(n):
        node = tree[leaves + i]
        for j in range(count):
            for c in range(3):
                before = 0.0
                for r in range(rows):
                    x = frame[i, r, c]
                    if swept:
                        for k in range(m):
                            x += outer[j, k] * frame[i, r, 3 + 3 * k + c]
                    node[BOX + c], node[BOX + 3 + c] = (
                        min(node[BOX + c], x - radius),
                        max(node[BOX + 3 + c], x + radius),
                    )
                    if r > 0:
                        step = x - before
                        node[PACE + c], node[PACE + 3 + c] = (
                            min(node[PACE + c], step),
                            max(node[PACE + 3 + c], step),
                        )
                    before = x
        for k in range(len(planes)):
            if pieces[i, HIGH] >= planes[k, 2] and pieces[i, LOW] <= planes[k, 3]:
                for at in (BOX + 2, BOX + 5):
                    node[at] = planes[k, 0] * max(planes[k, 0] * node[at], planes[k, 0] * planes[k, 1])
        node[RANGE], node[RANGE + 1] = pieces[i, TURNED_LOW], pieces[i, TURNED_HIGH]
        node[SOME] = node[ALL] = pieces[i, TOUCH]
        node[ENDS], node[ENDS + 1] = pieces[i, STOP_LOW], pieces[i, STOP_HIGH]
    for at in range(leaves - 1, 0, -1):
        node, a, b = tree[at], tree[2 * at], tree[2 * at + 1]
        for c in range(3):
            for start in (BOX, PACE):
                node[start + c] = min(a[start + c], b[start + c])
                node[start + 3 + c] = max(a[start + 3 + c], b[start + 3 + c])
        node[RANGE], node[RANGE + 1] = min(a[RANGE], b[RANGE]), max(a[RANGE + 1], b[RANGE + 1])
        node[SOME], node[ALL] = max(a[SOME], b[SOME]), min(a[ALL], b[ALL])
        node[ENDS], node[ENDS + 1] = max(a[ENDS], b[ENDS]), max(a[ENDS + 1], b[ENDS + 1])
    return tree
