"""What an interface draws of a part: the wire strip's lanes, the section in both planes, field values."""

from __future__ import annotations

import math

import numpy as np

from metaspira.checks import Report
from metaspira.numbers.jets import Array
from metaspira.part import Part
from metaspira.problems import pointer
from metaspira.recipe.fields import number_fields
from metaspira.recipe.resolving import in_typed_units, variable_values
from metaspira.sections.planes import across_from_axial, axial_from_across

_STRIP_STATIONS = 400


def strip(report: Report) -> dict[str, list[float | None]]:
    """Lanes over the true length `s` (mm): twist (degrees), size, gap (mm), and the place x, y, z."""
    part = report.part
    sweep = part.sweep
    s = np.linspace(0.0, sweep.length, _STRIP_STATIONS + 1)
    lane = report.gap_lane
    gap = np.interp(s, lane.s, lane.value) if len(lane.s) else np.full_like(s, np.nan)
    origin = sweep.path.derivatives(s, 0)[0]
    lanes = {
        "s": s,
        "twist": np.degrees(sweep.changes.twist.value(s / sweep.length)),
        "size": sweep.changes.size.value(s / sweep.length),
        "gap": gap,
        "x": origin[:, 0],
        "y": origin[:, 1],
        "z": origin[:, 2],
    }
    return {name: _plain(values) for name, values in lanes.items()}


def section_planes(part: Part) -> dict[str, list[list[float]] | None]:
    """The outline (mm) across the wire and, on a coil, through the axis, at the start of the path."""
    ring = part.outline.ring(96, 24).points
    coil = part.path.coil
    if coil is None:
        return {"across": ring.tolist(), "axial": None}
    if part.recipe.section.plane == "across":
        return {
            "across": ring.tolist(),
            "axial": axial_from_across(ring, coil.start_radius, coil.pitch).tolist(),
        }
    return {
        "across": across_from_axial(ring, coil.start_radius, coil.pitch).tolist(),
        "axial": ring.tolist(),
    }


def field_values(part: Part) -> dict[str, float]:
    """What each number field and variable comes to, by JSON pointer, in the recipe's unit or degrees."""
    unit = part.typed.unit
    values = {
        pointer(parts): in_typed_units(value, quantity, unit)
        for parts, quantity, value in number_fields(part.recipe)
    }
    for name, measure in variable_values(part.typed).items():
        length, angle = measure.dimension
        value = measure.value / (part.length_unit**length) * math.degrees(1.0) ** angle
        values[pointer(["variables", name])] = value
    return values


def _plain(values: Array) -> list[float | None]:
    return [None if math.isnan(value) else round(float(value), 9) for value in values]
