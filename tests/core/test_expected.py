"""Expected values: each difference, and what would explain it."""

import pytest
from metaspira.checks import report_on
from metaspira.parts import part_of
from metaspira.problems import RecipeError

COIL = {
    "format": "metaspira/1",
    "path": {"kind": "coil", "diameter": 20, "turns": 8, "pitch": 6},
    "section": {"kind": "round", "diameter": 2.5},
}
BOLT = {
    "format": "metaspira/1",
    "thread": {"designation": "M10", "side": "external", "length": 20},
    "host": {"kind": "rod", "length": 30},
}


def found(recipe, **expected):
    report = report_on(part_of({**recipe, "expected": expected}))
    return {check.id: check for check in report.checks if check.id.startswith("expected-")}


def taken(recipe, remedy, **expected):
    """The same checks once a remedy is taken."""
    changed = {**recipe, **({"material": remedy.value} if remedy.input == "/material" else {})}
    if remedy.input != "/material":
        *way, last = remedy.input.strip("/").split("/")
        inner = changed
        for key in way:
            inner[key] = dict(inner[key])
            inner = inner[key]
        inner[last] = remedy.value
    return found(changed, **expected)


def test_a_wrong_material_explains_a_mass_and_not_a_length():
    figures = report_on(part_of(COIL)).figures
    brass = {"value": figures["volume"] * 8.5e-3, "tolerance": 0.05}
    length = {"value": figures["wire_length"], "tolerance": 0.1}
    both = found(COIL, mass=brass, wire_length=length)
    assert [both[f"expected-{name}"].verdict for name in ("mass", "wire_length")] == ["watch", "clear"]
    assert [remedy.value for remedy in both["expected-mass"].remedies] == ["brass", 2.6]
    all_three = found(COIL, mass=brass, wire_length=length, volume={"value": figures["volume"]})
    assert [remedy.value for remedy in all_three["expected-mass"].remedies] == ["brass"]

    shorter = {"value": 480, "tolerance": 0.05}
    told = found(COIL, wire_length=shorter)["expected-wire_length"]
    assert told.value - told.limit == pytest.approx(figures["wire_length"] - 480)
    assert {remedy.input for remedy in told.remedies} >= {"/path/turns", "/path/diameter"}
    for remedy in told.remedies:
        assert taken(COIL, remedy, wire_length=shorter)["expected-wire_length"].verdict == "clear"


def test_without_a_tolerance_half_a_percent_is_allowed():
    volume = report_on(part_of(COIL)).figures["volume"]
    for factor, verdict in ((1.004, "clear"), (1.006, "watch")):
        told = found(COIL, volume={"value": volume * factor})
        assert told["expected-volume"].verdict == verdict


def test_expected_values_are_in_the_unit_of_the_recipe():
    inches = {**COIL, "unit": "in", "path": {**COIL["path"], "diameter": 1, "pitch": 0.3}}
    inches["section"] = {"kind": "round", "diameter": 0.1}
    figures = report_on(part_of(inches)).figures
    told = found(
        inches,
        outside_diameter={"value": 1.1, "tolerance": "0.01 mm"},
        volume={"value": figures["volume"] / 25.4**3, "tolerance": 1e-9},
        mass={"value": "2 * 3"},
    )
    assert told["expected-outside_diameter"].verdict == "clear"
    assert told["expected-volume"].verdict == "clear"
    assert told["expected-mass"].limit == 6
    with pytest.raises(RecipeError) as caught:
        found(COIL, height={"value": "3 N"})
    assert caught.value.problems[0].place == "/expected/height/value"


def test_threads_are_expected_too_and_what_is_not_there_is_told():
    told = found(BOLT, mass={"value": 30}, height={"value": 30}, wire_length={"value": 3})
    assert told["expected-height"].verdict == "clear"
    assert told["expected-mass"].verdict == "watch" and not told["expected-mass"].remedies
    longer = found(BOLT, mass={"value": 30})["expected-mass"].remedies
    assert "/host/length" in {remedy.input for remedy in longer}
    assert "has no such figure" in told["expected-wire_length"].why
    air = found({**BOLT, "mate": {"length": 8, "at": 6}}, min_gap={"value": 5})["expected-min_gap"]
    assert air.value is not None and air.verdict == "watch"
