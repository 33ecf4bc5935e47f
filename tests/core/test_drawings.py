"""Dimensioned drawings: what is hidden, what is written, and the files as other readers see them."""

import io
import json
import math
import re
import subprocess

import ezdxf
import numpy as np
import pikepdf
import pytest
import trimesh
from metaspira.cli import main
from metaspira.drawings import DRAWINGS, drawing_of
from metaspira.drawings.kinds import plan_of
from metaspira.drawings.letters import width
from metaspira.drawings.marks import Dimension, Drawing, Hatch, Line, Text
from metaspira.drawings.seen import FRONT, TOP, seen_edges
from metaspira.drawings.strokes import strokes
from metaspira.parts import part_of
from metaspira.sheets.pdf import pdf_of
from metaspira.sheets.sheet import Row, Section, Sheet
from metaspira.starting import starting_point
from metaspira.verification.cases.drawings import dimensions
from pypdf import PdfReader
from svgelements import SVG
from svgelements import Text as SvgText

from tests.demos import DEMOS, demo


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


def marks(drawing, kind):
    return [part for part in drawing.parts if isinstance(part, kind)]


def said(drawing):
    return {part.words for part in marks(drawing, Text)} | {part.words for part in marks(drawing, Dimension)}


@pytest.mark.thorough(
    but=[
        "1-shutter-return-spring",
        "4-gallery-baluster",
        "19-valve-spring-pair",
        "22-oil-can-lid",
        "29-lantern-door-torsion",
    ]
)
@pytest.mark.parametrize("file", DEMOS, ids=lambda file: file.name.split(".")[0])
def test_what_a_dimension_says_lies_between_its_ends_and_all_of_it_within_the_border(file):
    part = part_of(json.loads(file.read_text()))
    drawing = drawing_of(part)
    assert marks(drawing, Dimension)
    for words, said, between in dimensions(part, drawing):
        # the mesh that is drawn is within 1/250 of the wire's reach of the shape
        assert said == pytest.approx(between, rel=4e-3, abs=4e-3), words
    lines = [line for line in strokes(drawing.parts) if isinstance(line, Line)]
    points = np.concatenate([line.points for line in lines])
    assert points.min(axis=0) == pytest.approx([20, 10])
    assert points.max(axis=0) == pytest.approx([drawing.width - 10, drawing.height - 10])
    for text in strokes(drawing.parts):
        if isinstance(text, Text):
            wide = width(text.words, text.size)
            start = {"start": 0.0, "middle": -0.5, "end": -1.0}[text.anchor] * wide
            along = text.place[1 if text.upright else 0] + np.array([start, start + wide])
            assert along.min() > 10, text
            assert along.max() < (drawing.height if text.upright else drawing.width) - 9, text


def figures_said(data):
    return said(drawing_of(part_of(data)))


def test_a_compression_spring_has_what_is_ordered_by(spring):
    spring |= {"material": "brass", "spring": {"kind": "compression", "wire": "EN 10270-1 SH"}}
    words = figures_said(spring)
    assert {"De 22.5", "p 6", "d ⌀2.5", "Brass", "Dimensions in mm"} <= words
    # a helix whose slope is p / πD stands d · cos of it high beyond its rise of n p
    high = 8 * 6 + 2.5 * math.cos(math.atan2(6, 20 * math.pi))
    assert any(word.startswith("L0 ") and float(word[3:]) == pytest.approx(high, rel=2e-3) for word in words)
    assert any("Wound right hand, 8 turns" in word for word in words)


def test_an_extension_spring_has_the_diameter_of_its_body(spring):
    words = figures_said(demo(8))
    # wire 2.2 on a mean diameter of 18, 12 turns that touch: (12 + 1) · 2.2 and what they rise to lie close
    assert {"De 20.2", "d ⌀2.2"} <= words
    assert any(word.startswith("L0 ") for word in words)


def test_a_torsion_spring_has_its_body_and_its_legs():
    words = figures_said(demo(29))
    assert {"De 20.2", "Di ⌀15.8", "leg 28"} <= words
    assert not any("59.4" in word for word in words)


def test_an_oval_coil_has_two_widths():
    data = demo(10)
    drawing = drawing_of(part_of(data))
    assert not any(word.startswith("⌀") for word in said(drawing))
    widths = [one for one in marks(drawing, Dimension) if not one.upright]
    assert len(widths) >= 1


def test_a_nut_has_its_width_across_flats_and_its_own_tolerance():
    words = figures_said(demo(21))
    assert {"AF 16", "M10-6g", "M10-6H", "36", "22", "9.732", "9.968"} <= words


def test_each_wire_of_a_nest_has_a_row_of_its_own():
    words = figures_said(demo(19))
    assert {"right", "left", "906.91", "775.06", "Parts list"} <= words


def test_sections_are_those_where_they_stand():
    data = {
        "format": "metaspira/1",
        "path": {"kind": "straight", "length": 60},
        "section": {"kind": "round", "diameter": 10},
        "along": {"size": {"from": 1, "to": 0.4}},
    }
    words = figures_said(data)
    assert {"Section at 0, 2 : 1", "Section at 30, 5 : 1", "Section at 60, 10 : 1"} <= words
    assert {"10", "7", "4", "60"} <= words


def test_an_inch_drawing_is_in_inches_and_pounds(spring):
    spring |= {
        "unit": "in",
        "variables": {"wire": 0.1, "mean": "8 * wire"},
        "spring": {"kind": "compression", "wire": "EN 10270-1 SH", "points": [{"force": "20 lbf"}]},
    }
    drawing = drawing_of(part_of(spring))
    words = said(drawing)
    assert {"De 0.9", "Dimensions in in", "lbf", "in"} <= words
    assert any(word.startswith("Rate R = ") and word.endswith(" lbf/in") for word in words)
    assert any(word.endswith(" lb") for word in words)
    assert (drawing.width, drawing.height) in [(215.9, 279.4), (431.8, 279.4)]
    assert not any(re.search(r"\d (N|mm|MPa|g)\b", word) for word in words)


@pytest.mark.parametrize(
    "change",
    [
        {"path": {"kind": "points", "points": [[0, 0, 0], [10, 20, 5], [30, 20, 40]]}},
        {"section": {"kind": "tube", "diameter": 2.5, "wall": 0.4}},
        {"section": {"kind": "rectangle", "width": 3, "height": 2}},
        {"path": {"kind": "straight", "length": 60}, "along": {"twist": {"total": "3 turns"}}},
        {"note": "long " * 790},
        {"note": "𝛑" * 1900},
        {"name": "W" * 120},
    ],
    ids=lambda change: str(change)[:40],
)
def test_any_part_is_drawn(spring, change):
    spring |= change
    if "path" in change or "section" in change:
        spring.pop("stance")
    assert len(drawing_of(part_of(spring)).parts) > 40


def test_nothing_is_cut_and_nothing_is_a_question_mark(spring):
    told = "Σ π Δ τ ≤ ≥ → √ ⌀ Ø Ł ž Ж 日本 简体 한국 ⟂ ½ ″ " + "every word of a long note stays " * 20
    spring |= {
        "name": "Łódź spring 日本 " + "x" * 90,
        "note": told + "to its end.",
        "title_block": {"owner": "Æ" * 80},
    }
    drawing = drawing_of(part_of(spring))
    page = PdfReader(io.BytesIO(DRAWINGS[".pdf"](drawing))).pages[0].extract_text()
    page = " ".join(page.split())
    for piece in ("Σ π Δ τ ≤ ≥ → √ ⌀ Ø Ł ž Ж", "日本", "简体", "한국", "½", "to its end.", "Łódź"):
        assert piece in page, piece
    assert "?" not in page
    assert page.count("x") >= 90
    assert page.count("Æ") == 80


def test_the_title_block_is_filled_in(spring):
    block = {
        "owner": "Lighthouse Works",
        "number": "LW-0417",
        "revision": "C",
        "creator": "M. Keeper",
        "approver": "A. Keeper",
        "tolerances": "ISO 2768-m",
    }
    assert set(block.values()) <= figures_said(spring | {"title_block": block})


def test_every_format_reads_back(spring, tmp_path):
    spring |= {"spring": {"kind": "compression", "wire": "EN 10270-1 SH"}}
    drawing = drawing_of(part_of(spring))
    files = {suffix: write(drawing) for suffix, write in DRAWINGS.items()}
    document = ezdxf.read(io.StringIO(files[".dxf"].decode()))
    assert not document.audit().errors
    space = document.modelspace()
    assert document.header["$INSUNITS"] == 4
    assert len(space.query("HATCH")) == len(marks(drawing, Hatch)) > 0
    measured = {
        one.dxf.text: one.get_measurement() * one.override().get("dimlfac")
        for one in space.query("DIMENSION")
    }
    assert measured["De 22.5"] == pytest.approx(22.5, abs=1e-6)
    assert measured["p 6"] == pytest.approx(6, abs=1e-6)
    page = PdfReader(io.BytesIO(files[".pdf"]))
    sides = [round(float(side) * 25.4 / 72) for side in page.pages[0].mediabox[2:]]
    assert sides == [round(drawing.width), round(drawing.height)]
    assert "De 22.5" in page.pages[0].extract_text()
    drawn = SVG.parse(io.BytesIO(files[".svg"]))
    assert "De 22.5" in {text.text for text in drawn.elements() if isinstance(text, SvgText)}


def test_outside_readers_open_them(tmp_path):
    """Poppler and librsvg, Debian's."""
    drawing = drawing_of(part_of(demo(21)))
    pdf, svg, png = (tmp_path / f"drawing{suffix}" for suffix in (".pdf", ".svg", ".png"))
    pdf.write_bytes(DRAWINGS[".pdf"](drawing))
    svg.write_bytes(DRAWINGS[".svg"](drawing))
    fonts = subprocess.run(["pdffonts", pdf], capture_output=True, text=True, check=True).stdout.splitlines()[
        2:
    ]
    assert fonts
    assert all(" yes yes yes " in font for font in fonts)  # embedded, a subset, with its letters in Unicode
    told = subprocess.run(["pdfinfo", pdf], capture_output=True, text=True, check=True).stdout
    assert "PDF subtype" not in told or "PDF/A-2" in told
    subprocess.run(["rsvg-convert", "-o", png, svg], check=True)
    assert png.stat().st_size > 10_000


def test_a_pdf_says_that_it_is_archival_and_is_the_same_each_time(spring, monkeypatch):
    monkeypatch.setenv("SOURCE_DATE_EPOCH", "1780000000")
    one, two = (DRAWINGS[".pdf"](drawing_of(part_of(spring))) for _ in range(2))
    assert one == two
    with pikepdf.open(io.BytesIO(one)) as pdf:
        about = pdf.open_metadata()
        assert (about["pdfaid:part"], about["pdfaid:conformance"]) == ("2", "U")
        assert about["dc:title"] == "Test spring"
        assert str(pdf.Root.OutputIntents[0].S) == "/GTS_PDFA1"


def test_the_command_line_writes_it(spring, tmp_path):
    recipe, out = tmp_path / "spring.json", tmp_path / "drawing.pdf"
    recipe.write_text(json.dumps(spring))
    with pytest.raises(SystemExit) as ended:
        main(["drawing", str(recipe), "-o", str(out)])
    assert ended.value.code == 0
    assert out.read_bytes().startswith(b"%PDF")


def test_letters_of_formulas_are_printed_as_they_are():
    """What the PDF standard fonts lack; a letter that no typeface here has is its number."""
    words = "Σ F · π Δ τ ≤ √2 ⁴ σ = 8 F D / (π d³) − 5 µm 漢"
    row = Row(words, words, "\U0001fab1")
    sheet = Sheet("Δ", words, (Section("τ", (row,)),), (Drawing("", 10, 10, ()),), "±")
    text = "".join(page.extract_text() for page in PdfReader(io.BytesIO(pdf_of(sheet))).pages)
    for letter in set(words):
        assert letter in text
    assert "[U+1FAB1]" in text
    assert "?" not in text


def test_a_taper_thread_is_drawn_tapered_and_a_bore_has_its_plug():
    """ASME B1.20.1: 1 in 16 on the diameter."""
    drawing = drawing_of(part_of(demo(26)))
    crest, *_ = (line for line in marks(drawing, Line) if len(line.points) > 8)
    steps = np.diff(np.array(crest.points), axis=0)
    slopes = np.abs(steps[:, 0] / np.where(steps[:, 1] == 0, np.inf, steps[:, 1]))
    assert np.isclose(slopes, 1 / 32, rtol=1e-3).any()
    plugged = {
        "format": "metaspira/1",
        "thread": {"designation": "M10-6H"},
        "host": {"kind": "bore", "length": 8, "outside": 20},
        "mate": {"length": 12},
    }
    assert {"Front of the mate", "Section", "M10-6g", "M10-6H", "8", "12"} <= figures_said(plugged)


@pytest.mark.parametrize(
    ("host", "side", "wanted"),
    [
        ({"kind": "rod", "length": 36, "diameter": 12}, "6g", {"36", "20", "⌀12", "M10-6g"}),
        (
            {"kind": "bore", "length": 36, "outside": 22, "diameter": 8.5},
            "6H",
            {"36", "20", "⌀8.5", "M10-6H"},
        ),
    ],
    ids=["rod", "bore"],
)
def test_a_thread_that_ends_has_its_depth_the_hole_and_what_it_ends_in(host, side, wanted):
    part = part_of(
        {
            "format": "metaspira/1",
            "thread": {
                "designation": f"M10-{side}",
                "length": 20,
                "start": {"kind": "chamfer", "angle": 30},
                "end": {"kind": "undercut", "width": 4},
            },
            "host": host,
        }
    )
    words = said(drawing_of(part))
    assert wanted <= words
    bottom = 2 * part.recipe.thread.end.bottom(part.profile, part.side)
    assert {"chamfer at 30° to the axis", f"undercut 4 wide, ⌀{bottom:.5g}"} <= words


def test_a_root_ends_where_the_full_thread_of_a_bore_does():
    part = part_of(
        {
            "format": "metaspira/1",
            "thread": {"designation": "M10-6H", "length": 12},
            "host": {"kind": "bore", "length": 20, "outside": 22, "diameter": 8.5},
        }
    )
    drawing = drawing_of(part)
    scale = next(one.factor for one in marks(drawing, Dimension) if one.words == "20")
    roots = [
        scale * abs(one.points[1][1] - one.points[0][1])
        for one in marks(drawing, Line)
        if one.thin and not one.dashed and one.points[0][0] == one.points[1][0]
    ]
    assert any(root == pytest.approx(part.full[1] - part.full[0]) for root in roots)


@pytest.mark.thorough
def test_what_a_design_leaves_empty_the_workshop_fills_in(spring, monkeypatch, capsys, tmp_path):
    monkeypatch.setenv("METASPIRA_TITLE_BLOCK", '{"owner": "Lamp Works", "tolerances": "ISO 2768-m"}')
    assert {"Lamp Works", "ISO 2768-m"} <= figures_said(spring)
    own = figures_said(spring | {"title_block": {"owner": "Lighthouse Works", "number": "LW-3"}})
    assert {"Lighthouse Works", "LW-3", "ISO 2768-m"} <= own and "Lamp Works" not in own
    recipe = tmp_path / "spring.json"
    recipe.write_text(json.dumps(spring))
    for bad in ("{", "[]", '{"owner": 3}', '{"maker": "x"}'):
        monkeypatch.setenv("METASPIRA_TITLE_BLOCK", bad)
        with pytest.raises(SystemExit) as ended:
            main(["drawing", str(recipe), "-o", str(tmp_path / "spring.svg")])
        assert ended.value.code == 2
        told = capsys.readouterr().err.strip()
        assert told.startswith("metaspira: METASPIRA_TITLE_BLOCK") and "Input should" not in told


KEPT = {"wire": 0.03, "diameter": 0.15, "free_length": 0.4, "load": 5}


@pytest.mark.parametrize(
    ("kind", "path"),
    [
        ("compression", {"pitch": 4.6}),
        ("extension", {"pitch": 2.5}),
        ("torsion", {"pitch": 2.6}),
    ],
)
def test_what_its_maker_is_to_keep_stands_behind_each_size(kind, path):
    made = {key: either for key, either in KEPT.items() if kind != "torsion" or key != "free_length"}
    recipe = {
        "format": "metaspira/1",
        "path": {"kind": "coil", "diameter": 20, "turns": 8, **path},
        "section": {"kind": "round", "diameter": 2.5},
        "spring": {"kind": kind, "wire": "EN 10270-1 SH", "made": made},
    }
    if kind == "compression":
        recipe["spring"]["points"] = [{"length": 30}]
    told = " | ".join(figures_said(recipe))
    for size in ("De 22.5 ± 0.15", "d ⌀2.5 ± 0.03"):
        assert size in told
    assert ("L0" in told) == (kind != "torsion")
    if kind == "compression":
        (load,) = (words for words in figures_said(recipe) if " at 30 mm" in words)
        force, either = (float(words) for words in re.findall(r"([\d.]+) N", load))
        assert either == pytest.approx(force * 5 / 100, rel=1e-3)
        assert "EN 15800" not in told


@pytest.mark.parametrize(
    ("designation", "host"),
    [
        ("M10", {"kind": "rod", "length": 20, "diameter": 10}),
        ("G 1/2", {"kind": "bore", "length": 20, "outside": 30}),
    ],
)
def test_a_thread_is_drawn_with_its_helix_where_that_is_asked_for(designation, host):
    """The sizes stay; the crests' lines climb by half a lead from side to side."""
    thread = {"designation": designation, "length": 12}
    plans = [
        plan_of(part_of({"format": "metaspira/1", "thread": {**thread, **drawn}, "host": host}))
        for drawn in ({}, {"drawn": "helix"})
    ]
    by_convention, helix = (plan.views[0].front for plan in plans)
    assert helix.measures == by_convention.measures
    assert helix.box == by_convention.box
    lead = part_of({"format": "metaspira/1", "thread": thread, "host": host}).thread.lead
    climbs = [
        abs(float(line.points[-1][1]) - float(line.points[0][1]))
        for line in helix.marks
        if isinstance(line, Line) and abs(line.points[-1][0] - line.points[0][0]) > 8
    ]
    assert sum(abs(climb - lead / 2) < 0.1 * lead for climb in climbs) >= 4


def test_what_is_wide_is_drawn_as_large_as_its_sheet_takes():
    """A trough of 320 mm on an A4 sheet; scales of ISO 5455."""
    drawing = drawing_of(part_of(starting_point("chute").recipe))
    assert (drawing.width, drawing.height) == (210, 297)
    assert "1 : 20" in {one.words for one in marks(drawing, Text)}
