"""Paths read from files, held against the curves that were written there."""

import io

import ezdxf
import numpy as np
import pytest
from metaspira.formats.curves import read_path
from metaspira.formats.lines import lines_of
from metaspira.outputs.building import build_files
from metaspira.parts import part_of
from metaspira.problems import RecipeError


def path_of(found):
    recipe = {
        "format": "metaspira/1",
        "path": {"kind": "points", "points": found.points, "closed": found.closed},
        "section": {"kind": "round", "diameter": 0.1},
    }
    return part_of(recipe).path


@pytest.mark.parametrize("suffix", [".csv", ".dxf"])
def test_a_path_that_was_written_is_read_again(spring, suffix):
    part = part_of(spring)
    found = read_path(lines_of(part, suffix)[0].encode(), suffix, None)
    assert not found.closed
    assert len(found.points) <= 500
    path = path_of(found)
    assert path.length == pytest.approx(part.path.length, rel=1e-3)
    ends = path.derivatives(np.array([0.0, path.length]), 0)[0]
    expected = part.path.derivatives(np.array([0.0, part.path.length]), 0)[0]
    assert np.abs(ends - expected).max() < 0.01
    assert found.deviation < 0.06


def drawn(*entities):
    document = ezdxf.new(units=ezdxf.units.IN)
    for kind, *values in entities:
        getattr(document.modelspace(), kind)(*values)
    text = io.StringIO()
    document.write(text)
    return text.getvalue().encode()


def test_pieces_of_a_drawing_are_joined_in_its_unit():
    data = drawn(("add_line", (0, 0), (2, 0)), ("add_arc", (2, 1), 1, -90, 0), ("add_line", (9, 9), (9, 9.5)))
    found = read_path(data, ".dxf", None)
    assert found.pieces == 3
    assert path_of(found).length == pytest.approx((2 + np.pi / 2) * 25.4, rel=2e-3)


def test_a_circle_of_an_svg_is_closed():
    data = (
        b'<svg xmlns="http://www.w3.org/2000/svg" width="60mm" height="60mm" viewBox="0 0 60 60"><circle '
        b'cx="30" cy="30" r="20"/></svg>'
    )
    found = read_path(data, ".svg", None)
    assert found.closed
    assert path_of(found).length == pytest.approx(2 * np.pi * 20, rel=1e-3)


def test_the_longest_edge_of_a_step_file_is_taken(spring, tmp_path):
    spring["path"]["turns"] = 2
    build_files(part_of(spring), [tmp_path / "part.step"])
    found = read_path((tmp_path / "part.step").read_bytes(), ".step", None)
    assert found.pieces > 4
    assert path_of(found).length > 50


def test_a_table_without_heads_asks_for_its_unit():
    data = b"0,0,0\n1,0,0\n2,1,0\n3,1,2\n"
    with pytest.raises(RecipeError) as refused:
        read_path(data, ".csv", None)
    assert refused.value.problems[0].place == "/unit"
    assert read_path(data, ".csv", "cm").points[-1] == [30, 10, 20]


@pytest.mark.parametrize("suffix", [".csv", ".dxf", ".svg", ".step"])
@pytest.mark.parametrize(
    "data",
    [
        b"",
        b"x,y,z\n1,2\n",
        b"x,y,z,body\n1,2\n",
        b"x mm,y mm,z mm\n1,nan,2\n3,4,inf\n",
        b"x mm,y mm,z mm\n1,1e300,2\n3,4,5\n",
        b"\xff\xfe\x00" * 100,
        b"<svg><path d='M0 0 L1e400 0'/></svg>",
        b'<!DOCTYPE s [<!ENTITY a "aaaa">]><svg>&a;</svg>',
        b"0\nSECTION\n2\nENTITIES\n0\nLINE\n",
        b"x,y,z\n" + b"1,1,1\n" * 50,
    ],
)
def test_hostile_files_are_refused(data, suffix):
    with pytest.raises(RecipeError) as refused:
        read_path(data, suffix, "mm")
    assert refused.value.problems[0].remedy
