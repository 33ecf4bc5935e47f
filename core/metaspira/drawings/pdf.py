"""A drawing as PDF/A, a page of its own size, by ReportLab."""

from __future__ import annotations

import io

from reportlab.lib.units import mm
from reportlab.pdfgen.canvas import Canvas

from metaspira.drawings.archival import archival
from metaspira.drawings.letters import runs, typefaces, width
from metaspira.drawings.marks import Arc, Circle, Drawing, Line, Text
from metaspira.drawings.strokes import strokes


def pdf_of(drawing: Drawing) -> bytes:
    """The file."""
    typefaces()
    out = io.BytesIO()
    size = drawing.width * mm, drawing.height * mm
    page = Canvas(out, size, invariant=True)
    page.setTitle(drawing.title)
    page.setLineCap(1)
    page.setLineJoin(1)
    draw(page, drawing)
    page.showPage()
    page.save()
    return archival(out.getvalue(), drawing.title)


def draw(page: Canvas, drawing: Drawing) -> None:
    """Draw it on a page, its corner at the origin."""
    for part in strokes(drawing.parts):
        if isinstance(part, Text):
            _write(page, part)
            continue
        page.setLineWidth((0.18 if part.thin else 0.35) * mm)
        page.setDash([6 * mm, 1.2 * mm, mm, 1.2 * mm] if isinstance(part, Line) and part.dashed else [])
        if isinstance(part, Line):
            path = page.beginPath()
            path.moveTo(*(value * mm for value in part.points[0]))
            for point in part.points[1:]:
                path.lineTo(*(value * mm for value in point))
            page.drawPath(path)
        elif isinstance(part, Circle):
            page.circle(part.centre[0] * mm, part.centre[1] * mm, part.radius * mm)
        elif isinstance(part, Arc):
            (x, y), r = part.centre, part.radius
            box = ((x - r) * mm, (y - r) * mm, (x + r) * mm, (y + r) * mm)
            page.arc(*box, part.start, (part.end - part.start) % 360)


def _write(page: Canvas, text: Text) -> None:
    page.saveState()
    page.translate(text.place[0] * mm, text.place[1] * mm)
    if text.upright:
        page.rotate(90)
    size = text.size * mm
    at = {"start": 0.0, "middle": -0.5, "end": -1.0}[text.anchor] * width(text.words, size)
    for piece, name in runs(text.words):
        page.setFont(name, size)
        page.drawString(at, 0, piece)
        at += page.stringWidth(piece, name, size)
    page.restoreState()
