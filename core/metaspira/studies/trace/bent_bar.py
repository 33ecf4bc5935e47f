"""A bar along a curve, which may be twisted and grow thicker or thinner: laid straight it is a straight one,
and the curve is moved until its slices lie around it."""

from __future__ import annotations

import math
from dataclasses import dataclass

import numpy as np
from scipy.ndimage import uniform_filter1d

from metaspira.numbers.jets import Array
from metaspira.studies.trace.around import between
from metaspira.studies.trace.bar import Slices, TracedBar, cut_along, described_along
from metaspira.studies.trace.bent import POINTS, Bend, Level, as_many_points, bend_through
from metaspira.studies.trace.scan import Scan
from metaspira.studies.trace.screw import about_z, screw_of
from metaspira.sweep.stances import Steady

_ROUGH, _ROUNDS, _PATIENT, _BETTER, _OVER = 0.05, 12, 2, 0.9, 1.6
_WELL, _NOISE, _ALIKE, _ALIKE_OF = 0.008, 1.5, 1.1, 5e-4
_THIN, _LAST_ROUNDS = 15_000, 2
_NODES, _SMOOTH = 40, 5
_STRAIGHT = 0.02


def bent_bar_of(scan: Scan, bend: Bend) -> TracedBar | None:
    """The bar along a curve near to `bend`, with the scan moved to where it stands; None where it is none, or
    straight, or a ring whose section does not come back as it began."""
    closed = bend.path.closed
    few = scan.thinned(_THIN)
    even = _fewest(few, bend, True)
    found = (
        even
        if even.off < _WELL + _NOISE * scan.noise / even.size
        else min(even, _fewest(few, bend, False), key=lambda one: one.off)
    )
    if math.isinf(found.off):
        return None
    points = _settled(scan, found.points, closed, found is even, _LAST_ROUNDS).points
    length = bend_through(points, closed).path.length
    if not closed and np.linalg.norm(points[-1] - points[0]) > (1 - _STRAIGHT) * length:
        return None
    level = Level.of(points)
    points = np.round(level.moved(points), 4)
    own = level.of_scan(scan)
    bend = bend_through(points, closed)
    slices = _plainest(own, bend)
    if slices is None or not slices.fits:
        return None
    path = {"kind": "points", "points": points.tolist(), **({"closed": True} if closed else {})}
    return described_along(slices, path, own.points)


@dataclass(frozen=True, eq=False)
class _Through:
    """A curve through points (n, 3), by how much, beside its size, what lies around it is off a bar."""

    points: Array
    off: float = math.inf
    size: float = math.inf


def _fewest(scan: Scan, bend: Bend, even: bool) -> _Through:
    """The curve through as few points as let the slices be one outline. With many at once it would wind
    around the bar's middle, and its outline lie beside that."""
    best = _Through(np.zeros((0, 3)))
    for count in POINTS[1:]:
        begun = bend if best.off > _ROUGH else bend_through(best.points, bend.path.closed)
        found = _settled(scan, _as_many(begun, count), bend.path.closed, even)
        if best.off < _ROUGH and found.off > _BETTER * best.off:
            break
        best = min(best, found, key=lambda one: one.off)
    return best


def _settled(scan: Scan, points: Array, closed: bool, even: bool, rounds: int = _ROUNDS) -> _Through:
    """The curve through as many points, moved for as long as that makes the slices more alike."""
    best, worse = _Through(points), 0
    slices: Slices | None = None
    for _ in range(rounds):
        bend = bend_through(points, closed)
        slices = _cut(scan, bend, even=even, before=slices)
        if slices is None:
            break
        off = slices.off / slices.size
        worse = 0 if off < _BETTER * best.off else worse + 1
        if off < best.off:
            best = _Through(points, off, slices.size)
        if worse == _PATIENT:
            break
        points = points + _OVER * (_as_many(_moved(slices, bend), len(points)) - points)
    return best


def _as_many(bend: Bend, count: int) -> Array:
    return as_many_points(bend, (0.0, bend.path.length), bend.path.closed, count)


def _plainest(scan: Scan, bend: Bend) -> Slices | None:
    """The slices in a recipe's place, even where that is as near to the scan."""
    side = _side(bend)
    free, even = (_cut(scan, bend, side, one) for one in (False, True))
    if free is None or even is None:
        return free or even
    return even if even.off < _ALIKE * free.off + _ALIKE_OF * free.size else free


def _side(bend: Bend) -> float:
    """-1 where the section's second axis, as it goes along the curve in a recipe, is the other way round."""
    frames = Steady().stand(bend.path, 0.0).frames(np.zeros(1))
    return float(np.sign(frames.second[0] @ np.cross(frames.d_origin[0], frames.first[0])))


def _cut(
    scan: Scan, bend: Bend, side: float = 1.0, even: bool = False, before: Slices | None = None
) -> Slices | None:
    """The slices around a curve, begun with the twist of those `before` where these were slices of a bar."""
    laid = bend.straight(scan).times(np.array([1.0, side, 1.0]))
    around = bend.path.length if bend.path.closed else None
    if before is not None and before.off < _ROUGH * before.size:
        leads = [before.lead]
    else:
        leads = [screw_of(laid).lead, math.inf]
    found = [one for lead in leads if (one := cut_along(laid, about_z(lead), even, around)) is not None]
    return min(found, key=lambda one: one.off) if found else None


def _moved(slices: Slices, bend: Bend) -> Bend:
    """The curve through the middles of the slices."""
    middle, closed = slices.middle, slices.closed
    middle[:, :2] = uniform_filter1d(middle[:, :2], _SMOOTH, axis=0, mode="wrap" if closed else "nearest")
    at = np.linspace(middle[0, 2], middle[-1, 2], _NODES, endpoint=not closed)
    nodes = between(at, middle[:, 2], middle)
    return bend_through(bend.bent(nodes @ about_z().turned), closed)
