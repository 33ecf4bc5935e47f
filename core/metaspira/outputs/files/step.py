"""STEP (ISO 10303-21): the exact solid, by AP242 and by AP214."""

from __future__ import annotations

from pathlib import Path as FilePath

from metaspira.outputs.output import Built, any_part, written_by
from metaspira.parts import AnyPart
from metaspira.processes import Progress
from metaspira.solids.proof import Proof

LISTED = 10


def _in_214(part: AnyPart, file: FilePath, chord_error: float, progress: Progress) -> Proof:
    from metaspira.solids.step import write

    return write(part, file, chord_error, progress, "AP214IS")


_USE = "CAD and machining: exact surfaces, named parts, properties (AP242)"
_OLDER = "CAD that does not read AP242 yet"

OUTPUTS = (
    Built(
        "step",
        "Solid",
        "STEP, exact solid",
        _USE,
        "model/step",
        any_part,
        written_by("metaspira.solids.step"),
    ),
    Built("ap214.step", "Solid", "STEP AP214, exact solid", _OLDER, "model/step", any_part, _in_214),
)
