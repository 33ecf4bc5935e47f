"""The steps of tracing, each against what is known of the body that was scanned."""

import math
from functools import cache

import numpy as np
import pytest
import trimesh
from metaspira.studies.trace.rounding import rounded
from metaspira.studies.trace.scan import PLACES, scan_of
from metaspira.studies.trace.screw import screw_of
from metaspira.studies.trace.thread import thread_of
from metaspira.studies.trace.wire import ground_ends, radius_of, wound_wire
from metaspira.threads.lookup import read_thread
from scans import scan


def coil(turns=6, pitch=7, hand="right", wire=2.5, **path):
    return {
        "path": {"kind": "coil", "diameter": 22, "turns": turns, "pitch": pitch, "hand": hand, **path},
        "section": {"kind": "round", "diameter": wire},
    }


def traced(mesh):
    surface = scan_of(mesh)
    return surface, screw_of(surface)


def moved(mesh, turn, shift):
    mesh = mesh.copy()
    mesh.apply_transform(trimesh.transformations.rotation_matrix(*turn))
    mesh.apply_translation(shift)
    return mesh


@cache
def still_coil(hand):
    """A coil's mesh, and its screw where it stands."""
    mesh = scan(coil(hand=hand), 0.0)
    return mesh, traced(mesh)[1]


@pytest.mark.thorough(but=["0-left"])
@pytest.mark.parametrize("hand", ["right", "left"])
@pytest.mark.parametrize("seed", range(3))
def test_the_axis_the_hand_and_the_lead_of_a_coil_are_found_wherever_it_lies(hand, seed):
    """Held against the part's own axis, z, carried along with its mesh."""
    rng = np.random.default_rng(seed)
    turn, shift = (rng.uniform(0, 2 * math.pi), rng.normal(size=3)), rng.normal(size=3) * 50
    still, own = still_coil(hand)
    screw = screw_of(scan_of(moved(still, turn, shift)))
    matrix = trimesh.transformations.rotation_matrix(*turn)[:3, :3]
    assert abs(screw.axis @ matrix @ own.axis) == pytest.approx(1, abs=1e-4)
    beside = screw.centre - (matrix @ own.centre + shift)
    assert np.linalg.norm(np.cross(beside, screw.axis)) < 0.02
    assert screw.lead == pytest.approx(7 if hand == "right" else -7, rel=5e-3)
    assert screw.strays < 5e-3


def test_a_mirrored_coil_has_the_other_hand():
    mesh = scan(coil(), 0.0)
    mirrored = trimesh.Trimesh(mesh.vertices * [1, 1, -1], mesh.faces[:, ::-1], process=False)
    assert traced(mesh)[1].lead == pytest.approx(-traced(mirrored)[1].lead, rel=1e-2)


@pytest.mark.thorough(but=["2.5-0.03"])
@pytest.mark.parametrize(("wire", "noise"), [(0.8, 0), (2.5, 0.03), (5, 0.05)])
def test_moved_inward_by_its_radius_a_wire_crowds_on_its_centre_line(wire, noise):
    surface = scan_of(scan(coil(wire=wire, pitch=9), noise))
    assert radius_of(surface) == pytest.approx(wire / 2, rel=0.05)


def test_places_are_as_many_for_any_mesh_and_their_normals_are_of_unit_length():
    surface = scan_of(scan(coil(turns=2), 0.02))
    assert len(surface.points) == PLACES
    assert np.linalg.norm(surface.normals, axis=1) == pytest.approx(1)
    assert 0.002 < surface.noise < 0.04


@pytest.mark.parametrize("noise", [0.0, 0.03])
def test_normals_face_outward_within_what_the_noise_allows(noise):
    """Of a ball, where they are known."""
    ball = trimesh.creation.icosphere(5, 12.0)
    rng = np.random.default_rng(0)
    ball = trimesh.Trimesh(
        ball.vertices + noise * rng.normal(size=ball.vertices.shape), ball.faces, process=False
    )
    surface = scan_of(ball)
    away = surface.points / np.linalg.norm(surface.points, axis=1, keepdims=True)
    off = np.degrees(np.arccos(np.clip(np.einsum("ij,ij->i", surface.normals, away), -1, 1)))
    assert np.median(off) < 1 + 150 * noise


@pytest.mark.thorough
def test_a_table_is_a_plate_and_the_end_of_a_rod_is_none():
    assert scan_of(scan(coil(), plate=True)).plate > 0.15
    rod = trimesh.creation.cylinder(10, 8, sections=200)
    assert scan_of(rod).plate == 0


@pytest.mark.thorough(but=["ends0"])
@pytest.mark.parametrize("ends", [(True, True), (True, False), (False, False)])
def test_ground_ends_are_told_apart(ends):
    recipe = coil(turns=8, pitch=None, height=50, closed={"start": 1, "end": 1})
    recipe["path"] = {key: value for key, value in recipe["path"].items() if value is not None}
    recipe["ends"] = {
        end: {"kind": "ground"} for end, ground in zip(("start", "end"), ends, strict=True) if ground
    }
    surface, screw = traced(scan(recipe))
    assert sorted(ground_ends(surface, screw)[1]) == sorted(ends)


def test_the_centre_line_is_that_of_the_part_and_the_noise_is_the_scans():
    surface, screw = traced(scan(coil(turns=5, end_diameter=30), 0.02))
    wire = wound_wire(surface, screw)
    assert sorted(2 * wire.out[[0, -1]]) == pytest.approx([22, 30], abs=0.05)
    assert wire.turns == pytest.approx(5, abs=5e-3)
    assert abs(wire.up[-1] - wire.up[0]) == pytest.approx(35, abs=0.1)
    assert wire.noise == pytest.approx(0.015, abs=0.008), "of a triangle's places, less than of its corners"
    assert wire.covered > 0.95 and wire.seen == 1 and wire.around > 0.9


def test_of_half_a_wire_the_rest_is_led_on_and_told():
    surface, screw = traced(scan(coil(), 0.01, missing=0.45, seed=3))
    wire = wound_wire(surface, screw)
    assert wire.radius == pytest.approx(1.25, abs=0.02)
    assert wire.around < 0.95


@pytest.mark.thorough
@pytest.mark.parametrize(("name", "root"), [("M8", 6.466), ("S22x5", 13.322)])
def test_a_thread_has_the_diameters_of_its_profile_and_its_flanks(name, root):
    """The round root of ISO 68-1 lies at d − 1.22687 P, that of DIN 513 at d − 1.73554 P."""
    thread = read_thread(name)
    surface, screw = traced(scan({"thread": {"designation": name}, "host": {"kind": "rod", "length": 25}}))
    found = thread_of(surface, screw)
    assert found.crest == pytest.approx(thread.external.major.basic, abs=0.03)
    assert found.root == pytest.approx(root, abs=0.05)
    assert found.pitch == pytest.approx(thread.pitch, rel=5e-4)
    wanted = {"M8": [30, 30], "S22x5": [3, 30]}[name]
    assert sorted(found.flanks) == pytest.approx(wanted, abs=1)
    assert found.spread < 0.05


@pytest.mark.thorough
def test_the_folded_surface_of_a_coil_is_no_thread():
    assert thread_of(*traced(scan(coil(), 0.01))) is None


def test_numbers_are_rounded_only_where_they_are_near():
    recipe = {
        "path": {"kind": "coil", "diameter": 19.987, "turns": 8.13, "pitch": 5.988},
        "section": {"kind": "round", "diameter": 2.17},
    }
    even = rounded(recipe)
    assert even["path"] == {"kind": "coil", "diameter": 20.0, "turns": 8.15, "pitch": 6.0}
    assert even["section"]["diameter"] == 2.15, "no preferred wire is within 1.5 %"
    near = rounded({**recipe, "path": {**recipe["path"], "turns": 7.96, "closed": {"start": 0.9}}})
    assert near["path"]["turns"] == 8.0 and near["path"]["closed"] == {"start": 1.0}
