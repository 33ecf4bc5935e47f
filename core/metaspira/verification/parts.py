"""The parts that cases are calculated of."""

from __future__ import annotations

from typing import Any

import manifold3d
import numpy as np

from metaspira.parts import Part, ThreadedPart, part_of
from metaspira.sweep.mesh import Mesh


def wound(recipe: dict[str, Any]) -> Part:
    """The part of a recipe without its format; never a threaded one."""
    part = part_of({"format": "metaspira/1", **recipe})
    assert isinstance(part, Part)
    return part


def threaded(recipe: dict[str, Any]) -> ThreadedPart:
    """The threaded part of a recipe without its format."""
    part = part_of({"format": "metaspira/1", **recipe})
    assert isinstance(part, ThreadedPart)
    return part


def spring_of(recipe: dict[str, Any]) -> Any:
    """The same part's spring."""
    return wound(recipe).spring


def manifold(mesh: Mesh) -> manifold3d.Manifold:
    """A mesh as Manifold has it."""
    return manifold3d.Manifold(
        manifold3d.Mesh(mesh.vertices.astype(np.float32), mesh.faces.astype(np.uint32))
    )
