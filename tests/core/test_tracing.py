"""Scanned bodies traced back to the recipes that made them."""

import json
import math

import numpy as np
import pytest
import trimesh
from metaspira.checks import report_on
from metaspira.cli import main
from metaspira.formats.clouds import cloud_in, is_cloud
from metaspira.parts import part_of
from metaspira.problems import RecipeError
from metaspira.sheets import sheet_of
from metaspira.studies.trace import surface_in, trace, trace_surface, traced_in_child
from metaspira.studies.trace.packing import packed, unpacked
from metaspira.studies.trace.rounding import rounded
from metaspira.threads.lookup import read_thread
from scans import scan
from scipy.spatial import cKDTree

ROUND = {"kind": "round", "diameter": 2.5}
GROUND = {"start": {"kind": "ground"}, "end": {"kind": "ground"}}
CLOSED = {
    "path": {"kind": "coil", "diameter": 20, "turns": 8, "height": 50, "closed": {"start": 1, "end": 1}},
    "section": ROUND,
    "ends": GROUND,
}
COILS = {
    "open": ({"path": {"kind": "coil", "diameter": 20, "turns": 8, "pitch": 6}, "section": ROUND}, 8, 20),
    "closed and ground, left": (CLOSED | {"path": CLOSED["path"] | {"hand": "left"}}, 8, 20),
    "cone, left": (
        {
            "path": {
                "kind": "coil", "hand": "left", "diameter": 30, "end_diameter": 16, "turns": 7, "pitch": 7,
            },
            "section": ROUND,
        },
        7,
        30,
    ),
    "few turns of thick wire": (
        {
            "path": {"kind": "coil", "diameter": 24, "turns": 2.5, "pitch": 9},
            "section": ROUND | {"diameter": 4},
        },
        2.5,
        24,
    ),
}  # fmt: skip


@pytest.mark.thorough(but=["closed and ground, left-0.1-0.4"])
@pytest.mark.parametrize(
    ("name", "noise", "missing"), [("closed and ground, left", 0, 0), *((name, 0.1, 0.4) for name in COILS)]
)
def test_a_coil_of_round_wire_is_traced(name, noise, missing):
    """Diameters and pitch within 0.2 %, or three times the share of the noise; turns within 0.01; and all of
    them within their intervals."""
    recipe, turns, diameter = COILS[name]
    found = trace_surface(scan(recipe, noise, missing), name)
    numbers = {one.key: one for one in found.figures}
    if name.startswith("cone") and numbers["diameter"].value < 20:  # it may begin at either end
        diameter = recipe["path"]["end_diameter"]
    assert found.kind == "coil"
    assert found.recipe["path"]["hand"] == recipe["path"].get("hand", "right")
    assert numbers["turns"].value == pytest.approx(turns, abs=0.01)
    share = max(2e-3, 3 * noise / diameter)
    assert numbers["diameter"].value == pytest.approx(diameter, rel=share)
    assert numbers["wire_diameter"].value == pytest.approx(
        recipe["section"]["diameter"], abs=max(0.01, noise)
    )
    assert found.deviation.mean < 0.01 + noise
    for key, true in {"turns": turns, "diameter": diameter, "pitch": recipe["path"].get("pitch")}.items():
        assert true is None or abs(numbers[key].value - true) <= numbers[key].sure
    report = report_on(part_of(found.rounded), with_remedies=False)
    assert report.verdict == "clear"
    assert not any("not of the coil" in words for words in found.told)
    even = found.rounded["path"]
    assert (even["turns"], found.rounded["section"]["diameter"]) == (turns, recipe["section"]["diameter"])
    assert even["diameter"] == pytest.approx(diameter)
    lies_where_the_part_is(found)


def lies_where_the_part_is(found):
    """The ghost's places, off the traced part's centre line by the wire's radius and what is told."""
    part = part_of(found.recipe)
    along, _, _ = part.path.derivatives(np.linspace(0, part.path.length, 4001), 2)
    places, off = np.array(found.ghost.places), np.array(found.ghost.off)
    to_line = cKDTree(along).query(places)[0]
    radius = found.recipe["section"]["diameter"] / 2
    beside = np.abs(off) < radius / 2
    assert beside.mean() > 0.8
    assert np.median(np.abs(to_line - radius - off)[beside]) < 0.01
    assert np.abs(off[beside]).mean() == pytest.approx(found.deviation.mean, abs=0.05)


def test_closed_and_ground_ends_are_seen_and_a_data_sheet_follows():
    found = trace_surface(scan(CLOSED, 0.02, 0.1, seed=4), "drawer")
    assert found.rounded["path"]["closed"] == {"start": 1.0, "end": 1.0, "change": 0.5}
    assert found.rounded["ends"] == GROUND
    assert found.rounded["path"]["pitch"] == pytest.approx(7.95, abs=0.051)
    assert found.rounded_deviation.mean < 0.05
    assert sheet_of(part_of(found.rounded)).sections


HOOK = [{"kind": "hook", "form": "full-loop", "bend_radius": 3.5}]
HALF = [{"kind": "hook", "form": "half-loop", "bend_radius": 3}]
SIDE = [{"kind": "hook", "form": "side-loop", "bend_radius": 3, "radius": 7}]
STRAIGHT = [{"kind": "straight", "length": 25}]
BENT = [{"kind": "arc", "radius": 4, "angle": 90, "side": "outward"}, {"kind": "straight", "length": 20}]
FAR = [
    {"kind": "straight", "length": 15},
    {"kind": "arc", "radius": 4, "angle": 60, "side": "up"},
    STRAIGHT[0],
]
LEGS = {
    "full loops": (HOOK, HOOK, "right", 0.01, 0.0),
    "two kinds of hooks, a side hidden": (HALF, SIDE, "left", 0.02, 0.2),
    "bent legs": (BENT, FAR, "left", 0.02, 0.2),
}


@pytest.mark.thorough(but=["full loops"])
@pytest.mark.parametrize("name", LEGS)
def test_legs_and_hooks_are_in_the_recipe(name):
    start, end, hand, noise, missing = LEGS[name]
    path = {"kind": "coil", "hand": hand, "diameter": 18, "turns": 9.25, "pitch": 3}
    path["legs"] = {"start": start, "end": end}
    wire = {"kind": "round", "diameter": 2.2}
    found = trace_surface(scan({"path": path, "section": wire}, noise, missing, seed=3), name)
    numbers = {one.key: one for one in found.figures}
    assert abs(numbers["turns"].value - 9.25) < numbers["turns"].sure < 0.06
    legs = found.recipe["path"]["legs"]
    if [one["kind"] for one in legs["start"]] != [one["kind"] for one in start]:
        start, end = end, start  # a coil is the same from either end
        over = {"up": "down", "down": "up"}
        start, end = (
            [
                {**leg, **({"side": over.get(leg["side"], leg["side"])} if "side" in leg else {})}
                for leg in one
            ]
            for one in (start, end)
        )
    for at, asked in (("start", start), ("end", end)):
        assert [one["kind"] for one in legs[at]] == [one["kind"] for one in asked]
        for which, (one, true) in enumerate(zip(legs[at], asked, strict=True)):
            for key in ("form", "side"):
                assert one.get(key) == true.get(key)
            for key in ("length", "angle", "radius", "bend_radius"):
                if key in true:
                    number = numbers[f"{at}_{which}_{key}"]
                    assert abs(number.value - true[key]) < number.sure < 1
                    assert number.input == f"/path/legs/{at}/{which}/{key}"
    kinds = {one[-1]["kind"] for one in (start, end)}
    kind = {"hook": "extension", "straight": "torsion"}[kinds.pop()] if len(kinds) == 1 else None
    assert found.recipe.get("spring", {}).get("kind") == kind
    assert found.told == [] and found.deviation.mean < noise + 0.01
    assert found.rounded["path"]["turns"] == 9.25 and found.rounded["section"] == wire
    assert report_on(part_of(found.rounded), with_remedies=False).verdict != "stop"


@pytest.mark.thorough
@pytest.mark.parametrize(
    ("path", "legs", "missing", "seed"),
    [
        (
            {"diameter": 9.5, "turns": 4.25, "pitch": 1.78},
            [
                {"kind": "straight", "length": 11},
                {"kind": "arc", "radius": 2, "angle": 44, "side": "outward"},
                {"kind": "straight", "length": 11},
            ],
            0.0,
            23,
        ),
        (
            {"diameter": 5.5, "turns": 11.25, "pitch": 1.59},
            [{"kind": "straight", "length": 3.2}],
            0.4,
            79,
        ),
    ],
    ids=["half of it legs", "a side hidden"],
)
def test_legs_are_found_where_noise_is_a_tenth_of_the_wire(path, legs, missing, seed):
    coil = {"kind": "coil", **path, "legs": {"start": legs, "end": legs}}
    wire = {"kind": "round", "diameter": 1}
    found = trace_surface(scan({"path": coil, "section": wire}, 0.1, missing, seed), "legs")
    numbers = {one.key: one for one in found.figures}
    assert found.recipe["path"]["hand"] == "right" and found.told == []
    for key, true in (*path.items(), ("wire_diameter", 1)):
        assert abs(numbers[key].value - true) < numbers[key].sure < 0.3, key
    for end in ("start", "end"):
        assert [one["kind"] for one in found.recipe["path"]["legs"][end]] == [one["kind"] for one in legs]
        for which, leg in enumerate(legs):
            for key in leg.keys() & {"length", "angle"}:
                number = numbers[f"{end}_{which}_{key}"]
                assert abs(number.value - leg[key]) < number.sure < 1, number.key


@pytest.mark.thorough
def test_a_leg_of_no_known_kind_is_left_out_and_the_turns_are_less_sure():
    around = {"kind": "arc", "radius": 4, "angle": 120, "side": "outward"}
    back = {"kind": "arc", "radius": 5, "angle": 100, "side": "inward"}
    path = {"kind": "coil", "diameter": 18, "turns": 9.25, "pitch": 3}
    path["legs"] = {
        "end": [around, {"kind": "straight", "length": 6}, back, {"kind": "straight", "length": 9}]
    }
    found = trace_surface(scan({"path": path, "section": {"kind": "round", "diameter": 2.2}}, 0.01), "legs")
    assert any("legs or hooks" in words for words in found.told)
    numbers = {one.key: one for one in found.figures}
    assert abs(numbers["turns"].value - 9.25) < numbers["turns"].sure
    assert numbers["pitch"].value == pytest.approx(3, rel=2e-3)
    assert found.rounded["section"]["diameter"] == 2.2


FLAT = {"kind": "rectangle", "width": 4, "height": 2.5, "corner_radius": 0.4}
OVAL = {"kind": "ellipse", "width": 4, "height": 2.4}
SHAPED = {
    "flat wire, left, a side hidden": (FLAT, {"turns": 6, "pitch": 7, "hand": "left"}, {}, 0.03, 0.3),
    "oval wire": (OVAL, {"turns": 6, "pitch": 7}, {}, 0.05, 0.3),
    "closed and ground": (
        FLAT,
        {"turns": 8, "pitch": 6, "closed": {"start": 1, "end": 1}},
        {"ends": {"start": {"kind": "ground"}, "end": {"kind": "ground"}}},
        0.02,
        0.0,
    ),
    "flat wire that leans": (
        FLAT,
        {"turns": 5, "pitch": 9, "hand": "left"},
        {"along": {"twist": {"from": 25, "to": 25}}},
        0.02,
        0.2,
    ),
}


@pytest.mark.thorough(but=["flat wire that leans"])
@pytest.mark.parametrize("name", SHAPED)
def test_a_coil_of_wire_that_is_not_round_is_traced(name):
    section, path, more, noise, missing = SHAPED[name]
    recipe = {"path": {"kind": "coil", "diameter": 25, **path}, "section": section, **more}
    found = trace_surface(scan(recipe, noise, missing, seed=2), name)
    traced = found.recipe
    assert (found.kind, traced["section"]["kind"]) == ("coil", section["kind"])
    assert traced["path"]["hand"] == path.get("hand", "right")
    numbers = {one.key: one for one in found.figures}
    for key, size in section.items():
        if isinstance(size, float | int) and key not in ("sides", "corner_radius"):
            assert abs(numbers[f"wire_{key}"].value - size) <= min(numbers[f"wire_{key}"].sure, 0.05)
    assert abs(traced["path"]["turns"] - path["turns"]) < max(0.011, numbers["turns"].sure) < 0.03
    assert traced["path"]["pitch"] == pytest.approx(path["pitch"], rel=2e-3)
    assert traced["path"]["diameter"] == pytest.approx(25, rel=2e-3)
    assert traced.get("ends", {}).keys() == more.get("ends", {}).keys()
    leans = traced.get("along", {}).get("twist", {}).get("from", 0)
    assert leans == pytest.approx(more.get("along", {}).get("twist", {}).get("from", 0), abs=1)
    assert found.deviation.mean < 0.8 * noise + 0.005
    assert found.rounded["section"] == section
    assert report_on(part_of(traced), with_remedies=False).verdict != "stop"


@pytest.mark.thorough
@pytest.mark.parametrize("hand", ["right", "left"])
def test_a_wire_of_no_plain_section_has_its_own_outline_the_right_way_up(hand):
    wedge = {"kind": "trapezoid", "base": 3, "top": 1.8, "height": 4}
    path = {"kind": "coil", "diameter": 25, "turns": 6, "pitch": 7, "hand": hand}
    found = trace_surface(scan({"path": path, "section": wedge}, 0.02, seed=5), "wedge")
    assert found.recipe["section"]["kind"] == "free"
    assert found.deviation.mean < 0.02 and found.deviation.p95 < 0.05
    area = report_on(part_of(found.recipe), with_remedies=False).figures["section_area"]
    assert area == pytest.approx(9.6, rel=0.01)


@pytest.mark.thorough(but=["2-right-0.3"])
@pytest.mark.parametrize(
    ("count", "hand", "missing"), [(2, "right", 0.3), (3, "left", 0.0), (4, "right", 0.0)]
)
def test_wires_that_are_wound_together_are_counted(count, hand, missing):
    path = {"kind": "coil", "hand": hand, "diameter": 25, "turns": 4, "pitch": 14}
    recipe = {"path": path, "section": {"kind": "round", "diameter": 2.5}, "strands": {"count": count}}
    found = trace_surface(scan(recipe, 0.02, missing, seed=1), "wires")
    assert found.recipe["strands"] == {"count": count}
    assert found.recipe["path"]["hand"] == hand
    numbers = {one.key: one.value for one in found.figures}
    assert (numbers["turns"], numbers["pitch"]) == (pytest.approx(4, abs=0.01), pytest.approx(14, rel=2e-3))
    assert found.told == [] and found.deviation.p95 < 0.05


@pytest.mark.thorough
def test_a_barrel_is_traced_by_points():
    recipe = {
        "path": {
            "kind": "coil", "diameter": {"shape": "barrel", "from": 16, "middle": 26}, "turns": 8,
            "pitch": {"points": [[0, 2.05], [0.15, 7], [0.85, 7], [1, 2.05]], "ease": "smooth"},
        },
        "section": {"kind": "round", "diameter": 2},
    }  # fmt: skip
    found = trace_surface(scan(recipe), "barrel")
    points = np.array(found.recipe["path"]["diameter"]["points"])
    assert points[[0, 4, 8], 1] == pytest.approx([16, 26, 16], abs=0.1)
    assert found.deviation.mean < 0.03
    assert rounded(found.recipe)["path"]["diameter"] == found.recipe["path"]["diameter"]


def test_a_plate_under_it_is_left_out_and_told():
    found = trace_surface(scan(COILS["open"][0], plate=True), "on a plate")
    assert any("flat plate" in words for words in found.told)
    assert found.rounded["path"]["turns"] == 8 and found.rounded["path"]["pitch"] == 6


THREADS = [
    ("M10", "rod", "right"), ("M6", "rod", "left"), ("G 1/2", "rod", "right"), ("M12", "bore", "right"),
    ("M3", "rod", "right"),
]  # fmt: skip


@pytest.mark.thorough(but=["M10-rod-right"])
@pytest.mark.parametrize(("name", "host", "hand"), THREADS)
def test_a_standard_thread_comes_first(name, host, hand):
    thread = {"designation": name, "hand": hand}
    pitch = read_thread(name).pitch
    length = 12 if host == "bore" else min(22, 8 + 6 * pitch)
    noise = min(0.1, pitch / 20)
    surface = scan({"thread": thread, "host": {"kind": host, "length": length}}, noise, 0.3, seed=1)
    found = trace_surface(surface, name)
    assert found.kind == "thread"
    assert found.designations[0].designation == name
    assert found.recipe["thread"].get("hand", "right") == hand
    assert found.recipe["host"]["kind"] == host
    assert report_on(part_of(found.recipe), with_remedies=False).verdict != "stop"
    numbers = {one.key: one.value for one in found.figures}
    half = 27.5 if name == "G 1/2" else 30
    flanks = [one for one in found.figures if one.key.endswith("flank")]
    assert flanks and all(abs(one.value - half) <= min(one.sure, 2.5) for one in flanks)
    assert 0 < numbers["minor_diameter"] < numbers["pitch_diameter"] < numbers["major_diameter"]


@pytest.mark.thorough
@pytest.mark.parametrize(
    ("name", "hand", "seed"),
    [("M20x2.5", "right", 1), ("S22x5", "left", 1), ("S22x5", "right", 2)],
)
def test_the_scan_of_a_thread_lies_on_its_part_either_way_round(name, hand, seed):
    recipe = {"thread": {"designation": name, "hand": hand}, "host": {"kind": "rod", "length": 24}}
    found = trace_surface(scan(recipe, 0.01, seed=seed), name)
    assert found.deviation.mean < 0.03 and found.deviation.p95 < 0.05
    assert found.rounded_deviation.mean < 0.03
    assert found.told == []
    assert next((one.value for one in found.figures if one.key == "wear"), 0.0) == 0
    assert len(found.ghost.places) == len(found.ghost.off) > 1000
    reach = float(np.hypot(*np.array(found.ghost.places)[:, :2].T).max())
    assert reach == pytest.approx(found.figures[0].value / 2, abs=0.1)


@pytest.mark.thorough
@pytest.mark.parametrize(
    ("name", "host", "hand", "seed"),
    [("Rc 3/4", "bore", "right", 3), ("1/2-14 NPT", "rod", "left", 4)],
)
def test_a_taper_thread_is_told_from_the_others_that_are_as_wide(name, host, hand, seed):
    length = read_thread(name).gauge_plane + 3 * read_thread(name).pitch
    recipe = {"thread": {"designation": name, "hand": hand}, "host": {"kind": host, "length": length}}
    found = trace_surface(scan(recipe, 0.03, 0.3, seed=seed), name)
    assert found.designations[0].designation == name
    assert found.recipe["thread"] == {"designation": name, **({"hand": hand} if hand == "left" else {})}
    numbers = {one.key: one for one in found.figures}
    taper = numbers["taper"]
    assert abs(taper.value - 1 / 16) <= taper.sure < 0.02
    half = 27.5 if host == "bore" else 30
    assert abs(numbers["leading_flank"].value - half) <= numbers["leading_flank"].sure
    assert found.deviation.mean < 0.045
    assert found.recipe["host"]["length"] == pytest.approx(length, abs=2 * read_thread(name).pitch)


@pytest.mark.thorough
def test_a_taper_of_no_standard_has_its_own_form_on_a_cone():
    form = {"kind": "flanks", "leading": 10, "trailing": 35, "height": 1.5, "crest": 0.9}
    cone = {"kind": "cone", "length": 30, "diameter": 40, "end_diameter": 34}
    recipe = {"thread": {"form": form, "diameter": 40, "pitch": 4}, "host": cone, "use": {"as": "ridge"}}
    found = trace_surface(scan(recipe, 0.01), "plug")
    assert found.recipe["host"]["kind"] == "cone" and found.recipe["use"] == {"as": "ridge"}
    host = found.recipe["host"]
    assert (host["end_diameter"] - host["diameter"]) / host["length"] == pytest.approx(0.2, abs=0.003)
    assert found.deviation.mean < 0.05
    assert report_on(part_of(found.recipe), with_remedies=False).verdict != "stop"
    rounded = found.rounded["thread"]
    assert (rounded["pitch"], rounded["form"]["height"]) == (4, 1.5)
    assert sorted(rounded["form"][key] for key in ("leading", "trailing")) == pytest.approx([10, 35], abs=1)


@pytest.mark.thorough
@pytest.mark.parametrize(("host", "length"), [("rod", 30), ("bore", 20)])
def test_a_thread_that_is_beyond_its_limit_is_told_to_be_worn(host, length):
    thread = {"designation": "M20", "allowance": 0.1}
    worn = scan({"thread": thread, "host": {"kind": host, "length": length}}, 0.01)
    found = trace_surface(worn, "old")
    assert found.designations[0].designation == "M20"
    wear = next(one for one in found.figures if one.key == "wear")
    # flanks moved by 0.1 square to themselves move the pitch diameter by 2 · 0.1 / sin 30°
    size = read_thread("M20").member("external" if host == "rod" else "internal").pitch
    moved = size.basic + (-0.4 if host == "rod" else 0.4)
    beyond = size.min - moved if host == "rod" else moved - size.max
    assert wear.value == pytest.approx(beyond, abs=wear.sure)
    assert any("worn" in words for words in found.told)


@pytest.mark.thorough
def test_of_two_starts_both_are_found():
    recipe = {"thread": {"designation": "Tr20x8P4"}, "host": {"kind": "rod", "length": 40}}
    found = trace_surface(scan(recipe, 0.01), "two")
    numbers = {one.key: one.value for one in found.figures}
    assert (numbers["starts"], numbers["pitch"]) == (2, pytest.approx(4, abs=2e-3))
    assert found.recipe["thread"]["designation"] == "Tr20x8P4"


@pytest.mark.thorough
def test_a_thread_of_no_standard_has_the_form_that_was_measured():
    form = {"kind": "flanks", "leading": 20, "trailing": 45, "height": 1.2, "crest": 0.8}
    thread = {"form": form, "diameter": 40, "pitch": 4, "at": 0, "length": 30, "starts": 2}
    found = trace_surface(scan({"thread": thread, "host": {"kind": "rod", "length": 30}}, 0.01), "lid")
    assert found.designations == [] and any("no standard thread" in words for words in found.told)
    own = found.recipe["thread"]
    assert (own["starts"], own["diameter"], own["pitch"]) == (
        2,
        pytest.approx(40, abs=0.05),
        pytest.approx(4, abs=0.01),
    )
    flanks = {one.key: one.value for one in found.figures if one.key.endswith("flank")}
    assert sorted(flanks.values()) == pytest.approx([20, 45], abs=1.5)
    for end in ("leading", "trailing"):
        assert own["form"][end] == pytest.approx(flanks[f"{end}_flank"], abs=0.1)
    assert own["form"]["height"] == pytest.approx(1.2, abs=0.03)
    assert own["form"]["crest"] == pytest.approx(0.8, abs=0.1)
    assert report_on(part_of(found.recipe), with_remedies=False).verdict != "stop"


HEXAGON = {"kind": "polygon", "sides": 6, "across_flats": 12}
BARS = {
    "square": ({"kind": "rectangle", "width": 10, "height": 10}, {"twist": {"total": 720.0}}),
    "flat, to the left": (
        {"kind": "rectangle", "width": 6, "height": 16, "corner_radius": 1},
        {"twist": {"total": -450.0}},
    ),
    "hexagon, tapered": (HEXAGON, {"twist": {"total": 200.0}, "size": {"from": 1, "to": 0.7}}),
    "round, tapered": ({"kind": "round", "diameter": 10}, {"size": {"from": 1, "to": 0.6}}),
}


@pytest.mark.thorough(but=["square-0.05-0.3"])
@pytest.mark.parametrize(
    ("name", "noise", "missing"),
    [
        ("square", 0.05, 0.3),
        ("flat, to the left", 0, 0),
        ("hexagon, tapered", 0.05, 0.3),
        ("round, tapered", 0, 0),
    ],
)
def test_a_twisted_or_tapered_bar_is_traced(name, noise, missing):
    section, along = BARS[name]
    recipe = {"path": {"kind": "straight", "length": 80}, "section": section, "along": along}
    found = trace_surface(scan(recipe, noise, missing, seed=1), name)
    assert found.kind == "bar"
    numbers = {one.key: one for one in found.figures}
    assert numbers["length"].value == pytest.approx(80, abs=0.01 + 3 * noise)
    even = found.rounded
    sizes = [[one[key] for key in numbers if key in section] for one in (even["section"], section)]
    assert sorted(sizes[0]) == pytest.approx(sorted(sizes[1]), abs=0.06)
    assert even["section"]["kind"] == section["kind"] and even["path"]["length"] == 80
    assert even["along"] == along
    if "twist" in along:
        assert abs(numbers["twist"].value - along["twist"]["total"]) <= numbers["twist"].sure
    assert found.deviation.mean < 0.02 + noise
    assert report_on(part_of(even), with_remedies=False).verdict != "stop"


@pytest.mark.thorough
def test_a_bar_of_which_a_side_is_hidden_has_the_section_that_is_seen():
    recipe = {
        "path": {"kind": "straight", "length": 99},
        "section": {"kind": "rectangle", "width": 10.6, "height": 10.6},
        "along": {"twist": {"total": -124}},
    }
    found = trace_surface(scan(recipe, 0, 0.4, seed=60), "bar")
    numbers = {one.key: one for one in found.figures}
    for key, true in (("width", 10.6), ("height", 10.6), ("length", 99), ("twist", -124)):
        assert abs(numbers[key].value - true) < numbers[key].sure < 1.5, key


@pytest.mark.thorough
def test_a_bar_whose_end_faces_are_hidden_is_as_long_as_its_interval_says():
    recipe = {
        "path": {"kind": "straight", "length": 78},
        "section": HEXAGON,
        "along": {"twist": {"total": 328}},
    }
    mesh = scan(recipe, seed=5)
    axis = np.linalg.svd(mesh.vertices - mesh.vertices.mean(axis=0), full_matrices=False)[2][0]
    mesh.update_faces(np.abs(mesh.face_normals @ axis) < 0.95)
    numbers = {one.key: one for one in trace_surface(mesh, "bar").figures}
    for key, true, most in (("length", 78, 1.0), ("twist", 328, 5.0)):
        assert abs(numbers[key].value - true) < numbers[key].sure < most, key


@pytest.mark.thorough
def test_a_bar_of_any_outline_that_twists_unevenly_is_traced_by_points():
    recipe = {
        "path": {"kind": "straight", "length": 80},
        "section": {"kind": "star", "points": 5, "outer_diameter": 16, "inner_diameter": 9},
        "along": {"twist": {"points": [[0, 0], [0.4, 60], [1, 300]], "ease": "smooth"}},
    }
    found = trace_surface(scan(recipe, 0.01), "star")
    assert found.recipe["section"]["kind"] == "free"
    angles = np.array(found.recipe["along"]["twist"]["points"])
    whole = abs(angles[-1, 1])
    assert whole == pytest.approx(300, abs=2)
    assert found.deviation.mean < 0.03


@pytest.mark.thorough(but=["ball"])
@pytest.mark.parametrize(
    "mesh",
    [
        trimesh.creation.box((20, 12, 7)),
        trimesh.creation.icosphere(4, 9),
        trimesh.creation.box((50, 50, 1e-9)),
        trimesh.Trimesh([[0, 0, 0], [1, 0, 0], [0, 1, 0]], [[0, 1, 2]]),
        trimesh.creation.icosphere(2, 1e-6),
        scan({"path": {"kind": "straight", "length": 60}, "section": {"kind": "round", "diameter": 6}}),
    ],
    ids=["box", "ball", "sheet", "triangle", "speck", "rod"],
)
def test_what_is_neither_is_refused_with_a_reason(mesh):
    with pytest.raises(RecipeError) as refused:
        trace_surface(mesh, "body")
    (problem,) = refused.value.problems
    assert problem.place == "/file" and problem.reason and problem.remedy


@pytest.mark.thorough
def test_a_coil_that_cannot_be_told_apart_is_refused_rather_than_guessed():
    with pytest.raises(RecipeError):
        trace_surface(scan(CLOSED, 0.5, 0.5), "rough")


@pytest.mark.parametrize("suffix", [".stl", ".obj", ".ply", ".glb"])
def test_every_format_of_a_mesh_is_read_in_its_unit(suffix):
    mesh = scan(COILS["few turns of thick wire"][0])
    data = mesh.export(file_type=suffix[1:])
    data = data.encode() if isinstance(data, str) else data
    unit = None if suffix == ".glb" else "mm"
    surface = unpacked(packed(surface_in(data, suffix, unit)))
    scale = 1000 if suffix == ".glb" else 1
    assert surface.area == pytest.approx(scale**2 * mesh.area, rel=1e-5)
    assert sorted(surface.extents) == pytest.approx(sorted(scale * mesh.extents), rel=1e-5)
    if unit:
        with pytest.raises(RecipeError, match="does not say its unit"):
            trace(data, suffix, None, "spring")


def test_a_surface_is_traced_in_a_child():
    data = scan(COILS["few turns of thick wire"][0]).export(file_type="stl")
    found = traced_in_child(surface_in(data, ".stl", "mm"), "spring")
    assert found.rounded["path"]["turns"] == 2.5
    assert found.rounded["path"]["diameter"] == pytest.approx(24, rel=1e-3)


def test_the_command_writes_the_recipe_and_says_how_sure_it_is(tmp_path, capsys):
    file, out = tmp_path / "spring.stl", tmp_path / "spring.spira.json"
    scan(COILS["open"][0], 0.02).export(file)
    with pytest.raises(SystemExit) as ended:
        main(["trace", str(file), "--unit", "mm", "-o", str(out), "--round", "--json"])
    assert ended.value.code == 0
    told = json.loads(capsys.readouterr().out)
    assert told["figures"][0]["sure"] > 0
    assert set(told) >= {"kind", "recipe", "sure", "deviation", "designations"}
    assert set(told["deviation"]) == {"mean", "p95", "max"}
    for place, (low, high) in told["sure"].items():
        group, key = place[1:].split("/")
        assert low <= told["recipe"][group][key] <= high
    assert set(told["sure"]) == {"/section/diameter", "/path/diameter", "/path/turns", "/path/pitch"}
    assert json.loads(out.read_text()) == told["rounded"]
    assert told["rounded"]["path"]["pitch"] == 6 and told["rounded"]["name"] == "spring"
    for arguments in (["trace", str(tmp_path / "none.stl")], ["trace", str(out)]):
        with pytest.raises(SystemExit) as ended:
            main(arguments)
        assert ended.value.code == 2
        assert "Traceback" not in capsys.readouterr().err


def points_of(recipe, noise, missing, count, seed=2):
    return np.asarray(trimesh.sample.sample_surface(scan(recipe, noise, missing, seed), count, seed=3)[0])


@pytest.mark.thorough(only=["cone, left-0.02-0.2-40000"])
@pytest.mark.parametrize(
    ("name", "noise", "missing", "count"), [("open", 0.03, 0.3, 15_000), ("cone, left", 0.02, 0.2, 40_000)]
)
def test_a_coil_is_traced_from_points_alone(name, noise, missing, count):
    recipe, turns, _ = COILS[name]
    found = trace_surface(points_of(recipe, noise, missing, count), name)
    numbers = {one.key: one.value for one in found.figures}
    path = recipe["path"]
    assert found.recipe["path"]["hand"] == path.get("hand", "right")
    assert numbers["turns"] == pytest.approx(turns, abs=0.01)
    assert numbers["wire_diameter"] == pytest.approx(2.5, abs=0.01 + noise)
    assert numbers["pitch"] == pytest.approx(path["pitch"], rel=2e-3)


def test_points_are_read_from_tables_and_from_a_ply_without_faces(tmp_path, capsys):
    points = points_of(COILS["open"][0], 0.0, 0.0, 12_000).round(4)
    file = tmp_path / "coil.xyz"
    np.savetxt(file, np.column_stack([points, np.zeros(len(points))]), fmt="%.4f", header="a scan")
    with pytest.raises(SystemExit) as ended:
        main(["trace", str(file), "--unit", "mm", "--json"])
    assert ended.value.code == 0
    told = {one["key"]: one["value"] for one in json.loads(capsys.readouterr().out)["figures"]}
    assert told["diameter"] == pytest.approx(20, rel=2e-3)
    rows = "\n".join(",".join(f"{c / 25.4:.6f}" for c in row) for row in points)
    inches = cloud_in(f"x in,y in,z in\n{rows}\n".encode(), ".csv", None)
    assert inches == pytest.approx(points, abs=1e-4)
    commas = "\n".join(";".join(f"{c:.4f}".replace(".", ",") for c in row) for row in points)
    assert cloud_in(commas.encode(), ".csv", "mm") == pytest.approx(points)
    ply = trimesh.PointCloud(points).export(file_type="ply")
    assert is_cloud(ply, ".ply")
    assert cloud_in(ply, ".ply", "mm") == pytest.approx(points, abs=1e-4)
    assert not is_cloud(scan(COILS["open"][0]).export(file_type="ply"), ".ply")


@pytest.mark.parametrize(
    ("text", "unit", "place", "reason"),
    [
        ("1 2 3\n" * 300, None, "/unit", "does not say its unit"),
        ("1 2 3\n" * 20, "mm", "/file", "holds 20 points"),
        ("1 2 3\n" * 300 + "1 2\n", "mm", "/file", "row 301 does not hold three numbers"),
        ("x y z\n" + "1 2 a\n" * 300, "mm", "/file", "row 2 does not hold three numbers"),
        ("1 2 nan\n" * 300, "mm", "/unit", "more than a kilometre"),
        ("1 2 1e300\n" * 300, "mm", "/unit", "more than a kilometre"),
        ("", "mm", "/file", "points"),
        ("\x00\x01" * 400, "mm", "/file", ""),
        ("1 2 3\n" * 300, "mm", "/file", "flat or tiny"),
    ],
)
def test_points_that_cannot_be_traced_are_refused_with_place_and_reason(text, unit, place, reason):
    with pytest.raises(RecipeError) as caught:
        trace(text.encode(), ".xyz", unit, "scan")
    (problem,) = caught.value.problems
    assert problem.place == place and reason in problem.reason


def test_points_in_crumbs_are_refused_with_a_reason():
    """All pieces but one are too small; that has fewer points than neighbours are asked for."""
    rng = np.random.default_rng(0)
    balls = [rng.normal((100 * k, 0, 0), 1, (count, 3)) for k, count in enumerate((80, 40, 40, 40, 40))]
    with pytest.raises(RecipeError) as caught:
        trace_surface(np.concatenate(balls), "crumbs")
    assert caught.value.problems[0].place == "/file"


def test_bytes_that_are_no_text_are_no_table():
    with pytest.raises(RecipeError) as caught:
        trace(b"\xff\xfe\x00" * 400, ".csv", "mm", "scan")
    assert caught.value.problems[0].place == "/file"


def circle(radius, angles):
    return [[round(radius * math.cos(a), 4), round(radius * math.sin(a), 4), 0] for a in angles]


ARC = circle(60, np.linspace(0, 2.5, 6))
S = [[0, 0, 0], [30, 5, 10], [60, -5, 15], [90, 10, 0]]
RING30 = circle(30, np.linspace(0, 2 * math.pi, 8, endpoint=False))
WINDINGS = {
    "a ring of few, wide turns": ({"points": RING30, "closed": True}, 6.0, 24.0, "left", 1.5),
    "to the left on an S": ({"points": S}, 6.0, 17.3, "left", 1.5),
}


@pytest.mark.thorough(only=["a ring of few, wide turns-0.03-0.3"])
@pytest.mark.parametrize(
    ("name", "noise", "missing"),
    [
        ("to the left on an S", 0.03, 0.3),
        ("a ring of few, wide turns", 0.03, 0.3),
    ],
)
def test_a_coil_whose_axis_is_a_curve_is_traced(name, noise, missing):
    around, radius, turns, hand, wire = WINDINGS[name]
    core = {"kind": "points", **around}
    path = {"kind": "winding", "around": core, "radius": radius, "turns": turns, "hand": hand}
    recipe = {"path": path, "section": {"kind": "round", "diameter": wire}}
    found = trace_surface(scan(recipe, noise, missing, seed=3), "wound")
    assert found.kind == "winding"
    told = {one.key: one for one in found.figures}
    length = part_of({"format": "metaspira/1", **recipe}).path.core.length
    closed = core.get("closed", False)
    assert found.recipe["path"]["around"].get("closed", False) == closed
    assert not closed or found.recipe["path"]["turns"] == turns
    for key, value in (("wire_diameter", wire), ("radius", radius), ("turns", turns), ("curve", length)):
        assert told[key].value == pytest.approx(value, abs=told[key].sure), key
    assert told["wire_diameter"].value == pytest.approx(wire, rel=4e-3)
    assert told["radius"].value == pytest.approx(radius, rel=2e-3)
    assert told["turns"].value == pytest.approx(turns, abs=0.01)
    assert told["turns"].sure < 0.15
    assert found.recipe["path"]["hand"] == hand
    assert len(found.recipe["path"]["around"]["points"]) <= len(core["points"])
    assert found.deviation.mean < 0.01 + noise
    assert part_of(found.rounded).path.length > 0


def test_a_bar_along_a_curve_that_twists_is_traced():
    """Where much is hidden, a curve through many points would wind around the bar's middle."""
    points = [[0, 0, 0], [34.981, 7.739, 7.739], [69.962, -7.739, 0], [104.943, 7.739, -7.739]]
    recipe = {
        "path": {"kind": "points", "points": points},
        "section": {"kind": "ellipse", "width": 11, "height": 6.6},
        "along": {"twist": {"total": 513}},
    }
    found = trace_surface(scan(recipe, 0.02, 0.4, seed=61), "bent")
    assert found.kind == "bar" and len(found.recipe["path"]["points"]) == len(points)
    told = {one.key: one for one in found.figures}
    length = part_of({"format": "metaspira/1", **recipe}).path.length
    for key, true in (("length", length), ("twist", 513)):
        assert abs(told[key].value - true) < told[key].sure < 3, key
    sizes = sorted(found.recipe["section"][key] for key in ("width", "height"))
    assert sizes == pytest.approx([6.6, 11], rel=4e-3)
    assert found.deviation.mean < 0.04


AROUND = [[30 * math.cos(a), 30 * math.sin(a), 4 * math.sin(2 * a)] for a in np.arange(10) * math.pi / 5]


@pytest.mark.thorough
def test_a_twisted_ring_is_traced_and_comes_back_as_it_began():
    recipe = {
        "path": {"kind": "points", "points": AROUND, "closed": True},
        "section": {"kind": "ellipse", "width": 8, "height": 5},
        "along": {"twist": {"total": -720}},
    }
    found = trace_surface(scan(recipe, seed=1), "ring")
    assert found.kind == "bar" and found.recipe["path"]["closed"]
    told = {one.key: one.value for one in found.figures}
    assert (told["length"], told["twist"]) == (pytest.approx(191.8, abs=0.05), -720)
    assert sorted((told["width"], told["height"])) == pytest.approx([5, 8], rel=2e-3)
    assert found.deviation.mean < 0.02
    assert report_on(part_of(found.rounded), with_remedies=False).verdict != "stop"


@pytest.mark.thorough
def test_a_plain_ring_is_a_bar_around_a_curve():
    found = trace_surface(trimesh.creation.torus(20, 3, 96, 64).subdivide_to_size(0.8), "ring")
    told = {one.key: one for one in found.figures}
    for key, true in (("length", 40 * math.pi), ("diameter", 6)):
        assert told[key].value == pytest.approx(true, rel=0.02), key
    assert found.recipe["path"]["closed"] and "along" not in found.recipe


@pytest.mark.thorough
def test_a_bent_rod_is_no_plain_bar():
    recipe = {"path": {"kind": "points", "points": ARC}, "section": {"kind": "round", "diameter": 5}}
    found = trace_surface(scan(recipe, seed=3), "rod")
    assert found.kind == "bar" and "along" not in found.recipe
    told = {one.key: one for one in found.figures}
    assert told["diameter"].value == pytest.approx(5, abs=told["diameter"].sure)
    assert told["length"].value == pytest.approx(150, rel=2e-3)
