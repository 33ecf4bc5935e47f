"""Every file that a part can become: it is made, it says where it does not fit, and its name alone tells what
it is."""

import hashlib
import json
import zipfile
from dataclasses import asdict
from pathlib import Path

import pytest
from metaspira.cli import main
from metaspira.outputs import by_suffix, listing, output_for, outputs
from metaspira.outputs.files.hand_over import contents_of
from metaspira.parts import part_of
from metaspira.problems import RecipeError

ROOT = Path(__file__).parents[2]
SPRING = {
    "format": "metaspira/1",
    "name": "Spring",
    "path": {"kind": "coil", "diameter": 20, "turns": 6, "pitch": 6},
    "section": {"kind": "round", "diameter": 2},
    "spring": {"kind": "compression", "points": [{"length": 30}]},
}
BOLT = {
    "format": "metaspira/1",
    "thread": {"designation": "M10", "length": 4},
    "host": {"kind": "rod", "length": 7},
}
NEVER_OF_A_THREAD = {"Path of the wire", "Section", "Coiling table"}
NEVER_OF_A_SPRING = {"Fit ladder"}


@pytest.mark.thorough(only=["ladder.3mf", "ladder.stl", "zip"])
@pytest.mark.parametrize("key", outputs())
def test_every_file_of_a_part_is_made_and_another_is_told_why_not(key, tmp_path):
    output = outputs()[key]
    made, other = (BOLT, SPRING) if output.what in NEVER_OF_A_SPRING else (SPRING, BOLT)
    file = tmp_path / f"part.{key}"
    proof = output.save(part_of(made), file)
    assert file.stat().st_size > 400
    assert proof.get("relative_error", 0.0) < 0.02
    problem = output.misfit(part_of(other))
    assert (problem is not None) == (output.what in NEVER_OF_A_THREAD | NEVER_OF_A_SPRING)
    if problem is not None:
        with pytest.raises(RecipeError) as caught:
            output.save(part_of(other), tmp_path / "none")
        assert caught.value.problems == (problem,)
        assert problem.reason and problem.remedy
    assert not (tmp_path / "none").exists()


def test_an_archive_of_an_earlier_version_is_read(tmp_path):
    entry = {"name": "a.step", "what": "Solid", "unit": "mm", "bytes": 3, "sha256": "ab", "proof": {}}
    file = tmp_path / "old.zip"
    with zipfile.ZipFile(file, "w") as archive:
        archive.writestr("manifest.json", json.dumps({"design": "a", "files": [entry], "left_out": []}))
    with file.open("rb") as stream:
        (told,) = contents_of(stream).files
    assert (told.key, told.name, told.bytes) == ("", "a.step", 3)


def test_a_name_tells_what_the_file_is():
    for key in outputs():
        assert output_for(f"valve.v2.{key}").key == key
    assert output_for("path.svg").key == "path.svg"
    assert output_for("spring.csv").key == "path.csv"
    assert output_for("spring.pdf").key == "drawing.pdf"
    with pytest.raises(RecipeError) as caught:
        output_for("spring.docx")
    assert "spring.docx" in caught.value.problems[0].reason
    assert set(by_suffix("drawing")) == {".pdf", ".svg", ".dxf"}


def test_what_is_offered_of_a_part_tells_why_where_it_does_not_fit():
    plain = {key: value for key, value in SPRING.items() if key != "spring"}
    offered = {one["key"]: one["misfit"] for one in listing(part_of(plain))}
    assert list(offered) == list(outputs())
    assert offered["ladder.3mf"].place == "/path"
    assert offered["path.csv"] is None


def test_the_command_line_makes_what_a_name_says(tmp_path, capsys):
    recipe = tmp_path / "s.spira.json"
    recipe.write_text(json.dumps(SPRING))
    for name, start in (("s.sheet.pdf", b"%PDF"), ("s.coiling.csv", b"feed mm,"), ("s.drawing.dxf", b"  0")):
        with pytest.raises(SystemExit) as left:
            main(["build", str(recipe), "-o", str(tmp_path / name)])
        assert left.value.code == 0
        assert (tmp_path / name).read_bytes().startswith(start)
    with pytest.raises(SystemExit) as left:
        main(["build", str(recipe), "-o", str(tmp_path / "s.docx")])
    assert left.value.code == 2
    assert "does not end in a format made here" in capsys.readouterr().err


@pytest.mark.thorough(only=["bolt"])
@pytest.mark.parametrize("recipe", [SPRING, BOLT], ids=["spring", "bolt"])
def test_all_of_a_part_goes_into_one_archive(recipe, tmp_path):
    file = tmp_path / "part.zip"
    outputs()["zip"].save(part_of(recipe | {"title_block": {"number": "LW-1"}}), file)
    with zipfile.ZipFile(file) as archive:
        assert archive.testzip() is None
        manifest = json.loads(archive.read("manifest.json"))
        held = {entry["name"]: entry for entry in manifest["files"]}
        assert set(archive.namelist()) == {"manifest.json", *held}
        for name, entry in held.items():
            data = archive.read(name)
            assert (entry["bytes"], entry["sha256"]) == (len(data), hashlib.sha256(data).hexdigest())
        again = next(name for name in held if name.endswith(".spira.json"))
        assert part_of(json.loads(archive.read(again))).recipe.name == part_of(recipe).recipe.name
    assert manifest["number"] == "LW-1"
    keys = {key for key in outputs() if any(name.endswith(f".{key}") for name in held)}
    assert keys | {one["key"] for one in manifest["left_out"]} | {"zip"} == set(outputs())
    assert all(one["why"] for one in manifest["left_out"])
    with file.open("rb") as stream:
        assert asdict(contents_of(stream)) == {key: manifest[key] for key in ("files", "left_out")}
    step = next(entry for name, entry in held.items() if name.endswith(".step") and "ap214" not in name)
    assert step["proof"]["relative_error"] < 1e-5
