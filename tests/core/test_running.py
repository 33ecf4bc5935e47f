"""Run-throughs: frames against parts made alone, and the animation as other readers see it."""

import io
import json
import zipfile

import numpy as np
import pygltflib
import pytest
import trimesh
from metaspira.checks import report_on
from metaspira.cli import main
from metaspira.parts import part_of
from metaspira.problems import Cancelled, RecipeError
from metaspira.recipe.reading import read_recipe
from metaspira.studies.film import glb_of, pictures_of, video_of, zip_of
from metaspira.studies.run import Track, run_through
from PIL import Image


def film(recipe, *tracks, frames=9, **more):
    moves = [Track(input=place, values=values, ease="straight") for place, values in tracks]
    return run_through(read_recipe(recipe), moves, frames, 2.0, **more)


def test_each_frame_is_the_part_of_its_values_and_the_first_clash_is_found(spring):
    found = film(spring, ("/path/pitch", [6, 2]), ("/path/turns", [8, 4, 8]))
    assert [frame.values for frame in found.run.frames[::4]] == [[6, 8], [4, 4], [2, 8]]
    assert found.run.clash == 7
    assert found.run.frames[6].verdict != "stop"
    assert "runs into" in found.run.frames[7].why or found.run.frames[7].why
    spring["path"] |= {"pitch": 4, "turns": 4}
    alone = report_on(part_of(spring), with_remedies=False)
    assert found.run.frames[4].figures["wire_length"] == alone.figures["wire_length"]


def test_a_spring_is_pressed_as_its_working_point_moves(spring):
    spring["spring"] = {"kind": "compression", "wire": "EN 10270-1 SM", "points": [{"length": 40}]}
    found = film(spring, ("/spring/points/0/length", [44, 30]), frames=8)
    free = part_of(spring)
    for frame, shape in zip(found.run.frames, found.wires[0][1], strict=True):
        (length,) = frame.values
        assert frame.figures["force"] == pytest.approx(free.spring.at_length(length).force)
        assert frame.figures["height"] == pytest.approx(free.worked_to(length).path.coil.height)
        assert np.ptp(shape[:, 2]) == pytest.approx(frame.figures["overall_height"], abs=0.02)
    forces = [frame.figures["force"] for frame in found.run.frames]
    assert forces == sorted(forces) and forces[0] > 0


def test_the_meshes_have_the_volume_of_the_parts(spring):
    spring["section"] = {"kind": "rectangle", "width": 3, "height": 2}
    found = film(spring, ("/path/pitch", [6, 8]), frames=3)
    ((_, vertices, faces),) = found.wires
    for shape, frame in zip(vertices, found.run.frames, strict=True):
        mesh = trimesh.Trimesh(shape, faces, process=False)
        assert mesh.is_watertight
        assert mesh.volume == pytest.approx(frame.figures["volume"], rel=0.03)


def test_a_frame_that_cannot_be_used_keeps_the_last_shape(spring):
    found = film(spring, ("/path/turns", [4, -4]), frames=5)
    assert [frame.verdict for frame in found.run.frames] == [
        "clear",
        "clear",
        "unusable",
        "unusable",
        "unusable",
    ]
    ((_, vertices, _),) = found.wires
    assert np.array_equal(vertices[4], vertices[1])
    assert found.run.frames[4].why
    with pytest.raises(RecipeError, match="no frame"):
        film(spring, ("/path/turns", [-4, -2]), frames=3)


def test_the_animation_reads_as_gltf(spring, tmp_path):
    found = film(spring, ("/path/pitch", [6, 8]), frames=5)
    file = tmp_path / "run.glb"
    file.write_bytes(glb_of(found))
    told = pygltflib.GLTF2().load(str(file))
    assert len(told.meshes[0].primitives[0].targets) == 4
    (channel,) = told.animations[0].channels
    assert channel.target.path == "weights"
    clock = told.accessors[told.animations[0].samplers[0].input]
    assert (clock.count, clock.max) == (5, [2.0])
    assert told.accessors[told.animations[0].samplers[0].output].count == 20
    mesh = trimesh.load(file, force="mesh")
    assert mesh.volume * 1e9 == pytest.approx(found.run.frames[0].figures["volume"], rel=0.05)


def test_pictures_and_video_have_a_frame_each(spring):
    images = pictures_of(film(spring, ("/path/pitch", [6, 8]), frames=4))
    with zipfile.ZipFile(io.BytesIO(zip_of(images))) as file:
        assert file.namelist() == [f"frame-{k:03}.png" for k in range(1, 5)]
        assert Image.open(file.open("frame-001.png")).size == (640, 440)
    assert Image.open(io.BytesIO(video_of(images, 2.0))).n_frames == 4
    assert images[0].tobytes() != images[3].tobytes()


def test_a_run_is_stopped_and_bad_ones_are_refused(spring):
    with pytest.raises(Cancelled):
        film(spring, ("/path/pitch", [6, 8]), cancelled=lambda: True)
    for tracks, frames in (
        ([], 5),
        ([("/path/pich", [1, 2])], 5),
        ([("/path/pitch", [6, 8])], 1),
        ([("/path/pitch", [6, 8])] * 2, 5),
    ):
        with pytest.raises(RecipeError) as refused:
            film(spring, *tracks, frames=frames)
        assert refused.value.problems[0].remedy


def test_the_command_line_runs_through_and_tells_a_clash(spring, tmp_path, capsys):
    recipe = tmp_path / "spring.spira.json"
    recipe.write_text(json.dumps(spring))
    move = ["run", str(recipe), "--frames", "4", "--move"]
    with pytest.raises(SystemExit) as ended:
        main([*move, "/path/pitch=6:2", "-o", str(tmp_path / "run.glb"), "--json"])
    told = json.loads(capsys.readouterr().out)
    assert ended.value.code == 1 and told["clash"] == 3
    assert pygltflib.GLTF2().load(str(tmp_path / "run.glb")).animations
    for wrong in ("/path/pitch=6", "/path/pitch=6:x", "/path/nothing=1:2"):
        with pytest.raises(SystemExit) as ended:
            main([*move, wrong])
        assert ended.value.code == 2 and "\n" not in capsys.readouterr().err.strip()
