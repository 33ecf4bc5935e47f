"""OBJ (Wavefront): triangles in millimetres, each body an object of its own."""

from __future__ import annotations

from pathlib import Path as FilePath
from typing import TYPE_CHECKING

import numpy as np

from metaspira.outputs.output import Built, any_part
from metaspira.parts import AnyPart
from metaspira.parts.identity import SYSTEM, Identity
from metaspira.processes import Progress
from metaspira.solids.proof import Proof

if TYPE_CHECKING:
    from metaspira.formats.meshes import NamedMesh

LISTED = 14


def _write(part: AnyPart, file: FilePath, chord_error: float, progress: Progress) -> Proof:
    from metaspira.formats.meshes import written

    return written(part, file, chord_error, progress, _export)


def _export(meshes: list[NamedMesh], file: FilePath, identity: Identity) -> None:
    with file.open("w", encoding="utf-8") as out:
        out.write(f"# {' '.join(identity.title.split())}, mm, {SYSTEM}\n")
        before = 1
        for named in meshes:
            out.write(f"o {'_'.join(named.name.split())}\n")
            np.savetxt(out, named.mesh.vertices, fmt="v %.9g %.9g %.9g")
            np.savetxt(out, named.mesh.faces + before, fmt="f %d %d %d")
            before += len(named.mesh.vertices)


_USE = "modelling and rendering: a mesh by named groups"

OUTPUTS = (Built("obj", "Solid", "OBJ, mesh", _USE, "model/obj", any_part, _write),)
