"""A boundary representation from control nets, with no boolean and no sewing.

Along the wire the nets are cut into pieces of a few turns, since the kernel's own volume integration
drifts on long faces. Neighbouring faces share their edges, edges share their vertices, so the shell is
closed by construction; the two end faces are planes.
"""

from __future__ import annotations

import itertools
import math
from collections.abc import Callable
from dataclasses import dataclass

import numpy as np
from OCP.BRep import BRep_Builder
from OCP.collections import Array1_double, Array1_gp_Pnt, Array1_int, Array2_double, Array2_gp_Pnt
from OCP.Geom import Geom_BSplineCurve, Geom_BSplineSurface, Geom_Plane
from OCP.Geom2d import Geom2d_Line
from OCP.gp import gp_Dir, gp_Dir2d, gp_Pnt, gp_Pnt2d
from OCP.TopAbs import TopAbs_Orientation
from OCP.TopoDS import TopoDS_Edge, TopoDS_Face, TopoDS_Shell, TopoDS_Solid, TopoDS_Vertex, TopoDS_Wire
from scipy.interpolate import BSpline, make_interp_spline

from metaspira.paths.quadrature import Array
from metaspira.solids.nets import DEGREE, Nets

TOLERANCE = 1e-6
TURNS_A_FACE = 8

_FORWARD = TopAbs_Orientation.TopAbs_FORWARD
_REVERSED = TopAbs_Orientation.TopAbs_REVERSED

Progress = Callable[[float], None]


@dataclass(frozen=True, eq=False)
class _Piece:
    """One section edge between two cuts: poles (along, around, 3) and the knots along the wire."""

    poles: Array
    weights: Array
    knots: Array


def build_solid(nets: Nets, turns: float, progress: Progress = lambda share: None) -> TopoDS_Solid:
    """The solid of a set of nets, cut every few of its `turns`. `progress` is called with 0..1."""
    cuts = np.linspace(0.0, nets.length, max(1, math.ceil(turns / TURNS_A_FACE - 1e-9)) + 1)
    build = BRep_Builder()
    shell = TopoDS_Shell()
    build.MakeShell(shell)
    pieces = [_cut(nets, edge, cuts) for edge in range(len(nets.edges))]
    count = len(nets.edges)
    rings = []
    for k in range(len(cuts)):
        piece = min(k, len(cuts) - 2)
        row = 0 if k == 0 or k < len(cuts) - 1 else -1
        rings.append(_ring(build, [pieces[e][piece] for e in range(count)], row))
    outward = _FORWARD if nets.orientation > 0 else _REVERSED
    for k in range(len(cuts) - 1):
        columns = [
            _long_edge(build, pieces[e][k], rings[k].vertices[e], rings[k + 1].vertices[e])
            for e in range(count)
        ]
        for e in range(count):
            face = _side(
                build,
                pieces[e][k],
                rings[k].edges[e],
                rings[k + 1].edges[e],
                columns[e],
                columns[(e + 1) % count],
                cuts[k],
                cuts[k + 1],
            )
            build.Add(shell, face.Oriented(outward))
        progress((k + 1) / (len(cuts) - 1))
    for ring, sign in ((rings[0], -1.0), (rings[-1], 1.0)):
        build.Add(shell, _cap(build, ring, sign * nets.orientation))
    shell.Closed(True)
    solid = TopoDS_Solid()
    build.MakeSolid(solid)
    build.Add(solid, shell)
    return solid


def _cut(nets: Nets, index: int, cuts: Array) -> list[_Piece]:
    """The net of a section edge as one exact B-spline between each pair of cuts."""
    net = nets.edges[index]
    whole = BSpline(net.knots, net.poles.reshape(len(net.poles), -1), DEGREE)
    inner = net.knots[DEGREE + 1 : -DEGREE - 1]
    pieces = []
    for low, high in itertools.pairwise(cuts):
        margin = 1e-9 * (high - low)
        between = inner[(inner > low + margin) & (inner < high - margin)]
        knots = np.concatenate([[low] * (DEGREE + 1), between, [high] * (DEGREE + 1)])
        greville = np.array(
            [knots[i + 1 : i + 1 + DEGREE].mean() for i in range(len(knots) - DEGREE - 1)]
        )
        greville[0], greville[-1] = low, high
        part = make_interp_spline(greville, whole(greville), k=DEGREE, t=knots)
        pieces.append(_Piece(part.c.reshape(len(part.c), -1, 3), net.weights, knots))
    return pieces


@dataclass(frozen=True, eq=False)
class _Ring:
    """The section's vertices and edges at one cut, with the frame of its plane."""

    vertices: list[TopoDS_Vertex]
    edges: list[TopoDS_Edge]
    corners: Array


def _ring(build: BRep_Builder, pieces: list[_Piece], row: int) -> _Ring:
    vertices = []
    for piece in pieces:
        vertex = TopoDS_Vertex()
        build.MakeVertex(vertex, gp_Pnt(*piece.poles[row, 0]), TOLERANCE)
        vertices.append(vertex)
    edges = []
    for index, piece in enumerate(pieces):
        poles = piece.poles[row]
        degree = len(poles) - 1
        curve = Geom_BSplineCurve(
            _points(poles),
            _numbers(piece.weights),
            _numbers(np.array([0.0, 1.0])),
            _integers([degree + 1, degree + 1]),
            degree,
        )
        edges.append(
            _edge(build, curve, vertices[index], vertices[(index + 1) % len(pieces)], 0.0, 1.0)
        )
    return _Ring(vertices, edges, np.concatenate([piece.poles[row] for piece in pieces]))


def _long_edge(
    build: BRep_Builder, piece: _Piece, start: TopoDS_Vertex, end: TopoDS_Vertex
) -> TopoDS_Edge:
    knots, multiplicities = _knots(piece.knots)
    curve = Geom_BSplineCurve(
        _points(piece.poles[:, 0]), _numbers(knots), _integers(multiplicities), DEGREE
    )
    return _edge(build, curve, start, end, float(knots[0]), float(knots[-1]))


def _edge(
    build: BRep_Builder,
    curve: Geom_BSplineCurve,
    start: TopoDS_Vertex,
    end: TopoDS_Vertex,
    first: float,
    last: float,
) -> TopoDS_Edge:
    edge = TopoDS_Edge()
    build.MakeEdge(edge, curve, TOLERANCE)
    build.Add(edge, start.Oriented(_FORWARD))
    build.Add(edge, end.Oriented(_REVERSED))
    build.Range(edge, first, last)
    return edge


def _side(
    build: BRep_Builder,
    piece: _Piece,
    near: TopoDS_Edge,
    far: TopoDS_Edge,
    left: TopoDS_Edge,
    right: TopoDS_Edge,
    low: float,
    high: float,
) -> TopoDS_Face:
    """The face of one piece; its first parameter runs around the section, its second along the wire."""
    along, around = piece.poles.shape[:2]
    poles, weights = Array2_gp_Pnt(1, around, 1, along), Array2_double(1, around, 1, along)
    for i in range(around):
        for j in range(along):
            poles.SetValue(i + 1, j + 1, gp_Pnt(*piece.poles[j, i]))
            weights.SetValue(i + 1, j + 1, float(piece.weights[i]))
    knots, multiplicities = _knots(piece.knots)
    surface = Geom_BSplineSurface(
        poles,
        weights,
        _numbers(np.array([0.0, 1.0])),
        _numbers(knots),
        _integers([around, around]),
        _integers(multiplicities),
        around - 1,
        DEGREE,
    )
    face = TopoDS_Face()
    build.MakeFace(face, surface, TOLERANCE)
    wire = TopoDS_Wire()
    build.MakeWire(wire)
    sides = (
        (near, _FORWARD, (0.0, low), (1.0, 0.0)),
        (right, _FORWARD, (1.0, 0.0), (0.0, 1.0)),
        (far, _REVERSED, (0.0, high), (1.0, 0.0)),
        (left, _REVERSED, (0.0, 0.0), (0.0, 1.0)),
    )
    for edge, orientation, origin, direction in sides:
        line = Geom2d_Line(gp_Pnt2d(*origin), gp_Dir2d(*direction))
        build.UpdateEdge(edge, line, face, TOLERANCE)
        build.Add(wire, edge.Oriented(orientation))
    build.Add(face, wire)
    return face


def _cap(build: BRep_Builder, ring: _Ring, side: float) -> TopoDS_Face:
    """The plane face on a ring; `side` +1 where the outside is along the ring's turning."""
    points = ring.corners
    centre = points.mean(axis=0)
    turning = np.cross(points - centre, np.roll(points, -1, axis=0) - centre).sum(axis=0)
    turning /= np.linalg.norm(turning)
    face = TopoDS_Face()
    build.MakeFace(face, Geom_Plane(gp_Pnt(*centre), gp_Dir(*turning)), TOLERANCE)
    wire = TopoDS_Wire()
    build.MakeWire(wire)
    for edge in ring.edges:
        build.Add(wire, edge.Oriented(_FORWARD))
    build.Add(face, wire)
    return face.Oriented(_FORWARD if side > 0 else _REVERSED)


def _knots(full: Array) -> tuple[Array, list[int]]:
    knots, multiplicities = np.unique(full, return_counts=True)
    return knots, [int(m) for m in multiplicities]


def _points(values: Array) -> Array1_gp_Pnt:
    array = Array1_gp_Pnt(1, len(values))
    for i, value in enumerate(values):
        array.SetValue(i + 1, gp_Pnt(*value))
    return array


def _numbers(values: Array) -> Array1_double:
    array = Array1_double(1, len(values))
    for i, value in enumerate(values):
        array.SetValue(i + 1, float(value))
    return array


def _integers(values: list[int]) -> Array1_int:
    array = Array1_int(1, len(values))
    for i, value in enumerate(values):
        array.SetValue(i + 1, value)
    return array
