"""What all mesh formats share: the meshes of a part's bodies, and the proof of a file that holds them."""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import dataclass
from pathlib import Path as FilePath

import numpy as np
import trimesh

from metaspira.parts import AnyPart, Part, bodies_of
from metaspira.processes import Progress
from metaspira.solids.proof import Proof
from metaspira.sweep.mesh import Mesh


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
    export: Callable[[list[NamedMesh], FilePath], None],
    load: Callable[[FilePath], trimesh.Trimesh] | None = None,
) -> Proof:
    """Write the meshes within `chord_error` mm of the shape by `export`, and prove the file, as `load`
    reads it. Raises ProofError."""
    meshes = []
    for index, body in enumerate(bodies_of(part)):
        progress(0.05 + 0.4 * index / len(part.bodies), "mesh")
        meshes.append(NamedMesh(body.name, body.mesh(chord_error), part.material.colour))
    progress(0.5, f"writing {file.suffix[1:].upper()}")
    export(meshes, file)
    progress(0.7, "reading back")
    return measure_mesh((load or loaded)(file), part, chord_error)


def write(part: AnyPart, file: FilePath, chord_error: float, progress: Progress) -> Proof:
    """Write all bodies as one mesh, in the format of the file's suffix, within `chord_error` mm of the shape,
    and prove it. Raises ProofError."""
    return written(part, file, chord_error, progress, lambda meshes, name: joined(meshes).export(name))


def loaded(file: FilePath) -> trimesh.Trimesh:
    """The mesh in a file, in millimetres, all its bodies as one."""
    mesh = trimesh.load(file, force="mesh")
    if file.suffix == ".glb":
        mesh.apply_scale(1000.0)
    return mesh


def measure_mesh(mesh: trimesh.Trimesh, part: AnyPart, chord_error: float) -> Proof:
    """What `trimesh` finds in a mesh, its coincident vertices merged. Raises ProofError.

    The volume may be off by what a skin of the chord error amounts to, and by the rounding of single
    precision coordinates; the area of a skin by twice the share of the chord error in its section.
    """
    mesh.merge_vertices(merge_tex=True, merge_norm=True)
    winding = bool(mesh.is_winding_consistent)
    if isinstance(part, Part) and part.is_skin:
        predicted = sum(body.sweep.lateral_area for body in part.bodies)
        size = min(body.sweep.section.reach() for body in part.bodies)
        allowed = 4 * chord_error / size + 1e-4
        found = Proof(False, winding, 0.0, 0.0, allowed, float(mesh.area), predicted)
        return found.demand("mesh")
    skin = 2 * chord_error * float(mesh.area) / abs(part.volume)
    return Proof(
        bool(mesh.is_watertight),
        winding and bool(mesh.is_volume),
        float(mesh.volume),
        part.volume,
        skin + 1e-5,
    ).demand("mesh")


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
