"""Volumes, extents and masses of parts."""

from __future__ import annotations

import math
from collections.abc import Iterator
from typing import Any

import numpy as np
import trimesh

from metaspira.parts import Body, Part, part_of
from metaspira.starting import starting_points
from metaspira.verification.row import Row, near

_CHORD = 0.02
_PAPPUS: dict[str, tuple[dict[str, Any], float]] = {
    "round 3": ({"kind": "round", "diameter": 3}, math.pi * 2.25),
    "rectangle 5 × 2": ({"kind": "rectangle", "width": 5, "height": 2}, 10.0),
    "hexagon 4": ({"kind": "polygon", "sides": 6, "across_flats": 4}, 8 * math.sqrt(3)),
    "tube 6 × 1": ({"kind": "tube", "diameter": 6, "wall": 1}, math.pi * 5),
}
_COIL = {"kind": "coil", "diameter": 40, "turns": 3, "pitch": 12}


def rows() -> Iterator[Row]:
    length = 3 * math.hypot(40 * math.pi, 12)
    for name, (section, area) in _PAPPUS.items():
        part = part_of(
            {"format": "metaspira/1", "path": _COIL, "section": section, "material": "spring-steel"}
        )
        case = f"{name} on a helix ⌀40, 3 turns, pitch 12"
        source = "Pappus and Guldin, area · way of the centroid"
        yield near(("volume",), case, area * length, part.volume, 1e-10, "mm³", source, "formula")
    ring = {
        "kind": "formula",
        "x": "15 * cos(t)",
        "y": "15 * sin(t)",
        "z": "0",
        "from": 0,
        "to": 6.283185307179586,
    }
    part = part_of({"format": "metaspira/1", "path": ring, "section": {"kind": "round", "diameter": 4}})
    yield near(
        ("volume",),
        "a ring ⌀30 of round 4",
        2 * math.pi**2 * 15 * 4,
        part.volume,
        1e-10,
        "mm³",
        "torus, 2 π² R r²",
        "formula",
    )
    bar = {"kind": "straight", "length": 60}
    for last, name in ((0.4, "a taper to 0.4"), (2.0, "a taper to 2")):
        along = {"size": {"from": 1, "to": last}}
        recipe = {"format": "metaspira/1", "path": bar, "section": _PAPPUS["round 3"][0], "along": along}
        exact = 60 * _PAPPUS["round 3"][1] * (1 + last + last**2) / 3
        yield near(
            ("volume",),
            f"round 3, 60 long, {name}",
            exact,
            part_of(recipe).volume,
            1e-10,
            "mm³",
            "frustum, h (A₁ + √(A₁ A₂) + A₂) / 3",
            "formula",
        )
    for key, point in starting_points().items():
        part = part_of(point.recipe)
        if isinstance(part, Part) and part.outline.closed:
            yield from _meshed(key, part)


def _meshed(key: str, part: Part) -> Iterator[Row]:
    """The starting point as a mesh: its volume is off by no more than a skin of the chord error."""
    meshes = [_mesh(body) for body in part.bodies]
    volume, skin = sum(abs(mesh.volume) for mesh in meshes), sum(mesh.area for mesh in meshes) * _CHORD
    yield Row(
        ("volume", "mass"),
        f"starting point “{key}”",
        volume,
        sum(body.volume for body in part.bodies),
        skin,
        "mm³",
        f"mesh of {_CHORD:g} mm chord error, by trimesh",
        "computed",
    )
    points = np.concatenate([mesh.vertices for mesh in meshes])
    radius = np.hypot(points[:, 0], points[:, 1])
    source = f"vertices of a mesh of {_CHORD:g} mm chord error"
    held = [
        ("outside_diameter", 2 * radius.max(), 2 * part.extents.outside_radius),
        ("overall_height", float(np.ptp(points[:, 2])), part.extents.height),
    ]
    if part.path.coil is not None:
        held.append(("inside_diameter", 2 * radius.min(), 2 * part.extents.inside_radius))
    for figure, value, ours in held:
        yield Row(
            (figure,), f"starting point “{key}”", float(value), ours, 2 * _CHORD, "mm", source, "computed"
        )


def _mesh(body: Body) -> trimesh.Trimesh:
    mesh = body.mesh(_CHORD)
    return trimesh.Trimesh(mesh.vertices, mesh.faces, process=False)
