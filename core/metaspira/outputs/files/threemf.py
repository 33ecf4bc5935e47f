"""3MF (3MF Consortium, core specification): triangles in millimetres, each body an object, with its
colours."""

from __future__ import annotations

from metaspira.outputs.output import Built, any_part, written_by

LISTED = 13

_USE = "printing: a mesh of named bodies with its unit and colours"

OUTPUTS = (
    Built("3mf", "Solid", "3MF, mesh", _USE, "model/3mf", any_part, written_by("metaspira.formats.threemf")),
)
