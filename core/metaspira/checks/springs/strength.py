"""Can the wire take it: at its working points, at solid length, and for its life?"""

from __future__ import annotations

import math

from metaspira.checks.check import Check, Verdict, Window
from metaspira.checks.springs.kinds import EVERY_KIND, spring_as, spring_question
from metaspira.parts import Part
from metaspira.springs.compression import Compression
from metaspira.springs.extension import Extension
from metaspira.springs.fatigue import life_of
from metaspira.springs.turning import Turning
from metaspira.springs.working import WoundSpring


def check_stress(part: Part, window: Window) -> Check:
    """The greatest plain shear stress of the working points against 0.5 Rm; beyond 0.56 Rm it sets (EN
    13906-1)."""
    spring = spring_as(part, Compression)
    if not spring.points:
        return Check(
            "spring-stress",
            "Stress at work",
            "clear",
            None,
            spring.allowed,
            "MPa",
            "It has no working point",
            math.inf,
        )
    value = spring.worst_stress
    verdict: Verdict = (
        "stop" if value > spring.allowed_solid else "watch" if value > spring.allowed else "clear"
    )
    why = f"{value:.4g} MPa of the {spring.allowed:.4g} MPa allowed, half of Rm {spring.strength:.4g} MPa"
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


def check_body(part: Part, window: Window) -> Check:
    """The greatest plain shear stress in the body of an extension spring against 0.45 Rm (EN 13906-2)."""
    return _at_work(spring_as(part, Extension), "Stress in the body")


def check_bending(part: Part, window: Window) -> Check:
    """The greatest plain bending stress of a spring that turns at work against 0.7 Rm (EN 13906-3)."""
    assert isinstance(part.spring, Turning)
    return _at_work(part.spring, "Stress at work")


def _at_work(spring: WoundSpring, title: str) -> Check:
    value, limit = spring.worst_stress, spring.allowed
    verdict: Verdict = "stop" if value > limit else "clear"
    share = limit / spring.strength
    why = f"{value:.4g} MPa of the {limit:.4g} MPa allowed, {share:.3g} of Rm {spring.strength:.4g} MPa"
    return Check("spring-stress", title, verdict, value, limit, "MPa", why, limit - value)


def check_block(part: Part, window: Window) -> Check:
    """The stress at solid length against 0.56 Rm (EN 13906-1): above it the wire sets as it closes."""
    spring = spring_as(part, Compression)
    value, limit = spring.block.stress, spring.allowed_solid
    verdict: Verdict = "watch" if value > limit else "clear"
    held = "it must not be closed solid" if verdict == "watch" else "it may be closed solid"
    if spring.set_at_block:
        held += f", or it sets by about {spring.set_at_block:.3g} mm when it first is"
    force = f"At solid length, {spring.block_force:.4g} N"
    why = f"{force}: {value:.4g} MPa, and 0.56 Rm is {limit:.4g} MPa; {held}"
    return Check("spring-block", "Stress at solid length", verdict, value, limit, "MPa", why, limit - value)


def check_fatigue(part: Part, window: Window) -> Check:
    """The share of Goodman's line that the corrected stresses use, where they use the most of it."""
    spring: WoundSpring | None = part.spring
    assert spring is not None
    if spring.asked.cycles is None or len(spring.points) < 2:
        return Check(
            "spring-fatigue",
            "Life",
            "clear",
            None,
            1.0,
            "",
            "No life is asked for, or it has fewer than two working points",
            math.inf,
        )
    life = life_of(spring)
    if life is None:
        why = f"No endurance is kept here for {spring.asked.cycles:g} cycles of this kind of spring"
        return Check("spring-fatigue", "Life", "watch", None, 1.0, "", why, -1.0)
    value = life.utilisation
    verdict: Verdict = "stop" if value > 1 else "clear"
    why = (
        f"{life.amplitude:.4g} MPa about a mean of {life.mean:.4g} MPa in {life.where} for "
        f"{life.cycles:g} cycles uses "
        f"{100 * value:.3g} % of the line from {life.endurance:.4g} to {life.breaking:.4g} MPa"
    )
    return Check("spring-fatigue", "Life", verdict, value, 1.0, "", why, 1.0 - value)


QUESTIONS = (
    spring_question(
        "spring-stress",
        check_stress,
        ("compression",),
        31,
        "plain stress at work, MPa",
        "over 0.56 Rm",
        "over 0.5 Rm",
    ),
    spring_question(
        "spring-stress", check_body, ("extension",), 31, "plain stress at work, MPa", "over 0.45 Rm"
    ),
    spring_question(
        "spring-stress", check_bending, ("torsion", "spiral"), 31, "bending at work, MPa", "over 0.7 Rm"
    ),
    spring_question(
        "spring-block",
        check_block,
        ("compression",),
        32,
        "stress at solid length, MPa",
        "",
        "over 0.56 Rm: keep it from closing",
    ),
    spring_question(
        "spring-fatigue", check_fatigue, EVERY_KIND, 33, "share of Goodman's line used", "over 1"
    ),
)
