"""Wire as the sums of springs need it, against exact solutions of Saint-Venant's torsion, and against itself:
scaled, turned, in other units."""

import math

import numpy as np
import pytest
from metaspira.parts import part_of
from metaspira.problems import RecipeError
from metaspira.recipe.kinds import usual
from metaspira.sections.kinds.polygon import Polygon
from metaspira.sections.kinds.tube import Tube
from metaspira.sections.outline import ellipse, polygon
from metaspira.springs.exact import exact_of
from metaspira.springs.shape import RoundWire, SectionWire, Strip

E, G = 206000.0, 81500.0
BOX = np.array([(-1, -1), (1, -1), (1, 1), (-1, 1)]) / 2
RADII, PITCHES = np.full(9, 10.0), np.full(9, 5.0)


def wire(outline):
    return SectionWire(outline, E, G)


def of_polygon(sides, across):
    return wire(Polygon(kind="polygon", sides=sides, across_flats=across).outline("/section"))


def test_a_triangle_is_the_exact_solution():
    """Timoshenko and Goodier, Theory of Elasticity (not checked against the printed book): side a, J = √3
    a⁴/80, greatest shear 20 T/a³ in the middle of its sides; I = √3 a⁴/96 about any line through its
    centre."""
    side = 2 * math.sqrt(3) * 0.5 * 1.7
    found = of_polygon(3, 1.7)
    assert found.area == pytest.approx(math.sqrt(3) / 4 * side**2, rel=1e-9)
    assert found.stiffness == pytest.approx(math.sqrt(3) / 80 * side**4, rel=2e-3)
    assert found.modulus == pytest.approx(side**3 / 20, rel=0.02)
    assert found.inertia == pytest.approx([math.sqrt(3) / 96 * side**4] * 2, rel=1e-6)


@pytest.mark.parametrize(("width", "height"), [(3.0, 2.0), (2.0, 3.0), (4.0, 1.0)])
def test_an_ellipse_is_the_exact_solution(width, height):
    """Timoshenko and Goodier: half axes a and b, J = π a³b³/(a² + b²), greatest shear 2T/(π a b²) at the ends
    of the shorter one."""
    a, b = max(width, height) / 2, min(width, height) / 2
    found = wire(ellipse(width, height))
    assert found.stiffness == pytest.approx(math.pi * a**3 * b**3 / (a**2 + b**2), rel=2e-3)
    assert found.modulus == pytest.approx(math.pi * a * b**2 / 2, rel=0.01)
    assert found.inertia[0] == pytest.approx(math.pi / 64 * height * width**3, rel=1e-4)
    assert found.bending == pytest.approx(math.pi / 32 * height * width**2, rel=1e-4)


@pytest.mark.parametrize(
    ("ratio", "stiffness", "modulus"), [(1.5, 0.196, 0.231), (3, 0.263, 0.267), (10, 0.312, 0.312)]
)
def test_rectangles_are_those_of_the_table(ratio, stiffness, modulus):
    """Timoshenko and Goodier's table for b/a (not checked against the printed book): J = β a³ b, T/τ = α a²
    b."""
    found = wire(polygon(BOX * [1, ratio]))
    assert found.stiffness == pytest.approx(stiffness * ratio, rel=6e-3)
    assert found.modulus == pytest.approx(modulus * ratio, rel=0.025)


def test_a_circle_is_round_wire():
    """Solved, it is what its formulas say: J, W, I exactly; k and q wound as EN 13906-1 and -3 have it."""
    solved, formula = wire(ellipse(2, 2)), RoundWire(2.0)
    for name in ("area", "equal", "width", "height", "stiffness", "bending"):
        assert getattr(solved, name) == pytest.approx(getattr(formula, name), rel=1e-3), name
    assert solved.modulus == pytest.approx(formula.modulus, rel=0.01)
    wound, by_formula = solved.wound(RADII, PITCHES), formula.wound(RADII, PITCHES)
    at = np.array([10.0])
    assert wound.stiffer(at) == pytest.approx(by_formula.stiffer(at), rel=5e-3)
    assert wound.sheared(at) == pytest.approx(by_formula.sheared(at), rel=0.02)
    assert wound.bent(at) == pytest.approx(by_formula.bent(at), rel=0.02)
    assert wound.stiffer_bent(at) == pytest.approx([1.0], rel=0.02)


def test_a_hole_takes_what_a_rod_of_it_has():
    """J and I of a tube are those of the rod less those of the bore."""
    tube = wire(Tube(kind="tube", diameter=4.0, wall=0.8).outline("/section"))
    rod, bore = RoundWire(4.0), RoundWire(2.4)
    assert tube.stiffness == pytest.approx(rod.stiffness - bore.stiffness, rel=2e-3)
    assert tube.inertia == pytest.approx([rod.inertia[0] - bore.inertia[0]] * 2, rel=2e-3)
    assert tube.area == pytest.approx(rod.area - bore.area, rel=1e-9)


@pytest.mark.parametrize("scale", [0.1, 25.4])
def test_a_larger_wire_of_the_same_shape_goes_by_its_powers(scale):
    """J and I by the fourth power, W by the third; what winding does to it stays, wound by as much larger."""
    small, large = of_polygon(6, 1.0), of_polygon(6, scale)
    assert large.stiffness == pytest.approx(small.stiffness * scale**4, rel=1e-6)
    assert large.modulus == pytest.approx(small.modulus * scale**3, rel=1e-6)
    assert large.inertia[0] == pytest.approx(small.inertia[0] * scale**4, rel=1e-6)
    at = np.array([5.0])
    one = small.wound(RADII / 2, PITCHES / 4)
    other = large.wound(scale * RADII / 2, scale * PITCHES / 4)
    for name in ("stiffer", "sheared", "stiffer_bent", "bent"):
        assert getattr(other, name)(scale * at) == pytest.approx(getattr(one, name)(at), rel=1e-5), name


def test_a_wire_on_its_other_side_swaps_its_inertias():
    flat, upright = wire(polygon(BOX * [3, 1])), wire(polygon(BOX * [1, 3]))
    assert flat.inertia == pytest.approx(upright.inertia[::-1], rel=1e-9)
    assert flat.stiffness == pytest.approx(upright.stiffness, rel=1e-3)
    assert flat.bending > upright.bending


def test_a_strip_bends_by_its_formula_and_twists_as_it_is():
    """q = (3w² − w − 0.8)/(3w (w − 1)) (Shigley, section 10-12; not checked against the printed book)."""
    strip = Strip(polygon(BOX * [2, 6]), E, G)
    index = 2 * 10.0 / 2
    wound, at = strip.wound(RADII, PITCHES), np.array([10.0])
    assert wound.bent(at) == pytest.approx([(3 * index**2 - index - 0.8) / (3 * index * (index - 1))])
    assert wound.stiffer_bent(at) == 1.0
    assert strip.bending == pytest.approx(6 * 2**2 / 6)


def spring(unit, section, **path):
    size = {"mm": 1, "cm": 10, "m": 1000, "in": 25.4}[unit]
    return part_of(
        {
            "format": "metaspira/1",
            "unit": unit,
            "path": {"kind": "coil", "diameter": 25 / size, "turns": 8, "height": 56 / size, **path},
            "section": section,
            "spring": {"kind": "compression", "points": [{"length": 45 / size}]},
        }
    ).spring


@pytest.mark.parametrize("unit", ["cm", "m", "in"])
def test_a_spring_is_the_same_in_every_unit(unit):
    size = {"cm": 10, "m": 1000, "in": 25.4}[unit]
    closed = {"closed": {"start": 1, "end": 1}}
    one = spring("mm", {"kind": "polygon", "sides": 6, "across_flats": 2.5}, **closed)
    other = spring(unit, {"kind": "polygon", "sides": 6, "across_flats": 2.5 / size}, **closed)
    assert other.rate == pytest.approx(one.rate, rel=1e-6)
    assert other.points[0].corrected == pytest.approx(one.points[0].corrected, rel=1e-6)
    assert other.solid_length == pytest.approx(one.solid_length, rel=1e-9)


def test_a_cone_of_square_wire_takes_its_radii_one_by_one():
    """Its stress is greatest where it is widest, and each turn is as stiff as one of its own radius."""
    square = {"kind": "rectangle", "width": 2.5, "height": 2.5}
    cone = spring("mm", square, end_diameter=15)
    wound = cone.turns.wound
    for diameter in (25, 15):
        alone = spring("mm", square, diameter=diameter).turns.wound
        at = np.array([diameter / 2])
        assert wound.sheared(at) == pytest.approx(alone.sheared(at), rel=0.01)
        assert wound.stiffer(at) == pytest.approx(alone.stiffer(at), rel=0.01)
    assert wound.sheared(np.array([7.5])) > wound.sheared(np.array([12.5]))


@pytest.mark.parametrize("kind", ["star", "lobed", "trough", "channel", "trapezoid", "flatted", "free"])
def test_every_closed_section_is_taken(kind):
    name = next(one for one in SECTIONS if one.lower() == kind)
    found = spring("mm", usual(name, 2.5), closed={"start": 1, "end": 1})
    assert found.rate > 0 and found.points[0].corrected > 0 and found.shape.height > 0


SECTIONS = ("Star", "Lobed", "Trough", "Channel", "Trapezoid", "Flatted", "Free")


def test_sections_that_blend_are_refused_at_their_place():
    with pytest.raises(RecipeError) as caught:
        spring("mm", usual("Blend", 2.5))
    assert caught.value.problems[0].place == "/section"


def winkler(width, radius):
    """Greatest bending stress of a curved beam of rectangular section over that of a straight one, after
    Winkler and Bach (Timoshenko, Strength of Materials; not checked against the printed book)."""
    inner = radius - width / 2
    neutral = width / math.log((radius + width / 2) / inner)
    return (neutral - inner) / ((radius - neutral) * inner) * width / 6


@pytest.mark.parametrize(("radius", "near"), [(5.0, 0.01), (9.0, 0.005), (30.0, 0.002)])
def test_the_loop_of_a_hook_is_a_curved_beam(radius, near):
    loop = np.array([radius])
    bent, _ = wire(polygon(BOX * [3, 1])).hooked(loop, loop)
    assert bent[0] == pytest.approx(winkler(3.0, radius), rel=near)


def test_in_the_bend_of_a_hook_the_section_stands_on_its_side():
    loop, bend = np.array([30.0]), np.array([5.0])
    flat, upright = (wire(polygon(BOX * sides)).hooked(loop, bend)[1][0] for sides in ([3, 1], [1, 3]))
    assert 1.0 < flat < upright
    wide = np.array([300.0])
    assert wire(polygon(BOX * [3, 1])).hooked(wide, wide) == pytest.approx((1.0, 1.0), rel=6e-3)


def test_a_hook_of_round_wire_by_its_section_is_near_its_formula():
    """Bending; in the bend the formula leaves out the direct shear, 0.615 / C of Wahl's factor."""
    loop = np.array([10.0])
    by_formula, by_section = (one.hooked(loop, loop) for one in (RoundWire(2.0), wire(ellipse(2.0, 2.0))))
    assert by_section[0] == pytest.approx(by_formula[0], rel=0.02)
    assert by_section[1] == pytest.approx(by_formula[1] + 0.615 / 10, rel=0.02)


@pytest.mark.parametrize(
    "section",
    [
        {"kind": "rectangle", "width": 2, "height": 2},
        {"kind": "polygon", "sides": 6, "across_flats": 2},
        {"kind": "tube", "diameter": 2.4, "wall": 0.5},
    ],
)
def test_a_spring_of_any_wire_pulls(section):
    """Its turns give as those of the same spring that pushes between ends that cannot turn."""
    path = {
        "kind": "coil",
        "diameter": 20,
        "turns": 9,
        "pitch": 2.5,
        "legs": {end: [{"kind": "hook", "bend_radius": 5}] for end in ("start", "end")},
    }
    part = part_of(
        {
            "format": "metaspira/1",
            "unit": "mm",
            "path": path,
            "section": section,
            "spring": {"kind": "extension", "points": [{"force": 20}]},
        }
    )
    spring, found = part.spring, exact_of(part.spring)
    assert spring.rate == pytest.approx(found.rate, rel=1e-6)
    bent, twisted = spring.hook_stresses(20)
    (hook,) = found.hooks
    assert (hook.stress, hook.shear) == pytest.approx((bent, twisted))
    assert hook.formula_stress < bent and hook.formula_shear < twisted
    straight = 20 * (10 / spring.shape.bending + 1 / spring.shape.area)
    assert hook.formula_stress == pytest.approx(straight)
    box = part.extents
    assert spring.free_length == pytest.approx(box.high - box.low - 2 * spring.shape.width)
