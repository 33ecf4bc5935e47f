"""A thread and its other member: the air between them, and how far they hold each other."""

from __future__ import annotations

from dataclasses import replace
from functools import lru_cache

from metaspira.checks.check import Check, Verdict, Window, in_words
from metaspira.checks.question import Question, of_thread
from metaspira.parts.threaded import ThreadedPart
from metaspira.threads.air import EXACT, Air, Member, air_between, overlap_between
from metaspira.threads.asked import State
from metaspira.threads.family import INCH
from metaspira.threads.profile import Profile
from metaspira.threads.thread import Thread

_LEAST_HEIGHT, _NO_HEIGHT = 0.6, 0.3
_LEAST_LENGTH = 0.8
_LEAST_PITCHES = 5
_FASTENERS = ("metric", "unified", "whitworth", "ba")
_STATES: dict[str, tuple[State, State]] = {
    "basic": ("basic", "basic"),
    "tightest": ("max", "min"),
    "loosest": ("min", "max"),
}


@lru_cache(maxsize=64)
def thread_air(part: ThreadedPart) -> dict[str, Air]:
    """The air between the members as they are built, with their ends where there is a mate, and of whole
    threads at basic size and at both ends of their tolerances where both have some: a parallel pipe thread
    that seals on a taper one has limits by itself alone (ISO 7-1)."""
    both = _members(part)
    whole = _whole(part)
    if both is None:
        return whole
    return {**whole, "as built": air_between(*both, part.thread.lead, _rounding(part.thread))}


@lru_cache(maxsize=64)
def _whole(part: ThreadedPart) -> dict[str, Air]:
    """The same of whole threads alone."""
    own: State = part.recipe.thread.size
    mate: State = part.recipe.mate.size if part.recipe.mate else "basic"
    built = (own, mate) if part.side == "external" else (mate, own)
    limited = all(part.thread.member(side).pitch.max is not None for side in ("external", "internal"))
    states = _STATES if limited or part.thread.family == "own" else {"basic": _STATES["basic"]}
    return {name: _air(part, *state) for name, state in {"as built": built, **states}.items()}


def _members(part: ThreadedPart) -> tuple[Member, Member] | None:
    """The external and the internal thread as they are built, where there is a mate."""
    if len(part.bodies) < 2:
        return None
    own, mate = (body.thread for body in part.bodies)
    outside, inside = (own, mate) if part.side == "external" else (mate, own)
    return Member.of(outside, True), Member.of(inside, False)


def clearance_margin(part: ThreadedPart, window: Window) -> float:
    """The margin of the check, in less time."""
    both = _members(part)
    met = None if both is None else overlap_between(*both, part.thread.lead, _rounding(part.thread))
    return _margin(_whole(part), met)


def _margin(whole: dict[str, Air], met: Air | None) -> float:
    """The lesser air of whole threads; where only their ends are in each other, by how far along the axis,
    below 0."""
    least = min(whole[name].value for name in ("as built", "tightest") if name in whole)
    if least < 0 or met is None or met.overlap is None:
        return least
    return min(met.overlap[0] - met.overlap[1], met.value)


def least_air(part: ThreadedPart) -> Air:
    """The lesser of the air as built and at the tight end of the tolerances."""
    air = thread_air(part)
    known = [air[name] for name in ("as built", "tightest") if name in air]
    least = min(known, key=lambda one: one.value)
    return Air(least.value, min(one.low for one in known), min(one.high for one in known), least.overlap)


def check_clearance(part: ThreadedPart, window: Window) -> Check:
    """The least air between the members as they are built, and at both ends of their tolerances."""
    air, least = thread_air(part), least_air(part)
    built, *others = (f"{in_words(one.value)} mm {name}" for name, one in air.items())
    why = f"Between the flanks and crests of both members: {built}; {', '.join(others)}"
    if in_words(least.low) != in_words(least.high):
        why += f" (certain: {in_words(least.low)} to {in_words(least.high)} mm)"
    verdict: Verdict = "stop" if least.value < 0 else "clear"
    where = () if verdict == "clear" else (part.full,)
    ends = air["as built"].overlap
    if ends is not None:
        where = (ends,)
        why += f". They are in each other from {in_words(ends[0])} to {in_words(ends[1])} mm of the height"
    margin = _margin(_whole(part), air["as built"]) if verdict == "stop" else least.value
    return Check(
        "clearance",
        "Air between the members",
        verdict,
        least.value,
        0.0,
        "mm",
        why,
        margin,
        where,
    )


def check_height(part: ThreadedPart, window: Window) -> Check:
    """The height in which the members hold each other when loosest, against its basic value: below 60 % they
    hold poorly, below 30 % hardly (common practice, no source)."""
    outer = _profile(part, "external", "min")
    inner = _profile(part, "internal", "max")
    height = outer.outer - inner.inner
    basic = part.thread.depth
    share = height / basic
    verdict: Verdict = "stop" if share < _NO_HEIGHT else "watch" if share < _LEAST_HEIGHT else "clear"
    why = (
        f"The crests overlap by {height:.4g} mm at the loose end of the tolerances, {100 * share:.3g} % "
        f"of the basic {basic:.4g} mm"
    )
    return Check(
        "engagement-height",
        "Height of engagement",
        verdict,
        height,
        _LEAST_HEIGHT * basic,
        "mm",
        why,
        height - _LEAST_HEIGHT * basic,
        () if verdict == "clear" else (part.full,),
    )


def check_length(part: ThreadedPart, window: Window) -> Check:
    """The length of full thread, with the mate of the part where both have it. Fasteners want 0.8 diameters
    (common practice for steel in steel), other standard threads five pitches, ridges, grooves and forms of
    one's own one (common practice, no source); less than a pitch of a start is a stop."""
    low, high = part.engaged
    length = max(high - low, 0.0)
    thread = part.thread
    if thread.family in _FASTENERS and part.recipe.use.as_ == "body":
        limit = _LEAST_LENGTH * thread.external.major.basic
    else:
        standard = thread.family != "own" and part.recipe.use.as_ == "body"
        limit = (_LEAST_PITCHES if standard else 1) * thread.pitch
    verdict: Verdict = (
        "stop"
        if length < thread.pitch * min(1.0, 2 / thread.starts)
        else "watch"
        if length < limit
        else "clear"
    )
    turns = length / part.thread.lead
    why = f"{length:.4g} mm of full thread, {turns:.3g} turns, where {limit:.4g} mm are wanted"
    return Check(
        "engagement-length",
        "Length of engagement",
        verdict,
        length,
        limit,
        "mm",
        why,
        length - limit,
        () if verdict == "clear" else (part.full,),
    )


def _air(part: ThreadedPart, own: State, other: State) -> Air:
    """The air between whole threads, at no height in particular, in states given for the external and the
    internal one."""
    outside, inside = _profile(part, "external", own), _profile(part, "internal", other)
    both = Member.endless(outside, True), Member.endless(inside, False)
    return replace(air_between(*both, part.thread.lead, _rounding(part.thread)), overlap=None)


def _rounding(thread: Thread) -> float:
    """Half the last digit of a standard's diameters, mm: members that overlap by less touch."""
    if thread.family == "own":
        return EXACT
    return 0.5 * 10.0**-thread.digits * (INCH if thread.inch else 1.0)


def _profile(part: ThreadedPart, side: str, state: State) -> Profile:
    asked = part.recipe.thread
    return asked.profile(
        part.thread, "external" if side == "external" else "internal", state, asked.allowance
    )


QUESTIONS = (
    Question(
        "clearance",
        check_clearance,
        of_thread,
        "thread",
        10,
        "air between the members as built, with their ends, and at both ends of their tolerances, mm",
        "where they overlap",
        cures=("/mate/at", "/mate/length", "/thread/length", "/thread/allowance", "/host/diameter"),
        margin=clearance_margin,
    ),
    Question(
        "engagement-height",
        check_height,
        of_thread,
        "thread",
        11,
        "overlap of the crests at the loose end, of the basic height",
        "under 30 %",
        "under 60 % (common practice)",
        cures=("/thread/allowance",),
    ),
    Question(
        "engagement-length",
        check_length,
        of_thread,
        "thread",
        12,
        "length of full thread, mm",
        "under a pitch",
        "fasteners under 0.8 diameters, others under 5 pitches (common practice)",
        cures=("/thread/length", "/host/length", "/mate/length"),
    ),
)
