"""Tolerances carried through, against the sums of error analysis and counts made by hand."""

import itertools
import json
import math
import warnings
from dataclasses import replace

import numpy as np
import pytest
from metaspira.cli import main
from metaspira.parts import part_of
from metaspira.problems import RecipeError
from metaspira.sheets import sheet_of
from metaspira.springs.scatter import ENOUGH, MADE, SEED, scatter_of
from metaspira.springs.tolerance import tolerances_of
from metaspira.views.springs import spring_view

G = 81500.0
NOMINAL = {"wire": 3.0, "diameter": 25.0, "turns": 8.0, "free_length": 52.0, "modulus": 100.0}


def recipe(made=None, **asked):
    return {
        "format": "metaspira/1",
        "path": {"kind": "coil", "diameter": 25, "turns": 8, "height": 52, "closed": {"start": 1, "end": 1}},
        "section": {"kind": "round", "diameter": 3},
        "ends": {"start": {"kind": "ground"}, "end": {"kind": "ground"}},
        "spring": {
            "kind": "compression",
            "points": [{"length": 40}, {"length": 32}],
            **({"made": made} if made else {}),
            **asked,
        },
    }


def spring(made=None, **asked):
    return part_of(recipe(made, **asked)).spring


def force(length, wire, diameter, turns, free_length, modulus):
    return modulus / 100 * G * wire**4 / (8 * diameter**3 * (turns - 2)) * (free_length - length)


KEPT = {"wire": 0.02, "diameter": 0.2, "turns": 0.05, "free_length": 0.5, "modulus": 1.0}
ONLY = dict.fromkeys(KEPT, 0.0)


def test_the_worst_case_is_the_worst_of_all_corners():
    found = scatter_of(spring(KEPT))
    corners = [
        force(40, **{key: NOMINAL[key] + sign * KEPT[key] for key, sign in zip(KEPT, signs, strict=True)})
        for signs in itertools.product((-1, 1), repeat=5)
    ]
    assert found.spreads[2].worst == pytest.approx([min(corners), max(corners)], rel=1e-9)
    assert found.spreads[1].worst == pytest.approx([(8 - 0.05) * 2.98, (8 + 0.05) * 3.02], rel=1e-9)


def test_the_root_of_squares_is_that_of_the_propagation_of_errors():
    """Of a product of powers the relative errors add up as squares: 4 Δd/d, 3 ΔD/D, Δn/n, ΔG/G (common error
    analysis; Taylor, An Introduction to Error Analysis, not checked against the printed book)."""
    rate = scatter_of(spring(KEPT)).spreads[0]
    relative = math.hypot(4 * 0.02 / 3, 3 * 0.2 / 25, 0.05 / 6, 0.01)
    assert (rate.squares[1] - rate.value) / rate.value == pytest.approx(relative, rel=2e-3)
    assert rate.value == pytest.approx(G * 81 / (8 * 25**3 * 6), rel=1e-12)


def test_springs_made_at_random_are_counted():
    """The same springs made here: each input by the normal distribution, three standard deviations to ±."""
    found = scatter_of(spring(KEPT | {"free_length": 1.2}, grade=1))
    off = np.random.default_rng(SEED).standard_normal((MADE, 5)) / 3
    either = {**KEPT, "free_length": 1.2}
    made = {key: NOMINAL[key] + off[:, k] * either[key] for k, key in enumerate(KEPT)}
    limits = tolerances_of(spring(grade=1)).forces
    held = [
        np.abs(force(length, **made) - force(length, **NOMINAL)) <= limit
        for length, limit in zip((40, 32), limits, strict=True)
    ]
    assert found.within == pytest.approx(np.mean(held[0] & held[1]), abs=1e-9)
    assert [one.within for one in found.spreads[2:4]] == pytest.approx([np.mean(one) for one in held])
    assert 0.5 < found.within < 1


def test_one_tolerance_alone_is_the_normal_distribution():
    """Free length alone, limits at x standard deviations of the force: erf(x/√2) are within."""
    found = scatter_of(spring(ONLY | {"free_length": 3.0}, grade=1))
    allowed = tolerances_of(spring(grade=1)).forces[0]
    sigmas = allowed / (found.spreads[0].value * 3.0 / 3)
    assert found.spreads[2].within == pytest.approx(math.erf(sigmas / math.sqrt(2)), abs=0.01)
    by_key = {one.key: one for one in found.kept}
    assert by_key["free_length"].cost == pytest.approx(1)


@pytest.mark.parametrize("key", ["diameter", "free_length"])
def test_the_tolerance_that_is_needed_is_enough(key):
    wide = KEPT | {"diameter": 0.3, "free_length": 1.5} | {key: 2.5}
    found = scatter_of(spring(wide))
    assert found.within < ENOUGH
    needed = {one.key: one.needed for one in found.kept}
    assert needed["wire"] is None, "the wire alone does not mend it"
    assert scatter_of(spring(wide | {key: needed[key]})).within >= ENOUGH
    assert scatter_of(spring(wide | {key: needed[key] * 1.05})).within < ENOUGH
    shrunk = {name: either * found.shrunk for name, either in wide.items()}
    assert scatter_of(spring(shrunk)).within == pytest.approx(ENOUGH, abs=2e-3)


def test_what_is_not_typed_is_the_standards():
    kept = {one.key: one for one in scatter_of(spring()).kept}
    by_grade = tolerances_of(spring())
    assert kept["wire"].either == spring().wire.tolerance(3.0) and kept["wire"].source == "EN 10270-1"
    assert kept["diameter"].either == by_grade.diameter
    assert kept["free_length"].either == pytest.approx(by_grade.free_length)
    assert "no source" in kept["turns"].source and "no source" in kept["modulus"].source
    assert sum(one.cost for one in kept.values()) == pytest.approx(1)


def test_it_is_in_the_sheet_and_on_the_command_line(tmp_path, capsys):
    made = recipe({"wire": "0.02 mm"})
    titles = [section.title for section in sheet_of(part_of(made)).sections]
    assert any("made at random" in title for title in titles)
    file = tmp_path / "spring.spira.json"
    file.write_text(json.dumps(made))
    with pytest.raises(SystemExit):
        main(["spring", str(file), "--json"])
    told = json.loads(capsys.readouterr().out)["scatter"]
    assert told["kept"][0]["either"] == 0.02 and told["kept"][0]["source"] == "as typed"


def test_what_has_no_tolerances_is_refused_with_its_place():
    with pytest.raises(RecipeError) as caught:
        scatter_of(replace(spring(), ends=None))
    assert caught.value.problems[0].place == "/spring"


def test_without_working_points_nothing_is_held_against_limits():
    found = scatter_of(spring(points=[]))
    assert found.within is None and found.shrunk is None
    assert [one.needed for one in found.kept] == [None] * 5
    assert [one.title for one in found.spreads] == ["Rate", "Solid length"]


def test_a_narrower_grade_holds_fewer_springs():
    kept = KEPT | {"free_length": 1.0, "diameter": 0.3}
    shares = [scatter_of(spring(kept, grade=grade)).within for grade in (1, 2, 3)]
    assert shares == sorted(shares) and shares[0] < shares[2]


@pytest.mark.parametrize(
    ("made", "place"),
    [
        ({"wire": -0.1}, "/spring/made/wire"),
        ({"turns": 11}, "/spring/made/turns"),
        ({"modulus": 101}, "/spring/made/modulus"),
        ({"pitch": 0.1}, "/spring/made/pitch"),
        ({"diameter": "0.2 N"}, "/spring/made/diameter"),
        ({"wire": 1.5}, "/spring/made/wire"),
        ({"turns": 4}, "/spring/made/turns"),
        ({"free_length": 40}, "/spring/made/free_length"),
    ],
)
def test_a_tolerance_that_is_none_is_refused_at_its_place(made, place):
    with pytest.raises(RecipeError) as caught:
        scatter_of(spring(made))
    assert caught.value.problems[0].place == place


@pytest.mark.parametrize("made", [{"wire": 1.4}, {"diameter": 12}, {"turns": 2.9}, {"modulus": 49}])
def test_wide_tolerances_stay_finite(made):
    with warnings.catch_warnings():
        warnings.simplefilter("error")
        found = scatter_of(spring(made))
    assert all(np.isfinite([*one.worst, *one.squares, *one.random]).all() for one in found.spreads)
    assert found.within < 0.9


def of_wire(path, asked):
    """A part of 2 mm wire, D 20, with its legs."""
    return part_of(
        {
            "format": "metaspira/1",
            "path": {"kind": "coil", "diameter": 20, **path},
            "section": {"kind": "round", "diameter": 2},
            "spring": asked,
        }
    )


def pulled(made=None):
    hooks = {end: [{"kind": "hook", "bend_radius": 4}] for end in ("start", "end")}
    points = [{"force": 40}, {"force": 70}]
    asked = {"kind": "extension", "initial_tension": 12, "points": points, "made": made}
    return of_wire({"turns": 12, "pitch": 2.01, "legs": hooks}, asked)


def pulling(made=None):
    return pulled(made).spring


def wound(made=None):
    legs = {end: [{"kind": "straight", "length": 25}] for end in ("start", "end")}
    asked = {"kind": "torsion", "points": [{"angle": 60}, {"torque": 900}], "made": made}
    return of_wire({"turns": 6.25, "pitch": 2.05, "legs": legs}, asked)


def turning(made=None):
    return wound(made).spring


PULLED = {
    "wire": 0.02,
    "diameter": 0.2,
    "turns": 0.1,
    "free_length": 0.6,
    "initial_tension": 10,
    "modulus": 1,
}
WOUND = {"wire": 0.02, "diameter": 0.2, "turns": 0.1, "angle": 3, "modulus": 1}


def test_a_spring_that_pulls_is_carried_through():
    """EN 13906-2 by hand, at the corners: F = F₀ + G d⁴ (L − L₀) / (8 D³ n)."""
    spring = pulling(PULLED)
    length, free = spring.points[1].length, spring.free_length
    forces = []
    for signs in itertools.product((-1, 1), repeat=6):
        wire, mean, turns, longer, initial, modulus = (
            sign * either for sign, either in zip(signs, PULLED.values(), strict=True)
        )
        rate = (1 + modulus / 100) * G * (2 + wire) ** 4 / (8 * (20 + mean) ** 3 * (12 + turns))
        forces.append(12 * (1 + initial / 100) + rate * (length - free - longer))
    found = scatter_of(spring)
    force = found.spreads[2]
    assert (force.title, force.unit, force.at_unit) == ("Force", "N", "mm")
    assert force.value == pytest.approx(70)
    assert force.worst == pytest.approx([min(forces), max(forces)], rel=1e-9)
    assert found.within is None and found.limits == ""


def test_a_spring_that_turns_is_carried_through():
    """EN 13906-3 by hand: M = E d⁴ (α − α₀) / (3667 D n), by the root of the squares of what each does."""
    spring = turning(WOUND)
    rate = 206000 * 16 / (64 / math.pi * 180 / math.pi * 20 * 6.25 * math.pi)
    torque = scatter_of(spring).spreads[1]
    assert torque.at == pytest.approx(60) and torque.unit == "N mm" and torque.at_unit == "°"
    assert torque.value == pytest.approx(60 * rate, rel=1e-3)
    relative = math.hypot(4 * 0.02 / 2, 0.2 / 20, 0.1 / 6.25, 0.01, 3 / 60)
    assert (torque.squares[1] - torque.value) / torque.value == pytest.approx(relative, rel=3e-3)


@pytest.mark.parametrize(("make", "kept"), [(pulling, PULLED), (turning, WOUND), (spring, KEPT)])
def test_typed_limits_of_loads_are_what_the_springs_are_held_against(make, kept):
    wide, narrow = (scatter_of(make({**kept, "load": load})) for load in (20, 4))
    assert wide.limits == narrow.limits == "as typed"
    assert narrow.within < wide.within
    loads = [one for one in narrow.spreads if one.limits is not None]
    assert [one.limits[1] / one.value for one in loads] == pytest.approx([1.04, 1.04])
    assert sum(one.cost for one in narrow.kept) == pytest.approx(1)


def test_an_angle_is_typed_in_its_unit():
    kept = {one.key: one.either for one in scatter_of(turning({"angle": "3°"})).kept}
    assert kept["angle"] == pytest.approx(3)


@pytest.mark.thorough
def test_the_sheet_tells_what_the_maker_of_a_spring_that_pulls_or_turns_keeps():
    for make in (pulled, wound):
        for made in ({"wire": 0.02}, None):
            titles = [section.title for section in sheet_of(make(made)).sections]
            assert any("made at random" in title for title in titles) == (made is not None)


def test_a_tolerance_that_is_too_wide_stands_in_the_way_of_nothing_but_what_is_made():
    part = part_of(recipe({"wire": 1.5}))
    assert spring_view(part)["scatters"] is True
    assert (
        spring_view(part_of(recipe(points=[]) | {"section": {"kind": "tube", "diameter": 3, "wall": 1}}))[
            "scatters"
        ]
        is False
    )
