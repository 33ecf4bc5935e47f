"""Surveys, against the part made at each point by itself."""

import csv
import json
import math

import pytest
from metaspira.checks import report_on
from metaspira.cli import main
from metaspira.parts import part_of
from metaspira.problems import Cancelled
from metaspira.recipe.reading import read_recipe
from metaspira.springs.exact import exact_of
from metaspira.studies.inputs import inputs_of
from metaspira.studies.survey import Over, Survey, csv_of, survey


def test_each_point_is_the_part_that_one_would_type(spring):
    found = survey(
        read_recipe(spring),
        [
            Over(input="/path/turns", low=2, high=4, count=3),
            Over(input="/variables/wire", low=1, high=2, count=2),
        ],
    )
    assert found.steps == [[2, 3, 4], [1, 2]]
    spring["path"]["turns"], spring["variables"]["wire"] = 3, 2
    alone = report_on(part_of(spring), with_remedies=False)
    assert found.figures["wire_length"].values[3] == alone.figures["wire_length"]
    assert found.checks["clearance"].values[3] == pytest.approx(
        next(check.value for check in alone.checks if check.id == "clearance")
    )
    # Length of a helix: turns √((π D)² + p²), D = 8 wire, p = 2.4 wire.
    assert found.figures["wire_length"].values[4] == pytest.approx(4 * math.hypot(math.pi * 8, 2.4), rel=1e-9)


def test_a_point_that_cannot_be_used_says_why_and_the_rest_goes_on(spring):
    found = survey(read_recipe(spring), [Over(input="/path/turns", low=-2, high=2, count=3)])
    assert found.verdicts == ["unusable", "unusable", "clear"]
    assert found.reasons[0]
    assert found.figures["turns"].values == [None, None, 2]
    assert Survey.from_dict(found.as_dict()) == found


def test_counts_are_tried_in_whole_numbers(spring):
    spring["section"] = {"kind": "polygon", "sides": 6, "across_flats": 2.5}
    found = survey(read_recipe(spring), [Over(input="/section/sides", low=3, high=5, count=9)])
    assert found.steps == [[3, 4, 5]]


def test_a_survey_stops_where_it_is_told_to(spring):
    told = []
    with pytest.raises(Cancelled):
        survey(
            read_recipe(spring),
            [Over(input="/path/pitch", low=6, high=7, count=50)],
            lambda share, step: told.append(share),
            lambda: len(told) == 2,
        )
    assert told == [0.02, 0.04]


def test_what_is_found_is_shown_as_it_comes(spring):
    seen = []
    found = survey(
        read_recipe(spring),
        [Over(input="/path/pitch", low=2, high=8, count=4)],
        found_so_far=lambda found: seen.append(json.loads(json.dumps(found.as_dict()))),
    )
    assert [len(one["verdicts"]) for one in seen] == [1, 2, 3, 4]
    assert seen[-1] == json.loads(json.dumps(found.as_dict()))
    assert all(len(c["values"]) == 2 for c in seen[1]["figures"].values())
    assert Survey.from_dict(seen[1]).verdicts == found.verdicts[:2]


def test_what_an_input_comes_to_is_in_the_unit_it_is_typed_in(spring):
    spring["unit"] = "in"
    spring["path"]["pitch"] = "25.4 mm"
    spring["variables"]["wire"] = 0.1
    inputs = inputs_of(part_of(spring))
    assert inputs["/path/pitch"].value == pytest.approx(1.0)
    assert inputs["/path/pitch"].unit == "in"
    assert inputs["/variables/wire"].value == 0.1
    assert "/variables/mean" not in inputs


def test_the_command_line_writes_the_table(spring, tmp_path, capsys):
    recipe, table = tmp_path / "spring.json", tmp_path / "survey.csv"
    recipe.write_text(json.dumps(spring))
    with pytest.raises(SystemExit) as ended:
        main(["survey", str(recipe), "--over", "/path/turns=2:4:3", "-o", str(table)])
    assert ended.value.code == 0
    rows = list(csv.DictReader(table.open()))
    assert [row["turns"] for row in rows] == ["2", "3", "4"]
    with pytest.raises(SystemExit) as ended:
        main(["survey", str(recipe), "--over", "/path/turns=2:4"])
    assert ended.value.code == 2
    assert "/path/pitch=4:8:21" in capsys.readouterr().err


def test_the_exact_elasticity_of_each_point_is_among_the_figures(tmp_path, capsys):
    data = {
        "format": "metaspira/1",
        "path": {"kind": "coil", "diameter": 20, "turns": 8, "height": 50, "closed": {"start": 1, "end": 1}},
        "section": {"kind": "round", "diameter": 2},
        "ends": {"start": {"kind": "ground"}, "end": {"kind": "ground"}},
        "spring": {"kind": "compression", "wire": "EN 10270-1 SH", "points": [{"length": 35}]},
    }
    asked = [Over(input="/path/diameter", low=20, high=22, count=2)]
    plain, found = (survey(read_recipe(data), asked, exact=exact) for exact in (False, True))
    assert not any(name.startswith("exact") for name in plain.figures)
    for k, diameter in enumerate((20, 22)):
        data["path"]["diameter"] = diameter
        by_itself = exact_of(part_of(data).spring)
        assert found.figures["exact-rate"].values[k] == pytest.approx(by_itself.rate)
        assert found.figures["exact-point-0-stress"].values[k] == pytest.approx(by_itself.loads[0].stress)
    recipe = tmp_path / "spring.json"
    recipe.write_text(json.dumps({key: data[key] for key in ("format", "path", "section")}))
    with pytest.raises(SystemExit) as ended:
        main(["survey", str(recipe), "--over", "/path/diameter=20:22:2", "--exact"])
    assert ended.value.code == 2
    assert "exact elasticity is here for single springs" in capsys.readouterr().err


@pytest.mark.parametrize("unit", ["mm", "in"])
def test_a_variable_counts_in_what_it_stands_for(spring, unit):
    spring["unit"] = unit
    spring["variables"] |= {"turns": 6, "both": 7}
    spring["path"] |= {"turns": "turns", "start_angle": "both", "pitch": "both"}
    inputs = inputs_of(part_of(spring))
    assert inputs["/variables/wire"].unit == unit
    assert inputs["/variables/turns"].unit == inputs["/variables/both"].unit == ""
    found = survey(read_recipe(spring), [Over(input="/variables/wire", low=1, high=2, count=2)])
    assert next(csv.reader(csv_of(found).splitlines()))[0] == f"variable wire {unit}"
