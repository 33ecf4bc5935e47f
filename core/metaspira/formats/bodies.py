"""A reference body from a file: STL, OBJ, PLY, GLB, 3MF or STEP; made light enough for a recipe, and how far
that took it."""

from __future__ import annotations

from dataclasses import dataclass

import numpy as np
import trimesh

from metaspira.formats.outside import Enclosed, FileMesh, mesh_in, plain_suffix
from metaspira.numbers.measure import length_of_file
from metaspira.problems import Problem, RecipeError
from metaspira.references.asked import MOST_FACES, MOST_VERTICES, ReferenceBody, Triangles
from metaspira.references.placed import PlacedBody

_PROBES = 20_000

BODIES = (".stl", ".obj", ".ply", ".glb", ".3mf", ".step")
"""Suffixes of the formats that a body is read from."""


def read_body(data: bytes, suffix: str, unit_name: str | None, name: str = "body") -> ReferenceBody:
    """The body in a file's bytes, light enough for a recipe. `unit_name` is the unit of a file that does
    not say its own.
    Raises RecipeError."""
    light = bodies_in(data, suffix, unit_name, name).light
    if light is None:
        raise RecipeError(
            Problem("/file", "the body cannot be made light enough for a recipe", "give one with fewer faces")
        )
    return light


@dataclass(frozen=True, eq=False)
class ReadBody:
    """The mesh in a file, mm and z up, off its surfaces by `deflection` mm at the most; the light body made
    of it, None where its pieces are too many; and what its surfaces enclose, where it has them."""

    mesh: trimesh.Trimesh
    light: ReferenceBody | None
    exact: Enclosed | None
    deflection: float


def bodies_in(data: bytes, suffix: str, unit_name: str | None, name: str) -> ReadBody:
    """The body in a file's bytes. Raises RecipeError."""
    found, size = _found(data, suffix, unit_name)
    whole = _whole(found, size)
    return ReadBody(whole, _light(whole, found, size, name), found.exact, found.deflection * size)


def _light(whole: trimesh.Trimesh, found: FileMesh, size: float, name: str) -> ReferenceBody | None:
    light = trimesh.Trimesh(found.light_vertices * size, found.light_faces, process=False)
    if not 0 < len(light.faces) <= MOST_FACES or len(light.vertices) > MOST_VERTICES:
        return None
    lighter = len(light.faces) < len(whole.faces)
    error = max(_apart(whole, light), _apart(light, whole)) if lighter else 0.0
    triangles: Triangles = {
        "vertices": [(float(x), float(y), float(z)) for x, y, z in np.round(light.vertices, 4)],
        "faces": [(int(a), int(b), int(c)) for a, b, c in light.faces],
    }
    return ReferenceBody(name=name[:120] or "body", mesh=triangles, error=float(f"{error:.3g}"))


def scanned_in(data: bytes, suffix: str, unit_name: str | None) -> trimesh.Trimesh:
    """The mesh in a file's bytes, mm, of as many pieces as there are. Raises RecipeError."""
    return _whole(*_found(data, suffix, unit_name))


def _found(data: bytes, suffix: str, unit_name: str | None) -> tuple[FileMesh, float]:
    suffix = plain_suffix(suffix)
    if suffix not in BODIES:
        raise RecipeError(
            Problem("/file", f"“{suffix}” is no body that is read here", f"give one of {', '.join(BODIES)}")
        )
    found = mesh_in(data, suffix)
    return found, length_of_file(found.unit, unit_name, "the file")


def _whole(found: FileMesh, size: float) -> trimesh.Trimesh:
    whole = trimesh.Trimesh(found.vertices * size, found.faces, process=False)
    if np.abs(whole.bounds).max() > 1e6:
        raise RecipeError(Problem("/unit", "the body is more than a kilometre large", "check its unit"))
    return whole


def _apart(one: trimesh.Trimesh, other: trimesh.Trimesh) -> float:
    """How far places all over the surface of one are from that of the other at the most."""
    points, surface = (
        PlacedBody("", 0.0, np.asarray(mesh.vertices), np.asarray(mesh.faces, np.int32), False)
        for mesh in (one, other)
    )
    places = points.places
    return float(surface.distance(places[:: max(1, len(places) // _PROBES)]).max())
