"""The data sheet of a spring, in the trade's usual order: dimensions, wire, ends, hand, loads, rate,
tolerances, finish, notes."""

from __future__ import annotations

from collections.abc import Callable
from typing import Any

from metaspira.drawings.diagram import diagram
from metaspira.parts import Part
from metaspira.sheets.composed import sheet
from metaspira.sheets.sheet import Row, Section, Sheet
from metaspira.sheets.springs import compression, extension, turning
from metaspira.sheets.springs.common import SpringSheet
from metaspira.springs.any_spring import AnySpring
from metaspira.springs.compression import Compression
from metaspira.springs.extension import Extension
from metaspira.springs.nested import Nested
from metaspira.springs.spiral import Spiral
from metaspira.springs.torsion import Torsion

_KINDS: dict[type[AnySpring], Callable[[Part, Any], SpringSheet]] = {
    Compression: compression.alone,
    Nested: compression.nested,
    Extension: extension.pulling,
    Torsion: turning.torsion,
    Spiral: turning.spiral,
}


def spring_sheet(part: Part, spring: AnySpring) -> Sheet:
    """The data sheet of a part that is a spring."""
    told = _KINDS[type(spring)](part, spring)
    notes = Section("Notes", (Row("Note", part.recipe.note or "none"), Row("Finish", told.finish)))
    return sheet(
        part,
        told.title,
        (*told.sections, notes),
        (diagram(spring, part.typed.unit),),
        f"Formulas of {told.standards}; strengths and tolerances not checked against the printed standards.",
    )
