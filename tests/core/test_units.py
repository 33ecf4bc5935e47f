"""A recipe in another unit is the same part, and a mass may be typed in any unit."""

import json

import pytest
from metaspira.numbers.expressions import ExpressionError, evaluate
from metaspira.numbers.measure import MASS
from metaspira.problems import RecipeError
from metaspira.recipe.fields import number_fields
from metaspira.recipe.reading import read_recipe
from metaspira.recipe.resolving import resolve
from metaspira.recipe.units import in_unit

from tests.demos import DEMOS

BUSHING = {
    "format": "metaspira/1",
    "variables": {"wire": 2.5, "bore": "40 mm"},
    "path": {"kind": "coil", "diameter": 24, "turns": 5, "pitch": "wire * 3"},
    "section": {"kind": "round", "diameter": "wire"},
    "fit": {"bore": "bore", "gap": "bore - 39"},
    "expected": {"volume": {"value": 1899}, "mass": {"value": "0.3 kg"}},
}


def numbers(recipe):
    """Every number of a resolved recipe by its place."""
    return {parts: (q.kind, value) for parts, q, value in number_fields(resolve(read_recipe(recipe)))}


@pytest.mark.parametrize("unit", ["in", "cm", "m", "mm"])
@pytest.mark.parametrize("file", DEMOS, ids=lambda file: file.stem.split("-")[0])
def test_every_design_is_the_same_in_every_unit_and_back(file, unit):
    recipe = json.loads(file.read_text())
    there = in_unit(recipe, unit)
    back = in_unit(there, recipe.get("unit", "mm"))
    assert there["unit"] == unit
    for other in (there, back):
        was, now = numbers(recipe), numbers(other)
        assert set(was) <= set(now)
        for place, (kind, value) in was.items():
            assert now[place][1] == pytest.approx(value, rel=1e-9, abs=3e-5 if kind == "length" else 0), place


def test_what_was_typed_stays_short():
    there = in_unit({**BUSHING, "fit": {}, "unit": "in", "path": {**BUSHING["path"], "diameter": 1.5}}, "mm")
    assert there["path"]["diameter"] == 38.1
    assert in_unit(BUSHING, "in")["path"]["diameter"] == 0.944882


def test_formulas_keep_their_text_and_what_they_come_to():
    there = in_unit(BUSHING, "in")
    assert there["path"]["pitch"] == "(wire * 3) * 1 mm"
    assert there["fit"] == {"bore": "bore", "gap": "1 mm"}
    assert there["variables"] == BUSHING["variables"]
    assert there["expected"]["mass"] == BUSHING["expected"]["mass"]


def test_a_formula_of_the_wire_counts_in_the_unit_it_was_typed_in():
    path = {"kind": "formula", "x": "20 * cos(t)", "y": "2 cm * sin(t)", "z": "3 * t", "to": 6}
    recipe = {**BUSHING, "path": path}
    there = in_unit(recipe, "in")["path"]
    assert (there["x"], there["y"]) == ("(20 * cos(t)) * 1 mm", "2 cm * sin(t)")
    mixed = {**recipe, "path": {**path, "z": "3 mm * t + 1"}}
    with pytest.raises(RecipeError, match="adds plain numbers to lengths") as error:
        in_unit(mixed, "in")
    assert error.value.problems[0].place == "/path/z"


# The avoirdupois pound is 0.45359237 kg, and has 16 ounces (international yard and pound agreement, 1959).
@pytest.mark.parametrize(
    ("text", "grams"), [("0.3 kg", 300), ("300 g", 300), ("0.66 lb", 299.3709642), ("16 oz", 453.59237)]
)
def test_a_mass_in_any_unit(text, grams):
    measure = evaluate(text, {}, "mm")
    assert (measure.value, measure.dimension) == (pytest.approx(grams), MASS)
    recipe = resolve(read_recipe({**BUSHING, "expected": {"mass": {"value": text}}}))
    assert recipe.expected.mass.value == pytest.approx(grams)


def test_a_length_is_no_mass():
    with pytest.raises(RecipeError, match="is a length, and a mass is meant"):
        resolve(read_recipe({**BUSHING, "expected": {"mass": {"value": "3 mm"}}}))


@pytest.mark.parametrize(
    ("text", "value"), [("2,5", 2.5), ("0,125", 0.125), ("2,5 * 2", 5), ("1,25 mm", 1.25)]
)
def test_decimal_commas_are_taken_as_typed(text, value):
    assert evaluate(text, {}, "mm").value == pytest.approx(value)


def test_a_comma_that_may_group_thousands_is_asked_about():
    with pytest.raises(ExpressionError, match=r"“1,250” may be 1250 or 1\.250"):
        evaluate("1,250 mm", {}, "mm")
    assert evaluate("max(1,250)", {}, "mm").value == 250
