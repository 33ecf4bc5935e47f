"""Reading solids and meshes from files, in a child process with limits. A file is read whole from memory;
nothing that it refers to is opened."""

from __future__ import annotations

import tempfile
from dataclasses import dataclass
from pathlib import Path as FilePath
from typing import TYPE_CHECKING, Any

import numpy as np

from metaspira.formats.limited import limited
from metaspira.formats.promised import MOST_TRIANGLES, demand_bounded
from metaspira.problems import Problem, RecipeError

if TYPE_CHECKING:
    from metaspira.numbers.jets import Array
    from metaspira.sweep.mesh import Indices

MOST_BYTES = 50_000_000
LIGHT = 7800
_MEMORY = 500 * 2**20
_SECONDS = 30
_COARSEST, _DEFLECTION, _PLENTY = 6.4e-3, 2e-4, 50_000
_ANGLE = 0.6
_METRE = 1000.0
_CLOSE = 1e-5


def demand_small(data: bytes, most: int = MOST_BYTES) -> None:
    """Raises RecipeError where a file has more bytes than are read."""
    if len(data) > most:
        raise RecipeError(Problem("/file", f"the file has more than {most} bytes", "make it smaller"))


def plain_suffix(suffix: str) -> str:
    """A file's suffix in small letters, the one in use of those that mean the same."""
    return {".stp": ".step"}.get(suffix.lower(), suffix.lower())


@dataclass(frozen=True, eq=False)
class FileMesh:
    """Vertices (n, 3), z up, each once, and faces (m, 3); the same made light, within `LIGHT` faces where its
    separate pieces allow; and millimetres in one of the file's units, None where it does not say. Where the
    file has surfaces, `exact` is what they enclose, and `deflection` how far the triangles are off them,
    mm."""

    vertices: Array
    faces: Indices
    light_vertices: Array
    light_faces: Indices
    unit: float | None
    exact: Enclosed | None = None
    deflection: float = 0.0


@dataclass(frozen=True, eq=False)
class Enclosed:
    """Volume, mm³, surface, mm², centre (3,), mm, and inertia (3, 3) about it, mm⁵, of what surfaces
    enclose."""

    volume: float
    surface: float
    centre: Array
    inertia: Array


def mesh_in(data: bytes, suffix: str) -> FileMesh:
    """The mesh in an STL, GLB, 3MF or STEP file. Raises RecipeError."""
    found: FileMesh = _asked("mesh", data, suffix)
    return found


def curves_in(data: bytes) -> list[Array]:
    """The edges of a STEP file as points (n, 3), mm, near enough for a path. Raises RecipeError."""
    curves: list[Array] = _asked("curves", data, ".step")
    return curves


def _asked(what: str, data: bytes, suffix: str) -> Any:
    demand_small(data)
    return limited(_SECONDS, _MEMORY, _read, what, data, suffix)


def _read(what: str, data: bytes, suffix: str) -> Any:
    demand_bounded(data, suffix)
    with tempfile.TemporaryDirectory(prefix="metaspira-") as folder:
        file = FilePath(folder) / f"given{suffix}"
        file.write_bytes(data)
        return _step_curves(file) if what == "curves" else _mesh(file)


def _mesh(file: FilePath) -> FileMesh:
    unit: float | None = 1.0
    exact, deflection = None, 0.0
    if file.suffix == ".step":
        vertices, faces, exact, deflection = _step_mesh(file)
    elif file.suffix == ".3mf":
        from metaspira.formats.threemf import read

        vertices, faces, unit = read(file)
    else:
        vertices, faces, unit = _plain(file)
    if len(faces) == 0:
        raise ValueError("the file holds no triangles")
    if len(faces) > MOST_TRIANGLES:
        raise ValueError(f"the file holds {len(faces)} triangles, more than {MOST_TRIANGLES}")
    if not np.isfinite(vertices).all() or np.abs(vertices).max() > 1e9:
        raise ValueError("the file holds places that are no numbers")
    if faces.min() < 0 or faces.max() >= len(vertices):
        raise ValueError("the file names vertices that it does not hold")
    vertices, faces = _tidied(vertices, faces)
    if len(faces) == 0:
        raise ValueError("the body has no surface")
    return FileMesh(vertices, faces, *_lightened(vertices, faces), unit, exact, deflection)


def _lightened(vertices: Array, faces: Indices) -> tuple[Array, Indices]:
    """Fewer triangles, by quadric error metrics (Garland and Heckbert, SIGGRAPH 1997)."""
    if len(faces) <= LIGHT:
        return vertices, faces
    import fast_simplification

    size = float(np.abs(vertices).max())
    unit_places = (vertices / size).astype(np.float32)
    for haste in (4, 7):
        places, kept = fast_simplification.simplify(unit_places, faces, target_count=LIGHT, agg=haste)
        if not LIGHT < len(kept) < 2 * LIGHT:
            break
    return _tidied(places * size, kept)


def _tidied(vertices: Array, faces: Indices) -> tuple[Array, Indices]:
    """Each vertex once, and no triangle without an area."""
    import trimesh

    mesh = trimesh.Trimesh(vertices, faces, process=True)
    mesh.update_faces(mesh.nondegenerate_faces())
    mesh.remove_unreferenced_vertices()
    return np.array(mesh.vertices), np.array(mesh.faces, dtype=np.int32)


def _plain(file: FilePath) -> tuple[Array, Indices, float | None]:
    import trimesh

    with file.open("rb") as stream:
        found = trimesh.load(stream, file_type=file.suffix[1:], force="mesh", process=False)
    if not isinstance(found, trimesh.Trimesh):
        raise ValueError("the file holds no triangles")
    vertices, faces = np.array(found.vertices, dtype=float), np.array(found.faces, dtype=np.int32)
    if file.suffix != ".glb":
        return vertices, faces, None
    x, y, z = vertices.T
    return np.stack([x, -z, y], axis=1), faces, _METRE


def _shape(file: FilePath) -> Any:
    from OCP.IFSelect import IFSelect_ReturnStatus
    from OCP.STEPControl import STEPControl_Reader

    reader = STEPControl_Reader()
    if reader.ReadFile(str(file)) != IFSelect_ReturnStatus.IFSelect_RetDone:
        raise ValueError("this is no STEP file that can be read")
    reader.TransferRoots()
    return reader.OneShape()


def _step_mesh(file: FilePath) -> tuple[Array, Indices, Enclosed | None, float]:
    shape = _shape(file)
    share = _COARSEST
    vertices, faces = _drawn(shape, share)
    if len(faces) < _PLENTY:
        share = max(_DEFLECTION, share * len(faces) / _PLENTY)
        vertices, faces = _drawn(shape, share)
    return vertices, faces, _enclosed(shape), share * _size(shape)


def _drawn(shape: Any, share: float) -> tuple[Array, Indices]:
    """The triangles that the kernel lays over a shape, off it by a share of its size at the most."""
    from OCP.BRep import BRep_Tool
    from OCP.BRepMesh import BRepMesh_IncrementalMesh
    from OCP.TopAbs import TopAbs_Orientation, TopAbs_ShapeEnum
    from OCP.TopLoc import TopLoc_Location
    from OCP.TopoDS import TopoDS

    from metaspira.solids.volume import each

    BRepMesh_IncrementalMesh(shape, share * _size(shape), False, _ANGLE, False)
    vertices: list[list[float]] = []
    faces: list[list[int]] = []
    for found in each(shape, TopAbs_ShapeEnum.TopAbs_FACE):
        face = TopoDS.Face(found)
        place = TopLoc_Location()
        drawn = BRep_Tool.Triangulation_s(face, place)
        if drawn is None:
            continue
        move, start = place.Transformation(), len(vertices) - 1
        for k in range(1, drawn.NbNodes() + 1):
            point = drawn.Node(k).Transformed(move)
            vertices.append([point.X(), point.Y(), point.Z()])
        turned = found.Orientation() == TopAbs_Orientation.TopAbs_REVERSED
        for k in range(1, drawn.NbTriangles() + 1):
            a, b, c = drawn.Triangle(k).Get()
            faces.append([start + a, start + (c if turned else b), start + (b if turned else c)])
    if not faces:
        raise ValueError("the STEP file holds no faces")
    return np.array(vertices), np.array(faces)


def _enclosed(shape: Any) -> Enclosed | None:
    """What the solids of a shape enclose; None where it has none."""
    from OCP.BRepGProp import BRepGProp
    from OCP.GProp import GProp_GProps
    from OCP.TopAbs import TopAbs_ShapeEnum

    from metaspira.solids.volume import each

    if next(iter(each(shape, TopAbs_ShapeEnum.TopAbs_SOLID)), None) is None:
        return None
    inside, skin = GProp_GProps(), GProp_GProps()
    BRepGProp.VolumeProperties_s(shape, inside, _CLOSE, False, False)
    BRepGProp.SurfaceProperties_s(shape, skin, _CLOSE)
    centre, matrix = inside.CentreOfMass(), inside.MatrixOfInertia()
    inertia = np.array([[matrix.Value(i, j) for j in (1, 2, 3)] for i in (1, 2, 3)])
    return Enclosed(inside.Mass(), skin.Mass(), np.array([centre.X(), centre.Y(), centre.Z()]), inertia)


def _size(shape: Any) -> float:
    from OCP.Bnd import Bnd_Box
    from OCP.BRepBndLib import BRepBndLib

    box = Bnd_Box()
    BRepBndLib.Add_s(shape, box)
    if box.IsVoid():
        raise ValueError("the STEP file holds nothing to see")
    return float(box.SquareExtent()) ** 0.5


def _step_curves(file: FilePath) -> list[Array]:
    from OCP.BRepAdaptor import BRepAdaptor_Curve
    from OCP.TopAbs import TopAbs_ShapeEnum
    from OCP.TopoDS import TopoDS

    from metaspira.solids.volume import each

    curves = []
    for found in each(_shape(file), TopAbs_ShapeEnum.TopAbs_EDGE):
        curve = BRepAdaptor_Curve(TopoDS.Edge(found))
        low, high = curve.FirstParameter(), curve.LastParameter()
        if not (np.isfinite([low, high]).all() and high > low) or max(abs(low), abs(high)) > 1e9:
            continue
        points = [curve.Value(float(t)) for t in np.linspace(low, high, 400)]
        curves.append(np.array([(p.X(), p.Y(), p.Z()) for p in points]))
    if not curves:
        raise ValueError("the STEP file holds no edges")
    return curves
