"""Builds: their state and progress, cancelling, and their files."""

from __future__ import annotations

import uuid
from typing import Any

from builds.models import Build
from django.http import FileResponse, HttpRequest
from django.utils.text import slugify
from jobs.services import cancel as cancel_job
from jobs.services import looked_after, opened
from ninja import Router
from people.models import Role
from people.permissions import OfBuild

from api.schemas import BuildOut, Problems

router = Router()


@router.get("/{uuid:build_id}", response={200: BuildOut, 404: Problems}, auth=OfBuild())
def read(request: HttpRequest, build_id: uuid.UUID) -> dict[str, Any]:
    """A build's state, progress, proofs and files."""
    return BuildOut.of(looked_after(Build, build_id))


@router.post(
    "/{uuid:build_id}/cancel",
    response={200: BuildOut, 404: Problems},
    auth=OfBuild(changes=True, role=Role.EDIT),
)
def cancel(request: HttpRequest, build_id: uuid.UUID) -> dict[str, Any]:
    """Stop a build."""
    return BuildOut.of(cancel_job(Build, build_id))


@router.get(
    "/{uuid:build_id}/files/{str:suffix}", response={404: Problems}, auth=OfBuild(recorded=True)
)
def file(request: HttpRequest, build_id: uuid.UUID, suffix: str) -> FileResponse:
    """A proven file of a finished build, as a download. `suffix` is one of the build's formats."""
    build, stream = opened(Build, build_id, f".{suffix}")
    name = slugify(build.revision.design.name) or "part"
    return FileResponse(stream, as_attachment=True, filename=f"{name}.{suffix}")
