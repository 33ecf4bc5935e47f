"""What the wire strip shows of a part along its wire."""

import math

import numpy as np
import pytest
from metaspira.checks import report_on
from metaspira.parts import part_of
from metaspira.views.wound import strip


def shown(path, diameter=1.0):
    section = {"kind": "round", "diameter": diameter}
    return strip(report_on(part_of({"format": "metaspira/1", "path": path, "section": section}), False))


def test_a_coil_tells_its_radius_pitch_and_bend():
    """A helix of radius r and pitch p bends with r (1 + (p / 2π r)²)."""
    told = shown({"kind": "coil", "diameter": 20, "turns": 5, "pitch": 6})
    assert told["radius"] == pytest.approx([10] * len(told["s"]))
    assert told["pitch"] == pytest.approx([6] * len(told["s"]))
    assert told["bend"] == pytest.approx([10 * (1 + (6 / (20 * math.pi)) ** 2)] * len(told["s"]))


def test_a_cone_tells_its_radius_along_the_wire():
    told = shown({"kind": "coil", "diameter": 30, "end_diameter": 20, "turns": 6, "pitch": 5}, 0.5)
    assert (told["radius"][0], told["radius"][-1]) == pytest.approx((15, 10))
    assert np.all(np.diff(told["radius"]) < 0)
    assert told["pitch"] == pytest.approx([5] * len(told["s"]), rel=1e-6)


def test_a_left_hand_coil_has_a_pitch_as_well():
    told = shown({"kind": "coil", "diameter": 20, "turns": 5, "pitch": 6, "hand": "left"})
    assert told["pitch"] == pytest.approx([6] * len(told["s"]))


def test_legs_have_neither_radius_nor_pitch():
    legs = {"end": [{"kind": "straight", "length": 30}]}
    told = shown({"kind": "coil", "diameter": 20, "turns": 5, "pitch": 6, "legs": legs})
    assert told["radius"][0] == pytest.approx(10) and told["radius"][-1] is None
    assert told["pitch"][-1] is None and told["bend"][-1] is None


def test_what_runs_around_no_axis_has_neither():
    told = shown({"kind": "straight", "length": 40})
    assert told["radius"] is None and told["pitch"] is None
    assert set(told["bend"]) == {None}
