"""Compression springs, one or several in one another (ISO 2162-1): cut through the axis, with their free
length, diameters, wire and pitch, and the load diagram."""

from __future__ import annotations

import math

import numpy as np

from metaspira.drawings import told
from metaspira.drawings.diagram import diagram
from metaspira.drawings.plan import Plan
from metaspira.drawings.seen import FRONT
from metaspira.drawings.shape import box_of, cut, meshes_of, reach_of
from metaspira.drawings.tables import Notes, Picture, Table
from metaspira.drawings.view import Measure, Pointer, Side, View, upright
from metaspira.parts import Part
from metaspira.springs.compression import Compression
from metaspira.springs.nested import Nested
from metaspira.springs.tolerance import tolerances_of
from metaspira.springs.turns import Turns

_EVEN = 1e-9


def plan_of(part: Part, spring: Compression) -> Plan:
    """The plan of a compression spring."""
    limits = [*_solid(part, spring), *_tolerated(part, spring)]
    notes = (*told.wound(part), *told.loads(part, spring), *limits, *told.notes_of(part))
    return Plan((_cut(part, spring.members),), (_diagram(part, spring), Notes(notes)), spring.shape.width)


def plan_of_nest(part: Part, spring: Nested) -> Plan:
    """The plan of compression springs in one another."""
    members = spring.members
    notes = (*told.loads(part, spring), *_solid(part, spring), *told.notes_of(part))
    beside = (_diagram(part, spring), Notes(notes), _parts_list(part, members))
    return Plan((_cut(part, members),), beside, min(member.shape.width for member in members))


def _diagram(part: Part, spring: Compression | Nested) -> Picture:
    return Picture(diagram(spring, part.typed.unit))


def _cut(part: Part, members: tuple[Compression, ...]) -> View:
    meshes = meshes_of(part)
    left, _, right, _ = box_of(meshes, FRONT)
    low, high = part.extents.low, part.extents.high
    marks = cut(meshes, reach_of(part) / 100)
    outer = members[0]
    free = told.kept(part, outer, "free_length")
    measures = [
        Measure((right, low), (right, high), "right", f"L0 {part.length_shown(part.extents.height)}{free}"),
        *_diameters(part, outer, low, high),
        *_pitch(part, outer.turns, left),
    ]
    box = left, low, right, high
    wires = _wires(part, members)
    return View("Cut through the axis", box, tuple(marks), tuple(measures), wires, axes=upright(low, high))


def _diameters(part: Part, spring: Compression, low: float, high: float) -> list[Measure]:
    """Outside diameter; of each end where they differ."""
    turns, either = spring.turns, told.kept(part, spring, "diameter")
    half = turns.shape.width / 2
    first, last = turns.radius.ends
    least, most = turns.radius.extremes()
    found: list[tuple[Side, float, str]] = []
    if most - least < _EVEN * most:
        found.append(("above", most, "De "))
    else:
        found += [("below", first, "De "), ("above", last, "De ")]
        if most > max(first, last) * (1 + _EVEN):
            found.append(("above", most, "De, greatest "))
        if least < min(first, last) * (1 - _EVEN):
            found.append(("below", least, "De, least "))
    rows: dict[Side, int] = {"above": 0, "below": 0}
    measures = []
    for side, radius, word in found:
        reach = radius + half
        foot = high if side == "above" else low
        words = f"{word}{part.length_shown(2 * reach)}{either}"
        measures.append(Measure((-reach, foot), (reach, foot), side, words, rows[side]))
        rows[side] += 1
    return measures


def _pitch(part: Part, turns: Turns, left: float) -> list[Measure]:
    """The pitch of the middle turn, between two centres of wire, where it is even there."""
    middle = math.floor(turns.turns / 2)
    of_half = (math.pi - turns.start_angle) * turns.hand / (2 * math.pi) % 1.0
    shares = [(middle - 1 + of_half + k) / turns.turns for k in range(2)]
    if shares[0] < 0 or shares[1] > 1:
        return []
    along = np.linspace(shares[0], shares[1], 33)
    pitches = turns.pitch.value(along)
    if float(np.ptp(pitches)) > _EVEN * float(pitches.max()) or pitches.max() < 1.05 * turns.shape.height:
        return []
    radius = -float(turns.radius.value(along[:1])[0])
    start, end = ((radius, told.height_of(turns, share)) for share in shares)
    return [Measure(start, end, "left", f"p {part.length_shown(float(pitches[0]))}")]


def _wires(part: Part, members: tuple[Compression, ...]) -> tuple[Pointer, ...]:
    """The wire of each, at a section at the right."""
    found = []
    for k, member in enumerate(members):
        turns = member.turns
        of_none = -turns.start_angle * turns.hand / (2 * math.pi) % 1.0
        count = of_none if k == 0 else math.floor(turns.turns - of_none) + of_none
        share = np.array([min(count / turns.turns, 1.0)])
        reach = float(turns.radius.value(share)[0]) + 0.35 * turns.shape.width
        tip = reach, told.height_of(turns, float(share[0]))
        found.append(Pointer(tip, told.kept_wire(part, member), k > 0))
    return tuple(found)


def _solid(part: Part, spring: Compression | Nested) -> list[str]:
    """How long it is closed solid, and under what force."""
    return [
        f"Solid length Lc {told.quantity(part, spring.solid_length, 'mm')}, "
        f"{told.quantity(part, spring.block_force, 'N')} there"
    ]


def _tolerated(part: Part, spring: Compression) -> list[str]:
    """What the standard tolerates of what bears no tolerance of its own, and its finish."""
    lines = []
    allowed = tolerances_of(spring)
    if allowed is not None:
        by_grade = [
            f"{words} ± {part.length_shown(either)}"
            for key, words, either in (
                ("free_length", "L0", allowed.free_length),
                ("diameter", "coil ⌀", allowed.diameter),
            )
            if either is not None and not told.kept(part, spring, key)
        ]
        if by_grade:
            lines.append(f"EN 15800 grade {spring.asked.grade}: {', '.join(by_grade)}")
        if told.is_ground(part):
            lines.append(
                f"Ground ends: squareness e1 {part.length_shown(allowed.square)}, "
                f"parallelism e2 {part.length_shown(allowed.parallel)}"
            )
    if spring.asked.peened:
        lines.append("Shot-peened")
    return lines


def _parts_list(part: Part, members: tuple[Compression, ...]) -> Table:
    rows = [("Part", "Name", "Wire", "De", "Di", "L0", "Turns", "Hand", "Developed length")]
    for k, (body, member) in enumerate(zip(part.bodies, members, strict=True), 1):
        least, most = member.turns.radius.extremes()
        rows.append(
            (
                str(k),
                body.name,
                told.wire(part, member.shape),
                part.length_shown(2 * most + member.shape.width),
                part.length_shown(2 * least - member.shape.width),
                part.length_shown(member.free_length),
                f"{member.turns.turns:.5g}",
                "right" if member.turns.hand > 0 else "left",
                part.length_shown(body.sweep.wire_length),
            )
        )
    return Table("Parts list", tuple(rows))
