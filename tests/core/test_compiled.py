"""What is compiled ahead of time: the same code, without the compiler."""

import json
import re
import subprocess
import sys
from pathlib import Path

import metaspira
import numpy as np
import pytest
from metaspira.gaps.search import box_distance
from metaspira.numbers import compiled
from metaspira.numbers.vectors import row_dots, unit_crosses
from metaspira.paths.path import _by_true_length

CORE = Path(metaspira.__file__).parent


def test_every_module_with_compiled_functions_is_told():
    with_them = {
        ".".join(file.relative_to(CORE).with_suffix("").parts)
        for file in CORE.rglob("*.py")
        if re.search(r"^@compiled\(", file.read_text(encoding="utf-8"), re.MULTILINE)
    }
    assert with_them <= set(compiled.MODULES)


def test_the_library_is_made_of_the_functions_as_they_are():
    """Set-up makes it; where a function has changed since, set-up is due."""
    assert compiled.library().is_file()


@pytest.mark.parametrize("order", ["C", "F"])
def test_arrays_are_handed_on_as_they_were_declared(order):
    """Whole numbers, other layouts and slices count for what they are, not for their bytes."""
    a = np.array(np.arange(12).reshape(4, 3), order=order)
    assert row_dots(a, a[::-1]) == pytest.approx(np.einsum("ij,ij->i", a, a[::-1]))
    rng = np.random.default_rng(1)
    first, second = np.asarray(rng.normal(size=(6, 5, 3)), order=order)[::2], rng.normal(size=(3, 5, 3))
    there = np.cross(first, second)
    there /= np.linalg.norm(there, axis=-1, keepdims=True)
    assert unit_crosses(first, second, -1.0) == pytest.approx(-there)
    assert box_distance(np.arange(6), np.arange(6) + 10) == pytest.approx(np.sqrt(3 * 7.0**2))
    tangents, _ = _by_true_length(np.asfortranarray(first[0]), second[0])
    assert np.linalg.norm(tangents, axis=1) == pytest.approx(1.0)


def test_other_axes_are_refused():
    with pytest.raises(TypeError, match="is wanted, not 1 axes"):
        row_dots(np.zeros(3), np.zeros(3))


@pytest.mark.thorough
def test_without_the_library_the_answers_are_the_same(tmp_path):
    """Compiled as they are called, in a process that finds no library."""
    recipe = {
        "format": "metaspira/1",
        "path": {"kind": "coil", "diameter": 20, "turns": 4, "pitch": 3},
        "section": {"kind": "rectangle", "width": 3, "height": 2},
        "ends": {"end": {"kind": "ground"}},
    }
    code = (
        "import sys, json\nfrom importlib import machinery\n"
        "if sys.argv[1] == 'later':\n    machinery.EXTENSION_SUFFIXES[0] = '.none'\n"
        "from metaspira.checks import report_on\nfrom metaspira.parts import part_of\n"
        f"report = report_on(part_of(json.loads({json.dumps(recipe)!r})))\n"
        "print(json.dumps(report.as_dict()), 'numba' in sys.modules, sep='\\n')"
    )
    told = {}
    for when in ("ahead", "later"):
        answer = subprocess.run(
            [sys.executable, "-c", code, when], capture_output=True, text=True, check=True, cwd=tmp_path
        )
        report, loaded = answer.stdout.splitlines()
        assert loaded == str(when == "later")
        told[when] = json.loads(report)
    assert told["ahead"] == told["later"]
