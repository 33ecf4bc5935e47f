"""Sections across the wire, each hatched and dimensioned, at the places where they differ."""

from __future__ import annotations

import numpy as np

from metaspira.drawings.marks import Hatch, Line, Mark
from metaspira.drawings.view import Measure, Pointer, View
from metaspira.numbers.jets import Array
from metaspira.parts import Part
from metaspira.sections.outline import Outline

_ROOM = (46.0, 46.0)
_PER_EDGE = 720


def sections_of(part: Part) -> list[View]:
    """The section; where it changes along the wire, at its start, half way and at its end."""
    sweep = part.sweep
    changes = sweep.changes
    varies = sweep.section.varies or any(
        way.constant is None for way in (changes.size, changes.width, changes.depth)
    )
    if not varies:
        return [_outline(part)]
    at = np.array([0.0, sweep.length / 2, sweep.length])
    width, _, depth, _ = sweep.scale(at)
    size = np.stack([width, depth], axis=1)[:, None, :]
    made = [sweep.uv(ring.points, at) for ring in sweep.section.rings(_PER_EDGE, 1)]
    rings = [np.broadcast_to(ring, (len(at), *ring.shape[-2:])) * size for ring in made]
    return [
        _view(
            part,
            f"Section at {part.length_shown(float(s))}",
            [np.vstack([ring[k], ring[k][:1]]) for ring in rings],
            sweep.section.first.closed,
        )
        for k, s in enumerate(at)
    ]


def _outline(part: Part) -> View:
    outline, section = part.outline, part.recipe.section
    plane = "across the wire" if section.plane == "across" else "through the axis"
    rings = [_ring(loop) for loop in outline.loops]
    note = section.note(part.length_shown)
    pointers = []
    if note:
        u1, v0, v1 = outline.box[1], *outline.box[2:]
        pointers.append(Pointer((u1, (v0 + v1) / 2), note))
    return _view(part, f"Section {plane}", rings, outline.closed, outline.box, section.by_diameter, pointers)


def _view(
    part: Part,
    title: str,
    rings: list[Array],
    closed: bool,
    extent: tuple[float, float, float, float] | None = None,
    by_diameter: bool = False,
    pointers: list[Pointer] | None = None,
) -> View:
    """`extent` is its least and greatest u, then v."""
    every = np.concatenate(rings)
    u0, u1, v0, v1 = extent or (*_span(every[:, 0]), *_span(every[:, 1]))
    loops = [tuple((float(u), float(v)) for u, v in ring) for ring in rings]
    marks: list[Mark] = [Line(loop) for loop in loops]
    if closed:
        marks.append(Hatch(tuple(loops)))
    across = part.length_shown(u1 - u0)
    middle = (v0 + v1) / 2 if by_diameter else v1
    measures = [Measure((u0, middle), (u1, middle), "above", f"⌀{across}" if by_diameter else across)]
    if not by_diameter:
        measures.append(Measure((u0, v0), (u0, v1), "left", part.length_shown(v1 - v0)))
    return View(title, (u0, v0, u1, v1), tuple(marks), tuple(measures), tuple(pointers or ()), _ROOM)


def _span(values: Array) -> tuple[float, float]:
    return float(values.min()), float(values.max())


def _ring(loop: Outline) -> Array:
    points = loop.ring(_PER_EDGE, 2).points
    return np.vstack([points, points[:1]]) if loop.closed else points
