"""The wall that a thread leaves in its host."""

from __future__ import annotations

from metaspira.checks.check import Check, Verdict, Window
from metaspira.checks.question import Question, of_thread
from metaspira.parts.threaded import ThreadedPart

_SHARE = 1.0


def check_wall(part: ThreadedPart, window: Window) -> Check:
    """The least wall between the roots and the host's other surface, against the height of the thread
    (common practice, no source)."""
    body = part.body
    height = part.profile.outer - part.profile.inner
    if len(body.loops) == 1:
        wall = body.thread.inner_radius
        where = "to the axis"
    elif part.side == "external":
        wall, where = body.thread.inner_radius - body.loops[1].outer_radius, "to its hole"
    else:
        wall, where = body.loops[0].inner_radius - body.thread.outer_radius, "to its outside"
    limit = _SHARE * height
    verdict: Verdict = "stop" if wall <= 0 else "watch" if wall < limit else "clear"
    why = f"{wall:.4g} mm are left from the root {where}; the thread is {height:.4g} mm high"
    return Check(
        "wall",
        "Wall at the root",
        verdict,
        wall,
        limit,
        "mm",
        why,
        wall - limit,
        () if verdict == "clear" else (part.full,),
    )


QUESTIONS = (
    Question(
        "wall",
        check_wall,
        of_thread,
        "thread",
        13,
        "wall from the roots to the host's other surface, mm",
        "at 0",
        "under the thread's height (common practice)",
        cures=("/host/outside", "/host/across_flats", "/host/hole", "/mate/outside", "/mate/across_flats"),
    ),
)
