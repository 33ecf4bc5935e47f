"""Bars, ropes, tracks, horns and whatever else is swept: front and top, sections where they differ, and a
list of the wires where there are several."""

from __future__ import annotations

from metaspira.drawings import told
from metaspira.drawings.marks import Point
from metaspira.drawings.plan import Plan
from metaspira.drawings.section import sections_of
from metaspira.drawings.seen import FRONT, TOP
from metaspira.drawings.shape import box_of, meshes_of, reach_of, seen, span
from metaspira.drawings.tables import Notes, Table
from metaspira.drawings.view import Measure, Pointer, Projected, View
from metaspira.parts import AnyPart, Part, ThreadedPart
from metaspira.paths.straight import Straight
from metaspira.strands import Strands
from metaspira.sweep.mesh import Mesh

_MOST_ROWS = 40
Box = tuple[float, float, float, float]


def plan_of(part: AnyPart) -> Plan:
    """The plan of any part."""
    fine = reach_of(part) / 100
    meshes = meshes_of(part)
    front, top = box_of(meshes, FRONT), box_of(meshes, TOP)
    turned = _is_round(part)
    views = Projected(
        View(
            "Front",
            front,
            tuple(seen(meshes, FRONT, fine)),
            _sizes(part, meshes, front, turned),
            axes=_axes(front, turned)[:1],
        ),
        View(
            "Top",
            top,
            tuple(seen(meshes, TOP, fine)),
            _across(part, meshes, top, turned),
            _inside(part, turned),
            axes=_axes(top, turned),
        ),
    )
    if isinstance(part, ThreadedPart):
        thread = (
            f"Thread {part.thread.designation}, {part.side}, pitch {part.length_shown(part.thread.pitch)}"
        )
        return Plan((views,), (Notes((thread, *told.notes_of(part))),), reach_of(part) / 3)
    notes = [*told.wound(part), *_strands(part), *told.legs(part), *told.notes_of(part)]
    tables = (_wires(part),) if len(part.bodies) > 1 else ()
    return Plan((views, *sections_of(part)), (Notes(tuple(notes)), *tables), 2 * reach_of(part))


def _axes(box: Box, turned: bool) -> tuple[tuple[Point, Point], ...]:
    """The axis upright, and across it, of what runs around it."""
    left, low, right, high = box
    return (((0.0, low), (0.0, high)), ((left, 0.0), (right, 0.0))) if turned else ()


def _is_round(part: AnyPart) -> bool:
    """It runs around the axis, on a round base, so that it has diameters."""
    if isinstance(part, ThreadedPart):
        return True
    return part.path.coil is not None and getattr(part.recipe.path, "base", None) is None


def _sizes(part: AnyPart, meshes: list[Mesh], box: Box, turned: bool) -> tuple[Measure, ...]:
    """Overall sizes: figures of the part, and how far the surface reaches."""
    left, low, right, high = box
    figures = part.quick_figures
    tall = figures.get("overall_height", figures.get("height"))
    if isinstance(part, Part) and isinstance(part.recipe.path, Straight):
        tall = part.recipe.path.length
    found = [] if not tall else [Measure((right, low), (right, low + tall), "right", part.length_shown(tall))]
    outside = figures["outside_diameter"]
    if turned and outside:
        half = outside / 2
        found.append(Measure((-half, high), (half, high), "above", f"⌀{part.length_shown(outside)}"))
    else:
        first, last = span(part, meshes, 0)
        found.append(Measure((first, high), (last, high), "above", part.length_shown(last - first)))
    if isinstance(part, Part) and part.path.coil is not None and part.path.even and part.path.coil.turns >= 1:
        pitch = part.path.coil.pitch
        middle = (low + high) / 2
        if pitch > 0:
            ends = (left, middle - pitch / 2), (left, middle + pitch / 2)
            found.append(Measure(*ends, "left", f"p {part.length_shown(pitch)}"))
    return tuple(found)


def _across(part: AnyPart, meshes: list[Mesh], box: Box, turned: bool) -> tuple[Measure, ...]:
    """How deep it is, where it has no diameter."""
    if turned:
        return ()
    first, last = span(part, meshes, 1)
    return (Measure((box[2], first), (box[2], last), "right", part.length_shown(last - first)),)


def _inside(part: AnyPart, turned: bool) -> tuple[Pointer, ...]:
    inside = part.quick_figures["inside_diameter"]
    if not inside or not turned:
        return ()
    return (Pointer((inside / 2, 0.0), f"inside ⌀{part.length_shown(inside)}"),)


def _strands(part: Part) -> list[str]:
    strands = part.recipe.strands
    if not isinstance(strands, Strands):
        return []
    lay = "" if strands.lay is None else f", lay {part.length_shown(strands.lay)}"
    return [f"{int(strands.count)} strands{lay}"]


def _wires(part: Part) -> Table:
    rows = [("Part", "Name", "Developed length", "Hand")]
    for k, body in enumerate(part.bodies[:_MOST_ROWS], 1):
        coil = body.sweep.path.coil
        hand = "–" if coil is None else "right" if coil.hand > 0 else "left"
        rows.append((str(k), body.name, part.length_shown(body.sweep.wire_length), hand))
    if len(part.bodies) > _MOST_ROWS:
        rows.append(("…", f"and {len(part.bodies) - _MOST_ROWS} more", "", ""))
    return Table("Parts list", tuple(rows))
