"""Hostile files are refused in words, whoever reads them, and never at the price of the machine."""

import json

import pytest
from metaspira.formats.bodies import read_body
from metaspira.formats.curves import read_path
from metaspira.formats.drawing import read_drawing
from metaspira.formats.limited import limited
from metaspira.problems import RecipeError
from metaspira.recipe.reading import read_json, read_recipe_file, read_recipe_text

from tests.core import hostile


def refused(work, why=""):
    """The work is refused in words, and not merely because it took too long."""
    with pytest.raises(RecipeError) as caught:
        work()
    for problem in caught.value.problems:
        assert problem.reason and problem.remedy
        assert why in problem.reason
        assert why or "takes more than" not in problem.reason


@pytest.mark.parametrize("name", hostile.DRAWINGS)
@pytest.mark.parametrize("read", [read_drawing, read_path])
def test_hostile_drawings(read, name):
    made, suffix = hostile.DRAWINGS[name]
    data = made()
    refused(lambda: read(data, suffix, "mm"))


@pytest.mark.parametrize("name", hostile.BODIES)
def test_hostile_bodies(name):
    made, suffix = hostile.BODIES[name]
    data = made()
    refused(lambda: read_body(data, suffix, "mm"))


def takes(memory):
    return len(bytearray(memory))


def turns():
    while True:
        pass


def test_a_child_has_limits_of_memory_and_time():
    assert limited(5, 300_000_000, takes, 100_000_000) == 100_000_000
    refused(lambda: limited(5, 300_000_000, takes, 900_000_000), "memory")
    refused(lambda: limited(1, 300_000_000, turns), "takes more than 1 s")


@pytest.mark.parametrize(
    "text",
    [
        "NaN",
        "[Infinity]",
        '{"a": -Infinity}',
        '{"a": 1e400}',
        '{"a": [1, "\\ud800"]}',
        '{"\\udfff": 1}',
        "[" * 100_000,
        "[" * 61 + "]" * 61,
        b"\xff\xfe",
        b"{",
        "1" * 5000,
        '{"a": 1' + "0" * 5000 + "}",
    ],
)
def test_json_that_is_none_is_refused_with_its_place(text):
    refused(lambda: read_json(text))
    refused(lambda: read_recipe_text(text))


def test_the_place_of_a_wrong_number_is_told():
    with pytest.raises(RecipeError) as caught:
        read_json('{"path": {"pitch": 1e400}}')
    assert caught.value.problems[0].place == "/path/pitch"
    assert read_json('{"a": [1.5, "é𝄞", {"b": null}]}') == {"a": [1.5, "é𝄞", {"b": None}]}


COIL = {"kind": "coil", "diameter": 20, "turns": 8, "pitch": 6}
MANY = 40_000
LONG = "a" * 800_000
SWOLLEN = {
    "unknown keys": {f"k{n}": 1 for n in range(MANY)},
    "unknown keys of a path": {"path": {**COIL, **{f"k{n}": 1 for n in range(MANY)}}},
    "names of variables": {"variables": {f"9a{n}": 1 for n in range(MANY)}},
    "points": {"path": {"kind": "points", "points": [[n, 0, 0] for n in range(MANY)]}},
    "wires": {"wires": [{"path": COIL}] * 3000},
    "a long kind": {"path": {"kind": LONG}},
    "a long choice": {"path": {**COIL, "hand": LONG}},
    "a long key": {LONG: 1},
    "a long number": {"path": {**COIL, "diameter": LONG}},
}


@pytest.mark.parametrize("name", SWOLLEN)
def test_swollen_recipes_are_refused_in_few_words(name):
    round_ = {"kind": "round", "diameter": 2}
    recipe = {"format": "metaspira/1", "path": COIL, "section": round_, **SWOLLEN[name]}
    with pytest.raises(RecipeError) as caught:
        read_recipe_text(json.dumps(recipe))
    assert len(caught.value.problems) <= 31
    for problem in caught.value.problems:
        assert len(problem.reason) < 200
        assert "validation" not in problem.reason


def test_a_recipe_file_is_read_no_further_than_a_recipe_may_be_long(tmp_path):
    file = tmp_path / "endless.json"
    with file.open("wb") as opened:
        opened.truncate(20_000_000_000)
    refused(lambda: read_recipe_file(file), "bytes")
