"""Files, read back by other readers."""

from __future__ import annotations

import csv
import io
import math
import tempfile
from collections.abc import Callable, Iterator
from pathlib import Path

import ezdxf
import ezdxf.path
import lib3mf
import numpy as np
import shapely
import svgelements
import trimesh

from metaspira.outputs import made
from metaspira.outputs.building import build_files
from metaspira.parts import Part, part_of
from metaspira.starting import starting_point
from metaspira.verification.row import Row

_KEYS = ("push", "twisted-bar", "curve")
_CHORD = 0.02


def rows() -> Iterator[Row]:
    for key in _KEYS:
        part = part_of(starting_point(key).recipe)
        assert isinstance(part, Part)
        with tempfile.TemporaryDirectory() as folder:
            yield from _meshes(key, part, Path(folder))
            yield from _lines(key, part, Path(folder))


def _meshes(key: str, part: Part, folder: Path) -> Iterator[Row]:
    skin = _CHORD * trimesh.Trimesh(*_arrays(part), process=False).area
    files = {suffix: folder / f"part.{suffix}" for suffix in _READERS}
    build_files(part, list(files.values()), _CHORD)
    for suffix, (reader, name) in _READERS.items():
        volume = reader(files[suffix])
        yield Row(
            ("volume",),
            f"starting point “{key}” as .{suffix}",
            volume,
            part.volume,
            skin,
            "mm³",
            name,
            "computed",
        )


def _arrays(part: Part) -> tuple[np.ndarray, np.ndarray]:
    mesh = part.bodies[0].mesh(_CHORD)
    return mesh.vertices, mesh.faces


def _lines(key: str, part: Part, folder: Path) -> Iterator[Row]:
    table = list(csv.reader(io.StringIO(made("path.csv").bytes_of(part)[0].decode(), newline="")))
    points = np.array([[float(cell) for cell in row[2:5]] for row in table[1:]])
    along = float(np.linalg.norm(np.diff(points, axis=0), axis=1).sum())
    yield Row(
        ("path_length",),
        f"starting point “{key}” as .path.csv",
        along,
        part.path.length,
        5e-3 * along,
        "mm",
        "length of the chords, by Python’s csv",
        "computed",
    )
    area = part.outline.area
    for suffix, name, read in (
        ("section.dxf", "ezdxf and shapely", _dxf_area),
        ("section.svg", "svgelements and shapely", _svg_area),
    ):
        file = folder / f"part.{suffix}"
        file.write_bytes(made(suffix).bytes_of(part)[0])
        yield Row(
            ("section_area",),
            f"starting point “{key}” as .{suffix}",
            read(file),
            area,
            2e-3 * area,
            "mm²",
            name,
            "computed",
        )


def _dxf_area(file: Path) -> float:
    across = ezdxf.readfile(file).modelspace().query('*[layer=="ACROSS"]')
    ways = [ezdxf.path.make_path(entity).flattening(1e-4) for entity in across]
    return _area([[(p.x, p.y) for p in way] for way in ways])


def _svg_area(file: Path) -> float:
    for element in svgelements.SVG.parse(str(file), ppi=25.4).elements():
        if isinstance(element, svgelements.Path) and element.id == "across":
            return _area([[(p.x, p.y) for p in map(element.point, np.linspace(0, 1, 8001))]])
    return math.nan


def _area(lines: list[list[tuple[float, float]]]) -> float:
    joined = shapely.polygonize([shapely.LineString(np.round(line, 6)) for line in lines])
    return float(joined.area)


def _by_trimesh(file: Path) -> float:
    loaded = trimesh.load(file, force="mesh")
    scale = 1000.0 if file.suffix == ".glb" else 1.0
    return float(abs(loaded.volume)) * scale**3


def _by_lib3mf(file: Path) -> float:
    model = lib3mf.get_wrapper().CreateModel()
    model.QueryReader("3mf").ReadFromFile(str(file))
    volume, objects = 0.0, model.GetMeshObjects()
    while objects.MoveNext():
        mesh = objects.GetCurrentMeshObject()
        vertices = np.array([list(v.Coordinates) for v in mesh.GetVertices()])
        faces = np.array([list(t.Indices) for t in mesh.GetTriangleIndices()])
        a, b, c = (vertices[faces[:, k]] for k in range(3))
        volume += float(np.einsum("ij,ij->i", a, np.cross(b, c)).sum()) / 6
    return abs(volume)


_READERS: dict[str, tuple[Callable[[Path], float], str]] = {
    "stl": (_by_trimesh, "trimesh"),
    "obj": (_by_trimesh, "trimesh"),
    "ply": (_by_trimesh, "trimesh"),
    "glb": (_by_trimesh, "trimesh, metres"),
    "3mf": (_by_lib3mf, "lib3mf"),
}
