"""Grinding: the kernel's cut of a solid by the planes of its ground ends."""

from __future__ import annotations

import numpy as np
from OCP.BRepAlgoAPI import BRepAlgoAPI_Cut
from OCP.BRepPrimAPI import BRepPrimAPI_MakeBox
from OCP.gp import gp_Pnt
from OCP.TopAbs import TopAbs_ShapeEnum
from OCP.TopoDS import TopoDS_Shape

from metaspira.gaps.extents import extents
from metaspira.solids.brep import Built
from metaspira.solids.proof import ProofError
from metaspira.solids.volume import each
from metaspira.sweep.ground import GroundPlane, ground_planes
from metaspira.sweep.sweep import Sweep


def ground(built: Built, sweep: Sweep) -> Built:
    """The solid of a sweep with its ends ground. Raises ProofError where the kernel does not cut it."""
    shape, painted = built.shape, list(built.painted)
    for plane in ground_planes(sweep):
        cut = BRepAlgoAPI_Cut(shape, _beyond(sweep, plane))
        if not cut.IsDone():
            raise ProofError("the kernel did not grind the end")
        solids = list(each(cut.Shape(), TopAbs_ShapeEnum.TopAbs_SOLID))
        if len(solids) != 1:
            raise ProofError(f"the ground end left {len(solids)} solids")
        shape = solids[0]
        painted = [
            (left, colour)
            for face, colour in painted
            if not cut.IsDeleted(face)
            for left in list(cut.Modified(face)) or [face]
        ]
    return Built(shape, tuple(painted))


def _beyond(sweep: Sweep, plane: GroundPlane) -> TopoDS_Shape:
    """A box that holds all of the shape beyond a plane."""
    reach = 2 * extents(sweep).outside_radius + 10 * sweep.reach()
    far = plane.height - plane.sign * (sweep.length + reach)
    low, high = sorted((plane.height, far))
    corners = np.array([[-reach, -reach, low], [reach, reach, high]])
    return BRepPrimAPI_MakeBox(gp_Pnt(*corners[0]), gp_Pnt(*corners[1])).Shape()
