"""Springs that turn: wound the way that closes them, do they leave their rod free, or wind solid?"""

from __future__ import annotations

import math

from metaspira.checks.check import Check, Verdict, Window
from metaspira.checks.springs.kinds import spring_as, spring_question
from metaspira.parts import Part
from metaspira.springs.spiral import Spiral
from metaspira.springs.torsion import Torsion


def check_way(part: Part, window: Window) -> Check:
    """The least angle at work: unwound, the bends at the inside of the coil are pulled open (common practice,
    no source)."""
    spring = spring_as(part, Torsion)
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
    spring, fit = spring_as(part, Torsion), part.recipe.fit
    angle = spring.worst_way
    inside = spring.inside_diameter(angle)
    wanted = fit.gap or 0.0
    if fit.rod is None:
        why = f"Wound by {angle:.4g}° it closes to ⌀ {inside:.5g} mm inside; there is no rod"
        return Check("spring-rod", "Rod under load", "clear", None, wanted, "mm", why, math.inf)
    air = 0.5 * (inside - fit.rod)
    verdict: Verdict = "stop" if air < 0 else "watch" if air < wanted else "clear"
    why = f"Wound by {angle:.4g}° it closes to ⌀ {inside:.5g} mm, which leaves {air:.4g} mm around the rod"
    return Check("spring-rod", "Rod under load", verdict, air, wanted, "mm", why, air - wanted)


def check_arbor(part: Part, window: Window) -> Check:
    """The largest angle at work against the one at which the strip is wound solid; unwound, it bends against
    its set."""
    spring = spring_as(part, Spiral)
    value, least = spring.worst_way, min((point.angle for point in spring.points), default=0.0)
    solid = spring.solid_angle
    verdict: Verdict = "stop" if value > solid else "watch" if least < 0 else "clear"
    why = (
        f"It is wound by {value:.4g}° of the {solid:.4g}° at which it is solid on its ⌀ "
        f"{spring.arbor:.4g} mm arbor"
    )
    if verdict == "watch":
        why = f"It is unwound by {-least:.4g}°, against its set"
    margin = solid - value if verdict != "watch" else least
    return Check("spring-travel", "Way it is wound", verdict, value, solid, "°", why, margin)


QUESTIONS = (
    spring_question("spring-travel", check_way, ("torsion",), 30, "its least angle, degrees", "", "unwound"),
    spring_question(
        "spring-travel",
        check_arbor,
        ("spiral",),
        30,
        "its largest angle, degrees",
        "wound beyond solid",
        "unwound",
    ),
    spring_question(
        "spring-rod",
        check_rod,
        ("torsion",),
        34,
        "air to the rod where it is wound most, mm",
        "below 0",
        "below `fit.gap`",
    ),
)
