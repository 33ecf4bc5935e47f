"""Flat spiral springs: the sums against Wahl's, and the strip between its ends against what any elastica
keeps."""

import math

import numpy as np
import pytest
from metaspira.checks import report_on
from metaspira.parts import part_of
from metaspira.problems import RecipeError
from metaspira.sheets import sheet_of
from metaspira.springs.compared import compared
from metaspira.views.springs import spring_view


def spiral(turns=9, diameter=24, end_diameter=96, width=1.2, hand="right", **asked):
    return {
        "format": "metaspira/1",
        "path": {
            "kind": "coil",
            "hand": hand,
            "diameter": diameter,
            "end_diameter": end_diameter,
            "turns": turns,
            "height": 0,
        },
        "section": {"kind": "rectangle", "width": width, "height": 18},
        "spring": {"kind": "spiral", "wire": "EN 10151 1.4310 +C1300", **asked},
    }


def test_torque_and_stress_are_those_of_the_closed_form():
    """Wahl, Mechanical Springs (from memory): φ = 12 M L / (E b t³), σ = 6 M / (b t²); an outer end that
    swivels turns 1.25 times as much, and has twice the moment opposite. L of an Archimedean spiral is about π
    n (D₁ + D₂) / 2."""
    length = math.pi * 9 * (24 + 96) / 2
    found = part_of(spiral(points=[{"angle": 90}])).spring
    assert found.length == pytest.approx(length, rel=0.003)
    torque = math.radians(90) * 185000 * 18 * 1.2**3 / (12 * found.length)
    assert found.points[0].torque == pytest.approx(torque)
    assert found.points[0].stress == pytest.approx(6 * torque / (18 * 1.2**2))
    pinned = part_of(spiral(points=[{"angle": 90}], outer="pinned")).spring
    assert pinned.points[0].torque == pytest.approx(torque / 1.25)
    assert pinned.points[0].stress == pytest.approx(2 * 6 * torque / 1.25 / (18 * 1.2**2))
    along = pinned.stress_along(pinned.points[0].torque, np.linspace(0, 1, 2000))
    assert along[-1] < 1e-6 < 0.9 * pinned.points[0].stress < along.max()


def test_wound_solid_it_is_a_ring_of_its_own_area():
    found = part_of(spiral()).spring
    inner, outer = 11.4, 11.4 + 1.2 * found.solid_turns
    assert math.pi * (outer**2 - inner**2) == pytest.approx(found.length * 1.2)
    assert found.solid_angle == pytest.approx(360 * (found.solid_turns - 9))


@pytest.mark.parametrize(("outer", "give", "peak"), [("clamped", 1.0, 1.0), ("pinned", 1.25, 2.0)])
def test_with_many_turns_the_elastica_is_what_the_sums_take(outer, give, peak):
    found = part_of(
        spiral(turns=24, diameter=16, end_diameter=140, width=0.8, points=[{"angle": 30}], outer=outer)
    ).spring
    beside = compared(found)
    assert (found.give, found.peak) == (give, peak)
    assert beside.rate == pytest.approx(beside.closed_rate, rel=0.01)
    assert beside.stress == pytest.approx(beside.closed_stress, rel=0.06)


def test_the_work_of_the_torque_is_the_energy_in_the_strip():
    """Both are worked out from the elastica alone: ∫ T dα = ½ E I ∫ (M / EI)² ds."""
    found = part_of(spiral(turns=4, end_diameter=60)).spring
    angles = np.radians(np.linspace(0, 240, 13))
    bent = [found.bent_to(float(np.degrees(angle))) for angle in angles[1:]]
    torque = np.array([0.0, *(state.torque for state in bent)])
    work = float(np.trapezoid(torque, angles))
    share = np.linspace(0, 1, 4001)
    stored = 0.5 * found.length * float(np.trapezoid(bent[-1].bending(share) ** 2, share))
    assert work == pytest.approx(stored, rel=2e-3)


@pytest.mark.parametrize("hand", ["right", "left"])
@pytest.mark.parametrize("inwards", [False, True])
def test_the_arbor_turns_by_the_angle_and_the_strip_keeps_its_length(hand, inwards):
    diameters = {"diameter": 96, "end_diameter": 24} if inwards else {}
    part = part_of(spiral(hand=hand, points=[{"angle": 270}], **diameters))
    wound = part.worked_to(270)
    assert wound.path.length == pytest.approx(part.path.length, rel=1e-9)
    arbor, outer = (part.path.length, 0.0) if inwards else (0.0, part.path.length)
    for place, angle in ((arbor, 270.0), (outer, 0.0)):
        free, now = (shape.path.at(np.array([place])) for shape in (part, wound))
        size = np.hypot(*free.position[0, :2])
        assert np.hypot(*now.position[0, :2]) == pytest.approx(size, abs=1e-5)
        for which in ("position", "tangent"):
            a, b = (complex(*getattr(state, which)[0, :2]) for state in (free, now))
            turned = math.degrees(np.angle(b / a)) * (-1 if (hand == "right") != inwards else 1)
            assert turned % 360 == pytest.approx(angle, abs=2e-4) or abs(turned - angle) < 2e-4


@pytest.mark.thorough
def test_what_a_spiral_cannot_do_is_told_with_a_remedy():
    def checks(with_remedies=False, **asked):
        report = report_on(part_of(spiral(**asked)), with_remedies=with_remedies)
        return {check.id: check for check in report.checks}

    assert {check.verdict for check in checks(points=[{"angle": 200}]).values()} == {"clear"}
    solid = checks(with_remedies=True, points=[{"angle": 1900}])["spring-travel"]
    assert solid.verdict == "stop" and "solid" in solid.why and solid.remedies
    touching = checks(turns=6, end_diameter=42, points=[{"angle": 300}])["spring-shape"]
    assert touching.verdict == "stop" and "overlaps itself by" in touching.why
    assert checks(points=[{"angle": -30}])["spring-travel"].verdict == "watch"
    assert checks(points=[{"torque": 4200}])["spring-stress"].verdict == "stop"
    assert checks(width=3, points=[{"angle": 20}])["spring-wire"].verdict == "watch"
    far = checks(outer="pinned", points=[{"angle": 700}])["spring-shape"]
    assert far.verdict == "stop" and "no shape is found" in far.why

    tall = spiral()
    tall["path"]["height"] = 5
    with pytest.raises(RecipeError) as caught:
        part_of(tall)
    assert caught.value.problems[0].fix.value == 0


def test_its_figures_and_its_sheet_say_what_stands_behind_them():
    part = part_of(spiral(points=[{"angle": 90}, {"torque": 900}], outer="pinned"))
    view = spring_view(part)
    assert view["units"] == ["°", "N mm"] and len(view["loads"]) == 2
    assert all(f["formula"] and f["inputs"] and f["source"] for f in view["figures"])
    sheet = sheet_of(part)
    assert sheet.drawings[0].title.startswith("Along the axis")
    rows = {row.label: row.value for section in sheet.sections for row in section.rows}
    assert rows["Outer end"] == "pinned" and rows["Inside diameter"] == "22.8 mm"
