"""A reference body from a file: STL, GLB, 3MF or STEP; made light enough for a recipe, and how far that took it."""

from __future__ import annotations

import manifold3d
import numpy as np
import trimesh

from metaspira.numbers.jets import Array
from metaspira.numbers.measure import length_of_file
from metaspira.problems import Problem, RecipeError
from metaspira.references.asked import MOST_FACES, MOST_VERTICES, ReferenceBody, Triangles
from metaspira.solids.outside import mesh_in, plain_suffix

BODIES = (".stl", ".glb", ".3mf", ".step")
"""Suffixes of the formats that a body is read from."""


def read_body(data: bytes, suffix: str, unit_name: str | None, name: str = "body") -> ReferenceBody:
    """The body in a file's bytes. `unit_name` is the unit of an STL file, which does not say. Raises RecipeError."""
    suffix = plain_suffix(suffix)
    if suffix not in BODIES:
        raise RecipeError(
            Problem(
                "/file", f"“{suffix}” is no body that is read here", f"give one of {', '.join(BODIES)}"
            )
        )
    vertices, faces, size = mesh_in(data, suffix)
    vertices = vertices * length_of_file(size, unit_name, "the file")
    if np.abs(vertices).max() > 1e6:
        raise RecipeError(Problem("/unit", "the body is more than a kilometre large", "check its unit"))
    mesh = trimesh.Trimesh(vertices, faces, process=True)
    mesh.update_faces(mesh.nondegenerate_faces())
    mesh.remove_unreferenced_vertices()
    if len(mesh.faces) == 0:
        raise RecipeError(Problem("/file", "the body has no surface", "give another file"))
    light, error = _lightened(mesh)
    triangles: Triangles = {
        "vertices": [(float(x), float(y), float(z)) for x, y, z in np.round(light.vertices, 4)],
        "faces": [(int(a), int(b), int(c)) for a, b, c in light.faces],
    }
    return ReferenceBody(name=name[:120] or "body", mesh=triangles, error=float(f"{error:.3g}"))


def _lightened(mesh: trimesh.Trimesh) -> tuple[trimesh.Trimesh, float]:
    """The mesh with few enough triangles, and how far, mm, its surface is from the given one at the most."""
    if _light(mesh):
        return mesh, 0.0
    size = float(np.ptp(mesh.vertices, axis=0).max())
    error = size * 1e-5
    solid = manifold3d.Manifold(
        manifold3d.Mesh(np.asarray(mesh.vertices, np.float32), np.asarray(mesh.faces, np.uint32))
    )
    whole = solid.status() == manifold3d.Error.NoError and not solid.is_empty()
    while error < size:
        found = _simplified(solid, error) if whole else _clustered(mesh, error)
        if _light(found):
            return found, error
        error *= 1.5
    raise RecipeError(Problem("/file", "the body has too many separate pieces", "give a simpler one"))


def _light(mesh: trimesh.Trimesh) -> bool:
    return len(mesh.vertices) <= MOST_VERTICES and len(mesh.faces) <= MOST_FACES


def _simplified(solid: manifold3d.Manifold, error: float) -> trimesh.Trimesh:
    found = solid.simplify(error).to_mesh()
    return trimesh.Trimesh(found.vert_properties[:, :3], found.tri_verts, process=False)


def _clustered(mesh: trimesh.Trimesh, error: float) -> trimesh.Trimesh:
    """One vertex for each cell of a grid; none moves by more than `error`."""
    cell = 2 * error / np.sqrt(3)
    grid: Array = np.floor(mesh.vertices / cell)
    places, index = np.unique(grid, axis=0, return_inverse=True)
    found = trimesh.Trimesh((places + 0.5) * cell, index.reshape(-1)[mesh.faces], process=False)
    found.update_faces(found.nondegenerate_faces())
    found.update_faces(found.unique_faces())
    found.remove_unreferenced_vertices()
    return found
