"""Starting points: every one makes a part that clears, in millimetres and in inches."""

import json

import pytest
from metaspira.checks import report_on
from metaspira.cli import main
from metaspira.parts import part_of
from metaspira.problems import RecipeError
from metaspira.recipe.units import in_unit
from metaspira.starting import starting_point, starting_points


@pytest.mark.parametrize("unit", ["mm", "in"])
@pytest.mark.parametrize("key", list(starting_points()))
def test_every_starting_point_clears(key, unit):
    start = starting_point(key)
    report = report_on(part_of(in_unit(start.recipe, unit)))
    assert report.verdict == "clear", [check.why for check in report.checks if check.verdict != "clear"]
    assert start.recipe["name"] != "Unnamed"


def test_an_unknown_one_is_refused_with_the_nearest():
    with pytest.raises(RecipeError, match="did you mean “push”"):
        starting_point("puhs")


def test_the_command_lists_them_and_writes_one(tmp_path, capsys):
    for given, status in (
        (["new"], 0),
        (["new", "rope", "--unit", "in", "-o", str(tmp_path / "rope.json")], 0),
    ):
        with pytest.raises(SystemExit) as ended:
            main(given)
        assert ended.value.code == status
    told = capsys.readouterr().out
    assert all(key in told for key in starting_points())
    recipe = json.loads((tmp_path / "rope.json").read_text())
    assert (recipe["unit"], recipe["section"]["diameter"]) == ("in", 0.1968504)


def test_a_recipe_is_converted_by_a_command(tmp_path, capsys):
    file = tmp_path / "rope.json"
    file.write_text(json.dumps(in_unit(starting_point("rope").recipe, "in")))
    with pytest.raises(SystemExit) as ended:
        main(["convert", str(file), "--unit", "mm"])
    assert ended.value.code == 0
    assert json.loads(capsys.readouterr().out) == starting_point("rope").recipe
