"""The path as a line: read back by what others would read it with."""

import csv
import io
import json
import math

import ezdxf
import numpy as np
import pytest
from metaspira.cli import main
from metaspira.formats.lines import LINES, lines_of
from metaspira.parts import part_of
from svgelements import SVG, Path

COIL = {
    "format": "metaspira/1",
    "path": {"kind": "coil", "diameter": 20, "turns": 8, "pitch": 6},
    "section": {"kind": "round", "diameter": 2.5},
}


@pytest.mark.parametrize("suffix", LINES)
def test_every_format_holds_the_whole_length(suffix, tmp_path):
    nest = {**COIL, "wires": [{"path": {**COIL["path"], "diameter": 10}, "section": COIL["section"]}]}
    text, proof = lines_of(part_of(nest), suffix)
    exact = sum(8 * math.hypot(math.pi * d, 6) for d in (20, 10))
    assert proof.predicted_length == pytest.approx(exact, rel=1e-12)
    assert proof.length == pytest.approx(exact, rel=2e-5)
    (tmp_path / f"path{suffix}").write_text(text)


def test_the_table_tells_place_tangent_and_curvature(tmp_path):
    """A helix has curvature r / (r² + (p/2π)²) all along."""
    rows = list(csv.DictReader(lines_of(part_of(COIL), ".csv")[0].splitlines()))
    bend = 10 / (100 + (6 / (2 * math.pi)) ** 2)
    assert [float(row["curvature 1/mm"]) for row in rows] == pytest.approx([bend] * len(rows))
    for row in rows[::97]:
        assert math.hypot(float(row["x mm"]), float(row["y mm"])) == pytest.approx(10, rel=1e-8)
        assert math.hypot(*(float(row[f"tangent {axis}"]) for axis in "xyz")) == pytest.approx(1)
    assert float(rows[-1]["s mm"]) == pytest.approx(part_of(COIL).path.length)


def test_unrolled_a_cylinder_is_a_straight_line(tmp_path):
    file = tmp_path / "path.dxf"
    file.write_text(lines_of(part_of(COIL), ".dxf")[0])
    space = ezdxf.readfile(file).modelspace()
    flat = np.array([point[:2] for point in space.query("LWPOLYLINE")[0].get_points()])
    slopes = np.diff(flat[:, 1]) / np.diff(flat[:, 0])
    assert slopes == pytest.approx(6 / (math.pi * 20), rel=1e-6)
    assert flat[-1, 0] - flat[0, 0] == pytest.approx(8 * math.pi * 20, rel=1e-9)


def test_the_drawing_is_in_millimetres_and_upright():
    drawn = SVG.parse(io.StringIO(lines_of(part_of(COIL), ".svg")[0]), reify=False)
    front = next(e for e in drawn.elements() if isinstance(e, Path) and e.id == "front wire")
    left, top, right, bottom = front.bbox()
    inch = 96 / 25.4
    assert right - left == pytest.approx(20 * inch, rel=1e-4)
    assert bottom - top == pytest.approx(48 * inch)


def test_the_command_line_writes_a_path(tmp_path, capsys):
    file = tmp_path / "coil.spira.json"
    file.write_text(json.dumps(COIL))
    with pytest.raises(SystemExit) as left:
        main(["build", str(file), "-o", str(tmp_path / "path.csv"), "--json"])
    assert left.value.code == 0
    assert json.loads(capsys.readouterr().out)["proof"]["relative_error"] < 2e-5
