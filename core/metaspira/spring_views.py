"""What is told of a spring: its figures with what stands behind each, its working points, its diagrams."""

from __future__ import annotations

from dataclasses import asdict, dataclass
from typing import Any

from metaspira.part import Part
from metaspira.springs.compression import Compression
from metaspira.springs.fatigue import life_of
from metaspira.springs.limits import limits_of

_EN = "EN 13906-1"


@dataclass(frozen=True)
class SpringFigure:
    """A figure: its value in `unit`, its formula, inputs and source."""

    key: str
    title: str
    value: float | None
    unit: str
    formula: str
    inputs: str
    source: str


def spring_figures(spring: Compression) -> list[SpringFigure]:
    """Every figure of a spring, in the order of use."""
    wire = spring.wire
    rows: list[tuple[str, str, float | None, str, str, str, str]] = [
        ("rate", "Rate", spring.rate, "N/mm", "(F₇₀ − F₃₀) / (s₇₀ − s₃₀)", "the diagram below", f"{_EN}, from 30 to 70 % of the way to block"),
        ("first_rate", "Rate, all turns open", spring.first_rate, "N/mm", "1 / Σ 64 r³ Δn / (G d⁴); G d⁴ / (8 D³ n) where all are alike", "G, wire, radius, active turns", _EN),
        ("active_turns", "Active turns", spring.turns.active, "", "turns with room to close", "turns, pitch, closed and ground ends", "counted on the shape"),
        ("index", "Spring index", spring.index, "", "w = D / d", "mean diameter, wire", _EN),
        ("free_length", "Free length", spring.free_length, "mm", "max z − min z", "the shape", "measured on the part"),
        ("solid_length", "Solid length", spring.solid_length, "mm", "L₀ − Σ (p − p_touch) Δn", "free length, gaps", "turns touch at √(p₀² − e²); geometry"),
        ("block_force", "Force at block", spring.block_force, "N", "the force at which the last turn closes", "gaps, rate", _EN),
        ("block_stress", "Stress at block", spring.block.stress, "MPa", "8 F D / (π d³)", "force at block", _EN),
        ("least_gaps", "Sum of gaps wanted", spring.least_gaps, "mm", "n (0.0015 D²/d + 0.1 d), × 1.5 where it is cycled", "D, d, n", _EN),
        ("strength", "Strength of the wire", spring.strength, "MPa", "Rm by diameter", f"{wire.name}, {spring.diameter:.4g} mm", wire.source),
        ("allowed", "Stress allowed at rest", spring.allowed, "MPa", "0.5 Rm", "strength", _EN),
        ("shear_modulus", "Shear modulus", spring.shear_modulus, "MPa", "G (1 − r (T − 20 °C))", f"{wire.name}, {spring.asked.temperature:g} °C", wire.source),
        ("buckling", "Buckles at a deflection of", spring.buckling, "mm", "L₀ · 0.5/(1 − G/E) · (1 − √(1 − (1 − G/E)/(0.5 + G/E) · (πD/νL₀)²))", "L₀, D, seats, G, E", _EN),
        ("frequency", "First natural frequency", spring.frequency, "Hz", "½ √(R / m)", "rate, mass of the active wire", f"{_EN}, fixed ends"),
        ("outside_at_block", "Outside diameter at block", spring.outside_diameter(spring.deflection_to_block), "mm", "2 √(r² + (p² − p_F²)/4π²) + d", "radius, pitch", "the wire keeps its length"),
    ]  # fmt: skip
    return [SpringFigure(*row) for row in rows]


def spring_view(part: Part) -> dict[str, Any] | None:
    """Figures, working points, and the diagrams of force and stress over length; None for what is no spring."""
    spring = part.spring
    if spring is None:
        return None
    deflection, force = spring.curve()
    life = life_of(spring)
    return {
        "kind": spring.asked.kind,
        "wire": {"name": spring.wire.name, "title": spring.wire.title, "source": spring.wire.source},
        "rate": spring.rate,
        "index": spring.index,
        "solid_length": spring.solid_length,
        "free_length": spring.free_length,
        "block_force": spring.block_force,
        "loads": [
            {
                **asdict(point),
                "corrected_stress": point.corrected,
            }
            for point in spring.points
        ],
        "buckling": spring.buckling,
        "frequency": spring.frequency,
        "figures": [vars(figure) for figure in spring_figures(spring)],
        "curve": [[spring.free_length - s, f] for s, f in zip(deflection.tolist(), force.tolist(), strict=True)],
        "force_allowed": force_at_stress(spring, spring.allowed),
        "force_set": force_at_stress(spring, spring.allowed_solid),
        "limits": [vars(limit) for limit in limits_of(spring, part.recipe.fit)],
        "life": None if life is None else {**vars(life), "utilisation": life.utilisation},
    }  # fmt: skip


def force_at_stress(spring: Compression, stress: float) -> float | None:
    """The force, N, at which the greatest plain stress is `stress`, or None where block comes first."""
    low, high = 0.0, spring.block_force
    if float(spring.stresses(high)[0].max()) < stress:
        return None
    for _ in range(60):
        middle = 0.5 * (low + high)
        low, high = (
            (low, middle) if float(spring.stresses(middle)[0].max()) > stress else (middle, high)
        )
    return high
