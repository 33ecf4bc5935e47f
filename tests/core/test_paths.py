"""Paths: lengths and places against closed forms, quadrature that is not ours, and differences."""

import math

import mpmath
import numpy as np
import pytest
from metaspira.checks import report_on
from metaspira.parts import part_of
from metaspira.problems import RecipeError
from scipy.special import ellipe

ROUND = {"kind": "round", "diameter": 2}
TURN = 2 * math.pi


def part_on(path, **more):
    return part_of({"format": "metaspira/1", "path": path, "section": ROUND, **more})


def path_of(path, **more):
    return part_on(path, **more).path


def mp_arc_length(x, low, high, pieces=64):
    """∫ |x'| by mpmath, with its own derivatives."""
    mpmath.mp.dps = 20

    def speed(t):
        return mpmath.sqrt(sum(mpmath.diff(component, t) ** 2 for component in x))

    return float(mpmath.quad(speed, mpmath.linspace(low, high, pieces + 1)))


COIL = {"kind": "coil", "turns": 4, "pitch": 6}
KINDS = {
    "cone": {**COIL, "diameter": 30, "end_diameter": 50},
    "barrel": {**COIL, "diameter": {"shape": "barrel", "from": 20, "middle": 34, "to": 24}},
    "oval": {**COIL, "diameter": 20, "base": {"kind": "oval", "depth": 34}},
    "closed turns": {**COIL, "diameter": 20, "closed": {"start": 1, "end": 0.75}},
    "pitch by points": {"kind": "coil", "diameter": 20, "turns": 5,
                        "pitch": {"points": [[0, 3], [2, 8], [5, 4]], "over": "turns", "ease": "smooth"}},
    "points": {"kind": "points", "points": [[0, 0, 0], [30, 0, 10], [40, 30, 20], [10, 40, 40], [0, 0, 60]]},
    "closed points": {"kind": "points", "closed": True,
                      "points": [[30, 0, 0], [0, 30, 8], [-30, 0, 0], [0, -30, 8], [18, -18, 3]]},
    "formula": {"kind": "formula", "radius": "20 + 4 * sin(t / 3)", "angle": "t", "height": "2 * t",
                "from": 0, "to": "6 * pi"},
    "winding": {"kind": "winding", "radius": 5, "turns": 20,
                "around": {"kind": "coil", "diameter": 60, "turns": 2, "pitch": 30}},
    "nested winding": {"kind": "winding", "radius": 2, "turns": 60, "around": {
        "kind": "winding", "radius": 9, "turns": 5, "around": {"kind": "straight", "length": 120}}},
    "wrap": {"kind": "wrap", "profile": [[10, 0], [20, 20], [20, 40], [12, 55]], "corner_radius": 6,
             "pitch": 8, "hand": "left"},
    "wrap along the axis": {"kind": "wrap", "profile": [[12, 0], [18, 20], [14, 45]], "ease": "smooth",
                            "turns": 6, "along": "axis", "offset": 1.5},
    "legs": {**COIL, "diameter": 20, "legs": {
        "start": [{"kind": "arc", "radius": 5, "angle": 90, "side": "outward"}, {"kind": "straight", "length": 9}],
        "end": [{"kind": "hook", "bend_radius": 4, "form": "half-loop"}]}},
    "span": {**COIL, "diameter": 20, "span": {"by": "turns", "from": 0.5, "to": 3.25}},
}  # fmt: skip


@pytest.mark.parametrize("name", KINDS)
def test_a_path_agrees_with_differences_of_itself_by_true_length(name):
    path = path_of(KINDS[name])
    s = np.linspace(0.07, 0.93, 23) * path.length
    s = s[[np.abs(np.array(path.breaks) - at).min(initial=9) > 0.02 for at in s]]
    h = 1e-4
    low, here, high = (path.derivatives(at, 3) for at in (s - h, s, s + h))
    assert np.linalg.norm(here[1], axis=1) == pytest.approx(np.ones(len(s)), abs=1e-12)
    for order in range(3):
        change = (high[order] - low[order]) / (2 * h)
        assert np.allclose(change, here[order + 1], atol=2e-6 * max(1, np.abs(here[order + 1]).max()))


@pytest.mark.parametrize("name", KINDS)
def test_a_path_goes_on_without_a_jump_or_a_corner(name):
    path = path_of(KINDS[name])
    for at in path.breaks:
        before, after = (path.derivatives(np.array([at + d]), 1) for d in (-1e-7, 1e-7))
        assert np.allclose(before[0], after[0], atol=1e-6)
        assert np.allclose(before[1], after[1], atol=1e-5)


def test_diameters_that_vary_have_the_lengths_of_quadrature():
    turns, pitch = 5, 7
    barrel = path_of({"kind": "coil", "turns": turns, "pitch": pitch,
                      "diameter": {"shape": "barrel", "from": 20, "middle": 36}})  # fmt: skip

    def radius(t):
        share = t / (TURN * turns)
        return 10 + 8 * 4 * share * (1 - share)

    exact = mp_arc_length(
        (lambda t: radius(t) * mpmath.cos(t), lambda t: radius(t) * mpmath.sin(t), lambda t: pitch * t / TURN),
        0, TURN * turns,
    )  # fmt: skip
    assert barrel.length == pytest.approx(exact, rel=1e-11)
    horn = path_of({"kind": "coil", "turns": 3, "height": 0,
                    "diameter": {"formula": "20 * exp(t * log(3))"}})  # fmt: skip
    # the equiangular spiral r = 10 e^{kθ}: its length is (r₁ − r₀) √(1 + k²) / k
    k = math.log(3) / (3 * TURN)
    assert horn.length == pytest.approx(20 * math.sqrt(1 + k * k) / k, rel=1e-11)
    shape = path_of(
        {"kind": "coil", "turns": 3, "height": 0, "diameter": {"shape": "horn", "from": 20, "to": 60}}
    )
    assert shape.length == pytest.approx(horn.length, rel=1e-12)


def test_a_pitch_that_varies_adds_up_to_the_height():
    path = path_of({"kind": "coil", "diameter": 20, "turns": 6, "pitch": {"formula": "4 + 3 * t"}})
    assert path.coil.height == pytest.approx(6 * 5.5, rel=1e-12)
    given = path_of({"kind": "coil", "diameter": 20, "height": 33, "pitch": {"from": 4, "to": 7}})
    assert given.coil.turns == pytest.approx(6, rel=1e-12)


def test_bases_have_the_perimeters_of_an_ellipse_and_of_a_rounded_rectangle():
    flat = {"kind": "coil", "turns": 1, "pitch": 0}
    oval = path_of({**flat, "diameter": 20, "base": {"kind": "oval", "depth": 36}})
    assert oval.length == pytest.approx(4 * 18 * ellipe(1 - (10 / 18) ** 2), rel=1e-11)
    rounded = path_of(
        {**flat, "diameter": 20, "base": {"kind": "rectangle", "depth": 36, "corner_radius": 4}}
    )
    assert rounded.length == pytest.approx(2 * (12 + 28) + TURN * 4, rel=1e-11)


def test_closed_turns_touch_and_are_meant_to():
    spring = {**COIL, "diameter": 20, "turns": 8, "closed": {"start": 1, "end": 1}}
    part = part_on(spring)
    # 1 + 1 closed turns and half of each change are at the solid pitch
    solid = part.path.derivatives(np.array([0.0, part.path.touching[0][1]]), 0)[0][:, 2]
    pitch = solid[1] - solid[0]
    assert part.path.coil.height == pytest.approx(2.5 * pitch + 5.5 * 6, rel=1e-9)
    one = part.path.derivatives(np.linspace(0, part.path.touching[0][1], 4000), 0)[0]
    apart = np.linalg.norm(one[:1] - one[3000:], axis=1).min()
    assert apart == pytest.approx(2, abs=1e-3)
    report = report_on(part)
    assert report.verdict == "clear"
    assert report.figures["min_gap"] > 1
    deep = report_on(part_on({**spring, "closed": {"start": 1, "end": 1, "pitch": 1.5}}))
    assert deep.verdict == "stop"


def test_points_are_gone_through_and_a_closed_path_closes():
    points = [[0, 0, 0], [30, 0, 10], [40, 30, 20], [10, 40, 40]]
    for closed in (False, True):
        path = path_of({"kind": "points", "points": points, "closed": closed}, stance={"kind": "steady"})
        line = path.derivatives(np.linspace(0, path.length, 20_001), 0)[0]
        for point in points:
            assert np.linalg.norm(line - point, axis=1).min() < 6e-3
        ends = path.derivatives(np.array([0.0, path.length]), 2)
        if closed:
            assert all(np.allclose(d[0], d[1], atol=1e-9) for d in ends)
    with pytest.raises(RecipeError, match="points/2: this point is where"):
        path_of({"kind": "points", "points": [[0, 0, 0], [1, 0, 0], [1, 0, 0]]})


def test_a_formula_is_a_coil_and_says_where_it_is_not_smooth():
    helix = {
        "kind": "formula",
        "x": "10 * cos(t)",
        "y": "10 * sin(t)",
        "z": "6 * t / (2 * pi)",
        "to": "16 * pi",
    }
    assert path_of(helix).length == pytest.approx(8 * math.hypot(20 * math.pi, 6), rel=1e-12)
    around = {
        "kind": "formula",
        "radius": 10,
        "angle": "t",
        "height": "6 * t / (2 * pi)",
        "to": "16 * pi",
    }
    with pytest.raises(RecipeError, match="radius"):
        path_of(around)  # a formula is a text
    assert path_of({**around, "radius": "10"}).length == pytest.approx(path_of(helix).length)
    with pytest.raises(RecipeError, match=r"corner at t = (2\b|1\.99)"):
        path_of({"kind": "formula", "x": "abs(t - 2)", "y": "t", "z": "0 * t", "to": 5})
    with pytest.raises(RecipeError, match="not defined, or not smooth, at t = "):
        path_of({"kind": "formula", "x": "sqrt(t - 1)", "y": "t", "z": "t", "to": 3})
    with pytest.raises(RecipeError, match="stands still at t = 0"):
        path_of({"kind": "formula", "x": "t^2", "y": "t^3", "z": "0 * t", "to": 1})
    with pytest.raises(RecipeError, match=r"/path/z: .*add z"):
        path_of({"kind": "formula", "x": "t", "y": "t"})


def test_windings_have_closed_forms_and_even_turns():
    straight = {
        "kind": "winding",
        "around": {"kind": "straight", "length": 100},
        "radius": 5,
        "turns": 12,
    }
    assert path_of(straight).length == pytest.approx(math.hypot(12 * TURN * 5, 100), rel=1e-12)
    by_pitch = {**straight, "pitch": 100 / 12}
    del by_pitch["turns"]
    assert path_of(by_pitch).length == pytest.approx(path_of(straight).length, rel=1e-12)
    ring = {"kind": "formula", "x": "30 * cos(t)", "y": "30 * sin(t)", "z": "0 * t", "to": "2 * pi"}
    wound = path_of({"kind": "winding", "around": ring, "radius": 6, "turns": 9})
    assert wound.closed
    exact = mp_arc_length(
        (lambda t: (30 + 6 * mpmath.cos(9 * t)) * mpmath.cos(t),
         lambda t: (30 + 6 * mpmath.cos(9 * t)) * mpmath.sin(t),
         lambda t: 6 * mpmath.sin(9 * t)),
        0, TURN,
    )  # fmt: skip
    assert wound.length == pytest.approx(exact, rel=1e-10)


def test_each_turn_of_a_winding_takes_the_same_length_of_any_core():
    core = {"kind": "formula", "x": "20 * t^3 + t", "y": "10 * sin(3 * t)", "z": "0 * t", "to": 3}
    path = path_of({"kind": "winding", "around": core, "radius": 1, "turns": 30})
    ends = [path.length_at_turn(k) for k in range(31)]
    centre = path.core.derivatives(path.parameter(np.array(ends)), 0)[0]
    line = path.core.derivatives(np.linspace(0, path.core.length, 31), 0)[0]
    assert np.allclose(centre, line, atol=1e-8)


def test_a_winding_that_would_run_backwards_is_refused_with_a_radius_that_works():
    recipe = {
        "kind": "winding",
        "radius": 15,
        "turns": 9,
        "around": {"kind": "coil", "diameter": 20, "turns": 2, "pitch": 20},
    }
    with pytest.raises(RecipeError, match="run backwards") as refused:
        path_of(recipe)
    fix = refused.value.problems[0].fix
    assert path_of({**recipe, "radius": fix.value}).length > 0


def test_a_wrap_lies_on_its_body():
    cone = {"kind": "wrap", "profile": [[10, 0], [22, 40]], "turns": 6, "offset": 0}
    by_axis = path_of({**cone, "along": "axis"})
    conical = path_of({"kind": "coil", "diameter": 20, "end_diameter": 44, "turns": 6, "height": 40})
    assert by_axis.length == pytest.approx(conical.length, rel=1e-12)
    part = part_on({k: v for k, v in cone.items() if k != "offset"},
                   stance={"kind": "seated"})  # fmt: skip
    place = part.path.derivatives(np.linspace(0, part.path.length, 99), 0)[0]
    slope = math.atan2(12, 40)
    away = (np.hypot(place[:, 0], place[:, 1]) - 10) * math.cos(slope) - place[:, 2] * math.sin(slope)
    assert np.allclose(away, 1.0, atol=1e-9)  # the wire's radius above the cone


def test_outlines_with_corners_and_hollows_are_refused_with_what_works():
    sharp = {"kind": "wrap", "profile": [[10, 0], [20, 20], [10, 40]], "turns": 4}
    with pytest.raises(RecipeError, match=r"profile/1: .*sharp corner"):
        path_of(sharp)
    assert path_of({**sharp, "corner_radius": 5}).length > 0
    hollow = {**sharp, "profile": [[20, 0], [10, 20], [20, 40]], "corner_radius": 0.5}
    with pytest.raises(RecipeError, match="hollow"):
        path_of(hollow)
    with pytest.raises(RecipeError, match="up and down"):
        path_of({**sharp, "profile": [[10, 0], [20, 20], [25, 10]], "corner_radius": 1, "along": "axis"})


def test_legs_have_their_lengths_and_go_on_as_the_coil_ends():
    bare = path_of({**COIL, "diameter": 20})
    legs = {
        "end": [
            {"kind": "arc", "radius": 6, "angle": 90, "side": "up"},
            {"kind": "straight", "length": 11},
        ]
    }
    path = path_of({**COIL, "diameter": 20, "legs": legs})
    assert path.length == pytest.approx(bare.length + 6 * math.pi / 2 + 11)
    end = path.derivatives(np.array([path.length]), 1)[1][0]
    start = bare.derivatives(np.array([bare.length]), 1)[1][0]
    assert end @ start == pytest.approx(0, abs=1e-12)
    assert end[2] > 0.9
    report = report_on(
        part_on({**COIL, "diameter": 20, "legs": {"start": [{"kind": "hook", "bend_radius": 4}]}})
    )
    assert report.verdict == "clear"
    assert report.figures["turns"] == 4


@pytest.mark.parametrize(("span", "share"), [
    ({"by": "turns", "from": 1, "to": 3}, 0.5),
    ({"from": 0.25, "to": 0.5}, 0.25),
    ({"by": "length", "from": "10 mm"}, None),
])  # fmt: skip
def test_a_span_is_a_part_of_the_path(span, share):
    whole, part = path_of({**COIL, "diameter": 20}), path_of({**COIL, "diameter": 20, "span": span})
    wanted = whole.length * share if share else whole.length - 10
    assert part.length == pytest.approx(wanted, rel=1e-12)
    assert part.coil.pitch == pytest.approx(6)


def test_a_span_beyond_the_path_is_refused():
    with pytest.raises(RecipeError, match="the path has 4 turns"):
        path_of({**COIL, "diameter": 20, "span": {"by": "turns", "to": 9}})
    with pytest.raises(RecipeError, match="no turns"):
        path_of({"kind": "straight", "length": 9, "span": {"by": "turns", "to": 1}})


@pytest.mark.parametrize(
    ("points", "closed"),
    [
        ([[-60, 0, 0], [0, 60, 14], [-60, 0, 0], [0, -60, 14]], True),
        ([[0, 0, 0], [10, 0, 0], [0, 0, 0]], False),
        ([[0, 0, 0], [10, 2, 0], [20, 0, 5], [10, 2, 0], [0, 0, 0]], False),
    ],
)
def test_a_curve_that_comes_back_on_itself_is_refused_at_its_point(points, closed):
    """Through points that read the same from both sides a spline is its own mirror image: it stands still in
    the middle."""
    recipe = {
        "format": "metaspira/1",
        "path": {"kind": "points", "points": points, "closed": closed},
        "section": {"kind": "round", "diameter": 1},
    }
    with pytest.raises(RecipeError) as caught:
        part_of(recipe)
    assert caught.value.problems[0].place.startswith("/path/points/")
