"""Limits and drills of threads against printed values (from memory of the standards and tables that are
named; not checked against the printed pages)."""

import json
import math

import numpy as np
import pytest
from metaspira.checks import report_on
from metaspira.checks.threads.pair import check_clearance
from metaspira.cli import main
from metaspira.outputs.building import build_files
from metaspira.parts import part_of
from metaspira.problems import RecipeError
from metaspira.threads.drills import drills_of, drills_within, tapping_drill
from metaspira.threads.gauging import as_dict
from metaspira.threads.lookup import all_rows, nearest_threads, read_thread
from printed import demand_sizes

# ASME B1.1, table 2: internal minor diameters, least and most, of classes 2B and 3B, inches.
# ASME B1.1, table 2: allowance of class 2A, inches.


@pytest.mark.parametrize(
    ("designation", "classes", "internal"),
    [
        ("M1", ("6h", "5H"), (0.838, 0.894)),
        ("M1.4", ("6h", "5H"), (1.205, 1.265)),
        ("M1.6", ("6g", "6H"), (1.373, 1.458)),
    ],
)
def test_the_finest_metric_threads_have_classes_of_their_own(designation, classes, internal):
    """ISO 965-2: M1 to M1.4 in 6h and 5H."""
    thread = read_thread(designation)
    assert (thread.external.tolerance, thread.internal.tolerance) == classes
    pitch = thread.internal.pitch
    assert (round(pitch.min, 3), round(pitch.max, 3)) == internal


def test_a_grade_that_the_table_has_not_is_refused():
    for designation in ("M1-6H", "M1.2-6H", "M1.6x0.2-5H"):
        with pytest.raises(RecipeError) as refused:
            read_thread(designation)
        (problem,) = refused.value.problems
        assert "ISO 965-1 has no grade" in problem.reason and problem.remedy in {"use grade 5", "use grade 4"}


def test_more_starts_have_wider_pitch_tolerances():
    """ISO 2903: times 1.12, 1.25, 1.4, 1.6 of two, three, four, five and more starts."""
    one = read_thread("Tr40x7").external.pitch
    for starts, factor in ((2, 1.12), (3, 1.25), (4, 1.4), (5, 1.6), (6, 1.6)):
        many = read_thread(f"Tr40x{7 * starts}P7").external.pitch
        assert many.max == one.max
        assert many.max - many.min == pytest.approx(factor * (one.max - one.min), abs=6e-4)


@pytest.mark.parametrize(
    ("size", "either"),
    [
        ("1/16", 0.071),
        ("1/8", 0.071),
        ("1/4", 0.104),
        ("1/2", 0.142),
        ("3/4", 0.142),
        ("1", 0.180),
        ("2", 0.180),
        ("2 1/2", 0.216),
        ("4", 0.216),
    ],
)
def test_parallel_pipe_threads_have_the_printed_tolerance(size, either):
    """ISO 7-1, Rp: ± on the diameters."""
    minor = read_thread(f"Rp {size}").internal.minor
    assert minor.max - minor.basic == pytest.approx(either, abs=6e-4)
    assert minor.basic - minor.min == pytest.approx(either, abs=6e-4)


DRILLS = {
    # ISO 2306 and DIN 336
    "M3": "2.5 mm", "M4": "3.3 mm", "M5": "4.2 mm", "M6": "5 mm", "M8": "6.8 mm", "M9": "7.8 mm",
    "M10": "8.5 mm",
    "M12": "10.2 mm", "M14": "12 mm", "M16": "14 mm", "M18": "15.5 mm", "M20": "17.5 mm", "M24": "21 mm",
    "M30": "26.5 mm", "M56": "50.5 mm", "M60": "54.5 mm", "M64": "58 mm", "M52x1.5": "50.5 mm",
    "M12x1.25": "10.8 mm", "M20x1.5": "18.5 mm",
    # common practice, no source
    "G 1/8": "8.8 mm", "G 1/4": "11.8 mm", "G 3/8": "15.25 mm", "G 1/2": "19 mm", "G 3/4": "24.5 mm",
    "G 1": "30.75 mm", "1/2 BSW": "10.5 mm", "Tr20x4": "16.25 mm",
    # three quarters of the thread's height, as handbooks of the United States list them
    "#2-56 UNC": "#50", "#4-40 UNC": "#43", "#6-32 UNC": "#36", "#8-32 UNC": "#29", "#10-24 UNC": "#25",
    "#10-32 UNF": "#21", "1/4-20 UNC": "#7", "1/4-28 UNF": "#3", "5/16-18 UNC": "F", "3/8-16 UNC": "5/16 in",
    "3/8-24 UNF": "Q", "7/16-14 UNC": "U", "7/16-20 UNF": "25/64 in", "1/2-13 UNC": "27/64 in",
    "1/2-20 UNF": "29/64 in", "9/16-12 UNC": "31/64 in", "5/8-11 UNC": "17/32 in", "3/4-10 UNC": "21/32 in",
    "7/8-9 UNC": "49/64 in", "1-8 UNC": "7/8 in", "#0-80 UNF": "3/64 in", "#1-64 UNC": "#53",
    "#1-72 UNF": "#53", "#2-64 UNF": "#50", "#3-48 UNC": "#47", "#3-56 UNF": "#45", "#4-48 UNF": "#42",
    "#5-40 UNC": "#38", "#5-44 UNF": "#37", "#6-40 UNF": "#33", "#8-36 UNF": "#29", "#12-24 UNC": "#16",
    "#12-28 UNF": "#14",
    "5/16-24 UNF": "I", "9/16-18 UNF": "33/64 in", "5/8-18 UNF": "37/64 in", "3/4-16 UNF": "11/16 in",
    "7/8-14 UNF": "13/16 in",
}  # fmt: skip


@pytest.mark.parametrize("designation", DRILLS)
def test_the_usual_drill_is_one_that_is_made(designation):
    thread = read_thread(designation)
    drill = tapping_drill(thread)
    assert drill.name == DRILLS[designation]
    assert drill in drills_within(thread)
    told = as_dict(thread)["drills"]
    shares = [one["share"] for one in told]
    assert shares == sorted(shares, reverse=True) and drill.name in {one["name"] for one in told}


INCH_DRILLS = {
    "#1": 5.791, "#5": 5.220, "#10": 4.915, "#15": 4.572, "#20": 4.089, "#25": 3.797, "#30": 3.264,
    "#35": 2.794, "#40": 2.489, "#45": 2.083, "#50": 1.778, "#55": 1.321, "#60": 1.016, "#65": 0.889,
    "#70": 0.711, "#74": 0.572, "#75": 0.533, "#80": 0.343,
    "A": 5.944, "E": 6.350, "K": 7.137, "P": 8.204, "U": 9.347, "Z": 10.490,
}  # fmt: skip


def test_inch_drills_have_the_sizes_that_metric_tables_print():
    """ASME B94.11M, the column of millimetres (from memory)."""
    made = {drill.name: drill.diameter for drill in drills_of(read_thread("1/4-20 UNC"))}
    for name, size in INCH_DRILLS.items():
        assert made[name] == pytest.approx(size, abs=6e-4), name
    numbers = [made[f"#{k}"] for k in range(1, 81)]
    letters = [made[chr(ord("A") + k)] for k in range(26)]
    assert numbers == sorted(numbers, reverse=True) and letters == sorted(letters)
    # each step is a thousandth of an inch at least, and the letters go on where the numbers end
    assert -np.diff(numbers).max() > 0.0253 and letters[0] - numbers[0] == pytest.approx(0.1524)


def test_a_hole_that_no_drill_makes_is_told_in_the_units_of_its_thread():
    for name, unit in (("3/4-6 ACME", " in"), ("G 4", " mm")):
        thread = read_thread(name)
        drill = tapping_drill(thread)
        assert not drills_within(thread) and drill.name.endswith(unit)
        assert drill.diameter == pytest.approx(thread.internal.minor.at("middle"), abs=1e-3)
    assert tapping_drill(read_thread("3/4-6 ACME")).name == "0.588 in"


def test_every_series_has_a_drill():
    for row in all_rows():
        thread = read_thread(row.designation)
        minor = thread.internal.minor
        drill = tapping_drill(thread).diameter
        if minor.min is not None and minor.max is not None:
            made = any(minor.min <= one.diameter <= minor.max for one in drills_of(thread))
            over = 1e-3 if made or not drills_within(thread) else 0.0255
            assert minor.min - over <= drill <= minor.max + over, row.designation
        else:
            assert drill == pytest.approx(minor.basic, abs=1.6), row.designation
            assert drill >= minor.basic or thread.taper, row.designation


def test_a_hole_without_limits_of_its_own_lets_the_crests_pass():
    names = ("EG M10", "EG M6", "Pg21", "E27", "EG 1/4-20")
    drills = {name: tapping_drill(read_thread(name)).name for name in names}
    # EG: DIN 8140-2 and the makers' tables, from memory
    assert drills["EG M10"] == "10.4 mm" and drills["EG M6"] == "6.3 mm"
    for name in names:
        thread = read_thread(name)
        assert tapping_drill(thread).diameter >= thread.internal.minor.basic


def test_an_inch_thread_tells_drill_wires_and_gauges_in_inches(capsys):
    with pytest.raises(SystemExit):
        main(["thread", "1/4-20 UNC-2A"])
    said = capsys.readouterr().out
    assert "#7" in said and "0.201" in said and " mm " not in said.replace("mm;", "")
    with pytest.raises(SystemExit):
        main(["thread", "1/4-20 UNC", "--json"])
    figures = {one["key"]: one for one in json.loads(capsys.readouterr().out)["inch"]["gauging"]}
    assert figures["drill"]["value"] == pytest.approx(0.201)
    assert figures["best_wire"]["value"] == pytest.approx(0.02887, abs=5e-6)
    assert figures["stress_area"]["value"] == pytest.approx(0.0318, abs=5e-5)


def test_names_are_listed_in_their_natural_order():
    names = [row.designation for row in nearest_threads("M10", 8)]
    assert names[0] == "M10"
    assert names.index("M10x1.25") < names.index("M100x2")
    assert [row.designation for row in nearest_threads("Tr1", 40)].index("Tr10x2") == 1


@pytest.mark.parametrize(
    "designation",
    [
        "3/8-16 UNC",
        "1/2-13 UNC-2A",
        "1/4-28 UNF",
        "3/4-10 UNC",
        "#10-24 UNC",
        "M16x1.5-6g",
        "Tr20x8P4",
    ],
)
@pytest.mark.parametrize("hand", ["right", "left"])
def test_a_standard_pair_never_stops_by_rounding(designation, hand):
    thread = {"designation": designation, "hand": hand, "length": 20}
    mate = {"length": 10, "at": 5}
    part = part_of(
        {"format": "metaspira/1", "thread": thread, "host": {"kind": "rod", "length": 30}, "mate": mate}
    )
    assert check_clearance(part, (0, 1)).verdict == "clear"


@pytest.mark.parametrize("diameter", [10, 25])
def test_on_a_turned_host_the_thread_has_the_diameter_of_its_place(diameter):
    """By hand: a straight outline from radius 10 to 20 over 40 mm; the pitch line 0.5 mm inside it."""
    form = {"kind": "flanks", "height": 1, "crest": 1}
    thread = {"form": form, "diameter": diameter, "pitch": 4, "at": 0, "length": 40}
    ends = {"start": {"kind": "fade", "angle": 90}, "end": {"kind": "fade", "angle": 90}}
    host = {"kind": "turned", "profile": [[10, 0], [20, 40]]}
    part = part_of({"format": "metaspira/1", "use": {"as": "groove"}, "thread": thread | ends, "host": host})
    figures = report_on(part, with_remedies=False).figures
    low, high = part.full
    at = [10 + z / 4 - 0.5 for z in (low, high)]
    assert figures["most_lead_angle"] == pytest.approx(
        math.degrees(math.atan(4 / (2 * math.pi * at[0]))), rel=0.02
    )
    assert figures["least_lead_angle"] == pytest.approx(
        math.degrees(math.atan(4 / (2 * math.pi * at[1]))), rel=0.02
    )
    assert figures["path_length"] == pytest.approx((high - low) / 4 * 2 * math.pi * sum(at) / 2, rel=0.02)


def test_a_parallel_pipe_thread_by_itself_is_clear():
    """ISO 7-1: Rp seals on a taper thread; its limits are its own."""
    part = part_of(
        {"format": "metaspira/1", "thread": {"designation": "Rp 1/2"}, "host": {"kind": "bore", "length": 20}}
    )
    assert check_clearance(part, (0, 1)).verdict == "clear"


@pytest.mark.parametrize(
    ("designation", "wanted"),
    [
        # ISO 5855-2
        ("MJ10x1.5", {"external.minor.basic": 8.268, "internal.minor.min": 8.539}),
        ("MJ10x1.5-4H5H", {"internal.minor.max": 8.775}),
        ("MJ6x1-4h6h", {"external.pitch.max": 5.350, "external.pitch.min": 5.279}),
        # DIN 8140-2
        ("EG M10", {"internal.major.basic": 11.949, "internal.pitch.basic": 10.974}),
        ("EG M8", {"internal.minor.basic": 8.271}),
        ("EG M6", {"internal.major.basic": 7.299, "internal.minor.basic": 6.217}),
        # DIN 40430
        ("Pg16", {"external.major.basic": 22.5, "external.minor.basic": 21.16}),
        # DIN 40400
        ("E27", {"external.major.basic": 26.45, "external.minor.basic": 24.26}),
    ],
)  # fmt: skip
def test_further_families_have_the_printed_sizes(designation, wanted):
    thread = read_thread(designation)
    demand_sizes(thread, wanted)
    assert "not checked against the printed standard" in " ".join(source for _, source in thread.sources)


@pytest.mark.parametrize(("cap", "radius"), [("E10", 0.531), ("E14", 0.822), ("E27", 1.025), ("E40", 1.850)])
def test_a_lamp_cap_is_of_arcs_of_the_printed_radius(cap, radius):
    """DIN 40400."""
    assert read_thread(cap).external.outer_round == pytest.approx(radius, rel=8e-3)


def test_american_couplings_and_hoses_have_the_printed_sizes():
    """ASME B1.20.1, 1/2-14 NPSC: pitch diameter 0.7717 to 0.7851 in; B1.20.7, 3/4-11.5 NH: 1.0625 and 1.0060
    in; B1.15: UNJ clears by D − 0.97428P."""
    pitch = as_dict(read_thread("1/2-14 NPSC"))["inch"]["internal"]["pitch"]
    assert (pitch["min"], pitch["max"]) == (0.7717, 0.7851)
    hose = as_dict(read_thread("3/4-11.5 NH"))["inch"]["external"]
    assert (hose["major"]["basic"], hose["pitch"]["basic"]) == (1.0625, 1.0060)
    round_root = as_dict(read_thread("1/4-28 UNJF-3B"))["inch"]["internal"]["minor"]
    assert round_root["min"] == pytest.approx(0.25 - 0.97428 / 28, abs=5e-5)
    dry, wet = (read_thread(f"1/2-14 {kind}") for kind in ("NPTF", "NPT"))
    assert dry.external == wet.external and "truncations" in dict(dry.sources)["form"]


@pytest.mark.thorough(but=["E27", "1/2-14 NPSC"])
@pytest.mark.parametrize(
    "designation", ["MJ10x1.5", "1/4-28 UNJF", "EG M10", "Pg16", "E27", "3/4-11.5 NH", "1/2-14 NPSC"]
)
def test_threads_of_further_families_become_proven_solids(designation, tmp_path):
    thread = read_thread(designation)
    kind = "bore" if thread.side == "internal" else "rod"
    size = thread.external.major.basic
    recipe = {
        "format": "metaspira/1",
        "thread": {"designation": designation},
        "host": {"kind": kind, "length": size},
    }
    part = part_of(recipe)
    assert report_on(part, with_remedies=False).verdict in {"clear", "watch"}
    proof = build_files(part, [tmp_path / "part.step"])[".step"]
    assert proof["valid"] and proof["relative_error"] < 1e-6
