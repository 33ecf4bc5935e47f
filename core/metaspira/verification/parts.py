"""The parts that cases are calculated of."""

from __future__ import annotations

from typing import Any

from metaspira.parts import Part, part_of


def wound(recipe: dict[str, Any]) -> Part:
    """The part of a recipe without its format; never a threaded one."""
    part = part_of({"format": "metaspira/1", **recipe})
    assert isinstance(part, Part)
    return part


def spring_of(recipe: dict[str, Any]) -> Any:
    """The same part's spring."""
    return wound(recipe).spring
