"""Sections as drawings, read back by the reader of drawings, and by ezdxf and svgelements themselves."""

import io
import json

import ezdxf
import numpy as np
import pytest
from metaspira.cli import main
from metaspira.formats.drawing import read_drawing
from metaspira.formats.outlines import OUTLINES, outline_of
from metaspira.parts import part_of
from svgelements import SVG, Path

SECTIONS = [
    {"kind": "round", "diameter": 2.5},
    {"kind": "tube", "diameter": 4, "wall": 0.5},
    {"kind": "rectangle", "width": 3, "height": 2, "corner_radius": 0.4},
    {"kind": "star", "points": 5, "outer_diameter": 4, "inner_diameter": 2, "fillet": 0.2},
    {"kind": "trapezoid", "base": 3, "top": 2, "height": 2, "plane": "axial"},
]


@pytest.mark.parametrize("suffix", OUTLINES)
@pytest.mark.parametrize("section", SECTIONS, ids=lambda section: section["kind"])
def test_a_section_drawn_is_the_section_read(spring, section, suffix):
    spring["section"] = section
    part = part_of(spring)
    text, proof = outline_of(part, suffix)
    assert proof.relative_error < 1e-4
    found = read_drawing(text.encode(), suffix, None)
    assert found.plane == section.get("plane", "across")
    assert len(found.loops) == len(part.outline.loops)
    free = {"kind": "free", "loops": [loop.model_dump() for loop in found.loops], "plane": found.plane}
    again = part_of({**spring, "section": free}).outline
    assert again.area == pytest.approx(part.outline.area, rel=2e-4)
    assert again.box == pytest.approx(part.outline.box, abs=1e-3)


def test_round_wire_is_an_exact_circle_across_and_none_along(spring):
    text, _ = outline_of(part_of(spring), ".dxf")
    space = ezdxf.read(io.StringIO(text)).modelspace()
    across = [curve.construction_tool() for curve in space.query('SPLINE[layer=="ACROSS"]')]
    points = np.array([tuple(p) for curve in across for p in curve.points(np.linspace(0, curve.max_t, 50))])
    assert np.allclose(np.hypot(points[:, 0], points[:, 1]), 1.25, rtol=1e-12)
    # Through the axis round wire is higher than wide by 1/cos of the lead angle, to first order.
    drawn = SVG.parse(io.StringIO(outline_of(part_of(spring), ".svg")[0]), reify=False)
    axial = next(p for p in drawn.elements() if isinstance(p, Path) and p.id == "axial")
    left, top, right, bottom = axial.bbox()
    slope = np.arctan2(6, 20 * np.pi)
    assert (bottom - top) / (right - left) == pytest.approx(1 / np.cos(slope), rel=1e-3)


def test_an_open_line_is_drawn_as_long_as_it_is(spring):
    spring["section"] = {
        "kind": "free",
        "loops": [{"points": [[0, 0], [3, 1], [4, 4]], "closed": False}],
    }
    spring["use"] = {"as": "skin"}
    for suffix in OUTLINES:
        _, proof = outline_of(part_of(spring), suffix)
        assert proof.predicted == pytest.approx(10**0.5 + 10**0.5)
        assert proof.relative_error < 1e-9


def test_the_command_line_writes_it(spring, tmp_path):
    recipe, out = tmp_path / "spring.json", tmp_path / "section.dxf"
    recipe.write_text(json.dumps(spring))
    with pytest.raises(SystemExit) as ended:
        main(["outline", str(recipe), "-o", str(out)])
    assert ended.value.code == 0
    assert len(read_drawing(out.read_bytes(), ".dxf", None).loops) == 1
