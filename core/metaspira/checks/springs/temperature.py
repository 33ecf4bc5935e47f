"""Does its wire stand the temperature that it works at?"""

from __future__ import annotations

import math
from collections.abc import Iterator
from dataclasses import replace

from metaspira.checks.check import Check, Window
from metaspira.checks.springs.kinds import EVERY_KIND, spring_question
from metaspira.parts import AnyPart, Part
from metaspira.recipe.fields import Parts
from metaspira.springs.wire import wires

_ID, _TITLE = "spring-temperature", "Service temperature"


def check_temperature(part: Part, window: Window) -> Check:
    """The temperature against the greatest at which springs of such wire usually serve (spring makers'
    handbooks, not checked against a printed page): above it they lose force by relaxation, and their
    strength is not that of the tables."""
    spring = part.spring
    assert spring is not None
    value, most = spring.asked.temperature, spring.wire.hottest
    left = spring.asked.strength_left
    strength = "its strength that at 20 °C" if left == 100 else f"{left:.4g} % of its strength is left"
    known = f"moduli are those at {value:.4g} °C, {strength}"
    if most is None:
        why = f"No greatest temperature is known of this wire; {known}"
        return Check(_ID, _TITLE, "clear", value, None, "°C", why, math.inf)
    why = f"Springs of this wire serve up to about {most:.4g} °C; {known}"
    if value <= most:
        return Check(_ID, _TITLE, "clear", value, most, "°C", why, most - value)
    why = (
        f"At {value:.4g} °C it loses force by relaxation, and strength: springs of this wire serve up to "
        f"about {most:.4g} °C"
    )
    return Check(_ID, _TITLE, "watch", value, most, "°C", why, most - value)


def _other_wires(part: AnyPart) -> Iterator[tuple[Parts, str, str]]:
    """The wire that stands it and is nearest in strength."""
    spring = part.spring
    if spring is None:
        return
    d, form = spring.diameter, spring.wire.form
    stand = [
        wire
        for wire in wires().values()
        if wire.form == form and wire.has(d) and (wire.hottest or 0.0) >= spring.asked.temperature
    ]
    for wire in sorted(stand, key=lambda one: abs(one.strength(d) - spring.strength))[:1]:
        yield ("spring", "wire"), wire.name, f"wire {wire.name}"


QUESTIONS = (
    replace(
        spring_question(
            _ID,
            check_temperature,
            EVERY_KIND,
            41,
            "the temperature that it works at, °C",
            "",
            "above what springs of its wire usually serve at (handbooks)",
            cures=("/spring/temperature",),
        ),
        choices=_other_wires,
    ),
)
