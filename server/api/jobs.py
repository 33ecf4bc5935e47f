"""Long work: asked for, followed, stopped, and its files."""

from __future__ import annotations

import uuid
from typing import IO, Any

from builds.models import Build
from django.core.exceptions import ObjectDoesNotExist
from django.http import FileResponse, HttpRequest
from jobs.models import Job, find_job
from jobs.services import as_it_is
from jobs.services import cancel as cancel_job
from metaspira.formats.outside import MOST_BYTES
from metaspira.outputs.files.hand_over import Contents, contents_of
from ninja import Body, File, Form, Router, Status
from ninja.files import UploadedFile
from people.access import asker
from people.models import Role
from people.permissions import MAKER, OfJob
from surveys.models import RunThrough, Survey
from surveys.services import request_run, request_survey
from traces.models import Trace
from traces.services import request_trace

from api.schemas import (
    AnyJobOut,
    AnyWanted,
    BuildOut,
    JobOut,
    Problems,
    RunOut,
    SurveyOut,
    TraceOut,
    WantedSurvey,
)
from api.uploads import sent

router = Router()

_SHOWN: dict[type[Job], type[JobOut]] = {
    Build: BuildOut,
    Survey: SurveyOut,
    RunThrough: RunOut,
    Trace: TraceOut,
}


def shown(job: Job) -> dict[str, Any]:
    """What is told of a job, by its kind."""
    return _SHOWN[type(job)].of(job)


@router.post("", response={202: AnyJobOut, 422: Problems}, auth=MAKER)
def start(request: HttpRequest, body: Body[AnyWanted]) -> Status[dict[str, Any]]:
    """Start trying a recipe over ranges of inputs, or running it through moving ones, with all checks at each
    point. (A build is started at its design.)"""
    if isinstance(body, WantedSurvey):
        return Status(202, shown(request_survey(body.recipe, body.over, asker(request), body.exact)))
    run = request_run(body.recipe, body.tracks, body.frames, body.seconds, asker(request))
    return Status(202, shown(run))


@router.post("/traces", response={202: TraceOut, 422: Problems}, auth=MAKER)
def trace(request: HttpRequest, file: File[UploadedFile], unit: Form[str] = "") -> Status[dict[str, Any]]:
    """Start tracing a scanned body in an STL, OBJ, PLY, GLB, 3MF or STEP file, or the points in an XYZ, CSV
    or PLY file, back to its recipe: a coil, a thread, or a bar. `unit` is that of a file which does
    not say its own."""
    data, suffix, name = sent(file, MOST_BYTES)
    return Status(202, shown(request_trace(data, suffix, unit or None, name, asker(request))))


@router.get("/{uuid:job_id}", response={200: AnyJobOut, 404: Problems}, auth=OfJob())
def read(request: HttpRequest, job_id: uuid.UUID) -> dict[str, Any]:
    """A job's state, progress and what it has given."""
    return shown(as_it_is(find_job(job_id)))


@router.post(
    "/{uuid:job_id}/cancel",
    response={200: AnyJobOut, 404: Problems},
    auth=OfJob(changes=True, role=Role.EDIT),
)
def cancel(request: HttpRequest, job_id: uuid.UUID) -> dict[str, Any]:
    """Stop a job."""
    return shown(cancel_job(find_job(job_id)))


@router.get("/{uuid:job_id}/contents", response={200: Contents, 404: Problems}, auth=OfJob())
def contents(request: HttpRequest, job_id: uuid.UUID) -> Contents:
    """What the archive of a finished build holds: each file with its unit, its hash and what was measured."""
    job = as_it_is(find_job(job_id))
    if not isinstance(job, Build):
        raise ObjectDoesNotExist
    with _opened(job, ".zip") as archive:
        return contents_of(archive)


@router.get("/{uuid:job_id}/files/{str:suffix}", response={404: Problems}, auth=OfJob(recorded=True))
def file(request: HttpRequest, job_id: uuid.UUID, suffix: str) -> FileResponse:
    """A file of a finished job, as a download: `suffix` is one of a build's formats, csv of a survey, and of
    a run the animation (glb), the pictures (zip) or the video (webp)."""
    job = as_it_is(find_job(job_id))
    return FileResponse(_opened(job, f".{suffix}"), as_attachment=True, filename=f"{job.title}.{suffix}")


def _opened(job: Job, suffix: str) -> IO[bytes]:
    try:
        return job.open_file(suffix)
    except KeyError:
        raise ObjectDoesNotExist from None
