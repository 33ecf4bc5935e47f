"""Scans traced back: meshes and points of our own making, and the recipes that they are of."""

from __future__ import annotations

from collections.abc import Iterator
from typing import Any

import numpy as np
import trimesh

from metaspira.parts import Part, part_of
from metaspira.studies.trace import Traced, trace_surface
from metaspira.studies.trace.sample import made_up
from metaspira.threads.lookup import read_thread
from metaspira.verification.row import Row, near

_SOURCE = "the recipe that was scanned"
_POINTS = 30_000
_TURNS, _TWIST = 0.01, 1.0

_ROUND = {"kind": "round", "diameter": 2.5}
_COILS: dict[str, tuple[dict[str, Any], dict[str, Any], tuple[tuple[float, bool], ...]]] = {
    "a coil, right hand": ({"diameter": 20, "turns": 8, "pitch": 6}, _ROUND, ((0.0, False), (0.03, True))),
    "a coil, left hand": (
        {"hand": "left", "diameter": 24, "turns": 3.5, "pitch": 9},
        _ROUND,
        ((0.03, False), (0.1, False)),
    ),
    "a coil of flat wire": (
        {"diameter": 25, "turns": 6, "pitch": 7},
        {"kind": "rectangle", "width": 4, "height": 2.5},
        ((0.03, False),),
    ),
}
"""Coils, their wire, and their scans: the noise, mm, and whether they are points alone."""

_THREADS = {"M12": (0.0, False), "1/2-13 UNC": (0.08, False), "Tr20x4": (0.02, True), "R 1/2": (0.03, False)}


_CURVE = {"kind": "points", "points": [[0, 0, 0], [30, 5, 10], [60, -5, 15], [90, 10, 0]]}
_STRAIGHT = {"kind": "straight", "length": 80}
_WINDING = {
    "path": {"kind": "winding", "around": _CURVE, "radius": 6, "turns": 17.3, "hand": "left"},
    "section": {"kind": "round", "diameter": 1.5},
}
_BARS: dict[str, tuple[dict[str, Any], dict[str, Any], dict[str, float], dict[str, Any], float]] = {
    "a square bar, twisted to the right": (
        _STRAIGHT,
        {"kind": "rectangle", "width": 10, "height": 10},
        {"width": 10.0, "height": 10.0},
        {"twist": {"total": 720.0}},
        0.03,
    ),
    "a tapered hexagon, twisted to the left": (
        _STRAIGHT,
        {"kind": "polygon", "sides": 6, "across_flats": 12},
        {"across_flats": 12.0},
        {"twist": {"total": -200.0}, "size": {"from": 1, "to": 0.7}},
        0.0,
    ),
    "a hexagon along a curve, twisted to the right": (
        _CURVE,
        {"kind": "polygon", "sides": 6, "across_flats": 8},
        {"across_flats": 8.0},
        {"twist": {"total": 150.0}},
        0.0,
    ),
}
"""The paths of bars, their sections and sizes, what changes along them, and the noise, mm."""


def rows() -> Iterator[Row]:
    for name, (path, section, scans) in _COILS.items():
        recipe = {"path": {"kind": "coil", **path}, "section": section}
        for noise, points in scans:
            found = _traced(recipe, noise, points)
            case = f"{name}, {_told(noise, points)}"
            ours = _measured(found)
            for key in ("diameter", "pitch"):
                share = max(2e-3, 3 * noise / path[key])
                yield near((key,), f"{case}: {key}", path[key], ours[key], share, "mm", _SOURCE)
            for key in ("diameter", "width", "height"):
                if key in section:
                    share = max(2e-3, 3 * noise / section[key])
                    measured = ours[f"wire_{key}"]
                    yield near(
                        (f"wire_{key}",), f"{case}: wire {key}", section[key], measured, share, "mm", _SOURCE
                    )
            turns = f"{case}: turns"
            yield Row(("turns",), turns, path["turns"], ours["turns"], _TURNS, "", _SOURCE, "computed")
            yield _found(f"{case}: its hand", found.recipe["path"]["hand"] == path.get("hand", "right"))
    for name, (path, section, sizes, change, noise) in _BARS.items():
        recipe = {"path": path, "section": section, "along": change}
        part = part_of({"format": "metaspira/1", **recipe})
        assert isinstance(part, Part)
        found = _traced(recipe, noise, points=False)
        case = f"{name}, {_told(noise, points=False)}"
        ours = _measured(found)
        for key, true in {"length": part.path.length, **sizes}.items():
            share = max(2e-3, 3 * noise / true)
            yield near((), f"{case}: {key.replace('_', ' ')}", true, ours[key], share, "mm", _SOURCE)
        twist = f"{case}: twist"
        yield Row(
            ("twist",), twist, change["twist"]["total"], ours["twist"], _TWIST, "°", _SOURCE, "computed"
        )
    found = _traced(_WINDING, 0.0, points=False)
    case = f"a coil around a curve, left hand, {_told(0.0, points=False)}"
    ours = _measured(found)
    yield near(("wire_diameter",), f"{case}: wire diameter", 1.5, ours["wire_diameter"], 4e-3, "mm", _SOURCE)
    yield near((), f"{case}: radius around the curve", 6.0, ours["radius"], 2e-3, "mm", _SOURCE)
    yield Row(("turns",), f"{case}: turns", 17.3, ours["turns"], _TURNS, "", _SOURCE, "computed")
    yield _found(f"{case}: its hand", found.recipe["path"]["hand"] == "left")
    for name, (noise, points) in _THREADS.items():
        thread = read_thread(name)
        recipe = {"thread": {"designation": name}, "host": {"kind": "rod", "length": 12 * thread.pitch}}
        found = _traced(recipe, noise, points)
        case = f"{name}, {_told(noise, points)}"
        yield near(("pitch",), f"{case}: pitch", thread.pitch, _measured(found)["pitch"], 2e-3, "mm", _SOURCE)
        yield _found(
            f"{case}: first in the list", [one.designation for one in found.designations[:1]] == [name]
        )


def _measured(found: Traced) -> dict[str, float]:
    return {one.key: one.value for one in found.figures}


def _found(case: str, met: bool) -> Row:
    return Row((), f"{case}, found (1 is yes)", 1.0, float(met), 0.0, "", _SOURCE, "computed")


def _told(noise: float, points: bool) -> str:
    return f"{'points' if points else 'a mesh'} with {noise:g} mm of noise"


def _traced(recipe: dict[str, Any], noise: float, points: bool) -> Traced:
    """What is traced of a part's surface, each vertex moved by `noise` (standard deviation, mm), the whole
    turned and moved; of its points alone where it says so."""
    mesh = made_up(part_of({"format": "metaspira/1", **recipe}), noise)
    if points:
        return trace_surface(np.asarray(trimesh.sample.sample_surface(mesh, _POINTS, seed=3)[0]), "scan")
    return trace_surface(mesh, "scan")
