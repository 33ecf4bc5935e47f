"""Run-throughs: asked for, followed, stopped, and their files."""

from __future__ import annotations

import uuid
from typing import Any

from django.http import FileResponse, HttpRequest
from jobs.services import cancel as cancel_job
from jobs.services import looked_after, opened
from ninja import Router, Status
from people.access import asker
from people.permissions import MAKER, OwnJob
from surveys.models import RunThrough
from surveys.services import request_run

from api.schemas import Problems, RunOut, WantedRun

router = Router()

_OWN = OwnJob(kind=RunThrough, argument="run_id")
_OWN_CHANGED = OwnJob(changes=True, kind=RunThrough, argument="run_id")


@router.post("", response={202: RunOut, 422: Problems}, auth=MAKER)
def start(request: HttpRequest, body: WantedRun) -> Status[dict[str, Any]]:
    """Start running a recipe through moving inputs, with all checks at each frame."""
    run = request_run(body.recipe, body.tracks, body.frames, body.seconds, asker(request))
    return Status(202, RunOut.of(run))


@router.get("/{uuid:run_id}", response={200: RunOut, 404: Problems}, auth=_OWN)
def read(request: HttpRequest, run_id: uuid.UUID) -> dict[str, Any]:
    """A run's state and progress, and its frames once it is done."""
    return RunOut.of(looked_after(RunThrough, run_id))


@router.post("/{uuid:run_id}/cancel", response={200: RunOut, 404: Problems}, auth=_OWN_CHANGED)
def cancel(request: HttpRequest, run_id: uuid.UUID) -> dict[str, Any]:
    """Stop a run."""
    return RunOut.of(cancel_job(RunThrough, run_id))


@router.get("/{uuid:run_id}/files/{str:suffix}", response={404: Problems}, auth=_OWN)
def file(request: HttpRequest, run_id: uuid.UUID, suffix: str) -> FileResponse:
    """The animation (glb), the pictures (zip) or the video (webp) of a finished run, as a download."""
    _, stream = opened(RunThrough, run_id, f".{suffix}")
    return FileResponse(stream, as_attachment=True, filename=f"run-through.{suffix}")
