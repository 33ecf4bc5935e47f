"""STL (binary): triangles in millimetres."""

from __future__ import annotations

from metaspira.outputs.output import Built, any_part, written_by

LISTED = 11

_WRITE = written_by("metaspira.formats.meshes")
_USE = "printers and machines that take nothing else: triangles in mm"

OUTPUTS = (Built("stl", "Solid", "STL, mesh", _USE, "model/stl", any_part, _WRITE),)
