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
import scipy.interpolate
from OCP.BRep import BRep_Builder
from OCP.collections import Array1_double, Array1_gp_Pnt, Array1_int, Array2_double, Array2_gp_Pnt
from OCP.Geom import Geom_BSplineCurve, Geom_BSplineSurface, Geom_Plane
from OCP.Geom2d import Geom2d_Line
from OCP.gp import gp_Dir, gp_Dir2d, gp_Pnt, gp_Pnt2d
from OCP.TopAbs import TopAbs_Orientation
from OCP.TopoDS import (
    TopoDS_Edge,
    TopoDS_Face,
    TopoDS_Shape,
    TopoDS_Shell,
    TopoDS_Solid,
    TopoDS_Vertex,
    TopoDS_Wire,
)

from metaspira.numbers.jets import Array
from metaspira.solids.nets import Net, Nets, PieceNets

TOLERANCE = 1e-6
TURNS_A_FACE = 8

_FORWARD = TopAbs_Orientation.TopAbs_FORWARD
_REVERSED = TopAbs_Orientation.TopAbs_REVERSED

Progress = Callable[[float], None]


@dataclass(frozen=True, eq=False)
class _Piece:
    """One section edge between two cuts: poles (along, around, 3), the knots along the wire and around."""

    poles: Array
    weights: Array
    knots: Array
    around: Array
    colour: str | None

    @property
    def rational(self) -> bool:
        return bool(np.any(self.weights != 1.0))

    @property
    def degree(self) -> int:
        """Around the section."""
        return len(self.around) - self.poles.shape[1] - 1

    @property
    def degree_along(self) -> int:
        """Along the wire."""
        return len(self.knots) - len(self.poles) - 1


@dataclass(frozen=True, eq=False)
class _Ring:
    """The section's vertices and edges at one cut, by loop. An edge that has no length there is None, and its
    two vertices are the same one; at a tip that is so for all of them."""

    vertices: list[list[TopoDS_Vertex]]
    edges: list[list[TopoDS_Edge | None]]
    corners: Array


@dataclass(frozen=True, eq=False)
class Built:
    """A solid or a shell, and those of its faces that are painted, with their colours."""

    shape: TopoDS_Shape
    painted: tuple[tuple[TopoDS_Shape, str], ...]


def build_shape(nets: Nets, progress: Progress = lambda share: None) -> Built:
    """The solid of a set of nets, cut every few turns, or its shell where it encloses nothing.
    `progress` is called with 0..1."""
    painted: list[tuple[TopoDS_Shape, str]] = []
    build = BRep_Builder()
    shell = TopoDS_Shell()
    build.MakeShell(shell)
    least = 2 if nets.around and len(nets.pieces) == 1 else 1
    cuts = [cut for piece in nets.pieces for cut in _cut(piece, least)]
    rings = [_ring(build, nets, cuts, k) for k in range(len(cuts) + (0 if nets.around else 1))]
    if nets.around:
        rings.append(rings[0])
    for k, cut in enumerate(cuts):
        for loop, pieces in enumerate(cut):
            outward = (nets.orientation > 0) == (loop == 0)
            painted += _add_sides(build, shell, pieces, rings[k], rings[k + 1], loop, outward)
        progress((k + 1) / len(cuts))
    for ring, sign, wanted in ((rings[0], -1.0, nets.faces[0]), (rings[-1], 1.0, nets.faces[1])):
        if wanted:
            build.Add(shell, _cap(build, ring, sign * nets.orientation))
    closed = not nets.line and all(
        nets.around or face or tip for face, tip in zip(nets.faces, nets.tips, strict=True)
    )
    shell.Closed(closed)
    if not closed:
        return Built(shell, tuple(painted))
    solid = TopoDS_Solid()
    build.MakeSolid(solid)
    build.Add(solid, shell)
    return Built(solid, tuple(painted))


def _cut(piece: PieceNets, least: int) -> list[list[list[_Piece | None]]]:
    """The nets of a smooth piece as `least` or more exact B-splines: by cut, loop and edge."""
    knots = next(net.knots for loop in piece.loops for net in loop if net is not None)
    count = max(least, math.ceil(piece.turns / TURNS_A_FACE - 1e-9))
    cuts = np.linspace(knots[0], knots[-1], count + 1)
    nets = [[None if net is None else _cut_net(net, cuts) for net in loop] for loop in piece.loops]
    return [
        [[None if edge is None else edge[k] for edge in loop] for loop in nets] for k in range(len(cuts) - 1)
    ]


def _cut_net(net: Net, cuts: Array) -> list[_Piece]:
    around = net.poles.shape[1]
    knots_around = np.repeat([0.0, 1.0], around) if net.around is None else net.around
    if len(cuts) == 2:
        return [_Piece(net.poles, net.weights, net.knots, knots_around, net.colour)]
    degree = net.degree
    whole = scipy.interpolate.BSpline(net.knots, net.poles.reshape(len(net.poles), -1), degree)
    inner = net.knots[degree + 1 : -degree - 1]
    pieces = []
    for low, high in itertools.pairwise(cuts):
        margin = 1e-9 * (high - low)
        between = inner[(inner > low + margin) & (inner < high - margin)]
        knots = np.concatenate([[low] * (degree + 1), between, [high] * (degree + 1)])
        greville = np.array([knots[i + 1 : i + 1 + degree].mean() for i in range(len(knots) - degree - 1)])
        greville[0], greville[-1] = low, high
        part = scipy.interpolate.make_interp_spline(greville, whole(greville), k=degree, t=knots)
        poles = part.c.reshape(len(part.c), -1, 3)
        pieces.append(_Piece(poles, net.weights, knots, knots_around, net.colour))
    return pieces


def _ring(build: BRep_Builder, nets: Nets, cuts: list[list[list[_Piece | None]]], k: int) -> _Ring:
    """The ring before cut k; after the last one, where k is their number."""
    loops, row = (cuts[k], 0) if k < len(cuts) else (cuts[-1], -1)
    corners = np.concatenate([piece.poles[row] for piece in loops[0] if piece is not None])
    vertices, edges = [], []
    for pieces in loops:
        own, wide = _loop_vertices(build, pieces, row, nets.line)
        vertices.append(own)
        edges.append(
            [
                _across(build, piece, row, own[i], own[(i + 1) % len(own)])
                if piece is not None and wide[i]
                else None
                for i, piece in enumerate(pieces)
            ]
        )
    return _Ring(vertices, edges, corners)


def _loop_vertices(
    build: BRep_Builder, pieces: list[_Piece | None], row: int, line: bool
) -> tuple[list[TopoDS_Vertex], list[bool]]:
    """The vertex before each piece of a loop at a row, and whether the piece has a length there; of an open
    line, the vertex after the last one as well."""
    wide = [
        piece is not None and bool(np.abs(piece.poles[row] - piece.poles[row, 0]).max() > TOLERANCE)
        for piece in pieces
    ]
    own: list[TopoDS_Vertex | None] = [None] * len(pieces)
    if not any(wide):
        point = _vertex(build, next(piece for piece in pieces if piece is not None).poles[row, 0])
        return [point] * (len(pieces) + line), wide
    for i, piece in enumerate(pieces):
        if wide[i] and piece is not None:
            own[i] = _vertex(build, piece.poles[row, 0])
    for i in reversed(range(2 * len(pieces))):
        j = i % len(pieces)
        if own[j] is None:
            own[j] = own[(j + 1) % len(pieces)]
    found = [vertex for vertex in own if vertex is not None]
    if line:
        last = pieces[-1]
        assert last is not None
        found.append(_vertex(build, last.poles[row, -1]))
    return found, wide


def _vertex(build: BRep_Builder, place: Array) -> TopoDS_Vertex:
    vertex = TopoDS_Vertex()
    build.MakeVertex(vertex, gp_Pnt(*place), TOLERANCE)
    return vertex


def _across(
    build: BRep_Builder, piece: _Piece, row: int, start: TopoDS_Vertex, end: TopoDS_Vertex
) -> TopoDS_Edge:
    knots, multiplicities = _knots(piece.around)
    weights = [_numbers(piece.weights)] if piece.rational else []
    curve = Geom_BSplineCurve(
        _points(piece.poles[row]), *weights, _numbers(knots), _integers(multiplicities), piece.degree
    )
    return _edge(build, curve, start, end, 0.0, 1.0)


def _add_sides(
    build: BRep_Builder,
    shell: TopoDS_Shell,
    pieces: list[_Piece | None],
    near: _Ring,
    far: _Ring,
    loop: int,
    outward: bool,
) -> list[tuple[TopoDS_Shape, str]]:
    """Add the faces of one loop between two rings; those that are painted."""
    painted: list[tuple[TopoDS_Shape, str]] = []
    start, end = near.vertices[loop], far.vertices[loop]
    present = [(e, piece) for e, piece in enumerate(pieces) if piece is not None]
    columns = [_long_edge(build, piece, start[e], end[e], 0) for e, piece in present]
    if len(start) > len(pieces):
        columns.append(_long_edge(build, present[-1][1], start[-1], end[-1], -1))
    for k, (e, piece) in enumerate(present):
        ends = [ring.edges[loop][e] or _nothing(build, ring.vertices[loop][e]) for ring in (near, far)]
        face = _side(build, piece, ends[0], ends[1], columns[k], columns[(k + 1) % len(columns)])
        side = face.Oriented(_FORWARD if outward else _REVERSED)
        build.Add(shell, side)
        if piece.colour is not None:
            painted.append((side, piece.colour))
    return painted


def _nothing(build: BRep_Builder, vertex: TopoDS_Vertex) -> TopoDS_Edge:
    """An edge of no length, where a face comes to a point."""
    edge = TopoDS_Edge()
    build.MakeEdge(edge)
    build.Degenerated(edge, True)
    build.Add(edge, vertex.Oriented(_FORWARD))
    build.Add(edge, vertex.Oriented(_REVERSED))
    build.Range(edge, 0.0, 1.0)
    return edge


def _long_edge(
    build: BRep_Builder, piece: _Piece, start: TopoDS_Vertex, end: TopoDS_Vertex, column: int
) -> TopoDS_Edge:
    knots, multiplicities = _knots(piece.knots)
    curve = Geom_BSplineCurve(
        _points(piece.poles[:, column]), _numbers(knots), _integers(multiplicities), piece.degree_along
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
) -> TopoDS_Face:
    """The face of one piece; its first parameter runs around the section, its second along the wire."""
    along, around = piece.poles.shape[:2]
    low, high = float(piece.knots[0]), float(piece.knots[-1])
    rational = piece.rational
    poles = Array2_gp_Pnt(1, around, 1, along)
    weights = Array2_double(1, around, 1, along)
    for i in range(around):
        for j in range(along):
            poles.SetValue(i + 1, j + 1, gp_Pnt(*piece.poles[j, i]))
            if rational:
                weights.SetValue(i + 1, j + 1, float(piece.weights[i]))
    knots, multiplicities = _knots(piece.knots)
    knots_around, around_multiplicities = _knots(piece.around)
    surface = Geom_BSplineSurface(
        poles,
        *([weights] if rational else []),
        _numbers(knots_around),
        _numbers(knots),
        _integers(around_multiplicities),
        _integers(multiplicities),
        piece.degree,
        piece.degree_along,
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
    lines = [Geom2d_Line(gp_Pnt2d(*origin), gp_Dir2d(*direction)) for _, _, origin, direction in sides]
    if left.IsSame(right):
        build.UpdateEdge(right, lines[1], lines[3], face, TOLERANCE)
    for k, (edge, orientation, _, _) in enumerate(sides):
        if k % 2 == 0 or not left.IsSame(right):
            build.UpdateEdge(edge, lines[k], face, TOLERANCE)
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
    for loop, edges in enumerate(ring.edges):
        wire = TopoDS_Wire()
        build.MakeWire(wire)
        for edge in edges:
            if edge is not None:
                build.Add(wire, edge.Oriented(_FORWARD))
        build.Add(face, wire.Oriented(_REVERSED if loop else _FORWARD))
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
