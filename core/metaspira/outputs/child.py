"""The child process that builds. It limits its own memory and processor time."""

from __future__ import annotations

import os
import resource
from dataclasses import dataclass
from multiprocessing.connection import Connection
from pathlib import Path as FilePath
from typing import Any

from metaspira.outputs import built, ending
from metaspira.parts import part_of
from metaspira.processes import step_back
from metaspira.solids.proof import ProofError


@dataclass(frozen=True)
class Job:
    """A recipe (JSON data), the files to write (their suffixes choose the formats), the chord error of meshes
    in mm, the limits in bytes and in seconds of processor time, the file for complaints, and the time that
    the files are of (seconds)."""

    recipe: dict[str, Any]
    files: tuple[str, ...]
    chord_error: float
    memory: int
    seconds: int
    complaints: str
    issued: int


def build(job: Job, answer: Connection) -> None:
    """Do a job. Sends (“progress”, (share, step)) as it goes, and last (“proofs”, …) or (“error”, text)."""
    step_back()
    os.environ["SOURCE_DATE_EPOCH"] = str(job.issued)
    complaints = os.open(job.complaints, os.O_WRONLY | os.O_CREAT)
    os.dup2(complaints, 1)
    os.dup2(complaints, 2)
    resource.setrlimit(resource.RLIMIT_AS, (job.memory, job.memory))
    resource.setrlimit(resource.RLIMIT_CPU, (job.seconds, job.seconds + 5))
    try:
        answer.send(("proofs", _run(job, answer)))
    except ProofError as error:
        answer.send(("error", _too_much(job) if _at_limit(job) else str(error)))
    except MemoryError:
        answer.send(("error", _too_much(job)))


def _too_much(job: Job) -> str:
    return f"it needs more than {job.memory / 2**30:.1f} GiB of memory; use fewer turns"


def _at_limit(job: Job) -> bool:
    """Whether the process has as good as all of its memory; the kernel then fails without saying why."""
    pages = int(FilePath("/proc/self/statm").read_text().split()[0])
    return pages * resource.getpagesize() > 0.9 * job.memory


def _run(job: Job, answer: Connection) -> dict[str, Any]:
    part = part_of(job.recipe)
    proofs, known = {}, built()
    for index, name in enumerate(job.files):
        file = FilePath(name)

        def progress(share: float, step: str, index: int = index) -> None:
            answer.send(("progress", ((index + share) / len(job.files), step)))

        proof = known[ending(file)].write(part, file, job.chord_error, progress)
        proofs[ending(file)] = proof.as_dict()
    return proofs
