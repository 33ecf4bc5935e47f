"""A drawing as SVG, in millimetres."""

from __future__ import annotations

from xml.etree import ElementTree

from metaspira.formats.svg import canvas
from metaspira.sheets.sheet import Circle, Drawing, Line


def svg_of(drawing: Drawing) -> bytes:
    """The file."""
    root = canvas(0, 0, drawing.width, drawing.height)
    ElementTree.SubElement(root, "title").text = drawing.title
    page = {"width": f"{drawing.width:g}", "height": f"{drawing.height:g}", "fill": "#fff"}
    ElementTree.SubElement(root, "rect", page)
    style = {"fill": "none", "stroke": "#000", "stroke-linecap": "round", "stroke-linejoin": "round"}
    group = ElementTree.SubElement(root, "g", style)
    for part in drawing.parts:
        if isinstance(part, Line):
            points = " ".join(f"{x:.3f},{drawing.height - y:.3f}" for x, y in part.points)
            line = {"points": points, "stroke-width": "0.18" if part.thin else "0.35"}
            if part.dashed:
                line["stroke-dasharray"] = "6 1.2 1 1.2"
            ElementTree.SubElement(group, "polyline", line)
        elif isinstance(part, Circle):
            x, y = part.centre
            round_ = {"cx": f"{x:.3f}", "cy": f"{drawing.height - y:.3f}", "r": f"{part.radius:.3f}"}
            ElementTree.SubElement(group, "circle", {**round_, "stroke-width": "0.35"})
        else:
            x, y = part.place[0], drawing.height - part.place[1]
            text = {
                "x": f"{x:.3f}",
                "y": f"{y:.3f}",
                "font-size": f"{part.size:g}",
                "font-family": "sans-serif",
                "text-anchor": part.anchor,
                "fill": "#000",
                "stroke": "none",
            }
            if part.upright:
                text["transform"] = f"rotate(-90 {x:.3f} {y:.3f})"
            ElementTree.SubElement(group, "text", text).text = part.words
    return ElementTree.tostring(root, encoding="utf-8", xml_declaration=True)
