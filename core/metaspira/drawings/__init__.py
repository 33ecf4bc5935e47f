"""Dimensioned drawings. `drawing_of` lays a part out on a sheet, by the module of its kind in `kinds/`; a
new format is one module and one line in DRAWINGS."""

from __future__ import annotations

from collections.abc import Callable

from metaspira.drawings.dxf import dxf_of
from metaspira.drawings.layout import drawing_of
from metaspira.drawings.marks import Drawing
from metaspira.drawings.pdf import pdf_of
from metaspira.drawings.svg import svg_of

DRAWINGS: dict[str, Callable[[Drawing], bytes]] = {".svg": svg_of, ".pdf": pdf_of, ".dxf": dxf_of}
"""The writers of a drawing's formats, by suffix."""

__all__ = ["DRAWINGS", "drawing_of"]
