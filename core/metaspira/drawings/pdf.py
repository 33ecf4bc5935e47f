"""A drawing as PDF, a page of its own size, by ReportLab."""

from __future__ import annotations

import io

from reportlab.lib.units import mm
from reportlab.pdfgen.canvas import Canvas

from metaspira.sheets.letters import REGULAR, written
from metaspira.sheets.sheet import Circle, Drawing, Line


def pdf_of(drawing: Drawing) -> bytes:
    """The file."""
    out = io.BytesIO()
    page = Canvas(out, pagesize=(drawing.width * mm, drawing.height * mm))
    page.setTitle(drawing.title)
    page.setLineCap(1)
    page.setLineJoin(1)
    for part in drawing.parts:
        if isinstance(part, Line):
            page.setLineWidth((0.18 if part.thin else 0.35) * mm)
            page.setDash([6 * mm, 1.2 * mm, mm, 1.2 * mm] if part.dashed else [])
            path = page.beginPath()
            path.moveTo(*(value * mm for value in part.points[0]))
            for point in part.points[1:]:
                path.lineTo(*(value * mm for value in point))
            page.drawPath(path)
        elif isinstance(part, Circle):
            page.setLineWidth(0.35 * mm)
            page.setDash([])
            page.circle(part.centre[0] * mm, part.centre[1] * mm, part.radius * mm)
        else:
            page.saveState()
            page.translate(part.place[0] * mm, part.place[1] * mm)
            if part.upright:
                page.rotate(90)
            words = written(part.words)
            page.setFont(REGULAR, part.size * mm)
            write = {
                "start": page.drawString,
                "middle": page.drawCentredString,
                "end": page.drawRightString,
            }
            write[part.anchor](0, 0, words)
            page.restoreState()
    page.showPage()
    page.save()
    return out.getvalue()
