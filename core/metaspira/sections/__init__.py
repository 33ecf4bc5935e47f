"""Sections: the shape of the wire. A new kind is one class in `kinds` and one word in SectionKind."""

from __future__ import annotations

from functools import lru_cache

from metaspira.sections.blend import SectionAlong
from metaspira.sections.kinds import SectionKind
from metaspira.sections.kinds.round import Round
from metaspira.sections.kinds.several import Blend
from metaspira.sections.outline import Outline


@lru_cache(maxsize=64)
def section_along(section: SectionKind, place: str) -> SectionAlong:
    """The section along the wire that a resolved section describes. Raises RecipeError below `place`."""
    return section.along(place)


__all__ = ["Blend", "Outline", "Round", "SectionAlong", "SectionKind", "section_along"]
