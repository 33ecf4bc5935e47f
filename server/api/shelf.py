"""The whole shelf as one file, out and in."""

from __future__ import annotations

import uuid
from functools import partial
from typing import Annotated, Any

from designs.archive import Asker, archive, take_in
from designs.archived import MOST_BYTES
from django.http import HttpRequest, HttpResponse
from ninja import File, Query, Router
from ninja.files import UploadedFile
from people.access import asker, editable, own, visible, write_down
from people.permissions import MAKER, Rule

from api.downloads import download, gives
from api.schemas import Problems, TakenInOut

router = Router()


@router.get("/archive", openapi_extra=gives("The archive", "application/zip"), auth=Rule(recorded=True))
def keep(request: HttpRequest, design: Annotated[list[uuid.UUID], Query([])]) -> HttpResponse:
    """Every `design` that is named, or every one, with all its revisions, and the library of forms, as one
    ZIP."""
    designs = visible(request).filter(pk__in=design) if design else visible(request)
    return download(archive(designs), "metaspira-shelf.zip", "application/zip")


@router.post("/archive", response={200: TakenInOut, 422: Problems}, auth=MAKER)
def bring_in(request: HttpRequest, file: File[UploadedFile]) -> dict[str, Any]:
    """Put what an archive holds on the shelf. What is here stays: a design goes on where the archive has
    further revisions of it, and stands beside it where they differ."""
    who = Asker(
        visible(request),
        editable(request),
        made=partial(own, request),
        changed=partial(write_down, request),
        name=asker(request),
    )
    return vars(take_in(file.read(MOST_BYTES + 1), who))
