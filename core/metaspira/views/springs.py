"""What is told of a spring: its figures, its working points, its diagrams."""

from __future__ import annotations

from dataclasses import asdict
from typing import Any

from metaspira.parts import Part
from metaspira.springs.any_spring import AnySpring
from metaspira.springs.fatigue import life_of
from metaspira.springs.figures import spring_figures
from metaspira.springs.limits import limits_of
from metaspira.springs.made import scatters
from metaspira.springs.measured import measured_of
from metaspira.springs.standard import RULES
from metaspira.springs.working import Axial


def spring_view(part: Part) -> dict[str, Any] | None:
    """Figures, working points, and the diagrams of force and stress over length; None for what is no
    spring."""
    spring = part.spring
    if spring is None:
        return None
    lives = [life for one in spring.members if (life := life_of(one)) is not None]
    life = max(lives, key=lambda one: one.utilisation, default=None)
    return {
        "kind": spring.asked.kind,
        "wire": {"name": spring.wire.name, "title": spring.wire.title, "source": spring.wire.source},
        "units": list(spring.units),
        **_worked(spring),
        **_rules(spring),
        "measured": _measured(spring),
        "scatters": scatters(spring),
        "as_drawn": None if spring.drawn is None else _worked(spring.drawn),
        "figures": [vars(figure) for figure in spring_figures(spring)],
        "marks": [vars(mark) for mark in spring.marks],
        "limits": [vars(limit) for limit in limits_of(spring, part.recipe.fit)],
        "life": None if life is None else {**vars(life), "utilisation": life.utilisation},
    }


def _measured(spring: AnySpring) -> dict[str, Any] | None:
    made = measured_of(spring) if isinstance(spring, Axial) else None
    return None if made is None else asdict(made)


def _rules(spring: AnySpring) -> dict[str, Any]:
    """By which rules the figures of a spring that pushes are, and why by others than it was asked for."""
    words = "" if spring.rules is None else RULES[spring.rules]
    return {"rules": spring.rules, "rules_words": words, "rules_why": spring.rules_why}


def _worked(spring: AnySpring) -> dict[str, Any]:
    """What a spring does by one model: its rate, where it works, what is left of each effort after
    relaxation, and its diagram."""
    way, effort = spring.curve()
    first, last = spring.span
    sign = 1.0 if last > first else -1.0
    return {
        "rate": spring.rate,
        "index": spring.index,
        "first": first,
        "last": last,
        **vars(spring.bounds),
        "loads": [
            {
                **asdict(point),
                "place": point.place,
                "effort": point.effort,
                "corrected_stress": point.corrected,
                "left": point.effort * spring.left,
            }
            for point in spring.points
        ],
        "curve": [[first + sign * s, f] for s, f in zip(way.tolist(), effort.tolist(), strict=True)],
    }
