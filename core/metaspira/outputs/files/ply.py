"""PLY (Stanford, binary): triangles in millimetres, with the colour of each face."""

from __future__ import annotations

from metaspira.outputs.output import Built, any_part, written_by

LISTED = 15

_WRITE = written_by("metaspira.formats.meshes")
_USE = "inspection and scan software: a mesh"

OUTPUTS = (Built("ply", "Solid", "PLY, mesh", _USE, "application/octet-stream", any_part, _WRITE),)
