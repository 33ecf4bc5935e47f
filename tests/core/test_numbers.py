"""Numbers as people type them."""

import json
import math
import re
from pathlib import Path

import pytest
from hypothesis import given
from hypothesis import strategies as st
from metaspira.checks import report_on
from metaspira.cli import main
from metaspira.numbers.expressions import ExpressionError, evaluate
from metaspira.numbers.measure import ANGLE, FORCE, LENGTH, PLAIN, STRESS, TORQUE, Measure
from metaspira.numbers.shown import sentence_shown, table, unit_shown
from metaspira.parts import part_of
from metaspira.problems import RecipeError

ROOT = Path(__file__).parents[2]
NAMES = {"wire": Measure(2.5), "bore": Measure(50.8, LENGTH), "m": Measure(7.0)}


@pytest.mark.parametrize(
    ("text", "value", "dimension"),
    [
        ("3/8 in", 9.525, LENGTH),  # inch: 25.4 mm exactly (international yard and pound, 1959)
        ("1 1/2 in", 38.1, LENGTH),
        ('1/4"', 6.35, LENGTH),
        ("7/8", 0.875, PLAIN),
        ("8 * wire", 20.0, PLAIN),
        ("bore - 2*wire", 45.8, LENGTH),
        ("(bore - 1 in) / 2", 12.7, LENGTH),
        ("3 in / 2 in", 1.5, PLAIN),
        ("2 turns", 4 * math.pi, ANGLE),
        ("90°", math.pi / 2, ANGLE),
        ("360 deg + 90", 2.5 * math.pi, ANGLE),
        ("sqrt(bore * bore)", 50.8, LENGTH),
        ("2^3 + m", 15.0, PLAIN),
        ("5 m", 5000.0, LENGTH),
        ("-.5e1", -5.0, PLAIN),
        ("max(1 cm, 4)", 10.0, LENGTH),
        ("sin(30 deg)", 0.5, PLAIN),
    ],
)
def test_value(text, value, dimension):
    measure = evaluate(text, NAMES, "mm")
    assert measure.value == pytest.approx(value, rel=1e-14)
    assert measure.dimension == dimension


def test_plain_numbers_count_in_the_recipes_unit_beside_a_length():
    assert evaluate("bore + 1", NAMES, "in").value == pytest.approx(76.2)
    assert evaluate("bore + 1", NAMES, "mm").value == pytest.approx(51.8)


@pytest.mark.parametrize(
    ("text", "says"),
    [
        ("8 * wir", "did you mean “wire”"),
        ("5 furlongs", "not a unit"),
        ("1 in + 30 deg", "do not add up"),
        ("sqroot(4)", "try “sqrt”"),
        ("1/0", "divides by zero"),
        ("9**9**9**9", "too large"),
        ("__import__('os')", ""),
        ("wire.value", "more than arithmetic"),
        ("[1, 2]", "more than arithmetic"),
        ("'a' * 9", ""),
        ("1 if wire else 2", ""),
        ("(-1) ** 0.5", "root of a negative"),
        ("log(0)", ""),
        ("", "empty"),
        ("wire +", "not a number"),
        ("1" * 201, "200 at most"),
        ("(" * 150, "not a number"),
    ],
)
def test_refusal_has_reason_and_remedy(text, says):
    with pytest.raises(ExpressionError) as refused:
        evaluate(text, NAMES, "mm")
    assert refused.value.reason
    assert refused.value.remedy
    assert says in str(refused.value)


@given(st.text(alphabet="0123456789.+-*/()^ abceimnrwx\"'°", max_size=40))
def test_any_text_gives_a_finite_measure_or_a_refusal(text):
    try:
        assert math.isfinite(evaluate(text, NAMES, "mm").value)
    except ExpressionError as refused:
        assert refused.reason and refused.remedy


@pytest.mark.parametrize(
    ("text", "value", "dimension"),
    [
        ("5 lbf in", 5 * 4.4482216152605 * 25.4, TORQUE),
        ("5 in lbf", 5 * 4.4482216152605 * 25.4, TORQUE),
        ("2 1/2 lbf·ft", 2.5 * 4.4482216152605 * 304.8, TORQUE),
        ("(1 + 2) N m", 3000.0, TORQUE),
        ("0.5 Nm", 500.0, TORQUE),
        ("250 ksi", 250 * 6.894757293168361, STRESS),
        ("1.7 GPa", 1700.0, STRESS),
        ("27 lbf / (1 in * 1 in)", 27 * 6.894757293168361e-3, STRESS),
    ],
)
def test_torques_and_stresses(text, value, dimension):
    """Pound-force and inch of 1959; 1 psi = 6894.757293168361 Pa (NIST Special Publication 811)."""
    found = evaluate(text, {}, "mm")
    assert found.value == pytest.approx(value, rel=1e-12)
    assert found.dimension == dimension


def test_a_variable_called_m_is_no_metre_behind_a_force():
    assert evaluate("12 N * m", {"m": Measure(2.0)}, "mm") == Measure(24.0, FORCE)


@pytest.mark.parametrize(
    ("base", "shown", "size"),
    [
        ("mm³", "in³", 25.4**3),
        ("N", "lbf", 0.45359237 * 9.80665),
        ("N/mm", "lbf/in", 0.45359237 * 9.80665 / 25.4),
        ("N mm", "lbf in", 0.45359237 * 9.80665 * 25.4),
        ("MPa", "ksi", 1000 * 0.45359237 * 9.80665 / 25.4**2),
        ("Hz", "Hz", 1),
    ],
)
def test_units_beside_inches_are_those_of_the_pound(base, shown, size):
    """The pound of 0.45359237 kg and the inch of 25.4 mm (International Yard and Pound Agreement, 1959), the
    standard gravity of 9.80665 m/s²."""
    assert unit_shown(base, "in") == (pytest.approx(size, rel=1e-12), shown)
    assert unit_shown(base, "mm") == (1.0, base)


def test_the_bench_has_the_same_units():
    """Written anew by `bin/generate`."""
    kept = json.loads((ROOT / "web/src/generated/units.json").read_text())
    assert kept == json.loads(json.dumps(table()))


@pytest.mark.parametrize(
    ("said", "shown"),
    [
        ("It grows to ⌀ 25.4 mm, with 0.1 mm around it", "It grows to ⌀ 1 in, with 0.003937 in around it"),
        ("At 40 to 28.5 mm it is over 52 N", "At 1.575 to 1.122 in it is over 11.69 lbf"),
        ("100 N mm/° and 900 N mm, 413.7 MPa", "0.8851 lbf in/° and 7.966 lbf in, 60 ksi"),
        ("“40 mm” is no number; use −2.54 mm, +25.4 mm", "“40 mm” is no number; use −0.1 in, +1 in"),
        ("M10 Nuts by 3 N3 of 2 mm/s", "M10 Nuts by 3 N3 of 2 mm/s"),
        ("7.03 N/mm; 16387 mm³ over 645.16 mm²", "40.14 lbf/in; 1 in³ over 1 in²"),
    ],
)
def test_sentences_are_told_in_the_units_of_the_design(said, shown):
    assert sentence_shown(said, "in") == shown
    assert sentence_shown(said, "mm") == said


INCH = {"format": "metaspira/1", "unit": "in", "section": {"kind": "round", "diameter": 0.08}}
COIL = {"kind": "coil", "diameter": 0.8, "turns": 8}
HOOK = {"kind": "hook", "bend_radius": 0.1}
INCHES = {
    "compression": INCH | {
        "path": COIL | {"height": 2, "closed": {"start": 1, "end": 1}},
        "ends": {"start": {"kind": "ground"}, "end": {"kind": "ground"}}, "fit": {"bore": 0.9, "rod": 0.7},
        "spring": {"kind": "compression", "wire": "ASTM A228", "points": [{"length": 1.4}], "cycles": 1e6},
    },
    "extension": INCH | {
        "path": COIL | {"pitch": 0.081, "legs": {"start": [HOOK], "end": [HOOK]}},
        "spring": {"kind": "extension", "wire": "ASTM A228", "points": [{"force": "12 lbf"}]},
    },
    "torsion": INCH | {
        "path": COIL | {"pitch": 0.085}, "fit": {"rod": 0.6},
        "spring": {"kind": "torsion", "wire": "ASTM A228", "points": [{"torque": "5 lbf in"}]},
    },
}  # fmt: skip


@pytest.mark.parametrize("kind", INCHES)
def test_every_check_of_a_design_in_inches_speaks_of_inches(kind, tmp_path, capsys):
    base = re.compile(r"\d (mm|N|MPa)\b")
    report = report_on(part_of(INCHES[kind]), with_remedies=False)
    said = " ".join(check.why for check in report.checks)
    assert not base.search(said), said
    assert re.search(r"\d (in|lbf|ksi)\b", said)
    file = tmp_path / "spring.json"
    file.write_text(json.dumps(INCHES[kind]))
    for command in (["check", str(file)], ["spring", str(file)]):
        with pytest.raises(SystemExit):
            main(command)
        assert not base.search(capsys.readouterr().out)
    with pytest.raises(SystemExit):
        main(["spring", str(file), "--json"])
    told = json.loads(capsys.readouterr().out)
    (load,), (own,) = told["loads"], told["shown"]["loads"]
    assert told["shown"]["units"]["stress"] == "ksi"
    assert own["stress"] * 6.894757293 == pytest.approx(load["stress"])
    rate, unit = told["shown"]["figures"]["rate"]
    size = {"lbf/in": 4.4482216152605 / 25.4, "lbf in/°": 4.4482216152605 * 25.4}[unit]
    assert rate * size == pytest.approx(told["rate"])


def test_what_cannot_be_used_is_said_in_inches():
    wrong = INCHES["compression"] | {"section": {"kind": "round", "diameter": 0.9}}
    with pytest.raises(RecipeError) as refused:
        part_of(wrong)
    assert not re.search(r"\d (mm|N|MPa)\b", str(refused.value)), str(refused.value)
