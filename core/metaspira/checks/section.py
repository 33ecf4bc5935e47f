"""Section: is the outline closed, simple and of some area, and what is it in the other plane?"""

from __future__ import annotations

import numpy as np
from shapely import Polygon

from metaspira.checks.check import Check, Window
from metaspira.checks.question import Question, of_wire
from metaspira.parts import Part
from metaspira.sections.planes import across_from_axial, axial_from_across


def check_section(part: Part, window: Window) -> Check:
    outline = part.outline
    share, crossing = _crossing(part)
    stops = crossing or (outline.closed and outline.area <= 0)
    if not outline.closed:
        why = "An open line, which makes a skin"
    elif stops:
        why = "The outline crosses itself" + (
            f" at {100 * share:.3g} % of the wire" if part.sweep.section.varies else ""
        )
    else:
        holes = len(outline.holes)
        why = "Closed and simple" + (f", with {holes} hole{'s' if holes > 1 else ''}" if holes else "")
        why += _other_plane(part)
    return Check(
        id="section",
        title="Section",
        verdict="stop" if stops else "clear",
        value=outline.area,
        limit=0.0,
        unit="mm²",
        why=why,
        margin=-1.0 if stops else 1.0,
        where=((0.0, part.path.length),) if stops else (),
    )


def _crossing(part: Part) -> tuple[float, bool]:
    """The share of the wire at which the outline crosses itself, and whether it does anywhere."""
    section = part.sweep.section
    if not section.first.closed:
        return 0.0, False
    shares = np.linspace(0.0, 1.0, 33) if section.varies else np.zeros(1)
    rings = [section.spread(ring.points, shares) for ring in section.rings(96)]
    for i, share in enumerate(shares):
        outer, *inner = [ring if ring.ndim == 2 else ring[i] for ring in rings]
        if not Polygon(outer, inner).is_valid:
            return float(share), True
    return 0.0, False


def _other_plane(part: Part) -> str:
    coil = part.path.coil
    if coil is None or coil.pitch <= 0 or part.sweep.section.varies:
        return ""
    ring = part.outline.ring(96).points
    radius, pitch = coil.start_radius, coil.pitch
    if part.recipe.section.plane == "across":
        other, name = axial_from_across(ring, radius, pitch), "through the axis"
    else:
        other, name = across_from_axial(ring, radius, pitch), "across the wire"
    typed_height, height = (float(points[:, 1].max() - points[:, 1].min()) for points in (ring, other))
    return f"; {typed_height:.4g} mm high as typed, {height:.4g} mm high {name}"


QUESTIONS = (
    Question(
        "section",
        check_section,
        of_wire,
        "wire",
        15,
        "area of a closed, simple outline, mm²",
        "where it is not one",
        cures=("/section",),
        stances=True,
    ),
)
