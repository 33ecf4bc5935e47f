"""STL (binary) of the watertight mesh, read back by `trimesh`."""

from __future__ import annotations

from collections.abc import Callable
from pathlib import Path as FilePath

import trimesh

from metaspira.part import Part
from metaspira.solids.proof import Proof
from metaspira.sweep.mesh import fineness_for, tessellate


def write(
    part: Part, file: FilePath, chord_error: float, progress: Callable[[float, str], None]
) -> Proof:
    """Write the mesh within `chord_error` mm of the shape and prove it. Raises ProofError."""
    progress(0.1, "mesh")
    mesh = tessellate(part.sweep, fineness_for(part.sweep, chord_error))
    progress(0.4, "writing STL")
    trimesh.Trimesh(mesh.vertices, mesh.faces, process=False).export(file, file_type="stl")
    progress(0.6, "reading back")
    return measure_mesh(file, part, chord_error).demand("mesh")


def measure_mesh(file: FilePath, part: Part, chord_error: float) -> Proof:
    """What `trimesh` finds in a mesh file, its coincident vertices merged.

    The volume may be off by what a skin of the chord error amounts to, and by the rounding of single
    precision coordinates.
    """
    mesh = trimesh.load(file, force="mesh")
    if file.suffix == ".glb":
        mesh.apply_scale(1000.0)
    mesh.merge_vertices(merge_tex=True, merge_norm=True)
    skin = 2 * chord_error * float(mesh.area) / abs(part.sweep.volume)
    return Proof(
        bool(mesh.is_watertight),
        bool(mesh.is_winding_consistent and mesh.is_volume),
        float(mesh.volume),
        part.sweep.volume,
        skin + 1e-5,
    )
