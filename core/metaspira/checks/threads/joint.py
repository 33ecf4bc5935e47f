"""Does a joint bear its load: its bolt, its threads, its tightening, and the pressure of a moving nut?"""

from __future__ import annotations

import math
from collections.abc import Callable
from dataclasses import replace

from metaspira.checks.check import Check, Verdict, Window, capital
from metaspira.checks.question import Ask, Question
from metaspira.parts import AnyPart
from metaspira.parts.threaded import ThreadedPart
from metaspira.threads.joint.joint import Joint

_CURES = (
    "/joint/load",
    "/joint/preload",
    "/joint/torque",
    "/mate/length",
    "/joint/engagement",
    "/thread/length",
)


def _of_joint(check: Callable[[Joint], Check]) -> Ask:
    def asked(part: ThreadedPart, window: Window) -> Check:
        assert part.joint is not None
        made = check(part.joint)
        return made if made.verdict == "clear" else replace(made, where=(part.engaged,))

    return asked


def check_bolt(joint: Joint) -> Check:
    """Load or preload, whichever is larger, against the proof load (ISO 898-1); beyond the breaking load it
    stops."""
    title, load, limit = "Load on the bolt", joint.load, joint.proof_load
    if load is None:
        why = f"No load is told; it bears {limit:.5g} N, and breaks at {joint.breaking_load:.5g} N"
        return Check("joint-load", title, "clear", None, limit, "N", why, math.inf)
    verdict: Verdict = "stop" if load > joint.breaking_load else "watch" if load > limit else "clear"
    why = (
        f"{load:.5g} N of a proof load of {limit:.5g} N; {joint.external.title} breaks at "
        f"{joint.breaking_load:.5g} N"
    )
    return Check("joint-load", title, verdict, load, limit, "N", why, limit - load)


def check_stripping(joint: Joint) -> Check:
    """The engagement against that which holds the load (FED-STD-H28/2, VDI 2230); where it holds less than
    the bolt, so that its threads strip before the bolt breaks, it is a watch."""
    title, needed = "Stripping", joint.longest_needed(joint.breaking_load)
    load, side = joint.load, joint.strips_first
    strips = f"the {side} threads strip first, at {joint.strips_at:.5g} N"
    if load is not None and load > joint.strips_at:
        held = joint.longest_needed(load)
        why = f"Under {load:.5g} N {strips}; {held:.4g} mm of engagement would hold it"
        return Check("joint-stripping", title, "stop", joint.length, held, "mm", why, joint.length - held)
    margin = joint.length - needed
    if joint.breaks_first:
        why = f"The bolt breaks before its threads strip, from {needed:.4g} mm of engagement on"
        return Check("joint-stripping", title, "clear", joint.length, needed, "mm", why, margin)
    why = (
        f"{capital(strips)}, before the bolt breaks; it would break first from {needed:.4g} mm "
        "of engagement on"
    )
    return Check("joint-stripping", title, "watch", joint.length, needed, "mm", why, margin)


def check_tightening(joint: Joint) -> Check:
    """Pull and twist while it is tightened, against nine tenths of the yield strength (VDI 2230)."""
    title, stress, limit = "Tightening", joint.tightening_stress, joint.tightening_limit
    if stress is None:
        why = f"No torque is told; {joint.usual_preload:.5g} N of preload use 90 % of the yield strength"
        return Check("joint-tightening", title, "clear", None, limit, "MPa", why, math.inf)
    verdict: Verdict = "stop" if stress > joint.external.strength else "watch" if stress > limit else "clear"
    why = (
        f"{joint.preload:.5g} N of preload at {joint.torque:.5g} N mm; {limit:.4g} MPa is 90 % of the yield "
        "strength"
    )
    return Check("joint-tightening", title, verdict, stress, limit, "MPa", why, limit - stress)


def check_pressure(joint: Joint) -> Check:
    """The pressure on the flanks of a nut that moves, against what it may bear by its maker."""
    title, limit, load = "Pressure of the nut", joint.asked.pressure, joint.asked.load
    if limit is None or load is None:
        why = "No load and no pressure that is allowed are told"
        return Check("joint-pressure", title, "clear", None, limit, "MPa", why, math.inf)
    value = joint.pressure(load)
    verdict: Verdict = "watch" if value > limit else "clear"
    why = f"{load:.4g} N on {joint.length:.4g} mm of engagement"
    return Check("joint-pressure", title, verdict, value, limit, "MPa", why, limit - value)


def _has_joint(part: AnyPart) -> bool:
    return part.joint is not None


QUESTIONS = (
    Question(
        "joint-load",
        _of_joint(check_bolt),
        _has_joint,
        "thread",
        17,
        "load on the bolt, N",
        "beyond its breaking load",
        "beyond its proof load (ISO 898-1)",
        cures=_CURES,
    ),
    Question(
        "joint-stripping",
        _of_joint(check_stripping),
        _has_joint,
        "thread",
        18,
        "length of engagement, mm",
        "a thread strips under the load",
        "its threads strip before the bolt breaks (FED-STD-H28/2, VDI 2230)",
        cures=_CURES,
    ),
    Question(
        "joint-tightening",
        _of_joint(check_tightening),
        _has_joint,
        "thread",
        19,
        "stress while it is tightened, MPa",
        "beyond its strength",
        "beyond 90 % of the yield strength (VDI 2230)",
        cures=_CURES,
    ),
    Question(
        "joint-pressure",
        _of_joint(check_pressure),
        _has_joint,
        "thread",
        20,
        "pressure on the flanks of a moving nut, MPa",
        "",
        "beyond `joint.pressure`",
        cures=("/joint/load", "/mate/length", "/joint/engagement"),
    ),
)
