"""What is done with traces: asked for."""

from __future__ import annotations

from jobs.files import drop, keep
from jobs.services import start
from metaspira.problems import RecipeError
from metaspira.studies.trace import surface_in
from metaspira.studies.trace.packing import packed

from traces.models import Trace

_ASKED = 0
"""The attempt under which what was asked is kept; a worker's begin with 1."""


def request_trace(data: bytes, suffix: str, unit: str | None, name: str, asked_by: str = "") -> Trace:
    """A trace of the body in a file's bytes, queued. Raises RecipeError where it cannot be read."""
    surface = surface_in(data, suffix, unit)
    trace = Trace(name=name[: Trace.LONGEST_NAME], asked_by=asked_by)
    trace.surface = keep(str(trace.pk), _ASKED, "surface.npz", packed(surface))
    try:
        return start(trace)
    except RecipeError:
        drop(str(trace.pk), _ASKED)
        raise
