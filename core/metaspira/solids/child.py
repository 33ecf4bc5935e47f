"""The child process that builds: `python -m metaspira.solids.child`, one job on standard input.

It limits its own memory and processor time, reports progress as JSON lines on standard output, and ends
with one line that holds either the proofs or the error.
"""

from __future__ import annotations

import json
import os
import resource
import sys
from pathlib import Path as FilePath
from typing import Any

from metaspira.formats import writer
from metaspira.part import part_of
from metaspira.solids.proof import ProofError


def main() -> None:
    job = json.load(sys.stdin)
    resource.setrlimit(resource.RLIMIT_AS, (job["memory"], job["memory"]))
    resource.setrlimit(resource.RLIMIT_CPU, (job["seconds"], job["seconds"] + 5))
    out = os.fdopen(os.dup(1), "w")
    os.dup2(2, 1)  # the kernel prints on standard output
    try:
        _say(out, {"proofs": _run(job, out)})
    except ProofError as error:
        _say(out, {"error": str(error)})
    except MemoryError:
        _say(out, {"error": f"it needs more than {job['memory'] / 2**30:.1f} GiB of memory"})


def _run(job: dict[str, Any], out: Any) -> dict[str, Any]:
    part = part_of(job["recipe"])
    proofs = {}
    for index, name in enumerate(job["files"]):
        file = FilePath(name)

        def progress(share: float, step: str, index: int = index) -> None:
            whole = (index + share) / len(job["files"])
            _say(out, {"progress": round(whole, 4), "step": step})

        proof = writer(file.suffix)(part, file, job["chord_error"], progress)
        proofs[file.suffix] = proof.as_dict()
    return proofs


def _say(out: Any, message: dict[str, Any]) -> None:
    out.write(json.dumps(message) + "\n")
    out.flush()


if __name__ == "__main__":
    main()
