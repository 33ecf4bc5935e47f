"""Does the spring as it is drawn do what the standard says of it?"""

from __future__ import annotations

import math

from metaspira.checks.check import Check, Window
from metaspira.checks.springs.kinds import spring_as, spring_question
from metaspira.parts import Part
from metaspira.springs.compression import Compression
from metaspira.springs.tolerance import tolerances_of

_ID, _TITLE = "spring-drawn", "Standard and as drawn"


def check_drawn(part: Part, window: Window) -> Check:
    """How far the force of the drawn turns is from the standard's, as a share of the tolerance of the force
    (EN 15800), at the least and at the greatest deflection at work."""
    spring = spring_as(part, Compression)
    tolerances = tolerances_of(spring)
    if spring.rules != "EN 13906" or tolerances is None or not spring.points or not spring.pressed:
        why = "It has no working point"
        if spring.points and spring.rules == "EN 13906" and not spring.pressed:
            why = "It has so many turns that its ends count for nothing"
        elif spring.rules == "as drawn":
            why = "All its figures are as it is drawn"
        elif spring.rules == "handbook" or tolerances is None:
            why = "EN 15800 gives no tolerance to hold the difference against"
        return Check(_ID, _TITLE, "clear", None, 1.0, "", why, math.inf)
    each = sorted(zip(spring.points, tolerances.forces, strict=True), key=lambda pair: pair[0].deflection)
    told = []
    for point, allowed in {id(pair): pair for pair in (each[0], each[-1])}.values():
        if 0 <= point.deflection <= spring.deflection_to_block:
            told.append((spring.as_drawn.exact_force(point.deflection) - point.force, point, allowed))
    if not told:
        return Check(_ID, _TITLE, "clear", None, 1.0, "", "No working point is within its travel", math.inf)
    off, point, allowed = max(told, key=lambda one: abs(one[0]) / one[2])
    share = abs(off) / allowed
    side = "more" if off > 0 else "less"
    why = (
        f"At {point.length:.5g} mm the drawn turns take {point.force + off:.4g} N, {abs(off):.3g} N {side} "
        f"than the {point.force:.4g} N of {spring.rules_named}; grade {spring.asked.grade} allows "
        f"± {allowed:.3g} N. "
    )
    why += (
        "Turns close from the ends on, so that fewer are left"
        if off > 0
        else "The ends still give before their turns have closed"
    )
    return Check(_ID, _TITLE, "clear" if share <= 1 else "watch", share, 1.0, "", why, 1.0 - share)


QUESTIONS = (
    spring_question(
        "spring-drawn",
        check_drawn,
        ("compression",),
        40,
        "difference of drawn and standard force, as a share of its tolerance",
        "",
        "over 1 (EN 15800)",
        cures=(),
    ),
)
