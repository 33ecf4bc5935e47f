"""A torsion spring: is it wound the way that closes it, can its wire take it, and does it leave its rod free?"""

from __future__ import annotations

import math

from metaspira.checks.check import Check, Verdict, Window
from metaspira.checks.springs.kinds import turning
from metaspira.part import Part


def check_bending(part: Part, window: Window) -> Check:
    """The greatest plain bending stress at work against 0.7 Rm (EN 13906-3)."""
    spring = turning(part)
    value = max((point.stress for point in spring.points), default=0.0)
    verdict: Verdict = "stop" if value > spring.allowed else "clear"
    why = (
        f"{value:.4g} MPa of the {spring.allowed:.4g} MPa allowed, 0.7 of Rm {spring.strength:.4g} MPa"
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


def check_way(part: Part, window: Window) -> Check:
    """The least angle at work: unwound, the bends at the inside of the coil are pulled open (common practice, no
    source)."""
    spring = turning(part)
    value = min((point.angle for point in spring.points), default=0.0)
    verdict: Verdict = "clear" if value >= 0 else "watch"
    why = (
        "It is wound the way that closes it"
        if value >= 0
        else f"It is unwound by {-value:.4g}°, against its bends"
    )
    return Check("spring-travel", "Way it is wound", verdict, value, 0.0, "°", why, value)


def check_rod(part: Part, window: Window) -> Check:
    """The air to the rod where the spring is wound most, against the air asked for."""
    spring, fit = turning(part), part.recipe.fit
    angle = max((point.angle for point in spring.points), default=0.0)
    inside = spring.inside_diameter(angle)
    wanted = fit.gap or 0.0
    if fit.rod is None:
        why = f"Wound by {angle:.4g}° it closes to ⌀ {inside:.5g} mm inside; there is no rod"
        return Check("spring-rod", "Rod under load", "clear", None, wanted, "mm", why, math.inf)
    air = 0.5 * (inside - fit.rod)
    verdict: Verdict = "stop" if air < 0 else "watch" if air < wanted else "clear"
    why = f"Wound by {angle:.4g}° it closes to ⌀ {inside:.5g} mm, which leaves {air:.4g} mm around the rod"
    return Check("spring-rod", "Rod under load", verdict, air, wanted, "mm", why, air - wanted)
