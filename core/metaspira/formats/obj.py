"""OBJ (Wavefront): triangles in millimetres, each body an object of its own."""

from __future__ import annotations

from pathlib import Path as FilePath

import numpy as np

from metaspira.formats.meshes import NamedMesh, Progress, written
from metaspira.part import AnyPart
from metaspira.solids.proof import Proof


def write(part: AnyPart, file: FilePath, chord_error: float, progress: Progress) -> Proof:
    """Write the mesh within `chord_error` mm of the shape and prove it. Raises ProofError."""
    return written(part, file, chord_error, progress, _export)


def _export(meshes: list[NamedMesh], file: FilePath) -> None:
    with file.open("w", encoding="ascii", errors="replace") as out:
        before = 1
        for named in meshes:
            out.write(f"o {named.name.replace(' ', '_')}\n")
            np.savetxt(out, named.mesh.vertices, fmt="v %.9g %.9g %.9g")
            np.savetxt(out, named.mesh.faces + before, fmt="f %d %d %d")
            before += len(named.mesh.vertices)
