"""What workers and the server tell each other of a job, in the storage of the task queue."""

from __future__ import annotations

import itertools
import threading
import time
from collections.abc import Callable, Iterator
from contextlib import contextmanager
from dataclasses import dataclass, replace
from typing import Any

from huey.contrib.djhuey import HUEY

_BEAT_SECONDS = 1.0
_TELL_SECONDS = 0.25
_SHOW_SECONDS = 0.7


@dataclass(frozen=True)
class Told:
    """How far attempt `attempt` is, and its last sign of life."""

    attempt: int
    beat: int
    progress: float
    step: str


@dataclass(frozen=True)
class Ended:
    """What came of a job: `result` where it is done, `error` where it failed, neither where it was
    cancelled."""

    attempt: int
    state: str
    result: dict[str, Any]
    error: str


def told_of(key: str) -> Told | None:
    """The last that a worker told."""
    found: Told | None = HUEY.get(f"job-{key}-told", peek=True)
    return found


def ended(key: str) -> Ended | None:
    """The end of a job, where it has one."""
    found: Ended | None = HUEY.get(f"job-{key}-ended", peek=True)
    return found


def so_far(key: str) -> dict[str, Any] | None:
    """What has been found of a job until now, where its worker shows it."""
    found: dict[str, Any] | None = HUEY.get(f"job-{key}-so-far", peek=True)
    return found


def end(key: str, what: Ended) -> bool:
    """Keep the end of a job; the first one counts. False where there was one."""
    first: bool = HUEY.put_if_empty(f"job-{key}-ended", what)
    return first


def want_cancel(key: str) -> None:
    """Ask whoever works on a job to stop."""
    HUEY.put(f"job-{key}-cancel", True)


def cancel_wanted(key: str) -> bool:
    """The job is to be stopped."""
    return bool(HUEY.get(f"job-{key}-cancel", peek=True))


def file_away(key: str, what: Ended) -> None:
    """Take down what is said of a job whose end was written down; that it has ended stays."""
    HUEY.put(f"job-{key}-ended", replace(what, result={}))
    _take_down(key, "told", "cancel", "so-far")


def clear(key: str) -> None:
    """Take down all that is said of a job."""
    _take_down(key, "told", "cancel", "so-far", "ended")


def _take_down(key: str, *names: str) -> None:
    for name in names:
        HUEY.delete(f"job-{key}-{name}")


class Desk:
    """Where one attempt at a job tells how far it is, and hears whether it is to stop."""

    def __init__(self, key: str, attempt: int) -> None:
        self.key, self.attempt = key, attempt
        self._at: tuple[float, str] = (0.0, "starting")
        self._beats = itertools.count(1)
        self._lock = threading.Lock()
        self._told = self._asked = self._shown = 0.0
        self._wanted = False

    def progress(self, share: float, step: str) -> None:
        """Tell the share done, 0 to 1, and what is being done."""
        self._at = (share, step)
        if time.monotonic() - self._told > _TELL_SECONDS:
            self._tell()

    def show(self, found: Callable[[], dict[str, Any]]) -> None:
        """Show what has been found until now; may be called as often as one likes."""
        if time.monotonic() - self._shown > _SHOW_SECONDS:
            HUEY.put(f"job-{self.key}-so-far", found())
            self._shown = time.monotonic()

    def cancelled(self) -> bool:
        """Whether to stop; may be asked as often as one likes."""
        if time.monotonic() - self._asked > _TELL_SECONDS:
            self._asked = time.monotonic()
            self._wanted = cancel_wanted(self.key)
        return self._wanted

    @contextmanager
    def beating(self) -> Iterator[None]:
        """Give a sign of life every second, whatever the work does meanwhile."""
        done = threading.Event()

        def beat() -> None:
            while not done.wait(_BEAT_SECONDS):
                self._tell()

        self._tell()
        thread = threading.Thread(target=beat, daemon=True)
        thread.start()
        try:
            yield
        finally:
            done.set()
            thread.join()

    def _tell(self) -> None:
        with self._lock:
            self._told = time.monotonic()
            HUEY.put(f"job-{self.key}-told", Told(self.attempt, next(self._beats), *self._at))
