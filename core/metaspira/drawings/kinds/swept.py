"""Bars, ropes, tracks, horns and whatever else is swept: front and top, sections where they differ, and a
list of the wires where there are several."""

from __future__ import annotations

from metaspira.drawings import told
from metaspira.drawings.outside import front_and_top
from metaspira.drawings.plan import Plan
from metaspira.drawings.section import sections_of
from metaspira.drawings.shape import reach_of
from metaspira.drawings.tables import Notes, Table
from metaspira.parts import Part

_MOST_ROWS = 40


def plan_of(part: Part) -> Plan:
    """The plan of any part of wire."""
    path = part.recipe.path
    turned = part.path.coil is not None and getattr(path, "base", None) is None
    views = front_and_top(part, turned, path.length_typed, _pitch(part))
    notes = [*told.wound(part), *_strands(part), *told.legs(part), *told.notes_of(part)]
    tables = (_wires(part),) if len(part.bodies) > 1 else ()
    return Plan((views, *sections_of(part)), (Notes(tuple(notes)), *tables), 2 * reach_of(part))


def _pitch(part: Part) -> float | None:
    """Of its turns, where it is even, mm."""
    coil = part.path.coil
    return coil.pitch if coil and part.path.even and coil.turns >= 1 and coil.pitch > 0 else None


def _strands(part: Part) -> list[str]:
    strands = part.recipe.strands
    if strands is None:
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
