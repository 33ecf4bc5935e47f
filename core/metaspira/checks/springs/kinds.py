"""Which spring a part is, for the checks of its kind."""

from __future__ import annotations

from typing import TypeVar

from metaspira.part import Part
from metaspira.springs.working import WoundSpring

S = TypeVar("S", bound=WoundSpring)


def spring_as(part: Part, kind: type[S]) -> S:
    """The spring that a part is, of a kind. Raises TypeError where it is none."""
    if not isinstance(part.spring, kind):
        raise TypeError(f"the part is no {kind.__name__.lower()} spring")
    return part.spring
