"""A sheet as PDF on A4, by ReportLab."""

from __future__ import annotations

import io
from xml.sax.saxutils import escape

from reportlab.graphics import shapes
from reportlab.lib.colors import HexColor
from reportlab.lib.pagesizes import A4
from reportlab.lib.styles import ParagraphStyle
from reportlab.lib.units import mm
from reportlab.platypus import Flowable, Paragraph, SimpleDocTemplate, Spacer, Table, TableStyle

from metaspira.sheets.letters import BOLD, REGULAR, written
from metaspira.sheets.sheet import Circle, Drawing, Line, Sheet

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
    SimpleDocTemplate(out, pagesize=A4, title=sheet.title, author="Metaspira", **margins).build(story)
    return out.getvalue()


def _words(text: str, style: ParagraphStyle) -> Paragraph:
    return Paragraph(escape(written(text)), style)


def _drawn(drawing: Drawing) -> shapes.Drawing:
    picture = shapes.Drawing(drawing.width * mm, drawing.height * mm)
    for part in drawing.parts:
        if isinstance(part, Line):
            flat = [value * mm for point in part.points for value in point]
            dash = [2 * mm, mm] if part.dashed else None
            picture.add(
                shapes.PolyLine(
                    flat,
                    strokeColor=_INK,
                    strokeWidth=(0.15 if part.thin else 0.35) * mm,
                    strokeDashArray=dash,
                )
            )
        elif isinstance(part, Circle):
            x, y = part.centre
            picture.add(
                shapes.Circle(
                    x * mm, y * mm, part.radius * mm, fillColor=None, strokeColor=_INK, strokeWidth=0.35 * mm
                )
            )
        else:
            text = shapes.String(
                0,
                0,
                written(part.words),
                fontName=REGULAR,
                fontSize=7.5,
                textAnchor=part.anchor,
                fillColor=_INK,
            )
            group = shapes.Group(text)
            group.translate(part.place[0] * mm, part.place[1] * mm)
            if part.upright:
                group.rotate(90)
            picture.add(group)
    return picture
