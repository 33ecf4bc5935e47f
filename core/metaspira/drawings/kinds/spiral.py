"""Flat spiral springs (ISO 2162-1): seen along the axis, with their strip, arbor and outside, and the
diagram of torque."""

from __future__ import annotations

from metaspira.drawings import told
from metaspira.drawings.diagram import diagram
from metaspira.drawings.marks import Circle
from metaspira.drawings.plan import Plan
from metaspira.drawings.section import sections_of
from metaspira.drawings.seen import TOP
from metaspira.drawings.shape import box_of, meshes_of, reach_of, seen
from metaspira.drawings.tables import Notes, Picture
from metaspira.drawings.view import Measure, View, cross
from metaspira.parts import Part
from metaspira.springs.spiral import Spiral


def plan_of(part: Part, spring: Spiral) -> Plan:
    """The plan of a spiral spring."""
    meshes = meshes_of(part)
    box = box_of(meshes, TOP)
    strip = spring.shape
    reach = spring.turns.radius.extremes()[1] + strip.width / 2
    marks = (
        *seen(meshes, TOP, reach_of(part) / 100),
        Circle((0.0, 0.0), spring.arbor / 2, thin=True),
    )
    half = spring.arbor / 2
    measures = (
        Measure((-reach, 0.0), (reach, 0.0), "above", f"De {part.length_shown(2 * reach)}", 1),
        Measure((-half, 0.0), (half, 0.0), "above", f"arbor ⌀{part.length_shown(spring.arbor)}"),
    )
    notes = [
        *told.wound(part),
        f"Strip {part.length_shown(strip.width)} × {part.length_shown(strip.height)}",
        f"Outer end {spring.asked.outer}",
        *told.legs(part),
        *told.loads(part, spring),
        f"Solid on its arbor at {told.quantity(part, spring.solid_angle, '°')}",
        *told.notes_of(part),
    ]
    view = View("Along the axis", box, marks, measures, axes=cross(reach))
    picture = Picture(diagram(spring, part.typed.unit))
    return Plan((view, *sections_of(part)), (picture, Notes(tuple(notes))), strip.width)
