"""A drawn half section as the outline of a turned body, against outlines and areas by shapely."""

import math

import numpy as np
import pytest
from metaspira.formats.half_section import half_section
from metaspira.paths.turned import outline_path
from metaspira.problems import RecipeError
from metaspira.sections.loops import Loop
from shapely import LineString

STEPPED = [[0, 0], [10, 0], [10, 5], [6, 5], [6, 20], [0, 20]]
SURFACE = ((10, 0), (10, 5), (6, 5), (6, 20))


def closed(points):
    return Loop.model_validate({"points": points, "closed": True})


@pytest.mark.parametrize("start", range(6))
@pytest.mark.parametrize("backwards", [False, True])
@pytest.mark.parametrize("side", [1, -1])
def test_a_half_section_loses_its_axis_side_and_its_flat_ends(start, backwards, side):
    points = [[side * x, y] for x, y in [*STEPPED[start:], *STEPPED[:start]]]
    assert half_section([closed(points[::-1] if backwards else points)]) == SURFACE


def test_of_a_ring_the_outer_side_is_taken():
    ring = [[4, 1], [9, 1], [12, 6], [9, 12], [4, 12]]
    assert half_section([closed(ring)]) == ((9, 1), (12, 6), (9, 12))


def test_an_open_line_is_taken_as_it_is_from_its_foot_up():
    line = Loop.model_validate({"points": [[5, 8], [7, 3], [4, 0]], "closed": False})
    assert half_section([line]) == ((4, 0), (7, 3), (5, 8))


@pytest.mark.parametrize("backwards", [False, True])
def test_curves_become_arcs(backwards):
    """A ball of radius 6 in two cubic quarters, each within 2e-4 of its radius of the circle."""
    k = 6 * 4 / 3 * (math.sqrt(2) - 1)
    loop = [[0, -6], [k, -6, 6, -k, 6, 0], [6, k, k, 6, 0, 6]]
    if backwards:
        loop = [[0, 6], [k, 6, 6, k, 6, 0], [6, -k, k, -6, 0, -6]]
    profile = half_section([closed(loop)])
    assert profile[0] == pytest.approx((0, -6), abs=1e-12)
    path = outline_path(profile, "straight", 0.0, "/host")
    points = path.derivatives(np.linspace(0, path.length, 400), 0)[0]
    assert np.abs(np.hypot(points[:, 0], points[:, 2]) - 6).max() < 2e-4 * 6
    assert LineString(points[:, [0, 2]]).length == pytest.approx(6 * math.pi, rel=1e-3)


def test_an_outline_on_both_sides_is_refused():
    with pytest.raises(RecipeError, match="both sides of the axis"):
        half_section([closed([[-3, 0], [3, 0], [3, 4], [-3, 4]])])


def test_an_outline_of_too_many_points_is_refused():
    wavy = [[5 + math.sin(i), i / 10] for i in range(400)]
    with pytest.raises(RecipeError, match="more than the 300"):
        half_section([Loop.model_validate({"points": wavy, "closed": False})])
