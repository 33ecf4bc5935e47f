"""Recipes: what is refused, where, why and with what remedy."""

import json
import re

import jsonschema_rs
import pytest
from metaspira.parts import part_of
from metaspira.problems import RecipeError, parts_of
from metaspira.recipe.model import Recipe, json_schema
from metaspira.recipe.reading import read_recipe, read_recipe_text
from metaspira.recipe.resolving import resolve
from metaspira.recipe.variables import renamed, uses_of

from tests.demos import demo


def refuse(recipe):
    with pytest.raises(RecipeError) as refused:
        part_of(recipe)
    problem = refused.value.problems[0]
    assert problem.reason
    assert problem.remedy
    return problem


def changed(recipe, place, value):
    *parents, last = parts_of(place)
    here = recipe
    for key in parents:
        here = here.setdefault(key, {})
    here[last] = value
    return recipe


@pytest.mark.parametrize(
    ("place", "value", "at", "says"),
    [
        ("/path/pich", 3, "/path/pich", "did you mean “pitch”"),
        ("/colour", "red", "/colour", "the keys are"),
        ("/path/diameter", "3 deg", "/path/diameter", "a length is meant"),
        ("/path/start_angle", "3 mm", "/path/start_angle", "an angle is meant"),
        ("/path/diameter", -3, "/path/diameter", "the least is 0.001 mm"),
        ("/path/diameter", True, "/path/diameter", "not a number"),
        ("/path/turns", 1e9, "/path/turns", "the most is 20000"),
        ("/path/hand", "rigth", "/path/hand", "“right” or “left”"),
        ("/path/height", 40, "/path", "leave one of them out"),
        ("/path/end_diameter", "mean", None, ""),
        ("/section/kind", "rond", "/section/kind", "“round”"),
        ("/section/kind", None, "/section/kind", ""),
        ("/variables/wire", "mean", "/variables/wire", "in a circle"),
        ("/variables/2x", 1, "/variables", "a letter first"),
        ("/variables/wire", "nope", "/variables/wire", "no variable “nope”"),
        ("/format", "metaspira/9", "/format", "write “metaspira/1”"),
        ("/section/rides_at", [1, "x"], "/section/rides_at/1", "no variable"),
        ("/path", 5, "/path", ""),
        ("/section/plane", "axial", None, ""),
        ("/fit", [3, 4], "/fit", "[3, 4] is not an object with keys"),
        ("/wires", "none", "/wires", '"none" is not a list'),
        ("/spring", {"kind": "compression", "peened": "so"}, "/spring/peened", "neither true nor false"),
        ("/spring", {"kind": "compression", "points": [40]}, "/spring/points/0", "40 is not an object"),
        ("/spring", {"kind": "compression", "wire": 3}, "/spring/wire", "3 is not a text"),
        ("/title_block", {"owner": 3}, "/title_block/owner", "3 is not a text; put it in quotation marks"),
        ("/path/pitch", {"formula": 3}, "/path/pitch/formula", "3 is not a text"),
        ("/path/pitch", [], "/path/pitch", "[] is not a number or a formula"),
    ],
)
def test_faults_are_told_by_place_reason_and_remedy(spring, place, value, at, says):
    recipe = changed(spring, place, value)
    if at is None:
        part_of(recipe)
        return
    problem = refuse(recipe)
    assert problem.place == at
    assert says in problem.line()


def places_in(value, at=()):
    entries = (
        value.items() if isinstance(value, dict) else enumerate(value) if isinstance(value, list) else ()
    )
    for key, inner in entries:
        yield (*at, key)
        yield from places_in(inner, (*at, key))


WRONG = (None, 3, "x y", [], {}, [1, 2, 3], {"formula": 3}, {"points": [[0, 1]]}, {"kind": "nope"}, [[1]], "")
INSIDE = re.compile(
    r"union|constrained|function-|Schedule|tuple\[|Input should|literal\[|float\b|str\b|valid "
)


def test_of_tens_of_thousands_of_faults_the_first_are_told_and_the_rest_counted(spring):
    spring["path"] = {"kind": "points", "points": [["a", [], {}]] * 60_000}
    with pytest.raises(RecipeError) as refused:
        read_recipe(spring)
    *told, last = refused.value.problems
    assert 0 < len(told) <= 30 and "more faults" in last.reason


@pytest.mark.parametrize("number", [1, 15, 19, 21, 31])
def test_whatever_stands_anywhere_is_told_without_the_inside(number):
    told = 0
    for at in places_in(demo(number)):
        for wrong in WRONG:
            recipe = demo(number)
            here = recipe
            for key in at[:-1]:
                here = here[key]
            here[at[-1]] = wrong
            try:
                read_recipe(recipe)
            except RecipeError as refused:
                told += 1
                lines = [problem.line() for problem in refused.problems]
                assert not any(INSIDE.search(line) for line in lines), (at, wrong, lines)
    assert told > 100


@pytest.mark.parametrize(
    ("change", "place"),
    [
        (
            {"section": {"kind": "rectangle", "width": 4, "height": 2, "corner_radius": 3}},
            "/section/corner_radius",
        ),
        ({"section": {"kind": "polygon", "sides": 6.4, "across_flats": 4}}, "/section/sides"),
        (
            {"path": {"kind": "coil", "diameter": 20, "cone_angle": -40, "turns": 8, "pitch": 6}},
            "/path/cone_angle",
        ),
        ({"path": {"kind": "straight", "length": 9}}, "/stance/kind"),
        ({"path": {"kind": "coil", "diameter": 0, "turns": 8, "pitch": 6}}, "/path/diameter"),
    ],
)
def test_the_fix_of_a_refusal_works(spring, change, place):
    recipe = {**spring, **change}
    problem = refuse(recipe)
    assert problem.fix is not None
    assert problem.fix.input == place
    part_of(changed(recipe, problem.fix.input, problem.fix.value))


def test_every_fault_is_told_at_once(spring):
    spring["path"]["diameter"] = "men"
    spring["section"]["diameter"] = "3 deg"
    with pytest.raises(RecipeError) as refused:
        part_of(spring)
    assert {p.place for p in refused.value.problems} == {"/path/diameter", "/section/diameter"}


@pytest.mark.parametrize(
    "text",
    [
        "",
        "{",
        "[]",
        "null",
        '{"format": NaN}',
        b"\xff\xfe",
        "[" * 100_000,
        "9" * 1_000_001,
        '{"format": 1e999}',
    ],
)
def test_text_that_is_no_recipe(text):
    with pytest.raises(RecipeError) as refused:
        read_recipe_text(text)
    assert "\n" not in refused.value.problems[0].line()


def test_any_unit_in_any_field(spring):
    spring["unit"] = "in"
    spring["path"] = {"kind": "coil", "diameter": "20 mm", "turns": "2880 deg", "height": "48 mm"}
    spring["variables"] = {"wire": "2.5 mm"}
    numbers = resolve(read_recipe(spring))
    assert numbers.path.diameter == 20
    assert numbers.path.turns == pytest.approx(8)
    assert numbers.section.diameter == 2.5


@pytest.mark.parametrize(
    "given", [{"turns": 8, "pitch": 6}, {"turns": 8, "height": 48}, {"pitch": 6, "height": 48}]
)
def test_any_two_of_turns_pitch_and_height(spring, given):
    spring["path"] = {"kind": "coil", "diameter": 20, **given}
    coil = part_of(spring).path.coil
    assert (coil.turns, coil.pitch, coil.height) == pytest.approx((8, 6, 48))


def test_schema_is_valid_and_agrees_with_the_reader(spring):
    schema = json_schema()
    validator = jsonschema_rs.validator_for(schema)
    assert validator.is_valid(spring)
    assert not validator.is_valid({**spring, "bad": 1})
    assert not validator.is_valid({**spring, "path": {"kind": "coil", "diameter": True}})


def test_a_recipe_survives_writing_and_reading(spring):
    recipe = read_recipe(spring)
    again = read_recipe(json.loads(recipe.model_dump_json(by_alias=True, exclude_none=True)))
    assert again == recipe
    assert isinstance(again, Recipe)


def test_a_variable_tells_where_it_is_used_and_is_renamed_everywhere():
    recipe = {
        "format": "metaspira/1",
        "variables": {"wire": 2.5, "mean": "8 * wire", "wires": 3},
        "path": {"kind": "coil", "diameter": "mean", "turns": 8, "pitch": "2.4 * wire + 2 mm"},
        "section": {"kind": "round", "diameter": "wire"},
        "along": {"twist": {"formula": "90 * t * wires"}},
    }
    uses = uses_of(read_recipe(recipe))
    assert uses["wire"] == [("variables", "mean"), ("path", "pitch"), ("section", "diameter")]
    assert uses["wires"] == [("along", "twist", "formula")]
    changed = renamed(recipe, "wire", "d_1")
    assert changed["variables"] == {"d_1": 2.5, "mean": "8 * d_1", "wires": 3}
    assert changed["path"]["pitch"] == "2.4 * d_1 + 2 mm"
    assert changed["along"] == recipe["along"] and recipe["section"]["diameter"] == "wire"
    assert part_of(changed).path.length == pytest.approx(part_of(recipe).path.length)
    for new, reason in (("mean", "already"), ("t", "means something else"), ("2x", "")):
        with pytest.raises(RecipeError) as caught:
            renamed(recipe, "wire", new)
        assert reason in caught.value.problems[0].reason
    with pytest.raises(RecipeError):
        renamed(recipe, "thick", "thin")


def test_a_size_with_a_wrong_sign_is_offered_without_it():
    recipe = {
        "format": "metaspira/1",
        "path": {"kind": "coil", "diameter": -5, "turns": 5, "pitch": 6},
        "section": {"kind": "round", "diameter": 2.5},
    }
    with pytest.raises(RecipeError) as refused:
        part_of(recipe)
    assert refused.value.problems[0].fix.value == 5
