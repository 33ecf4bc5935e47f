"""The figures of a part of wire."""

from __future__ import annotations

import math
from typing import TYPE_CHECKING

import numpy as np

from metaspira.numbers.figure import Figure
from metaspira.parts.described import Known
from metaspira.strands import touching_lay

if TYPE_CHECKING:
    from metaspira.parts.wound import Part

_SURFACE = "over the surface"
_BOTH = "two of turns, pitch, height"
_STRANDS = "Olsen and Bohr, Theor. Chem. Acc. 125 (2010)"


def _height(part: Part) -> float:
    if part.path.coil:
        return part.path.coil.height
    ends = part.path.derivatives(np.array([0.0, part.path.length]), 0)[0]
    return float(ends[1, 2] - ends[0, 2])


def _turns(part: Part) -> float | None:
    return part.path.coil.turns if part.path.coil else part.path.turns


def _pitch(part: Part) -> float | None:
    return part.path.coil.pitch if part.path.coil else None


def _outside(part: Part) -> float:
    return 2 * part.extents.outside_radius


def _inside(part: Part) -> float | None:
    return 2 * part.extents.inside_radius if part.path.coil else None


def _lead_angle(part: Part) -> float | None:
    coil = part.path.coil
    return math.degrees(math.atan2(coil.pitch, 2 * math.pi * coil.start_radius)) if coil else None


def _section_area(part: Part) -> float:
    sweep, start = part.sweep, np.zeros(1)
    width, _, depth, _ = sweep.scale(start)
    area, _, _ = sweep.section.moments(sweep.changes.shape.value(start))
    return float(area[0] * width[0] * depth[0])


def _strand_radius(part: Part) -> float | None:
    strands = part.recipe.strands
    if strands is None or strands.lay is None:
        return None
    return strands.laid_radius(_strand(part), "/strands")


def _touching_lay(part: Part) -> float | None:
    strands, radius = part.recipe.strands, _strand_radius(part)
    if strands is None or radius is None:
        return None
    return touching_lay(int(strands.count), radius, _strand(part))


def _strand(part: Part) -> float:
    return 2 * part.sweep.section.reach()


FIGURES: tuple[Figure[Known[Part]], ...] = (
    Figure(
        "wire_length", "Wire length", "L", "mm", lambda known: known.part.sweep.wire_length,
        "∫ |d/ds (o + ū a + v̄ b)| ds", "path, section centroid (ū, v̄), stance",
        "length of the line through the sections' centroids, by Gauss–Legendre quadrature",
    ),
    Figure(
        "min_gap", "Smallest gap", "g", "mm", lambda known: known.min_gap,
        "min |x(s₁) − x(s₂)| − r(s₁) − r(s₂), s₁ and s₂ not neighbours", "path, section, stance, twist, size",
        "doubly critical self-distance, Gonzalez and Maddocks, PNAS 96 (1999)",
    ),
    Figure(
        "outside_diameter", "Outside diameter", "De", "mm", lambda known: _outside(known.part),
        "2 · max √(x² + y²)", "path, section, stance", _SURFACE,
    ),
    Figure(
        "inside_diameter", "Inside diameter", "Di", "mm", lambda known: _inside(known.part),
        "2 · min √(x² + y²)", "path, section, stance", _SURFACE,
    ),
    Figure(
        "overall_height", "Overall height", "", "mm", lambda known: known.part.extents.height,
        "max z − min z", "path, section, stance", _SURFACE,
    ),
    Figure(
        "height", "Height", "h", "mm", lambda known: _height(known.part),
        "turns · pitch", _BOTH, "rise of the centre line",
    ),
    Figure(
        "turns", "Turns", "n", "", lambda known: _turns(known.part),
        "height / pitch", _BOTH, "as typed or solved",
    ),
    Figure(
        "pitch", "Pitch", "p", "mm", lambda known: _pitch(known.part),
        "height / turns", _BOTH, "rise of the centre line a turn",
    ),
    Figure(
        "lead_angle", "Lead angle", "α", "°", lambda known: _lead_angle(known.part),
        "atan(p / (π D))", "pitch, mean diameter at the start", "unrolled coil",
    ),
    Figure(
        "strand_radius", "Strands from the path", "a", "mm", lambda known: _strand_radius(known.part),
        "as typed, or min over φ of √(2a² (1 − cos(2π/N + φ)) + (L φ / 2π)²) = wire", "strands, lay, wire",
        f"distance of two helices; {_STRANDS}", "there",
    ),
    Figure(
        "touching_lay", "Lay at which they touch", "", "mm", lambda known: _touching_lay(known.part),
        "the L at which that distance is the wire's diameter", "strands, their radius, wire",
        f"on a straight path; {_STRANDS}", "there",
    ),
    Figure(
        "path_length", "Path length", "s", "mm", lambda known: known.part.path.length,
        "∫ |x′(θ)| dθ; on a cylinder turns · √((π D)² + p²)", "diameter, turns, pitch, taper",
        "arc length, by adaptive Gauss–Legendre quadrature to 1e-14", "never",
    ),
    Figure(
        "min_bend_radius", "Tightest bend", "", "mm", lambda known: known.min_bend_radius,
        "1 / max |d²x/ds²|", "path", "curvature; on a helix r (1 + (p/2πr)²)",
    ),
    Figure(
        "section_area", "Section area", "A", "mm²", lambda known: _section_area(known.part),
        "∮ u dv", "section", "Green's theorem on the exact outline",
    ),
    Figure(
        "volume", "Volume", "V", "mm³", lambda known: known.part.volume,
        "∫ (a × b) · (A o′ + Mᵤ a′ + Mᵥ b′) ds", "section area and first moments, path, stance, twist, size",
        "integral of the sweep's Jacobian (Pappus–Guldin where the frame is constant)",
    ),
    Figure(
        "mass", "Mass", "m", "g", lambda known: known.part.volume * known.part.material.density,
        "volume · density", "volume, material", "density not checked against a printed table",
    ),
)  # fmt: skip
"""In the order in which they stand beside the part."""
