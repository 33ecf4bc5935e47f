"""The root of an SVG drawing in millimetres."""

from __future__ import annotations

from xml.etree import ElementTree


def canvas(left: float, top: float, width: float, height: float) -> ElementTree.Element:
    """An SVG root that shows a box, y downwards, in its true size."""
    return ElementTree.Element(
        "svg",
        {
            "xmlns": "http://www.w3.org/2000/svg",
            "width": f"{width:.6g}mm",
            "height": f"{height:.6g}mm",
            "viewBox": f"{left:.9g} {top:.9g} {width:.9g} {height:.9g}",
        },
    )
