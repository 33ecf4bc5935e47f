"""A traced coil, bar or thread with a designer's numbers."""

from __future__ import annotations

from typing import Any

from metaspira.studies.find_spring.search import PREFERRED

_WIRE_OFF = 0.015
_STEPS = {"diameter": 0.1, "end_diameter": 0.1, "pitch": 0.05}
_QUARTER = 0.25
_SIZES = (0.5, 0.1, 0.05)
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
    if "legs" in path:
        path["legs"] = {end: [_leg(one) for one in legs] for end, legs in path["legs"].items()}
    section = recipe["section"]
    if section["kind"] == "round":
        section = {**section, "diameter": _drawn(section["diameter"])}
    else:
        section = _section(section)
    return {**recipe, "path": path, "section": section}


def _leg(leg: dict[str, Any]) -> dict[str, Any]:
    steps = {"angle": (5.0, 1.0)}
    return {
        key: _near(value, steps.get(key, (0.5, 0.1))) if isinstance(value, float) else value
        for key, value in leg.items()
    }


def _drawn(wire: float) -> float:
    """The nearest preferred diameter, else one to 0.05 mm, where it is within 1.5 %."""
    nearest = min(PREFERRED, key=lambda one: abs(one - wire))
    if abs(nearest - wire) > _WIRE_OFF * wire:
        nearest = _stepped(wire, 0.05)
    return nearest if abs(nearest - wire) <= _WIRE_OFF * wire else round(wire, 2)


def _section(section: dict[str, Any]) -> dict[str, Any]:
    """The section with its sizes to half a millimetre or finer steps, none of them over a tenth of a size."""
    return {
        key: _near(value, tuple(one for one in _SIZES if one <= value / 10) or _SIZES[-1:])
        if isinstance(value, float)
        else value
        for key, value in section.items()
    }


def rounded_bar(recipe: dict[str, Any]) -> dict[str, Any]:
    """The recipe with its length to half a millimetre, its section to a tenth and its twist to five degrees
    where they are near; else to finer steps. What is given by points stays."""
    section = _section(recipe["section"])
    path = dict(recipe["path"])
    if "length" in path:
        path["length"] = _near(path["length"], (0.5, 0.1))
    along = {key: dict(change) for key, change in recipe.get("along", {}).items()}
    twist = along.get("twist", {})
    if "total" in twist:
        twist["total"] = _near(twist["total"], (5.0, 1.0), 0.3)
    if "from" in twist:
        twist["to"] = round(twist["from"] + _near(twist["to"] - twist["from"], (5.0, 1.0), 0.3), 4)
    if "to" in along.get("size", {}):
        along["size"]["to"] = _stepped(along["size"]["to"], 0.01)
    return {**recipe, "path": path, "section": section, **({"along": along} if along else {})}


def rounded_winding(recipe: dict[str, Any]) -> dict[str, Any]:
    """The recipe with the nearest preferred wire as in `rounded`, the radius to a twentieth of a millimetre,
    and turns to quarters where they are near, else to a twentieth. The curve stays."""
    path = {**recipe["path"], "radius": _stepped(recipe["path"]["radius"], 0.05)}
    path["turns"] = _near(path["turns"], (_QUARTER, 0.05), _TURNS_OFF / _QUARTER)
    return {
        **recipe,
        "path": path,
        "section": {**recipe["section"], "diameter": _drawn(recipe["section"]["diameter"])},
    }


def rounded_thread(recipe: dict[str, Any]) -> dict[str, Any]:
    """The recipe of a form of one's own with its pitch and its sizes to a twentieth of a millimetre and its
    flanks to half a degree where they are near, else to finer steps; a named one as it is."""
    thread = recipe["thread"]
    host = {**recipe["host"], "length": _near(recipe["host"]["length"], (1.0, 0.5))}
    if "form" not in thread:
        return {**recipe, "host": host}
    form = {
        key: _near(value, (1.0, 0.5) if key in ("leading", "trailing") else (0.1, 0.05, 0.01), 0.3)
        if isinstance(value, float)
        else value
        for key, value in thread["form"].items()
    }
    even = {key: _near(thread[key], (0.5, 0.1, 0.05)) for key in ("diameter", "pitch")}
    return {**recipe, "thread": {**thread, "form": form, **even}, "host": host}


def _near(value: float, steps: tuple[float, ...], slack: float = 0.2) -> float:
    """The value at the coarsest of the steps that it is near to, by a share of the step."""
    for step in steps:
        if abs(_stepped(value, step) - value) < slack * step:
            return _stepped(value, step)
    return _stepped(value, steps[-1])


def _stepped(value: float, step: float) -> float:
    return round(round(value / step) * step, 4)
