"""What is done with builds: asked for."""

from __future__ import annotations

import uuid
from collections.abc import Sequence

from designs.services import head
from jobs.services import start
from metaspira.outputs import built
from metaspira.outputs.building import LEAST_CHORD_ERROR, MOST_CHORD_ERROR
from metaspira.parts import part_of
from metaspira.problems import Problem, RecipeError

from builds.models import USUAL_FORMATS, Build


def request_build(
    design_id: uuid.UUID,
    formats: Sequence[str] = USUAL_FORMATS,
    chord_error: float | None = None,
    asked_by: str = "",
) -> Build:
    """A build of the design's newest revision, queued. Raises RecipeError where it cannot be used, or
    where the formats or the chord error (mm) of the meshes cannot, or where too much is under way."""
    _demand(formats, chord_error)
    revision = head(design_id)
    part_of(revision.recipe)
    return start(
        Build(
            revision=revision,
            formats=list(dict.fromkeys(formats)),
            chord_error=chord_error,
            asked_by=asked_by,
        )
    )


def _demand(formats: Sequence[str], chord_error: float | None) -> None:
    known = built()
    wrong = next((name for name in formats if name not in known), None)
    if wrong is not None or not formats:
        given = f"“{wrong}” is not a format made here" if wrong else "no format is asked for"
        raise RecipeError(Problem("/formats", given, f"use {', '.join(known)}"))
    if chord_error is not None and not LEAST_CHORD_ERROR <= chord_error <= MOST_CHORD_ERROR:
        raise RecipeError(
            Problem("/chord_error", f"a chord error of {chord_error:g} mm is out of range", "use 0.01")
        )
