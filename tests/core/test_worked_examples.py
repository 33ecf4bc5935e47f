"""Worked examples of text books on springs (from memory, not checked against the printed books); Shigley's
are in test_springs.py. A book that corrects the stress its own way is held against the plain stress times its
factor."""

import math

import pytest
from metaspira.parts import part_of


def spring(diameter, wire, turns, height, force, G, rules="EN 13906", strength=2000):
    own = {"name": "of the example", "strength": strength, "shear_modulus": G, "elastic_modulus": 2.6 * G}
    return part_of(
        {
            "format": "metaspira/1",
            "path": {
                "kind": "coil", "diameter": diameter, "turns": turns, "height": height,
                "closed": {"start": 1, "end": 1},
            },
            "section": {"kind": "round", "diameter": wire},
            "ends": {"start": {"kind": "ground"}, "end": {"kind": "ground"}},
            "spring": {"kind": "compression", "wire": own, "rules": rules, "points": [{"force": force}]},
        }
    ).spring  # fmt: skip


def test_khurmi_and_gupta_a_coil_of_an_alloy_steel():
    """Khurmi and Gupta, A Textbook of Machine Design, example 23.1: D 50, d 5, n 20, 500 N: 534.7 MPa with
    K_S = 1 + 1/2C."""
    (point,) = spring(50, 5, 22, 400, 500, 80000).points
    assert point.stress * (1 + 1 / 20) == pytest.approx(534.7, abs=0.1)


@pytest.mark.parametrize(
    ("factor", "force", "each"),
    [(1.043, 412.7, 9.96), (1.123, 383.4, 9.26)],
    ids=["without curvature", "with curvature"],
)
def test_khurmi_and_gupta_the_load_that_a_stress_allows(factor, force, each):
    """The same, example 23.2: d 6, outside 75, 350 MPa, G 84 GPa: 412.7 N and 9.96 mm a turn without the
    effect of curvature, 383.4 N and 9.26 mm with it (Wahl's factor 1.123)."""
    found = spring(69, 6, 12, 300, force, 84000)
    (point,) = found.points
    assert point.stress * factor == pytest.approx(350, rel=1e-3)
    assert point.deflection / found.active == pytest.approx(each, abs=6e-3)


def test_bhandari_a_spring_for_1250_newtons():
    """Bhandari, Design of Machine Elements, example 10.1: C 6, d 7, square and ground, 10 turns, 8 of them
    active, G 81,370 MPa, 1,250 N: 30.34 mm, 41.20 N/mm, 70 mm solid; Wahl's factor 1.2525 stays below half of
    1,090 MPa."""
    found = spring(42, 7, 10, 109.34, 1250, 81370, "handbook", 1090)
    (point,) = found.points
    assert found.active == 8
    assert round(found.rate, 2) == 41.20
    assert round(point.deflection, 2) == 30.34
    assert found.solid_length == pytest.approx(70)
    assert point.stress * 1.2525 < 545
    assert math.isclose(found.index, 6)
