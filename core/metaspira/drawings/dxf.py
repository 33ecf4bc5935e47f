"""A drawing as DXF, in millimetres of the sheet: lines, circles and texts on layers of their own."""

from __future__ import annotations

import io

import ezdxf
from ezdxf.enums import TextEntityAlignment

from metaspira.sheets.sheet import Circle, Drawing, Line

_ANCHORS = {
    "start": TextEntityAlignment.LEFT,
    "middle": TextEntityAlignment.CENTER,
    "end": TextEntityAlignment.RIGHT,
}
_CAP = 0.72
"""Height of a capital letter, as a share of the size of its type."""


def dxf_of(drawing: Drawing) -> bytes:
    """The file."""
    document = ezdxf.new("R2010", setup=["linetypes"], units=ezdxf.units.MM)
    space = document.modelspace()
    for name, width in (("OUTLINE", 35), ("THIN", 18), ("AXIS", 18), ("TEXT", 18)):
        document.layers.add(name, lineweight=width, linetype="CENTER" if name == "AXIS" else "CONTINUOUS")
    for part in drawing.parts:
        if isinstance(part, Line):
            layer = "AXIS" if part.dashed else "THIN" if part.thin else "OUTLINE"
            space.add_lwpolyline(part.points, dxfattribs={"layer": layer})
        elif isinstance(part, Circle):
            space.add_circle(part.centre, part.radius, dxfattribs={"layer": "OUTLINE"})
        else:
            text = space.add_text(
                part.words,
                height=_CAP * part.size,
                rotation=90 if part.upright else 0,
                dxfattribs={"layer": "TEXT"},
            )
            text.set_placement(part.place, align=_ANCHORS[part.anchor])
    out = io.StringIO()
    document.write(out)
    return out.getvalue().encode()
