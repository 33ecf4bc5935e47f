"""What is told of a threaded joint: its figures with what stands behind each, and how turns share its load."""

from __future__ import annotations

import math
from typing import Any

from metaspira.parts import AnyPart, ThreadedPart
from metaspira.threads.joint.joint import Joint
from metaspira.views.figure import Figure

_H28 = "FED-STD-H28/2, ASME B1.1 appendix B; not checked against the printed standards"
_VDI = "VDI 2230, after Alexander; not checked against the printed page"
_ISO = "ISO 898-1"
_SCREW = "screw and inclined plane; Shigley, section 8-2, not checked against the printed book"


def joint_view(part: AnyPart) -> dict[str, Any] | None:
    """Figures, materials, and the share of the load on each turn; None where no joint is asked for."""
    joint = part.joint if isinstance(part, ThreadedPart) else None
    if joint is None:
        return None
    return {
        "length": joint.length,
        "external": vars(joint.external),
        "internal": vars(joint.internal),
        "strips_first": joint.strips_first,
        "breaks_first": joint.breaks_first,
        "figures": [vars(figure) for figure in joint_figures(joint)],
        "shares": joint.shares.tolist(),
    }


def joint_figures(joint: Joint) -> list[Figure]:
    """Every figure of a joint, in the order of use."""
    plain, alexander = (joint.stripping(method) for method in joint.strip_per_mm)
    breaking, load = joint.breaking_load, joint.load
    metals, sizes = "materials", "limits of both members"
    widened, outer, inner = joint.factors
    in_thread, under_head = joint.torque_per_newton
    rows: list[tuple[str, str, float | None, str, str, str, str]] = [
        ("engagement", "Length of engagement", joint.length, "mm", "full thread of part and mate", "lengths", "the recipe"),
        ("stress_area", "Stress area", joint.area, "mm²", "as the thread's", "basic sizes", _ISO),
        ("proof_load", "Proof load", joint.proof_load, "N", "A_s S_p", f"{joint.external.title}, {joint.external.proof:g} MPa", joint.external.source),
        ("breaking_load", "Breaking load", breaking, "N", "A_s Rm", f"{joint.external.title}, {joint.external.strength:g} MPa", joint.external.source),
        ("shear_area_external", "Shear area of the external threads", joint.length * joint.shear_areas[0], "mm²", "π L/P D1max (P/2 + tan α (d2min − D1max))", sizes, _H28),
        ("shear_area_internal", "Shear area of the internal threads", joint.length * joint.shear_areas[1], "mm²", "π L/P dmin (P/2 + tan α (dmin − D2max))", sizes, _H28),
        ("strips_external", "External threads strip at", plain[0], "N", "shear area · shear strength", metals, _H28),
        ("strips_internal", "Internal threads strip at", plain[1], "N", "shear area · shear strength", metals, _H28),
        ("strips_external_vdi", "External threads strip at, bent and widened", alexander[0], "N", f"(L − 0.8 P) · C1 · C2, {widened:.3f} · {outer:.3f}", f"strength ratio {joint.ratio:.3g}, across flats", _VDI),
        ("strips_internal_vdi", "Internal threads strip at, bent and widened", alexander[1], "N", f"(L − 0.8 P) · C1 · C3, {widened:.3f} · {inner:.3f}", f"strength ratio {joint.ratio:.3g}, across flats", _VDI),
        ("length_to_break", "Engagement at which the bolt breaks first", joint.longest_needed(breaking), "mm", "the longer of both methods", metals, f"{_H28}; {_VDI}"),
        ("length_for_load", "Shortest engagement that holds the load", None if load is None else joint.longest_needed(load), "mm", "the longer of both methods", "load, or preload where it is larger", f"{_H28}; {_VDI}"),
        ("first_share", "Load on the turn that bears most", 100 * joint.first_share, "%", "sinh λx / sinh λL", "moduli, nut, engagement", "Sopwith (1948), teeth after Yamamoto (1980); not checked against the printed pages"),
        ("usual_preload", "Preload that uses 90 % of the yield strength", joint.usual_preload, "N", "0.9 Re A_s / √(1 + 3 (τ/σ)²)", "yield strength, friction", _VDI),
        ("usual_torque", "Torque for that", joint.usual_preload * (in_thread + under_head), "N mm", "F (d2/2 tan(φ + ρ) + μ D/2)", "friction, mean diameter under the head", _VDI),
        ("preload", "Preload", joint.preload, "N", "M / (d2/2 tan(φ + ρ) + μ D/2)", "torque, friction", _VDI),
        ("torque", "Torque", joint.torque, "N mm", "F (d2/2 tan(φ + ρ) + μ D/2)", "preload, friction", _VDI),
        ("tightening_stress", "Stress while it is tightened", joint.tightening_stress, "MPa", "√(σ² + 3 τ²)", "preload, torque in the thread", _VDI),
        ("friction_angle", "Friction angle", math.degrees(joint.friction_angle), "°", "atan(μ / cos α)", "friction, flanks", _SCREW),
        ("efficiency", "Efficiency of turning into a push", 100 * joint.efficiency, "%", "tan φ / tan(φ + ρ)", "lead angle, friction angle", _SCREW),
        ("drive", "Torque that drives the load", None if load is None else joint.driving(load)[0], "N mm", "F d2/2 tan(φ + ρ)", "load, friction", _SCREW),
        ("lower", "Torque that lets it back", None if load is None else joint.driving(load)[1], "N mm", "F d2/2 tan(ρ − φ); negative where it turns by itself", "load, friction", _SCREW),
        ("pressure", "Pressure on the flanks", None if load is None else joint.pressure(load), "MPa", "F P / (π d2 H1 L)", "load, engagement", _SCREW),
        ("root_bending", "Bending at the root of the threads", None if load is None else joint.root_bending(load), "MPa", "6 F (H1/2) P / (π d3 b² L)", "load, engagement", _SCREW),
    ]  # fmt: skip
    return [Figure(*row) for row in rows]
