"""3MF (3MF Consortium, core specification 1.3): millimetres, each body an object, with its colours."""

from __future__ import annotations

import locale
import uuid
import zipfile
from collections.abc import Iterator
from contextlib import contextmanager
from pathlib import Path as FilePath

import lib3mf
import numpy as np
import trimesh

from metaspira.formats.meshes import NamedMesh, rgb, written
from metaspira.formats.promised import MOST_TRIANGLES
from metaspira.numbers.jets import Array
from metaspira.parts import AnyPart
from metaspira.parts.identity import SYSTEM, Identity
from metaspira.processes import Progress
from metaspira.solids.proof import Proof, ProofError
from metaspira.sweep.mesh import Indices

_UNITS = {
    lib3mf.ModelUnit.MicroMeter: 0.001,
    lib3mf.ModelUnit.MilliMeter: 1.0,
    lib3mf.ModelUnit.CentiMeter: 10.0,
    lib3mf.ModelUnit.Inch: 25.4,
    lib3mf.ModelUnit.Foot: 304.8,
    lib3mf.ModelUnit.Meter: 1000.0,
}


@contextmanager
def _own_locale() -> Iterator[None]:
    """lib3mf leaves the locale of the whole process changed, by which text files are read; it is put back."""
    before = locale.setlocale(locale.LC_ALL)
    try:
        yield
    finally:
        locale.setlocale(locale.LC_ALL, before)


def write(part: AnyPart, file: FilePath, chord_error: float, progress: Progress) -> Proof:
    """Write the mesh within `chord_error` mm of the shape and prove it. Raises ProofError."""
    return written(part, file, chord_error, progress, export, _load)


@_own_locale()
def export(meshes: list[NamedMesh], file: FilePath, identity: Identity) -> None:
    """Write meshes, each an object of its name, with what the file is and whose."""
    model = lib3mf.get_wrapper().CreateModel()
    model.SetUnit(lib3mf.ModelUnit.MilliMeter)
    model.SetBuildUUID(_uuid(identity, "build"))
    for name, value in _metadata(identity):
        model.GetMetaDataGroup().AddMetaData("", name, value, "xs:string", True)
    for index, named in enumerate(meshes):
        body = model.AddMeshObject()
        body.SetName(named.name)
        body.SetUUID(_uuid(identity, f"object {index}"))
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
        item = model.AddBuildItem(body, lib3mf.get_wrapper().GetIdentityTransform())
        item.SetUUID(_uuid(identity, f"item {index}"))
    writer = model.QueryWriter("3mf")
    writer.SetDecimalPrecision(9)
    writer.WriteToFile(str(file))
    _date(file, identity)


def _metadata(identity: Identity) -> list[tuple[str, str]]:
    block = identity.block
    told = [
        ("Title", identity.title),
        ("Designer", block.creator),
        ("Copyright", block.owner),
        ("LicenseTerms", block.licence),
        ("CreationDate", identity.day),
        ("Application", SYSTEM),
    ]
    return [(name, value) for name, value in told if value]


def _uuid(identity: Identity, what: str) -> str:
    """The same for the same design."""
    return str(uuid.uuid5(uuid.NAMESPACE_URL, f"{identity.title}/{identity.block.number}/{what}"))


def _date(file: FilePath, identity: Identity) -> None:
    """Date what is in the archive: lib3mf leaves month and day at naught, which other readers refuse."""
    with zipfile.ZipFile(file) as archive:
        held = [(one.filename, archive.read(one)) for one in archive.infolist()]
    with zipfile.ZipFile(file, "w", zipfile.ZIP_DEFLATED) as archive:
        for name, data in held:
            archive.writestr(zipfile.ZipInfo(name, identity.time.timetuple()[:6]), data, zipfile.ZIP_DEFLATED)


@_own_locale()
def read(file: FilePath) -> tuple[Array, Indices, float]:
    """Vertices (n, 3) and faces (m, 3) of what a 3MF file would build, and millimetres in its unit. Raises
    ValueError where it builds nothing of triangles."""
    model = lib3mf.get_wrapper().CreateModel()
    model.QueryReader("3mf").ReadFromFile(str(file))
    vertices: list[Array] = []
    faces: list[Indices] = []
    count = total = 0
    items = model.GetBuildItems()
    while items.MoveNext():
        item = items.GetCurrent()
        resource = item.GetObjectResource()
        if not resource.IsMeshObject():
            continue
        body = model.GetMeshObjectByID(resource.GetResourceID())
        total += body.GetTriangleCount()
        if total > MOST_TRIANGLES:
            raise ValueError(f"the file builds {total} triangles, more than {MOST_TRIANGLES}")
        places = np.array([list(v.Coordinates) for v in body.GetVertices()], dtype=float)
        move = np.array([list(row) for row in item.GetObjectTransform().Fields], dtype=float)
        vertices.append(places @ move[:3] + move[3])
        triangles = [list(t.Indices) for t in body.GetTriangleIndices()]
        faces.append(np.array(triangles, dtype=np.int32) + count)
        count += len(places)
    if not vertices:
        raise ValueError("the file holds no triangles")
    return np.concatenate(vertices), np.concatenate(faces), _UNITS[model.GetUnit()]


def _load(file: FilePath) -> trimesh.Trimesh:
    """All that a 3MF file builds as one mesh. Raises ProofError where its unit is not the millimetre."""
    try:
        vertices, faces, unit = read(file)
    except ValueError:
        raise ProofError("the 3MF file holds no mesh") from None
    if unit != 1.0:
        raise ProofError("the 3MF file is not in millimetres")
    return trimesh.Trimesh(vertices, faces, process=False)
