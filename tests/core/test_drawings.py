"""Dimensioned drawings: what is hidden, what is written, and the files as other readers see them."""

import io
import json
from datetime import date

import ezdxf
import numpy as np
import pytest
import trimesh
from metaspira.cli import main
from metaspira.drawings import DRAWINGS, drawing_of
from metaspira.drawings.seen import FRONT, TOP, seen_edges
from metaspira.parts import part_of
from metaspira.sheets.pdf import pdf_of
from metaspira.sheets.sheet import Drawing, Line, Row, Section, Sheet, Text
from pypdf import PdfReader
from svgelements import SVG
from svgelements import Text as SvgText

TODAY = date(2026, 11, 25)


def total(lines):
    return sum(float(np.linalg.norm(np.diff(line, axis=0), axis=1).sum()) for line in lines)


def test_of_a_box_one_sees_the_edges_in_front():
    box = trimesh.creation.box((4, 3, 2))
    lines = seen_edges(box.vertices, box.faces, FRONT, 0.01)
    assert total(lines) == pytest.approx(2 * (4 + 2), rel=0.01)
    assert total(seen_edges(box.vertices, box.faces, TOP, 0.01)) == pytest.approx(2 * (4 + 3), rel=0.01)


def test_what_stands_in_front_hides_what_is_behind():
    # From the front one looks along +y: the nearer box has the smaller y.
    near = trimesh.creation.box((4, 1, 2), trimesh.transformations.translation_matrix((0, -5, 0)))
    behind = trimesh.creation.box((2, 1, 1))
    beside = trimesh.creation.box((2, 1, 1), trimesh.transformations.translation_matrix((2, 0, 0)))
    for other, shown in ((behind, 0.0), (beside, 2 * 1 + 1)):
        both = trimesh.util.concatenate([near, other])
        lines = seen_edges(both.vertices, both.faces, FRONT, 0.01)
        assert total(lines) == pytest.approx(2 * (4 + 2) + shown, rel=0.02)


def test_the_silhouette_of_a_ball_is_its_circle():
    ball = trimesh.creation.icosphere(5, 3.0)
    lines = seen_edges(ball.vertices, ball.faces, FRONT, 0.005)
    assert np.allclose(np.linalg.norm(np.concatenate(lines), axis=1), 3.0, atol=0.02)


def texts(drawing):
    return [part.words for part in drawing.parts if isinstance(part, Text)]


def test_dimensions_are_the_parts_figures(spring):
    spring["material"] = "brass"
    said = texts(drawing_of(part_of(spring), TODAY))
    for words in (
        "⌀22.5",
        "50.489",
        "pitch 6",
        "inside ⌀17.5",
        "⌀2.5",
        "Brass",
        "2 : 1",
        "2026-11-25",
        "Dimensions in mm",
    ):
        assert words in said, words
    assert any("right hand, 8 turns" in words for words in said)


def test_they_are_in_the_recipes_unit_and_keep_inside_the_sheet(spring):
    spring |= {"unit": "in", "variables": {"wire": 0.1, "mean": "8 * wire"}}
    drawing = drawing_of(part_of(spring), TODAY)
    assert "⌀0.9" in texts(drawing)
    assert "Dimensions in in" in texts(drawing)
    points = np.concatenate([part.points for part in drawing.parts if isinstance(part, Line)])
    assert points.min() >= 0
    assert np.all(points.max(axis=0) <= [drawing.width, drawing.height])


@pytest.mark.parametrize(
    "change",
    [
        {"path": {"kind": "points", "points": [[0, 0, 0], [10, 20, 5], [30, 20, 40]]}},
        {"section": {"kind": "tube", "diameter": 2.5, "wall": 0.4}},
        {"section": {"kind": "rectangle", "width": 3, "height": 2}},
        {"path": {"kind": "straight", "length": 60}, "along": {"twist": {"total": "3 turns"}}},
    ],
)
def test_any_part_is_drawn(spring, change):
    spring |= change
    spring.pop("stance")
    assert len(drawing_of(part_of(spring), TODAY).parts) > 40


def test_a_thread_has_its_profile_and_sizes():
    part = part_of(
        {"format": "metaspira/1", "thread": {"designation": "M10"}, "host": {"kind": "rod", "length": 20}}
    )
    said = texts(drawing_of(part, TODAY))
    assert "pitch 1.5" in said
    assert "20" in said
    assert any("M10" in words for words in said)


def test_every_format_reads_back(spring):
    drawing = drawing_of(part_of(spring), TODAY)
    files = {suffix: write(drawing) for suffix, write in DRAWINGS.items()}
    space = ezdxf.read(io.StringIO(files[".dxf"].decode())).modelspace()
    assert {text.dxf.text for text in space.query("TEXT")} >= {"⌀22.5", "pitch 6"}
    assert len(space.query("LWPOLYLINE CIRCLE TEXT")) == len(drawing.parts)
    page = PdfReader(io.BytesIO(files[".pdf"])).pages[0]
    assert [round(float(side) * 25.4 / 72) for side in page.mediabox[2:]] == [420, 297]
    assert "Ø22.5" in page.extract_text()
    drawn = SVG.parse(io.BytesIO(files[".svg"]))
    assert "⌀22.5" in {text.text for text in drawn.elements() if isinstance(text, SvgText)}


def test_the_command_line_writes_it(spring, tmp_path):
    recipe, out = tmp_path / "spring.json", tmp_path / "drawing.pdf"
    recipe.write_text(json.dumps(spring))
    with pytest.raises(SystemExit) as ended:
        main(["drawing", str(recipe), "-o", str(out)])
    assert ended.value.code == 0
    assert out.read_bytes().startswith(b"%PDF")


def test_letters_of_formulas_are_printed_as_they_are():
    """What the PDF standard fonts lack; letters that no typeface here has are question marks."""
    words = "Σ F · π Δ τ ≤ √2 ⁴ σ = 8 F D / (π d³) − 5 µm"
    row = Row(words, words, "漢")
    sheet = Sheet("Δ", words, (Section("τ", (row,)),), (Drawing("", 10, 10, ()),), "±")
    text = "".join(page.extract_text() for page in PdfReader(io.BytesIO(pdf_of(sheet))).pages)
    for letter in set(words):
        assert letter in text
    assert text.count("?") == 1
