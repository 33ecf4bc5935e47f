"""A data sheet put together: what every one has, and its sentences in the recipe's units."""

from __future__ import annotations

from metaspira.drawings.kinds import plan_of
from metaspira.drawings.marks import Drawing
from metaspira.drawings.picture import picture_of
from metaspira.numbers.shown import sentence_shown
from metaspira.parts import AnyPart
from metaspira.parts.identity import SYSTEM, identity_of
from metaspira.sheets.sheet import Row, Section, Sheet


def sheet(
    part: AnyPart,
    kind: str,
    sections: tuple[Section, ...],
    drawings: tuple[Drawing, ...],
    remark: str,
) -> Sheet:
    """The sheet of a part, its picture before the other drawings."""
    identity = identity_of(part)
    block = identity.block
    whose = " · ".join(
        filter(None, (kind, block.number, block.revision and f"revision {block.revision}", block.owner))
    )

    def shown(text: str) -> str:
        return sentence_shown(text, part.typed.unit)

    told = tuple(
        Section(
            shown(one.title),
            tuple(Row(shown(row.label), shown(row.value), shown(row.note)) for row in one.rows if row.value),
        )
        for one in sections
        if one.rows
    )
    footer = f"{SYSTEM}, {identity.day}. {remark}"
    return Sheet(part.recipe.name, whose, told, (picture_of(plan_of(part)), *drawings), footer)
