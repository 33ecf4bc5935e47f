"""A fit ladder: studs and nuts whose allowance grows, to be printed and tried."""

from __future__ import annotations

from pathlib import Path as FilePath
from tempfile import TemporaryDirectory
from typing import Any

from metaspira.outputs.output import made_in
from metaspira.parts import AnyPart, ThreadedPart
from metaspira.parts.identity import identity_of
from metaspira.problems import Problem

LISTED = 64

_FORMATS = {"3mf": "model/3mf", "stl": "model/stl"}


def _misfit(part: AnyPart) -> Problem | None:
    if not isinstance(part, ThreadedPart):
        return Problem("/path", "a fit ladder is of a thread", "take a thread")
    if part.recipe.use.as_ != "body" or part.thread.taper:
        return Problem(
            "/use/as", "a fit ladder is of a parallel thread that is the whole body", "use it as a body"
        )
    if part.thread.side == "internal":
        return Problem(
            "/thread/designation", "a fit ladder is of a thread that has both members", "name no class of one"
        )
    return None


def _make(part: AnyPart, suffix: str) -> tuple[bytes, dict[str, Any]]:
    from metaspira.formats.meshes import NamedMesh, export_joined
    from metaspira.formats.threemf import export
    from metaspira.solids.ladder import ladder_of

    assert isinstance(part, ThreadedPart)
    rungs = ladder_of(part)
    meshes = [NamedMesh(rung.name, rung.mesh, part.material.colour) for rung in rungs]
    solids = [mesh.as_trimesh() for mesh in meshes]
    with TemporaryDirectory(prefix="metaspira-") as folder:
        file = FilePath(folder) / f"ladder.{suffix}"
        (export if suffix == "3mf" else export_joined)(meshes, file, identity_of(part))
        data = file.read_bytes()
    proof = {
        "bodies": len(rungs),
        "closed": all(solid.is_watertight for solid in solids),
        "volume": float(sum(solid.volume for solid in solids)),
    }
    return data, proof


_USE = "printing first: finds the allowance that fits"

OUTPUTS = made_in(_FORMATS, "ladder", "Fit ladder", _USE, _misfit, _make)
