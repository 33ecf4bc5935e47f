"""Stances, schedules, ends and strands: what defines each, and closed forms."""

import math

import numpy as np
import pytest
from metaspira.checks import report_on
from metaspira.checks.gaps import part_gaps
from metaspira.parts import part_of
from metaspira.problems import RecipeError
from metaspira.strands import strand_distance, touching_lay, touching_radius

BAR = {"kind": "rectangle", "width": 4, "height": 2}
FREE = {
    "kind": "points",
    "points": [[20, 0, 0], [10, 25, 10], [-20, 10, 25], [-15, -20, 45], [20, -10, 60]],
}
COIL = {"kind": "coil", "diameter": 40, "turns": 2, "pitch": 25}


def part(path=COIL, section=BAR, **more):
    return part_of({"format": "metaspira/1", "path": path, "section": section, **more})


def frames_of(path, stance):
    built = part(path, stance=stance)
    s = np.linspace(0, built.path.length, 41)
    return built, s, built.sweep.rigid(s)


def dot(a, b):
    return np.einsum("ij,ij->i", a, b)


AIM = {"kind": "coil", "diameter": 90, "turns": 2, "pitch": 40}
BODY = {"profile": [[5, 0], [18, 30], [9, 70]], "ease": "smooth"}
STANCES = {
    "steady": (FREE, {"kind": "steady"}),
    "outward": (COIL, {"kind": "outward"}),
    "upright": (FREE, {"kind": "upright"}),
    "plumb": (FREE, {"kind": "plumb"}),
    "fixed": (FREE, {"kind": "fixed"}),
    "aimed": (COIL, {"kind": "aimed", "curve": AIM}),
    "seated": (COIL, {"kind": "seated", "body": BODY}),
    "seated on a cylinder": (FREE, {"kind": "seated", "body": {"diameter": 12}}),
    "steady on a winding": ({"kind": "winding", "around": COIL, "radius": 4, "turns": 9}, {"kind": "steady"}),
    "outward with legs": (
        {
            **COIL,
            "legs": {
                "start": [{"kind": "arc", "radius": 12, "angle": 70, "side": "inward"}],
                "end": [{"kind": "straight", "length": 15}],
            },
        },
        {"kind": "outward"},
    ),
}


@pytest.mark.parametrize("name", STANCES)
def test_axes_are_square_and_change_as_they_say(name):
    built, s, frames = frames_of(*STANCES[name])
    assert np.allclose(dot(frames.first, frames.first), 1, atol=1e-12)
    assert np.allclose(dot(frames.second, frames.second), 1, atol=1e-12)
    assert np.allclose(dot(frames.first, frames.second), 0, atol=1e-12)
    h = 1e-4
    away = np.min(np.abs(s[:, None] - np.array([-1, *built.path.breaks])), axis=1)
    inner = s[(s > 1) & (s < built.path.length - 1) & (away > 0.5)]
    low, here, high = (built.sweep.rigid(at) for at in (inner - h, inner, inner + h))
    assert np.allclose((high.first - low.first) / (2 * h), here.d_first, atol=1e-6)
    assert np.allclose((high.second - low.second) / (2 * h), here.d_second, atol=1e-6)
    if name not in ("plumb", "fixed"):
        assert np.allclose(dot(frames.first, frames.d_origin), 0, atol=1e-9)


def test_what_defines_each_stance():
    up = np.array([0, 0, 1.0])
    _, _, upright = frames_of(FREE, {"kind": "upright"})
    assert np.allclose(upright.first @ up, 0, atol=1e-12)  # its first axis stays level
    _, _, plumb = frames_of(FREE, {"kind": "plumb"})
    assert np.allclose(plumb.second, up)
    assert np.allclose(dot(plumb.first, plumb.d_origin), 0, atol=1e-12)
    _, _, fixed = frames_of(FREE, {"kind": "fixed"})
    assert np.allclose(fixed.first, fixed.first[0])
    built, s, aimed = frames_of(COIL, {"kind": "aimed", "curve": AIM})
    other = part(AIM).path
    towards = other.at(s * other.length / built.path.length).position - aimed.origin
    assert np.all(dot(aimed.first, towards) > 0)
    assert np.allclose(dot(aimed.second, towards), 0, atol=1e-9)
    _, _, seated = frames_of(FREE, {"kind": "seated", "body": {"diameter": 12}})
    radial = seated.origin * [1, 1, 0]
    assert np.all(dot(seated.first, radial) > 0)
    assert np.allclose(dot(np.cross(radial, seated.d_origin), seated.first), 0, atol=1e-8)


def test_steady_on_a_free_path_does_not_roll_and_closes_on_a_closed_one():
    """a'·b = 0 (Wang et al., ACM TOG 27, 2008)."""
    built, s, frames = frames_of(FREE, {"kind": "steady"})
    assert np.abs(dot(frames.d_first, frames.second)).max() < 1e-12
    h = 1e-4
    low, high = (built.sweep.rigid(np.clip(s + d, 0, built.path.length)) for d in (-h, h))
    assert np.abs(dot(high.first - low.first, frames.second))[1:-1].max() / (2 * h) < 1e-7
    ring = part({**FREE, "closed": True}, stance={"kind": "steady"})
    ends = ring.sweep.frames(np.array([0.0, ring.path.length]))
    assert np.allclose(ends.first[0], ends.first[1], atol=1e-9)
    with pytest.raises(RecipeError, match="the path is closed") as refused:
        part({**FREE, "closed": True}, along={"twist": {"total": 100}})
    assert refused.value.problems[0].fix.value == {"total": 0}


def test_an_aimed_section_with_stretch_reaches_the_curve():
    for stretch in ("width", "both"):
        built = part(stance={"kind": "aimed", "curve": AIM, "stretch": stretch})
        s = np.linspace(0, built.path.length, 21)
        outer = built.sweep.frames(s).points(np.array([[2.0, 0.0]]))[:, 0]
        other = part(AIM).path
        aim = other.at(s * other.length / built.path.length)
        tangent = built.path.at(s).tangent
        gap = aim.position - outer
        assert np.allclose(gap, dot(gap, tangent)[:, None] * tangent, atol=1e-9)


def test_a_stance_that_is_lost_says_where_and_which_one_holds():
    arch = {"kind": "points", "points": [[0, 0, 0], [0, 0, 30], [20, 0, 45], [45, 0, 50]]}
    report = report_on(part(arch, stance={"kind": "upright"}))
    check = {c.id: c for c in report.checks}["stance"]
    assert check.verdict in ("stop", "watch")
    assert check.where[0][0] < 30
    assert check.remedies[0].input == "/stance/kind"
    assert report_on(part(arch, stance={"kind": check.remedies[0].value})).verdict == "clear"
    with pytest.raises(RecipeError, match="nothing is outward"):
        part(FREE, stance={"kind": "outward"})
    with pytest.raises(RecipeError, match="no body to be seated on"):
        part(FREE, stance={"kind": "seated"})


def test_schedules_by_points_formula_and_totals():
    straight = {"kind": "straight", "length": 100}
    s = np.array([0.0, 25.0, 50.0, 100.0])
    share = s / 100
    along = {"twist": {"points": [[0, 0], [0.5, 180], [1, 0]]}, "width": {"formula": "1 + t^2"},
             "depth": {"from": 1, "to": 3}, "tilt": {"total": 20}}  # fmt: skip
    changes = part(straight, along=along).sweep.changes
    assert np.degrees(changes.twist.value(share)) == pytest.approx([0, 90, 180, 0])
    assert changes.width.value(share) == pytest.approx([1, 1.0625, 1.25, 2])
    assert changes.depth.value(share) == pytest.approx([1, 1.5, 2, 3])
    assert np.degrees(changes.tilt.value(share)) == pytest.approx([0, 5, 10, 20])
    smooth = part(straight, along={"size": {"points": [[0, 1], [0.3, 2], [1, 2]], "ease": "smooth"}})
    assert smooth.sweep.changes.size.extremes()[1] <= 2 + 1e-12  # never overshoots
    off = part(straight, along={"size": {"from": 1, "to": 0, "on": False}})
    assert off.sweep.keeps_size


@pytest.mark.parametrize(("schedule", "said"), [
    ({"points": [[0, 1], [0, 2]]}, "points/1/0: 0 does not come after 0"),
    ({"total": 2, "formula": "t"}, "given by total and formula"),
    ({"from": 1}, "“to” is missing"),
    ({"formula": "1 / (t - 0.5)"}, "not defined, or not smooth, at t = 0.5"),
    ({"formula": "12 mm * t"}, "is not a plain number"),
    ({"formula": "width"}, "there is no variable “width”"),
])  # fmt: skip
def test_faulty_schedules_say_where_and_why(schedule, said):
    with pytest.raises(RecipeError, match=said.replace("(", r"\(")):
        part({"kind": "straight", "length": 50}, along={"size": schedule})


def test_size_by_perimeter_and_area():
    straight = {"kind": "straight", "length": 100}
    by_area = part(straight, along={"area": {"from": 8, "to": 32}}).sweep
    width = by_area.scale(np.array([0.0, 50.0, 100.0]))[0]
    assert width == pytest.approx(np.sqrt([1, 2.5, 4]))
    # volume of a bar whose area grows evenly: mean area times length
    assert by_area.volume == pytest.approx(20 * 100, rel=1e-9)
    by_perimeter = part(straight, along={"perimeter": {"from": 12, "to": 6}}).sweep
    assert by_perimeter.scale(np.array([100.0]))[0] == pytest.approx([0.5])
    with pytest.raises(RecipeError, match="given twice, by size and by area"):
        part(straight, along={"area": {"from": 8, "to": 32}, "size": {"from": 1, "to": 2}})


def test_tilt_shears_a_straight_bar_and_keeps_its_volume():
    """A plane leant by τ sees the wire's area as A / cos τ; typed in that plane, the volume is A cos τ ·
    L."""
    tilted = part({"kind": "straight", "length": 60}, along={"tilt": {"from": 25, "to": 25}})
    assert tilted.sweep.volume == pytest.approx(8 * 60 * math.cos(math.radians(25)), rel=1e-12)


def test_domes_and_points_have_the_volumes_of_a_half_ball_and_a_cone():
    rod = {"path": {"kind": "straight", "length": 40}, "section": {"kind": "round", "diameter": 6}}
    ends = {"start": {"kind": "dome"}, "end": {"kind": "point", "length": 9}}
    exact = math.pi * 9 * (40 - 3 - 9) + 2 / 3 * math.pi * 27 + math.pi * 9 * 9 / 3
    assert part(**rod, ends=ends).sweep.volume == pytest.approx(exact, rel=1e-9)
    with pytest.raises(RecipeError, match="larger than the section"):
        part(**rod, ends={"start": {"kind": "dome", "radius": 5}})
    with pytest.raises(RecipeError, match="open end makes a skin"):
        part(**rod, ends={"start": {"kind": "open"}})


def test_the_double_helix_is_most_closely_packed_at_32_5_degrees():
    """Olsen and Bohr, Theor. Chem. Acc. 125 (2010): the pitch angle at which two touching tubes fill most
    of the cylinder around them is 32.5°."""
    best = (0.0, 0.0)
    for lay in np.linspace(2.1, 9.0, 277):
        a = touching_radius(2, float(lay), 1.0)
        tubes = 2 * math.pi / 4 * math.hypot(2 * math.pi * a, lay)
        filled = tubes / (math.pi * (a + 0.5) ** 2 * lay)
        angle = math.degrees(math.atan2(lay, 2 * math.pi * a))
        best = max(best, (filled, angle))
    assert best[1] == pytest.approx(32.5, abs=0.3)
    assert best[0] == pytest.approx(0.769, abs=2e-3)


def test_strand_distance_is_what_the_gap_check_finds():
    rope = {"count": 3, "lay": 20, "radius": 2.6}
    built = part({"kind": "straight", "length": 60}, {"kind": "round", "diameter": 4}, strands=rope)
    found = part_gaps(built).smallest
    # of places that are alike the search takes one that is best to 1e-9 of the distance of the lines, 4 mm
    assert found == pytest.approx(strand_distance(3, 20, 2.6) - 4, abs=5e-9)
    assert [body.name for body in built.bodies] == ["strand 1", "strand 2", "strand 3"]


def test_the_lay_at_which_strands_touch_is_told():
    """The way back from the touching radius."""
    for count, lay in ((2, 3.6), (3, 9.0), (6, 30.0)):
        assert touching_lay(count, touching_radius(count, lay, 1.5), 1.5) == pytest.approx(lay, rel=1e-6)
    rope = {"count": 3, "lay": 26, "radius": 2.6}
    built = part({"kind": "straight", "length": 60}, {"kind": "round", "diameter": 4}, strands=rope)
    lay = report_on(built).figures["touching_lay"]
    assert strand_distance(3, lay, 2.6) == pytest.approx(4, abs=1e-9)


@pytest.mark.thorough
def test_a_packed_rope_is_clear_and_a_tight_one_names_the_lay():
    wire = {"kind": "round", "diameter": 4}
    packed = part({"kind": "straight", "length": 90}, wire, strands={"count": 6, "lay": 45, "core": True})
    assert len(packed.bodies) == 7
    assert report_on(packed).verdict == "clear"
    tight = part({"kind": "straight", "length": 90}, wire, strands={"count": 3, "lay": 14, "radius": 2.4})
    check = {c.id: c for c in report_on(tight).checks}["self-contact"]
    assert check.verdict == "stop"
    assert "between strand" in check.why
    fixes = {r.input: r.value for r in check.remedies}
    assert "/strands/lay" in fixes or "/strands/radius" in fixes
    key = "lay" if "/strands/lay" in fixes else "radius"
    cured = part({"kind": "straight", "length": 90}, wire,
                 strands={"count": 3, "lay": 14, "radius": 2.4, key: fixes[f"/strands/{key}"]})  # fmt: skip
    assert report_on(cured).verdict != "stop"


def test_starts_and_an_inner_coil_keep_the_air_of_geometry():
    wire = {"kind": "round", "diameter": 2}
    starts = part({"kind": "coil", "diameter": 30, "turns": 3, "pitch": 12}, wire, strands={"count": 3})
    single = part({"kind": "coil", "diameter": 30, "turns": 9, "pitch": 4}, wire)
    wide = part({"kind": "coil", "diameter": 30, "turns": 9, "pitch": 12}, wire)
    apart = part_gaps(starts).smallest
    # three starts of lead 12 lie 4 apart along the axis, on a steeper helix than one of pitch 4
    assert apart < part_gaps(single).smallest < part_gaps(wide).smallest
    assert apart == pytest.approx(4 * math.cos(math.atan(12 / (30 * math.pi))) - 2, abs=0.02)
    inner = {
        "path": {"kind": "coil", "diameter": 20, "turns": 3, "pitch": 12, "hand": "left"},
        "section": wire,
    }
    nested = part({"kind": "coil", "diameter": 30, "turns": 3, "pitch": 12}, wire, wires=[inner])
    between = part_gaps(nested).between.gap.value
    assert between == pytest.approx(5 - 2, abs=1e-6)  # (30 − 20)/2 less two half wires, where they cross


@pytest.mark.thorough
def test_a_winding_touches_its_core_only_where_it_is_too_deep():
    path = {"kind": "winding", "around": {"kind": "coil", "diameter": 60, "turns": 1, "pitch": 30},
            "radius": 4, "turns": 12}  # fmt: skip
    wire = {"kind": "round", "diameter": 2}
    assert report_on(part({**path, "core": 6}, wire)).verdict == "clear"
    loose = report_on(part({**path, "core": 5}, wire))
    assert loose.figures["min_gap"] == pytest.approx(0.5, abs=1e-6)
    deep = {c.id: c for c in report_on(part({**path, "core": 7}, wire)).checks}["self-contact"]
    assert deep.verdict == "stop"
    assert deep.value == pytest.approx(-0.5, abs=1e-6)
