"""Loops read from a drawing, DXF (`ezdxf`) or SVG (`svgelements`), in millimetres.

Lines, arcs, circles, ellipses, polylines with bulges, splines and paths become loops of lines, arcs and
cubic curves; pieces that meet end to end are joined. What is open, tiny or crosses itself is named.
"""

from __future__ import annotations

import itertools
import math
from collections.abc import Iterable, Iterator
from dataclasses import dataclass, field
from io import BytesIO, StringIO
from typing import Any

import ezdxf
import ezdxf.path
import numpy as np
import svgelements
from shapely import LinearRing, LineString, Polygon
from shapely.validation import explain_validity

from metaspira.formats.limited import limited
from metaspira.formats.plain_svg import MOST_PIECES, demand_plain
from metaspira.numbers.jets import Array
from metaspira.numbers.measure import length_of_file, unit
from metaspira.problems import Problem, RecipeError
from metaspira.sections.loops import MOST_ENTRIES, Loop

MAX_BYTES = 4_000_000
MOST_TAGS = 300_000
SECONDS, MEMORY = 8.0, 450_000_000
"""What reading a drawing may take, processor seconds and bytes."""

_JOIN = 1e-4
_TINY_AREA = 1e-4
_TINY = 1e-2
_SVG_UNITS = {"mm": 1.0, "cm": 10.0, "in": 25.4, "pt": 25.4 / 72, "pc": 25.4 / 6}
_DXF_UNITS = {1: "in", 2: "ft", 4: "mm", 5: "cm", 6: "m", 8: "thou", 13: "um"}

PLANES = ("across", "axial")

Piece = list[Array]
"""Control points (2,) of a line (two of them) or of a cubic curve (four)."""

Found = tuple[list[Piece], float | None, str | None]
"""Pieces, the size of their unit in mm where the file says it, and the plane of a section."""


@dataclass(frozen=True)
class Drawing:
    """`loops`, the largest first, each closed or open; `faults` says what was left out or is not right,
    each with a point to look at where there is one, in mm. `plane` is that of a section that was written
    here, of whose planes the one is read in which it was given."""

    loops: tuple[Loop, ...]
    faults: tuple[Fault, ...] = field(default=())
    plane: str | None = None


@dataclass(frozen=True)
class Fault:
    """`what` is open, tiny, crossing or thinned."""

    what: str
    text: str
    points: tuple[tuple[float, float], ...]


def read_drawing(data: bytes, suffix: str, unit_name: str | None) -> Drawing:
    """The loops in the bytes of a DXF or SVG file. `unit_name` is the unit of its numbers where the file
    does not say. Raises RecipeError where it cannot be read, or where its unit is not known."""
    if len(data) > MAX_BYTES:
        raise RecipeError(
            Problem("/file", f"the drawing has {len(data)} bytes", f"keep it under {MAX_BYTES}")
        )
    if suffix.lower() not in _READERS:
        raise RecipeError(
            Problem("/file", f"“{suffix}” is no drawing that is read here", "give a DXF or an SVG file")
        )
    found: Drawing = limited(SECONDS, MEMORY, _read, data, suffix.lower(), unit_name)
    return found


def _read(data: bytes, suffix: str, unit_name: str | None) -> Drawing:
    pieces, own, plane = _READERS[suffix](data)
    scale = length_of_file(own, unit_name, "the drawing")
    if not pieces:
        raise RecipeError(
            Problem("/file", "the drawing holds no lines, arcs or curves", "draw the outline with them")
        )
    return _drawing(_chains([[scale * p for p in piece] for piece in pieces]), plane)


def opened_dxf(data: bytes) -> Any:
    """The document in the bytes of a DXF file. Raises RecipeError."""
    if data.count(b"\n") > 2 * MOST_TAGS:
        raise RecipeError(
            Problem("/file", f"the DXF holds more than {MOST_TAGS} values", "keep only the outline in it")
        )
    try:
        return ezdxf.read(StringIO(data.decode("utf-8", errors="replace")))
    except (ezdxf.DXFError, ValueError, KeyError, IndexError, TypeError, AttributeError):
        raise RecipeError(
            Problem("/file", "this is not a DXF file that can be read", "save it again as a text DXF")
        ) from None


def dxf_unit(document: Any) -> float | None:
    """Millimetres in a DXF document's unit, None where it does not say."""
    name = _DXF_UNITS.get(int(document.header.get("$INSUNITS", 0)))
    return None if name is None else unit(name).value


def opened_svg(data: bytes) -> Any:
    """The document in the bytes of an SVG file, at 96 pixels an inch. Raises RecipeError."""
    demand_plain(data)
    try:
        return svgelements.SVG.parse(BytesIO(data), ppi=96.0, reify=True)
    except Exception:
        raise unreadable_svg() from None


def unreadable_svg() -> RecipeError:
    """The refusal of a damaged SVG file."""
    return RecipeError(
        Problem("/file", "this is not an SVG file that can be read", "save it again as a plain SVG")
    )


def svg_corner(document: Any) -> Array:
    """Where the upper left corner of an SVG document stands in its own coordinates, pixels, y upward."""
    box = document.viewbox
    if box is None or not box.width or not box.height or not document.width or not document.height:
        return np.zeros(2)
    x, y = box.x * document.width / box.width, box.y * document.height / box.height
    return np.array([float(x), -float(y)])


def svg_unit(document: Any) -> float | None:
    """Millimetres in a pixel of an SVG document whose width has a unit, None where it has none."""
    written = document.values.get("attributes", {}).get("width", "")
    name = str(written).strip().lower()[-2:]
    if name not in _SVG_UNITS:
        return None
    return _SVG_UNITS[name] / float(svgelements.Length(f"1{name}").value(ppi=96.0))


def _given(names: Iterable[str]) -> str | None:
    """The plane in which a section was given, by the layers or names of what was written of it."""
    return next((name.lower() for name in names if name.lower() in PLANES), None)


def _dxf(data: bytes) -> Found:
    document = opened_dxf(data)
    pieces: list[Piece] = []
    plane = _given(entity.dxf.layer for entity in document.modelspace())
    for entity in document.modelspace():
        if plane is not None and entity.dxf.layer.lower() != plane:
            continue
        try:
            path = ezdxf.path.make_path(entity)
        except (TypeError, ValueError, ezdxf.DXFError):
            continue
        pieces += _of_path(path)
        if len(pieces) > MOST_PIECES:
            raise _too_many()
    return pieces, dxf_unit(document), plane


def _of_path(path: Any) -> Iterator[Piece]:
    here = path.start
    for command in path.commands():
        there = command.end
        if command.type.name == "LINE_TO":
            yield [_xy(here), _xy(there)]
        elif command.type.name == "CURVE4_TO":
            yield [_xy(here), _xy(command.ctrl1), _xy(command.ctrl2), _xy(there)]
        elif command.type.name == "CURVE3_TO":
            yield _raised([_xy(here), _xy(command.ctrl), _xy(there)])
        here = there


def _svg(data: bytes) -> Found:
    document = opened_svg(data)
    pieces: list[Piece] = []
    shapes = [one for one in document.elements() if isinstance(one, svgelements.Shape)]
    plane = _given(str(shape.id or "") for shape in shapes)
    for element in shapes:
        if plane is not None and str(element.id or "").lower() != plane:
            continue
        for segment in svgelements.Path(element):
            pieces += _of_segment(segment)
            if len(pieces) > MOST_PIECES:
                raise _too_many()
    corner = svg_corner(document)
    return [[point + corner for point in piece] for piece in pieces], svg_unit(document), plane


def _of_segment(segment: Any) -> list[Piece]:
    if segment.start is None or segment.end is None:
        return []
    ends = [_flipped(segment.start), _flipped(segment.end)]
    if isinstance(segment, svgelements.Line | svgelements.Close):
        return [ends] if np.linalg.norm(ends[1] - ends[0]) > 0 else []
    if isinstance(segment, svgelements.QuadraticBezier):
        return [_raised([ends[0], _flipped(segment.control), ends[1]])]
    if isinstance(segment, svgelements.CubicBezier):
        return [[ends[0], _flipped(segment.control1), _flipped(segment.control2), ends[1]]]
    if isinstance(segment, svgelements.Arc):
        return [p for curve in segment.as_cubic_curves() for p in _of_segment(curve)]
    return []


_READERS = {".dxf": _dxf, ".svg": _svg}


def _xy(point: Any) -> Array:
    return np.array([float(point.x), float(point.y)])


def _flipped(point: Any) -> Array:
    return np.array([float(point.x), -float(point.y)])


def _raised(quadratic: Piece) -> Piece:
    a, b, c = quadratic
    return [a, a + 2 / 3 * (b - a), c + 2 / 3 * (b - c), c]


def _too_many() -> RecipeError:
    return RecipeError(
        Problem("/file", f"the drawing has more than {MOST_PIECES} pieces", "keep only the outline in it")
    )


def _chains(pieces: list[Piece]) -> list[list[Piece]]:
    """Pieces joined end to end, each chain as long as it goes."""
    size = max(float(np.ptp(np.concatenate([np.array(p) for p in pieces]), axis=0).max()), 1e-9)
    near = max(_JOIN * size, 1e-9)
    pieces = [p for p in pieces if sum(np.linalg.norm(b - a) for a, b in itertools.pairwise(p)) > 1e-9 * size]
    ends: dict[tuple[int, int], list[int]] = {}

    def cell(point: Array) -> tuple[int, int]:
        return math.floor(point[0] / near), math.floor(point[1] / near)

    for i, piece in enumerate(pieces):
        for point in (piece[0], piece[-1]):
            ends.setdefault(cell(point), []).append(i)
    free = set(range(len(pieces)))

    def following(point: Array) -> tuple[int, bool] | None:
        cx, cy = cell(point)
        for dx in (0, -1, 1):
            for dy in (0, -1, 1):
                for i in ends.get((cx + dx, cy + dy), []):
                    if i in free:
                        if np.linalg.norm(pieces[i][0] - point) < near:
                            return i, False
                        if np.linalg.norm(pieces[i][-1] - point) < near:
                            return i, True
        return None

    chains = []
    while free:
        chain = [pieces[free.pop()]]
        for backward in (False, True):
            while not (len(chain) > 1 and np.linalg.norm(chain[0][0] - chain[-1][-1]) < near):
                found = following(chain[0][0] if backward else chain[-1][-1])
                if found is None:
                    break
                index, reverse = found
                free.discard(index)
                piece = pieces[index]
                if backward:
                    chain.insert(0, piece if reverse else piece[::-1])
                else:
                    chain.append(piece[::-1] if reverse else piece)
        chains.append(chain)
    return chains


def _drawing(chains: list[list[Piece]], plane: str | None) -> Drawing:
    found: list[tuple[float, Loop]] = []
    faults: list[Fault] = []
    for chain in chains:
        polyline = _polyline(chain)
        size = float(np.ptp(polyline, axis=0).max())
        closed = bool(np.linalg.norm(chain[0][0] - chain[-1][-1]) < max(_JOIN * size, 1e-9) * 2)
        chain, off = _thinned(chain)
        if off > 0:
            text = f"a loop of more than {MOST_ENTRIES} points was made simpler, kept within {off:.2g} mm"
            faults.append(Fault("thinned", text, ()))
        loop = _loop(chain, closed)
        if size < _TINY:
            text = f"a loop {size:.2g} mm across is tiny, and was left out"
            faults.append(Fault("tiny", text, (_pair(polyline[0]),)))
            continue
        if not closed:
            faults.append(
                Fault(
                    "open",
                    f"a line {size:.4g} mm across is open",
                    (_pair(polyline[0]), _pair(polyline[-1])),
                )
            )
            found.append((0.0, loop))
            continue
        ring = polyline[:-1] if np.allclose(polyline[0], polyline[-1]) else polyline
        if len(ring) > 2 and not LinearRing(ring).is_simple:
            said = explain_validity(Polygon(ring))
            numbers = said[said.find("[") + 1 : said.find("]")].split() if "[" in said else []
            where = ((float(numbers[0]), float(numbers[1])),) if len(numbers) == 2 else ()
            faults.append(Fault("crossing", f"a loop {size:.4g} mm across crosses itself", where))
            found.append((0.0, loop))
            continue
        area = abs(Polygon(ring).area) if len(ring) > 2 else 0.0
        if area < _TINY_AREA:
            text = f"a loop of {area:.2g} mm² is tiny, and was left out"
            faults.append(Fault("tiny", text, (_pair(ring[0]),)))
            continue
        found.append((area, loop))
    found.sort(key=lambda item: -item[0])
    return Drawing(tuple(loop for _, loop in found), tuple(faults), plane)


def _thinned(chain: list[Piece]) -> tuple[list[Piece], float]:
    """A chain with no more pieces than a loop holds, and how far that took it, mm."""
    if len(chain) < MOST_ENTRIES:
        return chain, 0.0
    line = LineString(_polyline(chain))
    off = _JOIN * line.length
    while len(kept := np.array(line.simplify(off).coords)) >= MOST_ENTRIES:
        off *= 1.5
    return [[a, b] for a, b in itertools.pairwise(kept)], off


def _pair(point: Array) -> tuple[float, float]:
    return float(point[0]), float(point[1])


def _polyline(chain: list[Piece]) -> Array:
    t = np.linspace(0.0, 1.0, 17)[:, None]
    points = [chain[0][0][None]]
    for piece in chain:
        if len(piece) == 2:
            points.append(piece[1][None])
        else:
            a, b, c, d = piece
            curve = (1 - t) ** 3 * a + 3 * (1 - t) ** 2 * t * b + 3 * (1 - t) * t * t * c + t**3 * d
            points.append(curve[1:])
    return np.concatenate(points)


def _loop(chain: list[Piece], closed: bool) -> Loop:
    entries: list[tuple[float, ...]] = [tuple(_rounded(chain[0][0]))]
    for piece in chain:
        numbers = [n for point in piece[1:] for n in _rounded(point)]
        entries.append(tuple(numbers))
    if closed:
        entries[-1] = (*entries[-1][:-2], *entries[0])
    return Loop.model_validate({"points": entries, "closed": closed})


def _rounded(point: Array) -> list[float]:
    return [round(float(c), 9) for c in point]
