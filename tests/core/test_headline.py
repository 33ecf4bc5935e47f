"""What is asked of a spring first, and working points told by their travel."""

import json

import pytest
from metaspira.parts import part_of
from metaspira.problems import RecipeError
from metaspira.starting import starting_point
from metaspira.views.headline import headline
from metaspira.views.springs import spring_view

from tests.demos import demo


def push(*points, **path):
    recipe = json.loads(json.dumps(starting_point("push").recipe))
    recipe["path"] |= path
    recipe["spring"]["points"] = list(points)
    return part_of(recipe)


def test_rate_loads_stress_travel_and_the_nearest_limit_come_first():
    part = push({"length": 42}, {"length": 34})
    told = {figure.key: figure for figure in headline(part)}
    assert list(told) == ["rate", "load_1", "load_2", "load_stress", "travel", "worst_limit"]
    assert told["load_1"].title == "Force at 42 mm"
    assert told["load_2"].value == pytest.approx(16 * told["rate"].value)
    assert told["travel"].value == pytest.approx(8)
    limits = spring_view(part)["limits"]
    assert told["worst_limit"].value == pytest.approx(100 * max(limit["use"] for limit in limits))


def test_it_is_said_in_the_units_of_the_design():
    part = part_of(demo(29))
    assert [figure.title for figure in headline(part)][1:3] == ["Torque at 45°", "Torque at 110°"]


@pytest.mark.parametrize("number", [4, 21])
def test_what_is_no_spring_has_none(number):
    assert headline(part_of(demo(number))) == []


@pytest.mark.parametrize("key", ["push", "pull"])
def test_a_point_by_its_travel_is_that_far_from_the_free_length_and_follows_it(key):
    recipe = json.loads(json.dumps(starting_point(key).recipe))
    recipe["spring"]["points"] = [{"travel": 5}]
    sign = -1 if key == "push" else 1
    found = []
    for turns in (recipe["path"]["turns"], recipe["path"]["turns"] + 2):
        recipe["path"]["turns"] = turns
        spring = part_of(recipe).spring
        (point,) = spring.points
        assert point.length == pytest.approx(spring.free_length + sign * 5)
        found.append(point.force)
    assert found[1] < found[0]


def test_a_shorter_spring_still_works_where_its_points_are_travel():
    assert {point.length for point in push({"travel": 8}, height=48).spring.points} == {40.0}


@pytest.mark.parametrize("point", [{}, {"length": 40, "travel": 3}, {"force": 3, "travel": 3}])
def test_a_point_is_told_in_one_way(point):
    with pytest.raises(RecipeError, match="either length or force or travel"):
        push(point)
