"""Readings of a made spring beside its design, and the table that they come in."""

import json

import numpy as np
import pytest
from hypothesis import given, settings
from hypothesis import strategies as st
from metaspira.cli import main
from metaspira.devices.tester import load_test
from metaspira.formats.readings import read_readings, readings_csv
from metaspira.parts import part_of
from metaspira.problems import RecipeError
from metaspira.springs.measured import measured_of

G = 81500.0


def recipe(wire=3.0, diameter=25.0, height=52.0, **asked):
    return {
        "format": "metaspira/1",
        "path": {
            "kind": "coil",
            "diameter": diameter,
            "turns": 8,
            "height": height,
            "closed": {"start": 1, "end": 1},
        },
        "section": {"kind": "round", "diameter": wire},
        "ends": {"start": {"kind": "ground"}, "end": {"kind": "ground"}},
        "spring": {"kind": "compression", "points": [{"length": 32}], **asked},
    }


def spring(**kwargs):
    return part_of(recipe(**kwargs)).spring


def readings_of(made, lengths=None):
    lengths = np.linspace(made.free_length, 30, 12) if lengths is None else lengths
    return [[float(length), made.at_length(float(length)).force] for length in lengths]


def explained(found):
    return {one.key: one for one in found.explained}


def test_a_spring_of_other_wire_is_explained_by_its_wire():
    """R = G d⁴ / (8 D³ n): 1 % more wire is 4.06 % more rate."""
    made = spring(wire=3.03, height=52.0)
    found = measured_of(spring(measured=readings_of(made)))
    assert found.rate == pytest.approx(G * 3.03**4 / (8 * 25**3 * 6), rel=1e-6)
    assert found.calculated_rate == pytest.approx(G * 3**4 / (8 * 25**3 * 6), rel=1e-6)
    by = explained(found)
    assert by["wire"].value == pytest.approx(3.03, rel=1e-6)
    assert by["diameter"].value == pytest.approx(25 / 1.01 ** (4 / 3), rel=1e-6)
    assert by["turns"].value == pytest.approx(6 / 1.01**4, rel=1e-6)
    assert by["modulus"].value == pytest.approx(G * 1.01**4, rel=1e-6)
    assert by["free_length"].value == pytest.approx(52, rel=1e-6)
    assert by["wire"].either == pytest.approx(made.wire.tolerance(3.0))


def test_a_longer_spring_is_explained_by_its_length():
    made = spring(height=52.6)
    found = measured_of(spring(measured=readings_of(made, np.linspace(51, 30, 9))))
    assert found.rate == pytest.approx(found.calculated_rate, rel=1e-6)
    assert found.offset == pytest.approx(0.6 * found.rate, rel=1e-6)
    assert explained(found)["free_length"].value == pytest.approx(52.6, rel=1e-6)
    assert found.hysteresis is None and found.lost is None


def test_the_loop_of_going_and_coming_back_is_measured():
    """2 N of friction each way: 4 N apart, and 4 N times the way of the work going is lost."""
    lengths = np.linspace(48, 32, 9)
    going = [[length, 8.802 * (52 - length) + 2] for length in lengths]
    back = [[length, 8.802 * (52 - length) - 2] for length in lengths[::-1]]
    found = measured_of(spring(measured=going + back))
    assert found.hysteresis == pytest.approx(4, rel=1e-9)
    work = 0.5 * (going[0][1] + going[-1][1]) * 16
    assert found.lost == pytest.approx(4 * 16 / work, rel=1e-6)
    assert [row[3] for row in found.readings] == [0] * 9 + [1] * 9
    assert abs(found.offset) < 1e-2 and found.rate == pytest.approx(8.802, rel=1e-6)


def test_one_reading_on_the_way_back_is_no_loop():
    lengths = np.linspace(48, 32, 9)
    going = [[length, 8.802 * (52 - length) + 2] for length in lengths]
    found = measured_of(spring(measured=[*going, [40, 8.802 * 12 - 2]]))
    assert (found.hysteresis, found.lost) == (None, None)


def test_a_spring_that_pulls_has_its_initial_tension_in_it():
    path = {"kind": "coil", "diameter": 12, "turns": 12, "pitch": 1.6}
    asked = {"kind": "extension", "initial_tension": 6, "points": [{"length": 40}]}
    pulled = {
        **recipe(),
        "path": path,
        "section": {"kind": "round", "diameter": 1.6},
        "ends": {},
        "spring": asked,
    }
    design = part_of(pulled).spring
    readings = [[length, 6 + design.rate * (length - design.free_length) + 1] for length in (26, 30, 34, 38)]
    found = measured_of(part_of({**pulled, "spring": {**asked, "measured": readings}}).spring)
    assert found.rate == pytest.approx(design.rate) and found.offset == pytest.approx(1)
    assert explained(found)["free_length"].value == pytest.approx(design.free_length - 1 / design.rate)


def test_the_tester_writes_the_table_that_is_read():
    design = spring()
    test = load_test(design, 3, 0.02)
    rows = [(one.length, one.going) for one in test.readings]
    found = read_readings(readings_csv(rows), None)
    assert np.array(found) == pytest.approx(np.array(rows), rel=1e-5, abs=1e-6)
    assert measured_of(spring(measured=found)).rate == pytest.approx(test.rate, rel=0.02)


@pytest.mark.parametrize(
    ("table", "units"),
    [
        ("length mm,force N\n50,10\n40,30\n30,50\n", None),
        ("force [N],length [mm]\n10,50\n30,40\n50,30\n", None),
        ("Length (mm);Force (N)\n50,0;10,0\n40;30\n30;50,0\n", None),
        ("# our tester\n50\t10\n40\t30\n30\t50\n", "mm N"),
        ("length in,force lbf\n1.968504,2.248089\n1.574803,6.744268\n1.181102,11.240447\n", None),
        ("\ufefflength cm,force kN\n5,0.01\n4,0.03\n3,0.05\n", None),
    ],
)
def test_readings_come_in_as_shops_write_them(table, units):
    found = read_readings(table.encode(), units)
    assert np.array(found) == pytest.approx(np.array([[50, 10], [40, 30], [30, 50]]), rel=1e-6)


@pytest.mark.parametrize(
    ("table", "units", "place", "reason"),
    [
        ("50,10\n40,30\n30,50\n", None, "/unit", "does not say its units"),
        ("length mm,force MPa\n50,10\n40,30\n30,50\n", None, "/unit", "no unit of force"),
        ("length mm,load N\n50,10\n40,30\n30,50\n", None, "/file", "does not name both"),
        ("length mm,force N\n50,10\n40,x\n30,50\n", None, "/file", "row 3"),
        ("length mm,force N\n50,10\n40,nan\n30,50\n", None, "/file", "row 3"),
        ("length mm,force N\n50,10\n40,30\n", None, "/file", "three lengths"),
        ("length mm,force N\n50,10\n-40,30\n30,50\n", None, "/file", "not above nothing"),
        ("", "mm N", "/file", "three lengths"),
        ("\x00\xff", "mm N", "/file", ""),
        ("1,2\n" * 700, "mm N", "/file", ""),
    ],
)
def test_a_table_that_is_none_is_refused_with_its_place(table, units, place, reason):
    with pytest.raises(RecipeError) as caught:
        read_readings(table.encode("latin-1"), units)
    problem = caught.value.problems[0]
    assert problem.place == place and reason in problem.reason and problem.remedy


def test_it_is_told_on_the_command_line(tmp_path, capsys):
    file, table = tmp_path / "spring.spira.json", tmp_path / "readings.csv"
    file.write_text(json.dumps(recipe()))
    table.write_bytes(readings_csv(readings_of(spring(wire=3.03))))
    with pytest.raises(SystemExit) as left:
        main(["spring", str(file), "--measured", str(table)])
    assert left.value.code == 0 and "3.03" in capsys.readouterr().out
    with pytest.raises(SystemExit) as left:
        main(["spring", str(file), "--measured", str(tmp_path / "none.csv")])
    assert left.value.code == 2 and "none.csv" in capsys.readouterr().err


@settings(max_examples=40, deadline=None, derandomize=True)
@given(
    st.one_of(
        st.binary(max_size=200),
        st.lists(st.tuples(st.floats(), st.text(max_size=6)), max_size=6).map(
            lambda rows: "\n".join(f"{length},{force}" for length, force in rows).encode("utf-8", "replace")
        ),
    ),
    st.sampled_from([None, "mm N", "in", "N mm", "parsec lbf"]),
)
def test_whatever_stands_in_a_table_is_read_or_refused_in_words(data, units):
    try:
        found = read_readings(data, units)
    except RecipeError as error:
        assert error.problems[0].place in ("/file", "/unit") and error.problems[0].remedy
    else:
        assert all(len(row) == 2 and row[0] > 0 and row[1] >= 0 for row in found)


def test_a_spring_that_gives_way_to_nothing_has_no_explanation():
    """All readings alike: the line is flat, and no input of a spring makes it so."""
    flat = [[length, 20.0] for length in (48, 44, 40, 36)]
    found = measured_of(spring(measured=flat))
    assert found.rate == pytest.approx(0, abs=1e-9) and found.explained == ()


def test_fewer_than_three_lengths_are_no_measurement():
    assert measured_of(spring(measured=[[50, 10], [40, 20], [50, 11]])) is None
    assert measured_of(spring()) is None
