"""A part on a sheet: front, top, section and the detail of an end, dimensioned, with a title block.

The views are in first-angle projection (ISO 5456-2), the scales those of ISO 5455, the sheet A4 or A3 (ISO
5457). Every dimension is a figure of the part or an input of its recipe, never measured on the drawing.
"""

from __future__ import annotations

import math
from dataclasses import dataclass
from datetime import date

import numpy as np
from shapely import LineString, Point

from metaspira.drawings.marks import Part as Mark
from metaspira.drawings.marks import across, axis, hatched, leader, upward
from metaspira.drawings.seen import FRONT, TOP, seen_edges
from metaspira.materials import FINISHES
from metaspira.numbers.jets import Array
from metaspira.numbers.once import cached_property
from metaspira.parts import AnyPart, Part, bodies_of
from metaspira.parts.thread_figures import quick_figures
from metaspira.parts.threaded import ThreadedPart
from metaspira.sections.outline import Outline
from metaspira.sheets.sheet import Circle, Drawing, Line, Text
from metaspira.springs.nested import Nested
from metaspira.sweep.mesh import Indices, as_one

_SCALES = (100.0, 50.0, 20.0, 10.0, 5.0, 2.0, 1.0, 0.5, 0.2, 0.1, 0.05, 0.02, 0.01, 0.005, 0.002, 0.001)
_MARGIN = 10.0
_BLOCK = (180.0, 36.0)
_FINE = 0.04
_MOST_VERTICES = 400_000


@dataclass(frozen=True)
class _Frame:
    """The sheet and its fields, mm: where the front and the top stand, and the section and the detail."""

    width: float
    height: float
    front: tuple[float, float, float, float]
    top: tuple[float, float, float, float]
    section: tuple[float, float, float, float]
    detail: tuple[float, float, float, float]


_SHEET = _Frame(
    420.0,
    297.0,
    (50.0, 150.0, 150.0, 125.0),
    (50.0, 22.0, 150.0, 105.0),
    (250.0, 180.0, 70.0, 80.0),
    (335.0, 180.0, 70.0, 80.0),
)


def drawing_of(part: AnyPart, today: date) -> Drawing:
    """The sheet of a part, dated `today`."""
    error = _chord_error(part)
    vertices, faces = as_one([body.mesh(error) for body in bodies_of(part)])
    low, high = vertices.min(axis=0), vertices.max(axis=0)
    size = high - low
    scale = _scale(
        min(
            _SHEET.front[2] / size[0],
            _SHEET.front[3] / size[2],
            _SHEET.top[2] / size[0],
            _SHEET.top[3] / size[1],
        )
    )
    sketch = _Sketch(vertices, faces, low, high, scale)
    told = quick_figures(part)
    parts: list[Mark] = [
        *_border(),
        *_front(part, sketch, told),
        *_top(part, sketch, told),
        *_section(part),
        *_detail(sketch),
        *_notes(part, told),
        *_title(part, scale, told, today),
    ]
    return Drawing(part.typed.name, _SHEET.width, _SHEET.height, tuple(parts))


@dataclass(frozen=True, eq=False)
class _Sketch:
    vertices: Array
    faces: Indices
    low: Array
    high: Array
    scale: float

    @cached_property
    def detail_scale(self) -> float:
        """That of the detail of an end."""
        return _scale(3 * self.scale)

    @cached_property
    def front(self) -> list[Array]:
        """What is seen from the front, mm, as fine as its detail shows it."""
        return seen_edges(self.vertices, self.faces, FRONT, _FINE / self.detail_scale)

    @cached_property
    def top(self) -> list[Array]:
        """What is seen from above, mm."""
        return seen_edges(self.vertices, self.faces, TOP, _FINE / self.scale)


def _chord_error(part: AnyPart) -> float:
    """As fine as the drawing shows, mm, and no finer than memory allows."""
    reach = max(
        part.body.outer_radius if isinstance(part, ThreadedPart) else part.sweep.section.reach(), 1e-3
    )
    error = reach / 250
    while sum(body.vertex_count(error) for body in bodies_of(part)) > _MOST_VERTICES:
        error *= 2
    return error


def _scale(most: float) -> float:
    return next((scale for scale in _SCALES if scale <= most), _SCALES[-1])


def _length(part: AnyPart, value: float) -> str:
    """A length, mm, as the drawing writes it, in the recipe's unit."""
    return f"{value / part.length_unit:.5g}"


def _placed(lines: list[Array], scale: float, x: float, y: float) -> list[Mark]:
    """Lines in mm on the sheet."""
    return [Line(tuple((float(a), float(b)) for a, b in scale * line + [x, y])) for line in lines]


def _front(part: AnyPart, sketch: _Sketch, told: dict[str, float | None]) -> list[Mark]:
    left, bottom, wide, tall = _SHEET.front
    scale = sketch.scale
    x = left + wide / 2 - scale * (sketch.low[0] + sketch.high[0]) / 2
    y = bottom + tall / 2 - scale * (sketch.low[2] + sketch.high[2]) / 2
    parts = _placed(sketch.front, scale, x, y)
    right, low, high = (
        x + scale * sketch.high[0],
        y + scale * sketch.low[2],
        y + scale * sketch.high[2],
    )
    if _turned(part):
        parts.append(axis((x, low - 5), (x, high + 5)))
    height = told.get("overall_height") or told.get("height")
    if height is not None:
        parts += upward(low, high, right, right + 12, _length(part, height))
    parts.append(Text((left + wide / 2, bottom - 9), "Front", size=3.5))
    outside = told.get("outside_diameter")
    if _turned(part) and outside is not None:
        radius = scale * outside / 2
        parts += across(x - radius, x + radius, high, high + 10, f"⌀{_length(part, outside)}")
    else:
        wide_ = _length(part, sketch.high[0] - sketch.low[0])
        parts += across(x + scale * sketch.low[0], right, high, high + 10, wide_)
    if isinstance(part, Part) and part.path.coil is not None:
        parts += _pitched(part, sketch, x, y)
    return parts


def _turned(part: AnyPart) -> bool:
    """The part runs around the z axis."""
    return isinstance(part, ThreadedPart) or part.path.coil is not None


def _pitched(part: Part, sketch: _Sketch, x: float, y: float) -> list[Mark]:
    """The pitch, between two centres of wire where it lies half way up."""
    coil = part.path.coil
    assert coil is not None
    if coil.turns < 2 or coil.pitch * sketch.scale < 1.0:
        return []
    s = np.linspace(0.0, part.path.length, 4001)
    place = part.path.derivatives(s, 0)[0]
    left = np.flatnonzero((place[1:, 1] * place[:-1, 1] <= 0) & (place[1:, 0] < 0))
    if len(left) < 2:
        return []
    at = len(left) // 2 - 1
    low, high = sorted(y + sketch.scale * float(place[left[k], 2]) for k in (at, at + 1))
    foot = x + sketch.scale * float(place[left[at], 0])
    edge = x + sketch.scale * sketch.low[0]
    rise = abs(float(place[left[at + 1], 2] - place[left[at], 2]))
    return upward(low, high, foot, edge - 10, f"pitch {_length(part, rise)}")


def _top(part: AnyPart, sketch: _Sketch, told: dict[str, float | None]) -> list[Mark]:
    left, bottom, wide, tall = _SHEET.top
    scale = sketch.scale
    x = left + wide / 2 - scale * (sketch.low[0] + sketch.high[0]) / 2
    y = bottom + tall / 2 - scale * (sketch.low[1] + sketch.high[1]) / 2
    parts = _placed(sketch.top, scale, x, y)
    if _turned(part):
        reach = scale * float(np.abs([*sketch.low[:2], *sketch.high[:2]]).max()) + 5
        parts += [axis((x - reach, y), (x + reach, y)), axis((x, y - reach), (x, y + reach))]
    else:
        low, high = y + scale * sketch.low[1], y + scale * sketch.high[1]
        right = x + scale * sketch.high[0]
        parts += upward(low, high, right, right + 12, _length(part, sketch.high[1] - sketch.low[1]))
    parts.append(Text((left + wide / 2, bottom - 9), "Top", size=3.5))
    inside = told.get("inside_diameter")
    if _turned(part) and inside is not None and inside > 0 and isinstance(part, Part):
        slope = math.radians(35)
        tip = (x + scale * inside / 2 * math.cos(slope), y + scale * inside / 2 * math.sin(slope))
        knee = (x + scale * sketch.high[0] + 8, tip[1] + 8)
        parts += leader(tip, knee, f"inside ⌀{_length(part, inside)}")
    return parts


def _section(part: AnyPart) -> list[Mark]:
    left, bottom, wide, tall = _SHEET.section
    if isinstance(part, ThreadedPart):
        return _profile(part)
    outline = part.outline
    u0, u1, v0, v1 = outline.box
    scale = _scale(min((wide - 24) / (u1 - u0), (tall - 24) / (v1 - v0)))
    x = left + wide / 2 - scale * (u0 + u1) / 2
    y = bottom + tall / 2 - scale * (v0 + v1) / 2
    rings = [_ring(loop) * scale + [x, y] for loop in outline.loops]
    parts: list[Mark] = [Line(tuple(map(tuple, ring))) for ring in rings]
    if outline.closed:
        parts += hatched(rings)
    plane = "across the wire" if part.recipe.section.plane == "across" else "through the axis"
    parts.append(Text((left + wide / 2, bottom - 9), f"Section {plane}, {_ratio(scale)}", size=3.5))
    section = part.recipe.section
    low, high = (x + scale * u0, x + scale * u1), (y + scale * v0, y + scale * v1)
    if section.by_diameter:
        parts += across(*low, high[1], high[1] + 9, f"⌀{_length(part, u1 - u0)}")
    else:
        parts += across(*low, high[1], high[1] + 9, _length(part, u1 - u0))
        parts += upward(*high, low[1], low[1] + 9, _length(part, v1 - v0))
    note = section.note(lambda value: _length(part, value))
    if note:
        parts += leader((low[1], (high[0] + high[1]) / 2), (low[1] + 6, high[0] - 2), note)
    return parts


def _ring(loop: Outline) -> Array:
    points = loop.ring(160, 2).points
    return np.vstack([points, points[:1]]) if loop.closed else points


def _profile(part: ThreadedPart) -> list[Mark]:
    """The thread's axial profile over two pitches, its axis level."""
    left, bottom, wide, tall = _SHEET.section
    pitch = part.thread.pitch
    one = part.profile.line()
    z, r = np.vstack([one, one + np.array([pitch, 0.0])]).T
    scale = _scale(min((wide - 24) / (z.max() - z.min()), (tall - 24) / max(r.max() - r.min(), 1e-9)))
    x = left + wide / 2 - scale * (z.min() + z.max()) / 2
    y = bottom + tall / 2 - scale * (r.min() + r.max()) / 2
    line = Line(tuple((float(a) * scale + x, float(b) * scale + y) for a, b in zip(z, r, strict=True)))
    start = x + scale * float(z.min())
    foot = y + scale * float(r.max())
    return [
        line,
        Text((left + wide / 2, bottom - 9), f"Profile through the axis, {_ratio(scale)}", size=3.5),
        *across(start, start + scale * pitch, foot, foot + 9, f"pitch {_length(part, pitch)}"),
        *upward(
            y + scale * float(r.min()),
            foot,
            x + scale * float(z.max()),
            x + scale * float(z.max()) + 9,
            _length(part, float(r.max() - r.min())),
        ),
    ]


def _detail(sketch: _Sketch) -> list[Mark]:
    """The upper end, seen from the front, larger, inside a circle."""
    left, bottom, wide, tall = _SHEET.detail
    size = sketch.high - sketch.low
    scale = sketch.detail_scale
    radius = (wide - 6) / 2
    reach = radius / scale
    centre = sketch.high[[0, 2]] - 0.75 * np.minimum(reach, size[[0, 2]])
    middle = np.array([left + wide / 2, bottom + tall / 2])
    field = Point(0.0, 0.0).buffer(radius, 64)
    parts: list[Mark] = [Circle((float(middle[0]), float(middle[1])), radius)]
    for line in sketch.front:
        cut = field.intersection(LineString(scale * (line - centre)))
        for piece in getattr(cut, "geoms", [cut]):
            if piece.geom_type == "LineString" and not piece.is_empty:
                parts.append(
                    Line(tuple((float(a + middle[0]), float(b + middle[1])) for a, b in piece.coords))
                )
    parts.append(Text((left + wide / 2, bottom - 9), f"Detail of the end, {_ratio(scale)}", size=3.5))
    return parts


def _notes(part: AnyPart, told: dict[str, float | None]) -> list[Mark]:
    """What the views cannot show, in lines."""
    x, y = 250.0, 152.0
    lines = _wound_notes(part, told) if isinstance(part, Part) else _thread_notes(part, told)
    lines += [line for line in part.typed.note.splitlines() if line.strip()][:4]
    return [Text((x, y - 5.5 * row), line[:95], "start", size=3.0) for row, line in enumerate(lines)]


def _wound_notes(part: Part, told: dict[str, float | None]) -> list[str]:
    lines, coil = [], part.path.coil
    if coil is not None:
        hand = "right" if coil.hand > 0 else "left"
        lines.append(
            f"Wound {hand} hand, {coil.turns:.6g} turns in all, rise {_figure(part, told, 'height')}"
        )
    lines.append(
        f"Length of wire {_figure(part, told, 'wire_length')}, of each of {len(part.bodies)} wires"
        if len(part.bodies) > 1
        else f"Length of wire {_figure(part, told, 'wire_length')}"
    )
    for words, end in (("Start", part.recipe.ends.start), ("End", part.recipe.ends.end)):
        if end is not None and end.kind != "flat":
            lines.append(f"{words}: {end.kind}")
    twist = part.sweep.changes.twist.ends
    if twist[0] != twist[1]:
        lines.append(
            f"Twisted by {math.degrees(twist[1] - twist[0]):.6g}° over its length, even in true length"
        )
    spring = part.spring
    if spring is not None:
        place, effort = spring.units
        lines.append(
            f"Wire {spring.members[0].wire.title if isinstance(spring, Nested) else spring.wire.title}"
        )
        lines.append(f"Rate {spring.rate:.4g} {effort}/{place}")
        lines += [
            f"At {point.place:.5g} {place}: {point.effort:.4g} {effort}, {point.stress:.4g} MPa"
            for point in spring.points[:5]
        ]
    return lines


def _thread_notes(part: ThreadedPart, told: dict[str, float | None]) -> list[str]:
    thread = part.thread
    return [
        (
            f"Thread {thread.designation}, {part.side}, {thread.starts} "
            f"{'start' if thread.starts == 1 else 'starts'}"
        ),
        *(
            f"{title} diameter {_figure(part, told, f'{title.lower()}_diameter')}"
            for title in ("Major", "Pitch", "Minor")
        ),
        *(f"Source: {' '.join(source)}" for source in thread.sources[:1]),
    ]


def _figure(part: AnyPart, told: dict[str, float | None], name: str) -> str:
    value = told.get(name)
    return "–" if value is None else f"{_length(part, value)} {part.typed.unit}"


def _border() -> list[Mark]:
    right, top = _SHEET.width - _MARGIN, _SHEET.height - _MARGIN
    left, low = 20.0, _MARGIN
    return [Line(((left, low), (right, low), (right, top), (left, top), (left, low)))]


def _title(part: AnyPart, scale: float, told: dict[str, float | None], today: date) -> list[Mark]:
    """The title block (after ISO 7200), at the lower right."""
    right, low = _SHEET.width - _MARGIN, _MARGIN
    left, top = right - _BLOCK[0], low + _BLOCK[1]
    half, lines = low + 18.0, [left + 45.0, left + 90.0, left + 120.0, left + 150.0]
    mass = told.get("mass")
    fields = [
        ("Material", _material(part)),
        ("Mass", "–" if mass is None else f"{mass:.5g} g"),
        ("Scale", _ratio(scale)),
        ("Date", today.isoformat()),
        ("Sheet", "1 / 1"),
    ]
    parts: list[Mark] = [
        Line(((left, low), (left, top), (right, top))),
        Line(((left, half), (right, half))),
        *(Line(((x, low), (x, half))) for x in lines),
        Text((left + 2, top - 4), "Title", "start", size=2.2),
        Text((left + 2, top - 12), part.typed.name[:58], "start", size=5.0),
        Text((right - 40, top - 4), f"Dimensions in {part.typed.unit}", "start", size=2.2),
        *_first_angle(right - 24, top - 11.5),
    ]
    for x, (title, value) in zip([left, *lines], fields, strict=True):
        parts.append(Text((x + 2, half - 4), title, "start", size=2.2))
        parts.append(Text((x + 2, half - 12), value, "start", size=3.5))
    return parts


def _material(part: AnyPart) -> str:
    finish = part.recipe.finish
    return part.material.name if finish is None else f"{part.material.name}, {FINISHES[finish.kind].words}"


def _first_angle(x: float, y: float) -> list[Mark]:
    """The symbol of first-angle projection: a cone from the side, then from its end."""
    cone = ((x - 9, y - 2.2), (x - 1, y - 4), (x - 1, y + 4), (x - 9, y + 2.2), (x - 9, y - 2.2))
    return [
        Line(cone),
        Circle((x + 7, y), 4.0),
        Circle((x + 7, y), 2.2),
        axis((x - 11, y), (x + 13, y)),
        axis((x + 7, y - 5.5), (x + 7, y + 5.5)),
    ]


def _ratio(scale: float) -> str:
    return f"{scale:g} : 1" if scale >= 1 else f"1 : {1 / scale:g}"
