"""STL (binary): triangles in millimetres."""

from __future__ import annotations

from metaspira.outputs.output import Built, any_part, written_by

LISTED = 11

_WRITE = written_by("metaspira.formats.meshes")
OUTPUTS = (Built("stl", "Solid", "STL, mesh", "model/stl", any_part, _WRITE),)
