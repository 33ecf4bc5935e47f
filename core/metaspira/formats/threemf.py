"""3MF (3MF Consortium, core specification 1.3): millimetres, each body an object, with its colours."""

from __future__ import annotations

from pathlib import Path as FilePath

import lib3mf
import numpy as np
import trimesh

from metaspira.formats.meshes import NamedMesh, Progress, rgb, written
from metaspira.part import AnyPart
from metaspira.solids.proof import Proof, ProofError


def write(part: AnyPart, file: FilePath, chord_error: float, progress: Progress) -> Proof:
    """Write the mesh within `chord_error` mm of the shape and prove it. Raises ProofError."""
    return written(part, file, chord_error, progress, _export, _load)


def _export(meshes: list[NamedMesh], file: FilePath) -> None:
    model = lib3mf.get_wrapper().CreateModel()
    model.SetUnit(lib3mf.ModelUnit.MilliMeter)
    for named in meshes:
        body = model.AddMeshObject()
        body.SetName(named.name)
        vertices = np.ascontiguousarray(named.mesh.vertices, dtype=np.float32)
        faces = np.ascontiguousarray(named.mesh.faces, dtype=np.uint32)
        body.SetGeometry(
            (lib3mf.Position * len(vertices)).from_buffer_copy(vertices.tobytes()),
            (lib3mf.Triangle * len(faces)).from_buffer_copy(faces.tobytes()),
        )
        group = model.AddColorGroup()
        ids = []
        for colour in named.palette:
            paint = lib3mf.Color()
            paint.Red, paint.Green, paint.Blue = rgb(colour)
            paint.Alpha = 255
            ids.append(group.AddColor(paint))
        resource = group.GetResourceID()
        paints = named.mesh.paint
        properties = (lib3mf.TriangleProperties * len(faces))()
        table = np.frombuffer(properties, dtype=np.uint32).reshape(len(faces), -1)
        table[:, 0] = resource
        table[:, 1:4] = np.array(ids, dtype=np.uint32)[paints + 1][:, None]
        body.SetAllTriangleProperties(properties)
        body.SetObjectLevelProperty(resource, ids[0])
        model.AddBuildItem(body, lib3mf.get_wrapper().GetIdentityTransform())
    writer = model.QueryWriter("3mf")
    writer.SetDecimalPrecision(9)
    writer.WriteToFile(str(file))


def _load(file: FilePath) -> trimesh.Trimesh:
    """All mesh objects of a 3MF file as one mesh. Raises ProofError where its unit is not the millimetre."""
    model = lib3mf.get_wrapper().CreateModel()
    model.QueryReader("3mf").ReadFromFile(str(file))
    if model.GetUnit() != lib3mf.ModelUnit.MilliMeter:
        raise ProofError("the 3MF file is not in millimetres")
    parts = []
    bodies = model.GetMeshObjects()
    while bodies.MoveNext():
        body = bodies.GetCurrentMeshObject()
        vertices = np.array([list(v.Coordinates) for v in body.GetVertices()], dtype=float)
        faces = np.array([list(t.Indices) for t in body.GetTriangleIndices()], dtype=np.int64)
        parts.append(trimesh.Trimesh(vertices, faces, process=False))
    if not parts:
        raise ProofError("the 3MF file holds no mesh")
    return parts[0] if len(parts) == 1 else trimesh.util.concatenate(parts)
