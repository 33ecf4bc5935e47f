"""Twist: how steeply the outermost fibre winds around the wire.

tan β = R |dφ/ds| for a fibre at distance R from the path. A twist alone never makes the shape run into
itself; past 60° (a rule of thumb, no source) the surface crowds and is hard to make.
"""

from __future__ import annotations

import math

import numpy as np

from metaspira.checks.check import Check, Verdict, Window, spans_below
from metaspira.checks.question import Question, of_wire
from metaspira.parts import Part

_STEEP = 60.0


def check_twist(part: Part, window: Window) -> Check:
    sweep = part.sweep
    twist = sweep.changes.twist
    share = np.linspace(0.0, 1.0, 513)
    rates = np.abs(twist(share)[1]) / sweep.length
    rate = float(rates.max())
    reach = sweep.reach()
    angle = math.degrees(math.atan(reach * rate))
    verdict: Verdict = "watch" if angle > _STEEP else "clear"
    if rate == 0:
        why = "The section is not twisted"
    else:
        lead = 2 * math.pi / rate
        even = "" if twist.pieces <= 1 else " where it is steepest"
        why = f"One full twist every {lead:.4g} mm{even}; the outermost fibre winds at {angle:.3g}°"
        if part.recipe.section.round_diameter is not None and sweep.is_tube:
            why += ", which a round section does not show"
            verdict = "clear"
    margin = _STEEP - angle if verdict == "watch" else 1.0
    steep = np.degrees(np.arctan(reach * rates))
    where = spans_below(share * sweep.length, -steep, -_STEEP) if verdict == "watch" else ()
    return Check("twist", "Twist", verdict, angle, _STEEP, "°", why, margin, where)


QUESTIONS = (
    Question(
        "twist",
        check_twist,
        of_wire,
        "wire",
        14,
        "angle at which the outermost fibre winds around the wire",
        "",
        "over 60° (rule of thumb, no source)",
        cures=("/along/twist",),
    ),
)
