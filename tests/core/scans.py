"""Scans of our own making: the surface of a part with noise, holes, at any place, perhaps on a plate."""

import numpy as np
import trimesh
from metaspira.parts import part_of


def scan(recipe, noise=0.0, missing=0.0, seed=0, plate=False):
    """The mesh of a recipe's bodies: each vertex moved by `noise` (standard deviation, mm); the share
    `missing` that faced furthest away from a camera left out; turned and moved at random."""
    rng = np.random.default_rng(seed)
    made = [body.mesh(0.01) for body in part_of({"format": "metaspira/1", **recipe}).bodies]
    mesh = trimesh.util.concatenate([trimesh.Trimesh(one.vertices, one.faces, process=True) for one in made])
    mesh = mesh.subdivide_to_size(0.8)
    if plate:
        low = mesh.bounds[0][2]
        wide = 2.2 * float(np.abs(mesh.bounds[:, :2]).max())
        table = trimesh.creation.box((wide, wide, 1.0)).subdivide_to_size(1.0)
        table.apply_translation((0, 0, low - 0.5))
        mesh = trimesh.util.concatenate([mesh, table])
    still = mesh.face_normals
    places = mesh.vertices + noise * rng.normal(size=mesh.vertices.shape)
    mesh = trimesh.Trimesh(places, mesh.faces, process=False)
    if missing:
        toward = rng.normal(size=3)
        facing = still @ (toward / np.linalg.norm(toward))
        mesh.update_faces(facing > np.quantile(facing, missing))
        mesh.remove_unreferenced_vertices()
    mesh.apply_transform(trimesh.transformations.random_rotation_matrix(rng.random(3)))
    mesh.apply_translation(30 * rng.normal(size=3))
    return mesh
