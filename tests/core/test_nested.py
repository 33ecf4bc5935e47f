"""Springs one in the other: what each does alone, added up between the same plates."""

import copy

import numpy as np
import pytest
from metaspira.checks import report_on, run_checks
from metaspira.parts import part_of
from metaspira.problems import RecipeError
from metaspira.sheets import sheet_of
from metaspira.views.springs import spring_view

GROUND = {"start": {"kind": "ground"}, "end": {"kind": "ground"}}
CLOSED = {"start": 1, "end": 1}
OUTER = {
    "path": {"kind": "coil", "diameter": 36, "turns": 8, "pitch": 9, "closed": CLOSED},
    "section": {"kind": "round", "diameter": 4},
    "ends": GROUND,
}
INNER = {
    "path": {
        "kind": "coil", "diameter": 24.6, "turns": 10, "pitch": 6, "closed": CLOSED, "hand": "left",
    },
    "section": {"kind": "round", "diameter": 2.8},
    "ends": GROUND,
}  # fmt: skip


def alone(coil, **asked):
    return {"format": "metaspira/1", **copy.deepcopy(coil), "spring": {"kind": "compression", **asked}}


def nest(inner=INNER, **asked):
    return {**alone(OUTER, **asked), "wires": [{"name": "inner spring", **copy.deepcopy(inner)}]}


def test_at_each_length_the_forces_of_both_add_up():
    outer, inner = (part_of(alone(coil)).spring for coil in (OUTER, INNER))
    pair = part_of(nest(points=[{"length": 50}, {"force": 250}])).spring
    assert pair.free_length == outer.free_length > inner.free_length
    for length in (58, inner.free_length, 50, 42, 36):
        both = outer.at_length(length).force + max(inner.at_length(length).force, 0)
        assert pair.at_length(length).force == pytest.approx(both)
        assert sum(pair.forces(length)) == pytest.approx(both)
    assert pair.points[1].force == pytest.approx(250)
    assert pair.solid_length == max(outer.solid_length, inner.solid_length)
    way, force = pair.curve(2001)
    energy = pair.at_length(pair.free_length - way[1500]).energy
    assert energy == pytest.approx(float(np.trapezoid(force[:1501], way[:1501])), rel=1e-5)


def test_both_are_drawn_at_the_length_that_they_share():
    part = part_of(nest(points=[{"length": 44}]))
    pressed = part.worked_to(44)
    for free, now, one in zip(part.bodies, pressed.bodies, part.spring.members, strict=True):
        assert now.sweep.path.length == pytest.approx(free.sweep.path.length, rel=1e-9)
        rise = [body.sweep.path.coil.height for body in (free, now)]
        assert rise[0] - rise[1] == pytest.approx(one.free_length - 44, rel=1e-3)


@pytest.mark.thorough
def test_each_spring_is_asked_and_the_gravest_answer_is_told():
    def checks(recipe):
        return {check.id: check for check in report_on(part_of(recipe)).checks}

    good = checks(nest(points=[{"length": 52}, {"length": 45}], cycles=1e6))
    assert {check.verdict for check in good.values()} == {"clear"}
    thin = copy.deepcopy(INNER)
    thin["section"]["diameter"] = 1.2
    weak = checks(nest(thin, points=[{"length": 34}]))["spring-travel"]
    assert weak.verdict != "clear" and weak.why.startswith("wire: ")
    slim = copy.deepcopy(INNER)
    slim["path"]["diameter"] = 9
    assert checks(nest(slim))["spring-index"].why.startswith("inner spring: ")
    same = copy.deepcopy(INNER)
    same["path"]["hand"] = "right"
    assert checks(nest(same))["spring-hands"].verdict == "watch"


def test_under_load_the_inner_spring_is_held_against_the_rod():
    pair = {**nest(points=[{"length": 50}]), "fit": {"rod": 21}}
    found = {check.id: check for check in run_checks(part_of(pair))}
    assert found["spring-shape"].verdict == "clear" and found["spring-shape"].value < 0.6
    pair["fit"] = {"rod": 23}
    found = {check.id: check for check in run_checks(part_of(pair))}
    assert found["spring-shape"].verdict == "stop" and "to the rod" in found["spring-shape"].why


def test_springs_of_one_hand_are_offered_the_other():
    same = nest({**INNER, "path": {**INNER["path"], "hand": "right"}})
    found = next(check for check in report_on(part_of(same)).checks if check.id == "spring-hands")
    assert found.verdict == "watch"
    offered = {remedy.input: remedy.value for remedy in found.remedies}
    assert offered == {"/wires/0/path/hand": "left", "/path/hand": "left"}
    same["wires"][0]["path"]["hand"] = offered["/wires/0/path/hand"]
    cured = {check.id: check.verdict for check in run_checks(part_of(same))}
    assert cured["spring-hands"] == "clear"


def test_its_figures_and_its_sheet_speak_of_the_nest_and_of_each():
    part = part_of(nest(points=[{"length": 46}], cycles=1e6, wire="EN 10270-2 VDSiCr"))
    view = spring_view(part)
    figures = {figure["key"]: figure for figure in view["figures"]}
    assert figures["share_0"]["value"] + figures["share_1"]["value"] == pytest.approx(100)
    assert figures["rate"]["value"] == pytest.approx(part.spring.rate)
    assert figures["rate_1"]["title"].endswith("wire 2")
    assert view["solid_length"] == part.spring.solid_length < view["least_length"]
    assert view["curve"][-1][1] == pytest.approx(part.spring.block_force)
    titles = [section.title for section in sheet_of(part).sections]
    assert titles[0] == "Loads of the nest" and "Dimensions, inner spring" in titles


def test_what_is_no_nest_is_refused():
    pulls = nest()
    pulls["spring"] = {"kind": "extension"}
    rope = nest()
    rope["strands"] = {"count": 2, "lay": 40}
    for recipe in (pulls, rope):
        with pytest.raises(RecipeError) as caught:
            part_of(recipe)
        assert "one coil of plain wire in the other" in caught.value.problems[0].reason
