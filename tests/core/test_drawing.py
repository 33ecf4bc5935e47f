"""Drawings: loops out of DXF files written by ezdxf, and out of SVG."""

import io
import json
import math
from pathlib import Path

import ezdxf
import numpy as np
import pytest
from metaspira.formats import outlines
from metaspira.formats.drawing import read_drawing
from metaspira.parts import part_of
from metaspira.problems import RecipeError
from metaspira.sections.loops import outline_of


def dxf(draw, unit=4):
    document = ezdxf.new()
    document.header["$INSUNITS"] = unit
    draw(document.modelspace())
    text = io.StringIO()
    document.write(text)
    return text.getvalue().encode()


def svg(body, size='width="40mm" height="40mm" viewBox="0 0 40 40"'):
    return f'<svg xmlns="http://www.w3.org/2000/svg" {size}>{body}</svg>'.encode()


def plate(space):
    """A plate with a round end, from loose pieces, and two holes."""
    space.add_line((0, 0), (20, 0))
    space.add_line((20, 10), (0, 10))
    space.add_line((0, 10), (0, 0))
    space.add_arc((20, 5), 5, -90, 90)
    space.add_circle((6, 5), 2)
    space.add_lwpolyline([(14, 3), (18, 3, 0, 0, 1), (18, 7), (14, 7, 0, 0, 1)], close=True)


def test_loose_pieces_of_a_dxf_become_an_outline_with_holes():
    found = read_drawing(dxf(plate), ".dxf", None)
    assert found.faults == ()
    area = 20 * 10 + math.pi * 12.5 - math.pi * 4 - (4 * 4 + math.pi * 4)
    assert outline_of(found.loops, "/loops").area == pytest.approx(area, rel=2e-4)
    part = part_of(
        {
            "format": "metaspira/1",
            "path": {"kind": "straight", "length": 30},
            "section": {"kind": "free", "loops": [loop.model_dump() for loop in found.loops]},
        }
    )
    assert part.sweep.volume == pytest.approx(30 * part.outline.area, rel=1e-9)


def test_units_are_the_files_or_are_asked_for():
    inches = read_drawing(dxf(plate, unit=1), ".dxf", None)
    assert max(p[0] for p in inches.loops[0].points) > 20 * 25.4 - 1e-6
    bare = dxf(plate, unit=0)
    with pytest.raises(RecipeError, match="does not say its unit"):
        read_drawing(bare, ".dxf", None)
    assert read_drawing(bare, ".dxf", "cm").loops
    with pytest.raises(RecipeError, match="does not say its unit"):
        read_drawing(svg('<circle cx="9" cy="9" r="5"/>', 'viewBox="0 0 40 40"'), ".svg", None)


def test_svg_paths_with_curves_and_holes():
    body = '<path d="M0 0 H20 V10 H0 Z M4 3 h6 v4 h-6 z"/>'
    found = read_drawing(svg(body), ".svg", None)
    assert outline_of(found.loops, "/loops").area == pytest.approx(200 - 24, rel=1e-6)
    round_ = read_drawing(svg('<circle cx="20" cy="20" r="5"/>'), ".svg", None)
    assert outline_of(round_.loops, "/loops").area == pytest.approx(math.pi * 25, rel=5e-4)


def test_what_is_open_crossing_or_tiny_is_named_and_placed():
    def draw(space):
        space.add_lwpolyline([(0, 0), (10, 0), (10, 10), (0, 10)], close=True)
        space.add_lwpolyline([(20, 0), (30, 10), (30, 0), (20, 10)], close=True)
        space.add_line((40, 0), (50, 5))
        space.add_circle((60, 0), 1e-4)

    found = read_drawing(dxf(draw), ".dxf", None)
    assert {fault.what for fault in found.faults} == {"open", "crossing", "tiny"}
    crossing = next(fault for fault in found.faults if fault.what == "crossing")
    assert crossing.points[0] == pytest.approx((25, 5))
    assert found.loops[0].closed
    assert outline_of(found.loops[:1], "/loops").area == pytest.approx(100)


@pytest.mark.parametrize("suffix", [".dxf", ".svg"])
@pytest.mark.parametrize(
    "data", [b"", b"garbage", b"<svg", b"\x00\xff" * 50, b"0\nSECTION\n2\nENTITIES\n0\nLINE\n"]
)
def test_files_that_cannot_be_read_are_refused(data, suffix):
    with pytest.raises(RecipeError):
        read_drawing(data, suffix, "mm")


def test_entities_and_large_files_are_refused():
    bomb = b'<!DOCTYPE svg [<!ENTITY a "aaaa">]>' + svg("<path d='M0 0h1v1z'/>")
    with pytest.raises(RecipeError, match="entities"):
        read_drawing(bomb, ".svg", "mm")
    with pytest.raises(RecipeError, match="keep it under"):
        read_drawing(b" " * 4_000_001, ".svg", "mm")


@pytest.mark.parametrize("suffix", [".dxf", ".svg"])
@pytest.mark.parametrize("number", [1, 6, 9, 14, 15])
def test_what_goes_out_comes_back_in_place_and_size(number, suffix):
    """The section as it was written, of whichever plane it was given in."""
    file = next((Path(__file__).resolve().parents[2] / "demo").glob(f"{number}-*"))
    part = part_of(json.loads(file.read_text()))
    text, _ = outlines.outline_of(part, suffix)
    found = read_drawing(text.encode(), suffix, None)
    outline = part.outline
    assert found.plane == part.recipe.section.plane
    assert [fault.what for fault in found.faults] == ([] if outline.closed else ["open"])
    again = outline_of(found.loops, "/section")
    assert again.box == pytest.approx(outline.box, abs=2e-3 * outline.reach)
    if outline.closed:
        assert again.area == pytest.approx(outline.area, rel=1e-3)


def test_a_loop_of_very_many_points_is_made_simpler_and_says_so():
    angle = np.linspace(0, 2 * np.pi, 6001)
    points = " ".join(f"{50 + 40 * np.cos(a):.5f},{50 + 40 * np.sin(a):.5f}" for a in angle[:-1])
    size = 'width="100mm" height="100mm" viewBox="0 0 100 100"'
    found = read_drawing(svg(f'<polygon points="{points}"/>', size), ".svg", None)
    assert len(found.loops[0].points) <= 2000
    (fault,) = found.faults
    assert fault.what == "thinned" and "kept within" in fault.text
    outline = found.loops[0].outline("/section")
    assert outline.area == pytest.approx(np.pi * 40**2, rel=1e-3)
