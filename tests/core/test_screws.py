"""Runs of wire that one screw carries into each other: which there are, and that a search that leaves them
out misses nothing."""

import math

import numpy as np
import pytest
from metaspira.checks import gaps
from metaspira.gaps import measure
from metaspira.gaps.extents import extents
from metaspira.gaps.hulls import KIND, SWEPT, TUBE, hulls_of
from metaspira.gaps.screws import ANGLE, AXIS, FIRST, LAST, NO_RUN, RISE
from metaspira.parts import part_of


def of(path, section, **more):
    return part_of({"format": "metaspira/1", "path": path, "section": section, **more})


def coil(turns=30, pitch=3.0, **more):
    return {"kind": "coil", "diameter": 20, "turns": turns, "pitch": pitch, **more}


def long_run(part):
    """The run of the wire itself, and how many pieces it has."""
    hulls = next(h for h in hulls_of(part.sweep) if h.facts[KIND] in (TUBE, SWEPT))
    return hulls.run, len(hulls.frame)


GROUND = {"start": {"kind": "ground"}, "end": {"kind": "ground"}}
ROUND, BAR = {"kind": "round", "diameter": 2}, {"kind": "rectangle", "width": 2.5, "height": 1.4}


@pytest.mark.parametrize(("section", "per_turn"), [(ROUND, 12), (BAR, 20)])
def test_a_coil_of_one_pitch_is_one_run_about_its_axis(section, per_turn):
    run, pieces = long_run(of(coil(), section))
    assert (run[FIRST], run[LAST]) == (1, pieces - 2)
    assert run[ANGLE] == pytest.approx(2 * math.pi / per_turn, rel=1e-12)
    assert run[RISE] == pytest.approx(3.0 / per_turn, rel=1e-12)
    np.testing.assert_allclose(run[AXIS:], [0, 0, 1, 0, 0, 0], atol=1e-12)


def test_a_left_hand_coil_turns_the_other_way_about_the_same_axis():
    run = long_run(of(coil(hand="left"), BAR))[0]
    assert run[ANGLE] * run[AXIS + 2] == pytest.approx(-2 * math.pi / 20)
    assert run[RISE] * run[AXIS + 2] == pytest.approx(3.0 / 20)


@pytest.mark.parametrize(
    "part",
    [
        of(coil(end_diameter=24), BAR),
        of(coil(), BAR, stance={"kind": "fixed"}),
        of(coil(), BAR, along={"size": {"from": 1, "to": 0.8}}),
    ],
    ids=["cone", "fixed stance", "taper"],
)
def test_what_no_screw_carries_is_no_run(part):
    assert np.array_equal(long_run(part)[0], NO_RUN)


DESIGNS = {
    "square wire": of(coil(), BAR),
    "square wire in itself": of(coil(pitch=1.3), BAR),
    "closed ends": of(coil(pitch=4.0, closed={"start": 1, "end": 1.5}), ROUND),
    "a coil in a coil": of(coil(), BAR, wires=[{"path": coil() | {"diameter": 14}, "section": ROUND}]),
    "ground coils one in the other": of(
        coil(turns=6, pitch=4),
        BAR,
        ends=GROUND,
        wires=[{"path": coil(turns=6, pitch=4, diameter=15), "section": BAR, "ends": GROUND}],
    ),
    "a coil of another pitch in it": of(
        coil(), BAR, wires=[{"path": coil(pitch=3.01, diameter=14), "section": ROUND}]
    ),
    "strands": of({"kind": "straight", "length": 400}, ROUND, strands={"count": 3, "radius": 1.5, "lay": 20}),
    "a wire that passes far up": of(
        coil(),
        ROUND,
        wires=[{"path": {"kind": "points", "points": [[12, -30, 71], [12, 30, 71]]}, "section": ROUND}],
    ),
}


@pytest.mark.parametrize("name", DESIGNS)
def test_leaving_runs_out_changes_no_gap(name, monkeypatch):
    """The same search with every pair of pieces; the figures stand within what the interval may be wide."""
    part = DESIGNS[name]
    quick = gaps.part_gaps(part)
    gaps._part_gaps.cache_clear()
    pair = measure._pair
    monkeypatch.setattr(measure, "_pair", lambda *of: pair(*of)._replace(carried=False))
    whole = gaps.part_gaps(part)
    gaps._part_gaps.cache_clear()
    assert quick.smallest == pytest.approx(whole.smallest, abs=1e-5)
    assert quick.least.of == whole.least.of
    width = 0.02 * abs(whole.smallest) + 0.02
    assert quick.interval == pytest.approx(whole.interval, abs=width)
    assert quick.interval[0] <= whole.smallest + 1e-9 and whole.interval[0] <= quick.smallest + 1e-9


def test_extents_of_a_run_are_those_of_its_ends():
    part = of(coil(), BAR)
    found = extents(part.sweep)
    assert found.outside_radius == pytest.approx(11.25, abs=2e-4)
    assert found.inside_radius == pytest.approx(8.75, abs=2e-4)
    assert found.height == pytest.approx(90 + 1.4, rel=2e-3)


def test_nearly_touching_turns_take_no_more_looks_for_being_many(monkeypatch):
    """Turns of square wire with 0.0007 mm of air: each pair must be looked at closely, once."""
    looks = []
    search = measure.search

    def counted(*args):
        looks.append(found := search(*args))
        return found

    monkeypatch.setattr(measure, "search", counted)

    def seen(turns):
        looks.clear()
        part = of(coil(turns, 2.0), {"kind": "rectangle", "width": 2.5, "height": 1.998})
        assert 0 < gaps.part_gaps(part).interval[0] < 0.001
        return sum(found[3] for found in looks)

    few = seen(20)
    assert seen(160) < 3 * few
