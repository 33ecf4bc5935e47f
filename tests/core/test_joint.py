"""Threaded joints against worked examples and tables (from memory of the books and standards that are named;
not checked against the printed pages)."""

import json
import math
from typing import get_args

import numpy as np
import pytest
from metaspira.checks import report_on
from metaspira.cli import main
from metaspira.parts import part_of
from metaspira.problems import RecipeError
from metaspira.threads.joint.asked import AskedJoint
from metaspira.threads.joint.joint import Joint
from metaspira.threads.joint.metals import Class, metal
from metaspira.threads.lookup import read_thread


def joint(designation, length=10, flats=None, **asked):
    return Joint(read_thread(designation), AskedJoint(**asked), length, flats)


def test_a_power_screw_is_shigleys_example():
    """Shigley, Mechanical Engineering Design, example 8-1: square, 32 by 4 mm, two starts, f = 0.08, collar
    40 mm, 6.4 kN: 15.94 N m in the thread, 10.24 under the collar; −0.466 N m to lower it in the thread, so
    that it does not hold by itself; with 0.38 of the load on one thread 12.9 MPa of bearing and 41.5 of
    bending."""
    found = joint("Sq32x8P4", 4, friction=0.08, head_friction=0.08, head_diameter=40)
    up, down = found.driving(6400)
    assert round(up / 1000, 2) == 15.94
    assert round(down / 1000, 3) == -0.466
    assert round(6400 * found.torque_per_newton[1] / 1000, 2) == 10.24
    assert not found.locks
    assert round(found.pressure(0.38 * 6400), 1) == 12.9
    assert round(found.root_bending(0.38 * 6400), 1) == 41.5
    overall = 6400 * 8 / (2 * math.pi * (up + 6400 * found.torque_per_newton[1]))
    assert round(overall, 3) == 0.311


def test_a_regular_nut_of_its_class_holds_more_than_its_bolt():
    """ISO 898-2: a nut of style 1 (m ≥ 0.8 d) of class 8 strips no bolt of 8.8; one half as high does."""
    for designation, height, flats in (
        ("M8", 6.44, 13),
        ("M10", 8.04, 16),
        ("M12", 10.37, 18),
        ("M16", 14.1, 24),
    ):
        assert joint(designation, height, flats).strips_at > 0.98 * joint(designation).breaking_load
        thin = joint(designation, height / 2, flats)
        assert not thin.breaks_first
        assert thin.longest_needed(thin.breaking_load) == pytest.approx(height, rel=0.25)


def test_the_engagement_that_is_needed_is_enough():
    for internal in ("nut 8", "AW-6082", "GJL-250"):
        short = joint("M12", 8, internal=internal)
        needed = short.longest_needed(short.breaking_load)
        assert joint("M12", 1.001 * needed, internal=internal).breaks_first
        assert not joint("M12", 0.999 * needed, internal=internal).breaks_first


def test_the_first_turn_bears_a_third():
    """A regular nut's first turn bears about a third of the load (Sopwith 1948; Shigley, section 8-2, 0.38 of
    a shorter one); the shares fall, and add up to all of it."""
    found = joint("M10", 8.4, 16)
    assert 0.28 < found.first_share < 0.38
    assert np.all(np.diff(found.shares) < 0)
    assert found.shares.sum() == pytest.approx(1)
    softer = joint("M10", 8.4, 16, internal="AW-6082")
    assert softer.first_share < found.first_share, "a softer nut spreads the load"


def test_every_material_is_known_by_its_word():
    for name in get_args(get_args(Class)[0]):
        found = metal(name, 10)
        assert found.name == name and found.source
        assert 0 < found.yields <= found.strength and 0.4 < found.shear < 1.5
    assert metal("8.8", 20).strength == 830, "ISO 898-1, above 16 mm"


RATIOS = {
    "4.6": 0.94, "4.8": 0.91, "5.6": 0.93, "5.8": 0.90, "6.8": 0.92, "8.8": 0.91, "9.8": 0.90, "10.9": 0.88,
    "12.9": 0.88,
}  # fmt: skip


@pytest.mark.parametrize("name", RATIOS)
def test_a_class_says_its_strength_and_its_proof_is_the_printed_share(name):
    """ISO 898-1 (from memory): the class is its tensile strength in hundreds of MPa and the share of it at
    which it yields, of which the proof stress is a printed share; least values are up to a tenth above."""
    found, (hundreds, tenths) = metal(name, 10), map(int, name.split("."))
    assert 1 <= found.strength / (100 * hundreds) <= 1.05
    assert 1 <= found.yields / (10 * hundreds * tenths) <= 1.07
    assert found.strength % 10 == found.yields % 10 == found.proof % 5 == 0, "printed in tens, and in fives"
    assert round(found.proof / found.yields, 2) == pytest.approx(RATIOS[name], abs=0.0101)


@pytest.mark.parametrize(
    ("name", "ksi"), [("SAE 2", (74, 57, 55)), ("SAE 5", (120, 92, 85)), ("SAE 8", (150, 130, 120))]
)
def test_grades_in_pounds_are_converted(name, ksi):
    """SAE J429, tensile, yield and proof in thousands of pounds a square inch (from memory)."""
    found = metal(name, 6)
    assert (found.strength, found.yields, found.proof) == pytest.approx(
        [6.894757 * one for one in ksi], abs=0.5
    )


@pytest.mark.parametrize(
    ("name", "strength", "yields"),
    [("A2-50", 500, 210), ("A2-70", 700, 450), ("A4-70", 700, 450), ("A2-80", 800, 600), ("A4-80", 800, 600)],
)
def test_stainless_classes_have_their_printed_strengths(name, strength, yields):
    """ISO 3506-1 (from memory)."""
    found = metal(name, 10)
    assert (found.strength, found.yields, found.proof) == (strength, yields, yields)


RECIPE = {
    "format": "metaspira/1",
    "thread": {"designation": "M10", "length": 25},
    "host": {"kind": "rod", "length": 40},
    "mate": {"length": 8.4, "at": 5, "across_flats": 16},
}


def test_checks_stop_what_strips_and_offer_what_holds():
    asked = RECIPE | {"joint": {"internal": "AW-6082", "load": 30000}}
    report = report_on(part_of(asked))
    stripping = report["joint-stripping"]
    assert stripping.verdict == "stop" and "internal threads strip" in stripping.why
    assert stripping.where == ((5.0, 13.4),)
    offered = {remedy.input: remedy.value for remedy in stripping.remedies}
    held = asked | {"mate": RECIPE["mate"] | {"length": offered["/mate/length"]}}
    assert report_on(part_of(held), with_remedies=False)["joint-stripping"].verdict != "stop"
    assert report["joint-load"].verdict == "clear"


@pytest.mark.parametrize(
    ("asked", "check", "verdict"),
    [
        ({"load": 40000}, "joint-load", "watch"),
        ({"load": 50000}, "joint-load", "stop"),
        ({"torque": 44000}, "joint-tightening", "clear"),
        ({"torque": 50000}, "joint-tightening", "watch"),
        ({"torque": "50 lbf ft"}, "joint-tightening", "stop"),
        ({"load": 500, "pressure": 3}, "joint-pressure", "watch"),
        ({"load": 500, "pressure": 8}, "joint-pressure", "clear"),
        ({}, "joint-load", "clear"),
    ],
)
def test_each_limit_has_its_check(asked, check, verdict):
    assert report_on(part_of(RECIPE | {"joint": asked}), with_remedies=False)[check].verdict == verdict


@pytest.mark.parametrize(
    ("change", "place"),
    [
        ({"thread": {"designation": "1/2-14 NPT"}, "mate": None, "joint": {"load": 5}}, "/joint"),
        ({"joint": {"torque": 1, "preload": 1}}, "/joint/preload"),
        ({"joint": {"external": "88"}}, "/joint/external"),
        ({"joint": {"load": -5}}, "/joint/load"),
    ],
)
def test_what_cannot_be_a_joint_is_refused_at_its_place(change, place):
    with pytest.raises(RecipeError) as refused:
        part_of({key: value for key, value in (RECIPE | {"joint": {}} | change).items() if value})
    assert any(problem.place.startswith(place) for problem in refused.value.problems)


def test_the_command_tells_it_all(tmp_path, capsys):
    file = tmp_path / "joint.json"
    file.write_text(json.dumps(RECIPE | {"joint": {"torque": 40000}}))
    with pytest.raises(SystemExit) as ended:
        main(["joint", str(file), "--json"])
    assert ended.value.code == 0
    told = json.loads(capsys.readouterr().out)
    figures = {figure["key"]: figure for figure in told["figures"]}
    assert figures["breaking_load"]["value"] == pytest.approx(46393, rel=1e-3)
    assert all(figure["formula"] and figure["source"] for figure in figures.values())
    assert sum(told["shares"]) == pytest.approx(1)
    file.write_text(json.dumps({key: RECIPE[key] for key in ("format", "thread", "host")}))
    with pytest.raises(SystemExit) as ended:
        main(["joint", str(file)])
    assert ended.value.code == 2
    assert "/joint" in capsys.readouterr().err
