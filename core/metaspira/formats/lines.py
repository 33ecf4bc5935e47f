"""The path as a line: a table (CSV), a drawing in space and unrolled (DXF), and a front view with the
unrolled line (SVG).

Unrolled, a line keeps its true length: it runs by what it travels around the axis, and up by its height.
"""

from __future__ import annotations

import csv
import io
from collections.abc import Callable
from dataclasses import asdict, dataclass
from typing import Any
from xml.etree import ElementTree

import ezdxf
import numpy as np
from svgelements import SVG, Path

from metaspira.formats.svg import canvas
from metaspira.numbers.jets import Array
from metaspira.numbers.tables import csv_text
from metaspira.parts import Body, Part
from metaspira.problems import Problem, RecipeError

_PER_TURN, _LEAST = 360, 65
_MARGIN = 5.0
_COLUMNS = (
    "body",
    "s mm",
    "x mm",
    "y mm",
    "z mm",
    "tangent x",
    "tangent y",
    "tangent z",
    "curvature 1/mm",
)


@dataclass(frozen=True)
class Line:
    """A body's path at stations: true length s (n,), the rest (n, 3), curvature (n,) 1/mm."""

    name: str
    s: Array
    position: Array
    tangent: Array
    curvature: Array

    @property
    def unrolled(self) -> Array:
        """(n, 2): the way around, and the height; its true length is the line's."""
        steps = np.diff(self.position, axis=0)
        rise = steps[:, 2]
        around = np.sqrt(np.maximum(np.diff(self.s) ** 2 - rise**2, 0.0))
        return np.column_stack([np.concatenate([[0.0], np.cumsum(around)]), self.position[:, 2]])


@dataclass(frozen=True)
class LineProof:
    """Length of all lines as read back from the file, and as predicted, mm."""

    length: float
    predicted_length: float

    @property
    def relative_error(self) -> float:
        return abs(self.length - self.predicted_length) / self.predicted_length

    def as_dict(self) -> dict[str, Any]:
        return {**asdict(self), "relative_error": self.relative_error}


def lines_of(part: Part, suffix: str) -> tuple[str, LineProof]:
    """The text of a file of the paths of a wound part. Raises RecipeError where the file does not read back
    as long as it should."""
    lines = [line_of(body) for body in part.bodies]
    text, read = _WRITERS[suffix]
    data = text(lines)
    proof = LineProof(read(data), sum(float(line.s[-1]) for line in lines))
    if proof.relative_error > 1e-3:
        raise RecipeError(
            Problem(
                "/path",
                f"the file holds {proof.length:.6g} mm of {proof.predicted_length:.6g} mm",
                "use another format",
            )
        )
    return data, proof


def line_of(body: Body) -> Line:
    """The centre line of a wire, 360 stations a turn and its breaks."""
    path = body.sweep.path
    s = np.unique(np.concatenate([path.stations_by_turning(_PER_TURN, _LEAST), path.breaks]))
    position, tangent, bend = path.derivatives(s, 2)
    return Line(body.name, s, position, tangent, np.linalg.norm(bend, axis=1))


def _csv(lines: list[Line]) -> str:
    rows = (
        [line.name, *(f"{value:.9g}" for value in row)]
        for line in lines
        for row in np.column_stack([line.s, line.position, line.tangent, line.curvature])
    )
    return csv_text([_COLUMNS, *rows])


def _read_csv(text: str) -> float:
    rows = list(csv.reader(io.StringIO(text)))[1:]
    total = 0.0
    for name in dict.fromkeys(row[0] for row in rows):
        points = np.array([[float(value) for value in row[2:5]] for row in rows if row[0] == name])
        total += _length(points)
    return total


def _dxf(lines: list[Line]) -> str:
    document = ezdxf.new("R2010", units=ezdxf.units.MM)
    space = document.modelspace()
    for name, colour in (("PATH", 30), ("UNROLLED", 8)):
        document.layers.add(name, color=colour)
    right = max(float(line.position[:, 0].max()) for line in lines) + _MARGIN
    for line in lines:
        space.add_polyline3d(line.position.tolist(), dxfattribs={"layer": "PATH"})
        flat = line.unrolled + np.array([right, 0.0])
        space.add_lwpolyline(flat.tolist(), dxfattribs={"layer": "UNROLLED"})
    text = io.StringIO()
    document.write(text)
    return text.getvalue()


def _read_dxf(text: str) -> float:
    space = ezdxf.read(io.StringIO(text)).modelspace()
    return sum(
        _length(np.array([tuple(v.dxf.location) for v in line.vertices])) for line in space.query("POLYLINE")
    )


def _svg(lines: list[Line]) -> str:
    front = [line.position[:, [0, 2]] for line in lines]
    flat = [line.unrolled for line in lines]
    left = min(float(points[:, 0].min()) for points in front)
    right = max(float(points[:, 0].max()) for points in front)
    flat = [points + np.array([right + _MARGIN, 0.0]) for points in flat]
    low = min(float(points[:, 1].min()) for points in front)
    high = max(float(points[:, 1].max()) for points in front)
    far = max(float(points[:, 0].max()) for points in flat)
    box = (left - _MARGIN, -high - _MARGIN, far - left + 2 * _MARGIN, high - low + 2 * _MARGIN)
    root = canvas(*box)
    for name, group in (("front", front), ("unrolled", flat)):
        for line, points in zip(lines, group, strict=True):
            way = " L".join(f"{x:.9g},{-y:.9g}" for x, y in points)
            style = {"fill": "none", "stroke": "#000", "stroke-width": "0.25"}
            ElementTree.SubElement(root, "path", {"id": f"{name} {line.name}", "d": f"M{way}", **style})
    return ElementTree.tostring(root, encoding="unicode")


def _read_svg(text: str) -> float:
    drawn = SVG.parse(io.StringIO(text), reify=False)
    paths = [shape for shape in drawn.elements() if isinstance(shape, Path)]
    unrolled = [path for path in paths if str(path.id).startswith("unrolled ")]
    return sum(_length(np.array([tuple(step.end) for step in path])) for path in unrolled)


def _length(points: Array) -> float:
    return float(np.linalg.norm(np.diff(points, axis=0), axis=1).sum())


_WRITERS: dict[str, tuple[Callable[[list[Line]], str], Callable[[str], float]]] = {
    ".csv": (_csv, _read_csv),
    ".dxf": (_dxf, _read_dxf),
    ".svg": (_svg, _read_svg),
}

LINES = tuple(_WRITERS)
"""Suffixes of the formats that a path is written in."""
