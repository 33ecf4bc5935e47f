"""A path read from a file: points of a table (CSV), curves of a drawing (DXF, in space, or SVG), or edges of
a solid (STEP).

Pieces that meet end to end are joined; of several curves the longest is taken. It is laid through as few
points as keep within a thousandth of its size, or else as many as a path may have, and what that costs is
told.
"""

from __future__ import annotations

import csv
import io
import itertools
import math
from dataclasses import dataclass

import ezdxf
import ezdxf.path
import numpy as np
import scipy
import svgelements

from metaspira.formats.drawing import (
    MEMORY,
    SECONDS,
    dxf_unit,
    opened_dxf,
    opened_svg,
    svg_unit,
    unreadable_svg,
)
from metaspira.formats.limited import limited
from metaspira.formats.outside import curves_in, demand_small, plain_suffix
from metaspira.numbers.jets import Array
from metaspira.numbers.measure import length_of_file, unit
from metaspira.numbers.splines import spline_through
from metaspira.problems import Problem, RecipeError

CURVES = (".csv", ".dxf", ".svg", ".step")
"""Suffixes of the formats that a path is read from."""

MOST_BYTES = 20_000_000
_MOST_POINTS = 500
_MOST_ROWS = 200_000
_FEW, _NEAR = 8, 1e-3
_JOIN = 1e-5
_FINE = 400


@dataclass(frozen=True)
class ReadPath:
    """Points (n, 3), mm, whether the curve is closed, and how far from it, mm, the path through them runs at
    the most; `pieces` counts the curves of the file."""

    points: list[list[float]]
    closed: bool
    deviation: float
    pieces: int


def read_path(data: bytes, suffix: str, unit_name: str | None) -> ReadPath:
    """The path in a file's bytes. `unit_name` is the unit of one that does not say its own. Raises
    RecipeError."""
    suffix = plain_suffix(suffix)
    if suffix not in CURVES:
        raise RecipeError(
            Problem("/file", f"“{suffix}” is no path that is read here", f"give one of {', '.join(CURVES)}")
        )
    demand_small(data, MOST_BYTES)
    found: ReadPath = (
        _read(data, suffix, unit_name)
        if suffix == ".step"
        else limited(SECONDS, MEMORY, _read, data, suffix, unit_name)
    )
    return found


def _read(data: bytes, suffix: str, unit_name: str | None) -> ReadPath:
    if suffix == ".step":
        curves, size = curves_in(data), 1.0
    else:
        curves, own = {".csv": _csv, ".dxf": _dxf, ".svg": _svg}[suffix](data)
        size = length_of_file(own, unit_name, "the file")
    curves = [curve * size for curve in curves if len(curve) > 1]
    if not curves:
        raise RecipeError(Problem("/file", "the file holds no curve", "give one that does"))
    if not all(np.isfinite(curve).all() and np.abs(curve).max() < 1e6 for curve in curves):
        raise RecipeError(Problem("/file", "the file holds places that are out of reach", "check its unit"))
    if max(map(_length, curves)) < 1e-6:
        raise RecipeError(Problem("/file", "the file holds no curve", "give one that does"))
    return _thinned(max(_joined(curves), key=_length), len(curves), suffix == ".csv")


def _csv(data: bytes) -> tuple[list[Array], float | None]:
    """The columns named x, y and z, or the first three; rows of the first name where there are several
    bodies."""
    try:
        rows = list(itertools.islice(csv.reader(io.StringIO(data.decode("utf-8-sig"))), _MOST_ROWS + 1))
    except (UnicodeDecodeError, csv.Error):
        raise RecipeError(
            Problem("/file", "this is no table that can be read", "save it as CSV in UTF-8")
        ) from None
    if len(rows) > _MOST_ROWS:
        raise RecipeError(Problem("/file", f"the table has more than {_MOST_ROWS} rows", "keep fewer"))
    rows = [row for row in rows if row and not row[0].startswith("#")]
    heads = [cell.strip().lower() for cell in rows[0]] if rows else []
    columns = [next((k for k, head in enumerate(heads) if head.split(" ")[0] == axis), -1) for axis in "xyz"]
    named = min(columns) >= 0
    if not named:
        columns = [0, 1, 2]
    body = heads.index("body") if "body" in heads else None
    first = next((row[body] for row in rows[1:] if len(row) > body), None) if body is not None else None
    points = []
    for number, row in enumerate(rows[1:] if named else rows, 2 if named else 1):
        if first is not None and body is not None and len(row) > body and row[body] != first:
            continue
        try:
            points.append([float(row[k]) for k in columns])
        except (ValueError, IndexError):
            raise RecipeError(
                Problem("/file", f"row {number} does not hold three numbers", "give columns x, y and z")
            ) from None
    units = {
        head.split(" ")[1]
        for head, k in zip(heads, range(len(heads)), strict=True)
        if k in columns and " " in head
    }
    own = unit(units.pop()).value if named and len(units) == 1 and units <= {"mm", "cm", "m", "in"} else None
    return [_apart(np.array(points, dtype=float).reshape(-1, 3))], own


def _dxf(data: bytes) -> tuple[list[Array], float | None]:
    document = opened_dxf(data)
    curves = []
    layers = {entity.dxf.layer for entity in document.modelspace()}
    for entity in itertools.islice(document.modelspace(), _MOST_ROWS):
        if "PATH" in layers and entity.dxf.layer != "PATH":
            continue
        try:
            path = ezdxf.path.make_path(entity)
            size = max(float(ezdxf.path.bbox([path]).size.magnitude), 1e-9)
            curves.append(_apart(np.array([tuple(p) for p in path.flattening(1e-4 * size)], dtype=float)))
        except (TypeError, ValueError, AttributeError, ezdxf.DXFError, ZeroDivisionError):
            continue
    return curves, dxf_unit(document)


def _svg(data: bytes) -> tuple[list[Array], float | None]:
    document = opened_svg(data)
    try:
        curves = [
            _apart(np.array(_svg_points(part), dtype=float).reshape(-1, 3))
            for element in itertools.islice(document.elements(), _MOST_ROWS)
            if isinstance(element, svgelements.Shape)
            for part in svgelements.Path(element).as_subpaths()
        ]
    except Exception:
        raise unreadable_svg() from None
    return curves, svg_unit(document)


def _svg_points(part: svgelements.Subpath) -> list[tuple[float, float, float]]:
    points = []
    for piece in svgelements.Path(part):
        if piece.length(error=1e-3) == 0:
            continue
        for t in (0.0, 1.0) if isinstance(piece, svgelements.Line) else np.linspace(0.0, 1.0, 33):
            place = piece.point(float(t))
            if place is not None:
                points.append((float(place.x), -float(place.y), 0.0))
    return points


def _length(curve: Array) -> float:
    return float(np.linalg.norm(np.diff(curve, axis=0), axis=1).sum())


def _apart(points: Array) -> Array:
    """Without points that stand where the one before them does."""
    if len(points) < 2:
        return points
    steps = np.linalg.norm(np.diff(points, axis=0), axis=1)
    return points[np.concatenate([[True], steps > 1e-9 * max(float(np.ptp(points, axis=0).max()), 1e-9)])]


def _joined(curves: list[Array]) -> list[Array]:
    """Curves joined where exactly two ends meet."""
    ends = np.array([end for curve in curves for end in (curve[0], curve[-1])])
    near = _JOIN * float(np.ptp(ends, axis=0).max() or 1.0)
    meeting = {
        k: [j for j in found if j != k]
        for k, found in enumerate(scipy.spatial.cKDTree(ends).query_ball_point(ends, near))
    }
    free = set(range(len(curves)))
    out = []
    while free:
        k = free.pop()
        chain = [curves[k]]
        for outward in (2 * k + 1, 2 * k):
            end = outward
            while True:
                found = [j for j in meeting[end] if j // 2 in free]
                if len(meeting[end]) != 1 or not found:
                    break
                j = found[0]
                free.discard(j // 2)
                piece = curves[j // 2] if j % 2 == 0 else curves[j // 2][::-1]
                chain = [*chain, piece] if outward % 2 else [piece[::-1], *chain]
                end = j + 1 if j % 2 == 0 else j - 1
        out.append(_apart(np.concatenate(chain)))
    return out


def _thinned(curve: Array, pieces: int, listed: bool) -> ReadPath:
    """Few points of a curve; all of those that a table lists, where a path may have so many."""
    closed = bool(np.linalg.norm(curve[0] - curve[-1]) < _JOIN * max(_length(curve), 1e-9)) and len(curve) > 3
    steps = np.concatenate([[0.0], np.cumsum(np.linalg.norm(np.diff(curve, axis=0), axis=1))])
    if listed and len(curve) <= _MOST_POINTS:
        own = curve[:-1] if closed else curve
        return ReadPath(np.round(own, 6).tolist(), closed, 0.0, pieces)
    size = float(np.ptp(curve, axis=0).max())
    count = min(_FEW, len(curve)) if len(curve) > 2 else 2
    while True:
        at = np.linspace(0.0, steps[-1], count + 1 if closed else count)
        points = np.column_stack([np.interp(at, steps, curve[:, k]) for k in range(3)])
        points = points[:-1] if closed else points
        deviation = _deviation(points, closed, curve)
        if deviation <= _NEAR * size or count >= _MOST_POINTS:
            return ReadPath(np.round(points, 6).tolist(), closed, deviation, pieces)
        count = min(math.ceil(count * 1.5), _MOST_POINTS)


def _deviation(points: Array, closed: bool, curve: Array) -> float:
    """The furthest that the path through points runs from the curve's points, mm."""
    spline = spline_through(points, closed)
    t = np.linspace(spline.start, spline.end, 12 * len(points) + 1)
    line = spline.derivatives(t, 0)[0]
    steps = np.concatenate([[0.0], np.cumsum(np.linalg.norm(np.diff(curve, axis=0), axis=1))])
    at = np.union1d(steps, np.linspace(0.0, steps[-1], _FINE))
    fine = np.column_stack([np.interp(at, steps, curve[:, k]) for k in range(3)])
    nearest = scipy.spatial.cKDTree(fine).query(line)[1]
    return float(
        np.minimum(
            *(_from_segment(line, fine, np.clip(nearest + shift, 0, len(fine) - 2)) for shift in (-1, 0))
        ).max()
    )


def _from_segment(points: Array, line: Array, index: Array) -> Array:
    """Distances (n,) of points from the pieces of a line that begin at `index` (n,)."""
    start, way = line[index], line[index + 1] - line[index]
    share = np.einsum("ni,ni->n", points - start, way) / np.maximum(np.einsum("ni,ni->n", way, way), 1e-300)
    return np.linalg.norm(points - start - np.clip(share, 0.0, 1.0)[:, None] * way, axis=1)
