"""A surface as bytes, from the process that reads it to the one that traces it."""

from __future__ import annotations

import io

import numpy as np
import trimesh

from metaspira.studies.trace.scan import Surface


def packed(surface: Surface) -> bytes:
    """A mesh, or points, as an archive of numpy's arrays."""
    buffer = io.BytesIO()
    if isinstance(surface, trimesh.Trimesh):
        np.savez(buffer, places=surface.vertices, faces=surface.faces)
    else:
        np.savez(buffer, places=surface)
    return buffer.getvalue()


def unpacked(data: bytes) -> Surface:
    """The surface that was packed."""
    with np.load(io.BytesIO(data), allow_pickle=False) as found:
        places = np.asarray(found["places"])
        return trimesh.Trimesh(places, found["faces"], process=False) if "faces" in found else places
