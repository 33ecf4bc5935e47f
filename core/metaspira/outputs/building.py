"""Building in a child process with a time and a memory limit; files appear only when they are proven."""

from __future__ import annotations

import math
import os
import signal
import tempfile
import time
from collections.abc import Callable, Sequence
from dataclasses import dataclass
from multiprocessing.connection import Connection
from pathlib import Path as FilePath
from typing import Any

from metaspira.checks import Report
from metaspira.outputs import child, ending
from metaspira.outputs.child import Job
from metaspira.parts import AnyPart, bodies_of
from metaspira.parts.identity import issued
from metaspira.problems import Cancelled, Interrupted
from metaspira.processes import Progress, children

_OUT_OF_MEMORY = (b"MemoryError", b"bad_alloc", b"failed to map segment", b"Cannot allocate memory")

LOADED = ("metaspira.outputs.child", "metaspira.solids.step")
"""The modules that the child processes need."""

LEAST_CHORD_ERROR, MOST_CHORD_ERROR = 1e-5, 1e3
MOST_VERTICES = 4_000_000


class BuildError(Exception):
    """The build did not give a proven file; the message says why."""


@dataclass(frozen=True)
class Limits:
    """Seconds of processor time and bytes of memory that a build may take."""

    seconds: int = 600
    memory: int = 6 * 2**30


def demand_clear(report: Report) -> None:
    """Raises BuildError where a check says stop."""
    if report.verdict == "stop":
        stops = ", ".join(check.title for check in report.checks if check.verdict == "stop")
        raise BuildError(f"a check says stop ({stops}); take its remedy, then build")


def build_files(
    part: AnyPart,
    files: Sequence[FilePath],
    chord_error: float | None = None,
    progress: Progress = lambda share, step: None,
    cancelled: Callable[[], bool] = lambda: False,
    limits: Limits = Limits(),
) -> dict[str, dict[str, Any]]:
    """Build `files` (how their names end chooses the formats) and give each suffix's proof.

    All of them appear, proven, or none. `progress` is told the share done and the step; `cancelled` is
    asked several times a second. Raises BuildError, Cancelled, Interrupted.
    """
    chord_error = chord_error or part.usual_chord_error
    if any(file.suffix != ".step" for file in files):
        _demand_small(part, chord_error)
    folder = files[0].parent
    with tempfile.TemporaryDirectory(prefix=".building-", dir=folder) as scratch:
        drafts = [FilePath(scratch) / f"part{ending(file)}" for file in files]
        job = Job(
            part.typed.model_dump(mode="json", by_alias=True, exclude_none=True),
            tuple(str(draft) for draft in drafts),
            chord_error,
            limits.memory,
            limits.seconds,
            str(FilePath(scratch) / "complaints"),
            issued(),
        )
        proofs = _run(job, progress, cancelled)
        for draft, file in zip(drafts, files, strict=True):
            os.replace(draft, file)
    return proofs


def _demand_small(part: AnyPart, chord_error: float) -> None:
    """Raises BuildError where a mesh would have too many vertices, with a chord error that would do."""

    def count(error: float) -> int:
        return sum(body.vertex_count(error) for body in bodies_of(part))

    vertices = count(chord_error)
    if vertices <= MOST_VERTICES:
        return
    fits = chord_error
    while fits < MOST_CHORD_ERROR and count(fits) > MOST_VERTICES:
        fits *= 1.25
    digits = 1 - math.floor(math.log10(fits))
    fits = math.ceil(fits * 10**digits) / 10**digits
    raise BuildError(
        f"a mesh within {chord_error:.3g} mm has {vertices:,} vertices, and {MOST_VERTICES:,} can be "
        "written; "
        f"with a chord error of {fits:g} mm it has {count(fits):,}"
    )


def _run(job: Job, progress: Progress, cancelled: Callable[[], bool]) -> dict[str, dict[str, Any]]:
    processes = children(*LOADED)
    answer, sender = processes.Pipe(duplex=False)
    process = processes.Process(target=child.build, args=(job, sender), daemon=True)
    process.start()
    sender.close()
    try:
        return _listen(answer, job, progress, cancelled)
    except EOFError:
        process.join()
        if process.exitcode == -signal.SIGTERM:
            raise Interrupted from None
        raise BuildError(_complaint(job, process.exitcode)) from None
    finally:
        process.kill()
        process.join()
        answer.close()


def _listen(
    answer: Connection, job: Job, progress: Progress, cancelled: Callable[[], bool]
) -> dict[str, dict[str, Any]]:
    """The proofs. Raises EOFError where the child ended without a word."""
    deadline = time.monotonic() + job.seconds
    while True:
        if cancelled():
            raise Cancelled
        if time.monotonic() > deadline:
            raise BuildError(f"it took longer than {job.seconds} s; use fewer turns")
        if not answer.poll(0.2):
            continue
        kind, told = answer.recv()
        if kind == "progress":
            progress(*told)
        elif kind == "error":
            raise BuildError(told)
        else:
            proofs: dict[str, dict[str, Any]] = told
            return proofs


def _complaint(job: Job, code: int | None) -> str:
    """Why the child ended early."""
    complaints = FilePath(job.complaints)
    said = complaints.read_bytes() if complaints.exists() else b""
    limit = f"it needs more than {job.memory / 2**30:.1f} GiB; use fewer turns"
    if any(sign in said for sign in _OUT_OF_MEMORY) or code == -signal.SIGABRT:
        return limit
    if code == -signal.SIGSEGV:
        return f"the kernel broke off; most likely {limit}"
    last = said.decode(errors="replace").strip().splitlines()[-1:]
    return f"the building process ended early ({' '.join(last) or code})"
