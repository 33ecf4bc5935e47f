"""A sheet as one HTML file that needs nothing else, and prints on A4."""

from __future__ import annotations

from html import escape

from metaspira.drawings.marks import Arc, Circle, Drawing, Line, Text
from metaspira.drawings.strokes import on_arc, strokes
from metaspira.sheets.sheet import Sheet

_STYLE = """
@page { size: A4; margin: 14mm }
body { font: 10pt/1.35 "Source Sans 3", "Helvetica Neue", Arial, sans-serif; color: #2b2723;
  max-width: 182mm; margin: 10mm auto }
h1 { font-size: 17pt; margin: 0 }
h2 { font-size: 10.5pt; margin: 3.5mm 0 1mm; border-bottom: 0.3mm solid #96491f }
table { border-collapse: collapse; width: 100%; font-variant-numeric: tabular-nums }
td { padding: 0.4mm 1mm; vertical-align: top } td:first-child { width: 44mm }
td:nth-child(2) { width: 62mm; font-weight: 600 }
td:last-child { color: #655c51 } .columns { columns: 1 } figure { display: inline-block; margin: 3mm 4mm 0 0 }
figcaption, footer { color: #655c51; font-size: 8.5pt } footer { margin-top: 5mm }
"""


def html_of(sheet: Sheet) -> str:
    """The whole document."""
    sections = "".join(
        f"<section><h2>{escape(section.title)}</h2><table>"
        + "".join(
            f"<tr><td>{escape(row.label)}</td><td>{escape(row.value)}</td><td>{escape(row.note)}</td></tr>"
            for row in section.rows
        )
        + "</table></section>"
        for section in sheet.sections
    )
    figures = "".join(
        f"<figure>{svg_of(drawing)}<figcaption>{escape(drawing.title)}</figcaption></figure>"
        for drawing in sheet.drawings
    )
    return (
        f'<!doctype html><html lang="en"><head><meta charset="utf-8"><title>{escape(sheet.title)}</title>'
        f"<style>{_STYLE}</style></head><body><h1>{escape(sheet.title)}</h1><p>{escape(sheet.subtitle)}</p>"
        f"{figures}{sections}<footer>{escape(sheet.footer)}</footer></body></html>\n"
    )


def svg_of(drawing: Drawing) -> str:
    """A drawing as SVG in its own millimetres."""

    def flip(point: tuple[float, float]) -> str:
        return f"{point[0]:.3f},{drawing.height - point[1]:.3f}"

    drawn = []
    for part in strokes(drawing.parts):
        if isinstance(part, Text):
            drawn.append(_text(part, drawing.height))
            continue
        pen = f'stroke-width="{0.15 if part.thin else 0.35}"'
        if isinstance(part, Line):
            dash = ' stroke-dasharray="2 1"' if part.dashed else ""
            path = " ".join(flip(point) for point in part.points)
            drawn.append(f'<polyline points="{path}" {pen}{dash}/>')
        elif isinstance(part, Circle):
            x, y = flip(part.centre).split(",")
            drawn.append(f'<circle cx="{x}" cy="{y}" r="{part.radius:.3f}" {pen}/>')
        elif isinstance(part, Arc):
            large = int((part.end - part.start) % 360 > 180)
            first, last = (flip(on_arc(part, degrees)) for degrees in (part.start, part.end))
            r = f"{part.radius:.3f}"
            drawn.append(f'<path d="M {first} A {r} {r} 0 {large} 0 {last}" {pen}/>')
    return (
        f'<svg xmlns="http://www.w3.org/2000/svg" width="{drawing.width:.2f}mm" '
        f'height="{drawing.height:.2f}mm" '
        f'viewBox="0 0 {drawing.width:.3f} {drawing.height:.3f}" role="img" fill="none" stroke="#2b2723">'
        f"<title>{escape(drawing.title)}</title>{''.join(drawn)}</svg>"
    )


def _text(text: Text, height: float) -> str:
    x, y = text.place[0], height - text.place[1]
    turn = f' transform="rotate(-90 {x:.3f} {y:.3f})"' if text.upright else ""
    return (
        f'<text x="{x:.3f}" y="{y:.3f}" font-size="{text.size:g}" text-anchor="{text.anchor}" fill="#2b2723" '
        f'stroke="none"{turn}>{escape(text.words)}</text>'
    )
