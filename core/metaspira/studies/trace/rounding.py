"""A traced coil with a designer's numbers."""

from __future__ import annotations

from typing import Any

from metaspira.studies.find_spring.search import PREFERRED

_WIRE_OFF = 0.015
_STEPS = {"diameter": 0.1, "end_diameter": 0.1, "pitch": 0.05}
_QUARTER = 0.25
_TURNS_OFF = 0.06


def rounded(recipe: dict[str, Any]) -> dict[str, Any]:
    """The recipe with the nearest preferred wire where there is one within 1.5 %, else one to 0.05 mm;
    diameters to 0.1 mm, the pitch to 0.05 mm, and turns to quarters where they are near. What is given by
    points stays."""
    path: dict[str, Any] = {
        key: _stepped(value, _STEPS[key]) if key in _STEPS and isinstance(value, float) else value
        for key, value in recipe["path"].items()
    }
    whole = _stepped(path["turns"], _QUARTER)
    path["turns"] = whole if abs(whole - path["turns"]) < _TURNS_OFF else _stepped(path["turns"], 0.05)
    if "closed" in path:
        path["closed"] = {
            key: max(_stepped(turns, _QUARTER), _QUARTER) for key, turns in path["closed"].items()
        }
    wire = recipe["section"]["diameter"]
    nearest = min(PREFERRED, key=lambda one: abs(one - wire))
    if abs(nearest - wire) > _WIRE_OFF * wire:
        nearest = _stepped(wire, 0.05)
    wire = nearest if abs(nearest - wire) <= _WIRE_OFF * wire else round(wire, 2)
    return {**recipe, "path": path, "section": {**recipe["section"], "diameter": wire}}


def _stepped(value: float, step: float) -> float:
    return round(round(value / step) * step, 4)
