"""Building in a child process with a time and a memory limit; files appear only when they are proven."""

from __future__ import annotations

import json
import os
import selectors
import subprocess
import sys
import tempfile
import time
from collections.abc import Callable, Sequence
from dataclasses import dataclass
from pathlib import Path as FilePath
from typing import Any

from metaspira.part import Part

_OUT_OF_MEMORY = (b"MemoryError", b"bad_alloc", b"failed to map segment", b"Cannot allocate memory")

Progress = Callable[[float, str], None]

LEAST_CHORD_ERROR, MOST_CHORD_ERROR = 1e-5, 1e3


class BuildError(Exception):
    """The build did not give a proven file; the message says why."""


class BuildCancelled(Exception):
    """The build was stopped on request."""


@dataclass(frozen=True)
class Limits:
    """Seconds of processor time and bytes of memory that a build may take."""

    seconds: int = 600
    memory: int = 6 * 2**30


def usual_chord_error(part: Part) -> float:
    """Chord error, mm, of a mesh where none is asked for: 1/60 of the section's reach, and less for one
    that is thin for its perimeter."""
    outline = part.outline
    thin = outline.area / outline.perimeter if outline.closed else outline.reach
    return max(min(part.sweep.section.reach() / 60, thin / 12), 1e-4)


def build_files(
    part: Part,
    files: Sequence[FilePath],
    chord_error: float | None = None,
    progress: Progress = lambda share, step: None,
    cancelled: Callable[[], bool] = lambda: False,
    limits: Limits = Limits(),
) -> dict[str, dict[str, Any]]:
    """Build `files` (their suffixes choose the formats) and give each suffix's proof.

    All of them appear, proven, or none. `progress` is told the share done and the step; `cancelled` is
    asked several times a second. Raises BuildError, BuildCancelled.
    """
    folder = files[0].parent
    with tempfile.TemporaryDirectory(prefix=".building-", dir=folder) as scratch:
        drafts = [FilePath(scratch) / f"part{file.suffix}" for file in files]
        job = {
            "recipe": part.typed.model_dump(mode="json", by_alias=True, exclude_none=True),
            "files": [str(draft) for draft in drafts],
            "chord_error": chord_error or usual_chord_error(part),
            "memory": limits.memory,
            "seconds": limits.seconds,
        }
        proofs = _run(job, progress, cancelled, limits)
        for draft, file in zip(drafts, files, strict=True):
            os.replace(draft, file)
    return proofs


def _run(
    job: dict[str, Any], progress: Progress, cancelled: Callable[[], bool], limits: Limits
) -> dict[str, dict[str, Any]]:
    child = subprocess.Popen(
        [sys.executable, "-m", "metaspira.solids.child"],
        stdin=subprocess.PIPE,
        stdout=subprocess.PIPE,
        stderr=subprocess.PIPE,
        env={
            **os.environ,
            "PYTHONPATH": os.pathsep.join(p for p in sys.path if p),
            "OMP_NUM_THREADS": "1",
        },
    )
    assert child.stdin and child.stdout and child.stderr
    try:
        child.stdin.write(json.dumps(job).encode())
        child.stdin.close()
        return _listen(child, progress, cancelled, limits)
    except BrokenPipeError:
        raise BuildError("the building process did not start") from None
    finally:
        child.kill()
        child.wait()
        child.stdout.close()
        child.stderr.close()


def _listen(
    child: subprocess.Popen[bytes],
    progress: Progress,
    cancelled: Callable[[], bool],
    limits: Limits,
) -> dict[str, dict[str, Any]]:
    assert child.stdout and child.stderr
    deadline = time.monotonic() + limits.seconds
    selector = selectors.DefaultSelector()
    for stream in (child.stdout, child.stderr):
        os.set_blocking(stream.fileno(), False)
        selector.register(stream, selectors.EVENT_READ)
    buffers: dict[int, bytes] = {child.stdout.fileno(): b"", child.stderr.fileno(): b""}
    while selector.get_map():
        if cancelled():
            raise BuildCancelled
        if time.monotonic() > deadline:
            raise BuildError(f"it took longer than {limits.seconds} s; use fewer turns")
        for key, _ in selector.select(timeout=0.2):
            data = os.read(key.fd, 65536)
            if not data:
                selector.unregister(key.fileobj)
                continue
            buffers[key.fd] = (buffers[key.fd] + data)[-1_000_000:]
            if key.fileobj is child.stdout:
                *lines, buffers[key.fd] = buffers[key.fd].split(b"\n")
                for line in lines:
                    message = json.loads(line)
                    if "proofs" in message:
                        proofs: dict[str, dict[str, Any]] = message["proofs"]
                        return proofs
                    if "error" in message:
                        raise BuildError(message["error"])
                    progress(message["progress"], message["step"])
    child.wait()
    complaint = buffers[child.stderr.fileno()]
    if any(sign in complaint for sign in _OUT_OF_MEMORY) or child.returncode == -6:
        raise BuildError(f"it needs more than {limits.memory / 2**30:.1f} GiB; use fewer turns")
    last = complaint.decode(errors="replace").strip().splitlines()[-1:]
    raise BuildError(f"the building process ended early ({' '.join(last) or child.returncode})")
