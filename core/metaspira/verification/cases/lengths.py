"""Lengths, bends and angles of paths."""

from __future__ import annotations

import math
from collections.abc import Callable, Iterator
from typing import Any

import numpy as np
from scipy.integrate import quad
from scipy.special import ellipe

from metaspira.parts import Part
from metaspira.verification.parts import wound
from metaspira.verification.row import Row, near

_QUAD = "∫ |x′| dt by QUADPACK (scipy)"
_FORMULAS: dict[str, tuple[tuple[str, str, str], Callable[[float], tuple[float, float, float]], float]] = {
    "a trefoil": (
        ("12 * (sin(t) + 2 * sin(2 * t))", "12 * (cos(t) - 2 * cos(2 * t))", "-12 * sin(3 * t)"),
        lambda t: (
            12 * (math.cos(t) + 4 * math.cos(2 * t)),
            12 * (-math.sin(t) + 4 * math.sin(2 * t)),
            -36 * math.cos(3 * t),
        ),
        2 * math.pi,
    ),
    "a wave on a cylinder": (
        ("20 * cos(t)", "20 * sin(t)", "3 * t + 2 * sin(5 * t)"),
        lambda t: (-20 * math.sin(t), 20 * math.cos(t), 3 + 10 * math.cos(5 * t)),
        9.0,
    ),
    "a parabola": (("t", "t ^ 2 / 20", "0"), lambda t: (1.0, t / 10, 0.0), 40.0),
}


def rows() -> Iterator[Row]:
    for diameter, turns, pitch in ((20, 8, 6), (20, 0.3, 6), (6.5, 240, 1.2), (400, 3, 150)):
        part = _part({"kind": "coil", "diameter": diameter, "turns": turns, "pitch": pitch})
        case = f"helix ⌀{diameter:g}, {turns:g} turns, pitch {pitch:g}"
        exact = turns * math.hypot(diameter * math.pi, pitch)
        source = "unrolled helix, n √((π D)² + p²)"
        keys = ("wire_length", "path_length")
        yield near(keys, case, exact, part.path.length, 1e-12, "mm", source, "formula")
        radius = diameter / 2
        bend = radius * (1 + (pitch / (2 * math.pi * radius)) ** 2)
        curvature = np.linalg.norm(part.path.derivatives(np.array([part.path.length / 2]), 2)[2][0])
        source = "r (1 + (p / 2πr)²)"
        yield near(("min_bend_radius",), case, bend, 1 / float(curvature), 1e-9, "mm", source, "formula")
        found = part.quick_figures
        lead_angle = math.degrees(math.atan2(pitch, math.pi * diameter))
        for key, value, unit, source in (
            ("lead_angle", lead_angle, "°", "atan(p / π D)"),
            ("height", turns * pitch, "mm", "n p"),
            ("turns", turns, "", "as given"),
            ("pitch", pitch, "mm", "as given"),
        ):
            yield near((key,), case, value, found[key] or math.nan, 1e-9, unit, source, "formula")
    for start, end, turns, height in ((20, 12, 7, 48), (20, 64, 7, 30), (20, 90, 7, 0), (20, 20.5, 7, 200)):
        path = {"kind": "coil", "diameter": start, "end_diameter": end, "turns": turns, "height": height}
        exact = _cone(start / 2, end / 2, height, turns)
        case = f"cone ⌀{start:g} to ⌀{end:g}, {turns:g} turns, {height:g} high"
        ours = _part(path).path.length
        yield near(("wire_length", "path_length"), case, exact, ours, 1e-10, "mm", _QUAD)
    for angle in (-8, 8):
        coil = _part(
            {"kind": "coil", "diameter": 40, "cone_angle": angle, "turns": 6, "height": 60}
        ).path.coil
        exact = 20 + 60 * math.tan(math.radians(angle))
        ours = math.nan if coil is None else coil.end_radius
        yield near(
            ("outside_diameter",),
            f"cone of {angle}°, radius at its end",
            exact,
            ours,
            1e-12,
            "mm",
            "r + h tan of the half angle",
            "formula",
        )
    for name, (texts, slope, most) in _FORMULAS.items():
        path = {"kind": "formula", "x": texts[0], "y": texts[1], "z": texts[2], "from": 0, "to": most}
        exact = quad(lambda t, f=slope: math.hypot(*f(t)), 0, most, limit=400, epsabs=1e-12)[0]
        ours = _part(path).path.length
        yield near(("wire_length", "path_length"), name, exact, ours, 1e-9, "mm", _QUAD)
    path = {"kind": "formula", "x": "30 * cos(t)", "y": "12 * sin(t)", "z": "0", "from": 0, "to": 2 * math.pi}
    exact = 4 * 30 * float(ellipe(1 - (12 / 30) ** 2))
    yield near(
        ("wire_length", "path_length"),
        "ellipse 60 × 24",
        exact,
        _part(path).path.length,
        1e-10,
        "mm",
        "4 a E(e), complete elliptic integral (scipy)",
        "computed",
    )
    flat = _part({"kind": "coil", "diameter": 10, "end_diameter": 80, "turns": 6, "height": 0}).path.length
    yield near(
        ("wire_length", "path_length"),
        "flat spiral ⌀10 to ⌀80, 6 turns",
        _archimedes(5, 40, 6),
        flat,
        1e-10,
        "mm",
        "Archimedean spiral, (θ √(1 + θ²) + arsinh θ) / 2",
        "formula",
    )


def _part(path: dict[str, Any]) -> Part:
    return wound({"path": path, "section": {"kind": "round", "diameter": 1}})


def _cone(first: float, last: float, height: float, turns: float) -> float:
    sweep = 2 * math.pi * turns
    k, c = (last - first) / sweep, height / sweep
    return float(quad(lambda t: math.sqrt((first + k * t) ** 2 + k * k + c * c), 0, sweep, epsabs=1e-12)[0])


def _archimedes(first: float, last: float, turns: float) -> float:
    k = (last - first) / (2 * math.pi * turns)

    def along(theta: float) -> float:
        return k / 2 * (theta * math.sqrt(1 + theta**2) + math.asinh(theta))

    return along(last / k) - along(first / k)
