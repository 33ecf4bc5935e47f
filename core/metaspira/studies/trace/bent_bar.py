"""A bar along a curve, which may be twisted and grow thicker or thinner: laid straight it is a straight one,
and the curve is moved until its slices lie around it."""

from __future__ import annotations

import math
from dataclasses import replace

import numpy as np
from scipy.ndimage import uniform_filter1d

from metaspira.numbers.jets import Array
from metaspira.studies.trace.around import between
from metaspira.studies.trace.bar import Slices, TracedBar, cut_along, described_along
from metaspira.studies.trace.bent import Bend, Level, bend_through, few_points, finer
from metaspira.studies.trace.scan import Scan
from metaspira.studies.trace.screw import about_z, screw_of
from metaspira.sweep.stances import Steady

_KEPT = (0.05, 0.03, 0.02, 0.01, 0.005, 0.005)
_NODES, _SMOOTH = 40, 5
_STRAIGHT = 0.02


def bent_bar_of(scan: Scan, bend: Bend) -> TracedBar | None:
    """The bar along a curve near to `bend`, with the scan moved to where it stands; None where it is none,
    a ring, or straight."""
    fine = finer(bend, scan)
    if fine is None or fine.path.closed:
        return None
    bend = fine
    points: Array | None = None
    for kept in _KEPT:
        slices = _cut(scan, bend)
        if slices is None:
            return None
        bend = _moved(slices, bend)
        length = bend.path.length
        tolerance = max(kept * slices.size, 0.5 * slices.off)
        points = few_points(bend, (0.0, length), False, tolerance)
        bend = bend_through(points, False)
    assert points is not None
    if np.linalg.norm(points[-1] - points[0]) > (1 - _STRAIGHT) * length:
        return None
    level = Level.of(points)
    points = np.round(level.moved(points), 4)
    own = level.of_scan(scan)
    bend = bend_through(points, False)
    slices = _cut(own, bend, _side(bend))
    if slices is None or not slices.fits:
        return None
    slices = replace(slices, off=math.hypot(slices.off, tolerance))
    return described_along(slices, {"kind": "points", "points": points.tolist()}, own.points)


def _side(bend: Bend) -> float:
    """-1 where the section's second axis, as it goes along the curve in a recipe, is the other way round."""
    frames = Steady().stand(bend.path, 0.0).frames(np.zeros(1))
    return float(np.sign(frames.second[0] @ np.cross(frames.d_origin[0], frames.first[0])))


def _cut(scan: Scan, bend: Bend, side: float = 1.0) -> Slices | None:
    laid = bend.straight(scan).times(np.array([1.0, side, 1.0]))
    leads = (screw_of(laid).lead, math.inf)
    found = [one for lead in leads if (one := cut_along(laid, about_z(lead))) is not None]
    return min(found, key=lambda one: one.off) if found else None


def _moved(slices: Slices, bend: Bend) -> Bend:
    """The curve through the middles of the slices."""
    middle = slices.middle
    middle[:, :2] = uniform_filter1d(middle[:, :2], _SMOOTH, axis=0, mode="nearest")
    at = np.linspace(middle[0, 2], middle[-1, 2], _NODES)
    nodes = between(at, middle[:, 2], middle)
    return bend_through(bend.bent(nodes @ about_z().turned), False)
