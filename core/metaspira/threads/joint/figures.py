"""The figures of a threaded joint."""

from __future__ import annotations

import math
from collections.abc import Callable

from metaspira.numbers.figure import Figure, Told
from metaspira.threads.joint.joint import Joint

_H28 = "FED-STD-H28/2, ASME B1.1 appendix B; not checked against the printed standards"
_VDI = "VDI 2230, after Alexander; not checked against the printed page"
_SHARES = "Sopwith (1948), teeth after Yamamoto (1980); not checked against the printed pages"
_ISO = "ISO 898-1"
_SCREW = "screw and inclined plane; Shigley, section 8-2, not checked against the printed book"
_SIZES = "limits of both members"
_TIGHTENED = "d2/2 tan(φ + ρ) + μ D/2"


def _under(work: Callable[[Joint, float], float]) -> Callable[[Joint], float | None]:
    """What is asked of the load, where there is one."""
    return lambda joint: None if joint.load is None else work(joint, joint.load)


def _ratio(joint: Joint) -> str:
    return f"strength ratio {joint.ratio:.3g}, across flats"


def _bolt(joint: Joint) -> str:
    return joint.external.source


FIGURES: tuple[Figure[Joint], ...] = (
    Figure("engagement", "Length of engagement", "L", "mm", lambda j: j.length, "full thread of part and mate", "lengths", "the recipe"),
    Figure("stress_area", "Stress area", "A_s", "mm²", lambda j: j.area, "as the thread's", "basic sizes", _ISO),
    Figure("proof_load", "Proof load", "F_p", "N", lambda j: j.proof_load, "A_s S_p", lambda j: f"{j.external.title}, {j.external.proof:g} MPa", _bolt),
    Figure("breaking_load", "Breaking load", "F_m", "N", lambda j: j.breaking_load, "A_s Rm", lambda j: f"{j.external.title}, {j.external.strength:g} MPa", _bolt),
    Figure("shear_area_external", "Shear area of the external threads", "A_ss", "mm²", lambda j: j.length * j.shear_areas[0], "π L/P D1max (P/2 + tan α (d2min − D1max))", _SIZES, _H28),
    Figure("shear_area_internal", "Shear area of the internal threads", "A_sn", "mm²", lambda j: j.length * j.shear_areas[1], "π L/P dmin (P/2 + tan α (dmin − D2max))", _SIZES, _H28),
    Figure("strips_external", "External threads strip at", "", "N", lambda j: j.stripping("FED-STD-H28/2")[0], "shear area · shear strength", "materials", _H28),
    Figure("strips_internal", "Internal threads strip at", "", "N", lambda j: j.stripping("FED-STD-H28/2")[1], "shear area · shear strength", "materials", _H28),
    Figure("strips_external_vdi", "External threads strip at, bent and widened", "", "N", lambda j: j.stripping("VDI 2230")[0], lambda j: f"(L − 0.8 P) · C1 · C2, {j.factors[0]:.3f} · {j.factors[1]:.3f}", _ratio, _VDI),
    Figure("strips_internal_vdi", "Internal threads strip at, bent and widened", "", "N", lambda j: j.stripping("VDI 2230")[1], lambda j: f"(L − 0.8 P) · C1 · C3, {j.factors[0]:.3f} · {j.factors[2]:.3f}", _ratio, _VDI),
    Figure("length_to_break", "Engagement at which the bolt breaks first", "", "mm", lambda j: j.longest_needed(j.breaking_load), "the longer of both methods", "materials", f"{_H28}; {_VDI}"),
    Figure("length_for_load", "Shortest engagement that holds the load", "", "mm", _under(Joint.longest_needed), "the longer of both methods", "load, or preload where it is larger", f"{_H28}; {_VDI}"),
    Figure("first_share", "Load on the turn that bears most", "", "%", lambda j: 100 * j.first_share, "sinh λx / sinh λL", "moduli, nut, engagement", _SHARES),
    Figure("usual_preload", "Preload that uses 90 % of the yield strength", "", "N", lambda j: j.usual_preload, "0.9 Re A_s / √(1 + 3 (τ/σ)²)", "yield strength, friction", _VDI),
    Figure("usual_torque", "Torque for that", "", "N mm", lambda j: j.usual_preload * sum(j.torque_per_newton), f"F ({_TIGHTENED})", "friction, mean diameter under the head", _VDI),
    Figure("preload", "Preload", "F_M", "N", lambda j: j.preload, f"M / ({_TIGHTENED})", "torque, friction", _VDI),
    Figure("torque", "Torque", "M_A", "N mm", lambda j: j.torque, f"F ({_TIGHTENED})", "preload, friction", _VDI),
    Figure("tightening_stress", "Stress while it is tightened", "σ_red", "MPa", lambda j: j.tightening_stress, "√(σ² + 3 τ²)", "preload, torque in the thread", _VDI),
    Figure("friction_angle", "Friction angle", "ρ", "°", lambda j: math.degrees(j.friction_angle), "atan(μ / cos α)", "friction, flanks", _SCREW),
    Figure("efficiency", "Efficiency of turning into a push", "η", "%", lambda j: 100 * j.efficiency, "tan φ / tan(φ + ρ)", "lead angle, friction angle", _SCREW),
    Figure("drive", "Torque that drives the load", "", "N mm", _under(lambda j, load: j.driving(load)[0]), "F d2/2 tan(φ + ρ)", "load, friction", _SCREW),
    Figure("lower", "Torque that lets it back", "", "N mm", _under(lambda j, load: j.driving(load)[1]), "F d2/2 tan(ρ − φ); negative where it turns by itself", "load, friction", _SCREW),
    Figure("pressure", "Pressure on the flanks", "p", "MPa", _under(Joint.pressure), "F P / (π d2 H1 L)", "load, engagement", _SCREW),
    Figure("root_bending", "Bending at the root of the threads", "", "MPa", _under(Joint.root_bending), "6 F (H1/2) P / (π d3 b² L)", "load, engagement", _SCREW),
)  # fmt: skip
"""In the order of use."""


def joint_figures(joint: Joint) -> list[Told]:
    """Every figure of a joint."""
    return [figure.told(joint) for figure in FIGURES]
