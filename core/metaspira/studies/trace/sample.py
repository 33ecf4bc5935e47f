"""Made-up scans, to try tracing on where no scanned body is at hand."""

from __future__ import annotations

from functools import cache

import numpy as np
import trimesh

from metaspira.parts import AnyPart, bodies_of, part_of
from metaspira.starting import starting_point

_SEED, _FINE, _EDGE = 7, 0.01, 0.8
_NOISE = 0.02


def made_up(part: AnyPart, noise: float) -> trimesh.Trimesh:
    """A scan of a part's first body, mm: each vertex moved by `noise` (standard deviation), the whole turned
    and moved; the same each time."""
    rng = np.random.default_rng(_SEED)
    made = bodies_of(part)[0].mesh(_FINE)
    mesh = trimesh.Trimesh(made.vertices, made.faces, process=True).subdivide_to_size(_EDGE)
    mesh.vertices = mesh.vertices + noise * rng.normal(size=mesh.vertices.shape)
    mesh.apply_transform(trimesh.transformations.random_rotation_matrix(rng.random(3)))
    mesh.apply_translation(30 * rng.normal(size=3))
    return mesh


@cache
def sample_scan() -> bytes:
    """The spring that a new design may begin as, as a scan (binary STL, mm)."""
    return bytes(made_up(part_of(starting_point("push").recipe), _NOISE).export(file_type="stl"))
