"""Checks: figures against published results and brute force; verdicts, places and remedies."""

import fcl
import numpy as np
import pytest
from hypothesis import assume, given, settings
from hypothesis import strategies as st
from metaspira.checks import report_on
from metaspira.checks.gaps import part_gaps
from metaspira.parts import part_of
from metaspira.problems import RecipeError, parts_of
from metaspira.sweep.mesh import Fineness, tessellate
from scipy.spatial.distance import cdist


def helix(diameter, pitch, wire, turns=5, **more):
    return {
        "format": "metaspira/1",
        "path": {"kind": "coil", "diameter": diameter, "turns": turns, "pitch": pitch},
        "section": {"kind": "round", "diameter": wire},
        **more,
    }


def checks_of(recipe):
    return {check.id: check for check in report_on(part_of(recipe)).checks}


def test_the_ideal_helix_meets_both_limits_at_once():
    """Maritan et al., Nature 406 (2000): at pitch / radius 2.512 the thickest tube is limited by its
    bend and by its next turn alike, so bend radius equals half the distance of the turns."""
    part = part_of(helix(2, 2.512, 1e-3))
    distance = part_gaps(part).smallest + 1e-3
    report = report_on(part)
    assert distance / 2 == pytest.approx(report.figures["min_bend_radius"], rel=2e-4)
    thick = checks_of(helix(2, 2.512, 2 * 1.157))
    assert thick["bend"].verdict != "stop"
    assert abs(thick["self-contact"].value) < 0.1
    tighter, wider = (checks_of(helix(2, p, 2 * 1.159)) for p in (2.40, 2.60))
    assert tighter["self-contact"].verdict == "stop"
    assert wider["self-contact"].verdict == "clear"


@pytest.mark.parametrize("path", [
    {"diameter": 20, "pitch": 6, "turns": 3},
    {"diameter": 20, "end_diameter": 60, "pitch": 5, "turns": 3},
    {"diameter": 16, "end_diameter": 70, "height": 0, "turns": 4},
    {"diameter": 10, "pitch": 14, "turns": 3},
])  # fmt: skip
def test_round_wire_gap_agrees_with_brute_force(path):
    part = part_of({**helix(1, 1, 1), "path": {"kind": "coil", **path}})
    s = np.linspace(0, part.path.length, 6001)
    points = part.path.at(s).position
    turned = part.path.parameter(s)
    distance = cdist(points, points)
    distance[np.abs(turned[:, None] - turned[None, :]) < 1.4 * np.pi] = np.inf
    assert part_gaps(part).smallest == pytest.approx(distance.min() - 1, abs=2e-5)


def test_general_sections_agree_with_the_exact_tube_within_the_stated_error():
    exact = part_gaps(part_of(helix(20, 6, 2.5))).smallest
    round_as_ellipse = helix(20, 6, 1, section={"kind": "ellipse", "width": 2.5, "height": 2.5})
    swept = part_gaps(part_of(round_as_ellipse))
    low, high = swept.interval
    assert low <= exact <= high + 1e-6
    assert swept.smallest == pytest.approx(exact, abs=1e-5)


def test_general_section_gap_agrees_with_a_mesh_distance():
    """Distance of two turns of a twisted bar by FCL (an independent collision library)."""
    recipe = helix(24, 8, 1, turns=2.2, section={"kind": "rectangle", "width": 4, "height": 2.5},
                   along={"twist": {"total": "1.3 turns"}})  # fmt: skip
    part = part_of(recipe)
    mesh = tessellate(part.sweep, Fineness(160, 32, 16))
    along = mesh.length[mesh.faces].mean(axis=1) / part.path.length * 2.2
    nearest = np.inf
    for start in np.arange(0, 1.2, 0.1):
        one = mesh.faces[(along >= start) & (along < start + 0.1)]
        two = mesh.faces[along > start + 0.6]
        nearest = min(nearest, _fcl_distance(mesh.vertices, one, two))
    assert part_gaps(part).smallest == pytest.approx(nearest, abs=0.01)


def _fcl_distance(vertices, one, two):
    objects = []
    for faces in (one, two):
        model = fcl.BVHModel()
        model.beginModel(len(vertices), len(faces))
        model.addSubModel(vertices, faces)
        model.endModel()
        objects.append(fcl.CollisionObject(model))
    return fcl.distance(*objects, fcl.DistanceRequest(), fcl.DistanceResult())


def test_a_tall_section_and_a_wide_one_differ_on_a_small_pitch():
    tall = checks_of(helix(20, 4, 1, section={"kind": "rectangle", "width": 1.5, "height": 5}))
    wide = checks_of(helix(20, 4, 1, section={"kind": "rectangle", "width": 5, "height": 1.5}))
    assert tall["self-contact"].verdict == "stop"
    assert tall["self-contact"].where
    assert wide["self-contact"].verdict == "clear"
    assert wide["self-contact"].value == pytest.approx(2.49, abs=0.02)


def test_a_fixed_bar_runs_through_itself_after_half_a_turn():
    square = {"kind": "rectangle", "width": 3, "height": 3}
    quarter = checks_of(helix(20, 10, 1, turns=0.2, section=square, stance={"kind": "fixed"}))
    assert quarter["bend"].verdict == "clear"
    assert quarter["self-contact"].verdict == "clear"
    half = helix(20, 10, 1, turns=0.6, section=square, stance={"kind": "fixed"})
    found = checks_of(half)
    turn = part_of(half).path.length / 0.6
    for check_id in ("bend", "self-contact"):
        assert found[check_id].verdict == "stop"
        start, end = found[check_id].where[0]
        assert 0.24 * turn < start < 0.3 * turn
        assert end == pytest.approx(0.6 * turn)
        assert found[check_id].remedies[0].input == "/stance/kind"


def test_contact_places_are_where_the_turns_meet():
    """A cone that closes too much overlaps only at its narrow pitch: the flat spiral of uneven step."""
    flat = helix(20, 1, 3, path={
        "kind": "coil", "diameter": 20, "end_diameter": 44, "height": 0, "turns": 4,
    }, along={"size": {"from": 0.8, "to": 1.3}})  # fmt: skip
    check = checks_of(flat)["self-contact"]
    assert check.verdict == "stop"
    length = part_of(flat).path.length
    assert all(0 <= a < b <= length + 1e-9 for a, b in check.where)
    assert check.where[0][0] > 0.05 * length


def test_bend_limit_of_a_thick_wire():
    """1 − κ·reach on a helix: κ = r / (r² + (p/2π)²)."""
    recipe = helix(20, 40, 8)
    r, c = 10, 40 / (2 * np.pi)
    bend = checks_of(recipe)["bend"]
    assert bend.value == pytest.approx(1 - 4 * r / (r * r + c * c), rel=1e-9)
    recipe["section"]["diameter"] = 30
    assert checks_of(recipe)["bend"].verdict == "stop"


def test_clearance_to_bore_rod_length_and_wanted_gap():
    base = helix(20, 6, 2.5, fit={"bore": 26, "rod": 15, "length": 40, "gap": 0.5})
    clear = checks_of(base)["clearance"]
    assert clear.verdict == "clear"
    assert clear.value == pytest.approx(1.25)
    assert checks_of({**base, "fit": {"bore": 22}})["clearance"].verdict == "stop"
    watch = checks_of({**base, "fit": {"bore": 24, "gap": 1}})["clearance"]
    assert watch.verdict == "watch"
    assert watch.value == pytest.approx(0.75)
    assert checks_of({**base, "fit": {"length": 20}})["clearance"].verdict == "stop"


@pytest.mark.parametrize("place", ["bore", "rod"])
def test_air_that_is_hardly_more_than_was_asked_for_is_not_certain(place):
    """How far a bar that twists reaches is known within an error."""
    section, twist = {"kind": "rectangle", "width": 4, "height": 3}, {"twist": {"total": "2 turns"}}
    bar = helix(30, 12, 3, section=section, along=twist)
    box = part_of(bar).sharp_extents
    air, room = {
        "bore": (20.5 - box.outside_radius, 41),
        "rod": (box.inside_radius - 9.5, 19),
    }[place]
    assert box.error > 0
    asked = checks_of({**bar, "fit": {place: room, "gap": air - box.error / 2}})["clearance"]
    assert asked.verdict == "watch"
    assert -box.error < asked.margin < 0 and "for certain" in asked.why


def test_size_that_shrinks_to_nothing():
    check = checks_of(helix(20, 6, 2.5, along={"size": {"from": 1, "to": -0.25}}))["size"]
    assert check.verdict == "stop"
    length = part_of(helix(20, 6, 2.5)).path.length
    assert check.where[0] == pytest.approx((0.7992 * length, length), rel=1e-3)


def test_twist_crowding_is_watched():
    bar = {
        "format": "metaspira/1",
        "path": {"kind": "straight", "length": 100},
        "section": {"kind": "rectangle", "width": 10, "height": 10},
        "along": {"twist": {"total": "10 turns"}},
    }
    twist = checks_of(bar)["twist"]
    assert twist.verdict == "watch"
    assert twist.value == pytest.approx(np.degrees(np.arctan(np.sqrt(50) * 20 * np.pi / 100)))


BROKEN = {
    "pitch too small": helix(20, 2, 2.5),
    "tall section": helix(20, 4, 1, section={"kind": "rectangle", "width": 1.5, "height": 5}),
    "long coil": helix(20, 2.2, 2.5, turns=300),
    "fixed": helix(20, 12, 1, turns=2, section={"kind": "polygon", "sides": 4, "across_flats": 3},
                   stance={"kind": "fixed"}),
    "bore": helix(20, 6, 2.5, fit={"bore": 22}),
    "shrinks": helix(20, 6, 2.5, along={"size": {"from": 1, "to": -0.2}}),
    "too thick": helix(20, 30, 26),
    "inches": {**helix(0.8, 0.09, 0.1), "unit": "in"},
}  # fmt: skip


@pytest.mark.thorough(only=["fixed", "too thick"])
@pytest.mark.parametrize("name", BROKEN)
def test_every_remedy_really_clears_its_check(name):
    recipe = BROKEN[name]
    stopped = [check for check in report_on(part_of(recipe)).checks if check.verdict == "stop"]
    assert stopped
    assert any(check.remedies for check in stopped)
    for check in stopped:
        for remedy in check.remedies:
            cured = _with(recipe, remedy.input, remedy.value)
            assert checks_of(cured)[check.id].verdict == "clear", remedy
            if isinstance(remedy.value, float):
                assert remedy.value == float(f"{remedy.value:.6g}"), "is no number to type"


def test_the_pitch_remedy_is_the_nearest_one():
    remedies = {r.input: r.value for r in checks_of(helix(20, 2, 2.5))["self-contact"].remedies}
    exact = 2.5 * np.sqrt(1 + (2.5 / (20 * np.pi)) ** 2)
    assert exact <= remedies["/path/pitch"] < exact + 0.02


def _with(recipe, place, value):
    keys = parts_of(place)
    if not keys:
        return value
    return {
        **recipe,
        keys[0]: _with(recipe.get(keys[0], {}), "".join(f"/{k}" for k in keys[1:]), value),
    }


def test_six_thousand_turns_are_checked():
    report = report_on(part_of(helix(20, 6, 2.5, turns=6000)))
    assert report.verdict == "clear"
    assert report.figures["min_gap"] == pytest.approx(3.4728217106, abs=1e-8)


def test_figures_of_a_spring(spring):
    figures = report_on(part_of(spring)).figures
    assert figures["outside_diameter"] == pytest.approx(22.5)
    assert figures["inside_diameter"] == pytest.approx(17.5)
    assert figures["mass"] == pytest.approx(figures["volume"] * 7.85e-3)
    assert figures["min_bend_radius"] == pytest.approx(10 * (1 + (6 / (20 * np.pi)) ** 2))


@settings(deadline=None, max_examples=20)
@given(pitch=st.floats(3, 12), wire=st.floats(0.5, 2.5), more=st.floats(0.1, 3))
def test_more_pitch_never_makes_less_air(pitch, wire, more):
    assume(pitch + more < 25)
    tight, loose = (part_gaps(part_of(helix(20, p, wire, turns=3))).smallest for p in (pitch, pitch + more))
    assert loose > tight


@pytest.mark.parametrize(
    "path",
    [
        {"diameter": 60, "turns": 3000, "pitch": 0.01},
        {"diameter": 60, "turns": 2000, "height": 0},
        {"diameter": 0.001, "turns": 0.001, "pitch": 0},
    ],
)
def test_absurd_coils_are_answered_with_a_stop(path):
    recipe = helix(1, 1, 1, path={"kind": "coil", **path}, section={"kind": "round", "diameter": 30})
    assert report_on(part_of(recipe), with_remedies=False).verdict == "stop"


def test_more_turns_than_can_be_worked_on_are_refused():
    recipe = helix(20, 6, 2, along={"twist": {"total": "26000 turns"}})
    with pytest.raises(RecipeError) as refused:
        part_of(recipe)
    assert refused.value.problems[0].place == "/along/twist/total"


def test_the_strands_of_a_rope_are_laid_to_touch():
    rope = {**helix(0, 0, 5), "path": {"kind": "straight", "length": 120}}
    twisted = checks_of({**rope, "strands": {"count": 3, "lay": 40}})
    assert twisted["self-contact"].verdict == "clear"
    cored = checks_of({**rope, "strands": {"count": 6, "lay": 62, "core": True}})
    assert cored["self-contact"].verdict == "clear" and "core strand" in cored["self-contact"].why


@pytest.mark.parametrize(("host", "down"), [("rod", 20), ("bore", 50)])
def test_what_looks_down_in_print_is_the_leading_flank_of_a_rod_and_the_trailing_one_of_a_bore(host, down):
    """A ridge's lower side faces down, which is its leading flank outside; inside, the ridge is the other way
    round."""
    form = {"kind": "flanks", "leading": 20, "trailing": 50, "height": 1.2, "crest": 0.8}
    thread = {"form": form, "diameter": 40, "pitch": 6, "length": 30}
    recipe = {"format": "metaspira/1", "thread": thread, "material": "polyamide"}
    check = checks_of({**recipe, "host": {"kind": host, "length": 30}})["print"]
    assert check.value == pytest.approx(down, abs=0.01)
    assert (check.verdict, check.limit) == ("watch" if down < 45 else "clear", 45)


@pytest.mark.parametrize(("starts", "verdict"), [(1, "stop"), (3, "watch")])
def test_of_three_starts_two_thirds_of_a_pitch_are_held(starts, verdict):
    """At 3.36 mm of a pitch of 4 mm, a single start does not go around once; of three, two ridges are held
    everywhere."""
    form = {"kind": "flanks", "leading": 20, "trailing": 30, "height": 1.2, "crest": 0.8}
    thread = {"form": form, "diameter": 40, "pitch": 4, "starts": starts}
    recipe = {"format": "metaspira/1", "thread": thread, "host": {"kind": "rod", "length": 6}}
    check = checks_of(recipe)["engagement-length"]
    assert (check.verdict, check.value) == (verdict, pytest.approx(3.36))
