"""Solids and files, read back by the kernel, by trimesh and by the Khronos validator."""

import json
import math
import subprocess
from pathlib import Path

import lib3mf
import numpy as np
import pytest
import trimesh
from metaspira.checks import report_on
from metaspira.outputs.building import BuildError, Limits, build_files
from metaspira.parts import part_of
from metaspira.problems import Cancelled
from metaspira.solids.volume import each
from OCP.BRepCheck import BRepCheck_Analyzer
from OCP.BRepGProp import BRepGProp
from OCP.GProp import GProp_GProps
from OCP.STEPControl import STEPControl_Reader
from OCP.TopAbs import TopAbs_ShapeEnum

ROOT = Path(__file__).resolve().parents[2]

PARTS = {
    "rounded bar": {
        "path": {"kind": "straight", "length": 60},
        "section": {"kind": "rectangle", "width": 8, "height": 5, "corner_radius": 1},
        "along": {"twist": {"total": "2 turns"}},
    },
    "tapering horn": {
        "path": {"kind": "coil", "diameter": 50, "end_diameter": 24, "turns": 3, "pitch": 14},
        "section": {"kind": "ellipse", "width": 8, "height": 6},
        "along": {"size": {"from": 1, "to": 0.4}},
    },
    "left axial cone": {
        "path": {"kind": "coil", "hand": "left", "diameter": 40, "cone_angle": 12, "turns": 4, "pitch": 12},
        "section": {"kind": "rectangle", "width": 5, "height": 6, "plane": "axial", "rides_at": "inside"},
    },
    "steady hexagon": {
        "path": {"kind": "coil", "diameter": 40, "turns": 2.3, "pitch": 15},
        "section": {"kind": "polygon", "sides": 6, "across_flats": 7},
        "stance": {"kind": "steady"},
    },
    "flat spiral": {
        "path": {"kind": "coil", "diameter": 20, "end_diameter": 70, "turns": 5, "height": 0},
        "section": {"kind": "round", "diameter": 3},
    },
    "plain rod": {
        "path": {"kind": "straight", "length": 30},
        "section": {"kind": "round", "diameter": 6},
    },
    "rope of three on an oval base": {
        "path": {"kind": "coil", "diameter": 60, "turns": 2, "pitch": 30, "base": {"kind": "oval", "depth": 90}},
        "section": {"kind": "round", "diameter": 4},
        "strands": {"count": 3, "lay": 40},
    },
    "barrel": {
        "path": {"kind": "coil", "diameter": {"shape": "barrel", "from": 20, "middle": 34}, "turns": 4, "pitch": 7},
        "section": {"kind": "flatted", "diameter": 4, "flat": 3.2},
    },
    "closed turns, painted": {
        "path": {"kind": "coil", "diameter": 20, "turns": 6, "pitch": 6, "closed": {"start": 1, "end": 1}},
        "section": {"kind": "round", "diameter": 2.5, "paint": [{"edge": 0, "colour": "#2f6f8f"}]},
    },
    "closed ring through points": {
        "path": {"kind": "points", "closed": True, "points": [[30, 0, 0], [0, 30, 10], [-30, 0, 0], [0, -30, 10]]},
        "section": {"kind": "lobed", "lobes": 3, "core_diameter": 4, "lobe_diameter": 3},
    },
    "formula with a tube": {
        "path": {"kind": "formula", "radius": "12 + 8 * exp(-(t - 12)^2 / 40)", "angle": "t", "height": "1.6 * t", "to": "8 * pi"},
        "section": {"kind": "tube", "diameter": 4, "wall": 0.8},
    },
    "coiled coil on its core": {
        "path": {"kind": "winding", "around": {"kind": "coil", "diameter": 60, "turns": 1.5, "pitch": 30},
                 "radius": 5, "turns": 20, "core": 8},
        "section": {"kind": "round", "diameter": 2},
    },
    "wrap, seated": {
        "path": {"kind": "wrap", "profile": [[10, 0], [20, 20], [20, 40], [12, 55]], "corner_radius": 6, "pitch": 9},
        "section": {"kind": "trapezoid", "base": 3, "top": 2, "height": 3},
        "stance": {"kind": "seated"},
    },
    "extension spring with hooks": {
        "path": {"kind": "coil", "diameter": 20, "turns": 5, "pitch": 3,
                 "legs": {"start": [{"kind": "hook", "bend_radius": 4}], "end": [{"kind": "hook", "bend_radius": 4}]}},
        "section": {"kind": "round", "diameter": 2.5},
    },
    "domed and pointed": {
        "path": {"kind": "coil", "diameter": 20, "turns": 2, "pitch": 6},
        "section": {"kind": "rectangle", "width": 3, "height": 2, "corner_radius": 0.3},
        "ends": {"start": {"kind": "dome", "radius": 1}, "end": {"kind": "point", "length": 8}},
    },
    "full dome": {
        "path": {"kind": "straight", "length": 20},
        "section": {"kind": "round", "diameter": 6},
        "ends": {"start": {"kind": "dome"}, "end": {"kind": "dome"}},
    },
    "star tube that blends": {
        "path": {"kind": "coil", "diameter": 40, "turns": 2, "pitch": 14},
        "section": {"kind": "blend", "sections": [
            {"at": 0, "section": {"kind": "tube", "diameter": 6, "wall": 1}},
            {"at": 0.5, "section": {"kind": "tube", "diameter": 8, "wall": 1}},
            {"at": 1, "section": {"kind": "star", "points": 5, "outer_diameter": 10, "inner_diameter": 7,
                                  "holes": [{"kind": "round", "diameter": 4}]}}]},
        "along": {"twist": {"total": 200}},
    },
    "spiral slide": {
        "path": {"kind": "coil", "diameter": 60, "turns": 1.5, "pitch": 40},
        "section": {"kind": "trough", "width": 20, "depth": 12, "wall": 2},
        "stance": {"kind": "plumb"},
    },
    "aimed and stretched channel": {
        "path": {"kind": "coil", "diameter": 60, "turns": 1, "pitch": 40},
        "section": {"kind": "channel", "width": 6, "depth": 4, "wall": 1},
        "stance": {"kind": "aimed", "curve": {"kind": "coil", "diameter": 80, "turns": 1, "pitch": 60}, "stretch": "width"},
    },
    "free outline, upright, tilted": {
        "path": {"kind": "points", "points": [[20, 0, 0], [10, 25, 10], [-20, 10, 25], [-15, -20, 45]]},
        "section": {"kind": "free", "loops": [{"points": [[-2, -2], [3, -1], [2, 3], [-3, 2]], "ease": "smooth"}]},
        "stance": {"kind": "upright"},
        "along": {"tilt": {"points": [[0, 0], [0.5, 12], [1, 0]], "ease": "smooth"}, "depth": {"formula": "1 + 0.3 * sin(2 * pi * t)"}},
    },
    "inner and outer coil": {
        "path": {"kind": "coil", "diameter": 40, "turns": 3, "pitch": 10},
        "section": {"kind": "round", "diameter": 3},
        "wires": [{"path": {"kind": "coil", "diameter": 22, "turns": 3, "pitch": 10, "hand": "left"},
                   "section": {"kind": "round", "diameter": 2}}],
    },
}  # fmt: skip


def shape_in(file):
    reader = STEPControl_Reader()
    reader.ReadFile(str(file))
    reader.TransferRoots()
    return reader.OneShape()


def kernel(file):
    """(valid, volume) of a STEP file by the kernel's own analyzer and integration."""
    shape = shape_in(file)
    properties = GProp_GProps()
    BRepGProp.VolumeProperties_s(shape, properties)
    return BRepCheck_Analyzer(shape).IsValid(), properties.Mass()


@pytest.mark.parametrize("name", PARTS)
def test_every_kind_becomes_a_proven_solid(tmp_path, name):
    part = part_of({"format": "metaspira/1", **PARTS[name]})
    file = tmp_path / "part.step"
    proof = build_files(part, [file])[".step"]
    assert proof["closed"]
    assert proof["valid"]
    assert proof["relative_error"] < 1e-6
    valid, volume = kernel(file)
    assert valid
    assert volume == pytest.approx(part.volume, rel=1e-4)
    faces = sum(1 for _ in each(shape_in(file), TopAbs_ShapeEnum.TopAbs_FACE))
    assert faces == sum(expected_faces(body.sweep) for body in part.bodies)


def expected_faces(sweep):
    """One for each section edge, each smooth piece of the wire and each eight turns of it, and end faces."""
    edges = sum(len(loop.edges) for loop in sweep.outline.loops)
    turned = [np.diff(sweep.turned(np.array([s.low, s.high])))[0] / (2 * math.pi) for s in sweep.stretches]
    pieces = sum(max(1, math.ceil(turns / 8 - 1e-9)) for turns in turned)
    caps = 0 if sweep.closed else sum(not end.closes for end in sweep.ends)
    return edges * max(pieces, 2 if sweep.closed else 1) + caps


GROUND = {
    "path": {"kind": "coil", "diameter": 20, "turns": 6, "pitch": 6, "closed": {"start": 1, "end": 1}},
    "section": {"kind": "round", "diameter": 2.5},
    "ends": {"start": {"kind": "ground"}, "end": {"kind": "ground"}},
}


@pytest.mark.thorough
def test_closed_and_ground_ends_are_flat_and_proven(tmp_path):
    part = part_of({"format": "metaspira/1", **GROUND})
    files = [tmp_path / f"part{suffix}" for suffix in (".step", ".stl", ".glb", ".3mf")]
    proofs = build_files(part, files, chord_error=0.004)
    assert proofs[".step"]["relative_error"] < 1e-5
    mesh = trimesh.load(files[1])
    assert mesh.is_watertight
    # a fine mesh cut by manifold3d, independent of the integral
    assert mesh.volume == pytest.approx(part.volume, rel=2e-3)
    assert np.ptp(mesh.bounds[:, 2]) == pytest.approx(report_on(part).figures["overall_height"], abs=1e-4)
    level = np.abs(mesh.face_normals[:, 2]) > 1 - 1e-9
    flat = mesh.area_faces[level & (np.abs(mesh.triangles_center[:, 2] - mesh.bounds[0][2]) < 1e-4)]
    assert flat.sum() > 20  # mm² that the spring stands on


SKINS = {
    "open line": {
        "path": {"kind": "coil", "diameter": 60, "turns": 2, "pitch": 40},
        "section": {"kind": "free", "loops": [{"points": [[-5, 0], [0, 3], [5, 0]], "ease": "smooth", "closed": False}]},
    },
    "bare pipe": {
        "path": {"kind": "points", "points": [[0, 0, 0], [30, 0, 10], [40, 30, 20], [10, 40, 40]]},
        "section": {"kind": "round", "diameter": 5},
    },
}  # fmt: skip


@pytest.mark.parametrize("name", SKINS)
def test_skins_are_shells_of_the_area_predicted(tmp_path, name):
    part = part_of({"format": "metaspira/1", "use": {"as": "skin"}, **SKINS[name]})
    files = [tmp_path / f"part{suffix}" for suffix in (".step", ".stl", ".3mf")]
    proofs = build_files(part, files)
    assert proofs[".step"]["relative_error"] < 1e-6
    shape = shape_in(files[0])
    assert not list(each(shape, TopAbs_ShapeEnum.TopAbs_SOLID))
    properties = GProp_GProps()
    BRepGProp.SurfaceProperties_s(shape, properties)
    assert properties.Mass() == pytest.approx(part.sweep.lateral_area, rel=1e-5)


def test_every_mesh_format_carries_the_same_shape_and_its_colours(tmp_path):
    recipe = {
        "format": "metaspira/1",
        "path": {"kind": "straight", "length": 40},
        "section": {"kind": "polygon", "sides": 6, "across_flats": 8, "paint": [{"edge": 1, "colour": "#2f6f8f"}]},
        "along": {"twist": {"total": 180}},
        "wires": [{"path": {"kind": "formula", "x": "20 + 0 * t", "y": "0 * t", "z": "t", "to": 30},
                   "section": {"kind": "round", "diameter": 4}}],
        "material": "brass",
    }  # fmt: skip
    part = part_of(recipe)
    files = [tmp_path / f"part{suffix}" for suffix in (".glb", ".3mf", ".obj", ".ply", ".stl")]
    proofs = build_files(part, files, chord_error=0.01)
    for file in files:
        proof = proofs[file.suffix]
        assert proof["closed"], file
        assert proof["volume"] == pytest.approx(part.volume, rel=5e-3), file
    model = lib3mf.get_wrapper().CreateModel()
    model.QueryReader("3mf").ReadFromFile(str(files[1]))
    bodies = model.GetMeshObjects()
    assert bodies.Count() == 2
    groups = model.GetColorGroups()
    colours = set()
    while groups.MoveNext():
        group = groups.GetCurrentColorGroup()
        colours |= {
            tuple(getattr(group.GetColor(i), n) for n in ("Red", "Green", "Blue"))
            for i in group.GetAllPropertyIDs()
        }
    assert (0x2F, 0x6F, 0x8F) in colours
    glb = trimesh.load(files[0])
    shades = {tuple(int(c) for c in g.visual.material.baseColorFactor[:3]) for g in glb.geometry.values()}
    assert len(shades) == 2


@pytest.mark.thorough
def test_a_240_turn_coil_keeps_its_volume(spring, tmp_path):
    spring["path"]["turns"] = 240
    part = part_of(spring)
    file = tmp_path / "long.step"
    assert build_files(part, [file])[".step"]["relative_error"] < 1e-6
    valid, volume = kernel(file)
    assert valid
    # Pappus: section area times length of the unrolled helix
    assert volume == pytest.approx(math.pi * 1.25**2 * 240 * math.hypot(20 * math.pi, 6), rel=1e-5)


def test_meshes_are_right_and_the_glb_passes_the_khronos_validator(spring, tmp_path):
    spring["section"] = {"kind": "rectangle", "width": 3, "height": 2, "corner_radius": 0.3}
    part = part_of(spring)
    files = [tmp_path / "part.stl", tmp_path / "part.glb"]
    proofs = build_files(part, files, chord_error=0.01)
    assert all(proof["closed"] and proof["valid"] for proof in proofs.values())
    stl = trimesh.load(files[0])
    assert stl.is_watertight
    assert stl.volume == pytest.approx(part.sweep.volume, rel=0.01)
    validate = (
        "const v=require('gltf-validator');const fs=require('fs');"
        "v.validateBytes(new Uint8Array(fs.readFileSync(process.argv[1])))"
        ".then(r=>console.log(JSON.stringify(r.issues)))"
    )
    answer = subprocess.run(
        ["node", "-e", validate, str(files[1])], cwd=ROOT / "web", capture_output=True, check=True
    )
    issues = json.loads(answer.stdout)
    assert issues["numErrors"] == 0, issues
    assert issues["numWarnings"] == 0, issues


def test_cancelling_leaves_nothing_behind(spring, tmp_path):
    spring["path"]["turns"] = 900
    with pytest.raises(Cancelled):
        build_files(part_of(spring), [tmp_path / "part.step"], cancelled=lambda: True)
    assert list(tmp_path.iterdir()) == []


def test_limits_of_memory_and_time_are_kept(spring, tmp_path):
    part = part_of(spring)
    with pytest.raises(BuildError, match="GiB"):
        build_files(part, [tmp_path / "part.step"], limits=Limits(memory=300 * 2**20))
    spring["path"]["turns"] = 4000
    with pytest.raises(BuildError):
        build_files(part_of(spring), [tmp_path / "part.step"], limits=Limits(seconds=1))
    assert list(tmp_path.iterdir()) == []


def test_progress_grows_to_the_end(spring, tmp_path):
    told = []
    build_files(part_of(spring), [tmp_path / "part.step"], progress=lambda share, step: told.append(share))
    assert told == sorted(told)
    assert 0 < told[0] < told[-1] <= 1
