"""An extension spring: does it pull where it works, can its body and hooks take it, and can it be wound so
tight?"""

from __future__ import annotations

import math

from metaspira.checks.check import Check, Verdict, Window
from metaspira.checks.springs.kinds import spring_as, spring_question
from metaspira.parts import Part
from metaspira.springs.extension import Extension

_TIGHT = 0.02


def check_pull(part: Part, window: Window) -> Check:
    """The shortest working point against the free length, below which nothing pulls."""
    spring = spring_as(part, Extension)
    if not spring.points:
        return Check(
            "spring-travel",
            "Length at work",
            "clear",
            None,
            spring.free_length,
            "mm",
            "It has no working point",
            math.inf,
        )
    value = min(point.length for point in spring.points)
    weak = min(point.force for point in spring.points)
    margin = value - spring.free_length
    verdict: Verdict = "stop" if margin < -1e-9 else "watch" if weak < spring.initial - 1e-9 else "clear"
    why = f"It pulls from {spring.free_length:.5g} mm on, inside its hooks, with {spring.initial:.4g} N"
    if verdict == "stop":
        why = f"{value:.5g} mm is shorter than the free spring, {spring.free_length:.5g} mm, which only pulls"
    elif verdict == "watch":
        why = f"{weak:.4g} N does not open it; its initial tension is {spring.initial:.4g} N"
    return Check(
        "spring-travel",
        "Length at work",
        verdict,
        value,
        spring.free_length,
        "mm",
        why,
        margin if verdict == "stop" else weak - spring.initial,
    )


def check_hooks(part: Part, window: Window) -> Check:
    """Bending and torsion in the hooks against 0.75 and 0.40 Rm (Shigley, table 10-7, from memory)."""
    spring = spring_as(part, Extension)
    force = spring.worst_effort
    stresses = spring.hook_stresses(force)
    bent_most, twisted_most = spring.allowed_hook
    if stresses is None:
        why = "It has no hooks: add legs to its path to hold it by"
        return Check("spring-hooks", "Stress in the hooks", "watch", None, bent_most, "MPa", why, -1.0)
    bent, twisted = stresses
    use = max(bent / bent_most, twisted / twisted_most)
    verdict: Verdict = "stop" if use > 1 else "clear"
    why = (
        f"Bending {bent:.4g} of {bent_most:.4g} MPa in the loop, torsion {twisted:.4g} of "
        f"{twisted_most:.4g} MPa where "
        "it leaves the body"
    )
    return Check("spring-hooks", "Stress in the hooks", verdict, bent, bent_most, "MPa", why, 1 - use)


def check_initial(part: Part, window: Window) -> Check:
    """The initial tension against what can be wound; it needs turns that touch (common practice, no
    source)."""
    spring = spring_as(part, Extension)
    value, limit = spring.initial, spring.most_initial
    open_by = float(spring.turns.room.max())
    verdict: Verdict = "clear"
    why = f"{value:.4g} N of the {limit:.4g} N that can be wound at this index"
    if value > limit:
        verdict = "stop"
    elif value > 0 and open_by > _TIGHT * spring.diameter:
        verdict = "watch"
        why = (
            f"Its turns are {open_by:.3g} mm apart when free, and only turns that touch hold an initial "
            "tension"
        )
    margin = limit - value if verdict != "watch" else _TIGHT * spring.diameter - open_by
    return Check("spring-initial", "Initial tension", verdict, value, limit, "N", why, margin)


QUESTIONS = (
    spring_question(
        "spring-travel",
        check_pull,
        ("extension",),
        30,
        "its shortest length, mm",
        "shorter than free",
        "where its initial tension holds it shut",
    ),
    spring_question(
        "spring-hooks",
        check_hooks,
        ("extension",),
        34,
        "bending in the hooks, MPa",
        "over 0.75 Rm, or torsion over 0.4 Rm",
        "where it has none",
    ),
    spring_question(
        "spring-initial",
        check_initial,
        ("extension",),
        35,
        "initial tension, N",
        "over what can be wound",
        "where its turns do not touch",
    ),
)
