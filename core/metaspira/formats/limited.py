"""Work on what comes from outside, which may be damaged or hostile: in a child process with limits of memory
and time."""

from __future__ import annotations

import os
import resource
import time
from collections.abc import Callable
from multiprocessing.connection import Connection
from typing import Any

from metaspira.problems import Cancelled, Problem, RecipeError
from metaspira.processes import Progress, children, step_back

_PATIENCE = 6
"""How many times its seconds of processor time it may take by the clock, beside other work."""

LOADED = ("metaspira.formats.outside", "metaspira.formats.curves", "trimesh")
"""The modules that reading takes in a child."""


def limited(
    seconds: float,
    memory: int,
    work: Callable[..., Any],
    *given: Any,
    progress: Progress | None = None,
    cancelled: Callable[[], bool] = lambda: False,
) -> Any:
    """What `work`, a function of a module, makes of what is given, within seconds and bytes of memory; where
    `progress` is to be told, the work takes that which it tells last. Raises RecipeError: the work's own, one
    that tells the text of its ValueError, or that it takes too long or too much; and Cancelled."""
    processes = children(*LOADED)
    answer, sender = processes.Pipe(duplex=False)
    process = processes.Process(
        target=_run, args=(seconds, memory, sender, progress is not None, work, *given), daemon=True
    )
    process.start()
    sender.close()
    try:
        return _heard(answer, seconds, progress, cancelled)
    finally:
        process.kill()
        process.join()
        answer.close()


def _heard(
    answer: Connection, seconds: float, progress: Progress | None, cancelled: Callable[[], bool]
) -> Any:
    until = time.monotonic() + _PATIENCE * seconds
    try:
        while True:
            while not answer.poll(0.05):
                if cancelled():
                    raise Cancelled
                if time.monotonic() > until:
                    raise _too_long(seconds)
            kind, told = answer.recv()
            if kind != "progress":
                break
            if progress is not None:
                progress(*told)
    except EOFError:
        raise _too_long(seconds) from None
    if kind == "result":
        return told
    if kind == "problems":
        raise RecipeError(*told)
    reason = told or "the file cannot be read; it may be damaged"
    raise RecipeError(Problem("/file", reason, "save it again, as another format, or give another file"))


def _too_long(seconds: float) -> RecipeError:
    return RecipeError(
        Problem("/file", f"reading the file takes more than {seconds:g} s", "make the file smaller")
    )


def _run(
    seconds: float, memory: int, answer: Connection, tells: bool, work: Callable[..., Any], *given: Any
) -> None:
    step_back()
    own = resource.getpagesize() * int(_statm()[5])
    resource.setrlimit(resource.RLIMIT_DATA, (own + memory, own + memory))
    resource.setrlimit(resource.RLIMIT_CPU, (int(seconds) + 1, int(seconds) + 2))
    told = [lambda share, step: answer.send(("progress", (share, step)))] if tells else []
    try:
        answer.send(("result", work(*given, *told)))
    except RecipeError as error:
        answer.send(("problems", error.problems))
    except ValueError as error:
        answer.send(("refused", str(error) if type(error) is ValueError else ""))
    except MemoryError:
        answer.send(("refused", "the file takes too much memory"))
    except BaseException:
        answer.send(("refused", ""))


def _statm() -> list[str]:
    """Pages of this process: of all, resident, shared, text, library, data and dirty."""
    with open(f"/proc/{os.getpid()}/statm") as file:
        return file.read().split()
