"""Warming up: every compiled loop is made, or read from its cache, before the first person asks."""

from __future__ import annotations

from typing import Any

from metaspira.checks import report_on
from metaspira.formats.picture import picture
from metaspira.parts import Part, part_of
from metaspira.views.wound import slice_at

_COIL: dict[str, Any] = {"kind": "coil", "diameter": 20, "turns": 2, "pitch": 6}
_ROUND: dict[str, Any] = {"kind": "round", "diameter": 2}
_BAR: dict[str, Any] = {"kind": "rectangle", "width": 3, "height": 2}
_RECIPES: tuple[dict[str, Any], ...] = (
    {"path": _COIL, "section": _ROUND, "ends": {"end": {"kind": "ground"}}},
    {"path": _COIL, "section": _BAR, "along": {"size": {"from": 1, "to": 0.9}}},
    {"path": _COIL, "section": _BAR, "wires": [{"path": {**_COIL, "diameter": 40}, "section": _BAR}]},
    {
        "path": {"kind": "straight", "length": 9},
        "section": _BAR,
        "wires": [{"path": {"kind": "straight", "length": 5}, "section": _ROUND}],
    },
    {
        "path": {"kind": "winding", "around": _COIL, "radius": 2, "turns": 9},
        "section": {**_ROUND, "diameter": 0.5},
    },
    {
        "thread": {"designation": "M10", "length": 6},
        "host": {"kind": "rod", "length": 9},
        "mate": {"length": 4, "at": 4},
    },
)


def warm_up() -> None:
    """Check and cut a few small parts of different kinds, and draw one."""
    for recipe in _RECIPES:
        part = part_of({"format": "metaspira/1", **recipe})
        report_on(part, with_remedies=False)
        if isinstance(part, Part):
            slice_at(part, 1.0)
    picture(part_of({"format": "metaspira/1", **_RECIPES[0]}), 32, 22)
