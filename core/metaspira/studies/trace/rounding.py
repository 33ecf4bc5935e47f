"""A traced coil or bar with a designer's numbers."""

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


def rounded_bar(recipe: dict[str, Any]) -> dict[str, Any]:
    """The recipe with its length to half a millimetre, its section to a tenth and its twist to five degrees
    where they are near; else to finer steps. What is given by points stays."""
    section = {
        key: _near(value, (0.5, 0.1, 0.05)) if isinstance(value, float) else value
        for key, value in recipe["section"].items()
    }
    path = {**recipe["path"], "length": _near(recipe["path"]["length"], (0.5, 0.1))}
    along = {key: dict(change) for key, change in recipe["along"].items()}
    if "total" in along.get("twist", {}):
        along["twist"]["total"] = _near(along["twist"]["total"], (5.0, 1.0), 0.3)
    if "to" in along.get("size", {}):
        along["size"]["to"] = _stepped(along["size"]["to"], 0.01)
    return {**recipe, "path": path, "section": section, "along": along}


def _near(value: float, steps: tuple[float, ...], slack: float = 0.2) -> float:
    """The value at the coarsest of the steps that it is near to, by a share of the step."""
    for step in steps:
        if abs(_stepped(value, step) - value) < slack * step:
            return _stepped(value, step)
    return _stepped(value, steps[-1])


def _stepped(value: float, step: float) -> float:
    return round(round(value / step) * step, 4)
