"""Stance: is the direction that the stance goes by defined everywhere?

The figure is the sine of the angle between the wire and that direction: at 0 the wire runs along it (a
path along the axis, a second curve dead ahead), and nothing tells how the section stands.
"""

from __future__ import annotations

import math

import numpy as np

from metaspira.checks.check import Check, Verdict, Window, spans_below
from metaspira.checks.question import Question, of_wire
from metaspira.parts import Part

_LOST = 0.01
_LOOSE = 0.1


def check_stance(part: Part, window: Window) -> Check:
    sweep = part.sweep
    s = sweep.stations(24, least=33)
    firm = sweep.stand.firm(s)
    least = float(firm.min())
    verdict: Verdict = "stop" if least < _LOST else "watch" if least < _LOOSE else "clear"
    limit = _LOOSE if verdict == "watch" else _LOST
    at = int(np.argmin(firm))
    angle = math.degrees(math.asin(min(1.0, least)))
    if verdict == "clear":
        why = "The way that the section faces is defined everywhere"
    else:
        why = (
            f"At {s[at]:.4g} mm the wire runs within {angle:.3g}° of the direction that the stance goes by, "
            f"so the section {'has no way to face' if verdict == 'stop' else 'swings round'} there"
        )
    x, y, z = (float(c) for c in sweep.path.derivatives(s[at : at + 1], 0)[0][0])
    return Check(
        id="stance",
        title="Stance",
        verdict=verdict,
        value=least,
        limit=limit,
        unit="",
        why=why,
        margin=least - _LOOSE,
        where=spans_below(s, firm, limit),
        points=((x, y, z),) if verdict != "clear" else (),
    )


QUESTIONS = (
    Question(
        "stance",
        check_stance,
        of_wire,
        "wire",
        16,
        "sine of the angle between the wire and the direction that the stance goes by",
        "below 0.01",
        "below 0.1",
        stances=True,
    ),
)
