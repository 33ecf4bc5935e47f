"""The wheel in an environment of its own, away from the sources: the command line, a STEP file, the workbench
and its shelf."""

import json
import os
import re
import shutil
import subprocess
import sys
import venv
import zipfile

import pytest
from metaspira.numbers.compiled import library
from playwright.sync_api import expect

from tests.running import ROOT, end, free_port, started, wait_for

SPRING = {
    "format": "metaspira/1",
    "path": {"kind": "coil", "diameter": 20, "turns": 8, "pitch": 6},
    "section": {"kind": "round", "diameter": 2.5},
}


@pytest.fixture
def context(browser, browser_context_args):
    """Beside no other server than that of the wheel."""
    own = browser.new_context(**browser_context_args)
    yield own
    own.close()


def pip(python, *arguments):
    """Without the PYTHONPATH of whoever runs the tests, by which pip takes the sources for installed."""
    subprocess.run(
        [python, "-m", "pip", "-q", "--disable-pip-version-check", *arguments],
        check=True,
        env=bare_environment(),
    )


@pytest.fixture(scope="module")
def wheel(tmp_path_factory):
    """Built from what is in the repository and the built interface, and nothing else."""
    source = tmp_path_factory.mktemp("source")
    listed = subprocess.run(
        ["git", "ls-files", "-co", "--exclude-standard"], cwd=ROOT, capture_output=True, text=True, check=True
    )
    for name in listed.stdout.split("\n"):
        if (ROOT / name).is_file():
            (source / name).parent.mkdir(parents=True, exist_ok=True)
            shutil.copy(ROOT / name, source / name)
    shutil.copytree(ROOT / "web/dist", source / "web/dist")
    shutil.copy(library(), source / library().relative_to(ROOT))
    pip(sys.executable, "wheel", "--no-deps", "-w", source / "out", source)
    return next((source / "out").glob("metaspira-*.whl"))


@pytest.fixture(scope="module")
def installed(wheel, tmp_path_factory):
    """The folder of an environment with the wheel, and the versions that the project is made with."""
    folder = tmp_path_factory.mktemp("installed")
    venv.create(folder / "env", with_pip=True)
    pinned = re.findall(r"(?m)^([\w.-]+==\S+)", (ROOT / "requirements.txt").read_text())
    (folder / "versions.txt").write_text("\n".join(pinned))
    pip(folder / "env/bin/python", "install", "--no-compile", "-c", folder / "versions.txt", wheel)
    (folder / "spring.spira.json").write_text(json.dumps(SPRING))
    return folder


def run(installed, *arguments):
    return subprocess.run(
        [installed / "env/bin/metaspira", *arguments],
        cwd=installed,
        env=own_environment(installed),
        capture_output=True,
        text=True,
    )


def bare_environment():
    return {
        key: value
        for key, value in os.environ.items()
        if not key.startswith(("PYTHON", "DJANGO", "VIRTUAL", "METASPIRA"))
    }


def own_environment(installed):
    return {**bare_environment(), "HOME": str(installed), "XDG_DATA_HOME": str(installed / "own")}


def test_the_wheel_holds_data_interface_migrations_and_licences(wheel):
    held = set(zipfile.ZipFile(wheel).namelist())
    core = ROOT / "core"
    data = {str(file.relative_to(core)) for file in core.rglob("data/*.json")}
    assert len(data) > 5
    assert held >= data | {"metaspira/py.typed", "metaspira/workbench/web/dist/index.html"}
    assert any(name.startswith("metaspira/workbench/server/designs/migrations/") for name in held)
    assert {name.rpartition("/")[2] for name in held} >= {"LICENSE", "THIRD-PARTY.md"}
    assert not [name for name in held if "__pycache__" in name or "/var/" in name]
    assert str(library().relative_to(core)) in held
    assert not wheel.name.endswith("-any.whl")


@pytest.mark.thorough
def test_it_works_on_its_own_and_with_its_extras_it_serves(installed, wheel, page):
    told = run(installed, "check", "spring.spira.json", "--json")
    assert told.returncode == 0, told.stderr
    assert json.loads(told.stdout)["figures"]["wire_length"] == pytest.approx(504.941, abs=1e-3)
    assert json.loads(run(installed, "thread", "M10", "--json").stdout)["pitch"] == 1.5
    verified = run(installed, "verify", "lengths", "gauging", "solids")
    assert verified.returncode == 0 and "0 beyond" in verified.stdout, verified.stderr
    assert "solids: not calculated, OCP is missing" in verified.stderr
    refused = run(installed, "serve")
    assert refused.returncode == 2
    assert "pip install 'metaspira[solid,web]'" in refused.stderr

    pip(
        installed / "env/bin/python",
        "install",
        "--no-compile",
        "-c",
        installed / "versions.txt",
        f"metaspira[solid,web] @ {wheel.as_uri()}",
    )
    built = run(installed, "build", "spring.spira.json", "-o", "spring.step", "--json")
    assert built.returncode == 0, built.stderr
    assert json.loads(built.stdout)["proof"]["relative_error"] < 1e-6

    verified = run(installed, "verify", "files")
    assert verified.returncode == 0 and " 0 beyond" in verified.stdout, verified.stdout

    address = f"127.0.0.1:{free_port()}"
    server = started(
        [installed / "env/bin/metaspira", "serve", "--demo", "--at", address], own_environment(installed)
    )
    try:
        wait_for(f"http://{address}/api/designs", 180)
        taken = run(installed, "serve", "--at", address)
        assert taken.returncode == 2
        assert "cannot answer at" in taken.stderr
        page.goto(f"http://{address}", wait_until="domcontentloaded")
        designs = page.get_by_role("list", name="Designs").get_by_role("listitem")
        expect(designs).to_have_count(len(list((ROOT / "demo").glob("*.spira.json"))))
    finally:
        end(server)
    assert (installed / "own/metaspira/metaspira.sqlite3").is_file()
