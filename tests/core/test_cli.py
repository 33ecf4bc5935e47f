"""The command line as people and scripts use it."""

import io
import json
import subprocess
import sys
from contextlib import redirect_stderr, redirect_stdout
from pathlib import Path
from types import SimpleNamespace

import pytest
from metaspira.cli import common, main

DEMO = sorted((Path(__file__).resolve().parents[2] / "demo").glob("*.spira.json"))
FIGURES = {
    "wire_length", "path_length", "section_area", "volume", "mass", "turns", "pitch", "height", "min_gap",
    "min_bend_radius", "outside_diameter", "inside_diameter",
}  # fmt: skip


def run(*arguments):
    """The command line's answer, run in this process: its streams and its exit status."""
    out, errors = io.StringIO(), io.StringIO()
    with redirect_stdout(out), redirect_stderr(errors), pytest.raises(SystemExit) as ended:
        main([str(argument) for argument in arguments])
    return SimpleNamespace(returncode=ended.value.code, stdout=out.getvalue(), stderr=errors.getvalue())


def test_the_command_itself_runs(file):
    answer = subprocess.run(
        [sys.executable, "-m", "metaspira.cli", "check", file, "--json"], capture_output=True, text=True
    )
    assert answer.returncode == 0, answer.stderr
    assert json.loads(answer.stdout)["verdict"] == "clear"


@pytest.fixture
def file(spring, tmp_path):
    path = tmp_path / "spring.spira.json"
    path.write_text(json.dumps(spring))
    return path


def test_a_drawing_becomes_a_section(tmp_path):
    drawing = tmp_path / "plate.svg"
    drawing.write_text(
        '<svg xmlns="http://www.w3.org/2000/svg" viewBox="0 0 9 9"><path d="M0 0h6v3h-6z"/></svg>'
    )
    asked = run("section", drawing)
    assert asked.returncode == 2
    assert "say which it is" in asked.stderr
    answer = run("section", drawing, "--unit", "cm")
    assert answer.returncode == 0
    assert json.loads(answer.stdout)["loops"][0]["points"][1][0] == 60
    turned = run("section", drawing, "--unit", "mm", "--turned")
    assert json.loads(turned.stdout)["profile"] == [[6, -3], [6, 0]]


def test_thread_gives_the_contracts_keys():
    answer = run("thread", "1/4-20", "UNC", "--json")
    assert answer.returncode == 0
    told = json.loads(answer.stdout)
    keys = {
        "designation",
        "pitch",
        "starts",
        "lead",
        "lead_angle",
        "external",
        "internal",
        "stress_area",
    }
    assert keys <= set(told)
    assert told["pitch"] == 1.27
    for member in (told["external"], told["inch"]["internal"]):
        assert all(set(member[name]) == {"basic", "max", "min"} for name in ("major", "pitch", "minor"))
    assert "Hole to drill" in run("thread", "M10").stdout
    wrong = run("thread", "M10q")
    assert wrong.returncode == 2
    assert wrong.stderr.count("\n") == 1 and "did you mean" in wrong.stderr


def test_several_threads_at_once_are_a_list_in_their_order():
    answer = run("thread", "M10", "1/4-20", "UNC", "Tr40x7", "LH", "G", "1/2", "--json")
    told = [thread["designation"] for thread in json.loads(answer.stdout)]
    assert told == ["M10", "1/4-20 UNC", "Tr40x7-LH", "G 1/2"]
    shown = run("thread", "M10", "M12").stdout
    assert "M10  ISO metric" in shown
    assert "M12  ISO metric" in shown
    refused = run("thread", "M10", "nonsense", "M12")
    assert refused.returncode == 2
    assert "nonsense" in refused.stderr


@pytest.mark.thorough(only=["check"])
@pytest.mark.parametrize("command", ["check", "spring"])
def test_several_files_are_a_line_each_or_a_list(file, spring, tmp_path, command):
    stops = tmp_path / "stops.spira.json"
    spring["spring"] = {"kind": "compression", "points": [{"length": 40}]}
    file.write_text(json.dumps(spring))
    spring["fit"] = {"rod": 30}
    spring["spring"]["points"] = [{"length": 1}]
    stops.write_text(json.dumps(spring))
    answer = run(command, file, stops)
    assert answer.returncode == 1
    assert [line.split()[1] for line in answer.stdout.splitlines()] == ["clear", "stop"]
    told = json.loads(run(command, file, stops, "--json").stdout)
    assert [one["verdict"] for one in told] == ["clear", "stop"]
    missing = run(command, file, tmp_path / "none.json", stops, "--json")
    assert missing.returncode == 2
    assert [one["verdict"] for one in json.loads(missing.stdout)] == ["clear", "unusable", "stop"]
    assert len(missing.stderr.splitlines()) == 1


def test_a_command_loads_only_what_it_needs(file):
    """The names of all commands without any; a thread without geometry; a check without the kernel."""
    loaded = {
        ("--help",): ("numpy", "pydantic", "rich"),
        ("thread", "M10", "--json"): ("numpy", "pydantic", "rich", "numba"),
        ("check", str(file), "--json"): (
            "OCP",
            "trimesh",
            "ezdxf",
            "reportlab",
            "rich.markdown",
            "numba",
            "scipy.spatial",
        ),
    }
    for arguments, heavy in loaded.items():
        code = (
            "import sys\nfrom metaspira.cli import main\n"
            f"try:\n    main({list(arguments)!r})\nexcept SystemExit:\n    pass\n"
            f"print([name for name in {heavy!r} if name in sys.modules], file=sys.stderr)"
        )
        answer = subprocess.run([sys.executable, "-c", code], capture_output=True, text=True)
        assert answer.stderr.strip().endswith("[]"), (arguments, answer.stderr)


def test_check_gives_the_contracts_keys(file):
    answer = run("check", file, "--json")
    assert answer.returncode == 0, answer.stderr
    report = json.loads(answer.stdout)
    assert report["verdict"] == "clear"
    assert set(report["figures"]) >= FIGURES
    assert [check["id"] for check in report["checks"]] == [
        "bend", "self-contact", "clearance", "size", "twist", "section", "stance",
    ]  # fmt: skip
    for check in report["checks"]:
        assert {"id", "verdict", "value", "limit", "unit", "where", "why", "remedies"} <= set(check)


def test_the_search_for_remedies_ends_and_says_so(file, spring, monkeypatch):
    spring["path"]["pitch"] = 2
    file.write_text(json.dumps(spring))
    monkeypatch.setattr(common, "_REMEDY_SECONDS", -1.0)
    assert json.loads(run("check", file, "--json").stdout)["searched"] is False
    assert "there may be more" in run("check", file).stdout


@pytest.mark.parametrize(
    "arguments",
    [
        ("batch", "x" * 300),
        ("batch", ".", "-o", "FILE"),
        ("build", "FILE", "-o", "x" * 300 + "/part.stl"),
        ("section", "/proc/self/mem"),
    ],
)
def test_files_that_cannot_be_used_are_told_in_a_line(file, arguments):
    at = {"FILE": file, ".": file.parent}
    answer = run(*(at.get(argument, argument) for argument in arguments))
    assert answer.returncode == 2
    assert answer.stderr.startswith("metaspira: ") and answer.stderr.count("\n") == 1


@pytest.mark.parametrize("number", ["nan", "inf", "1e999"])
def test_a_number_that_is_not_finite_is_refused(file, number):
    measured = ("thread", "M10", "--pitch-diameter", "9", "--pitch-error", number)
    for arguments in (measured, ("coil", file, "--scatter", number)):
        answer = run(*arguments)
        assert answer.returncode == 2
        assert f"invalid finite value: '{number}'" in answer.stderr


def test_a_stop_is_status_1_and_writes_nothing(file, spring, tmp_path):
    spring["path"]["pitch"] = 2
    file.write_text(json.dumps(spring))
    out = tmp_path / "part.step"
    answer = run("build", file, "-o", out, "--json")
    assert answer.returncode == 1
    assert not out.exists()
    contact = next(c for c in json.loads(answer.stdout)["checks"] if c["id"] == "self-contact")
    assert contact["where"]
    assert contact["remedies"]


@pytest.mark.parametrize("suffix", ["step", "stl", "glb"])
def test_build_proves_what_it_writes(file, tmp_path, suffix):
    out = tmp_path / f"part.{suffix}"
    answer = run("build", file, "-o", out, "--json")
    assert answer.returncode == 0, answer.stderr
    proof = json.loads(answer.stdout)["proof"]
    assert set(proof) >= {"closed", "valid", "volume", "predicted_volume", "relative_error"}
    assert proof["closed"]
    assert proof["valid"]
    assert out.stat().st_size > 1000
    assert [p.name for p in tmp_path.iterdir() if p.name.startswith(".")] == []


@pytest.mark.parametrize(
    ("content", "arguments"),
    [
        ('{"format": "metaspira/1"', ["check"]),
        ('{"format": "metaspira/1"}', ["check"]),
        (b"\x00\xff", ["check"]),
        (None, ["check"]),
        ("{}", ["build", "-o", "x.step"]),
        ("ok", ["build", "-o", "x.docx"]),
        ("ok", ["build", "-o", "/no/such/folder/x.step"]),
        ("ok", ["build", "-o", "x.stl", "--chord-error", "-1"]),
        ("ok", ["frobnicate"]),
    ],
)  # fmt: skip
def test_unusable_input_is_one_line_and_status_2(file, content, arguments):
    if content is None:
        file.unlink()
    elif content != "ok":
        file.write_bytes(content if isinstance(content, bytes) else content.encode())
    command, *rest = arguments
    answer = run(command, file, *rest)
    assert answer.returncode == 2
    lines = answer.stderr.strip().splitlines()
    assert len(lines) == 1, answer.stderr
    assert lines[0].startswith("metaspira: /")
    assert ";" in lines[0]


def test_schema_is_json_schema():
    assert json.loads(run("schema").stdout)["$schema"].startswith("https://json-schema.org/")


@pytest.mark.thorough(
    but=[
        "1-shutter-return-spring.spira",
        "5-hoist-buffer-flat-wire.spira",
        "21-lens-clamp-bolt.spira",
        "13-boat-hoist-rope.spira",
    ]
)
@pytest.mark.parametrize("demo", DEMO, ids=lambda path: path.stem)
def test_demo_designs(demo):
    answer = run("check", demo, "--json")
    stops = ("hoist-buffer", "mooring-post")
    expected = "stop" if any(name in demo.name for name in stops) else "clear"
    expected = "watch" if "clock-hand-nut" in demo.name else expected
    assert json.loads(answer.stdout)["verdict"] == expected
