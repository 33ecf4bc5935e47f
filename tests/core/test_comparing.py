"""What was changed between two recipes, in words, and what it changed."""

import copy
import json

import pytest
import trimesh
from metaspira.checks import report_on
from metaspira.cli import main
from metaspira.formats.bodies import bodies_in
from metaspira.outputs.building import build_files
from metaspira.parts import part_of
from metaspira.studies.body import held_against
from metaspira.studies.compare import changes, check_changes, figure_changes

COIL = {
    "format": "metaspira/1",
    "variables": {"wire": 2.5},
    "path": {"kind": "coil", "diameter": 20, "turns": 8, "pitch": 6},
    "section": {"kind": "round", "diameter": "wire"},
    "spring": {"kind": "compression", "points": [{"length": 40}]},
}


def test_changes_are_told_in_words_with_their_units():
    after = copy.deepcopy(COIL)
    after["path"] |= {"pitch": 6.5, "hand": "left"}
    after["material"] = "brass"
    after["variables"] = {"wire": 2.8, "long": "3 * wire"}
    after["spring"]["points"] = [{"force": 20}, {"length": 38}]
    after["along"] = {"twist": {"total": 90}}
    after["wires"] = [{"path": COIL["path"], "section": COIL["section"], "name": "inner coil"}]
    words = {change.place: change.words for change in changes(COIL, after)}
    assert words["/path/pitch"] == "pitch 6 → 6.5 mm"
    assert words["/path/hand"] == "hand right → left"
    assert words["/material"] == "material spring-steel → brass"
    assert words["/variables/wire"] == "variables wire 2.5 → 2.8"
    assert words["/variables/long"] == "variables long: 3 * wire added"
    assert words["/along/twist/total"] == "twist total: 90° added"
    assert words["/spring/points/0/force"] == "spring point 1 force: 20 N added"
    assert words["/spring/points/0/length"] == "spring point 1 length: 40 mm taken out"
    assert words["/wires/0/name"].endswith("inner coil added")
    assert changes(COIL, copy.deepcopy(COIL)) == []
    assert changes(after, COIL)[0].before is not None


def test_what_cannot_be_read_is_compared_as_it_was_typed():
    broken = {**COIL, "path": {**COIL["path"], "pitch": "6 + "}}
    assert [c.words for c in changes(COIL, broken) if c.place == "/path/pitch"] == ["pitch 6 → 6 + "]
    odd = {"points": {"x": None, "y": [1, None]}, "": 10**400, "deep": None}
    deep: dict = {}
    for _ in range(400):
        deep = {"points": [deep, 0]}
    assert len(changes(odd, {"points": {"y": [2]}, "deep": deep})) == 3


def test_figures_and_checks_that_turned_are_told():
    tight = {**COIL, "path": {**COIL["path"], "pitch": 2.4}}
    del tight["spring"]
    before, after = (report_on(part_of(recipe), with_remedies=False) for recipe in (COIL, tight))
    figures = {row.name: row for row in figure_changes(before, after)}
    assert figures["pitch"].before == 6 and figures["pitch"].after == 2.4
    assert "outside_diameter" in figures or "turns" not in figures
    assert "section_area" not in figures and "turns" not in figures
    turned = {row.id: (row.before, row.after) for row in check_changes(before, after)}
    assert turned["self-contact"] == ("clear", "stop")
    assert turned["spring-index"][1] is None
    assert figure_changes(before, before) == check_changes(before, before) == []


def test_the_command_line_compares_recipes_and_bodies(tmp_path, capsys):
    files = [tmp_path / f"{name}.spira.json" for name in ("before", "after")]
    coil = {name: value for name, value in COIL.items() if name != "spring"}
    files[0].write_text(json.dumps(coil))
    files[1].write_text(json.dumps({**coil, "path": {**coil["path"], "pitch": 2.2}}))
    box = tmp_path / "box.stl"
    trimesh.creation.box((30, 20, 10)).export(box)

    def told(*arguments):
        with pytest.raises(SystemExit) as ended:
            main(["compare", *map(str, arguments)])
        return ended.value.code, *capsys.readouterr()

    code, out, _ = told(*files)
    assert code == 0 and "pitch 6 → 2.2 mm" in out and "■ stop" in out
    found = json.loads(told(*files, "--json")[1])
    assert found["changes"][0]["place"] == "/path/pitch" and found["checks"]
    held = json.loads(told(box, files[0], "--unit", "mm", "--json")[1])
    assert held["figures"][0]["before"] == pytest.approx(6000)
    assert told(box, files[0])[0] == told(tmp_path / "no.stl", files[0])[0] == 2


def test_a_design_is_the_same_as_its_own_files_and_says_within_what(spring, tmp_path, capsys):
    recipe = tmp_path / "own.spira.json"
    recipe.write_text(json.dumps(spring))
    part = part_of(spring)
    for suffix in (".step", ".3mf", ".glb", ".stl"):
        file = tmp_path / f"own{suffix}"
        build_files(part, [file])
        held = held_against(part, bodies_in(file.read_bytes(), suffix, "mm", "own"))
        assert held.same, suffix
        assert 0 < held.within < 0.2
        if suffix == ".step":
            volume = next(row for row in held.figures if row.name == "volume")
            assert volume.before == pytest.approx(volume.after, rel=2e-5)
    with pytest.raises(SystemExit):
        main(["compare", str(tmp_path / "own.step"), str(recipe)])
    assert "They are the same, within " in capsys.readouterr().out
    spring["path"]["pitch"] = 6.4
    assert not held_against(part_of(spring), bodies_in(file.read_bytes(), ".stl", "mm", "own")).same


@pytest.mark.thorough
def test_a_thread_is_the_same_as_its_own_step_and_not_as_a_longer_one(tmp_path):
    recipe = {
        "format": "metaspira/1",
        "thread": {"designation": "M10", "length": 5},
        "host": {"kind": "rod", "length": 8, "diameter": 10},
    }
    part, file = part_of(recipe), tmp_path / "own.step"
    build_files(part, [file])
    read = bodies_in(file.read_bytes(), ".step", "mm", "own")
    held = held_against(part, read)
    assert held.same and 0 < held.within < 0.1
    recipe["host"]["length"] = 8.2
    assert not held_against(part_of(recipe), read).same
