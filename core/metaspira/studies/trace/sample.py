"""A made-up scan to try tracing on, where no scanned body is at hand."""

from __future__ import annotations

from functools import cache
from typing import Any

import numpy as np
import trimesh

from metaspira.parts import part_of
from metaspira.starting import starting_point

_NOISE, _CHORD = 0.02, 0.02
_PLACE = (14.0, -9.0, 6.0)


@cache
def sample_scan() -> bytes:
    """The spring that a new design may begin as, in triangles (binary STL, mm): each corner moved by noise of
    0.02 mm (standard deviation), the whole turned and moved; invented, the same each time."""
    rng = np.random.default_rng(7)
    made: Any = part_of(starting_point("push").recipe).bodies[0].mesh(_CHORD)
    places = made.vertices + _NOISE * rng.normal(size=made.vertices.shape)
    mesh = trimesh.Trimesh(places, made.faces, process=False)
    mesh.apply_transform(trimesh.transformations.euler_matrix(0.7, 0.4, 1.1))
    mesh.apply_translation(_PLACE)
    return bytes(mesh.export(file_type="stl"))
