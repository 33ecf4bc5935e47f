"""Can it be wound, and of this wire?"""

from __future__ import annotations

import math

from metaspira.checks.check import Check, Verdict, Window
from metaspira.checks.springs.kinds import EVERY_KIND, spring_question
from metaspira.parts import Part
from metaspira.springs.standard import LEAST_TURNS


def check_index(part: Part, window: Window) -> Check:
    """The spring index against 4 to 20, of strip 4 or more, and at least two active turns (EN 13906-1, cold
    coiled)."""
    spring = part.spring
    assert spring is not None
    value, active = spring.index, spring.active
    low, high = spring.indices
    margin = min(value - low, high - value, active - LEAST_TURNS)
    verdict: Verdict = "clear" if margin >= 0 else "watch"
    limit = high if value > high else low
    well = f"{low:g} to {high:g}" if math.isfinite(high) else f"{low:g} or more"
    why = f"w = D / d = {value:.4g}; {well} can be wound well. {active:.4g} turns are active"
    if active < LEAST_TURNS:
        why += ", and at least two are wanted"
    return Check("spring-index", "Spring index", verdict, value, limit, "", why, margin)


def check_wire(part: Part, window: Window) -> Check:
    """The wire's diameter against those it is made in."""
    spring = part.spring
    assert spring is not None
    wire, d = spring.wire, spring.diameter
    margin = min(d - wire.least, wire.most - d)
    verdict: Verdict = "clear" if wire.has(d) else "watch"
    limit = wire.least if d < wire.least else wire.most
    why = (
        f"{wire.name} is made from {wire.least:g} to {wire.most:g} mm; its strength at {d:.4g} mm is "
        f"{spring.strength:.4g} MPa"
    )
    return Check("spring-wire", "Wire diameter", verdict, d, limit, "mm", why, margin)


QUESTIONS = (
    spring_question(
        "spring-index", check_index, EVERY_KIND, 36, "D / d", "", "outside 4 to 20, or under 2 active turns"
    ),
    spring_question(
        "spring-wire",
        check_wire,
        EVERY_KIND,
        37,
        "wire diameter, of strip its thickness, mm",
        "",
        "where that wire is not made",
    ),
)
