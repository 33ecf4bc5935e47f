"""Gauges, wires and measured threads (printed values from memory; not checked against the printed pages)."""

import json
import math

import pytest
from metaspira.cli import main
from metaspira.problems import RecipeError
from metaspira.threads.gauges import limit_gauges
from metaspira.threads.gauging import best_wire, over_wires, tooth_depth
from metaspira.threads.judging import judged, pitch_diameter, wire_range
from metaspira.threads.lookup import all_rows, measured, read_thread
from metaspira.threads.tables import preferred


def test_a_worn_go_gauge_is_beyond_its_limit_and_a_worn_not_go_gauge_within():
    for row in all_rows():
        if row.family != "metric":
            continue
        thread = read_thread(row.designation)
        found = {one.name: one for one in limit_gauges(thread)}
        for one in found.values():
            assert one.least < one.most
        if "Go plug" in found:
            assert found["Go plug"].worn < found["Go plug"].least < found["Not-go plug"].least
        if "Go ring" in found:
            assert found["Go ring"].worn > found["Go ring"].most > found["Not-go ring"].most
    assert limit_gauges(read_thread("1/4-20 UNC")) == [], "no table is kept here"


@pytest.mark.parametrize("designation", ["M10", "1/4-20 UNC", "Tr40x7", "1/2 BSW", "M16xPh3P1.5"])
def test_any_wire_that_bears_gives_the_same_pitch_diameter(designation):
    thread = read_thread(designation)
    least, most = wire_range(thread)
    assert least < best_wire(thread) < most
    wanted = thread.external.pitch.at("middle")
    for wire in (0.98 * least + 0.02 * most, best_wire(thread), 0.02 * least + 0.98 * most):
        assert pitch_diameter(thread, over_wires(thread, wanted, wire), wire) == pytest.approx(
            wanted, abs=1e-9
        )
    for wire in (0.9 * least, 1.1 * most):
        with pytest.raises(RecipeError) as refused:
            pitch_diameter(thread, 10, wire)
        assert refused.value.problems[0].place == "/wire"


def test_wires_touch_where_geometry_says():
    """By hand: the centre of a wire of d in a groove of 60° lies d from the sharp bottom of its flanks; the
    pitch line half of H above that."""
    thread = read_thread("M10")
    sharp = thread.external.pitch.basic / 2 - 0.25 * math.sqrt(3) * thread.pitch
    for wire in (0.7, 0.9, 1.1):
        by_hand = 2 * (sharp + wire) + wire
        assert over_wires(thread, thread.external.pitch.basic, wire, corrected=False) == pytest.approx(
            by_hand
        )


def test_a_measured_thread_is_judged():
    thread = read_thread("M10-6g")
    rows = {row.key: row for row in judged(thread, "external", crest=9.70, pitch=8.99, pitch_error=0.005)}
    assert not rows["crest"].within and rows["crest"].off == pytest.approx(0.032)
    assert rows["pitch"].within
    assert rows["functional"].value == pytest.approx(8.99 + 0.005 * math.sqrt(3), abs=1e-6), (
        "1.7321 δP at 60°"
    )
    assert not rows["functional"].within
    narrow = judged(thread, "external", pitch=8.9, flank_errors=(-0.25, 0.25))[1]
    assert narrow.value - 8.9 == pytest.approx(0.073e-3 * 1.5 * 15 * (3 + 2))
    nut = {row.key: row for row in judged(read_thread("M10-6H"), "internal", 8.5, 9.1, 0.01)}
    assert nut["crest"].within and nut["functional"].value < 9.1


@pytest.mark.parametrize(
    ("designation", "external", "internal"),
    [
        ("M10", 0.920, 0.812),  # DIN 13-1: h3 = 0.61343 P, H1 = 0.54127 P
        ("Tr20x4", 2.25, 2.25),  # DIN 103-1: h3 = H4 = 0.5 P + ac
        ("Tr40x7", 4.0, 4.0),
        ("S40x7", 6.0745, 5.25),  # DIN 513-1: h3 = 0.86777 P, H1 = 0.75 P
        ("Rd40x1/6", 2.117, 2.117),  # DIN 405-1: h3 = H4 = 0.5 P
        ("G 1/2", 1.162, 1.162),  # ISO 228-1
    ],
)
def test_the_depth_of_a_tooth_is_the_printed_one(designation, external, internal):
    thread = read_thread(designation)
    assert tooth_depth(thread, "external").basic == pytest.approx(external, abs=6e-4)
    assert tooth_depth(thread, "internal").basic == pytest.approx(internal, abs=6e-4)


@pytest.mark.parametrize(
    ("tolerance", "upper"),
    [("7e", -0.095), ("8c", -0.190), ("7h", 0.0)],  # ISO 2903, pitch 4 (from memory)
)
def test_the_position_of_a_trapezoidal_screw_is_the_printed_one(tolerance, upper):
    pitch = read_thread(f"Tr20x4-{tolerance}").external.pitch
    assert pitch.max - pitch.basic == pytest.approx(upper, abs=1e-9)


def test_preferred_numbers_are_rounded_steps_of_one_fortieth_of_a_decade():
    """ISO 3: none is off its step by more than 1.27 %."""
    steps = [10 ** (k / 40) for k in range(41)]
    assert [preferred(step) / step for step in steps] == pytest.approx([1.0] * 41, abs=0.0127)
    assert len({preferred(step) for step in steps}) == 41


def test_a_measured_depth_is_held_between_what_the_diameters_leave():
    thread = read_thread("M10-6g")
    shallow, deep, right = (judged(thread, "external", depth=size)[0] for size in (0.75, 1.05, 0.9))
    assert shallow.least == pytest.approx(0.5 * (9.732 - 8.128), abs=1e-3) and not shallow.within
    assert deep.most == pytest.approx(0.5 * (9.968 - 7.938), abs=1e-3) and not deep.within
    assert right.within
    nut = judged(read_thread("M10-6H"), "internal", depth=0.6)[0]
    assert nut.most is None and nut.least == pytest.approx(0.5 * (10.0 - 8.676)) and not nut.within


def test_the_command_judges_and_ends_with_one_where_it_is_beyond(capsys):
    with pytest.raises(SystemExit) as ended:
        main(["thread", "M10-6g", "--wire", "0.866", "--over", "10.18", "--crest", "9.8", "--json"])
    assert ended.value.code == 0
    told = json.loads(capsys.readouterr().out)
    assert [row["within"] for row in told["measured"]] == [True, True, True]
    assert set(told["over_wires"]) == {"basic", "max", "min"} and len(told["gauges"]) == 2
    with pytest.raises(SystemExit) as ended:
        main(["thread", "M10-6g", "--wire", "0.866", "--over", "10.1"])
    assert ended.value.code == 1
    assert "beyond" in capsys.readouterr().out
    with pytest.raises(SystemExit) as ended:
        main(["thread", "M10-6g", "--over", "10.1"])
    assert ended.value.code == 2
    assert "/wire: the wires are not told" in capsys.readouterr().err


@pytest.mark.parametrize(
    ("readings", "place"),
    [
        (("--over", "10.3"), "/wire"),
        (("--crest", "-4"), "/crest"),
        (("--wire", "5"), "/wire"),
        (("--wire", "0.866", "--over", "1e9"), "/over"),
        (("--crest", "9.9", "--pitch-error", "1e6"), "/pitch_error"),
    ],
)
def test_readings_that_cannot_be_are_refused_by_their_place(readings, place, capsys):
    with pytest.raises(SystemExit) as ended:
        main(["thread", "M10-6g", *readings])
    assert ended.value.code == 2
    assert f"metaspira: {place}: " in capsys.readouterr().err


@pytest.mark.parametrize(
    ("diameter", "pitch", "errors", "wanted"),
    [
        (9.85, 1.5, {}, "M10"),
        (9.85, 1.27 + 0.23, {"diameter_error": 0.3, "pitch_error": 0.05}, "M10"),
        (20.9, 25.4 / 14, {}, "G 1/2"),
        (7.85, 1.25, {}, "M8"),
        (12.6, 25.4 / 13, {"pitch_error": 0.02}, "1/2-13 UNC"),
    ],
)
def test_an_uncertain_thread_is_ranked_by_how_probable_each_is(diameter, pitch, errors, wanted):
    found = measured(diameter, pitch, "external", 400, **errors)
    assert found[0].row.designation == wanted
    shares = [round(one.probable, 9) for one in found]
    assert shares == sorted(shares, reverse=True)
    assert sum(shares) == pytest.approx(1, abs=1e-3)


def test_a_better_reading_makes_surer():
    rough = measured(9.85, 1.5, "external", 1, diameter_error=0.5, pitch_error=0.2)[0]
    fine = measured(9.85, 1.5, "external", 1, diameter_error=0.02, pitch_error=0.005)[0]
    assert fine.probable > rough.probable and fine.row.designation == "M10"
    worn = measured(9.70, 1.5, "external", 1)[0]
    assert worn.row.designation == "M10", "a worn crest is below its limits"
