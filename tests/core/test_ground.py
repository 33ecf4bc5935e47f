"""Ground ends beside other bodies, against exact booleans of meshes that are ground alike (manifold3d)."""

import pytest
from metaspira.checks import run_checks
from metaspira.checks.gaps import part_gaps
from metaspira.gaps.extents import extents, heights
from metaspira.parts import part_of
from metaspira.problems import RecipeError
from metaspira.sweep.ground import ground_planes, mesh_of
from metaspira.sweep.mesh import fineness_for
from metaspira.verification.parts import manifold

NEAR = 0.01
SPRING = {
    "format": "metaspira/1",
    "path": {"kind": "coil", "diameter": 20, "turns": 6, "pitch": 6, "closed": {"start": 1, "end": 1}},
    "ends": {"start": {"kind": "ground"}, "end": {"kind": "ground"}},
}


def round_(diameter):
    return {"kind": "round", "diameter": diameter}


def square(side):
    return {"kind": "rectangle", "width": side, "height": side}


def line(start, end, section):
    return {"path": {"kind": "points", "points": [list(start), list(end)]}, "section": section}


def solid(sweep):
    return manifold(mesh_of(sweep, fineness_for(sweep, NEAR / 2)))


def block(low, high):
    """A box between two heights as a reference body."""
    places = [[x, y, z] for x in (-20, 20) for y in (-20, 20) for z in (low, high)]
    sides = [(0, 1, 3, 2), (4, 6, 7, 5), (0, 4, 5, 1), (2, 3, 7, 6), (0, 2, 6, 4), (1, 5, 7, 3)]
    faces = [[a, b, c] for p, q, r, s in sides for a, b, c in ((p, q, r), (p, r, s))]
    return {"name": "seat", "mesh": {"vertices": places, "faces": faces}}


BESIDE = {
    "a pin under the face": (line((7.07, 7.07, -6), (7.07, 7.07, -0.2), round_(0.8)), 0.2),
    "a pin in the face": (line((7.07, 7.07, -6), (7.07, 7.07, 0.2), round_(0.8)), -0.2),
    "a bar where wire was": (line((-20, 4, -0.7), (20, 4, -0.7), round_(1)), 0.2),
    "a bar in the face": (line((-20, 4, -0.45), (20, 4, -0.45), round_(1)), -0.05),
    "a pin under the rim": (line((11.4, 1, -6), (11.4, 1, -0.3), square(0.8)), 0.3),
    "a pin over the other end": (line((0, -10, 60), (0, -10, 28), round_(0.8)), None),
    "a bar beside": (line((-20, 11.6, 1), (20, 11.6, 1), round_(0.5)), None),
    "a bar at the tip": (line((14, -1, 0.3), (6, -1, 0.3), round_(1)), None),
}


@pytest.mark.thorough(but=["round-a bar at the tip", "round-a pin under the face"])
@pytest.mark.parametrize("name", BESIDE)
@pytest.mark.parametrize("section", [round_(2.5), square(2.5)], ids=["round", "square"])
def test_the_gap_to_a_ground_end_is_that_of_the_meshes(name, section):
    wire, known = BESIDE[name]
    part = part_of({**SPRING, "section": section, "wires": [wire]})
    gap = part_gaps(part).between.gap
    one, two = (solid(body.sweep) for body in part.bodies)
    if known is not None:
        assert gap.value == pytest.approx(known, abs=1e-3)
    if (one ^ two).volume() > 0:
        assert gap.high < 0
    else:
        distance = one.min_gap(two, 40)
        assert gap.value == pytest.approx(distance, abs=NEAR)
        assert gap.low - NEAR <= distance <= gap.high + NEAR


@pytest.mark.parametrize(("air", "verdict"), [(0.1, "clear"), (-0.05, "stop")])
@pytest.mark.parametrize("above", [False, True], ids=["below", "above"])
def test_a_ground_spring_stands_on_its_seat(air, verdict, above):
    bare = part_of({**SPRING, "section": round_(2.5)})
    low, high = bare.extents.low, bare.extents.high
    seat = block(high + air, high + 5) if above else block(low - 5, low - air)
    part = part_of({**SPRING, "section": round_(2.5), "fit": {"bodies": [seat]}})
    found = next(check for check in run_checks(part) if check.id == "reference")
    assert found.verdict == verdict
    assert found.value == pytest.approx(air, abs=2e-3)


@pytest.mark.thorough
def test_where_the_tip_is_ground_away_wholly_there_is_nothing_to_touch():
    """A coil of two starts, ground deeper than its wire is thick, at both ends."""
    ends = {end: {"kind": "ground", "depth": 2} for end in ("start", "end")}
    strip = {"kind": "rectangle", "width": 2.5, "height": 1.4}
    first, second = (
        {
            "path": {"kind": "coil", "diameter": 20, "turns": 6, "pitch": 3.2, "start_angle": at},
            "section": strip,
            "ends": ends,
        }
        for at in (0, 180)
    )
    part = part_of({"format": "metaspira/1", **first, "wires": [second]})
    gap = part_gaps(part).between.gap
    one, two = (solid(body.sweep) for body in part.bodies)
    assert gap.low > 0.15
    assert gap.value == pytest.approx(one.min_gap(two, 5), abs=NEAR)


@pytest.mark.parametrize("depth", [15, 1000])
def test_grinding_that_leaves_nothing_is_refused(depth):
    ends = {end: {"kind": "ground", "depth": depth} for end in ("start", "end")}
    path = {"kind": "coil", "diameter": 20, "turns": 6, "pitch": 3.2}
    with pytest.raises(RecipeError) as refused:
        part_of({**SPRING, "path": path, "section": square(1.4), "ends": ends})
    assert refused.value.problems[0].place.startswith("/ends/")


def test_a_wire_keeps_its_own_gaps_when_its_ends_are_ground():
    """What is ground away may count between turns of one wire: never more air than there is."""
    plain = part_gaps(part_of({**SPRING, "section": round_(2.5), "ends": {}})).within.gap
    ground = part_gaps(part_of({**SPRING, "section": round_(2.5)})).within.gap
    assert ground.value == pytest.approx(plain.value, abs=1e-9)
    assert len(ground_planes(part_of({**SPRING, "section": round_(2.5)}).sweep)) == 2


@pytest.mark.parametrize("ends", ["both", "one"])
def test_heights_without_the_hulls_are_those_with_them(ends):
    kept = {"start": {"kind": "ground"}} if ends == "one" else SPRING["ends"]
    sweep = part_of({**SPRING, "ends": kept, "section": round_(2)}).sweep
    box = extents(sweep)
    assert heights(sweep) == pytest.approx((box.low, box.high), abs=box.error + 1e-12)
