"""Figures: the part in numbers, each with its formula, its inputs and its source."""

from __future__ import annotations

import math
from dataclasses import dataclass
from typing import Literal

import numpy as np

from metaspira.parts import Part
from metaspira.problems import nearest
from metaspira.strands import touching_lay


class Figures(dict[str, float | None]):
    """A part's figures by key, each an attribute too; None where the part has no such figure."""

    def __getattr__(self, name: str) -> float | None:
        if name in self:
            return self[name]
        raise AttributeError(f"no figure “{name}”; did you mean “{nearest(name, self)}”?")


@dataclass(frozen=True)
class Why:
    """What stands behind a figure. `rail`: whether it stands beside the part always, only where there is one,
    or never; in the order in which the figures stand here."""

    title: str
    unit: str
    formula: str
    inputs: str
    source: str
    rail: Literal["always", "there", "never"] = "always"


WHY = {
    "wire_length": Why(
        "Wire length",
        "mm",
        "∫ |d/ds (o + ū a + v̄ b)| ds",
        "path, section centroid (ū, v̄), stance",
        "length of the line through the sections' centroids, by Gauss–Legendre quadrature",
    ),
    "min_gap": Why(
        "Smallest gap",
        "mm",
        "min |x(s₁) − x(s₂)| − r(s₁) − r(s₂), s₁ and s₂ not neighbours",
        "path, section, stance, twist, size",
        "doubly critical self-distance, Gonzalez and Maddocks, PNAS 96 (1999)",
    ),
    "outside_diameter": Why(
        "Outside diameter", "mm", "2 · max √(x² + y²)", "path, section, stance", "over the surface"
    ),
    "inside_diameter": Why(
        "Inside diameter", "mm", "2 · min √(x² + y²)", "path, section, stance", "over the surface"
    ),
    "overall_height": Why(
        "Overall height", "mm", "max z − min z", "path, section, stance", "over the surface"
    ),
    "height": Why("Height", "mm", "turns · pitch", "two of turns, pitch, height", "rise of the centre line"),
    "turns": Why("Turns", "", "height / pitch", "two of turns, pitch, height", "as typed or solved"),
    "pitch": Why(
        "Pitch", "mm", "height / turns", "two of turns, pitch, height", "rise of the centre line a turn"
    ),
    "lead_angle": Why(
        "Lead angle", "°", "atan(p / (π D))", "pitch, mean diameter at the start", "unrolled coil"
    ),
    "strand_radius": Why(
        "Strands from the path",
        "mm",
        "as typed, or min over φ of √(2a² (1 − cos(2π/N + φ)) + (L φ / 2π)²) = wire",
        "strands, lay, wire",
        "distance of two helices; Olsen and Bohr, Theor. Chem. Acc. 125 (2010)",
        rail="there",
    ),
    "touching_lay": Why(
        "Lay at which they touch",
        "mm",
        "the L at which that distance is the wire's diameter",
        "strands, their radius, wire",
        "on a straight path; Olsen and Bohr, Theor. Chem. Acc. 125 (2010)",
        rail="there",
    ),
    "path_length": Why(
        "Path length",
        "mm",
        "∫ |x′(θ)| dθ; on a cylinder turns · √((π D)² + p²)",
        "diameter, turns, pitch, taper",
        "arc length, by adaptive Gauss–Legendre quadrature to 1e-14",
        rail="never",
    ),
    "min_bend_radius": Why(
        "Tightest bend", "mm", "1 / max |d²x/ds²|", "path", "curvature; on a helix r (1 + (p/2πr)²)"
    ),
    "section_area": Why("Section area", "mm²", "∮ u dv", "section", "Green's theorem on the exact outline"),
    "volume": Why(
        "Volume",
        "mm³",
        "∫ (a × b) · (A o′ + Mᵤ a′ + Mᵥ b′) ds",
        "section area and first moments, path, stance, twist, size",
        "integral of the sweep's Jacobian (Pappus–Guldin where the frame is constant)",
    ),
    "mass": Why(
        "Mass", "g", "volume · density", "volume, material", "density not checked against a printed table"
    ),
}


def figures_of(part: Part, min_gap: float | None, bend_radius: float | None) -> dict[str, float | None]:
    """The figures of the recipe contract and those beside them; mm, mm², mm³, g, degrees.

    A figure that the part does not have (the pitch of a straight) is None.
    """
    sweep, coil = part.sweep, part.path.coil
    box = part.extents
    around = coil is not None
    turns = coil.turns if coil else part.path.turns
    ends = part.path.derivatives(np.array([0.0, part.path.length]), 0)[0]
    width, _, depth, _ = sweep.scale(np.zeros(1))
    strand_radius, lay = _strands(part)
    area, _, _ = sweep.section.moments(sweep.changes.shape.value(np.zeros(1)))
    found = {
        "wire_length": sweep.wire_length,
        "path_length": part.path.length,
        "section_area": float(area[0] * width[0] * depth[0]),
        "volume": part.volume,
        "mass": part.volume * part.material.density,
        "turns": turns,
        "pitch": coil.pitch if coil else None,
        "height": coil.height if coil else float(ends[1, 2] - ends[0, 2]),
        "min_gap": min_gap,
        "min_bend_radius": bend_radius,
        "outside_diameter": 2 * box.outside_radius,
        "inside_diameter": 2 * box.inside_radius if around else None,
        "overall_height": box.height,
        "strand_radius": strand_radius,
        "touching_lay": lay,
        "lead_angle": math.degrees(math.atan2(coil.pitch, 2 * math.pi * coil.start_radius)) if coil else None,
    }
    return {name: found[name] for name in WHY}


def _strands(part: Part) -> tuple[float | None, float | None]:
    """How far strands lie from their path, and the lay at which they touch there, mm."""
    strands = part.recipe.strands
    if strands is None or strands.lay is None:
        return None, None
    diameter = 2 * part.sweep.section.reach()
    radius = strands.laid_radius(diameter, "/strands")
    return radius, touching_lay(int(strands.count), radius, diameter)
