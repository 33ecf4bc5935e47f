"""Child processes, forked from one that has their modules loaded, so that they start at once."""

from __future__ import annotations

import contextlib
import ctypes
import multiprocessing
import os
import signal
from collections.abc import Callable, Iterator, Sequence
from concurrent.futures import ProcessPoolExecutor, wait
from concurrent.futures.process import BrokenProcessPool
from multiprocessing import forkserver
from multiprocessing.context import ForkServerContext
from typing import Any, TypeVar

from metaspira.problems import Cancelled, Interrupted

Progress = Callable[[float, str], None]
"""Is told the share that is done, and the step."""

A = TypeVar("A")
R = TypeVar("R")

_AT_PARENTS_DEATH = 1
_NICE = 10
_ASK_SECONDS = 0.2


def step_back() -> None:
    """In a child: leave the processor to whoever waits for an answer, and end when the parent ends. Linux
    shares processors between sessions first, so the child gets one of its own."""
    with contextlib.suppress(OSError):
        os.setsid()
    os.nice(_NICE)
    with contextlib.suppress(OSError), open("/proc/self/autogroup", "w") as group:
        group.write(str(_NICE))
    with contextlib.suppress(OSError, AttributeError):
        ctypes.CDLL(None).prctl(_AT_PARENTS_DEATH, signal.SIGKILL)


def children(*loaded: str) -> ForkServerContext:
    """What child processes are made by. `loaded`: the modules that the first asker has loaded once for all;
    others load in the child."""
    context = multiprocessing.get_context("forkserver")
    context.set_forkserver_preload(list(loaded))
    return context


def warm(*loaded: str) -> None:
    """Let the modules that child processes need be loaded meanwhile, in the process that they are forked
    from."""
    children(*loaded)
    forkserver.ensure_running()


def spread(
    work: Callable[[A], R], given: Sequence[A], cancelled: Callable[[], bool], loaded: str
) -> Iterator[R]:
    """What `work` makes of each of what is given, in that order, on every processor; `loaded` is the module
    that it is of.
    Raises what the work raises, Cancelled, and Interrupted where a child was stopped."""
    count = min(len(os.sched_getaffinity(0)), len(given))
    if count < 2:
        for one in given:
            if cancelled():
                raise Cancelled
            yield work(one)
        return
    pool = ProcessPoolExecutor(count, children(loaded), _given_work, (work,))
    try:
        futures = [pool.submit(_work, one) for one in given]
        for future in futures:
            while not cancelled() and not wait([future], timeout=_ASK_SECONDS).done:
                pass
            if cancelled():
                raise Cancelled
            yield future.result()
    except BrokenProcessPool:
        raise Interrupted from None
    finally:
        running = list((pool._processes or {}).values())
        pool.shutdown(wait=False, cancel_futures=True)
        for process in running:
            process.kill()


_given: list[Callable[[Any], Any]] = []


def _given_work(work: Callable[[Any], Any]) -> None:
    step_back()
    _given.append(work)


def _work(one: Any) -> Any:
    return _given[-1](one)
