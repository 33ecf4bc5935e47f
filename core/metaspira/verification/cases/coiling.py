"""Coiling: springback and what a simulated former winds."""

from __future__ import annotations

import math
from collections.abc import Iterator

import numpy as np

from metaspira.coiling.springback import bending
from metaspira.coiling.table import coiling_table
from metaspira.devices.former import designed, wind
from metaspira.sections.loops import Loop
from metaspira.sections.outline import ellipse
from metaspira.verification.parts import wound
from metaspira.verification.row import Row, near

_GARDINER = "Gardiner, The spring back of metals, Transactions of the ASME 79 (1957)"


def rows() -> Iterator[Row]:
    strip = Loop(points=((0, 0), (2, 0), (2, 10), (0, 10))).outline("")
    flat = bending(strip, 200_000, 800)
    for radius in (20, 60, 200):
        share = 800 * radius / (200_000 * 2)
        value = 1 - 3 * share + 4 * share**3
        case = f"strip 10 × 2 of 800 MPa bent to R {radius}, curvature that stays"
        yield Row((), case, value, flat.released(1 / radius) * radius, 1e-9, "", _GARDINER, "formula")
    yield near(
        (), "strip 10 × 2, second moment", 10 * 8 / 12, flat.inertia, 1e-9, "mm⁴", "b h³ / 12", "formula"
    )
    wire = bending(ellipse(3.0, 3.0), 206_000, 1500)
    yield near(
        (), "round 3, second moment", math.pi * 81 / 64, wire.inertia, 1e-9, "mm⁴", "π d⁴ / 64", "formula"
    )
    plastic = 1500 * 27 / 6
    yield near(
        (),
        "round 3 of 1,500 MPa, plastic moment",
        plastic,
        wire.moment(1e3),
        1e-4,
        "N mm",
        "σ d³ / 6",
        "formula",
    )
    for curvature in (0.02, 0.05, 0.4):
        released = _released(3.0, 206_000, 1500, wire.needed(curvature))
        yield near(
            (),
            f"round 3 bent for a curvature of {curvature:g}, what stays",
            curvature,
            released,
            1e-4,
            "1/mm",
            "moment summed over 20,000 strips of the section",
            "computed",
        )
    path = {"kind": "coil", "diameter": 20, "turns": 8, "pitch": 6}
    part = wound({"path": path, "section": {"kind": "round", "diameter": 2.5}})
    made = wind(coiling_table(part), 1, 0.0).figures
    for name, value in designed(part).figures.items():
        yield near(
            (name,),
            f"wound without scatter, {name.replace('_', ' ')}",
            value,
            made[name],
            5e-3,
            "",
            "the design",
        )


def _released(d: float, modulus: float, strength: float, bent: float) -> float:
    y = (np.arange(20_000) + 0.5) / 20_000 * d - d / 2
    width = 2 * np.sqrt(d * d / 4 - y * y)
    stress = np.clip(modulus * bent * y, -strength, strength)
    moment = float(np.sum(stress * y * width)) * d / 20_000
    return bent - moment / (modulus * math.pi * d**4 / 64)
