"""Sections: the shape of the wire. A new kind is one class in `kinds` and one word in SectionKind."""

from __future__ import annotations

from functools import lru_cache
from typing import Annotated

from pydantic import Field

from metaspira.sections import kinds
from metaspira.sections.blend import SectionAlong, blended
from metaspira.sections.kinds import Blend, Round
from metaspira.sections.outline import Outline

SectionKind = Annotated[
    kinds.Round
    | kinds.Tube
    | kinds.Rectangle
    | kinds.Polygon
    | kinds.Ellipse
    | kinds.Flatted
    | kinds.Star
    | kinds.Lobed
    | kinds.Trough
    | kinds.Channel
    | kinds.Trapezoid
    | kinds.Free
    | kinds.Blend,
    Field(discriminator="kind"),
]

for _kind in SectionKind.__origin__.__args__:  # type: ignore[attr-defined]
    _kind.model_rebuild(_types_namespace={"SectionKind": SectionKind})
kinds.BlendAt.model_rebuild(_types_namespace={"SectionKind": SectionKind})


@lru_cache(maxsize=64)
def section_along(section: SectionKind, place: str) -> SectionAlong:
    """The section along the wire that a resolved section describes. Raises RecipeError below `place`."""
    if not isinstance(section, Blend):
        return SectionAlong((section.outline(place),))
    here = [f"{place}/sections/{i}/section" for i in range(len(section.sections))]
    outlines = [one.section.outline(at) for one, at in zip(section.sections, here, strict=True)]
    return blended(
        outlines,
        [one.at for one in section.sections],
        [one.turn for one in section.sections],
        section.ease,
        place,
    )


__all__ = ["Blend", "Outline", "Round", "SectionAlong", "SectionKind", "section_along"]
