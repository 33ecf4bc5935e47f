"""The service temperature of spring wire."""

import pytest
from metaspira.checks import report_on
from metaspira.parts import part_of
from metaspira.springs.wire import wires


def spring(wire, temperature):
    return {
        "format": "metaspira/1",
        "path": {"kind": "coil", "diameter": 20, "turns": 8, "height": 50, "closed": {"start": 1, "end": 1}},
        "section": {"kind": "round", "diameter": 2},
        "ends": {"start": {"kind": "ground"}, "end": {"kind": "ground"}},
        "spring": {
            "kind": "compression",
            "wire": wire,
            "temperature": temperature,
            "points": [{"length": 40}],
        },
    }


@pytest.mark.parametrize(
    ("wire", "most"),
    [("EN 10270-1 SH", 120), ("EN 10270-2 VDSiCr", 245), ("ASTM A232", 220), ("ASTM A313", 290)],
)
def test_a_wire_serves_up_to_what_handbooks_say(wire, most):
    """Values of spring makers' handbooks, from memory; not checked against a printed page."""
    for temperature, verdict in ((most - 1, "clear"), (most + 10, "watch")):
        check = report_on(part_of(spring(wire, temperature)), with_remedies=False)["spring-temperature"]
        assert (check.verdict, check.limit) == (verdict, most)


def test_too_hot_offers_a_wire_that_stands_it():
    check = report_on(part_of(spring("EN 10270-1 SH", 230)))["spring-temperature"]
    offered = {remedy.input: remedy.value for remedy in check.remedies}
    assert wires()[offered["/spring/wire"]].hottest >= 230
    again = spring(offered["/spring/wire"], 230)
    assert report_on(part_of(again), with_remedies=False)["spring-temperature"].verdict == "clear"
    assert offered["/spring/temperature"] == pytest.approx(120, rel=0.01)


def test_of_a_wire_of_ones_own_no_temperature_is_known():
    own = {"name": "own", "strength": 1500, "shear_modulus": 80000, "elastic_modulus": 200000}
    check = report_on(part_of(spring(own, 300)), with_remedies=False)["spring-temperature"]
    assert (check.verdict, check.limit) == ("clear", None)
