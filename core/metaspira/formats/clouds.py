"""The points of a scan from a file: a table (XYZ, CSV), or a PLY without faces."""

from __future__ import annotations

import io
import re

import numpy as np

from metaspira.formats.limited import limited
from metaspira.formats.outside import demand_small, plain_suffix
from metaspira.formats.promised import ply_faces
from metaspira.numbers.jets import Array
from metaspira.numbers.measure import length_of_file, unit, unit_names
from metaspira.problems import Problem, RecipeError

TABLES = (".xyz", ".csv")
"""Suffixes of the tables that points are read from."""

_SECONDS, _MEMORY = 20, 2**30
_MOST, _FEWEST = 1_000_000, 200
_HEAD = re.compile(r"^[^-+.\d]")
_UNIT = re.compile(r"\bx[\s\[(]+([A-Za-zµμ]+)", re.IGNORECASE)
_ROW = re.compile(r"at row (\d+)")


def is_cloud(data: bytes, suffix: str) -> bool:
    """Whether a file holds points alone."""
    suffix = plain_suffix(suffix)
    return suffix in TABLES or (suffix == ".ply" and ply_faces(data) == 0)


def cloud_in(data: bytes, suffix: str, unit_name: str | None) -> Array:
    """The points (n, 3), mm, of such a file: the first three columns of a table, whose first line may name
    them with their unit, such as “x mm,y mm,z mm”. `unit_name` is that of a file which does not say its own.
    Raises RecipeError."""
    demand_small(data)
    read = _ply if plain_suffix(suffix) == ".ply" else _table
    points, own = limited(_SECONDS, _MEMORY, read, data)
    if len(points) < _FEWEST:
        raise RecipeError(
            Problem("/file", f"the file holds {len(points)} points", f"give {_FEWEST} of them, or more")
        )
    points = points * length_of_file(own, unit_name, "the file")
    if not np.isfinite(points).all() or np.abs(points).max() > 1e6:
        raise RecipeError(
            Problem(
                "/unit",
                "there are points that are no numbers, or more than a kilometre away",
                "check the file and its unit",
            )
        )
    return np.asarray(points)


def _table(data: bytes) -> tuple[Array, float | None]:
    """Points (n, 3), and millimetres in their unit where the first line tells it."""
    lines = data.decode("utf-8-sig").splitlines()
    lines = [line for line in lines if line.strip() and not line.lstrip().startswith("#")]
    own, first = None, 0
    if lines and _HEAD.match(lines[0].lstrip()):
        told = _UNIT.search(lines[0])
        own, first = (unit(told[1]).value if told and told[1] in unit_names() else None), 1
    if len(lines) - first > _MOST:
        raise ValueError(f"the file holds {len(lines) - first} points, more than {_MOST}")
    given = next((mark for mark in ";\t," if len(lines) > first and mark in lines[first]), None)
    rows = "\n".join(lines[first:])
    if given in (";", "\t"):
        rows = rows.replace(",", ".")
    try:
        return np.loadtxt(io.StringIO(rows), delimiter=given, usecols=(0, 1, 2), ndmin=2), own
    except ValueError as error:
        at = _ROW.search(str(error))
        from_nothing = str(error).startswith("could not convert")
        where = f"row {int(at[1]) + first + from_nothing}" if at else "a row"
        raise RecipeError(
            Problem("/file", f"{where} does not hold three numbers", "give x, y and z in each")
        ) from None


def _ply(data: bytes) -> tuple[Array, None]:
    import trimesh

    found = trimesh.load(io.BytesIO(data), file_type="ply")
    points = np.asarray(getattr(found, "vertices", np.zeros((0, 3))), dtype=float)
    if len(points) > _MOST:
        raise ValueError(f"the file holds {len(points)} points, more than {_MOST}")
    return points, None
