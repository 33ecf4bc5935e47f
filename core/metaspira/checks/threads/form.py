"""The form itself: is its crest wide enough to be made, and can its flanks be printed?"""

from __future__ import annotations

import math

import numpy as np

from metaspira.checks.check import Check, Verdict, Window
from metaspira.checks.question import Question, of_thread
from metaspira.parts.threaded import ThreadedPart
from metaspira.threads.profile import Chain, Profile
from metaspira.threads.thread import Side

_SHARP, _THIN = 1 / 50, 1 / 20
_PRINTED = ("polyamide", "polylactide")
_OVERHANG = 45.0


def check_crest(part: ThreadedPart, window: Window) -> Check:
    """The crest's width, its round counted: of a standard's form against half of its basic width, of one's
    own against 1/20 of the pitch, below which it is hard to make; under 1/50 it is a knife edge (common
    practice, no source)."""
    pitch = part.thread.pitch
    width = _crest(part.profile, part.side)
    if part.thread.family == "own":
        limit, sharp = _THIN * pitch, _SHARP * pitch
    else:
        basic = _crest(part.recipe.thread.profile(part.thread, part.side, "basic", 0.0), part.side)
        limit, sharp = 0.5 * basic, 0.2 * basic
    verdict: Verdict = "stop" if width < sharp else "watch" if width < limit else "clear"
    why = f"The crest is {width:.4g} mm wide, {width / pitch:.3f} of the pitch"
    return Check(
        "crest",
        "Width of the crest",
        verdict,
        width,
        limit,
        "mm",
        why,
        width - limit,
        () if verdict == "clear" else (part.full,),
    )


def _crest(profile: Profile, side: Side) -> float:
    """Width of the crest with its rounds, mm."""
    flat = profile.outer_flat if side == "external" else profile.inner_flat
    last = side == "external"
    rounds = (profile.rising.edges[-1 if last else 0], profile.falling.edges[0 if last else -1])
    return flat + sum(abs(float(e.points[-1, 0] - e.points[0, 0])) for e in rounds if not e.is_line)


def check_print(part: ThreadedPart, window: Window) -> Check:
    """Where it is printed with its axis upright, the flank that looks down, against 45° from square to the
    axis (common practice, no source)."""
    chain = part.profile.rising if part.side == "external" else part.profile.falling
    angle = least_slope(chain)
    if part.recipe.material not in _PRINTED:
        return Check(
            "print",
            "Flanks in print",
            "clear",
            angle,
            None,
            "°",
            "Its material is not printed",
            math.inf,
        )
    verdict: Verdict = "clear" if angle >= _OVERHANG - 1e-9 else "watch"
    held = "holds itself" if verdict == "clear" else "hangs over"
    why = f"Printed upright, the lower flank stands {angle:.4g}° from level and {held}"
    return Check(
        "print",
        "Flanks in print",
        verdict,
        angle,
        _OVERHANG,
        "°",
        why,
        angle - _OVERHANG,
        () if verdict == "clear" else (part.full,),
    )


def least_slope(chain: Chain) -> float:
    """The least angle, degrees, of a chain's straight edges from square to the axis; of a chain of arcs that
    of their common tangent."""
    lines = [e.points for e in chain.edges if e.is_line] or [chain.edges[0].points[1:]]
    return min(
        math.degrees(float(np.arctan2(abs(p[-1, 0] - p[0, 0]), abs(p[-1, 1] - p[0, 1])))) for p in lines
    )


QUESTIONS = (
    Question(
        "crest",
        check_crest,
        of_thread,
        "thread",
        14,
        "width of the crest, mm",
        "under 1/5 of the standard's, own forms 1/50 of the pitch",
        "under 1/2, or 1/20",
        cures=("/thread/form/crest", "/thread/form/height", "/thread/allowance", "/thread/pitch"),
    ),
    Question(
        "print",
        check_print,
        of_thread,
        "thread",
        17,
        "angle of the lower flank of a printed material, from level",
        "",
        "under 45° (common practice)",
        cures=("/thread/form/leading", "/thread/form/trailing"),
    ),
)
