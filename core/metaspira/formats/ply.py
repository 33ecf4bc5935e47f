"""PLY (Stanford, binary): triangles in millimetres, with the colour of each face."""

from __future__ import annotations

from pathlib import Path as FilePath

from metaspira.formats.meshes import NamedMesh, Progress, joined, written
from metaspira.part import AnyPart
from metaspira.solids.proof import Proof


def write(part: AnyPart, file: FilePath, chord_error: float, progress: Progress) -> Proof:
    """Write the mesh within `chord_error` mm of the shape and prove it. Raises ProofError."""
    return written(part, file, chord_error, progress, _export)


def _export(meshes: list[NamedMesh], file: FilePath) -> None:
    joined(meshes).export(file, file_type="ply")
