"""The section as a drawing (DXF, SVG), in the plane across the wire and, on a coil, in the plane through the
axis.

Across the wire, or wherever it was given, DXF keeps its edges exact: lines and rational Bézier curves as
splines. The other plane, and all of SVG, has cubic curves that keep to the edges within a thousandth of the
section's reach.
"""

from __future__ import annotations

import io
import itertools
from collections.abc import Callable
from dataclasses import asdict, dataclass
from typing import Any
from xml.etree import ElementTree

import ezdxf
import numpy as np
from ezdxf.layouts import Modelspace
from ezdxf.path import make_path
from svgelements import SVG, CubicBezier, Path

from metaspira.formats.svg import canvas
from metaspira.numbers.jets import Array
from metaspira.parts import Part
from metaspira.problems import Problem, RecipeError
from metaspira.sections.outline import Edge, Outline
from metaspira.sections.planes import across_from_axial, axial_from_across

_PIECES = 12
_GAP = 0.4
_ALLOWED = 2e-4

Map = Callable[[Array], Array]


@dataclass(frozen=True)
class Plane:
    """The outline in one plane: its name, and the map of its points there from where it is given, None where
    it is given there."""

    name: str
    map: Map | None


@dataclass(frozen=True)
class OutlineProof:
    """Area of the section as read back from the file, and as predicted, mm²; of an open line, its length,
    mm."""

    measure: float
    predicted: float

    @property
    def relative_error(self) -> float:
        return abs(self.measure - self.predicted) / self.predicted

    def as_dict(self) -> dict[str, Any]:
        return {**asdict(self), "relative_error": self.relative_error}


def outline_of(part: Part, suffix: str) -> tuple[str, OutlineProof]:
    """The text of a drawing of a wound part's section. Raises RecipeError where the drawing does not read
    back as large as it should."""
    outline = part.outline
    planes = _planes(part)
    text = _WRITERS[suffix](outline, planes)
    proof = _read_back(text, suffix, outline, planes[0])
    if proof.relative_error > _ALLOWED:
        raise RecipeError(
            Problem(
                "/section",
                f"the drawing holds {proof.measure:.6g} of {proof.predicted:.6g}",
                "use another format",
            )
        )
    return text, proof


def _planes(part: Part) -> list[Plane]:
    given, coil = part.recipe.section.plane, part.path.coil
    planes = [Plane(given, None)]
    if coil is not None and coil.pitch > 0:
        radius, pitch = coil.start_radius, coil.pitch
        convert = axial_from_across if given == "across" else across_from_axial
        other = "axial" if given == "across" else "across"
        planes.append(Plane(other, lambda points: convert(points, radius, pitch)))
    return planes


def _apart(outline: Outline) -> float:
    """How far the second plane is drawn from the first, mm."""
    return 2 * outline.reach * (1 + _GAP)


def _dxf(outline: Outline, planes: list[Plane]) -> str:
    document = ezdxf.new("R2010", units=ezdxf.units.MM)
    space = document.modelspace()
    for place, (plane, colour) in enumerate(zip(planes, (30, 8), strict=False)):
        layer = plane.name.upper()
        document.layers.add(layer, color=colour)
        shift = np.array([place * _apart(outline), 0.0])
        for loop in outline.loops:
            for edge in loop.edges:
                if plane.map is None:
                    _exact(space, edge, layer)
                else:
                    _splines(space, _cubics(edge, plane.map) + shift, layer)
    text = io.StringIO()
    document.write(text)
    return text.getvalue()


def _exact(space: Modelspace, edge: Edge, layer: str) -> None:
    if edge.is_line:
        space.add_line(edge.points[0], edge.points[1], dxfattribs={"layer": layer})
        return
    degree = len(edge.points) - 1
    knots = [0.0] * (degree + 1) + [1.0] * (degree + 1)
    spline = space.add_spline(degree=degree, dxfattribs={"layer": layer})
    points = [(float(u), float(v), 0.0) for u, v in edge.points]
    if np.ptp(edge.weights) == 0:
        spline.set_open_uniform(points, degree)
        spline.knots = knots
    else:
        spline.set_open_rational(points, edge.weights.tolist(), degree)
        spline.knots = knots


def _splines(space: Modelspace, cubics: Array, layer: str) -> None:
    for points in cubics:
        spline = space.add_spline(degree=3, dxfattribs={"layer": layer})
        spline.set_open_uniform([(float(u), float(v), 0.0) for u, v in points], 3)


def _cubics(edge: Edge, map_: Map | None) -> Array:
    """Control points (pieces, 4, 2) of cubic curves along an edge, with its points and directions at their
    ends."""
    pieces = 1 if edge.is_line and map_ is None else _PIECES
    t = np.linspace(0.0, 1.0, pieces + 1)
    place, slope = edge.at(t)
    if map_ is not None:
        step = 1e-6
        slope = (map_(place + step * slope) - map_(place - step * slope)) / (2 * step)
        place = map_(place)
    third = np.diff(t)[:, None] / 3
    return np.stack(
        [place[:-1], place[:-1] + third * slope[:-1], place[1:] - third * slope[1:], place[1:]], axis=1
    )


def _svg(outline: Outline, planes: list[Plane]) -> str:
    ways, corners = [], []
    for place, plane in enumerate(planes):
        shift = np.array([place * _apart(outline), 0.0])
        loops = [
            np.concatenate([_cubics(edge, plane.map) for edge in loop.edges]) + shift
            for loop in outline.loops
        ]
        corners += [loop.reshape(-1, 2) for loop in loops]
        ways.append((plane.name, " ".join(_way(loop, outline.closed) for loop in loops)))
    points = np.concatenate(corners) * [1.0, -1.0]
    low, size = points.min(axis=0) - 1.0, np.ptp(points, axis=0) + 2.0
    root = canvas(*low, *size)
    for name, way in ways:
        style = {"fill": "none", "stroke": "#000", "stroke-width": f"{outline.reach / 100:.3g}"}
        ElementTree.SubElement(root, "path", {"id": name, "d": way, **style})
    return ElementTree.tostring(root, encoding="unicode")


def _way(cubics: Array, closed: bool) -> str:
    def pair(point: Array) -> str:
        return f"{point[0]:.9g},{-point[1]:.9g}"

    curves = " ".join(f"C{pair(b)} {pair(c)} {pair(d)}" for _, b, c, d in cubics)
    return f"M{pair(cubics[0][0])} {curves}" + (" Z" if closed else "")


def _read_back(text: str, suffix: str, outline: Outline, plane: Plane) -> OutlineProof:
    """What the drawing holds of the plane in which the section is given, as a reader sees it."""
    lines = _READERS[suffix](text, outline, plane.name)
    if not outline.closed:
        length = sum(float(np.linalg.norm(np.diff(line, axis=0), axis=1).sum()) for line in lines)
        return OutlineProof(length, outline.perimeter)
    outer, *holes = (abs(_area(line)) for line in lines)
    return OutlineProof(outer - sum(holes), outline.area)


def _read_dxf(text: str, outline: Outline, name: str) -> list[Array]:
    space = ezdxf.read(io.StringIO(text)).modelspace()
    found = iter(space.query(f'*[layer=="{name.upper()}"]'))
    fine = outline.reach * 1e-5
    lines = []
    for loop in outline.loops:
        edges = [make_path(entity) for entity in itertools.islice(found, len(loop.edges))]
        lines.append(np.array([(p.x, p.y) for edge in edges for p in edge.flattening(fine)]))
    return lines


def _read_svg(text: str, outline: Outline, name: str) -> list[Array]:
    drawn = SVG.parse(io.StringIO(text), reify=False)
    (path,) = (shape for shape in drawn.elements() if isinstance(shape, Path) and shape.id == name)
    t = np.linspace(0.0, 1.0, 17)
    return [
        np.concatenate([segment.npoint(t) for segment in loop if isinstance(segment, CubicBezier)])
        for loop in path.as_subpaths()
    ]


def _area(line: Array) -> float:
    x, y = line.T
    return float(x @ np.roll(y, -1) - y @ np.roll(x, -1)) / 2


_READERS: dict[str, Callable[[str, Outline, str], list[Array]]] = {".dxf": _read_dxf, ".svg": _read_svg}

_WRITERS: dict[str, Callable[[Outline, list[Plane]], str]] = {".dxf": _dxf, ".svg": _svg}

OUTLINES = tuple(_WRITERS)
"""Suffixes of the formats that a section is written in."""
