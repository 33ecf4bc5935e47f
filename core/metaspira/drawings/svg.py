"""A drawing as SVG, in millimetres."""

from __future__ import annotations

from xml.etree import ElementTree

from metaspira.drawings.marks import Arc, Circle, Drawing, Line
from metaspira.drawings.strokes import on_arc, strokes
from metaspira.formats.svg import canvas

_FACES = "'DejaVu Sans Condensed', 'DejaVu Sans', 'Droid Sans Fallback', sans-serif"


def svg_of(drawing: Drawing) -> bytes:
    """The file."""
    root = canvas(0, 0, drawing.width, drawing.height)
    ElementTree.SubElement(root, "title").text = drawing.title
    size = {"width": f"{drawing.width:g}", "height": f"{drawing.height:g}"}
    ElementTree.SubElement(root, "rect", {**size, "fill": "#fff"})
    style = {"fill": "none", "stroke": "#000", "stroke-linecap": "round", "stroke-linejoin": "round"}
    _draw(ElementTree.SubElement(root, "g", style), drawing)
    return ElementTree.tostring(root, encoding="utf-8", xml_declaration=True)


def _draw(group: ElementTree.Element, drawing: Drawing) -> None:
    def at(x: float, y: float) -> str:
        return f"{x:.3f},{drawing.height - y:.3f}"

    for part in strokes(drawing.parts):
        if isinstance(part, Line):
            line = {"points": " ".join(at(*point) for point in part.points), **_pen(part.thin)}
            if part.dashed:
                line["stroke-dasharray"] = "6 1.2 1 1.2"
            ElementTree.SubElement(group, "polyline", line)
        elif isinstance(part, Circle):
            x, y = at(*part.centre).split(",")
            round_ = {"cx": x, "cy": y, "r": f"{part.radius:.3f}"}
            ElementTree.SubElement(group, "circle", {**round_, **_pen(part.thin)})
        elif isinstance(part, Arc):
            ends = [on_arc(part, degrees) for degrees in (part.start, part.end)]
            large = int((part.end - part.start) % 360 > 180)
            r = f"{part.radius:.3f}"
            path = f"M {at(*ends[0])} A {r} {r} 0 {large} 0 {at(*ends[1])}"
            ElementTree.SubElement(group, "path", {"d": path, **_pen(part.thin)})
        else:
            x, y = at(*part.place).split(",")
            text = {"x": x, "y": y, "font-size": f"{part.size:g}", "font-family": _FACES}
            text |= {"text-anchor": part.anchor, "fill": "#000", "stroke": "none"}
            if part.upright:
                text["transform"] = f"rotate(-90 {x} {y})"
            ElementTree.SubElement(group, "text", text).text = part.words


def _pen(thin: bool) -> dict[str, str]:
    return {"stroke-width": "0.18" if thin else "0.35"}
