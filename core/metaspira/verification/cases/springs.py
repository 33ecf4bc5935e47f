"""Springs: rate, stress, lengths, frequency, buckling, strength of wire."""

from __future__ import annotations

import math
from collections.abc import Iterator
from typing import Any

from metaspira.springs.compared import compared
from metaspira.springs.tolerance import tolerances_of
from metaspira.springs.wire import wires
from metaspira.verification.parts import spring_of
from metaspira.verification.row import Row, near, printed

_INCH, _POUND = 25.4, 4.4482216152605
_PSI = _POUND / _INCH**2
_G, _E = 81500.0, 206000.0
_EN1, _EN2, _EN3 = (f"EN 13906-{part}" for part in (1, 2, 3))
_SHIGLEY = "Shigley, Mechanical Engineering Design"

_USUAL = (
    (0.5, 4, 7, 14), (0.8, 8, 6.5, 22), (1, 10, 6, 25), (1.6, 14, 7.5, 38), (2, 16, 8, 40), (2, 24, 6, 50),
    (3, 18, 14, 90), (4, 25, 9, 70), (5, 60, 9, 150), (8, 60, 7, 130),
)  # fmt: skip
"""Wire, mean diameter, turns in all and free length, mm."""

_STRENGTHS = (
    ("EN 10270-1 SH", 1.0, 2220), ("EN 10270-1 SM", 1.0, 1980), ("EN 10270-1 SL", 1.0, 1720),
    ("EN 10270-1 DH", 0.5, 2467), ("EN 10270-2 VDSiCr", 2.0, 2010), ("EN 10270-3 1.4310 NS", 1.0, 1900),
    ("EN 10270-3 1.4310 HS", 1.0, 2050), ("EN 10270-3 1.4568", 2.0, 1600),
    ("EN 10270-3 1.4568 aged", 2.0, 1900),
)  # fmt: skip
_STRENGTHS_INCH = (("ASTM A228", 0.063, 293), ("ASTM A228", 0.1, 271), ("ASTM A228", 0.162, 249))
_MODULI = ((0.02, 29.5, 12.0), (0.05, 29.0, 11.85), (0.1, 28.5, 11.75), (0.2, 28.0, 11.6))
_END_KINDS = (
    ("plain", 0.0, False, 0, 11), ("plain and ground", 0.0, True, 1, 10), ("squared", 1.0, False, 2, 11),
    ("squared and ground", 1.0, True, 2, 10),
)  # fmt: skip


def rows() -> Iterator[Row]:
    yield from _compression()
    yield from _end_kinds()
    yield from _textbooks()
    yield from _extension()
    yield from _torsion()
    yield from _spiral()
    yield from _cone()
    yield from _wire()
    for grade, text in enumerate(("0.2", "0.35", "0.7"), 1):
        recipe = _coil(2.5, 20, 6, 22.5, grade=grade, points=[])
        found = tolerances_of(spring_of(recipe))
        ours = float("nan") if found is None or found.diameter is None else found.diameter
        case = f"D 20 mm of wire 2.5 mm, grade {grade}, tolerance of the diameter"
        yield printed(("outside_diameter",), case, text, ours, "mm", "EN 15800, table 4")


def _coil(
    d: float, mean: float, turns: float, free: float, closed: float = 1.0, ground: bool = True, **asked: Any
) -> dict[str, Any]:
    end = {"kind": "ground"} if ground else {"kind": "flat"}
    return {
        "path": {
            "kind": "coil", "diameter": mean, "turns": turns, "height": free - (0 if ground else d),
            **({"closed": {"start": closed, "end": closed}} if closed else {}),
        },
        "section": {"kind": "round", "diameter": d},
        "ends": {"start": end, "end": end},
        "spring": {"kind": "compression", **asked},
    }  # fmt: skip


def _compression() -> Iterator[Row]:
    for d, mean, turns, free in _USUAL:
        length = 0.8 * free
        spring = spring_of(_coil(d, mean, turns, free, points=[{"length": length}]))
        (point,) = spring.points
        n, index = turns - 2, mean / d
        rate = _G * d**4 / (8 * mean**3 * n)
        force = rate * (free - length)
        stress = 8 * force * mean / (math.pi * d**3)
        mass = 7.85e-6 * math.pi / 4 * d**2 * math.pi * mean * n
        case = f"d {d:g}, D {mean:g}, n_t {turns:g}, L₀ {free:g}, closed and ground"
        for key, words, value, ours, unit in (
            ("active_turns", "", n, spring.active, ""),
            ("rate", "R = G d⁴ / 8 D³ n", rate, spring.rate, "N/mm"),
            ("load", f"F at {length:g}", force, point.force, "N"),
            ("load_stress", "τ = 8 F D / π d³", stress, point.stress, "MPa"),
            ("load_stress", "k τ", stress * (index + 0.5) / (index - 0.75), point.corrected, "MPa"),
            ("solid_length", "n_t d_max", turns * (d + spring.wire.tolerance(d)), spring.solid_length, "mm"),
            ("least_gaps", "S_a", n * (0.0015 * mean**2 / d + 0.1 * d), spring.least_gaps, "mm"),
        ):
            yield near((key,), f"{case}: {words}".rstrip(": "), value, ours, 1e-6, unit, _EN1, "formula")
        frequency = 0.5 * math.sqrt(1e3 * rate / mass)
        yield near(
            ("frequency",),
            f"{case}: f = √(R / m) / 2 of a plain helix",
            frequency,
            spring.frequency,
            0.012,
            "Hz",
            _EN1,
            "formula",
        )


def _end_kinds() -> Iterator[Row]:
    for words, closed, ground, dead, solid in _END_KINDS:
        spring = spring_of(_coil(2.0, 20, 10, 60, closed, ground, rules="handbook"))
        source = f"{_SHIGLEY}, table 10-1"
        case = f"d 2, D 20, n_t 10, ends {words}"
        yield Row(("active_turns",), case, 10 - dead, spring.active, 1e-9, "", source, "printed")
        yield Row(("solid_length",), case, 2.0 * solid, spring.solid_length, 1e-9, "mm", source, "printed")


def _textbooks() -> Iterator[Row]:
    source = f"{_SHIGLEY}, example 10-1"
    own = {"strength": 324e3 * _PSI, "shear_modulus": 11.85e6 * _PSI, "elastic_modulus": 28.5e6 * _PSI}
    recipe = _coil(0.037 * _INCH, 0.4 * _INCH, 12.5, 35, 1.0, False, wire=own, rules="handbook")
    spring = spring_of(recipe)
    case = "music wire 0.037 in, D 0.400 in, 12.5 turns, squared"
    yield printed(("active_turns",), case, "10.5", spring.active, "", source)
    yield printed(("rate",), case, "4.13", spring.rate / _POUND * _INCH, "lbf/in", source)
    yield printed(("solid_length",), case, "0.4995", spring.solid_length / _INCH, "in", source)

    source = "Khurmi and Gupta, A Textbook of Machine Design, example 23.1"
    (point,) = spring_of(_coil(5, 50, 22, 400, points=[{"force": 500}], wire=_alloy(80000))).points
    case = "d 5, D 50, 500 N, with K = 1 + 1/2C (the book cuts its last digit off)"
    yield Row(("load_stress",), case, 534.7, point.stress * 1.05, 0.1, "MPa", source, "printed")
    source = "Khurmi and Gupta, A Textbook of Machine Design, example 23.2"
    for factor, force, each in ((1.043, 412.7, "9.96"), (1.123, 383.4, "9.26")):
        spring = spring_of(_coil(6, 69, 12, 300, points=[{"force": force}], wire=_alloy(84000)))
        (point,) = spring.points
        case = f"d 6, outside 75, {force:g} N, factor {factor:g}"
        yield near(("load_stress",), case, 350, point.stress * factor, 1e-3, "MPa", source, "printed")
        each_turn = point.deflection / spring.active
        yield printed(("load",), f"{case}, deflection of a turn", each, each_turn, "mm", source)

    source = "Bhandari, Design of Machine Elements, example 10.1"
    own = _alloy(81370, 1090)
    spring = spring_of(_coil(7, 42, 10, 109.34, rules="handbook", wire=own, points=[{"force": 1250}]))
    case = "C 6, d 7, square and ground, 10 turns, 1,250 N"
    yield printed(("rate",), case, "41.20", spring.rate, "N/mm", source)
    yield printed(("load",), f"{case}, deflection", "30.34", spring.points[0].deflection, "mm", source)
    yield printed(("solid_length",), case, "70", spring.solid_length, "mm", source)
    yield printed(("active_turns",), case, "8", spring.active, "", source)


def _alloy(shear: float, strength: float = 2000) -> dict[str, Any]:
    return {"name": "alloy", "strength": strength, "shear_modulus": shear, "elastic_modulus": 2.6 * shear}


def _extension() -> Iterator[Row]:
    hooks = {end: [{"kind": "hook", "bend_radius": 4}] for end in ("start", "end")}
    recipe = _coil(2.0, 20, 12, 30, 0.0)
    recipe["path"] = {"kind": "coil", "diameter": 20, "turns": 12, "pitch": 2.01, "legs": hooks}
    recipe["ends"] = {}
    recipe["spring"] = {"kind": "extension", "initial_tension": 12, "points": [{"force": 50}]}
    spring = spring_of(recipe)
    rate, case = _G * 16 / (8 * 8000 * 12), "d 2, D 20, n 12, F₀ 12 N"
    yield near(("rate",), case, rate, spring.rate, 1e-9, "N/mm", _EN2, "formula")
    longer = spring.points[0].length - spring.free_length
    yield near(("load",), f"{case}, s = (F − F₀) / R at 50 N", 38 / rate, longer, 1e-9, "mm", _EN2, "formula")
    bent, twisted = spring.hook_stresses(50)
    by_hand = 50 * (389 / 360 * 16 * 20 / (math.pi * 8) + 4 / (math.pi * 4))
    source = f"{_SHIGLEY}, section 10-11"
    yield near(("hook_bending",), f"{case}, C₁ 10", by_hand, bent, 1e-9, "MPa", source, "formula")
    by_hand = 15 / 12 * 8 * 50 * 20 / (math.pi * 8)
    yield near(("hook_torsion",), f"{case}, C₂ 4", by_hand, twisted, 1e-9, "MPa", source, "formula")

    recipe["section"], recipe["path"]["pitch"] = {"kind": "rectangle", "width": 3, "height": 1}, 1.02
    spring = spring_of(recipe)
    inner, outer = 8.5, 11.5
    neutral = 3 / math.log(outer / inner)
    by_hand = 50 * (10 * (neutral - inner) / (3 * (10 - neutral) * inner) + 1 / 3)
    case = "wire 3 by 1 mm, loop of radius 10 mm, 50 N"
    found, source = spring.hook_stresses(50)[0], "curved beams of Winkler and Bach"
    yield near(("hook_bending",), case, by_hand, found, 5e-3, "MPa", source, "formula")

    recipe["unit"] = "in"
    recipe["path"] = {"kind": "coil", "diameter": 0.213, "turns": 12.17, "pitch": 0.0351}
    recipe["section"] = {"kind": "round", "diameter": 0.035}
    own = {"strength": 1900, "elastic_modulus": 28.7e6 * _PSI, "shear_modulus": 11.6e6 * _PSI}
    recipe["spring"] = {"kind": "extension", "initial_tension": "1.19 lbf", "gives": "hooks", "wire": own}
    spring, source = spring_of(recipe), f"{_SHIGLEY}, example 10-6"
    case = "wire 0.035 in, outside 0.248 in, 12.17 turns"
    yield printed(("active_turns",), case, "12.57", spring.active, "", source)
    yield printed(("rate",), case, "17.91", spring.rate / _POUND * _INCH, "lbf/in", source)


def _torsion() -> Iterator[Row]:
    legs = {end: [{"kind": "straight", "length": 25}] for end in ("start", "end")}
    recipe = _coil(2.0, 20, 6.25, 15, 0.0)
    recipe["path"] = {"kind": "coil", "diameter": 20, "turns": 6.25, "pitch": 2.05, "legs": legs}
    recipe["ends"] = {}
    recipe["spring"] = {"kind": "torsion", "points": [{"torque": 900}]}
    spring, case = spring_of(recipe), "d 2, D 20, n 6.25"
    (point,) = spring.points
    yield near(
        ("rate",),
        f"{case}, E d⁴ / 3667 D n",
        _E * 16 / (3667 * 20 * 6.25),
        spring.rate,
        1e-4,
        "N mm/°",
        _EN3,
        "formula",
    )
    stress = 32 * 900 / (math.pi * 8)
    yield near(("load_stress",), f"{case}, 32 M / π d³", stress, point.stress, 1e-9, "MPa", _EN3, "formula")
    corrected = stress * 10.07 / 9.25
    yield near(("load_stress",), f"{case}, q σ", corrected, point.corrected, 1e-9, "MPa", _EN3, "formula")
    inside = 20 * 6.25 / 6.5 - 2
    yield near(
        ("inside_wound",),
        f"{case}, wound by 90°",
        inside,
        spring.inside_diameter(90),
        1e-9,
        "mm",
        _EN3,
        "formula",
    )
    leg = [{"kind": "straight", "length": 1}]
    recipe["unit"] = "in"
    recipe["section"] = {"kind": "round", "diameter": 0.072}
    recipe["path"] = {"kind": "coil", "diameter": 19 / 32 - 0.072, "turns": 4.25, "pitch": 0.073}
    recipe["path"]["legs"] = {"start": leg, "end": leg}
    own = {"strength": 1900, "elastic_modulus": 28.5e6 * _PSI, "shear_modulus": 11.5e6 * _PSI}
    recipe["spring"] = {"kind": "torsion", "held": "ends", "by": "10.8", "wire": own}
    rate = spring_of(recipe).rate * 360 / (_POUND * _INCH)
    case = "music wire 0.072 in, outside 19/32 in, 4.25 turns, legs 1 in"
    yield printed(("rate",), case, "29.2", rate, "lbf in a turn", f"{_SHIGLEY}, example 10-8")


def _spiral() -> Iterator[Row]:
    recipe = _coil(2.0, 20, 9, 0, 0.0)
    recipe["path"] = {"kind": "coil", "diameter": 24, "end_diameter": 96, "turns": 9, "height": 0}
    recipe["section"] = {"kind": "rectangle", "width": 1.2, "height": 18}
    recipe["ends"] = {}
    asked = {"kind": "spiral", "wire": "EN 10151 1.4310 +C1300", "points": [{"angle": 90}]}
    spring = spring_of(recipe | {"spring": asked})
    source, case = "Wahl, Mechanical Springs", "strip 18 × 1.2, 9 turns from 24 to 96"
    length = math.pi * 9 * (24 + 96) / 2
    yield near(
        ("strip_length",), f"{case}, π n (D₁ + D₂) / 2", length, spring.length, 3e-3, "mm", source, "formula"
    )
    torque = math.radians(90) * 185000 * 18 * 1.2**3 / (12 * spring.length)
    (point,) = spring.points
    yield near(
        ("load",), f"{case}, 90°, E b t³ φ / 12 L", torque, point.torque, 1e-6, "N mm", source, "formula"
    )
    stress = 6 * torque / (18 * 1.2**2)
    yield near(
        ("load_stress",), f"{case}, 90°, 6 M / b t²", stress, point.stress, 1e-6, "MPa", source, "formula"
    )
    pinned = spring_of(recipe | {"spring": asked | {"outer": "pinned"}}).points[0].torque
    yield near(
        ("load",), f"{case}, 90°, outer end pinned", torque / 1.25, pinned, 1e-6, "N mm", source, "formula"
    )


def _cone() -> Iterator[Row]:
    for first, last, turns in ((30, 16, 7), (40, 24, 7), (24, 20, 9)):
        recipe = _coil(2.0, first, turns, 50, 0.0, False)
        recipe["path"] = {"kind": "coil", "diameter": first, "end_diameter": last, "turns": turns, "pitch": 7}
        a, b = first / 2, last / 2
        by_hand = _G * 16 / (16 * turns * (a**2 + b**2) * (a + b))
        found = compared(spring_of(recipe))
        assert found is not None
        yield near(
            ("rate",),
            f"cone from {first} to {last}, {turns} turns open",
            by_hand,
            found.closed_rate,
            1e-4,
            "N/mm",
            "Wahl, Mechanical Springs",
            "formula",
        )


def _wire() -> Iterator[Row]:
    kept = wires()
    for name, diameter, strength in _STRENGTHS:
        ours = kept[name].strength(diameter)
        source = name.split(" ")[0] + " " + name.split(" ")[1]
        yield Row(("strength",), f"{name}, {diameter:g} mm", strength, ours, 1.0, "MPa", source, "printed")
    for name, diameter, ksi in _STRENGTHS_INCH:
        ours = kept[name].strength(diameter * _INCH) / (1e3 * _PSI)
        yield Row(("strength",), f"{name}, {diameter:g} in", ksi, ours, 0.2, "ksi", name, "printed")
    for diameter, elastic, shear in _MODULI:
        found = kept["ASTM A228"].cold_moduli(diameter * _INCH)
        source, case = f"{_SHIGLEY}, table 10-5", f"ASTM A228, {diameter:g} in"
        for key, value, ours in zip(
            ("elastic_modulus", "shear_modulus"), (elastic, shear), found, strict=True
        ):
            yield near((key,), case, value, ours / (1e6 * _PSI), 1e-3, "Mpsi", source, "printed")
