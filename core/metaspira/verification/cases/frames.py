"""Frames: how a section stands along its path."""

from __future__ import annotations

import math
from collections.abc import Iterator
from typing import Any

import numpy as np
from scipy.integrate import solve_ivp

from metaspira.parts import Part
from metaspira.verification.parts import wound
from metaspira.verification.row import Row

_PATHS: dict[str, dict[str, Any]] = {
    "cone ⌀30 to ⌀60, 3 turns": {
        "kind": "coil", "diameter": 30, "end_diameter": 60, "turns": 3, "pitch": 14,
    },
    "helix ⌀30, a turn of 14": {"kind": "coil", "diameter": 30, "turns": 1, "pitch": 14},
    "helix ⌀12, 5 turns of 9, left": {
        "kind": "coil", "diameter": 12, "turns": 5, "pitch": 9, "hand": "left",
    },
    "a trefoil": {
        "kind": "formula", "x": "12 * (sin(t) + 2 * sin(2 * t))", "y": "12 * (cos(t) - 2 * cos(2 * t))",
        "z": "-12 * sin(3 * t)", "from": 0, "to": 6,
    },
}  # fmt: skip


def rows() -> Iterator[Row]:
    for name, path in _PATHS.items():
        steady = _part(path, "steady")
        frames = steady.sweep.frames(np.linspace(0, steady.path.length, 200))
        roll = float(np.abs(np.einsum("ij,ij->i", frames.d_first, frames.second)).max())
        yield Row(
            (),
            f"{name}: roll of the steady frame",
            0.0,
            roll,
            1e-9,
            "1/mm",
            "a′ · b = 0, Wang et al., ACM Transactions on Graphics 27 (2008)",
            "formula",
        )
        off = _angle(_transported(steady), steady.sweep.frames(np.array([steady.path.length])).first[0])
        yield Row(
            (),
            f"{name}: steady frame at the end",
            0.0,
            off,
            1e-5,
            "°",
            "u′ = −(u · t′) t, integrated by scipy (DOP853)",
            "computed",
        )
    for diameter, pitch in ((30, 14), (20, 6), (12, 40)):
        path = {"kind": "coil", "diameter": diameter, "turns": 1, "pitch": pitch}
        steady, outward = (_part(path, kind) for kind in ("steady", "outward"))
        end = np.array([steady.path.length])
        a, b = steady.sweep.frames(end).first[0], outward.sweep.frames(end)
        turned = abs(math.degrees(math.atan2(a @ b.second[0], a @ b.first[0])))
        whole = 360 * math.sin(math.atan2(pitch, diameter * math.pi))
        yield Row(
            (),
            f"helix ⌀{diameter}, pitch {pitch}: turn of the steady frame in a turn",
            min(whole % 360, 360 - whole % 360),
            turned,
            1e-6,
            "°",
            "total torsion, 2π sin α",
            "formula",
        )


def _part(path: dict[str, Any], stance: str) -> Part:
    section = {"kind": "rectangle", "width": 2, "height": 1}
    return wound({"path": path, "section": section, "stance": {"kind": stance}})


def _transported(part: Part) -> np.ndarray:
    """The first axis at the start, carried to the end."""

    def rate(s: float, u: np.ndarray) -> np.ndarray:
        _, tangent, bend = part.path.derivatives(np.array([s]), 2)
        return np.asarray(-(u @ bend[0]) * tangent[0])

    start = part.sweep.frames(np.zeros(1)).first[0]
    found = solve_ivp(rate, (0, part.path.length), start, method="DOP853", rtol=1e-10, atol=1e-12)
    return np.asarray(found.y[:, -1])


def _angle(a: np.ndarray, b: np.ndarray) -> float:
    return math.degrees(math.atan2(float(np.linalg.norm(np.cross(a, b))), float(a @ b)))
