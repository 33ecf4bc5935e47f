"""Sections: the shape of the wire. A new kind is one class in `kinds` and one word in SectionKind."""

from __future__ import annotations

from typing import Annotated

from pydantic import Field

from metaspira.sections.kinds import Ellipse, Polygon, Rectangle, Round
from metaspira.sections.outline import Outline

SectionKind = Annotated[Round | Rectangle | Polygon | Ellipse, Field(discriminator="kind")]

__all__ = ["Ellipse", "Outline", "Polygon", "Rectangle", "Round", "SectionKind"]
