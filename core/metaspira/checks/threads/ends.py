"""How a thread ends: can the tool get out before a shoulder, and can it make the undercut?"""

from __future__ import annotations

import math

from metaspira.checks.check import Check, Verdict, Window
from metaspira.checks.question import Question, of_thread
from metaspira.parts.threaded import ThreadedPart
from metaspira.paths.path import Span

_SHORT = 1.25
_DEEP = 0.5


def check_run_out(part: ThreadedPart, window: Window) -> Check:
    """The length from the last full thread to a shoulder, against 1.25 pitches, the short run-out of ISO 3508
    (from memory). A wall within half a pitch is a stop: no tool can leave there."""
    thread, host = part.thread, part.recipe.host
    limit = _SHORT * thread.pitch
    room = math.inf
    where: tuple[Span, ...] = ()
    if part.recipe.use.as_ == "body" and host.plain is not None:
        radius, profile = host.plain / 2, part.profile
        shoulder = radius > profile.outer if part.side == "external" else radius < profile.inner
        first, last = part.recipe.thread.at, _end_of(part)
        ends = [
            (part.full[0] - first, first > 1e-9, (first, part.full[0])),
            (last - part.full[1], last < host.height - 1e-9, (part.full[1], last)),
        ]
        for left, inside, span in ends:
            if shoulder and inside and left < room:
                room, where = left, (span,)
    if math.isinf(room):
        return Check(
            "run-out",
            "Run-out to a shoulder",
            "clear",
            None,
            limit,
            "mm",
            "There is no shoulder beside the thread",
            math.inf,
        )
    verdict: Verdict = "stop" if room < 0.5 * thread.pitch else "watch" if room < limit else "clear"
    why = f"{room:.4g} mm from the last full thread to the shoulder"
    return Check(
        "run-out",
        "Run-out to a shoulder",
        verdict,
        room,
        limit,
        "mm",
        why,
        room - limit,
        () if verdict == "clear" else where,
    )


def check_undercut(part: ThreadedPart, window: Window) -> Check:
    """An undercut's depth below the crest against its width: deeper than half of it, a tool is too slender
    (common practice, no source)."""
    ends = (part.recipe.thread.start, part.recipe.thread.end)
    undercuts = [found for end in ends if end and (found := end.undercut(part.profile, part.side))]
    if not undercuts:
        return Check("undercut", "Undercut", "clear", None, _DEEP, "", "There is no undercut", math.inf)
    depth, width = max(undercuts, key=lambda found: found[0] / found[1])
    ratio = depth / width
    verdict: Verdict = "clear" if ratio <= _DEEP else "watch"
    why = f"The undercut is {depth:.4g} mm deep and {width:.4g} mm wide"
    return Check("undercut", "Undercut", verdict, ratio, _DEEP, "", why, _DEEP - ratio)


def _end_of(part: ThreadedPart) -> float:
    asked = part.recipe.thread
    top = part.body.pieces[-1].leg.heights[1]
    return top if asked.length is None else asked.at + asked.length


QUESTIONS = (
    Question(
        "run-out",
        check_run_out,
        of_thread,
        "thread",
        15,
        "from the last full thread to a shoulder, mm",
        "under half a pitch",
        "under 1.25 pitches (ISO 3508)",
        cures=("/thread/length", "/thread/end", "/thread/start"),
    ),
    Question(
        "undercut",
        check_undercut,
        of_thread,
        "thread",
        16,
        "depth of an undercut to its width",
        "",
        "over 1/2 (common practice)",
        cures=("/thread/end/width", "/thread/start/width", "/thread/end/diameter"),
    ),
)
