"""A drawing as DXF, in millimetres of the sheet: lines, arcs, hatching, dimensions and texts on layers of
their own. A dimension measures the part, and says the figure."""

from __future__ import annotations

import io
from typing import Any

import ezdxf
from ezdxf.enums import TextEntityAlignment

from metaspira.drawings.marks import Arc, Circle, Dimension, Drawing, Hatch, Line, Mark
from metaspira.drawings.strokes import ARROW

_ANCHORS = {
    "start": TextEntityAlignment.LEFT,
    "middle": TextEntityAlignment.CENTER,
    "end": TextEntityAlignment.RIGHT,
}
_LAYERS = {"OUTLINE": 35, "THIN": 18, "AXIS": 18, "HATCH": 13, "DIMENSION": 18, "TEXT": 18}
_STYLE, _FONT = "METASPIRA", "DejaVuSansCondensed.ttf"
_CAP = 0.72
"""Height of a capital letter, as a share of the size of its type."""
_TYPE = 2.8


def dxf_of(drawing: Drawing) -> bytes:
    """The file."""
    document = ezdxf.new("R2010", setup=["linetypes"], units=ezdxf.units.MM)
    document.header["$LTSCALE"] = 0.25
    document.styles.add(_STYLE, font=_FONT)
    for name, weight in _LAYERS.items():
        document.layers.add(name, lineweight=weight, linetype="CENTER" if name == "AXIS" else "CONTINUOUS")
    space = document.modelspace()
    for mark in drawing.parts:
        _add(document, space, mark)
    space.reset_extents((0.0, 0.0, 0.0), (drawing.width, drawing.height, 0.0))
    out = io.StringIO()
    document.write(out)
    return out.getvalue().encode()


def _add(document: Any, space: Any, mark: Mark) -> None:
    if isinstance(mark, Line):
        layer = "AXIS" if mark.dashed else "THIN" if mark.thin else "OUTLINE"
        space.add_lwpolyline(mark.points, dxfattribs={"layer": layer})
    elif isinstance(mark, Circle):
        space.add_circle(mark.centre, mark.radius, dxfattribs={"layer": _outline(mark.thin)})
    elif isinstance(mark, Arc):
        own = {"layer": _outline(mark.thin)}
        space.add_arc(mark.centre, mark.radius, mark.start, mark.end, dxfattribs=own)
    elif isinstance(mark, Hatch):
        hatch = space.add_hatch(dxfattribs={"layer": "HATCH"})
        hatch.set_pattern_fill("ANSI31", scale=0.5)
        for k, ring in enumerate(mark.rings):
            hatch.paths.add_polyline_path(ring, is_closed=True, flags=0 if k else 1)
    elif isinstance(mark, Dimension):
        _dimension(document, space, mark)
    else:
        attributes = {"layer": "TEXT", "style": _STYLE}
        turn = 90 if mark.upright else 0
        text = space.add_text(mark.words, height=_CAP * mark.size, rotation=turn, dxfattribs=attributes)
        text.set_placement(mark.place, align=_ANCHORS[mark.anchor])


def _outline(thin: bool) -> str:
    return "THIN" if thin else "OUTLINE"


def _dimension(document: Any, space: Any, mark: Dimension) -> None:
    name = f"PART {mark.factor:.6g}"
    if name not in document.dimstyles:
        style = document.dimstyles.duplicate_entry("Standard", name)
        style.dxf.dimlfac, style.dxf.dimtxt, style.dxf.dimasz = mark.factor, _CAP * _TYPE, ARROW
        style.dxf.dimexo, style.dxf.dimexe, style.dxf.dimgap, style.dxf.dimtad = 0.8, 1.5, 0.6, 1
        style.dxf.dimtxsty, style.dxf.dimdec = _STYLE, 4
    dimension = space.add_linear_dim(
        base=(mark.at, 0.0) if mark.upright else (0.0, mark.at),
        p1=mark.start,
        p2=mark.end,
        angle=90 if mark.upright else 0,
        text=mark.words,
        dimstyle=name,
        dxfattribs={"layer": "DIMENSION"},
    )
    dimension.render()
