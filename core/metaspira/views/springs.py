"""What is told of a spring: its figures with what stands behind each, its working points, its diagrams."""

from __future__ import annotations

from dataclasses import asdict, replace
from typing import Any

from metaspira.parts import Part
from metaspira.springs.any_spring import AnySpring
from metaspira.springs.asked import CompressionSpring
from metaspira.springs.compression import Compression
from metaspira.springs.extension import Extension
from metaspira.springs.fatigue import life_of
from metaspira.springs.limits import limits_of
from metaspira.springs.measured import measured_of
from metaspira.springs.nested import Nested
from metaspira.springs.spiral import Spiral
from metaspira.springs.standard import ALLOWED, ALLOWED_SOLID, RULES, why_other
from metaspira.springs.torsion import Torsion
from metaspira.springs.turning import Turning
from metaspira.springs.working import Axial
from metaspira.views.figure import Figure

_EN = "EN 13906-1"
_DEAD = {
    "EN 13906": "n = n_t − 2, cold coiled; closed turns beyond one an end are dead too",
    "handbook": "n_t less 0 plain, 1 plain and ground, 2 closed",
}
_SOLID = {
    "EN 13906": "n_t d_max closed and ground, (n_t + 1.5) d_max closed and not ground",
    "handbook": "n_t d ground, (n_t + 1) d not ground",
}


def spring_figures(spring: AnySpring) -> list[Figure]:
    """Every figure of a spring, in the order of use."""
    if isinstance(spring, Nested):
        return _nesting(spring)
    if isinstance(spring, Spiral):
        return _winding_up(spring)
    if isinstance(spring, Torsion):
        return _turning(spring)
    return _pulling(spring) if isinstance(spring, Extension) else _pushing(spring)


def _nesting(spring: Nested) -> list[Figure]:
    """Of the nest, then of each spring in it."""
    plates = "springs between the same plates"
    rows: list[tuple[str, str, float | None, str, str, str, str]] = [
        ("rate", "Rate of the nest", spring.rate, "N/mm", "(F₇₀ − F₃₀) / (s₇₀ − s₃₀)", "the diagram of the nest", f"{_EN}, from 30 to 70 % of the way to block"),
        ("free_length", "Free length of the nest", spring.free_length, "mm", "the longest spring's", "free lengths", plates),
        ("solid_length", "Solid length of the nest", spring.solid_length, "mm", "that of the spring at block first", "solid lengths", plates),
        ("block_force", "Force at block of the nest", spring.block_force, "N", "Σ Fᵢ", "the diagram", plates),
    ]  # fmt: skip
    if spring.points:
        forces = spring.forces(min(point.length for point in spring.points))
        rows += [
            (f"share_{k}", f"Share of the load, {_nth(k)}", 100 * force / max(sum(forces), 1e-9), "%", "Fᵢ / Σ Fᵢ", "the shortest working point", plates)
            for k, force in enumerate(forces)
        ]  # fmt: skip
    each = [
        replace(
            figure,
            key=figure.key if k == 0 and figure.key == "allowed" else f"{figure.key}_{k}",
            title=f"{figure.title}, {_nth(k)}",
        )
        for k, one in enumerate(spring.members)
        for figure in _pushing(one)
    ]
    return [*(Figure(*row) for row in rows), *each]


def _nth(k: int) -> str:
    return "outer spring" if k == 0 else f"wire {k + 1}"


def _turning(spring: Torsion) -> list[Figure]:
    wire, en = spring.wire, "EN 13906-3"
    ends, rubbing = spring.asked.held == "ends", spring.asked.by == "10.8"
    rubs, divisor = ("10.19/10.8 ", "10.8") if rubbing else ("", "10.19")
    source = f"{en}, Shigley for turns that rub, not checked against the printed book" if rubbing else en
    rows: list[tuple[str, str, float | None, str, str, str, str]] = [
        ("rate", "Rate", spring.rate, "N mm/°", f"{rubs}E I / (Σ 2π r Δn + Σ l / 3)" if ends else f"{rubs}E I / Σ 2π r Δn; E d⁴ / ({divisor} D n) a turn of round wire", "E, wire, radius, turns, legs" if ends else "E, wire, radius, turns", f"{source}, legs held by their ends" if ends else f"{source}, legs held firmly"),
        ("active_turns", "Turns of the body", spring.active, "", "all of the coil", "turns", en),
        ("index", "Spring index", spring.index, "", "w = D / d", "mean diameter, wire", en),
        ("most_torque", "Most torque", spring.most_torque, "N mm", "0.7 Rm W; W = π d³ / 32 of round wire", "strength, wire", en),
        ("most_angle", "Most angle", spring.most_torque / spring.rate, "°", "most torque / rate", "most torque, rate", en),
        ("inside_free", "Inside diameter, free", spring.inside_diameter(0.0), "mm", "D − d", "mean diameter, wire", en),
        ("inside_wound", "Inside diameter, wound most", spring.inside_diameter(spring.worst_way), "mm", "D n / (n + α / 360°) − d", "D, n, largest angle", en),
        ("strength", "Strength of the wire", spring.strength, "MPa", "Rm by diameter", f"{wire.name}, {spring.diameter:.4g} mm", wire.source),
        ("allowed", "Bending stress allowed", spring.allowed, "MPa", "0.7 Rm", "strength", en),
        ("elastic_modulus", "Elastic modulus", spring.elastic_modulus, "MPa", "E (1 − r (T − 20 °C))", f"{wire.name}, {spring.asked.temperature:g} °C", wire.source),
    ]  # fmt: skip
    return [Figure(*row) for row in rows]


def _winding_up(spring: Spiral) -> list[Figure]:
    wire, wahl = spring.wire, "Wahl, Mechanical Springs, spiral springs; not checked against the printed book"
    pinned = spring.asked.outer == "pinned"
    rows: list[tuple[str, str, float | None, str, str, str, str]] = [
        ("rate", "Rate", spring.rate, "N mm/°", "E I / (1.25 L)" if pinned else "E I / L; E b t³ / (12 L) of strip", "E, strip, length", wahl),
        ("strip_length", "Length of the strip that bends", spring.length, "mm", "∫ √(r² + r′²) dφ", "diameters, turns", "measured on the part"),
        ("active_turns", "Turns, free", spring.active, "", "all of the coil", "turns", "the recipe"),
        ("arbor", "Diameter of the arbor", spring.arbor, "mm", "least D − t", "diameters, strip", "the shape"),
        ("least_gap", "Air between turns, free", spring.least_gap, "mm", "r′ − t", "diameters, turns, strip", "the shape"),
        ("solid_turns", "Turns wound solid", spring.solid_turns, "", "(√(r² + L t/π) − r) / t", "arbor, length, strip", "a ring of the strip's own area"),
        ("solid_angle", "Angle until it is solid", spring.solid_angle, "°", "360° (solid turns − turns)", "turns", "the same"),
        ("most_torque", "Most torque", spring.most_torque, "N mm", "0.7 Rm W / 2" if pinned else "0.7 Rm W; W = b t² / 6 of strip", "strength, strip", "allowed as EN 13906-3"),
        ("most_angle", "Angle at that torque", spring.most_torque / spring.rate, "°", "most torque / rate", "most torque, rate", wahl),
        ("index", "Spring index", spring.index, "", "w = least D / t", "mean diameter, strip", "EN 13906-3"),
        ("strength", "Strength of the strip", spring.strength, "MPa", "Rm by thickness", f"{wire.name}, {spring.diameter:.4g} mm", wire.source),
        ("allowed", "Bending stress allowed", spring.allowed, "MPa", "0.7 Rm", "strength", "as EN 13906-3"),
        ("elastic_modulus", "Elastic modulus", spring.elastic_modulus, "MPa", "E (1 − r (T − 20 °C))", f"{wire.name}, {spring.asked.temperature:g} °C", wire.source),
    ]  # fmt: skip
    return [Figure(*row) for row in rows]


def _pulling(spring: Extension) -> list[Figure]:
    wire = spring.wire
    hooks = spring.hook_stresses(spring.worst_effort) or (None, None)
    shigley = "Shigley, Mechanical Engineering Design, section 10-11; not checked against the printed book"
    rows: list[tuple[str, str, float | None, str, str, str, str]] = [
        ("rate", "Rate", spring.rate, "N/mm", "1 / Σ 2π r³ Δn / (G J); G d⁴ / (8 D³ n) of round wire, all alike", "G, wire, radius, turns", "EN 13906-2"),
        ("initial", "Initial tension", spring.initial, "N", "as typed", "initial tension", "the recipe"),
        ("most_initial", "Initial tension that can be wound", spring.most_initial, "N", "33500 / e^(0.105 w) + 1000 (4 − (w − 3)/6.5) psi", "index, wire", shigley),
        ("least_initial", "Initial tension wound easily, from", spring.least_initial, "N", "33500 / e^(0.105 w) − 1000 (4 − (w − 3)/6.5) psi", "index, wire", shigley),
        ("active_turns", "Active turns", spring.active, "", *(("all of the coil", "turns", "EN 13906-2") if spring.asked.gives == "body" else ("N + G/E", "turns, moduli", shigley))),
        ("index", "Spring index", spring.index, "", "w = D / d", "mean diameter, wire", "EN 13906-2"),
        ("free_length", "Free length, inside the hooks", spring.free_length, "mm", "max z − min z − d for each hook", "the shape", "measured on the part"),
        ("most_force", "Most force of the body", spring.most_force, "N", "0.45 Rm π d³ / (8 D)", "strength, D, d", "EN 13906-2"),
        ("hook_bending", "Bending in the hooks", hooks[0], "MPa", "F (K_A 16 D/(π d³) + 4/(π d²)), K_A = (4C² − C − 1)/(4C(C − 1))", "largest load, loop radius", shigley),
        ("hook_torsion", "Torsion in the hooks", hooks[1], "MPa", "K_B 8 F D/(π d³), K_B = (4C − 1)/(4C − 4)", "largest load, bend radius", shigley),
        ("strength", "Strength of the wire", spring.strength, "MPa", "Rm by diameter", f"{wire.name}, {spring.diameter:.4g} mm", wire.source),
        ("allowed", "Stress allowed in the body", spring.allowed, "MPa", "0.45 Rm", "strength", "EN 13906-2"),
        ("shear_modulus", "Shear modulus", spring.shear_modulus, "MPa", "G (1 − r (T − 20 °C))", f"{wire.name}, {spring.asked.temperature:g} °C", wire.source),
    ]  # fmt: skip
    return [Figure(*row) for row in rows]


def _pushing(spring: Compression) -> list[Figure]:
    wire, by, drawn = spring.wire, spring.rules_named, spring.rules == "as drawn"
    ends = "handbook" if spring.rules == "handbook" else "EN 13906"
    rate = (
        ("(F₇₀ − F₃₀) / (s₇₀ − s₃₀)", "the diagram")
        if drawn
        else ("G d⁴ / (8 D³ n)", "G, wire, D, n")
        if spring.shape.round
        else ("rate of one turn / n, by its exact elasticity", "E, G, section, D, pitch, n")
    )
    turns = (
        ("turns with room to close", "the shape") if drawn else (_DEAD[ends], "turns in all, kind of ends")
    )
    solid = (
        ("L₀ − Σ (p − p_touch) Δn", "free length, gaps")
        if drawn
        else (_SOLID[ends], "turns in all, wire, kind of ends")
    )
    block = (
        ("the force at which the last turn closes", "the diagram")
        if drawn
        else ("R (L₀ − L_c)", "rate, lengths")
    )
    rows: list[tuple[str, str, float | None, str, str, str, str]] = [
        ("rate", "Rate", spring.rate, "N/mm", *rate, f"{by}, from 30 to 70 % of the way to block" if drawn else by),
        ("active_turns", "Active turns", spring.active, "", *turns, by),
        ("index", "Spring index", spring.index, "", "w = D / d", "mean diameter, wire", _EN),
        ("free_length", "Free length", spring.free_length, "mm", "max z − min z", "the shape", "measured on the part"),
        ("solid_length", "Solid length", spring.solid_length, "mm", *solid, by),
        ("block_force", "Force at block", spring.block_force, "N", *block, by),
        ("block_stress", "Stress at block", spring.block.stress, "MPa", "torsion / W, greatest along the wire" if drawn else "8 F D / (π d³)" if spring.shape.round else "F r / W, W of the straight bar", "force at block", by if drawn else _EN),
        ("set", "Set when first closed to block", spring.set_at_block, "mm", "s_c (1 − (4/3)(1 − 1/4x³)/x), x = τ / 0.56 Rm ≥ 1", "travel to block, stress at block, strength", "Timoshenko, Strength of Materials, part II, not checked against the printed book; an estimate"),
        ("least_gaps", "Sum of gaps wanted", spring.least_gaps, "mm", "n (0.0015 D²/d + 0.1 d), × 1.5 where it is cycled", "D, d, n", _EN),
        ("strength", "Strength of the wire", spring.strength, "MPa", "Rm by diameter", f"{wire.name}, {spring.diameter:.4g} mm", wire.source),
        ("allowed", "Stress allowed at rest", spring.allowed, "MPa", "0.5 Rm", "strength", _EN),
        ("shear_modulus", "Shear modulus", spring.shear_modulus, "MPa", "G (1 − r (T − 20 °C))", f"{wire.name}, {spring.asked.temperature:g} °C", wire.source),
        ("buckling", "Buckles at a deflection of", spring.buckling, "mm", "L₀ · 0.5/(1 − G/E) · (1 − √(1 − (1 − G/E)/(0.5 + G/E) · (πD/νL₀)²))", "L₀, D, seats, G, E", _EN),
        ("frequency", "First natural frequency", spring.frequency, "Hz", "½ √(R / m)", "rate, mass of the active wire", f"{_EN}, fixed ends"),
        ("outside_at_block", "Outside diameter at block", spring.outside_diameter(spring.deflection_to_block), "mm", "2 √(r² + (p² − p_F²)/4π²) + d", "radius, pitch", "the wire keeps its length"),
    ]  # fmt: skip
    return [Figure(*row) for row in rows]


def spring_view(part: Part) -> dict[str, Any] | None:
    """Figures, working points, and the diagrams of force and stress over length; None for what is no
    spring."""
    spring = part.spring
    if spring is None:
        return None
    springs: tuple[AnySpring, ...] = spring.members if isinstance(spring, Nested) else (spring,)
    lives = [life for one in springs if (life := life_of(one)) is not None]
    life = max(lives, key=lambda one: one.utilisation, default=None)
    left = 1 - spring.asked.relaxation / 100 if isinstance(spring.asked, CompressionSpring) else 1.0
    return {
        "kind": spring.asked.kind,
        "wire": {"name": spring.wire.name, "title": spring.wire.title, "source": spring.wire.source},
        "units": list(spring.units),
        **_worked(spring, left),
        **_rules(spring),
        "measured": _measured(spring),
        "as_drawn": None if spring.drawn is None else _worked(spring.drawn, left),
        "figures": [vars(figure) for figure in spring_figures(spring)],
        "marks": _marks(spring),
        "limits": [vars(limit) for limit in limits_of(spring, part.recipe.fit)],
        "life": None if life is None else {**vars(life), "utilisation": life.utilisation},
    }


def _measured(spring: AnySpring) -> dict[str, Any] | None:
    made = measured_of(spring) if isinstance(spring, Axial) else None
    return None if made is None else asdict(made)


def _rules(spring: AnySpring) -> dict[str, Any]:
    """By which rules the figures of a spring that pushes are, and why by others than it was asked for."""
    if not isinstance(spring, Compression | Nested):
        return {"rules": None, "rules_words": "", "rules_why": ""}
    rules = spring.rules
    return {"rules": rules, "rules_words": RULES[rules], "rules_why": why_other(spring.asked.rules, rules)}


def _worked(spring: AnySpring, left: float) -> dict[str, Any]:
    """What a spring does by one model: its rate, where it works, `left` of each effort after relaxation, and its
    diagram. Of springs side by side each figure is that of the one that binds."""
    way, effort = spring.curve()
    first, last = spring.span
    sign = 1.0 if last > first else -1.0
    springs: tuple[AnySpring, ...] = spring.members if isinstance(spring, Nested) else (spring,)
    pushing = [one for one in springs if isinstance(one, Compression)]
    free = max((one.free_length for one in pushing), default=0.0)
    buckles = [free - one.free_length + one.buckling for one in pushing if one.buckling is not None]
    return {
        "rate": spring.rate,
        "index": spring.index,
        "free_length": None if isinstance(spring, Turning) else spring.free_length,
        "first": first,
        "last": last,
        "solid_length": max((one.solid_length for one in pushing), default=None),
        "least_length": max((one.solid_length + one.least_gaps for one in pushing), default=None),
        "buckling": min(buckles, default=None),
        "frequency": min((one.frequency for one in pushing), default=None),
        "loads": [
            {**asdict(point), "place": point.place, "effort": point.effort, "corrected_stress": point.corrected, "left": point.effort * left}
            for point in spring.points
        ],
        "curve": [[first + sign * s, f] for s, f in zip(way.tolist(), effort.tolist(), strict=True)],
    }  # fmt: skip


def _marks(spring: AnySpring) -> list[dict[str, Any]]:
    """Forces, N, or torques, N mm, at which a stress is reached, and what that is."""
    if isinstance(spring, Extension):
        return [{"effort": spring.most_force, "words": "0.45 Rm", "verdict": "stop"}]
    if isinstance(spring, Turning):
        return [{"effort": spring.most_torque, "words": "0.7 Rm", "verdict": "stop"}]
    found = (
        (spring.force_at_stress(ALLOWED), "0.5 Rm", "watch"),
        (spring.force_at_stress(ALLOWED_SOLID), "0.56 Rm, sets", "stop"),
    )
    return [
        {"effort": force, "words": words, "verdict": verdict}
        for force, words, verdict in found
        if force is not None
    ]
