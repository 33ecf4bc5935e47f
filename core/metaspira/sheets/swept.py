"""The data sheet of bars, ropes, tracks and horns: sizes, sections, wires, and how it is wound."""

from __future__ import annotations

from metaspira.drawings import told
from metaspira.parts import Part
from metaspira.sheets.composed import sheet
from metaspira.sheets.figures import part_rows
from metaspira.sheets.sheet import Row, Section, Sheet

_MOST = 40


def swept_sheet(part: Part) -> Sheet:
    """The data sheet of a part of wire that is no spring."""
    unit = part.typed.unit
    wires = tuple(
        Row(body.name, f"{part.length_shown(body.sweep.wire_length)} {unit}", "developed length")
        for body in part.bodies[:_MOST]
    )
    made = [*told.wound(part), *told.legs(part)]
    section = Row("Section", part.typed.section.words(unit), f"plane {part.recipe.section.plane}")
    sections = (
        Section("Sizes", part_rows(part)),
        Section("Section", (section,)),
        Section("Wires", wires if len(part.bodies) > 1 else ()),
        Section("How it is made", tuple(Row("", line) for line in made)),
        Section("Notes", (Row("Material", part.material.name), Row("Note", part.recipe.note or "none"))),
    )
    return sheet(part, "Data sheet", sections, (), "Sizes over the exact surface.")
