"""Section: is the outline closed, simple and of some area, and what is it in the other plane?"""

from __future__ import annotations

from shapely import Polygon

from metaspira.checks.check import Check, Window
from metaspira.part import Part
from metaspira.sections.planes import across_from_axial, axial_from_across


def check_section(part: Part, window: Window) -> Check:
    outline = part.outline
    simple = Polygon(outline.ring(96).points).is_valid
    stops = not simple or outline.area <= 0
    why = "The outline crosses itself" if stops else f"Closed and simple{_other_plane(part)}"
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


def _other_plane(part: Part) -> str:
    coil = part.path.coil
    if coil is None:
        return ""
    ring = part.outline.ring(96).points
    radius, pitch = coil.start_radius, coil.pitch
    if part.recipe.section.plane == "across":
        other, name = axial_from_across(ring, radius, pitch), "through the axis"
    else:
        other, name = across_from_axial(ring, radius, pitch), "across the wire"
    typed_height, height = (float(points[:, 1].max() - points[:, 1].min()) for points in (ring, other))
    return f"; {typed_height:.4g} mm high as typed, {height:.4g} mm high {name}"
