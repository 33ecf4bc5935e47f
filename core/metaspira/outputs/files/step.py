"""STEP (ISO 10303-21, AP214): the exact solid."""

from __future__ import annotations

from metaspira.outputs.output import Built, any_part, written_by

LISTED = 10

OUTPUTS = (
    Built(
        "step",
        "Solid",
        "STEP, exact solid",
        "model/step",
        any_part,
        written_by("metaspira.solids.step"),
    ),
)
