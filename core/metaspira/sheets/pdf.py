"""A sheet as PDF/A on A4, by ReportLab."""

from __future__ import annotations

import io
from reportlab.graphics import shapes
from reportlab.lib.colors import HexColor
from reportlab.lib.pagesizes import A4
from reportlab.lib.styles import ParagraphStyle
from reportlab.lib.units import mm
from reportlab.pdfbase.pdfmetrics import stringWidth
from reportlab.platypus import Flowable, Paragraph, SimpleDocTemplate, Spacer, Table, TableStyle

from metaspira.sheets.archival import archival
from metaspira.sheets.letters import BOLD, REGULAR, marked, runs, width
from metaspira.sheets.sheet import Arc, Circle, Drawing, Line, Sheet, Text
from metaspira.sheets.strokes import strokes

_INK, _COPPER, _PENCIL = HexColor("#2b2723"), HexColor("#96491f"), HexColor("#655c51")
_TITLE = ParagraphStyle("title", fontName=BOLD, fontSize=17, leading=21, textColor=_INK)
_HEAD = ParagraphStyle("head", fontName=BOLD, fontSize=10, leading=13, spaceBefore=6, textColor=_COPPER)
_BODY = ParagraphStyle("body", fontName=REGULAR, fontSize=8.5, leading=10.5, textColor=_INK)
_BOLD = ParagraphStyle("bold", parent=_BODY, fontName=BOLD)
_NOTE = ParagraphStyle("note", parent=_BODY, textColor=_PENCIL, fontSize=7.5)
_COLUMNS = (44 * mm, 58 * mm, 80 * mm)


def pdf_of(sheet: Sheet) -> bytes:
    """The whole document."""
    story: list[Flowable] = [
        _words(sheet.title, _TITLE),
        _words(sheet.subtitle, _BODY),
        Spacer(1, 3 * mm),
    ]
    story.append(Table([[_drawn(drawing) for drawing in sheet.drawings]], hAlign="LEFT"))
    for section in sheet.sections:
        story.append(_words(section.title, _HEAD))
        rows = [
            [_words(row.label, _BODY), _words(row.value, _BOLD), _words(row.note, _NOTE)]
            for row in section.rows
        ]
        style = TableStyle(
            [
                ("TOPPADDING", (0, 0), (-1, -1), 0.6),
                ("BOTTOMPADDING", (0, 0), (-1, -1), 0.6),
                ("VALIGN", (0, 0), (-1, -1), "TOP"),
            ]
        )
        story.append(Table(rows, colWidths=_COLUMNS, style=style, hAlign="LEFT"))
    story += [Spacer(1, 4 * mm), _words(sheet.footer, _NOTE)]
    out = io.BytesIO()
    margins = {f"{side}Margin": 14 * mm for side in ("left", "right", "top", "bottom")}
    face = {"initialFontName": REGULAR}
    page = SimpleDocTemplate(out, pagesize=A4, title=sheet.title, invariant=True, **margins, **face)
    page.build(story)
    return archival(out.getvalue(), sheet.title)


def _words(text: str, style: ParagraphStyle) -> Paragraph:
    return Paragraph(marked(text, style.fontName), style)


def _drawn(drawing: Drawing) -> shapes.Drawing:
    picture = shapes.Drawing(drawing.width * mm, drawing.height * mm)
    for part in strokes(drawing.parts):
        if isinstance(part, Text):
            picture.add(_text(part))
            continue
        pen = {"strokeColor": _INK, "strokeWidth": (0.15 if part.thin else 0.35) * mm}
        if isinstance(part, Line):
            flat = [value * mm for point in part.points for value in point]
            picture.add(shapes.PolyLine(flat, strokeDashArray=[2 * mm, mm] if part.dashed else None, **pen))
        elif isinstance(part, Circle):
            x, y = part.centre
            picture.add(shapes.Circle(x * mm, y * mm, part.radius * mm, fillColor=None, **pen))
        elif isinstance(part, Arc):
            path = shapes.ArcPath(fillColor=None, **pen)
            path.addArc(part.centre[0] * mm, part.centre[1] * mm, part.radius * mm, part.start, part.end)
            picture.add(path)
    return picture


def _text(text: Text) -> shapes.Group:
    size = text.size * mm
    at = {"start": 0.0, "middle": -0.5, "end": -1.0}[text.anchor] * width(text.words, size)
    group = shapes.Group()
    for piece, name in runs(text.words):
        group.add(shapes.String(at, 0, piece, fontName=name, fontSize=size, fillColor=_INK))
        at += stringWidth(piece, name, size)
    group.translate(text.place[0] * mm, text.place[1] * mm)
    if text.upright:
        group.rotate(90)
    return group
