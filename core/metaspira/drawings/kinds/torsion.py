"""Torsion springs (ISO 2162-1): seen from the front and along the axis, with their body, diameters and legs,
and the diagram of torque."""

from __future__ import annotations

import numpy as np

from metaspira.drawings import told
from metaspira.drawings.diagram import diagram
from metaspira.drawings.plan import Plan
from metaspira.drawings.seen import FRONT, TOP
from metaspira.drawings.shape import box_of, meshes_of, reach_of, seen
from metaspira.drawings.tables import Notes, Picture
from metaspira.drawings.view import Measure, Pointer, Projected, View, cross, upright
from metaspira.parts import Part
from metaspira.springs.torsion import Torsion


def plan_of(part: Part, spring: Torsion) -> Plan:
    """The plan of a torsion spring."""
    wire, fine = spring.shape.width, reach_of(part) / 100
    meshes = meshes_of(part)
    front, top = box_of(meshes, FRONT), box_of(meshes, TOP)
    body = told.body_of(spring.turns)
    outer, inner = (2 * radius for radius in reversed(spring.turns.radius.extremes()))
    reach = (outer + wire) / 2
    long = part.length_shown(body[1] - body[0])
    either = told.kept(part, spring, "diameter")
    measures = (
        Measure((reach, body[0]), (reach, body[1]), "right", f"LK {long}"),
        Measure((-reach, body[0]), (reach, body[0]), "below", f"De {part.length_shown(2 * reach)}{either}"),
    )
    inside = Pointer((inner / 2 - wire / 2, 0.0), f"Di ⌀{part.length_shown(inner - wire)}", False)
    views = Projected(
        View(
            "Front",
            front,
            tuple(seen(meshes, FRONT, fine)),
            measures,
            (Pointer((reach, body[0] + wire / 2), told.kept_wire(part, spring), False),),
            axes=upright(front[1], front[3]),
        ),
        View("Top", top, tuple(seen(meshes, TOP, fine)), (), (inside, *_legs(part)), axes=cross(reach)),
    )
    notes = [*told.wound(part), *told.legs(part), *told.loads(part, spring), *told.notes_of(part)]
    return Plan((views,), (Picture(diagram(spring, part.typed.unit)), Notes(tuple(notes))), wire)


def _legs(part: Part) -> list[Pointer]:
    """Each straight leg, pointed at in its middle."""
    own = part.recipe.path.legs
    if own is None:
        return []
    pointers = []
    for legs, end in ((own.start, 0.0), (own.end, part.path.length)):
        straight = next((leg for leg in reversed(legs) if leg.kind == "straight"), None)
        if straight is None:
            continue
        s = abs(end - straight.length / 2)
        x, y, _ = part.path.derivatives(np.array([s]), 0)[0][0]
        pointers.append(Pointer((float(x), float(y)), f"leg {part.length_shown(straight.length)}", y > 0))
    return pointers
