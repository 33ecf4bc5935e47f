"""Sections: areas of elementary geometry, holes, loops, blends, skins."""

import math

import numpy as np
import pytest
from metaspira.parts import part_of
from metaspira.problems import RecipeError
from metaspira.sections import section_along
from metaspira.sections.kinds import SectionKind
from pydantic import TypeAdapter
from shapely import Point, Polygon, unary_union

READ = TypeAdapter(SectionKind)
STAR = {"kind": "star", "points": 5, "outer_diameter": 10, "inner_diameter": 6}


def along(section):
    return section_along(READ.validate_python(section), "/section")


def outline(section):
    return along(section).first


def segment(radius, height):
    """Area of the segment of a circle."""
    angle = 2 * math.acos(1 - height / radius)
    return radius**2 / 2 * (angle - math.sin(angle))


LOBES = unary_union(
    [
        Point(0, 0).buffer(2, 512),
        *(Point(2 * math.cos(a), 2 * math.sin(a)).buffer(1.5, 512) for a in np.arange(3) * 2 * math.pi / 3),
    ]
)
AREAS = {
    "tube": ({"kind": "tube", "diameter": 6, "wall": 1}, math.pi * (9 - 4), 1e-12),
    "flatted": ({"kind": "flatted", "diameter": 6, "flat": 4.5}, math.pi * 9 - segment(3, 1.5), 1e-12),
    "star": (STAR, 5 * 5 * 3 * math.sin(math.pi / 5), 1e-12),
    "lobed": ({"kind": "lobed", "lobes": 3, "core_diameter": 4, "lobe_diameter": 3}, LOBES.area, 1e-5),
    "trough": ({"kind": "trough", "width": 10, "depth": 5, "wall": 1}, math.pi / 2 * (25 - 16), 1e-12),
    "deep trough": ({"kind": "trough", "width": 10, "depth": 8, "wall": 1}, math.pi / 2 * 9 + 2 * 3, 1e-12),
    "channel": ({"kind": "channel", "width": 10, "depth": 5, "wall": 1}, 10 * 5 - 8 * 4, 1e-12),
    "trapezoid": ({"kind": "trapezoid", "base": 4, "top": 2, "height": 3}, 9, 1e-12),
    "free": (
        {"kind": "free", "loops": [{"points": [[0, 0], [4, 0], [4, 3, 1], [0, 3]]}]},
        12 + math.pi * 1.125,
        1e-12,
    ),
    "free with a hole": (
        {
            "kind": "free",
            "loops": [
                {"points": [[0, 0], [4, 0], [4, 3], [0, 3]]},
                {"points": [[1, 1], [2, 1], [2, 2], [1, 2]]},
            ],
        },
        11,
        1e-12,
    ),
}


@pytest.mark.parametrize("name", AREAS)
def test_areas(name):
    section, area, allowed = AREAS[name]
    assert outline(section).area == pytest.approx(area, rel=allowed)


def test_a_fillet_takes_off_what_geometry_says():
    """A corner of turning φ rounded by r loses r² (tan(φ/2) − φ/2)."""
    r, sharp = 0.3, outline(STAR)
    corners = np.array([edge.points[0] for edge in sharp.edges])
    legs = np.roll(corners, -1, axis=0) - corners
    angle = np.arctan2(legs[:, 1], legs[:, 0])
    turning = (angle - np.roll(angle, 1) + math.pi) % (2 * math.pi) - math.pi
    lost = sum(math.copysign(1, t) * r * r * (math.tan(abs(t) / 2) - abs(t) / 2) for t in turning)
    assert outline({**STAR, "fillet": r}).area == pytest.approx(sharp.area - lost, rel=1e-12)


def test_box_and_reach_are_those_of_the_true_curve():
    lobed = outline({"kind": "lobed", "lobes": 3, "core_diameter": 4, "lobe_diameter": 3})
    assert lobed.reach == pytest.approx(3.5, abs=1e-12)
    assert lobed.box[1] == pytest.approx(3.5, abs=1e-12)
    assert lobed.box[3] == pytest.approx(2 * math.sin(2 * math.pi / 3) + 1.5, abs=1e-9)


def test_holes_go_all_the_way_through(spring):
    spring["section"] = {**STAR, "holes": [{"kind": "round", "diameter": 3}]}
    spring["path"] = {"kind": "coil", "diameter": 40, "turns": 3, "pitch": 15}
    part = part_of(spring)
    assert part.outline.area == pytest.approx(outline(STAR).area - math.pi * 2.25, rel=1e-12)
    # Pappus–Guldin: both centroids ride on the path
    assert part.sweep.volume == pytest.approx(part.outline.area * part.path.length, rel=1e-11)
    for bad in ({"kind": "round", "diameter": 7}, {"kind": "round", "diameter": 1, "centre": [9, 0]}):
        with pytest.raises(RecipeError, match="/section/holes/0: this hole does not lie inside"):
            outline({**STAR, "holes": [bad]})


@pytest.mark.parametrize(("points", "said"), [
    ([[0, 0], [4, 4], [4, 0], [0, 4]], "crosses itself at 2, 2"),
    ([[0, 0], [1e-4, 0], [0, 1e-4]], "tiny"),
    ([[0, 0], [0, 0], [1, 1]], "points/1: this point is where"),
])  # fmt: skip
def test_faulty_loops_are_named(points, said):
    with pytest.raises(RecipeError, match=said):
        outline({"kind": "free", "loops": [{"points": points}]})


def test_too_large_walls_and_fillets_are_refused_with_what_works():
    for section, key in (
        ({"kind": "tube", "diameter": 6, "wall": 4}, "wall"),
        ({**STAR, "fillet": 5}, "fillet"),
        ({"kind": "trough", "width": 10, "depth": 5, "wall": 6}, "wall"),
        ({"kind": "flatted", "diameter": 6, "flat": 6.5}, "flat"),
    ):
        with pytest.raises(RecipeError) as refused:
            outline(section)
        problem = refused.value.problems[0]
        assert problem.place == f"/section/{key}"
        works = float(problem.fix.value.split()[0])
        assert outline({**section, key: works}).area > 0


def blend(*sections, ease="straight", turns=()):
    places = np.linspace(0, 1, len(sections))
    return {"kind": "blend", "ease": ease, "sections": [
        {"at": float(at), "section": s, **({"turn": turns[i]} if turns else {})}
        for i, (at, s) in enumerate(zip(places, sections, strict=True))]}  # fmt: skip


def test_a_blend_of_two_rounds_is_a_cone():
    """Frustum of a cone: V = π h (r₀² + r₀ r₁ + r₁²) / 3."""
    part = part_of(
        {
            "format": "metaspira/1",
            "path": {"kind": "straight", "length": 30},
            "section": blend({"kind": "round", "diameter": 6}, {"kind": "round", "diameter": 10}),
        }
    )
    assert part.sweep.volume == pytest.approx(math.pi * 30 * (9 + 15 + 25) / 3, rel=1e-10)


def test_a_blend_keeps_the_areas_of_its_sections_and_does_not_wring():
    section = along(
        blend({"kind": "round", "diameter": 6}, {"kind": "polygon", "sides": 6, "across_flats": 7}, STAR)
    )
    for at, area in ((0.0, math.pi * 9), (0.5, 49 * math.sqrt(3) / 2), (1.0, AREAS["star"][1])):
        assert section.moments(np.array([at]))[0][0] == pytest.approx(area, rel=1e-9)
    middle = section.at(0.25)
    assert middle.area == pytest.approx(section.moments(np.array([0.25]))[0][0], rel=1e-12)
    # the skin does not wring: corresponding points turn little about the middle
    first, last = section.rings(48, 4)[0].points[:2]
    turned = np.angle((first @ [1, 1j]) * np.conj(last @ [1, 1j]))
    assert np.degrees(np.abs(turned).max()) < 20


def test_the_matching_of_a_blend_is_turned_by_hand():
    square = {"kind": "rectangle", "width": 6, "height": 6}
    plain, turned = (along(blend(square, square, turns=t)) for t in ((0, 0), (0, math.pi / 2)))
    assert plain.at(0.5).area == pytest.approx(36, rel=1e-9)
    assert turned.at(0.5).area == pytest.approx(18, rel=1e-9)


def test_sections_that_cannot_blend_say_why():
    tube = {"kind": "tube", "diameter": 6, "wall": 1}
    with pytest.raises(RecipeError, match="0 holes, and the first section 1"):
        along(blend(tube, {"kind": "round", "diameter": 6}))
    assert along(blend(tube, {**STAR, "holes": [{"kind": "round", "diameter": 3}]})).at(0.5).holes


def test_an_open_line_makes_a_skin_and_may_be_thickened():
    line = {"kind": "free", "loops": [{"points": [[-5, 0], [0, 3], [5, 0]], "closed": False}]}
    recipe = {"format": "metaspira/1", "path": {"kind": "straight", "length": 20}, "section": line}
    with pytest.raises(RecipeError, match="makes a skin"):
        part_of(recipe)
    skin = part_of({**recipe, "use": {"as": "skin"}})
    assert skin.sweep.lateral_area == pytest.approx(20 * 2 * math.hypot(5, 3), rel=1e-12)
    thick = part_of({**recipe, "use": {"as": "skin", "thickness": 0.5}})
    # half a millimetre along both legs, mitred at the corner: the middle line's length times thickness
    assert thick.outline.area == pytest.approx(0.5 * 2 * math.hypot(5, 3), rel=1e-9)


def test_paint_names_an_edge_that_is_there():
    painted = outline(
        {"kind": "polygon", "sides": 5, "across_flats": 8, "paint": [{"edge": 2, "colour": "#AA3322"}]}
    )
    assert [edge.colour for edge in painted.edges] == [None, None, "#aa3322", None, None]
    with pytest.raises(RecipeError, match="has 5 edges"):
        outline(
            {
                "kind": "polygon",
                "sides": 5,
                "across_flats": 8,
                "paint": [{"edge": 5, "colour": "#aa3322"}],
            }
        )


@pytest.mark.parametrize(
    "along",
    [
        {"size": {"from": 1, "to": 0.3}},
        {"perimeter": {"from": 21, "to": 9}},
        {"area": {"from": 9, "to": 4}},
    ],
)
def test_a_wall_keeps_its_thickness_where_the_size_varies(along):
    """Across the middle of a straight leg of an angle, at both ends of the wire; scaled only where that is
    asked for."""
    recipe = {
        "format": "metaspira/1",
        "path": {"kind": "straight", "length": 40},
        "section": {
            "kind": "free",
            "loops": [{"points": [[0, 0], [10, 0], [10, 10]], "closed": False}],
        },
        "use": {"as": "skin", "thickness": 1.0},
        "along": along,
    }
    for wall, same in ((None, True), ("scaled", False)):
        use = {**recipe["use"], **({"wall": wall} if wall else {})}
        sweep = part_of({**recipe, "use": use}).sweep
        walls = []
        for s in (np.zeros(1), np.array([40.0])):
            frames = sweep.frames(s)
            ring = Polygon((frames.points(sweep.ring(s, 64))[0])[:, :2])
            # area t L and perimeter 2 L + 2 t of a mitred angle
            walls.append((ring.length - math.sqrt(ring.length**2 - 16 * ring.area)) / 4)
        assert (walls[1] == pytest.approx(walls[0], rel=1e-6)) == same
        assert (walls[0] == pytest.approx(1.0, rel=1e-6)) == (same or "size" in along)


def test_pieces_that_are_tangent_to_six_digits_are_thickened():
    """A line, an arc and a line whose typed directions differ in the seventh digit, in either direction."""
    for off in (1e-6, -1e-6):
        line = [[0, 0], [10, 0], [15, 5 + off, 0.41421356], [15 + 5 * off, 15]]
        recipe = {
            "format": "metaspira/1",
            "path": {"kind": "straight", "length": 10},
            "section": {"kind": "free", "loops": [{"points": line, "closed": False}]},
            "use": {"as": "skin", "thickness": 1.5},
        }
        assert part_of(recipe).outline.area == pytest.approx(1.5 * (20 + 2.5 * np.pi), rel=1e-4)
