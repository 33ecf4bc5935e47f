"""What is told of a spring: its figures, its working points, its diagrams."""

from __future__ import annotations

from dataclasses import asdict
from typing import Any

from metaspira.parts import Part
from metaspira.springs.any_spring import AnySpring
from metaspira.springs.asked import CompressionSpring
from metaspira.springs.compression import Compression
from metaspira.springs.extension import Extension
from metaspira.springs.fatigue import life_of
from metaspira.springs.figures import spring_figures
from metaspira.springs.limits import limits_of
from metaspira.springs.measured import measured_of
from metaspira.springs.nested import Nested
from metaspira.springs.standard import ALLOWED, ALLOWED_SOLID, RULES, why_other
from metaspira.springs.turning import Turning
from metaspira.springs.working import Axial


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
    """What a spring does by one model: its rate, where it works, `left` of each effort after relaxation, and
    its diagram. Of springs side by side each figure is that of the one that binds."""
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
            {
                **asdict(point),
                "place": point.place,
                "effort": point.effort,
                "corrected_stress": point.corrected,
                "left": point.effort * left,
            }
            for point in spring.points
        ],
        "curve": [[first + sign * s, f] for s, f in zip(way.tolist(), effort.tolist(), strict=True)],
    }


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
