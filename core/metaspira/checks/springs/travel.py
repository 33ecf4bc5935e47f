"""Has it room to move: before solid length, before it buckles, and in its bore?"""

from __future__ import annotations

import math

from metaspira.checks.check import Check, Verdict, Window
from metaspira.checks.springs.kinds import spring_as, spring_question
from metaspira.parts import Part
from metaspira.springs.compression import Compression


def check_travel(part: Part, window: Window) -> Check:
    """What is left to solid length at the shortest working point, beside the least gaps (EN 13906-1)."""
    spring = spring_as(part, Compression)
    limit = spring.least_gaps
    if spring.deflection_to_block <= 0:
        why = f"Free, at {spring.free_length:.5g} mm, it is solid already by {spring.rules_named}"
        return Check("spring-travel", "Travel left to solid length", "stop", 0.0, limit, "mm", why, -limit)
    over = [point.force for point in spring.asked.points if point.force and point.force > spring.block_force]
    least = spring.free_length if not spring.points else min(point.length for point in spring.points)
    left = least - spring.solid_length
    if over:
        value = spring.deflection_to_block - max(over) / max(spring.rate, 1e-9)
        why = f"{max(over):.4g} N is beyond the {spring.block_force:.4g} N at which every turn is closed"
        return Check(
            "spring-travel",
            "Travel left to solid length",
            "stop",
            min(value, 0.0),
            limit,
            "mm",
            why,
            min(value, -1e-9) - limit,
        )
    verdict: Verdict = "stop" if left < 0 else "watch" if left < limit else "clear"
    why = f"{left:.4g} mm are left between all turns at {least:.5g} mm; {limit:.4g} mm are wanted"
    if left < 0:
        why = f"{least:.5g} mm is shorter than the spring closed solid, {spring.solid_length:.5g} mm"
    if spring.points and max(point.length for point in spring.points) > spring.free_length + 1e-9:
        longest = max(point.length for point in spring.points)
        why = (
            f"{longest:.5g} mm is longer than the free spring, {spring.free_length:.5g} mm, which only pushes"
        )
        return Check(
            "spring-travel",
            "Travel left to solid length",
            "stop",
            left,
            limit,
            "mm",
            why,
            spring.free_length - longest,
        )
    return Check(
        "spring-travel", "Travel left to solid length", verdict, left, limit, "mm", why, left - limit
    )


def check_buckling(part: Part, window: Window) -> Check:
    """The greatest deflection at work against the one at which it buckles (EN 13906-1). A rod inside or a
    bore around it guides it where it is near enough."""
    spring = spring_as(part, Compression)
    buckles = spring.buckling
    value = spring.worst_way
    if buckles is None:
        return Check(
            "spring-buckling",
            "Buckling",
            "clear",
            value,
            None,
            "mm",
            "It does not buckle before solid length",
            math.inf,
        )
    led = spring.guided_by(part.recipe.fit.bore, part.recipe.fit.rod)
    verdict: Verdict = "clear" if value < buckles else "watch" if led else "stop"
    why = f"With these seats it buckles at {buckles:.4g} mm of deflection"
    if verdict == "watch":
        why += "; its rod or bore guides it, and it rubs"
    return Check("spring-buckling", "Buckling", verdict, value, buckles, "mm", why, buckles - value)


def check_bore(part: Part, window: Window) -> Check:
    """The air to the bore at the shortest working point, where the spring is widest."""
    spring, fit = spring_as(part, Compression), part.recipe.fit
    wanted = fit.gap or 0.0
    deflection = spring.worst_way
    outside = spring.outside_diameter(min(max(deflection, 0.0), spring.deflection_to_block))
    if fit.bore is None:
        why = f"Under load it grows to ⌀ {outside:.5g} mm; there is no bore"
        return Check("spring-bore", "Bore under load", "clear", None, wanted, "mm", why, math.inf)
    air = 0.5 * (fit.bore - outside)
    verdict: Verdict = "stop" if air < 0 else "watch" if air < wanted else "clear"
    why = f"Under load it grows to ⌀ {outside:.5g} mm, which leaves {air:.4g} mm around it"
    return Check("spring-bore", "Bore under load", verdict, air, wanted, "mm", why, air - wanted)


QUESTIONS = (
    spring_question(
        "spring-travel",
        check_travel,
        ("compression",),
        30,
        "what is left to solid length, mm",
        "beyond solid length, or shorter than free",
        "under the least sum of gaps (EN 13906-1)",
    ),
    spring_question(
        "spring-buckling",
        check_buckling,
        ("compression",),
        34,
        "deflection at work, mm",
        "where it buckles",
        "where rod or bore guides it",
    ),
    spring_question(
        "spring-bore",
        check_bore,
        ("compression",),
        35,
        "air to the bore where it is widest, mm",
        "below 0",
        "below `fit.gap`",
    ),
)
