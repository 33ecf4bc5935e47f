"""Wire that a screw motion carries into itself: the pieces of a coil of one pitch and diameter, of a ring, of
a straight bar.

Where each piece of a run is the one before it moved by one screw, any two of its pieces are as far apart as
two of which one is the first: only those need a search, however many turns there are.
"""

from __future__ import annotations

import math
from typing import NamedTuple

import numpy as np

from metaspira.numbers.jets import Array

FIRST, LAST, ANGLE, RISE = range(4)
AXIS, CENTRE = 4, 7
NO_RUN = np.array([0.0, -1.0, *8 * [0.0]])
_LEAST = 24
_ALIKE = 1e-8
_STRAIGHT = 1e-10


class _Screw(NamedTuple):
    """A turn by `angle`, radians, around a line through `centre` along `axis`, and a `rise` along it, mm."""

    angle: float
    rise: float
    axis: Array
    centre: Array

    def carried(self, times: Array, frame: Array) -> tuple[Array, Array]:
        """The places (…, 3) and axes (…, m, 3) of a piece's frame (6, 3 + 3 m), moved so many `times`
        (n,)."""
        n = self.axis
        across = np.array([[0.0, -n[2], n[1]], [n[2], 0.0, -n[0]], [-n[1], n[0], 0.0]])
        sine, cosine = (f(times * self.angle)[:, None, None] for f in (np.sin, np.cos))
        turn = np.eye(3) * cosine + across * sine + np.outer(n, n) * (1 - cosine)
        places = np.einsum("kab,rb->kra", turn, frame[:, :3] - self.centre) + self.centre
        axes = np.einsum("kab,rmb->krma", turn, frame[:, 3:].reshape(len(frame), -1, 3))
        return places + (times[:, None] * self.rise * n)[:, None, :], axes


def run_of(frame: Array, alike: Array, reach: float, allowed: float) -> Array:
    """The longest run of pieces, of Bézier coefficients `frame` (n, 6, 3 + 3 m), that one screw carries from
    each to the next within `allowed` mm, with that screw: (10,) by FIRST…; NO_RUN where there is none worth
    it. `alike` (n,) numbers what else pieces must share, less than 0 where they may not belong to a run; the
    section reaches `reach` mm from the axes."""
    chords = frame[:, 5, :3] - frame[:, 0, :3]
    if len(frame) < _LEAST:
        return NO_RUN
    one, two, three = chords[:-2], chords[1:-1], chords[2:]
    size = float(np.abs(chords).max())
    sums = np.stack(
        [
            (one * one).sum(axis=1) / size**2,
            (one * two).sum(axis=1) / size**2,
            (one * three).sum(axis=1) / size**2,
            (one * np.cross(two, three)).sum(axis=1) / size**3,
        ]
    )
    same = np.all(np.abs(np.diff(sums, axis=1)) <= _ALIKE, axis=0)
    for k in range(4):
        one_more = alike[k : len(alike) - 3 + k]
        same &= (one_more >= 0) & (one_more == alike[:-3])
    edges = np.flatnonzero(np.diff(np.concatenate([[False], same, [False]]).astype(int)))
    if not len(edges):
        return NO_RUN
    spans = edges.reshape(-1, 2)
    low, high = spans[np.argmax(spans[:, 1] - spans[:, 0])]
    first, last = int(low), int(high) + 2
    if last - first < _LEAST:
        return NO_RUN
    screw = _fitted(frame[first : last + 1, 0, :3])
    places, axes = screw.carried(np.arange(last - first + 1.0), frame[first])
    run = frame[first : last + 1]
    off = float(np.abs(places - run[:, :, :3]).max())
    if axes.shape[2]:
        off += reach * float(np.abs(axes - run[:, :, 3:].reshape(axes.shape)).max())
    if not math.sqrt(3) * off <= allowed:
        return NO_RUN
    return np.array([first, last, screw.angle, screw.rise, *screw.axis, *screw.centre])


def _fitted(x: Array) -> _Screw:
    """The screw that carries each of places (n, 3) to the next."""
    chords = np.diff(x, axis=0)
    bends = np.diff(chords, axis=0)
    steps = len(bends) - 1
    turning = np.cross(bends[:-1], bends[1:]).sum(axis=0)
    long = float(np.linalg.norm(turning))
    if long <= _STRAIGHT * float((chords * chords).sum()):
        rise = x[-1] - x[0]
        far = float(np.linalg.norm(rise))
        return _Screw(0.0, far / (len(x) - 1), rise / far, np.zeros(3))
    axis = turning / long
    step = math.atan2(axis @ np.cross(bends[0], bends[1]), bends[0] @ bends[1])
    whole = math.atan2(axis @ np.cross(bends[0], bends[-1]), bends[0] @ bends[-1])
    angle = (whole + 2 * math.pi * round((steps * step - whole) / (2 * math.pi))) / steps
    rise = float(axis @ (x[-1] - x[0])) / (len(x) - 1)
    plain = _Screw(angle, rise, axis, np.zeros(3))
    turn = np.stack(
        [plain.carried(np.ones(1), row[None])[0][0, 0] - rise * axis for row in np.eye(3)], axis=1
    )
    moved = (x[1:] - x[:-1] @ turn.T - rise * axis).mean(axis=0)
    centre = np.linalg.lstsq(
        np.eye(3) - turn + np.outer(axis, axis), moved - axis * (axis @ moved), rcond=None
    )[0]
    return _Screw(angle, rise, axis, centre - axis * (axis @ centre))


def around_z(run: Array, reach: float, allowed: float) -> bool:
    """Whether a run, within `reach` mm of the origin, is carried around the z axis and along it, within
    `allowed` mm."""
    tilt = float(np.abs(run[AXIS : AXIS + 2]).sum())
    off = 2 * tilt * reach + 2 * float(np.abs(run[CENTRE : CENTRE + 2]).sum())
    return bool(run[LAST] > 0 and off + tilt * abs(run[RISE]) * (run[LAST] - run[FIRST]) <= allowed)


def move_alike(one: Array, two: Array, reach: float, allowed: float) -> bool:
    """Whether the runs of two bodies, within `reach` mm of the origin, are carried by one and the same screw,
    within `allowed` mm."""
    if min(one[LAST], two[LAST]) < 0:
        return False
    steps = max(run[LAST] - run[FIRST] for run in (one, two))
    off = np.abs(one - two)
    turned = steps * off[ANGLE] + 2 * off[AXIS:CENTRE].sum()
    return bool(2 * reach * turned + steps * off[RISE] + 2 * off[CENTRE:].sum() <= allowed)
