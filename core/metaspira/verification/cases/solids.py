"""Exact solids in STEP files, as the kernel reads and measures them."""

from __future__ import annotations

import tempfile
from collections.abc import Iterator
from pathlib import Path

from OCP.BRepCheck import BRepCheck_Analyzer
from OCP.BRepGProp import BRepGProp
from OCP.GProp import GProp_GProps
from OCP.STEPControl import STEPControl_Reader
from OCP.TopoDS import TopoDS_Shape

from metaspira.outputs import outputs
from metaspira.parts import part_of
from metaspira.starting import starting_point
from metaspira.verification.row import Row, near

_KEYS = ("push", "volute", "twisted-bar", "thread-outside", "horn", "curve")


def rows() -> Iterator[Row]:
    for key in _KEYS:
        part = part_of(starting_point(key).recipe)
        with tempfile.TemporaryDirectory() as folder:
            file = Path(folder) / "part.step"
            outputs()["step"].save(part, file)
            shape = _read(file)
        case = f"starting point “{key}” as .step"
        valid = float(BRepCheck_Analyzer(shape).IsValid())
        yield Row(
            (), f"{case}, valid (1 is yes)", 1.0, valid, 0.0, "", "the kernel’s own analysis", "computed"
        )
        yield near(
            ("volume", "mass"),
            case,
            _volume(shape),
            sum(body.volume for body in part.bodies),
            1e-4,
            "mm³",
            "the kernel, by GProp",
        )


def _read(file: Path) -> TopoDS_Shape:
    reader = STEPControl_Reader()
    reader.ReadFile(str(file))
    reader.TransferRoots()
    return reader.OneShape()


def _volume(shape: TopoDS_Shape) -> float:
    found = GProp_GProps()
    BRepGProp.VolumeProperties_s(shape, found)
    return float(abs(found.Mass()))
