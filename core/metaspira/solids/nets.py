"""Affine control nets: each control point of the section follows its own space curve.

A section edge is a rational Bézier curve with control points pᵢ = (uᵢ, vᵢ) and weights wᵢ. Under a frame
that moves affinely the edge at s has the control points  cᵢ(s) = o(s) + uᵢ a(s) + vᵢ b(s)  and the same
weights. Interpolating the cᵢ at common stations by quintic B-splines gives the control net of a NURBS
surface: one face for each section edge, and neighbours share the very same boundary curve. With 24
stations a turn the surface differs from the sweep by about 1e-7 of the radius of the coil.
"""

from __future__ import annotations

from dataclasses import dataclass

import numpy as np
from scipy.interpolate import make_interp_spline

from metaspira.paths.quadrature import Array
from metaspira.sweep.sweep import Sweep

DEGREE = 5
STATIONS_PER_TURN = 24


@dataclass(frozen=True, eq=False)
class Net:
    """A NURBS surface: poles (along, around, 3), weights (around,), full knot vector along the wire.

    Around, it is one Bézier piece on 0..1 of degree `around − 1`.
    """

    poles: Array
    weights: Array
    knots: Array


@dataclass(frozen=True, eq=False)
class Nets:
    """The nets of all section edges in their order; `orientation` as in the sweep."""

    edges: tuple[Net, ...]
    length: float
    orientation: float


def control_nets(sweep: Sweep) -> Nets:
    """The control nets of a sweep."""
    s = sweep.stations(STATIONS_PER_TURN, least=2 * DEGREE)
    frames = sweep.frames(s)
    counts = [len(edge.points) for edge in sweep.outline.edges]
    curves = frames.points(np.concatenate([edge.points for edge in sweep.outline.edges]))
    spline = make_interp_spline(s, curves.reshape(len(s), -1), k=DEGREE)
    poles = spline.c.reshape(len(s), -1, 3)
    starts = np.concatenate([[0], np.cumsum(counts)])
    nets = tuple(
        Net(poles[:, starts[i] : starts[i + 1]], edge.weights, spline.t)
        for i, edge in enumerate(sweep.outline.edges)
    )
    return Nets(nets, sweep.length, sweep.orientation)
