"""The figures of springs, by their kinds, and of a nest of them."""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import replace
from typing import Any

from metaspira.numbers.figure import Figure, Told
from metaspira.springs.any_spring import AnySpring
from metaspira.springs.compression import Compression
from metaspira.springs.extension import Extension
from metaspira.springs.nested import Nested
from metaspira.springs.spiral import Spiral
from metaspira.springs.torsion import Torsion
from metaspira.springs.working import WoundSpring

_EN, _EN_PULL, _EN_TURN = "EN 13906-1", "EN 13906-2", "EN 13906-3"
_SHIGLEY = "Shigley, Mechanical Engineering Design, section 10-11; not checked against the printed book"
_EXACT = "exact elasticity of a turn (Treyssède, Wave Motion 45, 2008)"
_WAHL = "Wahl, Mechanical Springs, spiral springs; not checked against the printed book"
_SET = "Timoshenko, Strength of Materials, part II, not checked against the printed book; an estimate"
_DEAD = {
    "EN 13906": "n = n_t − 2, cold coiled; closed turns beyond one an end are dead too",
    "handbook": "n_t less 0 plain, 1 plain and ground, 2 closed",
}
_SOLID = {
    "EN 13906": "n_t d_max closed and ground, (n_t + 1.5) d_max closed and not ground",
    "handbook": "n_t d ground, (n_t + 1) d not ground",
}
_PLATES = "springs between the same plates"


def _wire(spring: AnySpring) -> str:
    return f"{spring.wire.name}, {spring.diameter:.4g} mm"


def _warm(spring: AnySpring) -> str:
    return f"{spring.wire.name}, {spring.asked.temperature:g} °C"


def _wire_source(spring: AnySpring) -> str:
    return spring.wire.source


def _drawn(drawn: str, round_wire: str, section: str | None = None) -> Callable[[Compression], str]:
    """What is said of a spring by its shape as drawn, of one of round wire, and of one of another section."""

    def said(spring: Compression) -> str:
        if spring.rules == "as drawn":
            return drawn
        return round_wire if section is None or spring.shape.round else section

    return said


def _by_ends(drawn: str, rules: dict[str, str]) -> Callable[[Compression], str]:
    def said(spring: Compression) -> str:
        if spring.rules == "as drawn":
            return drawn
        return rules["handbook" if spring.rules == "handbook" else "EN 13906"]

    return said


def _rules(spring: Compression) -> str:
    return spring.rules_named


def _rate_source(spring: Compression) -> str:
    drawn = spring.rules == "as drawn"
    return (
        f"{spring.rules_named}, from 30 to 70 % of the way to solid length" if drawn else spring.rules_named
    )


def _strength(by: str) -> Callable[[WoundSpring], str]:
    return lambda spring: (
        f"Rm by {by}" + ("" if spring.asked.strength_left == 100 else " × share left, as typed")
    )


PUSHING: tuple[Figure[Compression], ...] = (
    Figure("rate", "Rate", "R", "N/mm", lambda s: s.rate, _drawn("(F₇₀ − F₃₀) / (s₇₀ − s₃₀)", "G d⁴ / (8 D³ n)", "rate of one turn / n, by its exact elasticity"), _drawn("the diagram", "G, wire, D, n", "E, G, section, D, pitch, n"), _rate_source),
    Figure("active_turns", "Active turns", "n", "", lambda s: s.active, _by_ends("turns with room to close", _DEAD), _drawn("the shape", "turns in all, kind of ends"), _rules),
    Figure("index", "Spring index", "w", "", lambda s: s.index, "D / d", "mean diameter, wire", _EN),
    Figure("free_length", "Free length", "L₀", "mm", lambda s: s.free_length, "max z − min z", "the shape", "measured on the part"),
    Figure("solid_length", "Solid length", "L_c", "mm", lambda s: s.solid_length, _by_ends("L₀ − Σ (p − p_touch) Δn", _SOLID), _drawn("free length, gaps", "turns in all, wire, kind of ends"), _rules),
    Figure("block_force", "Force at solid length", "F_c", "N", lambda s: s.block_force, _drawn("the force at which the last turn closes", "R (L₀ − L_c)"), _drawn("the diagram", "rate, lengths"), _rules),
    Figure("block_stress", "Stress at solid length", "τ_c", "MPa", lambda s: s.block.stress, _drawn("torsion / W, greatest along the wire", "8 F D / (π d³)", "F r / W, W of the straight bar"), "force at solid length", lambda s: s.rules_named if s.rules == "as drawn" else _EN),
    Figure("set", "Set when first closed solid", "", "mm", lambda s: s.set_at_block, "s_c (1 − (4/3)(1 − 1/4x³)/x), x = τ / 0.56 Rm ≥ 1", "travel to solid length, stress at solid length, strength", _SET),
    Figure("least_gaps", "Sum of gaps wanted", "S_a", "mm", lambda s: s.least_gaps, "n (0.0015 D²/d + 0.1 d), × 1.5 where it is cycled", "D, d, n", _EN),
    Figure("strength", "Strength of the wire", "Rm", "MPa", lambda s: s.strength, _strength("diameter"), _wire, _wire_source),
    Figure("allowed", "Stress allowed at rest", "τ_zul", "MPa", lambda s: s.allowed, "0.5 Rm", "strength", _EN),
    Figure("shear_modulus", "Shear modulus", "G", "MPa", lambda s: s.shear_modulus, "G (1 − r (T − 20 °C))", _warm, _wire_source),
    Figure("buckling", "Buckles at a deflection of", "s_K", "mm", lambda s: s.buckling, "L₀ · 0.5/(1 − G/E) · (1 − √(1 − (1 − G/E)/(0.5 + G/E) · (πD/νL₀)²))", "L₀, D, seats, G, E", _EN),
    Figure("frequency", "First natural frequency", "f_e", "Hz", lambda s: s.frequency, "½ √(R / m)", "rate, mass of the active wire", f"{_EN}, fixed ends"),
    Figure("outside_at_block", "Outside diameter at solid length", "", "mm", lambda s: s.outside_diameter(s.deflection_to_block), "2 √(r² + (p² − p_F²)/4π²) + d", "radius, pitch", "the wire keeps its length"),
)  # fmt: skip


def _by_body(body: str, hooks: str) -> Callable[[Extension], str]:
    return lambda spring: body if spring.asked.gives == "body" else hooks


def _by_wire(round_wire: str, other: str) -> Callable[[Extension], str]:
    return lambda spring: round_wire if spring.shape.round else other


def _hook(spring: Extension, which: int) -> float | None:
    found = spring.hook_stresses(spring.worst_effort)
    return None if found is None else found[which]


PULLING: tuple[Figure[Extension], ...] = (
    Figure("rate", "Rate", "R", "N/mm", lambda s: s.rate, "1 / Σ 2π r³ Δn / (G J); G d⁴ / (8 D³ n) of round wire, all alike", "G, wire, radius, turns", _by_wire(_EN_PULL, _EXACT)),
    Figure("initial", "Initial tension", "F₀", "N", lambda s: s.initial, "as typed", "initial tension", "the recipe"),
    Figure("most_initial", "Initial tension that can be wound", "", "N", lambda s: s.most_initial, "33500 / e^(0.105 w) + 1000 (4 − (w − 3)/6.5) psi", "index, wire", _SHIGLEY),
    Figure("least_initial", "Initial tension wound easily, from", "", "N", lambda s: s.least_initial, "33500 / e^(0.105 w) − 1000 (4 − (w − 3)/6.5) psi", "index, wire", _SHIGLEY),
    Figure("active_turns", "Active turns", "n", "", lambda s: s.active, _by_body("all of the coil", "N + G/E"), _by_body("turns", "turns, moduli"), _by_body(_EN_PULL, _SHIGLEY)),
    Figure("index", "Spring index", "w", "", lambda s: s.index, "D / d", "mean diameter, wire", _EN_PULL),
    Figure("free_length", "Free length, inside the hooks", "L₀", "mm", lambda s: s.free_length, "max z − min z − the wire’s width for each hook", "the shape", "measured on the part"),
    Figure("most_force", "Most force of the body", "F_n", "N", lambda s: s.most_force, "0.45 Rm W / r; 0.45 Rm π d³ / (8 D) of round wire", "strength, radius, wire", _EN_PULL),
    Figure("hook_bending", "Bending in the hooks", "σ_A", "MPa", lambda s: _hook(s, 0), _by_wire("F (K_A 16 D/(π d³) + 4/(π d²)), K_A = (4C² − C − 1)/(4C(C − 1))", "F (k r/W_b + 1/A), k of a ring as narrow as the loop"), "largest load, loop radius", _by_wire(_SHIGLEY, _EXACT)),
    Figure("hook_torsion", "Torsion in the hooks", "τ_B", "MPa", lambda s: _hook(s, 1), _by_wire("K_B 8 F D/(π d³), K_B = (4C − 1)/(4C − 4)", "k F r/W, k of a ring as narrow as the bend"), "largest load, bend radius", _by_wire(_SHIGLEY, _EXACT)),
    Figure("strength", "Strength of the wire", "Rm", "MPa", lambda s: s.strength, _strength("diameter"), _wire, _wire_source),
    Figure("allowed", "Stress allowed in the body", "τ_zul", "MPa", lambda s: s.allowed, "0.45 Rm", "strength", _EN_PULL),
    Figure("shear_modulus", "Shear modulus", "G", "MPa", lambda s: s.shear_modulus, "G (1 − r (T − 20 °C))", _warm, _wire_source),
)  # fmt: skip


def _turn_formula(spring: Torsion) -> str:
    rubs, divisor = ("10.19/10.8 ", "10.8") if spring.asked.by == "10.8" else ("", "10.19")
    if spring.asked.held == "ends":
        return f"{rubs}E I / (Σ 2π r Δn + Σ l / 3)"
    return f"{rubs}E I / Σ 2π r Δn; E d⁴ / ({divisor} D n) a turn of round wire"


def _turn_source(spring: Torsion) -> str:
    rubs = ", Shigley for turns that rub, not checked against the printed book"
    held = "legs held by their ends" if spring.asked.held == "ends" else "legs held firmly"
    return f"{_EN_TURN}{rubs if spring.asked.by == '10.8' else ''}, {held}"


TURNING: tuple[Figure[Torsion], ...] = (
    Figure("rate", "Rate", "R_M", "N mm/°", lambda s: s.rate, _turn_formula, lambda s: "E, wire, radius, turns, legs" if s.asked.held == "ends" else "E, wire, radius, turns", _turn_source),
    Figure("active_turns", "Turns of the body", "n", "", lambda s: s.active, "all of the coil", "turns", _EN_TURN),
    Figure("index", "Spring index", "w", "", lambda s: s.index, "D / d", "mean diameter, wire", _EN_TURN),
    Figure("most_torque", "Most torque", "M_n", "N mm", lambda s: s.most_torque, "0.7 Rm W; W = π d³ / 32 of round wire", "strength, wire", _EN_TURN),
    Figure("most_angle", "Most angle", "α_n", "°", lambda s: s.most_torque / s.rate, "most torque / rate", "most torque, rate", _EN_TURN),
    Figure("inside_free", "Inside diameter, free", "Di", "mm", lambda s: s.inside_diameter(0.0), "D − d", "mean diameter, wire", _EN_TURN),
    Figure("inside_wound", "Inside diameter, wound most", "", "mm", lambda s: s.inside_diameter(s.worst_way), "D n / (n + α / 360°) − d", "D, n, largest angle", _EN_TURN),
    Figure("strength", "Strength of the wire", "Rm", "MPa", lambda s: s.strength, _strength("diameter"), _wire, _wire_source),
    Figure("allowed", "Bending stress allowed", "σ_zul", "MPa", lambda s: s.allowed, "0.7 Rm", "strength", _EN_TURN),
    Figure("elastic_modulus", "Elastic modulus", "E", "MPa", lambda s: s.elastic_modulus, "E (1 − r (T − 20 °C))", _warm, _wire_source),
)  # fmt: skip


def _by_hold(pinned: str, clamped: str) -> Callable[[Spiral], str]:
    return lambda spring: pinned if spring.asked.outer == "pinned" else clamped


WINDING_UP: tuple[Figure[Spiral], ...] = (
    Figure("rate", "Rate", "R_M", "N mm/°", lambda s: s.rate, _by_hold("E I / (1.25 L)", "E I / L; E b t³ / (12 L) of strip"), "E, strip, length", _WAHL),
    Figure("strip_length", "Length of the strip that bends", "L", "mm", lambda s: s.length, "∫ √(r² + r′²) dφ", "diameters, turns", "measured on the part"),
    Figure("active_turns", "Turns, free", "n", "", lambda s: s.active, "all of the coil", "turns", "the recipe"),
    Figure("arbor", "Diameter of the arbor", "", "mm", lambda s: s.arbor, "least D − t", "diameters, strip", "the shape"),
    Figure("least_gap", "Air between turns, free", "", "mm", lambda s: s.least_gap, "r′ − t", "diameters, turns, strip", "the shape"),
    Figure("solid_turns", "Turns wound solid", "", "", lambda s: s.solid_turns, "(√(r² + L t/π) − r) / t", "arbor, length, strip", "a ring of the strip's own area"),
    Figure("solid_angle", "Angle until it is solid", "", "°", lambda s: s.solid_angle, "360° (solid turns − turns)", "turns", "the same"),
    Figure("most_torque", "Most torque", "M_n", "N mm", lambda s: s.most_torque, _by_hold("0.7 Rm W / 2", "0.7 Rm W; W = b t² / 6 of strip"), "strength, strip", "allowed as EN 13906-3"),
    Figure("most_angle", "Angle at that torque", "α_n", "°", lambda s: s.most_torque / s.rate, "most torque / rate", "most torque, rate", _WAHL),
    Figure("index", "Spring index", "w", "", lambda s: s.index, "w = least D / t", "mean diameter, strip", _EN_TURN),
    Figure("strength", "Strength of the strip", "Rm", "MPa", lambda s: s.strength, _strength("thickness"), _wire, _wire_source),
    Figure("allowed", "Bending stress allowed", "σ_zul", "MPa", lambda s: s.allowed, "0.7 Rm", "strength", "as EN 13906-3"),
    Figure("elastic_modulus", "Elastic modulus", "E", "MPa", lambda s: s.elastic_modulus, "E (1 − r (T − 20 °C))", _warm, _wire_source),
)  # fmt: skip

NEST: tuple[Figure[Nested], ...] = (
    Figure("rate", "Rate of the nest", "R", "N/mm", lambda s: s.rate, "(F₇₀ − F₃₀) / (s₇₀ − s₃₀)", "the diagram of the nest", f"{_EN}, from 30 to 70 % of the way to solid length"),
    Figure("free_length", "Free length of the nest", "L₀", "mm", lambda s: s.free_length, "the longest spring's", "free lengths", _PLATES),
    Figure("solid_length", "Solid length of the nest", "L_c", "mm", lambda s: s.solid_length, "that of the spring that is solid first", "solid lengths", _PLATES),
    Figure("block_force", "Force at solid length of the nest", "F_c", "N", lambda s: s.block_force, "Σ Fᵢ", "the diagram", _PLATES),
)  # fmt: skip

_OF: dict[type[AnySpring], tuple[Figure[Any], ...]] = {
    Compression: PUSHING,
    Extension: PULLING,
    Torsion: TURNING,
    Spiral: WINDING_UP,
    Nested: NEST,
}


def figure_of(spring: AnySpring, key: str) -> Told:
    """One of a spring's own figures, by its key."""
    return next(figure for figure in _OF[type(spring)] if figure.key == key).told(spring)


def spring_figures(spring: AnySpring) -> list[Told]:
    """Every figure of a spring, in the order of use; of a nest its own, then those of each spring in it."""
    own = [figure.told(spring) for figure in _OF[type(spring)]]
    return [*own, *_shares(spring), *_each(spring)] if isinstance(spring, Nested) else own


def _shares(nest: Nested) -> list[Told]:
    if not nest.points:
        return []
    forces = nest.forces(min(point.length for point in nest.points))
    whole = max(sum(forces), 1e-9)
    at = "the shortest working point"
    return [
        Told(
            f"share_{k}", f"Share of the load, {_nth(k)}", 100 * force / whole, "%", "Fᵢ / Σ Fᵢ", at, _PLATES
        )
        for k, force in enumerate(forces)
    ]


def _each(nest: Nested) -> list[Told]:
    return [
        replace(
            figure,
            key=figure.key if k == 0 and figure.key == "allowed" else f"{figure.key}_{k}",
            title=f"{figure.title}, {_nth(k)}",
        )
        for k, one in enumerate(nest.members)
        for figure in spring_figures(one)
    ]


def _nth(k: int) -> str:
    return "outer spring" if k == 0 else f"wire {k + 1}"
