"""The centre line of a wire that is wound around an axis, out of places on its surface: of round wire, and of
wire of any section."""

from __future__ import annotations

import math
from dataclasses import dataclass, replace

import numpy as np
import shapely
from numpy.typing import NDArray
from scipy.interpolate import make_smoothing_spline
from scipy.ndimage import uniform_filter1d
from scipy.optimize import minimize_scalar
from scipy.sparse import csr_matrix
from scipy.sparse.csgraph import breadth_first_order, connected_components
from scipy.spatial import cKDTree

from metaspira.numbers.jets import Array
from metaspira.studies.trace.around import (
    bins_of,
    equations_by_bin,
    middles,
    share_around,
    slope_around,
    value_at,
    without_gaps,
    wound,
)
from metaspira.studies.trace.outline import places_around, ways_of
from metaspira.studies.trace.scan import Mask, Scan, spread_of
from metaspira.studies.trace.screw import Screw, screw_of

_SEEDED, _SEEDS, _CROWD, _FEW = 20_000, 2000, 13, 30_000
_BIN = math.radians(6)
_ROUNDS = 5
_FLAT, _GROUND = 0.93, 0.008
_BEYOND, _FEW_BEYOND, _FEW_SHAPE, _UNSURE = math.radians(300), 10, 4, 5
_RIM = 3
_LEAVES, _WIDE, _FEWEST_BINS = 0.35, 3, 12
_STIFF = 1e-3
_WAYS = 24
_ENDS, _ENOUGH = 0.2, 3
_FEWEST_CORNERS, _FEWEST_PLACES, _FAR = 200, 1000, 0.1
_SHARES, _KNOWN = 180, 0.6
_REACHED, _REACHED_SHAPE, _NEAR = 1.7, 1.25, 0.6
_STARTS, _MOST_TURNS, _GROWS = 1.5, 60, 0.02
_ONE, _MOST_STARTS, _OF, _ALL, _FINE, _BESIDE = 0.6, 6, 0.3, 0.9, 4, 0.5
_SLIM, _SEEN, _SIDE, _FACES, _CORNER = 0.9, 0.3, 0.5, 0.93, 0.05
_WAYS_OF = ways_of(_SHARES)


@dataclass(frozen=True, eq=False)
class WoundWire:
    """A wire around the z axis of `axis`, whose section has the `outline` of radii (_SHARES,), mm, at even
    angles from outward, of round wire all the same: at the angles `angle` (n,), which run on from
    turn to turn, from one end of the wire to the other, its centre line has the distance `out` (n,) from the
    axis and the height `up` (n,), mm. `off` (m,) are the distances of the surface's places from the wire, of
    a share `covered` of all; `seen` is the share of its angle, and `around` that of the way around its
    section, at which places were found; `uneven`, mm, how far the middle of those at each way around it is
    off the wire; of `starts` wires, evenly around the
    axis, it is one; `ways` (_SHARES,) are those of the outline
    that were seen; `facets`, mm, how far the triangles' places were off what their corners are on; `ground`
    says which of its ends lie on a flat face."""

    outline: Array
    angle: Array
    out: Array
    up: Array
    off: Array
    covered: float
    seen: float
    around: float
    uneven: float
    axis: Screw
    ways: Mask
    facets: float = 0.0
    ground: tuple[bool, bool] = (False, False)
    starts: int = 1

    @property
    def round(self) -> bool:
        return not np.ptp(self.outline)

    @property
    def radius(self) -> float:
        return float(np.median(self.outline))

    @property
    def thick(self) -> float:
        """How thick it is along the axis, mm."""
        return float(np.ptp(self.outline * np.sin(_WAYS_OF)))

    @property
    def right(self) -> bool:
        """Whether it is wound to the right, so that it climbs as its angle grows."""
        return bool(self.up[-1] >= self.up[0])

    @property
    def turns(self) -> float:
        return float(np.ptp(self.angle)) / (2 * math.pi)

    @property
    def noise(self) -> float:
        """Standard deviation of the surface off the wire, mm."""
        return spread_of(self.off)


def radius_of(scan: Scan) -> float:
    """The radius of a round wire: moved inward by it, places crowd most on the centre line. mm."""
    points, normals = scan.points[:_SEEDED], scan.normals[:_SEEDED]

    def spread(radius: float) -> float:
        moved = points - radius * normals
        return float(np.median(cKDTree(moved).query(moved[:_SEEDS], k=_CROWD)[0][:, -1]))

    radii = np.geomspace(3e-3, 0.25, 44) * scan.size
    found = [spread(float(one)) for one in radii]
    best = int(np.argmin(found))
    low, high = radii[max(best - 1, 0)], radii[min(best + 1, len(radii) - 1)]
    return float(minimize_scalar(spread, bounds=(low, high), method="bounded").x)


def ground_ends(scan: Scan, screw: Screw) -> tuple[Mask, tuple[bool, bool]]:
    """The places (n,) that lie on a flat face square to the axis at the lowest or the highest place, and
    whether there is such a face at each."""
    height = screw.upright(scan.points)[:, 2]
    along = scan.normals @ screw.axis
    low, high = np.percentile(height, [0.2, 99.8])
    near = max(3 * scan.noise, 4e-3 * scan.size)
    faces = [(along < -_FLAT) & (height < low + near), (along > _FLAT) & (height > high - near)]
    found = tuple(bool(face.mean() > _GROUND) for face in faces)
    return np.asarray(faces[0] * found[0] | faces[1] * found[1]), (found[0], found[1])


def wound_wire(scan: Scan, screw: Screw) -> WoundWire | None:
    """The wire in a scan around the axis of `screw`; None where no line is found."""
    flat, ground = ground_ends(scan, screw)
    scan = scan.part(~flat)
    radius = radius_of(scan)
    wire: WoundWire | None = None
    few = scan.thinned(_FEW)
    for one in (few, few, scan):
        points = screw.upright(one.points)
        inward = points - radius * (one.normals @ screw.turned.T)
        line = _line(inward, radius, screw.lead)
        if line is None:
            return None
        wire = _fitted(points, line, np.full(_SHARES, radius), screw)
        if wire is None:
            return None
        screw, radius = _set_right(wire, screw), wire.radius
    assert wire is not None
    wire = _finished(wire, scan, ground)
    return wire if wire.covered > _ONE else _with_starts(wire, scan)


def _finished(wire: WoundWire, scan: Scan, ground: tuple[bool, bool]) -> WoundWire:
    """The wire by the mesh's corners, with its ends, from its start on, of which those at the lowest and at
    the highest place are `ground`."""
    return replace(_by_corners(wire, scan.corners), ground=ground if wire.right else ground[::-1])


def _with_starts(wire: WoundWire, scan: Scan) -> WoundWire:
    """The wire as one of as few, evenly around the axis, as most of the surface lies on."""
    points = wire.axis.upright(scan.points[:_SEEDED])
    for starts in range(2, _MOST_STARTS + 1):
        on = np.zeros(len(points), dtype=bool)
        for k in range(starts):
            far = cKDTree(_turned_line(wire, 2 * math.pi * k / starts)).query(points)[0]
            on |= np.abs(far - wire.radius) < _OF * wire.radius
        if on.mean() > _ALL:
            return replace(wire, starts=starts, covered=float(on.mean()))
    return wire


def _turned_line(wire: WoundWire, by: float) -> Array:
    """Places (n, 3) close together along the wire's line, turned about the axis."""
    angle = np.linspace(wire.angle[0], wire.angle[-1], _FINE * len(wire.angle))
    out, up = np.interp(angle, wire.angle, wire.out), np.interp(angle, wire.angle, wire.up)
    return wound(angle + by, out, up)


def shaped_wire(scan: Scan, screw: Screw) -> WoundWire | None:
    """The wire of any section in a scan around the axis of `screw`: a few turns in the middle show its
    outline, and from there it is led on; None where they show none."""
    flat, ground = ground_ends(scan, screw)
    scan = scan.part(~flat)
    height = screw.upright(scan.points)[:, 2]
    low, high = np.percentile(height, [25, 75])
    # where end turns are closer, the middle ones alone tell the pitch
    middle = scan.part((height > low) & (height < high))
    for one, part in ((screw, scan), (screw_of(middle), middle)):
        shape = middle_turns(one.upright(part.points), part.normals @ one.turned.T, one.lead)
        if shape is not None:
            screw = one
            break
    else:
        return None
    outline, line = shape
    wire: WoundWire | None = None
    for _ in range(_MOST_TURNS):
        fresh = _fitted(screw.upright(scan.points), line, outline, screw)
        if fresh is None:
            return None
        done = wire is not None and fresh.turns < wire.turns + _GROWS
        wire = _centred(fresh)
        own = slice(_UNSURE, -_UNSURE)
        if len(wire.angle[own]) < _FEWEST_BINS:
            return None
        outline, line = wire.outline, Line(wire.angle[own], wire.out[own], wire.up[own])
        if done:
            break
        screw = _set_right(wire, screw)
    assert wire is not None
    return _finished(wire, scan, ground)


def _centred(wire: WoundWire) -> WoundWire:
    """The wire with its line through the middle of its section's area."""
    ring = shapely.Polygon(places_around(_WAYS_OF, wire.outline))
    return moved(wire, ring.centroid.x, ring.centroid.y)


def moved(wire: WoundWire, across: float, along: float) -> WoundWire:
    """The wire with its line through another place of its section, mm outward and along the axis."""
    moved = places_around(_WAYS_OF, wire.outline) - [across, along]
    way = share_around(np.arctan2(moved[:, 1], moved[:, 0])) * _SHARES - 0.5
    order = np.argsort(way)
    outline = np.interp(np.arange(_SHARES), way[order], np.hypot(*moved[order].T), period=_SHARES)
    lean = np.hypot(1.0, np.gradient(wire.up, wire.angle) / wire.out)
    return replace(wire, outline=outline, out=wire.out + across, up=wire.up + along * lean)


def middle_turns(points: Array, normals: Array, lead: float) -> tuple[Array, Line] | None:
    """The outline of a wire by upright places about the middle, moved along the screw into one plane, and its
    line there; None where it does not face away from that, as the ground of a thread does not."""
    low, high = np.percentile(points[:, 2], [1, 99])
    if not 1e-6 * (high - low) < abs(lead) < high - low:
        return None
    theta = np.arctan2(points[:, 1], points[:, 0])
    rho, up = np.hypot(points[:, 0], points[:, 1]), points[:, 2] - (low + high) / 2
    near = np.abs(up) < _STARTS * abs(lead)
    rise = lead / (2 * math.pi)
    if near.sum() < _FEWEST_PLACES:
        return None
    phase = (up - theta * rise)[near]
    middle = np.angle(np.exp(2j * math.pi * phase / lead).mean()) / (2 * math.pi) * lead
    along = (phase - middle + abs(lead) / 2) % abs(lead) - abs(lead) / 2
    inner, outer = np.percentile(rho[near], [2, 98])
    out = float(inner + outer) / 2
    across, along = rho[near] - out, along * out / math.hypot(out, rise)
    outward = np.einsum("ij,ij->i", normals[near, :2], points[near, :2]) / rho[near]
    if (outward * across + normals[near, 2] * along > 0).mean() < _FACES:
        return None
    share = share_around(np.arctan2(along, across))
    outline = without_gaps(middles(share, np.hypot(across, along), _SHARES, 3), _KNOWN)
    if outline is None or outline.max() > _SLIM * out:
        return None
    angle = np.linspace(-1, 1, 200) * 2 * math.pi * min(_STARTS, float(high - low) / 2 / abs(lead))
    return outline, Line(angle, np.full(200, out), (low + high) / 2 + middle + angle * rise)


def _by_corners(wire: WoundWire, corners: Array) -> WoundWire:
    """The wire by the corners of the mesh, which lie on what was scanned, where there are enough of them."""
    if len(corners) < _FEWEST_CORNERS * wire.turns:
        return wire
    line = Line(wire.angle, wire.out, wire.up)
    found = _fitted(wire.axis.upright(corners), line, wire.outline, wire.axis)
    if found is None or not 0.9 * len(wire.angle) < len(found.angle) < 1.1 * len(wire.angle):
        return wire
    out = np.interp(wire.angle, found.angle, found.out)
    up = np.interp(wire.angle, found.angle, found.up)
    facets = max(abs(found.radius - wire.radius), float(np.median(np.abs(out - wire.out))))
    if facets > _FAR * wire.radius:
        return wire
    if not wire.round:  # too few to show each way around it
        return replace(wire, facets=facets)
    return replace(wire, outline=found.outline, out=out, up=up, facets=facets)


@dataclass(frozen=True, eq=False)
class Line:
    """A line around z: at angles (n,), its distances from it and its heights (n,), mm."""

    angle: Array
    out: Array
    up: Array


def _line(inward: Array, radius: float, lead: float) -> Line | None:
    """Nodes of the centre line, with angles that run on along it."""
    cells = np.round(inward / (0.5 * radius)).astype(np.int64)
    _, which, count = np.unique(cells, axis=0, return_inverse=True, return_counts=True)
    which = which.ravel()
    sums = np.stack([np.bincount(which, inward[:, k]) for k in range(3)], axis=1)
    crowded = count >= max(2, 0.4 * np.percentile(count, 90))
    nodes = (sums / count[:, None])[crowded]
    if len(nodes) < 20:
        return None
    pairs = cKDTree(nodes).query_pairs(1.25 * radius, output_type="ndarray")
    graph = csr_matrix((np.ones(len(pairs)), pairs.T), (len(nodes), len(nodes)))
    count_of, label = connected_components(graph, directed=False)
    theta = np.arctan2(nodes[:, 1], nodes[:, 0])
    angle = np.full(len(nodes), np.nan)
    sizes = np.bincount(label)
    pieces = [k for k in range(count_of) if sizes[k] >= max(6, 0.02 * len(nodes))]
    if not pieces:
        return None
    pieces = _of_one_wire(nodes[:, 2], label, pieces)
    for piece in pieces:
        _unwrap(graph, int(np.flatnonzero(label == piece)[0]), theta, angle)
    kept = np.isfinite(angle) & np.isin(label, pieces)
    _join(angle, nodes, label, pieces, lead, radius)
    out = np.hypot(nodes[:, 0], nodes[:, 1])
    middle = np.median(out[kept])
    kept &= (out > 0.2 * middle) & (out < 5 * middle)
    return Line(angle[kept], out[kept], nodes[kept, 2])


def _of_one_wire(up: Array, label: Array, pieces: list[int]) -> list[int]:
    """The largest of the pieces and those above and below it: what is beside it is of another wire."""
    largest = max(pieces, key=lambda piece: int((label == piece).sum()))
    low, high = np.percentile(up[label == largest], [5, 95])

    def beside(piece: int) -> bool:
        own = up[label == piece]
        return float(((own > low) & (own < high)).mean()) > _BESIDE

    return [piece for piece in pieces if piece == largest or not beside(piece)]


def _unwrap(graph: csr_matrix, start: int, theta: Array, angle: Array) -> None:
    order, before = breadth_first_order(graph, start, directed=False)
    angle[start] = theta[start]
    for node in order[1:]:
        step = theta[node] - theta[before[node]]
        angle[node] = angle[before[node]] + (step + math.pi) % (2 * math.pi) - math.pi


def _join(angle: Array, nodes: Array, label: Array, pieces: list[int], lead: float, radius: float) -> None:
    """Whole turns are added to each piece, from the largest up and down along the axis, so that it goes on
    where the last one ended."""
    if abs(lead) < 1e-9:
        return
    middle = {piece: float(np.median(nodes[label == piece, 2])) for piece in pieces}
    largest = max(pieces, key=lambda piece: int((label == piece).sum()))
    ordered = sorted(pieces, key=middle.__getitem__)
    start = ordered.index(largest)
    for way in (ordered[start:], ordered[start::-1]):
        line = _nodes(angle, nodes, label == way[0])
        for piece in way[1:]:
            own = label == piece
            fresh = _nodes(angle, nodes, own)
            likely = _turns_between(line, fresh, lead)
            turns = min(
                (likely + k for k in (0, -1, 1, -2, 2)),
                key=lambda k: _odd(fresh.turned(k), line, lead, radius),
            )
            angle[own] += 2 * math.pi * turns
            line = _nodes(angle, nodes, np.isin(label, way[: way.index(piece) + 1]))


def _nodes(angle: Array, nodes: Array, own: Mask) -> _Nodes:
    order = np.argsort(angle[own])
    return _Nodes(angle[own][order], nodes[own][order])


def _turns_between(line: _Nodes, piece: _Nodes, lead: float) -> int:
    """How many turns on a piece is by its height, from the end of the line that is nearer to it."""
    end = 0 if (piece.place[:, 2].mean() < line.place[:, 2].mean()) == (lead > 0) else -1
    near = -1 - end if end == 0 else 0
    climb = float(piece.place[near, 2] - line.place[end, 2])
    wanted = line.angle[end] + 2 * math.pi * climb / lead
    return round(float(wanted - piece.angle[near]) / (2 * math.pi))


@dataclass(frozen=True, eq=False)
class _Nodes:
    """Places (n, 3) of a line in the order of their angles (n,)."""

    angle: Array
    place: Array

    def turned(self, turns: int) -> _Nodes:
        return _Nodes(self.angle + 2 * math.pi * turns, self.place)


def _odd(piece: _Nodes, line: _Nodes, lead: float, radius: float) -> int:
    """How little a piece fits to a line: 2 where the line is elsewhere at its angles; 1 where the wire would
    climb by less than its thickness in a turn between them, or much more than it does; else 0."""
    within = (piece.angle > line.angle[0]) & (piece.angle < line.angle[-1])
    near = np.clip(np.searchsorted(line.angle, piece.angle[within]), 0, len(line.angle) - 1)
    apart = np.linalg.norm(piece.place[within] - line.place[near], axis=1)
    if within.any() and float((apart > 1.2 * radius).mean()) > 0.5:
        return 2
    before, after = (line, piece) if piece.angle[0] > line.angle[-1] else (piece, line)
    turns = float(after.angle[0] - before.angle[-1]) / (2 * math.pi)
    if turns < 0:
        return 0
    climb = float(after.place[0, 2] - before.place[-1, 2]) * math.copysign(1.0, lead)
    return 0 if 1.6 * radius * turns - radius < climb < 2.5 * abs(lead) * turns + radius else 1


def _fitted(points: Array, line: Line, outline: Array, screw: Screw) -> WoundWire | None:
    """The line refined until the surface lies on one outline around it: of round wire circles of one radius,
    of other wire what the middle of all places is at each way."""
    low, high = float(line.angle.min()), float(line.angle.max())
    count = max(8, round((high - low) / _BIN))
    centre: Array = low + (np.arange(count) + 0.5) * (high - low) / count
    more, width = round(_BEYOND / _BIN), (high - low) / count
    out, up = _binned(line, low, high, count)
    own = _winds(out, (high - low) / count)
    out, up, centre, count = out[own], up[own], centre[own], own.stop - own.start
    low, high = low + own.start * width, low + own.stop * width
    out, up = (_led_on(one, more) for one in _smooth(centre, out, up, np.ones(count)))
    low, high, count = low - more * width, high + more * width, count + 2 * more
    centre = np.asarray(low + (np.arange(count) + 0.5) * width)
    known = np.ones(count)
    theta = np.arctan2(points[:, 1], points[:, 0])
    order = np.argsort(theta)
    theta, points = theta[order], points[order]
    rho = np.hypot(points[:, 0], points[:, 1])
    size = float(np.ptp(points, axis=0).max())
    plain = not np.ptp(outline)
    for _ in range(_ROUNDS):
        radius = float(np.median(outline))
        smooth_out, smooth_up = _smooth(centre, out, up, known)
        reach = _reach(known, _FEW_BEYOND if plain else _FEW_SHAPE)
        most = _REACHED * radius if plain else _REACHED_SHAPE * float(outline.max())
        found = _assigned(theta, rho, points[:, 2], centre[reach], smooth_out[reach], smooth_up[reach], most)
        if found is None:
            return None
        angles, across, along = found
        index = np.clip(((angles - low) / (high - low) * count).astype(int), 0, count - 1)
        slope = np.gradient(smooth_up, centre) / np.maximum(smooth_out, 1e-9)
        lean = 1 / np.hypot(1.0, slope)[index]
        off, normal, share = _off(outline, across, along * lean)
        spread = max(spread_of(off - np.median(off)), 1e-6 * radius)
        weight = 1 / np.maximum(1.0, np.abs(off) / (2 * spread)) * (np.abs(off) < _NEAR * radius)
        toward = normal * np.stack([np.ones(len(lean)), lean], axis=1)
        step, wider = _step(toward, off, weight, index, count)
        out, up = smooth_out + step[:, 0], smooth_up + step[:, 1]
        beside = plain | (np.abs(normal[:, 0]) > _SIDE)  # the next turn's face may be where its own would be
        well = index[(weight > 0.5) & beside]
        rest = off - np.einsum("ij,ij->i", toward, step[index])
        fresh = outline + wider if plain else _outline(outline, share, rest, spread)
        if fresh is None or not len(well) or not 0 < float(np.median(fresh)) < size / 2:
            return None
        outline = fresh
        known = _filled(well, count) * _held(well, count, more)
        if not known.any():
            return None
    lies = np.abs(off) < max(4 * spread, 0.05 * radius)
    if not lies.any():
        return None
    at = _held(index[lies & beside], count, more)
    known = _filled(index[lies], count) * at
    seen = slice(int(np.argmax(at)), count - int(np.argmax(at[::-1])))
    edges = low + width * seen.start, low + width * seen.stop
    ends = angles[lies & beside]
    reached = np.sort(ends[(ends > edges[0]) & (ends < edges[1])])
    if len(reached) <= 2 * _RIM:
        return None
    stations = np.concatenate([[reached[_RIM]], centre[seen][1:-1], [reached[-1 - _RIM]]])
    left = off[lies]
    radius = float(np.median(outline))
    out, up = _smooth(centre, out, up, known)
    return WoundWire(
        outline - grown(spread_of(left), radius) if plain else outline,
        stations,
        np.interp(stations, centre, out),
        np.interp(stations, centre, up),
        left,
        float(lies.sum() / len(points)),
        float(at[seen].mean()),
        *_around(np.arctan2(along[lies], across[lies]), left),
        screw,
        _seen(share[lies]),
    )


def _off(outline: Array, across: Array, along: Array) -> tuple[Array, Array, Array]:
    """How far (n,) places lie off an outline, square to it; its normals (n, 2) there; and at which share of
    the way around they are."""
    far = np.maximum(np.hypot(across, along), 1e-12)
    share = share_around(np.arctan2(along, across))
    level, slope = _level(outline, share)
    outward, around = level / far, -slope * level / far
    normal = np.stack([outward * across - around * along, outward * along + around * across], axis=1)
    return (far - value_at(outline, share)) * level, normal, share


def _level(outline: Array, share: Array) -> tuple[Array, Array]:
    """How much of what is outward is square to an outline at shares (n,), and how steep it is there."""
    slope = value_at(slope_around(outline), share) / value_at(outline, share)
    return 1 / np.hypot(1.0, slope), slope


def _outline(outline: Array, share: Array, off: Array, spread: float) -> Array | None:
    """The outline moved to the middle, at each way, of places that are `off` (n,) it."""
    near = np.abs(off) < max(4 * spread, _CORNER * float(np.median(outline)))
    share = share[near]
    far = value_at(outline, share) + off[near] / _level(outline, share)[0]
    return without_gaps(middles(share, far, _SHARES, 3), _KNOWN)


def _seen(share: Array) -> Mask:
    count = np.bincount(bins_of(share, _SHARES), minlength=_SHARES)
    return np.asarray(count > _SEEN * np.percentile(count, 80))


def grown(noise: float, radius: float) -> float:
    """By how much the mean distance from the centre of a circle grows by noise in the plane: the mean of a
    Rice distribution (S. O. Rice, Bell System Technical Journal 24 (1945)), to the second order."""
    return noise**2 / (2 * radius)


def _around(angle: Array, off: Array) -> tuple[float, float]:
    """The share of the way around the section at which there are places, and how far, mm, the middle of those
    at each way is off, by the root of the mean square."""
    share = (angle + math.pi) / (2 * math.pi)
    count = np.bincount(bins_of(share, _WAYS), minlength=_WAYS)
    held = count > 0.15 * np.percentile(count, 80)
    middle = middles(share, off, _WAYS, 1)[held]
    return float(held.mean()), float(np.sqrt(np.mean((middle - middle.mean()) ** 2)))


def _led_on(values: Array, more: int) -> Array:
    """Values at more bins on both sides, straight on."""
    few = max(3, min(len(values) // 2, round(math.pi / 2 / _BIN)))
    slopes = [np.polyfit(np.arange(few), part, 1)[0] for part in (values[:few], values[-few:])]
    steps = np.arange(1, more + 1)
    before, after = values[0] - slopes[0] * steps[::-1], values[-1] + slopes[1] * steps
    return np.asarray(np.concatenate([before, values, after]), dtype=float)


def _winds(out: Array, width: float) -> slice:
    """The bins around the middle one at which the line goes around, and not away from the axis as a leg
    does."""
    leaves = np.abs(np.gradient(uniform_filter1d(out, _WIDE), width)) > _LEAVES * out
    middle = len(out) // 2
    before, after = np.flatnonzero(leaves[:middle]), np.flatnonzero(leaves[middle:])
    start = int(before[-1]) + 1 if len(before) else 0
    stop = middle + int(after[0]) if len(after) else len(out)
    return slice(start, stop) if stop - start >= _FEWEST_BINS else slice(0, len(out))


def _reach(known: Array, few: int) -> slice:
    """The bins that are known, and a few at each side: further on, a line that is led on may come near to the
    next turn."""
    held = np.flatnonzero(known)
    return slice(max(int(held[0]) - few, 0), int(held[-1]) + few + 1)


def _filled(index: Array, count: int) -> Array:
    """How full each of the bins (count,) is, beside those in the middle of all; 1 at the most."""
    found = np.bincount(index, minlength=count)
    return np.asarray(np.minimum(found / np.median(found[found > 0]), 1.0))


def _held(index: Array, count: int, more: int) -> Mask:
    """The bins (count,) with places enough; of the `more` at each side only those that follow on."""
    found = np.bincount(index, minlength=count)
    return following_on(np.asarray(found > 0.15 * np.percentile(found[found > 0], 75)), more)


def following_on(held: Mask, more: int) -> Mask:
    """Those of the bins (n,) that are held; of the `more` at each side those alone that follow on."""
    before, after = (_unheld(one) for one in (held[:more][::-1], held[len(held) - more :]))
    own = np.zeros(len(held), dtype=bool)
    own[before : len(held) - after] = held[before : len(held) - after]
    return own


def _unheld(beyond: Mask) -> int:
    """How many of the bins beyond an end do not follow on."""
    stop = np.flatnonzero(~beyond[:-1] & ~beyond[1:])
    return len(beyond) - int(stop[0]) if len(stop) else 0


def _binned(line: Line, low: float, high: float, count: int) -> tuple[Array, Array]:
    index = np.clip(((line.angle - low) / (high - low) * count).astype(int), 0, count - 1)
    centre = np.arange(count)
    held = np.bincount(index, minlength=count)
    full = held > 0
    sums = [np.bincount(index, values, count)[full] / held[full] for values in (line.out, line.up)]
    out, up = (np.asarray(np.interp(centre, centre[full], one)) for one in sums)
    return out, up


def _smooth(x: Array, out: Array, up: Array, known: Array) -> tuple[Array, Array]:
    """Cubic smoothing splines through what is `known`, of that weight, and of a stiffness that follows the
    change of pitch of end turns."""
    both = np.stack([out, up], axis=1)
    kept = (known > 0) & np.isfinite(both).all(axis=1)
    if kept.sum() < 6:
        return out, up
    out, up = make_smoothing_spline(x[kept], both[kept], w=known[kept], lam=_STIFF)(x).T
    return out, up


def _assigned(
    theta: Array, rho: Array, z: Array, centre: Array, out: Array, up: Array, most: float
) -> tuple[Array, Array, Array] | None:
    """Which places, in the order of their angles, lie near the line, at what angle along it, and how far
    outward and upward of it."""
    best = np.full(len(theta), np.inf)
    angles = np.zeros(len(theta))
    first = math.floor((centre[0] - math.pi) / (2 * math.pi))
    last = math.ceil((centre[-1] + math.pi) / (2 * math.pi))
    for turn in range(first, last + 1):
        here = slice(*np.searchsorted(theta + 2 * math.pi * turn, [centre[0] - 0.15, centre[-1] + 0.15]))
        angle = theta[here] + 2 * math.pi * turn
        far = np.hypot(rho[here] - np.interp(angle, centre, out), z[here] - np.interp(angle, centre, up))
        nearer = far < best[here]
        best[here][nearer], angles[here][nearer] = far[nearer], angle[nearer]
    own = best < most
    if own.sum() < 200:
        return None
    angles = angles[own]
    slope = np.gradient(up, centre)
    at_out, at_up, rise = (np.interp(angles, centre, one) for one in (out, up, slope))
    # the section is square to the line: a place that is higher belongs to a later angle
    angles = angles + (z[own] - at_up) * rise / (at_out**2 + rise**2)
    across = rho[own] - np.interp(angles, centre, out)
    along = z[own] - at_up
    return angles, across, along


def _step(
    toward: Array, off: Array, weight: Array, index: NDArray[np.int_], count: int
) -> tuple[Array, float]:
    """The shift (count, 2) of each bin and the change of the one radius that make the surface fit best."""
    normal, right = equations_by_bin(index, toward, off, weight, count)
    side = np.stack([np.bincount(index, weight * one, count) for one in toward.T], axis=1)
    normal += 1e-2 * np.eye(2) * max(float(weight.sum()) / count, 1e-9)
    inverse = np.linalg.inv(normal)
    leaned = np.einsum("bij,bj->bi", inverse, side)
    held = float(weight.sum()) - float(np.einsum("bi,bi->", side, leaned))
    more = (float((weight * off).sum()) - float(np.einsum("bi,bi->", right, leaned))) / max(held, 1e-9)
    shift = np.einsum("bij,bj->bi", inverse, right - side * more)
    return shift, more


def _set_right(wire: WoundWire, screw: Screw) -> Screw:
    """The axis moved and tilted until the wire's distance from it does not go up and down in each turn, its
    ends aside, which may be legs."""
    few = round(_ENDS * len(wire.angle) / wire.turns) if wire.turns > _ENOUGH else 0
    own = slice(few, len(wire.angle) - few)
    angle, out, up = wire.angle[own], wire.out[own], wire.up[own]
    middle = float(up.mean())
    share = (angle - angle.mean()) / max(float(np.ptp(angle)), 1e-9)
    cosine, sine, height = np.cos(angle), np.sin(angle), up - middle
    columns = [share**k for k in range(5)] + [cosine, sine, height * cosine, height * sine]
    if wire.turns < 2 or float(np.ptp(up)) < 1e-6:
        columns = columns[:7]
    found = np.linalg.lstsq(np.stack(columns, axis=1), out, rcond=None)[0]
    tilt = found[7:9] if len(columns) > 7 else np.zeros(2)
    return screw.moved(found[5:7], tilt, middle)
