"""Solids and files, read back by the kernel, by trimesh and by the Khronos validator."""

import json
import math
import subprocess
from pathlib import Path

import pytest
import trimesh
from metaspira.part import part_of
from metaspira.solids.building import BuildCancelled, BuildError, Limits, build_files
from OCP.BRepCheck import BRepCheck_Analyzer
from OCP.BRepGProp import BRepGProp
from OCP.GProp import GProp_GProps
from OCP.STEPControl import STEPControl_Reader

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
}  # fmt: skip


def kernel(file):
    """(valid, volume) of a STEP file by the kernel's own analyzer and integration."""
    reader = STEPControl_Reader()
    reader.ReadFile(str(file))
    reader.TransferRoots()
    shape = reader.OneShape()
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
    assert volume == pytest.approx(part.sweep.volume, rel=1e-4)


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
    with pytest.raises(BuildCancelled):
        build_files(part_of(spring), [tmp_path / "part.step"], cancelled=lambda: True)
    assert list(tmp_path.iterdir()) == []


def test_limits_of_memory_and_time_are_kept(spring, tmp_path):
    part = part_of(spring)
    with pytest.raises(BuildError, match="GiB"):
        build_files(part, [tmp_path / "part.step"], limits=Limits(memory=500 * 2**20))
    with pytest.raises(BuildError):
        build_files(part, [tmp_path / "part.step"], limits=Limits(seconds=1))
    assert list(tmp_path.iterdir()) == []


def test_progress_grows_to_the_end(spring, tmp_path):
    told = []
    build_files(
        part_of(spring), [tmp_path / "part.step"], progress=lambda share, step: told.append(share)
    )
    assert told == sorted(told)
    assert 0 < told[0] < told[-1] <= 1
