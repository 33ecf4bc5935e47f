"""Can the wire take it: at its working points, at block, and for its life?"""

from __future__ import annotations

import math

from metaspira.checks.check import Check, Verdict, Window
from metaspira.checks.springs.kinds import pushing
from metaspira.part import Part
from metaspira.springs.fatigue import life_of


def check_stress(part: Part, window: Window) -> Check:
    """The greatest plain shear stress of the working points against 0.5 Rm; beyond 0.56 Rm it sets (EN 13906-1)."""
    spring = pushing(part)
    if not spring.points:
        return Check(
            "spring-stress", "Stress at work", "clear", None, spring.allowed, "MPa", "It has no working point", math.inf
        )  # fmt: skip
    value = max(point.stress for point in spring.points)
    verdict: Verdict = (
        "stop" if value > spring.allowed_solid else "watch" if value > spring.allowed else "clear"
    )
    why = (
        f"{value:.4g} MPa of the {spring.allowed:.4g} MPa allowed, half of Rm {spring.strength:.4g} MPa"
    )
    return Check(
        "spring-stress",
        "Stress at work",
        verdict,
        value,
        spring.allowed,
        "MPa",
        why,
        spring.allowed - value,
    )


def check_block(part: Part, window: Window) -> Check:
    """The stress at block against 0.56 Rm (EN 13906-1): above it the spring must be kept from closing."""
    spring = pushing(part)
    value, limit = spring.block.stress, spring.allowed_solid
    verdict: Verdict = "watch" if value > limit else "clear"
    held = "it must not be closed to block" if verdict == "watch" else "it may be closed to block"
    why = (
        f"At block, {spring.block_force:.4g} N: {value:.4g} MPa, and 0.56 Rm is {limit:.4g} MPa; {held}"
    )
    return Check("spring-block", "Stress at block", verdict, value, limit, "MPa", why, limit - value)


def check_fatigue(part: Part, window: Window) -> Check:
    """The share of Goodman's line that the corrected stresses use."""
    life = life_of(pushing(part))
    if life is None:
        return Check(
            "spring-fatigue", "Life", "clear", None, 1.0, "",
            "No life is asked for, or it has fewer than two working points", math.inf,
        )  # fmt: skip
    value = life.utilisation
    verdict: Verdict = "stop" if value > 1 else "clear"
    why = (
        f"{life.amplitude:.4g} MPa about a mean of {life.mean:.4g} MPa for {life.cycles:g} cycles uses "
        f"{100 * value:.3g} % of the line from {life.endurance:.4g} to {life.breaking:.4g} MPa"
    )
    return Check("spring-fatigue", "Life", verdict, value, 1.0, "", why, 1.0 - value)
