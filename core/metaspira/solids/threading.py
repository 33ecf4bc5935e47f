"""Control nets of a thread's surface: every patch of every piece is one NURBS surface.

Around, a patch is interpolated at Chebyshev points as the Bézier piece of the least degree that is within
2e-9 of the radius, or as a septic B-spline where it spans more than 130°; along, by B-splines of degree 9
through planes square to the axis, closer wherever the surface would else be off by more than 2e-7 mm, so that
patches meet within the kernel's tolerance.
"""

from __future__ import annotations

import math
from collections.abc import Iterator
from dataclasses import dataclass
from functools import cache

import numpy as np
import scipy.interpolate

from metaspira.numbers.jets import Array
from metaspira.sections.outline import bernstein, chebyshev
from metaspira.solids.nets import Net, Nets, PieceNets
from metaspira.threads.body import Lateral, ThreadBody
from metaspira.threads.surface import Piece, Slot, ThreadSurface

_DEGREE = 9
_STATIONS_A_TURN = 10
_CLOSE = 2e-9
_LEAST, _MOST = 3, 10
_PROBES = np.array([0.0, 0.31, 0.5, 0.83, 1.0])
_WIDEST = math.radians(130)
_SPLINE = 7
_SPAN = math.radians(15)
_NEAR = 2e-7
_REFINEMENTS = 5


@dataclass(frozen=True, eq=False)
class _Around:
    """Where a patch is sampled around, and how the samples become poles."""

    shares: Array
    poles: Array
    knots: Array | None


def thread_nets(body: ThreadBody) -> Nets:
    """The control nets of a threaded body: its outer surface, and that of its hole."""
    pieces = []
    for piece in body.pieces:
        q = _stations(body.thread, piece)
        low, high = piece.leg.heights
        loops = tuple(tuple(_loop_nets(surface, piece, q)) for surface in body.loops)
        pieces.append(PieceNets(loops, (high - low) / body.thread.lead))
    return Nets(tuple(pieces), 1.0, False, False, (False, False), (True, True))


def _stations(surface: ThreadSurface, piece: Piece) -> Array:
    """Planes (n,) of a piece, the same for all its patches."""
    low, high = piece.leg.heights
    turns = (high - low) / surface.lead
    q = np.linspace(0, 1, max(2 * _DEGREE, math.ceil(_STATIONS_A_TURN * turns)) + 1)
    allowed = _NEAR + 1e-9 * surface.outer_radius
    shares = np.array([0.0, 0.37, 1.0])
    slots = [slot for slot in surface.slots if not surface.is_nothing(piece, slot)[1]]

    def curves(at: Array) -> Array:
        rows = [surface.patch(piece, slot, 0, at, shares).reshape(len(at), -1) for slot in slots]
        return np.concatenate(rows, axis=1)

    for _ in range(_REFINEMENTS):
        spline = scipy.interpolate.make_interp_spline(q, curves(q), k=_DEGREE)
        middle = 0.5 * (q[1:] + q[:-1])
        off = np.abs(spline(middle) - curves(middle)).max(axis=1) > allowed
        if not off.any():
            break
        off[:-1] |= off[1:]
        off[1:] |= off[:-1]
        q = np.sort(np.concatenate([q, middle[off]]))
    return q


def _loop_nets(surface: Lateral, piece: Piece, q: Array) -> Iterator[Net | None]:
    ways = {slot: _around(surface, piece, slot) for slot in surface.slots}
    for start, slot in surface.around():
        nothing = surface.is_nothing(piece, slot)[1]
        yield None if nothing else _net(surface, piece, slot, start, q, ways[slot])


def _net(surface: Lateral, piece: Piece, slot: Slot, start: int, q: Array, around: _Around) -> Net:
    samples = surface.patch(piece, slot, start, q, around.shares)
    poles = np.einsum("ij,njk->nik", around.poles, samples)
    along = scipy.interpolate.make_interp_spline(q, poles.reshape(len(q), -1), k=_DEGREE)
    count = poles.shape[1]
    return Net(along.c.reshape(len(along.c), count, 3), np.ones(count), along.t, None, around.knots)


def _around(surface: Lateral, piece: Piece, slot: Slot) -> _Around:
    """A spline where the patch is wide, or the Bézier piece of the least degree that is close enough."""
    width = surface.width(piece, slot)
    if width > _WIDEST:
        return _spline(math.ceil(width / _SPAN))
    for degree in range(_LEAST, _MOST):
        bezier = _bezier(degree)
        between = bezier.shares[:-1] + 0.5 * np.diff(bezier.shares)
        at, there = (surface.patch(piece, slot, 0, _PROBES, w) for w in (bezier.shares, between))
        found = np.einsum("ij,njk->nik", bernstein(degree, between) @ bezier.poles, at)
        if np.abs(found - there).max() < _CLOSE * surface.outer_radius:
            return bezier
    return _bezier(_MOST)


@cache
def _bezier(degree: int) -> _Around:
    shares = chebyshev(degree)
    return _Around(shares, np.array(np.linalg.inv(bernstein(degree, shares))), None)


@cache
def _spline(spans: int) -> _Around:
    spans = max(_SPLINE + 1, spans)
    knots = np.concatenate([np.zeros(_SPLINE), np.linspace(0, 1, spans + 1), np.ones(_SPLINE)])
    count = len(knots) - _SPLINE - 1
    shares = np.array([knots[i + 1 : i + 1 + _SPLINE].mean() for i in range(count)])
    shares[0], shares[-1] = 0.0, 1.0
    basis = scipy.interpolate.BSpline(knots, np.eye(count), _SPLINE)(shares)
    return _Around(shares, np.linalg.inv(basis), knots)
