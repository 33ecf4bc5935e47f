"""Fit ladders: what is on the plate, read back by other readers."""

import locale
import math

import numpy as np
import pytest
import shapely
import trimesh
from metaspira.checks import report_on
from metaspira.cli import main
from metaspira.formats.threemf import read as read_3mf
from metaspira.outputs import made
from metaspira.parts import part_of
from metaspira.problems import RecipeError
from metaspira.solids.ladder import ladder_of


def part(thread=None, ladder=None, **more):
    asked = {} if ladder is None else {"ladder": ladder}
    return part_of(
        {
            "format": "metaspira/1",
            "thread": thread or {"designation": "M10"},
            "host": {"kind": "rod", "length": 20},
            **asked,
            **more,
        }
    )


@pytest.mark.thorough
def test_each_nut_is_opened_by_its_allowance():
    """The bore between the crests of a nut is wider than that of the first by twice its allowance: crests
    move by the allowance itself."""
    rungs = ladder_of(part(ladder={"step": 0.03, "pairs": 4}))
    assert [rung.name for rung in rungs] == ["plate of studs", "nut 0", "nut 3", "nut 6", "nut 9"]
    bores = []
    for rung in rungs[1:]:
        mesh = trimesh.Trimesh(rung.mesh.vertices, rung.mesh.faces)
        assert mesh.is_watertight and mesh.is_volume
        middle = mesh.bounds[:, 0].mean()
        top = mesh.vertices[mesh.vertices[:, 2] > mesh.bounds[1, 2] * 0.3]
        top = top[top[:, 2] < mesh.bounds[1, 2] * 0.7]
        low, high = mesh.bounds[0], mesh.bounds[1]
        across = high[1] - low[1]
        axis = np.array([middle, high[1] - 0.5 * 16])
        bores.append(2 * np.hypot(*(top[:, :2] - axis).T).min())
        assert across == pytest.approx(16 + 0.6, abs=0.02), "flats of 1.6 d, and the relief"
    assert np.diff(bores) == pytest.approx([0.06, 0.06, 0.06], abs=0.015)


def test_the_plate_holds_every_stud_and_its_number():
    (plate, *_) = ladder_of(part(ladder={"first": 0.05, "step": 0.05, "pairs": 3}))
    mesh = trimesh.Trimesh(plate.mesh.vertices, plate.mesh.faces)
    assert mesh.is_watertight and mesh.body_count == 1
    cut = trimesh.intersections.mesh_plane(mesh, [0, 0, 1], [0, 0, 3.3])[:, :, :2]
    shapes = shapely.polygonize(shapely.linestrings(np.round(cut, 4))).geoms
    sizes = [shape.bounds[2] - shape.bounds[0] for shape in shapes]
    studs = [size for size in sizes if size > 7]
    assert len(studs) == 3 and len(sizes) - len(studs) >= 5, "digits 5, 10 and 15"


def test_the_files_are_read_by_other_readers(tmp_path):
    for key in ("ladder.3mf", "ladder.stl"):
        data, proof = made(key).bytes_of(part(ladder={"pairs": 2}))
        assert proof["closed"] and proof["bodies"] == 3
        file = tmp_path / key
        file.write_bytes(data)
        if key.endswith("3mf"):
            vertices, faces, unit = read_3mf(file)
            mesh = trimesh.Trimesh(vertices * unit, faces)
        else:
            mesh = trimesh.load(file)
        assert mesh.is_watertight
        assert mesh.volume == pytest.approx(proof["volume"], rel=1e-4)


def test_the_locale_of_the_process_stays(tmp_path):
    """lib3mf changes it, and with it how text files are read from then on."""
    before = locale.setlocale(locale.LC_ALL)
    data, _ = made("ladder.3mf").bytes_of(part(ladder={"pairs": 2}))
    assert locale.setlocale(locale.LC_ALL) == before
    (tmp_path / "plate.3mf").write_bytes(data)
    read_3mf(tmp_path / "plate.3mf")
    assert locale.setlocale(locale.LC_ALL) == before


def test_shrinkage_makes_it_larger_along_each_axis():
    plain, grown = (
        ladder_of(part(ladder={"pairs": 2} | more))[0].mesh.vertices
        for more in ({}, {"shrinks_x": 1, "shrinks_y": 2, "shrinks_z": 0.5})
    )
    ratio = np.ptp(grown, axis=0) / np.ptp(plain, axis=0)
    assert ratio == pytest.approx([1 / 0.99, 1 / 0.98, 1 / 0.995], rel=1e-6)


def test_layers_are_held_against_the_pitch():
    for layer, verdict in ((0.2, "clear"), (0.4, "watch")):
        check = report_on(part(ladder={"layer": layer}))["layers"]
        assert check.verdict == verdict and check.value == pytest.approx(1.5 / layer)
    assert {remedy.input for remedy in check.remedies} == {"/ladder/layer"}


def test_what_cannot_be_a_ladder_says_why(tmp_path, capsys):
    with pytest.raises(RecipeError) as refused:
        made("ladder.stl").bytes_of(part(ladder={"step": 0.2}))
    assert refused.value.problems[0].place == "/ladder/step"
    for thread, host, place in (
        ({"designation": "1/2-14 NPT"}, {"kind": "rod", "length": 20}, "/use/as"),
        ({"designation": "M10-6g"}, {"kind": "rod", "length": 20}, None),
        ({"designation": "M10-6H"}, {"kind": "bore", "length": 20}, "/thread/designation"),
    ):
        problem = made("ladder.3mf").misfit(part(thread, host=host))
        assert (problem and problem.place) == place
    assert math.isclose(part(ladder={}).recipe.ladder.allowances(1.5)[-1], 0.1)
    file = tmp_path / "bolt.spira.json"
    file.write_text(
        '{"format": "metaspira/1", "thread": {"designation": "M6"}, "host": {"kind": "rod", "length": 20}}'
    )
    with pytest.raises(SystemExit) as ended:
        main(["batch", str(tmp_path), "--to", "ladder.stl", "-o", str(tmp_path / "out")])
    assert ended.value.code == 0
    assert list((tmp_path / "out").rglob("*.ladder.stl"))
