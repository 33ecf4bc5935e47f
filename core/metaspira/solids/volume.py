"""Volume of a solid read back from the kernel, by integrating its surfaces directly.

    V = ⅓ ∮ (x − x₀) · n dA       (divergence theorem)

over each knot span of every NURBS face by Gauss–Legendre, and over the end planes by their edges,
A n = ½ ∮ (x − x₁) × dx. The kernel's own integration drifts on long faces, and this does not.
"""

from __future__ import annotations

from collections.abc import Iterator
from typing import cast

import numpy as np
import scipy.interpolate
from OCP.BRep import BRep_Tool
from OCP.BRepAdaptor import BRepAdaptor_Curve
from OCP.BRepTools import BRepTools
from OCP.Geom import Geom_BSplineSurface, Geom_Plane
from OCP.gp import gp_Pnt, gp_Vec
from OCP.TopAbs import TopAbs_Orientation, TopAbs_ShapeEnum
from OCP.TopExp import TopExp_Explorer
from OCP.TopoDS import TopoDS, TopoDS_Face, TopoDS_Shape

from metaspira.numbers.jets import Array
from metaspira.numbers.vectors import cross
from metaspira.solids.proof import ProofError

_NODES, _WEIGHTS = np.polynomial.legendre.leggauss(20)
_ALONG_NODES, _ALONG_WEIGHTS = np.polynomial.legendre.leggauss(8)


def volume_of(shape: TopoDS_Shape) -> float:
    """Volume in mm³ of a shape made of whole B-spline faces and planes. Raises ProofError."""
    faces = _faces(shape)
    origin = _vertex(faces[0])
    return sum(_flux(face, origin) for face in faces) / 3


def area_of(shape: TopoDS_Shape) -> float:
    """Area in mm² of a shape's B-spline faces; plane ones are left out. Raises ProofError."""
    total = 0.0
    for face in _faces(shape):
        surface = BRep_Tool.Surface_s(face)
        if isinstance(surface, Geom_BSplineSurface):
            _demand_whole(face, surface)
            _, across, weights = _sampled(surface, np.zeros(3))
            total += float(weights[0] @ np.linalg.norm(across, axis=-1) @ weights[1])
    return total


def _faces(shape: TopoDS_Shape) -> list[TopoDS_Face]:
    faces = [TopoDS.Face(face) for face in each(shape, TopAbs_ShapeEnum.TopAbs_FACE)]
    if not faces:
        raise ProofError("the file holds no face")
    return faces


def each(shape: TopoDS_Shape, kind: TopAbs_ShapeEnum) -> Iterator[TopoDS_Shape]:
    """The parts of a shape that are of one kind, shared ones as often as they are used."""
    explorer = TopExp_Explorer(shape, kind)
    while explorer.More():
        yield explorer.Current()
        explorer.Next()


def _vertex(face: TopoDS_Face) -> Array:
    vertex = next(each(face, TopAbs_ShapeEnum.TopAbs_VERTEX))
    return np.array(_xyz(BRep_Tool.Pnt_s(TopoDS.Vertex(vertex))))


def _flux(face: TopoDS_Face, origin: Array) -> float:
    surface = BRep_Tool.Surface_s(face)
    sign = -1.0 if face.Orientation() == TopAbs_Orientation.TopAbs_REVERSED else 1.0
    if isinstance(surface, Geom_BSplineSurface):
        _demand_whole(face, surface)
        point, across, weights = _sampled(surface, origin)
        return sign * float(weights[0] @ np.sum(point * across, axis=-1) @ weights[1])
    if isinstance(surface, Geom_Plane):
        return float(_area_vector(face) @ (_vertex(face) - origin))
    raise ProofError(f"a face became {type(surface).__name__}")


def _demand_whole(face: TopoDS_Face, surface: Geom_BSplineSurface) -> None:
    bounds = np.array(BRepTools.UVBounds_s(face))
    if np.abs(bounds - np.array(surface.Bounds())).max() > 1e-6:
        raise ProofError("a face was trimmed")


def _sampled(surface: Geom_BSplineSurface, origin: Array) -> tuple[Array, Array, tuple[Array, Array]]:
    """Points less `origin` and normals ∂X/∂u × ∂X/∂v (along, around, 3) at Gauss points, with the weights
    along and around. The kernel reads a surface that closes around as a periodic one; it is opened first."""
    if surface.IsUPeriodic():
        surface = cast(Geom_BSplineSurface, surface.Copy())
        surface.SetUNotPeriodic()
    nu, nv = surface.NbUPoles(), surface.NbVPoles()
    homogeneous = np.ones((nv, nu, 4))
    rational = surface.IsURational() or surface.IsVRational()
    for i in range(nu):
        for j in range(nv):
            homogeneous[j, i, :3] = _xyz(surface.Pole(i + 1, j + 1))
            if rational:
                homogeneous[j, i, 3] = surface.Weight(i + 1, j + 1)
    homogeneous[..., :3] = (homogeneous[..., :3] - origin) * homogeneous[..., 3:]
    u_knots = _full(
        [surface.UKnot(i + 1) for i in range(surface.NbUKnots())],
        [surface.UMultiplicity(i + 1) for i in range(surface.NbUKnots())],
    )
    v_knots = _full(
        [surface.VKnot(i + 1) for i in range(surface.NbVKnots())],
        [surface.VMultiplicity(i + 1) for i in range(surface.NbVKnots())],
    )
    u, u_weights = _spans(u_knots, surface.UDegree(), _NODES, _WEIGHTS)
    v, v_weights = _spans(v_knots, surface.VDegree(), _ALONG_NODES, _ALONG_WEIGHTS)
    around = scipy.interpolate.BSpline(u_knots, np.eye(nu), surface.UDegree())
    along = scipy.interpolate.BSpline(v_knots, homogeneous.reshape(nv, -1), surface.VDegree())
    basis, d_basis = around(u), around(u, 1)
    rows, d_rows = (along(v, k).reshape(len(v), nu, 4) for k in (0, 1))
    point = basis @ rows
    by_u = d_basis @ rows
    by_v = basis @ d_rows
    w = point[..., 3:]
    x = point[..., :3] / w
    xu = (by_u[..., :3] - x * by_u[..., 3:]) / w
    xv = (by_v[..., :3] - x * by_v[..., 3:]) / w
    return x, cross(xu, xv), (v_weights, u_weights)


def _area_vector(face: TopoDS_Face) -> Array:
    """Area times outward normal of a plane face, from its edges."""
    total = np.zeros(3)
    base = _vertex(face)
    for shape in each(face, TopAbs_ShapeEnum.TopAbs_EDGE):
        edge = TopoDS.Edge(shape)
        curve = BRepAdaptor_Curve(edge)
        low, high = curve.FirstParameter(), curve.LastParameter()
        sign = -1.0 if edge.Orientation() == TopAbs_Orientation.TopAbs_REVERSED else 1.0
        point, slope = gp_Pnt(), gp_Vec()
        for node, weight in zip(_NODES, _WEIGHTS, strict=True):
            curve.D1(0.5 * (low + high) + 0.5 * (high - low) * node, point, slope)
            step = sign * 0.25 * (high - low) * weight
            total += step * np.cross(_xyz(point) - base, _xyz(slope))
    return total


def _full(knots: list[float], multiplicities: list[int]) -> Array:
    return np.repeat(np.array(knots), multiplicities)


def _spans(full: Array, degree: int, nodes: Array, weights: Array) -> tuple[Array, Array]:
    """Gauss points and weights over each span of a full knot vector that is in its domain."""
    edges = np.unique(full[degree : len(full) - degree])
    half = 0.5 * np.diff(edges)[:, None]
    middle = 0.5 * (edges[1:] + edges[:-1])[:, None]
    return (middle + half * nodes).ravel(), (half * weights).ravel()


def _xyz(value: gp_Pnt | gp_Vec) -> tuple[float, float, float]:
    return value.X(), value.Y(), value.Z()
