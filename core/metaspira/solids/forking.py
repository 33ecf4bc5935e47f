"""Child processes, forked from one that has their modules loaded, so that they start at once."""

from __future__ import annotations

import contextlib
import ctypes
import multiprocessing
import os
import signal
from multiprocessing.context import ForkServerContext

_AT_PARENTS_DEATH = 1
_NICE = 15


def step_back() -> None:
    """In a child: leave the processor to whoever waits for an answer, and end when the parent ends. Linux shares processors
    between sessions first, so the child gets one of its own."""
    with contextlib.suppress(OSError):
        os.setsid()
    os.nice(_NICE)
    with contextlib.suppress(OSError), open("/proc/self/autogroup", "w") as group:
        group.write(str(_NICE))
    with contextlib.suppress(OSError, AttributeError):
        ctypes.CDLL(None).prctl(_AT_PARENTS_DEATH, signal.SIGKILL)


def children(*loaded: str) -> ForkServerContext:
    """What child processes are made by. `loaded`: the modules that the first asker has loaded once for all; others load in the child."""
    context = multiprocessing.get_context("forkserver")
    context.set_forkserver_preload(list(loaded))
    return context
