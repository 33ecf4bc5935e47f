"""Compression springs by the standard, to the last digit, and as they are drawn, beside beams in contact."""

import json
import math

import numpy as np
import pytest
from metaspira.checks import report_on
from metaspira.cli import main
from metaspira.parts import part_of
from metaspira.problems import RecipeError
from metaspira.sheets import sheet_of
from metaspira.springs.tolerance import tolerances_of
from metaspira.views.springs import spring_view
from pressed_beams import pressed

INCH, LBF, KPSI = 25.4, 4.4482216152605, 6.894757
G = 81500.0

USUAL = [
    (0.5, 4, 7, 14), (0.63, 5, 8, 20), (0.8, 8, 6.5, 22), (1, 8, 8, 25), (1, 10, 6, 25), (1.25, 12, 10, 45),
    (1.6, 14, 7.5, 38), (2, 12, 12, 60), (2, 16, 8, 40), (2, 24, 6, 50), (2.5, 20, 10, 60), (3, 25, 8, 52),
    (3, 18, 14, 90), (3.2, 30, 7, 70), (4, 30, 7.5, 70), (4, 25, 9, 70), (5, 60, 9, 150), (6, 40, 8, 100),
    (8, 60, 7, 130), (10, 80, 8.5, 200),
]  # fmt: skip
"""Wire, mean diameter, turns in all and free length, mm, of usual springs."""


def spring(wire, mean, turns, free, closed=1.0, ground=True, **asked):
    lift = 0 if ground else wire
    end = {"kind": "ground"} if ground else {"kind": "flat"}
    return {
        "format": "metaspira/1",
        "path": {
            "kind": "coil", "diameter": mean, "turns": turns, "height": free - lift,
            **({"closed": {"start": closed, "end": closed}} if closed else {}),
        },
        "section": {"kind": "round", "diameter": wire},
        "ends": {"start": end, "end": end},
        "spring": {"kind": "compression", **asked},
    }  # fmt: skip


@pytest.mark.parametrize(("wire", "mean", "turns", "free"), USUAL)
def test_figures_of_usual_springs_are_the_standards_to_the_last_digit(wire, mean, turns, free):
    """EN 13906-1, cold coiled, closed and ground: n = n_t − 2, R = G d⁴ / (8 D³ n), F = R s, τ = 8 F D / (π
    d³), L_c = n_t d_max, S_a = n (0.0015 D²/d + 0.1 d), f = √(R / m) / 2."""
    lengths = [0.9 * free, 0.7 * free]
    part = part_of(spring(wire, mean, turns, free, points=[{"length": one} for one in lengths]))
    found, n = part.spring, turns - 2
    rate = G * wire**4 / (8 * mean**3 * n)
    assert found.rules == "EN 13906"
    assert found.free_length == pytest.approx(free, rel=1e-6)
    assert (found.rate, found.active) == pytest.approx((rate, n), rel=1e-12)
    solid = turns * (wire + found.wire.tolerance(wire))
    assert found.solid_length == pytest.approx(solid, rel=1e-12)
    assert found.block_force == pytest.approx(rate * (found.free_length - solid), rel=1e-12)
    for point, length in zip(found.points, lengths, strict=True):
        force = rate * (found.free_length - length)
        assert point.force == pytest.approx(force, rel=1e-12)
        assert point.stress == pytest.approx(8 * force * mean / (math.pi * wire**3), rel=1e-12)
        k = (mean / wire + 0.5) / (mean / wire - 0.75)
        assert point.corrected == pytest.approx(k * point.stress, rel=1e-12)
        assert point.energy == pytest.approx(force * (found.free_length - length) / 2, rel=1e-12)
    assert found.least_gaps == pytest.approx(n * (0.0015 * mean**2 / wire + 0.1 * wire), rel=1e-12)
    mass = found.wire_mass * n / turns
    assert found.frequency == pytest.approx(0.5 * math.sqrt(1e6 * rate / mass), rel=1e-12)


@pytest.mark.thorough(but=["0.5-4-7-14", "1.6-14-7.5-38", "2-24-6-50", "3-18-14-90", "10-80-8.5-200"])
@pytest.mark.parametrize(("wire", "mean", "turns", "free"), USUAL)
def test_drawn_turns_press_as_beams_in_contact_do(wire, mean, turns, free):
    """Softer than the standard at first, since the ends still give, harder at last, since turns have
    closed."""
    found = part_of(spring(wire, mean, turns, free)).spring
    drawn = found.drawn
    shares = np.array([0.1, 0.5, 0.8])
    way = shares * drawn.deflection_to_block
    beams = pressed(found.turns, found.elastic_modulus, found.shear_modulus, found.reach, way)
    force = np.array([drawn.force_at(one) for one in way])
    assert force == pytest.approx(beams, rel=0.02)
    off = force / (found.rate * way) - 1
    assert -0.09 < off[0] < 0
    assert -0.04 < off[1] < 0.01
    assert 0.015 < off[2] < 0.08


CONES = {
    "steep": {"diameter": 30, "end_diameter": 16, "turns": 7, "pitch": 7},
    "slight": {"diameter": 24, "end_diameter": 20, "turns": 9, "pitch": 6},
    "telescope": {"diameter": 60, "end_diameter": 16, "turns": 6, "pitch": 6},
    "upwards": {"diameter": 18, "end_diameter": 36, "turns": 8, "pitch": 8},
    "barrel": {
        "diameter": {"shape": "barrel", "from": 16, "middle": 26},
        "turns": 8,
        "pitch": {"points": [[0, 2.05], [0.15, 7], [0.85, 7], [1, 2.05]], "ease": "smooth"},
    },
}


@pytest.mark.parametrize("shape", CONES)
@pytest.mark.parametrize("ends", ["flat", "ground"])
def test_cones_go_as_drawn_and_as_beams_in_contact(shape, ends):
    recipe = spring(2.0, 20, 8, 40)
    recipe["path"] = {"kind": "coil", **CONES[shape]}
    recipe["ends"] = {"start": {"kind": ends}, "end": {"kind": ends}}
    found = part_of(recipe).spring
    assert found.rules == "as drawn"
    assert found.drawn is None
    way = np.array([0.1, 0.4, 0.7]) * found.deflection_to_block
    beams = pressed(found.turns, found.elastic_modulus, found.shear_modulus, found.reach, way)
    assert [found.force_at(one) for one in way] == pytest.approx(beams, rel=0.02)


@pytest.mark.thorough
@pytest.mark.parametrize("rules", ["EN 13906", "as drawn"])
def test_a_spring_that_is_all_but_solid_is_told_and_nothing_breaks(rules):
    """Closed and not ground its standard's solid length is more than its free one; as drawn it tilts at
    first."""
    recipe = spring(2.7355, 18.327, 11.3, 34.43, ground=False, rules=rules, points=[{"force": 5}])
    recipe["ends"] = {"start": {"kind": "dome"}, "end": {"kind": "dome"}}
    part = part_of(recipe)
    report = report_on(part, with_remedies=False)
    assert report["spring-travel"].verdict == "stop"
    if rules == "EN 13906":
        assert "is solid already" in report["spring-travel"].why
    assert spring_view(part)["rules"] == rules
    assert sheet_of(part).sections


@pytest.mark.thorough
def test_of_many_turns_the_ends_count_for_nothing():
    """As drawn comes near the standard as turns grow; beyond 200 turns they close each by itself, which joins
    on to what is pressed, and takes no longer."""
    found = part_of(spring(2.0, 20, 150, 620)).spring
    assert found.drawn.rate == pytest.approx(found.rate, rel=0.01)
    many = part_of(spring(2.0, 20, 5000, 20000, points=[{"force": 10}])).spring
    assert many.drawn is None
    assert many.rate == pytest.approx(G * 16 / (8 * 8000 * 4998), rel=1e-12)
    cones = []
    for turns in (200, 201):
        recipe = spring(2.0, 20, turns, 800)
        recipe["path"] = {"kind": "coil", "diameter": 20, "end_diameter": 30, "turns": turns, "pitch": 4}
        cones.append(part_of(recipe).spring)
    assert cones[0].rate * 200 == pytest.approx(cones[1].rate * 201, rel=0.01)
    force = 0.4 * cones[1].block_force
    assert cones[0].deflection_at(force) == pytest.approx(cones[1].deflection_at(force), rel=0.02)
    share = cones[1].force_at_stress(0.05)
    assert cones[1].stresses(share)[0].max() == pytest.approx(0.05 * cones[1].strength, rel=1e-6)


@pytest.mark.parametrize(
    ("closed", "ground", "dead", "solid"),
    [(0.0, False, 0, 11), (0.0, True, 1, 10), (1.0, False, 2, 11), (1.0, True, 2, 10)],
)
def test_the_handbooks_table_of_end_kinds(closed, ground, dead, solid):
    """Shigley, Mechanical Engineering Design, table 10-1: plain, plain and ground, squared, squared and
    ground; not checked against the printed book."""
    recipe = spring(2.0, 20, 10, 60, closed, ground, rules="handbook")
    found = part_of(recipe).spring
    assert found.rules == "handbook"
    assert found.rate == pytest.approx(G * 16 / (8 * 8000 * (10 - dead)), rel=1e-12)
    assert found.solid_length == pytest.approx(2.0 * solid, rel=1e-12)


def test_ends_that_are_not_ground_and_ends_that_the_standard_has_not():
    """EN 13906-1: (n_t + 1.5) d_max where closed ends are not ground; it speaks of no plain ends."""
    closed = part_of(spring(2.0, 20, 10, 60, ground=False)).spring
    assert closed.rules == "EN 13906"
    assert closed.solid_length == pytest.approx(11.5 * (2.0 + closed.wire.tolerance(2.0)), rel=1e-12)
    assert part_of(spring(2.0, 20, 10, 60, closed=0)).spring.rules == "handbook"
    more = part_of(spring(2.0, 20, 10, 60, closed=1.5)).spring
    assert more.active == pytest.approx(7)
    drawn = part_of(spring(2.0, 20, 10, 60, rules="as drawn")).spring
    assert drawn.rules == "as drawn"
    assert drawn.rate > 1.02 * part_of(spring(2.0, 20, 10, 60)).spring.rate


def test_no_active_turn_is_told_with_its_place():
    with pytest.raises(RecipeError) as refused:
        part_of(spring(2.0, 20, 2.5, 20, closed=1.25))
    assert refused.value.problems[0].place == "/path/turns" or "turns" in refused.value.problems[0].reason


@pytest.mark.thorough
def test_where_drawn_and_standard_part_by_more_than_the_grade_allows_is_told():
    def asked(grade, length):
        part = part_of(spring(2.5, 20, 10, 60, points=[{"length": 55}, {"length": length}], grade=grade))
        return part.spring, report_on(part)["spring-drawn"]

    found, close = asked(1, 28)
    deflection = found.free_length - 28
    off = found.drawn.force_at(deflection) - found.rate * deflection
    assert close.value == pytest.approx(off / tolerances_of(found).forces[1], rel=0.05)
    assert close.verdict == ("watch" if close.value > 1 else "clear")
    assert "At 28 mm" in close.why
    assert asked(3, 28)[1].value < close.value
    assert asked(3, 40)[1].verdict == "clear"


def test_the_view_tells_both_with_the_same_keys():
    view = spring_view(part_of(spring(2.5, 20, 10, 60, points=[{"length": 40}])))
    assert view["rules"] == "EN 13906"
    assert {"rate", "index", "free_length", "solid_length", "loads", "buckling", "frequency"} <= set(
        view["as_drawn"]
    )
    assert view["as_drawn"]["loads"][0]["length"] == 40
    assert view["as_drawn"]["rate"] > view["rate"]
    cone = spring(2.5, 20, 10, 60)
    cone["path"] |= {"end_diameter": 30}
    view = spring_view(part_of(cone))
    assert (view["rules"], view["as_drawn"]) == ("as drawn", None)


def test_the_sheet_and_the_command_line_tell_all_three(tmp_path, capsys):
    recipe = spring(2.5, 20, 10, 60, points=[{"length": 40}])
    file = tmp_path / "one.spira.json"
    file.write_text(json.dumps(recipe))
    with pytest.raises(SystemExit):
        main(["spring", str(file), "-o", str(tmp_path / "sheet.html")])
    rate = part_of(recipe).spring.drawn.rate
    assert f"as drawn {rate:.5g} N/mm" in capsys.readouterr().out
    sheet = (tmp_path / "sheet.html").read_text()
    for words in (
        "6.218 N/mm",
        "EN 13906-1",
        "As drawn, rate",
        f"{rate:.4g} N/mm",
        "Exact, rate",
        "Exact, greatest shear",
    ):
        assert words in sheet


def test_a_nest_goes_by_the_standard_where_all_of_it_does():
    recipe = spring(4, 40, 8, 80, points=[{"length": 60}])
    inner = spring(2.5, 24, 9, 70)
    recipe["wires"] = [{"name": "inner", **{key: inner[key] for key in ("path", "section", "ends")}}]
    nest = part_of(recipe).spring
    assert nest.rules == "EN 13906"
    forces = [one.rate * max(one.free_length - 60, 0) for one in nest.alone]
    assert nest.points[0].force == pytest.approx(sum(forces), rel=1e-9)
    assert nest.drawn.points[0].force == pytest.approx(nest.points[0].force, rel=0.05)
    assert nest.drawn.points[0].force != pytest.approx(nest.points[0].force, rel=1e-3)
