"""What an interface draws of a threaded part: its profile in the axial plane with the other member's and the
bands of their limits, and its gauging figures."""

from __future__ import annotations

from typing import Any

import numpy as np

from metaspira.parts.threaded import ThreadedPart
from metaspira.threads.asked import AskedThread, State
from metaspira.threads.gauging import as_dict
from metaspira.threads.thread import Side, Thread
from metaspira.views.joints import joint_view

_PERIODS = (-3, -2, -1, 0, 1, 2, 3)

Line = list[list[float]]


def thread_view(part: ThreadedPart) -> dict[str, Any]:
    """Sizes and gauging of the thread, and its profiles as lines of points (z, r), mm: `built` as it is made
    and `mate` as the other member is, both opened by the allowance; for both members the basic one and those
    of their limits without it; the radius at the pitch line and the heights of full thread."""
    asked = part.recipe.thread
    other: Side = "internal" if part.side == "external" else "external"
    state: State = "basic" if part.recipe.mate is None else part.recipe.mate.size
    return {
        **profiles(part.thread, asked),
        "built": _line(asked.profile(part.thread, part.side, asked.size, asked.allowance).line()),
        "mate": _line(asked.profile(part.thread, other, state, asked.allowance).line()),
        "side": part.side,
        "full": list(part.full),
        "standard": as_dict(part.thread),
        "joint": joint_view(part),
    }


def profiles(thread: Thread, asked: AskedThread) -> dict[str, Any]:
    """The profiles of a thread by member and state, as lines of points (z, r) over some pitches, mm."""
    drawn: dict[str, Any] = {"pitch": thread.pitch, "pitch_radius": thread.external.pitch.basic / 2}
    sides: tuple[Side, ...] = ("external", "internal")
    states: tuple[State, ...] = ("basic", "max", "min")
    for side in sides:
        drawn[side] = {state: _line(asked.profile(thread, side, state, 0.0).line()) for state in states}
    return drawn


def _line(points: np.ndarray[Any, np.dtype[np.float64]]) -> Line:
    """Points (k, 2) of one pitch repeated, rounded."""
    pitch = points[-1, 0] - points[0, 0]
    rows = [points + np.array([k * pitch, 0.0]) for k in _PERIODS]
    return [[float(z), float(r)] for z, r in np.round(np.concatenate(rows), 6)]
