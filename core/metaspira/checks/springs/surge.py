"""Does the speed that it works at wake the spring's own vibration?"""

from __future__ import annotations

import math

from metaspira.checks.check import Check, Verdict, Window
from metaspira.checks.springs.kinds import spring_as, spring_question
from metaspira.parts import Part
from metaspira.springs.compression import Compression

_ID, _TITLE = "spring-surge", "Surge"
_TIMES = 15.0


def check_surge(part: Part, window: Window) -> Check:
    """The first natural frequency over that of the strokes, of which it is to be 15 times or more (Shigley,
    Mechanical Engineering Design, section 10-8; not checked against the printed book): the stroke's lower
    harmonics are the strong ones."""
    spring = spring_as(part, Compression)
    speed, own = spring.asked.speed, spring.frequency
    if speed is None:
        return Check(_ID, _TITLE, "clear", None, _TIMES, "", "No working speed is told", math.inf)
    stroke = speed / 60
    value = own / stroke
    nearest = max(round(value), 1)
    off = 100 * (nearest * stroke / own - 1)
    verdict: Verdict = "clear" if value >= _TIMES else "watch"
    why = (
        f"Its first natural frequency, {own:.4g} Hz, is {value:.4g} times the {stroke:.4g} Hz of its "
        f"strokes; the nearest harmonic of a stroke is the {nearest}., {off:+.2g} % off"
    )
    if verdict == "watch":
        why += f", and {_TIMES:g} times is wanted"
    return Check(_ID, _TITLE, verdict, value, _TIMES, "", why, value - _TIMES)


QUESTIONS = (
    spring_question(
        _ID,
        check_surge,
        ("compression",),
        40,
        "first natural frequency over that of its strokes",
        "",
        "under 15 times, where a working speed is told",
        cures=("/spring/speed", "/section/diameter", "/path/diameter", "/path/turns", "/path/pitch"),
    ),
)
