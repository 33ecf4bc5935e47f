"""Extension springs (ISO 2162-1): seen from the front and along the axis, with the lengths of body and
spring, and the load diagram."""

from __future__ import annotations

from metaspira.drawings import told
from metaspira.drawings.diagram import diagram
from metaspira.drawings.plan import Plan
from metaspira.drawings.seen import FRONT, TOP
from metaspira.drawings.shape import box_of, meshes_of, reach_of, seen
from metaspira.drawings.tables import Notes, Picture
from metaspira.drawings.view import Measure, Pointer, Projected, View, upright
from metaspira.parts import Part
from metaspira.springs.extension import Extension


def plan_of(part: Part, spring: Extension) -> Plan:
    """The plan of an extension spring."""
    wire, fine = spring.shape.width, reach_of(part) / 100
    meshes = meshes_of(part)
    front, top = box_of(meshes, FRONT), box_of(meshes, TOP)
    _, low, _, high = front
    body = told.body_of(spring.turns)
    outside = 2 * spring.turns.radius.extremes()[1] + wire
    inside = _inside(part, wire)
    free, either = (told.kept(part, spring, key) for key in ("free_length", "diameter"))
    measures = (
        Measure(
            (0.0, inside[0]), (0.0, inside[1]), "right", f"L0 {part.length_shown(spring.free_length)}{free}"
        ),
        Measure(
            (-outside / 2, body[0]),
            (-outside / 2, body[1]),
            "left",
            f"LK {part.length_shown(body[1] - body[0])}",
        ),
        Measure(
            (-outside / 2, body[1]),
            (outside / 2, body[1]),
            "above",
            f"De {part.length_shown(outside)}{either}",
        ),
    )
    pointer = Pointer((outside / 2, body[0] + wire / 2), told.kept_wire(part, spring), False)
    views = Projected(
        View("Front", front, tuple(seen(meshes, FRONT, fine)), measures, (pointer,), axes=upright(low, high)),
        View("Top", top, tuple(seen(meshes, TOP, fine))),
    )
    notes = [
        *told.wound(part),
        f"Initial tension F0 = {told.quantity(part, spring.initial, 'N')}",
        *told.loads(part, spring),
        *told.legs(part),
        *told.notes_of(part),
    ]
    return Plan((views,), (Picture(diagram(spring, part.typed.unit)), Notes(tuple(notes))), wire)


def _inside(part: Part, wire: float) -> tuple[float, float]:
    """The heights of the insides of its hooks, mm."""
    legs = part.recipe.path.legs
    hooked = [any(leg.kind == "hook" for leg in own) for own in ((legs.start, legs.end) if legs else ())]
    first, last = hooked or (False, False)
    return part.extents.low + wire * first, part.extents.high - wire * last
