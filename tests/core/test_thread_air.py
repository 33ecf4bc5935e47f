"""The air between threads as they are built, with their ends: against exact booleans and distances of finely
meshed members by Manifold (manifold3d)."""

import numpy as np
import pytest
from metaspira.checks import report_on
from metaspira.checks.threads.pair import thread_air
from metaspira.parts import part_of
from metaspira.verification.parts import manifold
from scipy.spatial import KDTree

CHORD = 0.02
SEEDS = 16
BOLT = {
    "format": "metaspira/1",
    "thread": {"designation": "M10-6g", "length": 22, "size": "middle"},
    "host": {"kind": "rod", "length": 36, "diameter": 10},
    "mate": {"length": 8, "at": 4},
}
NAMES = ("M10", "M8x1", "Tr10x2", "Tr20x16P4", "1/2-13 UNC", "S10x2", "Rd8x1/10", "1/16-27 NPT", "Sq10x2")


def with_mate(at, **host):
    return part_of({**BOLT, "host": BOLT["host"] | host, "mate": BOLT["mate"] | {"at": at}})


def clearance(part):
    report = report_on(part)
    return report["clearance"], report.gap_range


@pytest.mark.thorough(but=["26"])
@pytest.mark.parametrize("at", [14, 20, 26])
def test_a_nut_over_the_run_out_or_the_shank_is_in_it(at):
    check, (low, high) = clearance(with_mate(at))
    assert check.verdict == "stop"
    assert low <= check.value <= high < 0
    assert check.where[0][0] > 19.75


def test_a_nut_over_a_reduced_shank_has_the_air_of_its_crest():
    """By hand: half the difference of the nut's bore at basic size, 8.376 mm (ISO 724), and 8.2 mm."""
    part = with_mate(26, diameter=8.2)
    air = thread_air(part)["as built"]
    assert air.low <= (8.376 - 8.2) / 2 + 5e-4 <= air.high + 1e-3
    assert clearance(part)[0].verdict == "clear"


@pytest.mark.parametrize(("at", "air"), [(36, None), (40, 4.0), (50, 14.0)])
def test_a_nut_off_the_bolt_is_as_far_as_it_is(at, air):
    part = with_mate(at)
    found = thread_air(part)["as built"]
    assert clearance(part)[0].verdict == "clear"
    assert air is None or found.low <= air <= found.high + 1e-3


@pytest.mark.thorough
def test_the_nearest_place_at_which_a_nut_is_clear_is_offered():
    part = with_mate(17)
    check, _ = clearance(part)
    offered = {remedy.input: remedy.value for remedy in check.remedies}
    at = offered["/mate/at"]
    assert clearance(with_mate(at))[0].verdict == "clear"
    assert clearance(with_mate(at + 0.02 * (17 - at)))[0].verdict == "stop"


def test_whole_threads_that_overlap_do_so_along_all_of_the_thread():
    """By hand: diameters larger by 0.3 mm, both flanks at 30°: 0.15 mm by radius, at the crests."""
    larger = {diameter: {"upper": 0.3} for diameter in ("pitch", "major", "minor")}
    form = {"kind": "flanks", "height": 1.2, "crest": 0.8}
    thread = {"form": form, "diameter": 40, "pitch": 4, "size": "max", "limits": {"external": larger}}
    part = part_of({"format": "metaspira/1", "thread": thread, "host": {"kind": "rod", "length": 30}})
    check, _ = clearance(part)
    assert check.verdict == "stop" and check.value == pytest.approx(-0.15, abs=1e-3)
    assert check.where == (part.full,)
    assert "of the height" not in check.why


def random_pair(seed):
    """A thread and its mate anywhere on it, with shanks and sizes that let them pass or not."""
    rng = np.random.default_rng(seed)
    name = str(rng.choice(NAMES))
    thread = {"designation": name, "allowance": float(rng.choice([0.0, 0.01, 0.04]))}
    rod = bool(rng.random() < 0.7)
    base = part_of({"format": "metaspira/1", "thread": thread, "host": {"kind": "rod", "length": 60}})
    pitch, inner, outer = base.thread.pitch, 2 * base.profile.inner, 2 * base.profile.outer
    diameter = round(
        float(rng.uniform(inner - 0.8, outer + 0.5) if rod else rng.uniform(inner - 0.5, outer + 0.8)), 3
    )
    length = round(float(rng.uniform(6, 9)) * pitch, 3)
    host = {"kind": "rod" if rod else "bore", "length": round(length + 6 * pitch, 3)}
    mate = {"length": round(3.5 * pitch, 3), "at": round(float(rng.uniform(0, length + 7 * pitch)), 3)}
    if rng.random() < 0.6:
        thread |= {"length": length}
        host |= {} if base.thread.taper else {"diameter": diameter}
        if rng.random() < 0.3:
            thread |= {"end": {"kind": "undercut", "width": round(2.5 * pitch, 3)}}
    return {"format": "metaspira/1", "thread": thread, "host": host, "mate": mate}


@pytest.mark.thorough(but=["2", "8", "14"])
@pytest.mark.parametrize("seed", range(SEEDS))
def test_random_mates_against_exact_booleans(seed):
    """A verdict that the meshes contradict is false; and no places of theirs are nearer than is certain."""
    part = part_of(random_pair(seed))
    check, (low, high) = clearance(part)
    meshes = [body.mesh(CHORD) for body in part.bodies]
    one, two = map(manifold, meshes)
    shared = (one ^ two).volume()
    near, _ = KDTree(meshes[0].vertices).query(meshes[1].vertices)
    assert low <= high
    if check.verdict == "clear":
        assert low <= near.min() + 1e-9
        assert shared == 0 or high < 2 * CHORD
    else:
        assert shared > 0
        assert -low > 2 * CHORD or shared < 1


def test_steep_screws_are_as_near_in_space_as_their_meshes():
    """Opened by 0.1 mm square to the surface, a lead of 16 mm on 20 mm."""
    thread = {"designation": "Tr20x16P4", "allowance": 0.1}
    part = part_of(
        {
            "format": "metaspira/1",
            "thread": thread,
            "host": {"kind": "rod", "length": 8},
            "mate": {"length": 8},
        }
    )
    check, (low, high) = clearance(part)
    one, two = (manifold(body.mesh(0.004)) for body in part.bodies)
    assert low - 0.006 <= one.min_gap(two, 0.2) <= high + 0.006
    assert high - low < 0.02 * high
    assert check.value == high
