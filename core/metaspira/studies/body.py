"""A part held against a body from a file: what both weigh and measure, and how far their surfaces are
apart."""

from __future__ import annotations

from dataclasses import dataclass

import numpy as np
import trimesh

from metaspira.formats.bodies import ReadBody
from metaspira.formats.outside import Enclosed
from metaspira.numbers.jets import Array
from metaspira.parts import AnyPart, bodies_of
from metaspira.parts.weight import Weight, weigh
from metaspira.references.asked import ReferenceBody
from metaspira.references.placed import PlacedBody, placed_mesh
from metaspira.studies.compare import FigureChange
from metaspira.sweep.mesh import as_one

_PROBES = 12_000
_FINE, _MOST_VERTICES, _CLOSE = 2e-4, 300_000, 3e-5
_SHARP = 0.5


@dataclass(frozen=True)
class Apart:
    """How far, mm, one surface reaches out of the other at the most, and where."""

    distance: float
    at: tuple[float, float, float]


@dataclass(frozen=True)
class HeldAgainst:
    """The figures of the body (before) and of the part (after); how far the part reaches beyond the body, and
    the body beyond the part, all known to `within` mm: by the triangles that stand for both surfaces.
    `body` is the file's made light, to be seen, where that can be done. A body that is not `closed` has no
    volume. They are the `same` where neither reaches further beyond the other than that, and their volumes
    differ by no more than such a skin holds."""

    figures: list[FigureChange]
    part_beyond: Apart
    body_beyond: Apart
    closed: bool
    body: ReferenceBody | None
    within: float
    same: bool


def held_against(part: AnyPart, read: ReadBody) -> HeldAgainst:
    """Hold a part against the body of a file, both where they stand."""
    body = placed_mesh("body", read.deflection, read.mesh)
    deflection = read.deflection or _faceting(read.mesh)
    chord_error = max(_FINE * max(float(np.ptp(read.mesh.bounds, axis=0).max()), 1e-3), deflection / 8)
    while sum(one.vertex_count(chord_error) for one in bodies_of(part)) > _MOST_VERTICES:
        chord_error *= 2
    vertices, faces = as_one([one.mesh(chord_error) for one in bodies_of(part)])
    own = PlacedBody("part", 0.0, vertices, faces, True)
    closed = body.closed or read.exact is not None
    ours, theirs = weigh(part), _weight_of(read, part.material.density if closed else None)
    part_beyond, body_beyond = _furthest(body, vertices), _furthest(own, body.places)
    within = float(f"{deflection + chord_error:.2g}")
    skin = within * max(ours.surface, theirs.surface) + _CLOSE * ours.volume
    same = max(part_beyond.distance, body_beyond.distance) <= within
    same = same and (not closed or abs(theirs.volume - ours.volume) <= skin)
    return HeldAgainst(_figures(theirs, ours), part_beyond, body_beyond, closed, read.light, within, same)


def _faceting(mesh: trimesh.Trimesh) -> float:
    """How far flat triangles are off the smooth surface that they stand for, mm: twice the sagitta of the
    arcs across their edges; an edge that bends by more than `_SHARP` is taken for one of the body."""
    angle = mesh.face_adjacency_angles
    smooth = angle < _SHARP
    if not smooth.any():
        return 0.0
    faces, edges = mesh.face_adjacency[smooth], mesh.face_adjacency_edges[smooth]
    edge = np.linalg.norm(np.diff(mesh.vertices[edges], axis=1)[:, 0], axis=1)
    across = 2 * mesh.area_faces[faces].mean(axis=1) / np.maximum(edge, 1e-300)
    return float((across * angle[smooth]).max()) / 4


def _weight_of(read: ReadBody, density: float | None) -> Weight:
    """What the body weighs at a density, g/mm³: by its surfaces where the file has them, or by its mesh; of
    one that is not closed its surface and box alone."""
    mesh, exact = read.mesh, read.exact
    low, high = (tuple(float(c) for c in bound) for bound in mesh.bounds)
    if density is None:
        return Weight(0.0, 0.0, float(mesh.area), low, high, None, None, None)
    if exact is None:
        exact = Enclosed(
            float(mesh.volume), float(mesh.area), mesh.center_mass, np.array(mesh.moment_inertia)
        )
    inertia = density * exact.inertia
    return Weight(
        density * exact.volume,
        exact.volume,
        exact.surface,
        low,
        high,
        tuple(float(c) for c in exact.centre),
        tuple(tuple(row) for row in inertia.tolist()),
        tuple(np.linalg.eigvalsh(inertia).tolist()),
    )


def _figures(body: Weight, part: Weight) -> list[FigureChange]:
    """All figures of both; what a surface alone does not have is None."""
    rows = []
    for name, title, unit in (
        ("volume", "Volume", "mm³"),
        ("mass", "Mass, of the part’s material", "g"),
    ):
        values = (getattr(one, name) if one.centre is not None else None for one in (body, part))
        rows.append(FigureChange(name, title, unit, *values))
    rows.append(FigureChange("surface", "Surface", "mm²", body.surface, part.surface))
    for k, axis in enumerate("xyz"):
        sizes = (one.high[k] - one.low[k] for one in (body, part))
        rows.append(FigureChange(f"box_{axis}", f"Box along {axis}", "mm", *sizes))
    for k, axis in enumerate("xyz"):
        places = (None if one.centre is None else one.centre[k] for one in (body, part))
        rows.append(FigureChange(f"centre_{axis}", f"Centre of mass, {axis}", "mm", *places))
    for k, which in enumerate(("least", "middle", "greatest")):
        values = (None if one.principal is None else one.principal[k] for one in (body, part))
        rows.append(FigureChange(f"inertia_{k}", f"Moment of inertia, {which}", "g mm²", *values))
    return rows


def _furthest(body: PlacedBody, points: Array) -> Apart:
    """The one of points (n, 3), or of enough of them, that is furthest outside the body."""
    some = points[:: max(1, len(points) // _PROBES)]
    away = body.distance(some)
    k = int(np.argmax(away))
    x, y, z = (float(c) for c in some[k])
    return Apart(max(0.0, float(away[k])), (x, y, z))
