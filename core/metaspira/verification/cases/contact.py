"""Gaps: of a wire to itself, of wires to each other, and of a thread to its mate."""

from __future__ import annotations

import math
from collections.abc import Iterator
from typing import Any

import numpy as np
from scipy.optimize import minimize, minimize_scalar

from metaspira.checks.gaps import part_gaps
from metaspira.checks.threads.pair import thread_air
from metaspira.strands import touching_lay
from metaspira.verification.parts import manifold, threaded, wound
from metaspira.verification.row import Row

_CHORD = 0.01
_FAR = 40.0
_PAIRS = 40


def rows() -> Iterator[Row]:
    yield from _coils()
    yield from _strands()
    yield from _rods()
    yield from _random()
    yield from _threads()


def _gap(recipe: dict[str, Any]) -> float:
    found = part_gaps(wound(recipe)).smallest
    return math.nan if found is None else found


def _coils() -> Iterator[Row]:
    for diameter, pitch, wire in ((20, 6, 2.5), (20, 3, 2.9), (12, 9, 3), (8, 2.2, 2)):
        recipe = {
            "path": {"kind": "coil", "diameter": diameter, "turns": 4, "pitch": pitch},
            "section": {"kind": "round", "diameter": wire},
        }
        rise, radius = pitch / (2 * math.pi), diameter / 2

        def apart(turn: float, rise: float = rise, radius: float = radius) -> float:
            return math.hypot(2 * radius * math.sin(turn / 2), rise * turn)

        near = minimize_scalar(
            apart, bounds=(math.pi, 2.5 * math.pi), method="bounded", options={"xatol": 1e-12}
        )
        yield Row(
            ("min_gap",),
            f"helix ⌀{diameter:g}, pitch {pitch:g}, wire {wire:g}",
            float(near.fun) - wire,
            _gap(recipe),
            1e-6,
            "mm",
            "distance of two turns, least by scipy",
            "computed",
        )


def _strands() -> Iterator[Row]:
    """Strands that touch: the lay at which their centre lines come as near as they are thick."""
    for count, radius, wire in ((2, 1.0, 2.0), (3, 2.0, 2.6), (6, 4.0, 3.2)):
        lay = touching_lay(count, radius, wire)
        if lay is None:
            continue

        def apart(turn: float, lay: float = lay, count: int = count, radius: float = radius) -> float:
            across = 2 * radius * math.sin((2 * math.pi / count + turn) / 2)
            return math.hypot(across, lay * turn / (2 * math.pi))

        near = min(
            float(minimize_scalar(apart, bounds=bounds, method="bounded", options={"xatol": 1e-12}).fun)
            for bounds in ((-math.pi / count * 1.9, -1e-9), (-1e-9, 0.9 * math.pi))
        )
        yield Row(
            ("touching_lay", "strand_radius"),
            f"{count} strands of {wire:g} at {radius:g}, lay {lay:.5g}: distance",
            wire,
            near,
            1e-6,
            "mm",
            "distance of two helices, least by scipy; Olsen and Bohr (2010)",
            "computed",
        )


def _rods() -> Iterator[Row]:
    """Two capsules: balls along straight lines."""
    rng = np.random.default_rng(7)
    for number in range(10):
        ends = rng.uniform(-10, 10, (4, 3)).round(2)
        sizes = rng.uniform(1, 3, 2).round(2)
        wires = [
            {
                "path": {"kind": "points", "points": ends[2 * k : 2 * k + 2].tolist()},
                "section": {"kind": "round", "diameter": float(sizes[k])},
                "ends": {"start": {"kind": "dome"}, "end": {"kind": "dome"}},
            }
            for k in (0, 1)
        ]

        for k in (0, 1):  # the domes take up the last millimetres
            way = ends[2 * k + 1] - ends[2 * k]
            short = sizes[k] / 2 * way / np.linalg.norm(way)
            ends[2 * k] += short
            ends[2 * k + 1] -= short

        def apart(x: np.ndarray, ends: np.ndarray = ends) -> float:
            a = ends[0] + x[0] * (ends[1] - ends[0])
            b = ends[2] + x[1] * (ends[3] - ends[2])
            return float(np.linalg.norm(a - b))

        least = minimize(
            apart, (0.5, 0.5), bounds=((0, 1), (0, 1)), method="L-BFGS-B", options={"ftol": 1e-15}
        )
        by_hand = float(least.fun) - float(sizes.sum()) / 2
        if by_hand < 0.05:
            continue
        yield Row(
            ("min_gap",),
            f"two domed rods, {number + 1}",
            by_hand,
            _gap({**wires[0], "wires": wires[1:]}),
            1e-4,
            "mm",
            "distance of two segments, by scipy (L-BFGS-B)",
            "computed",
        )


def _random() -> Iterator[Row]:
    """Wires of other sections: their meshes are within the chord error of them."""
    rng = np.random.default_rng(2026)
    kinds: list[dict[str, Any]] = [
        {"kind": "rectangle", "width": 2, "height": 3},
        {"kind": "polygon", "sides": 5, "across_flats": 2.5},
        {"kind": "tube", "diameter": 4, "wall": 0.6},
        {"kind": "star", "points": 5, "outer_diameter": 4, "inner_diameter": 2.4},
        {"kind": "channel", "width": 5, "depth": 4, "wall": 0.8},
        {"kind": "ellipse", "width": 2, "height": 4},
    ]
    for number in range(_PAIRS):
        first, second = (kinds[int(k)] for k in rng.integers(len(kinds), size=2))
        way = rng.uniform(-8, 8, (2, 2, 3)).round(2)
        way[1] += [0, 0, 9]
        wires = [
            {"path": {"kind": "points", "points": way[k].tolist()}, "section": section}
            for k, section in enumerate((first, second))
        ]
        part = wound({**wires[0], "wires": wires[1:]})
        one, two = (manifold(body.mesh(_CHORD)) for body in part.bodies)
        distance = float(one.min_gap(two, _FAR))
        found = part_gaps(part).between
        if distance == 0 or distance >= _FAR or found is None:
            continue
        yield Row(
            ("min_gap",),
            f"{first['kind']} beside {second['kind']}, {number + 1}",
            distance,
            found.gap.value,
            2.5 * _CHORD,
            "mm",
            f"meshes of {_CHORD:g} mm chord error, by Manifold",
            "computed",
        )


def _threads() -> Iterator[Row]:
    for diameter, pitch, shank in ((10, 1.5, 8.2), (10, 1.5, 7.5), (20, 2.5, 17), (6, 1, 4.8)):
        yield Row(
            ("min_gap",),
            f"nut M{diameter:g} over a shank of {shank:g}",
            (diameter - 5 * math.sqrt(3) / 8 * pitch - shank) / 2,
            _air(_bolt(diameter, pitch, shank, 14 * pitch)),
            6e-4,
            "mm",
            "ISO 724: D₁ = D − 1.0825 P, rounded to 0.001 mm",
            "formula",
        )
    for diameter, pitch in ((10, 1.5), (20, 2.5), (6, 1)):
        yield Row(
            ("min_gap",),
            f"nut M{diameter:g} past the end of its bolt",
            3.0,
            _air(_bolt(diameter, pitch, diameter + 2, 24 * pitch + 3)),
            2e-3,
            "mm",
            "the heights of both faces, by hand",
            "computed",
        )
    for allowance in (0.1, 0.2):
        part = threaded(
            {
                "thread": {"designation": "Tr20x16P4", "allowance": allowance},
                "host": {"kind": "rod", "length": 6},
                "mate": {"length": 6},
            }
        )
        one, two = (manifold(body.mesh(_CHORD)) for body in part.bodies)
        yield Row(
            ("min_gap",),
            f"Tr20x16P4 opened by {allowance:g}, in space",
            float(one.min_gap(two, 1.0)),
            thread_air(part)["as built"].value,
            2.5 * _CHORD,
            "mm",
            f"meshes of {_CHORD:g} mm chord error, by Manifold",
            "computed",
        )


def _bolt(diameter: float, pitch: float, shank: float, nut_at: float) -> dict[str, Any]:
    """A bolt whose thread is a third of its length, and its nut."""
    return {
        "thread": {"designation": f"M{diameter:g}", "length": 8 * pitch},
        "host": {"kind": "rod", "length": 24 * pitch, "diameter": shank},
        "mate": {"length": 4 * pitch, "at": nut_at},
    }


def _air(recipe: dict[str, Any]) -> float:
    return thread_air(threaded(recipe))["as built"].value
