"""STEP (ISO 10303-21) of the exact solid, read back before it counts as written."""

from __future__ import annotations

from pathlib import Path as FilePath

from OCP.BRep import BRep_Tool
from OCP.BRepCheck import BRepCheck_Analyzer
from OCP.BRepGProp import BRepGProp
from OCP.GProp import GProp_GProps
from OCP.IFSelect import IFSelect_ReturnStatus
from OCP.STEPControl import STEPControl_Reader
from OCP.TopAbs import TopAbs_ShapeEnum
from OCP.TopoDS import TopoDS_Shape

from metaspira.parts import AnyPart, bodies_of
from metaspira.parts.threaded import ThreadedPart
from metaspira.processes import Progress
from metaspira.solids.brep import build_shape
from metaspira.solids.document import write_document
from metaspira.solids.grinding import ground
from metaspira.solids.nets import control_nets
from metaspira.solids.proof import Proof, ProofError
from metaspira.solids.threading import thread_nets
from metaspira.solids.volume import area_of, each, volume_of
from metaspira.sweep.ground import ground_planes
from metaspira.threads.body import ThreadBody

ALLOWED = 1e-6
ALLOWED_CUT = 1e-5


def write(
    part: AnyPart, file: FilePath, chord_error: float, progress: Progress, schema: str = "AP242DIS"
) -> Proof:
    """Build the solid, write it by the application protocol that the kernel calls `schema`, read it back and
    prove it. `chord_error` does not matter here. Raises ProofError."""
    count = len(part.bodies)
    shapes = []
    for index, body in enumerate(bodies_of(part)):

        def built(share: float, index: int = index) -> None:
            progress(0.05 + 0.35 * (index + share) / count, "faces")

        if isinstance(body, ThreadBody):
            shapes.append(build_shape(thread_nets(body), built))
        else:
            shapes.append(ground(build_shape(control_nets(body.sweep), built), body.sweep))
    progress(0.4, "writing STEP")
    write_document(part, shapes, file, schema)
    progress(0.55, "reading back")
    if isinstance(part, ThreadedPart):
        return measure(file, part.volume, progress, count).demand("solid")
    if part.is_skin:
        return measure_skin(file, sum(body.sweep.lateral_area for body in part.bodies), progress)
    cut = any(ground_planes(body.sweep) for body in part.bodies)
    return measure(file, part.volume, progress, count, cut).demand("solid")


def measure(
    file: FilePath,
    predicted: float,
    progress: Progress = lambda share, step: None,
    bodies: int = 1,
    cut: bool = False,
) -> Proof:
    """What the kernel finds in a STEP file: `bodies` closed, valid solids and their volume. Where ends
    were `cut` by the kernel, its faces are no longer whole, and its own integration is what there is."""
    shape = _read(file)
    progress(0.7, "proving")
    valid = BRepCheck_Analyzer(shape).IsValid()
    progress(0.8, "proving")
    solids = list(each(shape, TopAbs_ShapeEnum.TopAbs_SOLID))
    shells = list(each(shape, TopAbs_ShapeEnum.TopAbs_SHELL))
    closed = len(solids) == len(shells) == bodies and all(BRep_Tool.IsClosed_s(shell) for shell in shells)
    if cut:
        properties = GProp_GProps()
        BRepGProp.VolumeProperties_s(shape, properties, 1e-9, False, False)
        return Proof(closed, valid, float(properties.Mass()), predicted, ALLOWED_CUT)
    volume = sum(volume_of(solid) for solid in solids)
    return Proof(closed, valid, volume, predicted, ALLOWED)


def measure_skin(file: FilePath, predicted: float, progress: Progress) -> Proof:
    """What the kernel finds in the STEP file of a skin: valid shells and their area. Raises ProofError."""
    shape = _read(file)
    progress(0.7, "proving")
    valid = BRepCheck_Analyzer(shape).IsValid()
    return Proof(False, valid, 0.0, 0.0, ALLOWED, area=area_of(shape), predicted_area=predicted).demand(
        "skin"
    )


def _read(file: FilePath) -> TopoDS_Shape:
    reader = STEPControl_Reader()
    if reader.ReadFile(str(file)) != IFSelect_ReturnStatus.IFSelect_RetDone:
        raise ProofError("the STEP file cannot be read back")
    reader.TransferRoots()
    return reader.OneShape()
