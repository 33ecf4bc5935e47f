"""Affine control nets: each control point of the section follows its own space curve.

A section edge is a rational Bézier curve with control points pᵢ = (uᵢ, vᵢ) and weights wᵢ. Under a frame
that moves affinely the edge at s has the control points  cᵢ(s) = o(s) + uᵢ a(s) + vᵢ b(s)  and the same
weights; where the section changes, uᵢ and vᵢ do as well. Interpolating the cᵢ at common stations by
quintic B-splines gives the control net of a NURBS surface: one face for each section edge and each smooth
piece of the wire, and neighbours share the very same boundary curve. There are 24 stations a turn, and
more wherever the curves would else be off by more than 3e-6 of the section's reach.
"""

from __future__ import annotations

import math
from dataclasses import dataclass

import numpy as np
import scipy.interpolate

from metaspira.numbers.jets import Array
from metaspira.sweep.sweep import Stretch, Sweep

DEGREE = 5
STATIONS_PER_TURN = 24
_NEAR = 3e-6
_REFINEMENTS = 6


@dataclass(frozen=True, eq=False)
class Net:
    """A NURBS surface: poles (along, around, 3), weights (around,), full knot vector along the wire.

    Around, it is one Bézier piece on 0..1 of degree `around − 1`, or a B-spline on the full knot vector
    `around`. `colour` is the edge's paint.
    """

    poles: Array
    weights: Array
    knots: Array
    colour: str | None = None
    around: Array | None = None

    @property
    def degree(self) -> int:
        """Along the wire."""
        return len(self.knots) - len(self.poles) - 1


@dataclass(frozen=True, eq=False)
class PieceNets:
    """The nets of one smooth piece of the wire, by loop and edge, and the turns that it makes. An edge that
    has no length on the whole piece has no net."""

    loops: tuple[tuple[Net | None, ...], ...]
    turns: float


@dataclass(frozen=True, eq=False)
class Nets:
    """The nets of all smooth pieces in their order. `orientation` as in the sweep; `around` where the last
    piece goes on in the first; `line` where the section is an open line; `tips` tells which ends come to
    a point, and `faces` which have a plane face."""

    pieces: tuple[PieceNets, ...]
    orientation: float
    around: bool
    line: bool
    tips: tuple[bool, bool]
    faces: tuple[bool, bool]


def control_nets(sweep: Sweep) -> Nets:
    """The control nets of a sweep."""
    loops = [list(loop.edges) for loop in sweep.outline.loops]
    points = [
        np.concatenate([edge.points for loop in outline.loops for edge in loop.edges])
        for outline in sweep.section.outlines
    ]
    pieces = []
    allowed = _NEAR * sweep.section.reach()
    for stretch, p, _ in sweep.stations_by_stretch(STATIONS_PER_TURN, least=2 * DEGREE):
        spline = _interpolated(sweep, stretch, np.stack(points), p, allowed)
        poles = spline.c.reshape(len(spline.c), -1, 3)
        at = 0
        nets = []
        for edges in loops:
            row = []
            for edge in edges:
                count = len(edge.points)
                row.append(Net(poles[:, at : at + count], edge.weights, spline.t, edge.colour))
                at += count
            nets.append(tuple(row))
        low, high = sweep.turned(np.array([stretch.low, stretch.high]))
        pieces.append(PieceNets(tuple(nets), float(high - low) / (2 * math.pi)))
    line = not sweep.outline.closed
    tips = (sweep.ends[0].closes, sweep.ends[1].closes)
    first, last = (
        not (line or sweep.closed or tip or end.kind == "open")
        for tip, end in zip(tips, sweep.ends, strict=True)
    )
    return Nets(tuple(pieces), sweep.orientation, sweep.closed, line, tips, (first, last))


def _interpolated(
    sweep: Sweep, stretch: Stretch, points: Array, p: Array, allowed: float
) -> scipy.interpolate.BSpline:
    """The curves of section points (outlines, k, 2) over a smooth piece, from stations p (n,) on, with
    more of them wherever the curves would be off by more than `allowed` mm halfway between two."""

    def curves(at: Array) -> Array:
        s = stretch.place(at)[0]
        return sweep.frames(s).points(sweep.uv(points, s)).reshape(len(s), -1)

    known = curves(p)
    for _ in range(_REFINEMENTS):
        spline = scipy.interpolate.make_interp_spline(p, known, k=DEGREE)
        middle = 0.5 * (p[1:] + p[:-1])
        there = curves(middle)
        off = np.abs(spline(middle) - there).max(axis=1) > allowed
        if not off.any():
            break
        off[:-1] |= off[1:]
        off[1:] |= off[:-1]
        order = np.argsort(np.concatenate([p, middle[off]]))
        p, known = np.concatenate([p, middle[off]])[order], np.concatenate([known, there[off]])[order]
    return scipy.interpolate.make_interp_spline(p, known, k=DEGREE)
