"""The library as a program meets it: light to import, each example of its page and of its docstrings runs."""

import doctest
import re
import subprocess
import sys
from pathlib import Path

import metaspira as ms
import numpy as np
import pytest
from metaspira import library
from metaspira.outputs.building import BuildError
from metaspira.recipe.kinds import kinds

ROOT = Path(__file__).parents[2]
PAGE = (ROOT / "docs/library.md").read_text(encoding="utf-8")
COIL = {"path": ms.Coil(diameter=20, turns=8, pitch=6), "section": ms.Round(diameter=2.5)}


def test_every_example_of_the_page_runs_in_its_order(tmp_path, monkeypatch, capsys):
    monkeypatch.chdir(tmp_path)
    monkeypatch.setenv("MPLBACKEND", "agg")
    blocks = re.findall(r"^## (.*?)\n.*?```python\n(.*?)```", PAGE, re.DOTALL | re.MULTILINE)
    assert len(blocks) == 10
    names = {}
    for title, block in blocks:
        exec(compile(block, title, "exec"), names)
    printed = capsys.readouterr().out
    assert "self-contact" in PAGE and "clear 504.9" in printed and "/section/diameter" in printed
    assert {file.suffix for file in tmp_path.iterdir()} == {".png", ".step", ".pdf", ".html", ".json"}


def test_the_examples_of_the_docstrings_are_true():
    assert doctest.testmod(library).failed == 0
    assert doctest.testmod(library).attempted > 10


def test_to_import_it_costs_next_to_nothing():
    """Nothing but the standard library, and nothing of its own, before something is used."""
    code = "import sys; import metaspira; print(*sorted(sys.modules))"
    told = subprocess.run([sys.executable, "-c", code], capture_output=True, text=True, check=True)
    loaded = {name.split(".")[0] for name in told.stdout.split()}
    assert not loaded & {"numpy", "pydantic", "scipy", "numba", "trimesh"}
    assert not [name for name in told.stdout.split() if name.startswith("metaspira.")]


def test_it_holds_every_kind_and_says_what_it_lacks():
    assert set(dir(ms)) >= {*library.__all__, *kinds()}
    assert ms.Coil is kinds()["Coil"]
    with pytest.raises(AttributeError, match="Koil"):
        _ = ms.Koil
    stub = [sys.executable, ROOT / "tools/stub.py", "--check"]
    assert subprocess.run(stub).returncode == 0


def test_what_it_gives_is_told_in_a_line():
    part = ms.part(name="Coil", **COIL)
    for one, told in (
        (COIL["path"], "Coil(diameter=20.0, turns=8.0, pitch=6.0)"),
        (part, "<Part “Coil”, 1 body>"),
        (part.check(), "<Report on “Coil”: clear, 7 checks>"),
        (ms.thread("M10-6g"), "<Thread M10-6g: "),
    ):
        assert repr(one).startswith(told)
        assert "\n" not in repr(one)


def test_wrong_names_are_told_with_the_nearest():
    report = ms.part(**COIL).check(remedies=False)
    with pytest.raises(KeyError, match="did you mean “self-contact”"):
        _ = report["self-contakt"]
    with pytest.raises(AttributeError, match="did you mean “wire_length”"):
        _ = report.figures.wire_lenght
    with pytest.raises(KeyError, match=r"they are .*self-contact"):
        _ = report["zzzzzz"]
    with pytest.raises(AttributeError, match=r"they are .*wire_length"):
        _ = report.figures.zzzzzz


def test_nothing_is_built_of_what_stops(tmp_path):
    part = ms.part(COIL, path=ms.Coil(diameter=20, turns=8, pitch=2))
    with pytest.raises(BuildError, match="Self-contact"):
        part.write(tmp_path / "tight.step")
    assert list(tmp_path.iterdir()) == []


def test_arrays_are_what_they_are_said_to_be():
    part = ms.part(COIL)
    line = part.line()
    steps = np.linalg.norm(np.diff(line.position, axis=0), axis=1).sum()
    assert steps == pytest.approx(line.s[-1], rel=1e-4)
    vertices, faces = part.mesh(0.02)
    a, b, c = (vertices[faces[:, k]] for k in range(3))
    volume = np.einsum("ij,ij->i", a, np.cross(b, c)).sum() / 6
    assert volume == pytest.approx(part.volume, rel=0.02)
    two = ms.part(
        COIL, wires=[{"path": ms.Coil(diameter=10, turns=8, pitch=6), "section": ms.Round(diameter=2)}]
    )
    assert len(two.mesh(0.05)[1]) > len(part.mesh(0.05)[1])
    with pytest.raises(ms.RecipeError, match="no wire 5"):
        two.line(5)
    with pytest.raises(ms.RecipeError, match="no centre line"):
        ms.part(thread="M10", host=ms.RodHost(length=20)).line()


def test_a_spring_that_cannot_be_found_says_why():
    with pytest.raises(ms.RecipeError, match=r"no spring fits|is used by"):
        ms.find_spring([(40, 200), (30, 6000)], bore=8)
    with pytest.raises(ms.RecipeError) as caught:
        ms.find_spring([(40, 20), (30, 60)], boor=24)
    assert "boor" in str(caught.value)
