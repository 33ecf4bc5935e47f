"""GLB (glTF 2.0, Khronos): triangles in metres, y up, with colours and the length along the wire."""

from __future__ import annotations

from metaspira.outputs.output import Built, any_part, written_by

LISTED = 12

_USE = "showing it, in a browser or a rendering"

OUTPUTS = (
    Built(
        "glb", "Solid", "GLB, mesh", _USE, "model/gltf-binary", any_part, written_by("metaspira.formats.glb")
    ),
)
