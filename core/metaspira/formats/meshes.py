"""What all mesh formats share: the meshes of a part's bodies, and the proof of a file that holds them."""

from __future__ import annotations

import re
from collections.abc import Callable
from dataclasses import dataclass
from functools import lru_cache
from pathlib import Path as FilePath

import numpy as np
import trimesh
from trimesh.exchange.ply import export_ply
from trimesh.exchange.stl import export_stl

from metaspira.numbers.jets import Array
from metaspira.numbers.nearest import Triangles
from metaspira.parts import AnyPart, Part, bodies_of
from metaspira.parts.identity import SYSTEM, Identity, body_names, identity_of
from metaspira.processes import Progress
from metaspira.solids.proof import Proof, ProofError
from metaspira.sweep.mesh import Mesh, as_one

_STL_HEADER = 80
_FINER, _MORE, _PLACES, _MOST_MEASURED = 4, 3, 2000, 600_000
_SMALLER = (1.0, 0.6, 0.35)
_SINGLE = 4 * float(np.finfo(np.float32).eps)
_PLY_COMMENT = re.compile(rb"comment [^\n]*")


class TooFarOff(ProofError):
    """The mesh is further off the shape than it may be."""


@dataclass(frozen=True, eq=False)
class NamedMesh:
    """A body's mesh; `colours` (m,) names the colour of each face, the material's where none is painted."""

    name: str
    mesh: Mesh
    base_colour: str

    @property
    def palette(self) -> tuple[str, ...]:
        """The colours in use, the body's own first."""
        return (self.base_colour, *self.mesh.colours)

    def as_trimesh(self) -> trimesh.Trimesh:
        return trimesh.Trimesh(self.mesh.vertices, self.mesh.faces, process=False)


def written(
    part: AnyPart,
    file: FilePath,
    chord_error: float,
    progress: Progress,
    export: Callable[[list[NamedMesh], FilePath, Identity], None],
    load: Callable[[FilePath], trimesh.Trimesh] | None = None,
) -> Proof:
    """Write the meshes within `chord_error` mm of the shape by `export`, and prove the file, as `load`
    reads it. Raises ProofError."""

    def made(error: float) -> trimesh.Trimesh:
        meshes = []
        for index, (body, name) in enumerate(zip(bodies_of(part), body_names(part), strict=True)):
            progress(0.05 + 0.4 * index / len(part.bodies), "mesh")
            meshes.append(NamedMesh(name, body.mesh(error), part.material.colour))
        progress(0.5, f"writing {file.suffix[1:].upper()}")
        export(meshes, file, identity_of(part))
        progress(0.7, "reading back")
        return (load or loaded)(file)

    return proven(part, chord_error, made)


def proven(part: AnyPart, chord_error: float, made: Callable[[float], trimesh.Trimesh]) -> Proof:
    """The proof of the mesh that `made` writes for a chord error and reads back; made again for a smaller one
    where it is further off the shape than it may be. Raises ProofError."""
    for share in _SMALLER:
        try:
            return measure_mesh(made(share * chord_error), part, chord_error)
        except TooFarOff as error:
            failed = error
    raise failed


def write(part: AnyPart, file: FilePath, chord_error: float, progress: Progress) -> Proof:
    """Write all bodies as one mesh, in the format of the file's suffix, within `chord_error` mm of the shape,
    and prove it. Raises ProofError."""
    return written(part, file, chord_error, progress, export_joined)


def export_joined(meshes: list[NamedMesh], file: FilePath, identity: Identity) -> None:
    """Write all bodies as one mesh, STL or PLY by the file's suffix, whose header says what it is."""
    if file.suffix == ".stl":
        data = export_stl(joined(meshes))
        head = f"{identity.title}, mm, {SYSTEM}".encode("ascii", "replace")[:_STL_HEADER]
        file.write_bytes(head.ljust(_STL_HEADER, b"\0") + data[_STL_HEADER:])
    else:
        told = f"comment {identity.title}, mm, {SYSTEM}".replace("\n", " ").encode()
        file.write_bytes(_PLY_COMMENT.sub(lambda _: told, export_ply(joined(meshes)), count=1))


def loaded(file: FilePath) -> trimesh.Trimesh:
    """The mesh in a file, in millimetres and z up, all its bodies as one."""
    mesh = trimesh.load(file, force="mesh")
    if file.suffix == ".glb":
        x, y, z = 1000.0 * np.asarray(mesh.vertices).T
        mesh.vertices = np.stack([x, -z, y], axis=1)
    return mesh


def measure_mesh(mesh: trimesh.Trimesh, part: AnyPart, chord_error: float) -> Proof:
    """What `trimesh` finds in a mesh, its coincident vertices merged: how far it and the shape are off each
    other, in both directions. Raises ProofError.

    The volume may be off by what a skin as thick as the greatest distance amounts to, the area of a skin by
    twice the share of the chord error in its section; and both by the rounding to single precision.
    """
    mesh.merge_vertices(merge_tex=True, merge_norm=True)
    winding = bool(mesh.is_winding_consistent)
    off = _deviation(mesh, part, chord_error)
    rounding = _SINGLE * float(np.abs(mesh.bounds).max())
    if off is not None and max(off) > chord_error + rounding:
        raise TooFarOff(
            f"the mesh is {max(off):.3g} mm off the shape, where {chord_error:.3g} mm were asked for"
        )
    if isinstance(part, Part) and part.is_skin:
        predicted = sum(body.sweep.lateral_area for body in part.bodies)
        size = min(body.sweep.section.reach() for body in part.bodies)
        allowed = 4 * chord_error / size + 1e-4
        found = Proof(False, winding, 0.0, 0.0, allowed, float(mesh.area), predicted, off)
        return found.demand("mesh")
    skin = (max(off) if off else chord_error) * float(mesh.area) / abs(part.volume)
    return Proof(
        bool(mesh.is_watertight),
        winding and bool(mesh.is_volume),
        float(mesh.volume),
        part.volume,
        skin + 1e-5,
        off=off,
    ).demand("mesh")


def _deviation(mesh: trimesh.Trimesh, part: AnyPart, chord_error: float) -> tuple[float, float] | None:
    """The greatest distance, mm, of places on the shape from the mesh and of places on the mesh from the
    shape, which a mesh four times as fine stands for; None where that one would be too large to hold. Where
    meshes can be no coarser, four times as fine is three times the vertices at the least."""
    fine, enough = chord_error / _FINER, _MORE * _count(part, chord_error)
    if _count(part, fine) > _MOST_MEASURED:
        return None
    while _count(part, fine) < enough and _count(part, fine / 2) <= _MOST_MEASURED:
        fine /= 2
    shape, places = _fine(part, fine)
    from_mesh, _ = Triangles(mesh.triangles).nearest(places)
    from_shape, _ = shape.nearest(_spread(mesh.triangles))
    return float(from_mesh.max()), float(from_shape.max())


def _count(part: AnyPart, chord_error: float) -> int:
    """About how many vertices a mesh has."""
    return sum(body.vertex_count(chord_error) for body in bodies_of(part))


@lru_cache(maxsize=1)
def _fine(part: AnyPart, chord_error: float) -> tuple[Triangles, Array]:
    """The triangles that stand for the shape, and places on them; the same for all formats that are made of a
    part together."""
    vertices, faces = as_one([body.mesh(chord_error) for body in bodies_of(part)])
    corners = vertices[faces]
    return Triangles(corners), _spread(corners)


def _spread(corners: Array) -> Array:
    """The middles of as many triangles as are measured, from the first to the last."""
    count = len(corners)
    which = np.unique(np.linspace(0, count - 1, min(count, _PLACES)).astype(int))
    return np.asarray(corners[which].mean(axis=1))


def rgb(colour: str) -> tuple[int, int, int]:
    """Red, green and blue, 0 to 255, of a colour such as “#b8693d”."""
    red, green, blue = (int(colour[i : i + 2], 16) for i in (1, 3, 5))
    return red, green, blue


def joined(meshes: list[NamedMesh]) -> trimesh.Trimesh:
    """All bodies as one mesh, with the colour of each face."""
    parts = []
    for named in meshes:
        mesh = named.as_trimesh()
        palette = np.array([[*rgb(colour), 255] for colour in named.palette], dtype=np.uint8)
        mesh.visual.face_colors = palette[named.mesh.paint + 1]
        parts.append(mesh)
    return parts[0] if len(parts) == 1 else trimesh.util.concatenate(parts)
