"""Threads: sizes and limits against the standards' tables, forms, bodies, checks.

Values of tables are from memory of the standards named beside them.
"""

import contextlib
import json
import math
from pathlib import Path

import numpy as np
import pytest
import trimesh
from hypothesis import given, settings
from hypothesis import strategies as st
from metaspira.checks import report_on
from metaspira.outputs.building import build_files
from metaspira.parts import part_of
from metaspira.problems import RecipeError
from metaspira.solids.brep import build_shape
from metaspira.solids.threading import thread_nets
from metaspira.solids.volume import volume_of
from metaspira.threads.air import Member, air_between
from metaspira.threads.drills import tapping_drill
from metaspira.threads.gauging import best_wire, over_wires, plating, stress_area
from metaspira.threads.lookup import all_rows, measured, nearest_threads, read_thread
from metaspira.threads.profile import profile_of
from OCP.BRepCheck import BRepCheck_Analyzer

# Designation; external major max, min, pitch max, min; internal pitch max, minor max, minor min.


def test_npt_has_the_printed_lengths_and_diameters():
    """ASME B1.20.1, 1/2-14 NPT: E₀ 0.75843, E₁ 0.77843, L₁ 0.320, L₂ 0.5337, L₃ 0.2143, L₄ 0.7815
    inches."""
    gauges = {gauge.key: gauge.value / 25.4 for gauge in read_thread("1/2-14 NPT").gauges}
    assert gauges["pitch_at_small_end"] == pytest.approx(0.75843, abs=5e-6)
    assert gauges["gauge_length"] == pytest.approx(0.320)
    assert gauges["effective_length"] == pytest.approx(0.5337, abs=5e-5)
    assert gauges["wrench_length"] == pytest.approx(0.2143, abs=5e-5)
    assert gauges["overall_length"] == pytest.approx(0.7815, abs=1e-4)
    assert read_thread("1/2-14 NPT").external.pitch.basic / 25.4 == pytest.approx(0.77843, abs=5e-6)


@pytest.mark.parametrize(
    ("written", "meant"),
    [
        ("m10 x 1,5 LH - 6g", "M10-6g-LH"),
        ('1/4"-20', "1/4-20 UNC"),
        ("1/4-20 UNC 2B", "1/4-20 UNC-2B"),
        ("Tr 40x14 P7", "Tr40x14P7"),
        ("G½", "G 1/2"),
        ("G1½A", "G 1 1/2 A"),
        ("1/2-14 npt", "1/2-14 NPT"),
        ("M16xPh3P1.5-6H", "M16xPh3P1.5-6H"),
        ("M20-6H/6g", "M20-6H/6g"),
        ("M8×1", "M8x1"),
        ("2BA", "2 BA"),
        ("1-1/4-7", "1 1/4-7 UNC"),
        ("Tr40x7 left hand", "Tr40x7-LH"),
    ],
)
def test_threads_are_read_as_people_write_them(written, meant):
    found = read_thread(written)
    wanted = read_thread(meant)
    assert found.external == wanted.external
    assert (found.pitch, found.starts, found.hand) == (wanted.pitch, wanted.starts, wanted.hand)
    assert found.designation.replace(" ", "") == meant.replace(" ", "")


@pytest.mark.parametrize(
    "written", ["M10.3", "M10q", "G 9/16", "1/4-21 UNC", "M8x9", "M10-3Z", "Tr40x15P7", "99 BA"]
)
def test_what_is_no_thread_is_refused_with_a_remedy(written):
    with pytest.raises(RecipeError) as refused:
        read_thread(written, "/thread/designation")
    problem = refused.value.problems[0]
    assert problem.place == "/thread/designation"
    assert problem.remedy
    if problem.fix:
        read_thread(problem.fix.value)


@settings(deadline=None)
@given(st.text(max_size=70))
def test_any_text_is_a_thread_or_a_refusal(text):
    with contextlib.suppress(RecipeError):
        read_thread(text)


def test_the_nearest_and_the_measured_are_found():
    assert nearest_threads("m10x1,")[0].designation.startswith("M10x1")
    assert measured(6.2, 1.27)[0].row.designation in ("1/4-20 UNC", "1/4-20 BSW")
    assert measured(9.9, 1.5)[0].row.designation == "M10"
    assert measured(25.4 * 0.84 - 0.1, 25.4 / 14)[0].pitch_off == pytest.approx(0, abs=1e-9)
    assert measured(8.5, 1.5, "internal")[1].row.designation == "M10"


def test_every_size_of_every_series_holds_together():
    """Limits in their order, members that never overlap at basic size, and a name that reads as itself."""
    for row in all_rows():
        thread = read_thread(row.designation)
        assert read_thread(thread.designation) == thread
        for member in (thread.external, thread.internal):
            assert member.minor.basic < member.pitch.basic < member.major.basic
            for size in (member.major, member.pitch, member.minor):
                assert size.max is None or size.min is None or size.min < size.max
        for name in ("major", "pitch"):
            most, least = getattr(thread.external, name).max, getattr(thread.internal, name).min
            assert (
                most is None
                or least is None
                or most <= least + 1e-9
                or thread.taper
                or "Rp" in row.designation
            )
        bolt, nut = profile_of(thread, "external"), profile_of(thread, "internal")
        z = np.linspace(0, thread.pitch, 200)
        at = [np.interp(z, *_sorted(profile)) for profile in (bolt, nut)]
        assert np.all(at[0] <= at[1] + 1e-3 * thread.pitch), row.designation


def _sorted(profile):
    line = profile.line(24)
    z = np.concatenate([line[:, 0] + k * profile.pitch for k in (-1, 0, 1)])
    return np.maximum.accumulate(z), np.tile(line[:, 1], 3)


def test_stress_areas_drills_and_wires():
    """ISO 898-1 stress areas; ASME B1.1 0.0318 in² for 1/4-20; the usual tapping drills; three wires at
    1/4-20: best wire 0.02887, M = E + 3W − 0.86603P."""
    for name, area in (
        ("M6", 20.1),
        ("M8", 36.6),
        ("M10", 58.0),
        ("M12", 84.3),
        ("M16", 157),
        ("M20", 245),
    ):
        assert stress_area(read_thread(name)) == pytest.approx(area, rel=3e-3)
    inch = read_thread("1/4-20 UNC")
    assert stress_area(inch) / 25.4**2 == pytest.approx(0.0318, abs=5e-5)
    drills = {
        name: tapping_drill(read_thread(name)).diameter for name in ("M3", "M6", "M8", "M10", "M12", "M10x1")
    }
    assert drills == {"M3": 2.5, "M6": 5.0, "M8": 6.8, "M10": 8.5, "M12": 10.2, "M10x1": 9.0}
    wire = best_wire(inch)
    assert wire / 25.4 == pytest.approx(0.02887, abs=5e-6)
    plain = over_wires(inch, inch.external.pitch.basic, wire, corrected=False)
    expected = inch.external.pitch.basic + 3 * wire - 0.866025 * inch.pitch
    assert plain == pytest.approx(expected, abs=1e-6)
    assert plating(read_thread("M10")) == pytest.approx(0.032 / 4, abs=1e-6), "es / 4 at 60°"
    assert 0 < over_wires(inch, inch.external.pitch.basic, wire) - plain < 0.005


ROD = {"kind": "rod", "length": 20}
SHORT = {"kind": "rod", "length": 12}
KNOB = {"kind": "turned", "profile": [[12, 0], [20, 15], [18, 28], [8, 36]], "ease": "smooth"}
FORM = {"form": {"kind": "flanks", "leading": 30, "trailing": 45, "height": 1.2, "crest": 0.8, "root_radius": 0.2}, "diameter": 40, "pitch": 4}  # fmt: skip
BLUNT = {"kind": "blunt"}
BUILT = {
    "chamfered rod": ({"designation": "M10"}, {"kind": "rod", "length": 10}, "body", 1),
    "run-out to a shank": ({"designation": "M10-6g", "length": 7, "size": "middle"}, SHORT, "body", 1),
    "undercut at a shoulder": ({"designation": "M10", "length": 10, "end": {"kind": "undercut", "width": 5}}, {**SHORT, "diameter": 14}, "body", 1),
    "cut square, with a hole": ({"designation": "M12x1.5", "start": {"kind": "plain"}, "end": {"kind": "plain"}}, {**SHORT, "hole": 6}, "body", 1),
    "nut of six flats": ({"designation": "M10-6H"}, {"kind": "bore", "length": 8, "across_flats": 16}, "body", 1),
    "Whitworth, left hand": ({"designation": "1/2 BSW LH"}, SHORT, "body", 1),
    "pipe socket": ({"designation": "G 1/2", "length": 8}, {"kind": "bore", "length": 12, "outside": 30}, "body", 1),
    "taper pipe": ({"designation": "1/2-14 NPT", "length": 9}, {"kind": "rod", "length": 14, "diameter": 21.34}, "body", 1),
    "two starts and a nut": ({"designation": "Tr20x8P4"}, {"kind": "rod", "length": 22}, "body", 2),
    "square": ({"designation": "Sq20x4"}, {"kind": "rod", "length": 14}, "body", 1),
    "round": ({"designation": "Rd20x1/8"}, SHORT, "body", 1),
    "buttress": ({"designation": "S22x5"}, {"kind": "rod", "length": 16}, "body", 1),
    "lid of three starts": ({**FORM, "starts": 3, "at": 2, "length": 10, "start": {"kind": "fade", "angle": 60}, "end": {"kind": "fade", "angle": 60}}, {"kind": "rod", "length": 14}, "ridge", 1),
    "ridge in a bore": ({**FORM, "at": 2, "length": 14}, {"kind": "bore", "length": 18, "outside": 48}, "ridge", 1),
    "groove on a cone": ({**FORM, "at": 3, "length": 20}, {"kind": "cone", "length": 30, "diameter": 40, "end_diameter": 30}, "groove", 1),
    "groove around a knob": ({"form": {"kind": "flanks", "height": 1, "crest": 1.2, "root_radius": 0.3}, "diameter": 30, "pitch": 3, "at": 4, "length": 26}, KNOB, "groove", 1),
    "blunt, with a pilot": ({"designation": "M10", "start": {"kind": "blunt", "pilot": 1.5}}, SHORT, "body", 1),
    "blunt at a shoulder": ({"designation": "M10 LH", "at": 2, "length": 9, "start": BLUNT, "end": BLUNT}, {**SHORT, "diameter": 11}, "body", 1),
    "blunt, two starts, inside": ({"designation": "Tr20x8P4", "start": BLUNT, "end": BLUNT}, {"kind": "bore", "length": 18}, "body", 1),
    "blunt and square": ({"designation": "Sq20x4", "start": BLUNT, "end": BLUNT}, {"kind": "rod", "length": 16}, "body", 1),
    "blunt ridge on a cone": ({**FORM, "starts": 2, "at": 2, "length": 20, "start": BLUNT, "end": BLUNT}, {"kind": "cone", "length": 24, "diameter": 38, "end_diameter": 44}, "ridge", 1),
    "blunt groove": ({**FORM, "at": 3, "length": 14, "start": BLUNT, "end": BLUNT}, {**SHORT, "length": 20}, "groove", 1),
    "own form by points": ({"form": {"kind": "points", "points": [[0, 0], [0.6, 0.9], [1.4, 1], [2.2, 0]]}, "diameter": 20, "pitch": 3, "hand": "left"}, SHORT, "body", 1),
}  # fmt: skip


def recipe(thread, host, use="body", **more):
    return {"format": "metaspira/1", "thread": thread, "host": host, "use": {"as": use}, **more}


def test_a_buttress_thread_has_the_round_root_of_its_standard():
    """DIN 513-1: R = 0.12427 P (from memory)."""
    thread = read_thread("S40x7")
    assert thread.external.inner_round == pytest.approx(0.870, abs=5e-4)
    assert thread.internal.inner_round == 0


@pytest.mark.thorough(
    but=[
        "chamfered rod",
        "taper pipe",
        "two starts and a nut",
        "ridge in a bore",
        "groove on a cone",
        "blunt at a shoulder",
    ]
)
@pytest.mark.parametrize("name", BUILT)
def test_every_kind_of_thread_becomes_a_proven_solid(name, tmp_path):
    thread, host, use, count = BUILT[name]
    mate = {"mate": {"length": 8, "at": 7}} if count == 2 else {}
    part = part_of(recipe(thread, host, use, **mate))
    proofs = build_files(part, [tmp_path / "part.step"])
    proof = proofs[".step"]
    assert proof["closed"] and proof["valid"]
    assert proof["relative_error"] < 1e-6
    for body in part.bodies:
        mesh = body.mesh()
        solid = trimesh.Trimesh(mesh.vertices, mesh.faces, process=False)
        assert solid.is_watertight and solid.is_volume
        assert solid.volume == pytest.approx(body.volume, rel=0.01)
    assert len(part.bodies) == count


@pytest.mark.parametrize(("starts", "side"), [(1, "rod"), (3, "rod"), (1, "bore"), (2, "bore")])
def test_a_blunt_start_is_a_plane_through_the_axis_with_the_area_of_the_form(starts, side):
    """The faces whose normals stand square to the radius and to the axis are the cuts: together they have the
    area between the profile and its root, once for each start."""
    thread = {"designation": "Tr20x4", "starts": starts, "start": BLUNT}
    part = part_of(recipe(thread, {"kind": side, "length": 30}))
    mesh = part.body.mesh(0.005)
    corners = mesh.vertices[mesh.faces]
    area = 0.5 * np.cross(corners[:, 1] - corners[:, 0], corners[:, 2] - corners[:, 0])
    size = np.linalg.norm(area, axis=1)
    angle = np.arctan2(corners[..., 1], corners[..., 0])
    flat = (np.abs(np.sin(angle - angle[:, :1])).max(axis=1) < 1e-9) & (size > 1e-12)
    z, r = part.profile.line().T
    root = part.profile.inner if side == "rod" else part.profile.outer
    closed = np.append(z, z[0] + part.profile.pitch), np.append(r, r[0])
    wanted = abs(np.trapezoid(closed[1] - root, closed[0]))
    assert size[flat].sum() == pytest.approx(starts * wanted, rel=1e-6)
    assert np.abs(area[flat, 2]).max() < 1e-9


def test_own_limits_are_built_and_open_the_air():
    """A lid's form by its own limits: the loosest members stand apart by the sum of both shifts."""
    limits = {
        "external": {"pitch": {"lower": -0.2}, "major": {"lower": -0.2}, "minor": {"lower": -0.2}},
        "internal": {"pitch": {"upper": 0.1}, "minor": {"upper": 0.1}},
    }
    form = {"kind": "flanks", "leading": 30, "trailing": 30, "height": 1.2, "crest": 0.8}
    asked = {"form": form, "diameter": 40, "pitch": 4, "limits": limits}
    part = part_of(recipe({**asked, "size": "min"}, ROD))
    assert part.profile.outer == pytest.approx(19.9)
    assert part.profile.inner == pytest.approx(20 - 1.2 - 0.1)
    outside, inside = (
        part.recipe.thread.profile(part.thread, side, state, 0.0)
        for side, state in (("external", "min"), ("internal", "max"))
    )
    shifted = (0.1 + 0.05) * math.sin(math.radians(30))
    air = air_between(Member.endless(outside, True), Member.endless(inside, False), part.thread.lead)
    assert air.value == pytest.approx(shifted * math.cos(part.thread.lead_angle), rel=1e-3)
    with pytest.raises(RecipeError) as caught:
        part_of(recipe({**asked, "limits": {"external": {"pitch": {"lower": 0.1}}}}, ROD))
    assert caught.value.problems[0].place == "/thread/limits/external/pitch/lower"


def test_a_blunt_start_needs_flanks_that_lean():
    form = {"kind": "points", "points": [[0, 0], [0, 0.5], [0.5, 1], [2, 0]]}
    asked = {"form": form, "diameter": 20, "pitch": 3, "start": BLUNT}
    with pytest.raises(RecipeError) as caught:
        part_of(recipe(asked, ROD))
    problem = caught.value.problems[0]
    assert (problem.place, problem.fix.value) == ("/thread/start/kind", {"kind": "fade"})


FAMILIES = (
    "M10", "1/4-20 UNC", "G 1/2", "R 3/4", "Rc 3/4", "Rp 1/2", "1/2-14 NPT", "1/8-27 NPSM", "Tr20x8P4", "1/2-10 ACME",
    "1/2-10 ACME-3C", "1/2-10 STUB ACME", "S22x5", "2-10 BUTT", "Rd20x1/8", "Sq20x4", "1/2 BSW", "3/8 BSF", "2 BA",
)  # fmt: skip


@pytest.mark.thorough(
    but=[
        "M10-rod",
        "1/4-20 UNC-bore",
        "Rc 3/4-bore",
        "Tr20x8P4-bore",
        "S22x5-rod",
    ]
)
@pytest.mark.parametrize("host", ["rod", "bore"])
@pytest.mark.parametrize("designation", FAMILIES)
def test_every_family_is_a_valid_solid_outside_and_inside(designation, host):
    thread = read_thread(designation)
    if thread.side == {"rod": "internal", "bore": "external"}[host]:
        return
    part = part_of(recipe({"designation": designation}, {"kind": host, "length": 4 * thread.lead}))
    shape = build_shape(thread_nets(part.body)).shape
    assert BRepCheck_Analyzer(shape).IsValid()
    assert volume_of(shape) == pytest.approx(part.volume, rel=1e-6)


def test_volume_is_that_of_the_profile_and_the_hand_is_right():
    """A rod cut square: V = π · mean(r²) · length over whole pitches, r sampled along the axis; and on a
    right-hand thread the crest moves on counter-clockwise as it climbs."""
    plain = {"kind": "plain"}
    for hand in ("right", "left"):
        part = part_of(
            recipe(
                {"designation": "M10", "hand": hand, "start": plain, "end": plain},
                {"kind": "rod", "length": 15},
            )
        )
        z, r = _sorted(part.profile)
        along = np.linspace(0, part.profile.pitch, 200_001)
        mean = np.trapezoid(np.interp(along, z, r) ** 2, along) / part.profile.pitch
        assert part.volume == pytest.approx(math.pi * mean * 15, rel=2e-5)
        mesh = part.body.mesh(0.02)
        radius = np.hypot(mesh.vertices[:, 0], mesh.vertices[:, 1])
        crest = mesh.vertices[radius > part.profile.outer - 1e-6]
        low, high = (crest[np.abs(crest[:, 2] - h) < 0.02] for h in (6.0, 6.3))
        angles = [np.angle(np.mean(row[:, 0] + 1j * row[:, 1])) for row in (low, high)]
        turned = (angles[1] - angles[0] + math.pi) % (2 * math.pi) - math.pi
        assert turned == pytest.approx(0.3 / 1.5 * 2 * math.pi * (1 if hand == "right" else -1), abs=0.15)


def test_the_mesh_formats_and_one_face_a_flank(tmp_path):
    part = part_of(
        recipe(
            {"designation": "M10", "start": {"kind": "plain"}, "end": {"kind": "plain"}},
            {"kind": "rod", "length": 9},
        )
    )
    files = [tmp_path / f"part{suffix}" for suffix in (".step", ".stl", ".3mf", ".glb", ".obj", ".ply")]
    proofs = build_files(part, files, 0.01)
    assert all(proof["valid"] for proof in proofs.values())
    assert (tmp_path / "part.step").read_text().count("ADVANCED_FACE") == 2 + 5, (
        "two flanks, two root arcs, a crest"
    )


def checks(data):
    report = report_on(part_of(data))
    return {check.id: check for check in report.checks}


@pytest.mark.parametrize(
    ("check", "data"),
    [
        ("wall", recipe({"designation": "M10"}, {"kind": "bore", "length": 12, "outside": 11})),
        ("engagement-length", recipe({"designation": "M10"}, {"kind": "rod", "length": 8})),
        ("engagement-height", recipe({"designation": "M10", "allowance": 0.1}, {"kind": "rod", "length": 20})),
        ("crest", recipe({**FORM, "form": {**FORM["form"], "crest": 0.1}}, {"kind": "rod", "length": 40})),
        ("run-out", recipe({"designation": "M10", "length": 14, "end": {"kind": "fade", "length": 1.2}}, {**ROD, "diameter": 14})),
        ("undercut", recipe({"designation": "M10", "length": 14, "end": {"kind": "undercut", "width": 2.9, "diameter": 6.6}}, {**ROD, "diameter": 7})),
        ("print", recipe({**FORM}, {"kind": "rod", "length": 40}, material="polylactide")),
    ],
)  # fmt: skip
def test_a_check_that_is_not_clear_has_a_remedy_that_clears_it(check, data):
    found = checks(data)[check]
    assert found.verdict != "clear"
    assert found.remedies, found.why
    for remedy in found.remedies:
        changed = json.loads(json.dumps(data))
        *path, last = remedy.input.split("/")[1:]
        here = changed
        for key in path:
            here = here[key]
        here[last] = remedy.value
        assert checks(changed)[check].verdict == "clear"


def test_members_keep_their_air_at_both_ends_of_their_tolerances():
    found = checks(recipe({"designation": "M10"}, ROD))["clearance"]
    assert found.verdict == "clear"
    assert found.value == pytest.approx(0.0, abs=1e-5)
    assert "0.00799 mm tightest" in found.why, "half of es, 32 µm, square to the flanks: 16 µm · sin 30°"


@pytest.mark.parametrize(
    ("data", "place"),
    [
        (recipe({"designation": "M10", "length": 50}, ROD), "/thread/length"),
        (recipe({"designation": "M10-6H"}, ROD), "/host/kind"),
        (recipe({"designation": "M10"}, {"kind": "bore", "length": 9, "outside": 9}), "/host/outside"),
        (recipe({**FORM, "pitch": 1.5}, ROD), "/thread/form/height"),
        (
            recipe({"designation": "M10"}, {"kind": "cone", "length": 9, "diameter": 10, "end_diameter": 9}),
            "/use/as",
        ),
        (recipe({"designation": "M10"}, {**ROD, "hole": 9}), "/host/hole"),
        (recipe({"diameter": 10}, ROD), "/thread/form"),
        (recipe({"designation": "M10", "length": 3}, ROD), "/thread/length"),
        (
            recipe({"designation": "M10", "length": 9, "end": {"kind": "plain"}}, ROD),
            "/thread/end/kind",
        ),
    ],
)
def test_what_cannot_be_is_refused_at_its_place(data, place):
    with pytest.raises(RecipeError) as refused:
        part_of(data)
    problem = refused.value.problems[0]
    assert problem.place == place
    assert problem.remedy


def test_series_tables_name_their_source():
    for file in (Path(__file__).resolve().parents[2] / "core/metaspira/threads/data").glob("*.json"):
        assert json.loads(file.read_text())["source"]
