"""A sheet as PDF/A on A4, by ReportLab."""

from __future__ import annotations

import io

from reportlab.lib.colors import HexColor
from reportlab.lib.pagesizes import A4
from reportlab.lib.styles import ParagraphStyle
from reportlab.lib.units import mm
from reportlab.pdfgen.canvas import Canvas
from reportlab.platypus import Flowable, Paragraph, SimpleDocTemplate, Spacer, Table, TableStyle

from metaspira.drawings.archival import archival
from metaspira.drawings.letters import BOLD, REGULAR, marked, typefaces
from metaspira.drawings.marks import Drawing
from metaspira.drawings.pdf import draw
from metaspira.sheets.sheet import Sheet

_INK, _COPPER, _PENCIL = HexColor("#2b2723"), HexColor("#96491f"), HexColor("#655c51")
_TITLE = ParagraphStyle("title", fontName=BOLD, fontSize=17, leading=21, textColor=_INK)
_HEAD = ParagraphStyle("head", fontName=BOLD, fontSize=9, leading=11, spaceBefore=4, textColor=_COPPER)
_BODY = ParagraphStyle("body", fontName=REGULAR, fontSize=7.8, leading=9.2, textColor=_INK)
_BOLD = ParagraphStyle("bold", parent=_BODY, fontName=BOLD)
_NOTE = ParagraphStyle("note", parent=_BODY, textColor=_PENCIL, fontSize=6.8)
_FACE = ("FONTNAME", (0, 0), (-1, -1), REGULAR)
_COLUMNS = (56 * mm, 52 * mm, 74 * mm)
_MARGIN, _PADDING = 14 * mm, 6


def pdf_of(sheet: Sheet) -> bytes:
    """The whole document, its footer at the foot of every page."""
    typefaces()
    story: list[Flowable] = [
        _words(sheet.title, _TITLE),
        _words(sheet.subtitle, _BODY),
        Spacer(1, 3 * mm),
    ]
    pictures = [_Picture(drawing) for drawing in sheet.drawings]
    story.append(Table([pictures], hAlign="LEFT", style=[_FACE]))
    for section in sheet.sections:
        story.append(_words(section.title, _HEAD))
        rows = [
            [_words(row.label, _BODY), _words(row.value, _BOLD), _words(row.note, _NOTE)]
            for row in section.rows
        ]
        style = TableStyle(
            [
                ("TOPPADDING", (0, 0), (-1, -1), 0.3),
                ("BOTTOMPADDING", (0, 0), (-1, -1), 0.3),
                ("VALIGN", (0, 0), (-1, -1), "TOP"),
                _FACE,
            ]
        )
        story.append(Table(rows, colWidths=_COLUMNS, style=style, hAlign="LEFT"))
    footer = _words(sheet.footer, _NOTE)

    def foot(canvas: Canvas, document: SimpleDocTemplate) -> None:
        _, high = footer.wrap(document.width - 2 * _PADDING, document.bottomMargin)
        footer.drawOn(canvas, document.leftMargin + _PADDING, (document.bottomMargin - high) / 2)

    out = io.BytesIO()
    margins = {f"{side}Margin": _MARGIN for side in ("left", "right", "top", "bottom")}
    document = SimpleDocTemplate(out, pagesize=A4, title=sheet.title, invariant=True, **margins)
    document.build(story, onFirstPage=foot, onLaterPages=foot)
    return archival(out.getvalue(), sheet.title)


def _words(text: str, style: ParagraphStyle) -> Paragraph:
    return Paragraph(marked(text, style.fontName), style)


class _Picture(Flowable):  # type: ignore[misc]
    """A drawing as it is."""

    def __init__(self, drawing: Drawing) -> None:
        super().__init__()
        self.drawing = drawing
        self.width, self.height = drawing.width * mm, drawing.height * mm

    def wrap(self, *room: float) -> tuple[float, float]:
        return self.width, self.height

    def draw(self) -> None:
        draw(self.canv, self.drawing)
