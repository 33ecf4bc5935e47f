"""STEP (ISO 10303-21, AP214) of the exact solid, read back before it counts as written."""

from __future__ import annotations

import math
from collections.abc import Callable
from pathlib import Path as FilePath

from OCP.BRep import BRep_Tool
from OCP.BRepCheck import BRepCheck_Analyzer
from OCP.IFSelect import IFSelect_ReturnStatus
from OCP.Interface import Interface_Static
from OCP.STEPControl import STEPControl_Reader, STEPControl_StepModelType, STEPControl_Writer
from OCP.TopAbs import TopAbs_ShapeEnum
from OCP.TopoDS import TopoDS_Shape

from metaspira.part import Part
from metaspira.solids.brep import build_solid
from metaspira.solids.nets import control_nets
from metaspira.solids.proof import Proof, ProofError
from metaspira.solids.volume import each, volume_of

ALLOWED = 1e-6


def write(
    part: Part, file: FilePath, chord_error: float, progress: Callable[[float, str], None]
) -> Proof:
    """Build the solid, write it, read it back and prove it. `chord_error` does not matter here.

    Raises ProofError.
    """
    progress(0.05, "control nets")
    nets = control_nets(part.sweep)
    turns = part.sweep.turning / (2 * math.pi)
    solid = build_solid(nets, turns, lambda share: progress(0.1 + 0.3 * share, "faces"))
    progress(0.4, "writing STEP")
    Interface_Static.SetCVal_s("write.step.unit", "MM")
    Interface_Static.SetCVal_s("write.step.product.name", _ascii(part.recipe.name))
    step = STEPControl_Writer()
    step.Transfer(solid, STEPControl_StepModelType.STEPControl_AsIs)
    if step.Write(str(file)) != IFSelect_ReturnStatus.IFSelect_RetDone:
        raise ProofError("the kernel did not write the STEP file")
    progress(0.55, "reading back")
    return measure(file, part.sweep.volume, progress).demand("solid")


def measure(
    file: FilePath, predicted: float, progress: Callable[[float, str], None] = lambda share, step: None
) -> Proof:
    """What the kernel finds in a STEP file: one closed, valid solid and its volume."""
    reader = STEPControl_Reader()
    if reader.ReadFile(str(file)) != IFSelect_ReturnStatus.IFSelect_RetDone:
        raise ProofError("the STEP file cannot be read back")
    reader.TransferRoots()
    shape = reader.OneShape()
    progress(0.7, "proving")
    valid = BRepCheck_Analyzer(shape).IsValid()
    progress(0.8, "proving")
    return Proof(_is_closed(shape), valid, volume_of(shape), predicted, ALLOWED)


def _is_closed(shape: TopoDS_Shape) -> bool:
    """The shape is one solid with one shell, in which every edge joins two faces."""
    solids = list(each(shape, TopAbs_ShapeEnum.TopAbs_SOLID))
    shells = list(each(shape, TopAbs_ShapeEnum.TopAbs_SHELL))
    return len(solids) == len(shells) == 1 and BRep_Tool.IsClosed_s(shells[0])


def _ascii(name: str) -> str:
    return name.encode("ascii", "replace").decode().replace("'", " ")
