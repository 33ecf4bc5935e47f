"""The title block (ISO 7200), filled in from the design."""

from __future__ import annotations

from metaspira.drawings.letters import wrapped
from metaspira.drawings.marks import Circle, Line, Mark, Text
from metaspira.drawings.view import ratio
from metaspira.materials import FINISHES
from metaspira.numbers.shown import quantity_shown
from metaspira.parts import AnyPart
from metaspira.parts.identity import identity_of
from metaspira.recipe.title_block import TitleBlock

BLOCK = (180.0, 45.0)
"""Its width and height, mm."""

_ROW, _LABEL, _LEAST = 15.0, 2.0, 1.5


def title_block(part: AnyPart, scale: float, right: float, low: float) -> list[Mark]:
    """Its lines and texts, its lower right corner given."""
    identity = identity_of(part)
    block, mass = identity.block, part.quick_figures["mass"]
    rows: tuple[tuple[tuple[str, str, float], ...], ...] = (
        (
            ("Material", _material(part), 52.0),
            ("Mass", "–" if mass is None else quantity_shown(mass, "g", part.typed.unit), 26.0),
            (*_field(block, "tolerances"), 34.0),
            ("Scale", ratio(scale), 20.0),
            ("Date", identity.day, 28.0),
            ("Sheet", "1 / 1", 20.0),
        ),
        (
            (*_field(block, "number"), 60.0),
            (*_field(block, "revision"), 20.0),
            (*_field(block, "creator"), 50.0),
            (*_field(block, "approver"), 50.0),
        ),
        (
            (*_field(block, "owner"), 60.0),
            ("Title", identity.title, 86.0),
            (f"Dimensions in {part.typed.unit}", "", 34.0),
        ),
    )
    left, top = right - BLOCK[0], low + BLOCK[1]
    marks: list[Mark] = [Line(((left, low), (left, top), (right, top)))]
    for k, row in enumerate(rows):
        foot, x = low + k * _ROW, left
        if k:
            marks.append(Line(((left, foot), (right, foot))))
        for label, value, wide in row:
            if x > left:
                marks.append(Line(((x, foot), (x, foot + _ROW))))
            marks.append(Text((x + 1.5, foot + _ROW - 3.2), label, "start", size=_LABEL))
            marks += _fitted(value, x + 1.5, foot, wide - 3.0, 5.0 if label == "Title" else 3.5)
            x += wide
    return [*marks, *_first_angle(right - 17.0, top - 9.0)]


def _field(block: TitleBlock, name: str) -> tuple[str, str]:
    """What a field is called, and what it says."""
    return TitleBlock.model_fields[name].title or name.capitalize(), getattr(block, name)


def _fitted(words: str, x: float, foot: float, room: float, size: float) -> list[Mark]:
    """A text in a field, smaller or in lines where it is long."""
    tall = _ROW - 5.0
    while True:
        lines = wrapped(words, size, room)
        if len(lines) * 1.25 * size <= tall or size < _LEAST:
            break
        size *= 0.9
    start = foot + tall - size + (tall - len(lines) * 1.25 * size) * -0.5
    return [
        Text((x, start - 1.25 * size * k), line, "start", size=size) for k, line in enumerate(lines) if line
    ]


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
        Line(((x - 11, y), (x + 13, y)), thin=True, dashed=True),
        Line(((x + 7, y - 5.5), (x + 7, y + 5.5)), thin=True, dashed=True),
    ]
