"""Elasticity of a turn and of wire of any section."""

from __future__ import annotations

import math
from collections.abc import Iterator

import numpy as np

from metaspira.sections.kinds.polygon import Polygon
from metaspira.sections.kinds.tube import Tube
from metaspira.sections.outline import Outline, ellipse, polygon
from metaspira.springs.elasticity import Turn, bar_of
from metaspira.springs.shape import SectionWire
from metaspira.verification.row import Row, near

_E = 206000.0
_G = _E / 2.6
_GOEHNER = "Göhner's series, as in Wahl, Mechanical Springs"
_TREYSSEDE = "the equations of Treyssède, Wave Motion 45 (2008), solved on another mesh"
_TIMOSHENKO = "Timoshenko and Goodier, Theory of Elasticity"
_STRENGTH = "Timoshenko, Strength of Materials, part II"


def rows() -> Iterator[Row]:
    yield from _round()
    yield from _straight()
    yield from _wound()
    yield from _wire()


def _box(width: float, height: float) -> Outline:
    return polygon(np.array([(-1, -1), (1, -1), (1, 1), (-1, 1)]) * [width / 2, height / 2])


def _turn(section: Outline, index: float, lead: float) -> Turn:
    return Turn(section, index / 2, math.pi * index * math.tan(math.radians(lead)), _E, _G)


def _round() -> Iterator[Row]:
    for index in (4, 5, 6, 8, 10, 15):
        found = _turn(ellipse(1, 1), index, 1.0)
        case = f"round wire, index {index}, lead 1°"
        series = 1 + 5 / (4 * index) + 7 / (8 * index**2) + 1 / index**3
        shear = found.shear.max() / (8 * index / math.pi)
        yield near(
            ("load_stress",), f"{case}, shear over the bar's", series, shear, 6e-3, "", _GOEHNER, "formula"
        )
        rate = found.rate[0] / (_G / (8 * index**3))
        series = 1 / (1 - 3 / (16 * index**2))
        yield near(("rate",), f"{case}, rate over the bar's", series, rate, 4e-3, "", _GOEHNER, "formula")
    for index, lead, rate, shear in (
        (4, 3, 1.0117, 1.373),
        (6, 4, 1.0042, 1.229),
        (10, 5, 1.0003, 1.126),
        (6, 10, 0.9984, 1.201),
    ):
        found = _turn(ellipse(1, 1), index, lead)
        case = f"round wire, index {index}, lead {lead}°"
        ours = found.rate[0] / (_G / (8 * index**3))
        yield Row(("rate",), f"{case}, rate over the bar's", rate, ours, 2e-4, "", _TREYSSEDE, "computed")
        ours = found.shear.max() / (8 * index / math.pi)
        yield near(("load_stress",), f"{case}, shear over the bar's", shear, ours, 6e-3, "", _TREYSSEDE)


def _straight() -> Iterator[Row]:
    for words, section, stiffness, modulus in (
        ("round", ellipse(1, 1), math.pi / 32, math.pi / 16),
        ("square", _box(1, 1), 0.1406, 0.2082),
        ("rectangle 1 × 2", _box(1, 2), 0.2287 * 2, 0.246 * 2),
        ("ellipse 2 × 1", ellipse(2, 1), math.pi * 8 / 80, math.pi / 8),
    ):
        found = Turn(section, 200.0, 30.0, _E, _G)
        ours = found.rate[0] * 2 * math.pi * 200.0**3 / _G
        case = f"{words}, a turn of radius 200"
        yield near(
            ("rate",), f"{case}, torsion constant", stiffness, ours, 4e-3, "mm⁴", _TIMOSHENKO, "printed"
        )
        ours = 200 / found.shear.max()
        yield near(
            ("load_stress",), f"{case}, torsion modulus", modulus, ours, 0.02, "mm³", _TIMOSHENKO, "printed"
        )
    tube = Turn(Tube(kind="tube", diameter=10.0, wall=1.5).outline("/section"), 1000.0, 60.0, _E, _G)
    exact = math.pi * (10**4 - 7**4) / 32
    ours = tube.rate[0] * 2 * math.pi * 1000**3 / _G
    yield near(
        ("rate",), "tube 10 × 1.5, torsion constant", exact, ours, 4e-3, "mm⁴", "π (D⁴ − d⁴) / 32", "formula"
    )
    stiffness, modulus, inertia = bar_of(Polygon(kind="polygon", sides=6, across_flats=1).outline("/section"))
    roark = "Roark's Formulas for Stress and Strain"
    yield near(("rate",), "hexagon, torsion constant", 0.1154, stiffness, 4e-3, "d⁴", roark, "printed")
    yield near(("load_stress",), "hexagon, torsion modulus", 0.188, modulus, 0.02, "d³", roark, "printed")
    exact = 5 * math.sqrt(3) / 144
    yield near(("rate",), "hexagon, second moment", exact, inertia[0], 1e-6, "d⁴", "∫ y² dA", "formula")


def _wound() -> Iterator[Row]:
    width, height, mean = 2.0, 3.0, 16.0
    found = Turn(_box(width, height), mean / 2, 0.4, _E, _G)
    low, high = mean / 2 - width / 2, mean / 2 + width / 2
    neutral = width / math.log(high / low)
    stress = (neutral - low) / (width * height * (mean / 2 - neutral) * low)
    case = "rectangle 2 × 3 wound, D 16"
    ours = float(np.abs(found.bending).max())
    yield near(
        ("load_stress",),
        f"{case}, inner fibre, of a moment of 1",
        stress,
        ours,
        0.03,
        "1/mm³",
        f"Winkler and Bach, {_STRENGTH}",
        "formula",
    )
    bent = _E * height * width**3 / 12 / (math.pi * mean)
    yield near(("rate",), case, bent, found.winding, 0.02, "N mm a radian", "E I / π D", "formula")
    for index, share in ((8, 0.02), (18, 0.01)):
        turn = Turn(ellipse(1, 1), index / 2, 0.1 * index + 0.3, _E, _G)
        ours = float(np.abs(turn.bending).max()) * math.pi / 32
        q = (index + 0.07) / (index - 0.75)
        yield near(
            ("load_stress",),
            f"round wire wound, index {index}, q",
            q,
            ours,
            share,
            "",
            "EN 13906-3",
            "formula",
        )


def _wire() -> Iterator[Row]:
    side = 2 * math.sqrt(3) * 0.5 * 1.7
    shape = Polygon(kind="polygon", sides=3, across_flats=1.7).outline("/section")
    found = SectionWire(shape, _E, _G)
    case = f"triangle of side {side:.4g}"
    for key, words, value, ours, share, unit in (
        ("rate", "√3 a⁴ / 80", math.sqrt(3) / 80 * side**4, found.stiffness, 2e-3, "mm⁴"),
        ("load_stress", "a³ / 20", side**3 / 20, found.modulus, 0.02, "mm³"),
        ("section_area", "√3 a² / 4", math.sqrt(3) / 4 * side**2, found.area, 1e-9, "mm²"),
    ):
        yield near((key,), f"{case}, {words}", value, ours, share, unit, _TIMOSHENKO, "formula")
    for ratio, stiffness, modulus in ((1.5, 0.196, 0.231), (3, 0.263, 0.267), (10, 0.312, 0.312)):
        found = SectionWire(_box(1, ratio), _E, _G)
        case = f"rectangle 1 × {ratio:g}"
        yield near(
            ("rate",), f"{case}, β", stiffness, found.stiffness / ratio, 6e-3, "", _TIMOSHENKO, "printed"
        )
        yield near(
            ("load_stress",), f"{case}, α", modulus, found.modulus / ratio, 0.025, "", _TIMOSHENKO, "printed"
        )
    square = SectionWire(_box(2, 2), _E, 81500.0)
    wahl = 16 / (5.58 / 8)
    ours = square.stiffness * 32 / math.pi
    yield near(
        ("rate",),
        "square wire 2, as round wire of d⁴ = 8 b⁴ / 5.58",
        wahl,
        ours,
        3e-3,
        "mm⁴",
        "Wahl, Mechanical Springs, 5.58 F D³ n / G b⁴",
        "printed",
    )
