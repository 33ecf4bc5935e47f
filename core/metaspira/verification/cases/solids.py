"""Exact solids in STEP files, as the kernel reads and measures them."""

from __future__ import annotations

import math
import tempfile
from collections.abc import Iterator
from pathlib import Path
from typing import Any

import numpy as np
import shapely
from OCP.BRepCheck import BRepCheck_Analyzer
from OCP.BRepGProp import BRepGProp
from OCP.gp import gp_Dir, gp_Lin, gp_Pnt
from OCP.GProp import GProp_GProps
from OCP.IntCurvesFace import IntCurvesFace_ShapeIntersector
from OCP.STEPControl import STEPControl_Reader
from OCP.TopoDS import TopoDS_Shape

from metaspira.numbers.jets import Array
from metaspira.outputs import outputs
from metaspira.parts import AnyPart, bodies_of, part_of
from metaspira.parts.weight import weigh
from metaspira.starting import starting_point
from metaspira.threads.body import ThreadBody, Wall
from metaspira.verification.row import Row, near

_THREADS: dict[str, dict[str, Any]] = {
    "a rod": {"host": {"kind": "rod", "length": 6}},
    "a bore": {"host": {"kind": "bore", "length": 6, "outside": 17}},
    "a rod with its nut": {
        "host": {"kind": "rod", "length": 10},
        "mate": {"at": 3, "length": 5, "outside": 17},
    },
    "a rod with a run-out": {"thread": {"length": 5}, "host": {"kind": "rod", "length": 12, "diameter": 10}},
    "a rod with blunt ends": {
        "thread": {"start": {"kind": "blunt"}, "end": {"kind": "blunt"}},
        "host": {"kind": "rod", "length": 8},
    },
}
"""M10, made in several ways."""

_CLOSE = 1e-6
_LINES, _FINE, _REACH = 160, 30_001, 60.0
_WITHIN = 0.002
_PLANE = 1.0

_KEYS = ("push", "volute", "twisted-bar", "thread-outside", "horn", "curve")


def rows() -> Iterator[Row]:
    yield from _starts()
    for name, made in _THREADS.items():
        thread = {"designation": "M10", **made.get("thread", {})}
        part = part_of({"format": "metaspira/1", **made, "thread": thread})
        shape = _saved(part)
        off = _off_profile(part, shape)
        source = "its axial profile along the screw, at lines through the kernel’s solid"
        yield Row((), f"M10, {name}: surface off its profile", 0.0, off, _WITHIN, "mm", source, "computed")
        yield from _weights(f"M10, {name}", part, shape)


def _weights(case: str, part: AnyPart, shape: TopoDS_Shape) -> Iterator[Row]:
    found = weigh(part)
    assert found.centre is not None and found.principal is not None
    inside, skin = GProp_GProps(), GProp_GProps()
    BRepGProp.VolumeProperties_s(shape, inside, _CLOSE, False, False)
    BRepGProp.SurfaceProperties_s(shape, skin, _CLOSE)
    matrix = inside.MatrixOfInertia()
    principal = np.linalg.eigvalsh([[matrix.Value(i, j) for j in (1, 2, 3)] for i in (1, 2, 3)])
    source = "the kernel, by GProp"
    yield near(("surface",), f"{case}: surface", skin.Mass(), found.surface, 1e-5, "mm²", source)
    height = inside.CentreOfMass().Z()
    yield near(("centre_z",), f"{case}: centre of mass", height, found.centre[2], 1e-5, "mm", source)
    theirs, ours = part.material.density * principal[0], found.principal[0]
    yield near(("inertia_1",), f"{case}: least inertia", theirs, ours, 1e-5, "g mm²", source)


def _off_profile(part: AnyPart, shape: TopoDS_Shape) -> float:
    """How far a solid is off the axial profiles of its members at the most, mm, where lines square to the
    axis in one plane through it, which is no seam of its faces, go through it."""
    through = IntCurvesFace_ShapeIntersector()
    through.Load(shape, 1e-7)
    bodies = [body for body in bodies_of(part) if isinstance(body, ThreadBody)]
    legs = [leg for body in bodies for leg in body.thread.legs]
    low, high = min(leg.heights[0] for leg in legs), max(leg.heights[1] for leg in legs)
    hits, way = [], gp_Dir(math.cos(_PLANE), math.sin(_PLANE), 0)
    for z in np.linspace(low, high, _LINES + 2)[1:-1]:
        through.Perform(gp_Lin(gp_Pnt(0, 0, float(z)), way), 0.0, _REACH)
        found = [through.Pnt(k + 1) for k in range(through.NbPnt())]
        hits += [(math.hypot(place.X(), place.Y()), float(z)) for place in found]
    lines = [line for body in bodies for line in _profiles(body)]
    off = shapely.distance(shapely.MultiLineString(lines), shapely.points(hits))
    return float(off.max()) if len(hits) >= _LINES else math.inf


def _profiles(body: ThreadBody) -> Iterator[Array]:
    """The lines (r, z) in that plane on which a member's surface may lie: its profile at every pitch, held
    between the levels of its legs; its plain root, where a lobe has not begun; and the wall around it."""
    surface = body.thread
    profile = surface.profile.line(400)
    first, pitch = profile[0, 0], float(np.ptp(profile[:, 0]))
    turned = surface.sign * surface.lead * _PLANE / (2 * math.pi)
    for leg in surface.legs:
        share = np.linspace(0.0, 1.0, _FINE)
        z, low, high = (np.interp(share, [0.0, 1.0], ends) for ends in (leg.heights, leg.low, leg.high))
        base = np.interp(share, [0.0, 1.0], leg.outline.points[[0, -1], 0])
        rho = np.interp((z - turned - first) % pitch + first, *profile.T)
        plain = np.full_like(z, surface.profile.inner)
        for level in (rho, plain):
            yield np.column_stack([base + np.minimum(np.maximum(level, low), high), z])
    for loop in body.loops:
        if isinstance(loop, Wall):
            ends = surface.legs[0].heights[0], surface.legs[-1].heights[1]
            yield np.array([[loop.radius, z] for z in ends])


def _starts() -> Iterator[Row]:
    for key in _KEYS:
        part = part_of(starting_point(key).recipe)
        shape = _saved(part)
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


def _saved(part: AnyPart) -> TopoDS_Shape:
    """A part as the kernel reads it from its STEP file."""
    reader = STEPControl_Reader()
    with tempfile.TemporaryDirectory() as folder:
        file = Path(folder) / "part.step"
        outputs()["step"].save(part, file)
        reader.ReadFile(str(file))
    reader.TransferRoots()
    return reader.OneShape()


def _volume(shape: TopoDS_Shape) -> float:
    found = GProp_GProps()
    BRepGProp.VolumeProperties_s(shape, found)
    return float(abs(found.Mass()))
