"""Batches over a folder."""

import json

import pytest
from metaspira.cli import main
from metaspira.outputs import outputs


def run(*arguments):
    with pytest.raises(SystemExit) as ended:
        main(["batch", *map(str, arguments)])
    return ended.value.code


@pytest.fixture
def folder(spring, tmp_path):
    spring["spring"] = {"kind": "compression", "wire": "EN 10270-1 SH", "points": [{"length": 40}]}
    (tmp_path / "good.spira.json").write_text(json.dumps(spring))
    return tmp_path


def test_all_that_is_made_at_once_and_a_solid_are_made_of_a_recipe(folder, capsys):
    known = [key for key, one in outputs().items() if not one.built and not key.startswith("ladder.")] + [
        "step"
    ]
    assert run(folder, "-o", folder / "out", "--to", *known, "--json") == 0
    (row,) = json.loads(capsys.readouterr().out)
    assert row["made"] == [f"good.{what}" for what in known]
    assert all((folder / "out" / name).stat().st_size > 100 for name in row["made"])


def test_a_stop_and_an_unusable_recipe_do_not_hold_the_others_up(folder, spring, capsys):
    del spring["spring"]
    spring["path"]["pitch"] = 2
    (folder / "stops.spira.json").write_text(json.dumps(spring))
    assert run(folder, "--to", "path.csv", "--json") == 1
    (folder / "broken.spira.json").write_text("{")
    capsys.readouterr()
    assert run(folder, "--to", "path.csv", "--json") == 2
    told = {row["file"].split(".")[0]: row for row in json.loads(capsys.readouterr().out)}
    assert [told[name]["verdict"] for name in ("good", "stops", "broken")] == [
        "clear",
        "stop",
        "unusable",
    ]
    assert told["good"]["made"] == ["good.path.csv"]
    assert told["stops"]["made"] == []
    assert "JSON" in told["broken"]["why"]


def test_bad_calls_are_told(folder, tmp_path_factory, capsys):
    assert run(folder, "--to", "doc") == 2
    assert run(folder / "nowhere") == 2
    assert run(tmp_path_factory.mktemp("empty")) == 2
    assert "ends in .spira.json" in capsys.readouterr().err
