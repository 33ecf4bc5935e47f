"""Designs on the shelf, and their revisions."""

from __future__ import annotations

import json
import uuid
from typing import Annotated, Any

from builds.services import request_build
from designs import services
from designs.models import Design, Revision
from django.http import HttpRequest, HttpResponse
from jobs.files import file_stem
from metaspira.numbers.kind import kinds_of, tag_of, title_of
from metaspira.paths import PathBase
from metaspira.problems import RecipeError
from ninja import Field, Router, Status
from people.access import asker, own, owners, visible
from people.permissions import EDITOR, MAKER, MEMBER, OWNER, READER, InDesign

from api.downloads import download, gives, small_picture
from api.schemas import (
    BuildOut,
    ConflictOut,
    DesignOut,
    GoneOut,
    NewDesign,
    OnShelf,
    Problems,
    Rename,
    RevisionOut,
    Save,
    ShelfItem,
    Tagging,
    Wanted,
)

router = Router()

_PATHS = {tag_of(kind): title_of(kind) for kind in kinds_of(PathBase)}


@router.get("", response=list[OnShelf], auth=MEMBER)
def shelf(request: HttpRequest, search: str = "") -> list[dict[str, Any]]:
    """The designs that hold every word of `search` in name, tags, note, designation, wire or number; the
    latest first."""
    known = visible(request)
    whose = owners(known)
    return [
        ShelfItem.of(revision)
        | {
            "kind": kind_of(revision),
            "tags": revision.design.tag_names,
            "owners": whose.get(revision.design_id, []),
        }
        for revision in services.shelf(search, known)
    ]


def kind_of(revision: Any) -> str:
    """What a design on the shelf is, in a few words."""
    if revision.spring_kind:
        return f"{revision.spring_kind} spring"
    return "thread" if revision.thread_host else _PATHS.get(revision.path_kind, "")


@router.post("", response={201: DesignOut}, auth=MAKER)
def create(request: HttpRequest, body: NewDesign) -> Status[dict[str, Any]]:
    """A new design, from a recipe or from the usual start."""
    made = services.create(body.recipe or services.NEW_RECIPE)
    own(request, made.design_id)
    return Status(201, DesignOut.of(made))


@router.get("/gone", response=list[GoneOut], auth=MEMBER)
def gone(request: HttpRequest) -> list[Design]:
    """The designs that were taken off the shelf, the latest first."""
    return services.gone(visible(request))


@router.delete("/{uuid:design_id}/forever", response={204: None, 404: Problems, 422: Problems}, auth=OWNER)
def purge(request: HttpRequest, design_id: uuid.UUID) -> Status[None]:
    """Destroy a design that was taken off the shelf, with its revisions, builds and files."""
    services.purge(design_id)
    return Status(204, None)


@router.get("/{uuid:design_id}", response={200: DesignOut, 404: Problems}, auth=READER)
def read(request: HttpRequest, design_id: uuid.UUID) -> dict[str, Any]:
    """A design at its newest revision."""
    return DesignOut.of(services.head(design_id))


@router.put("/{uuid:design_id}", response={200: DesignOut, 404: Problems, 409: ConflictOut}, auth=EDITOR)
def save(request: HttpRequest, design_id: uuid.UUID, body: Save) -> dict[str, Any]:
    """A new revision on top of `based_on`; refused where another was saved meanwhile."""
    return DesignOut.of(services.save(design_id, body.recipe, body.based_on))


@router.put("/{uuid:design_id}/name", response={200: ShelfItem, 404: Problems, 409: ConflictOut}, auth=EDITOR)
def rename(request: HttpRequest, design_id: uuid.UUID, body: Rename) -> dict[str, Any]:
    """Give a design another name."""
    return ShelfItem.of(services.rename(design_id, body.name))


@router.put("/{uuid:design_id}/tags", response={204: None, 404: Problems}, auth=EDITOR)
def tag(request: HttpRequest, design_id: uuid.UUID, body: Tagging) -> Status[None]:
    """Give a design these tags in the place of those that it has."""
    services.tag(services.living(design_id), body.tags)
    return Status(204, None)


@router.post("/{uuid:design_id}/copy", response={201: DesignOut, 404: Problems}, auth=InDesign(changes=True))
def duplicate(request: HttpRequest, design_id: uuid.UUID) -> Status[dict[str, Any]]:
    """A new design that starts as this one."""
    made = services.duplicate(design_id)
    own(request, made.design_id)
    return Status(201, DesignOut.of(made))


@router.delete("/{uuid:design_id}", response={204: None, 404: Problems}, auth=OWNER)
def delete(request: HttpRequest, design_id: uuid.UUID) -> Status[None]:
    """Take a design off the shelf; it can be restored."""
    services.delete(design_id)
    return Status(204, None)


@router.post("/{uuid:design_id}/restore", response={200: ShelfItem, 404: Problems}, auth=OWNER)
def restore(request: HttpRequest, design_id: uuid.UUID) -> dict[str, Any]:
    """Put a deleted design back."""
    return ShelfItem.of(services.restore(design_id))


@router.get(
    "/{uuid:design_id}/recipe",
    response={404: Problems},
    openapi_extra=gives("The recipe", "application/json"),
    auth=InDesign(recorded=True),
)
def recipe(request: HttpRequest, design_id: uuid.UUID) -> HttpResponse:
    """The newest recipe of a design as a file, as the command line takes it."""
    revision = services.head(design_id)
    text = json.dumps(revision.recipe, ensure_ascii=False, indent=2)
    return download(text, f"{file_stem(revision.design.name)}.spira.json", "application/json")


@router.get("/{uuid:design_id}/revisions", response={200: list[RevisionOut], 404: Problems}, auth=READER)
def revisions(
    request: HttpRequest,
    design_id: uuid.UUID,
    before: Annotated[int | None, Field(ge=1, le=2**31)] = None,
    limit: Annotated[int, Field(ge=1, le=1000)] = 100,
) -> list[Revision]:
    """The last `limit` revisions of a design, or the last `before` one of them, the first one first."""
    return services.revisions(design_id, before, limit)


@router.get("/{uuid:design_id}/revisions/{int:number}", response={200: DesignOut, 404: Problems}, auth=READER)
def revision(request: HttpRequest, design_id: uuid.UUID, number: int) -> dict[str, Any]:
    """A design as it was at one revision."""
    return DesignOut.of(services.living(design_id).revisions.get(number=number))


@router.get("/{uuid:design_id}/revisions/{int:number}/picture", response={404: Problems}, auth=READER)
def revision_picture(request: HttpRequest, design_id: uuid.UUID, number: int) -> HttpResponse:
    """A small picture (PNG) of a revision; 404 where it cannot be made into a part."""
    found = services.living(design_id).revisions.get(number=number)
    try:
        return small_picture(str(found.pk), lambda: found.recipe)
    except RecipeError:
        return HttpResponse(status=404)


@router.get("/{uuid:design_id}/builds", response={200: list[BuildOut], 404: Problems}, auth=READER)
def builds(request: HttpRequest, design_id: uuid.UUID) -> list[dict[str, Any]]:
    """The last build of a design's newest revision, if there is one."""
    newest = services.head(design_id)
    return [BuildOut.of(build) for build in newest.builds.order_by("-created")[:1]]


@router.post("/{uuid:design_id}/builds", response={202: BuildOut, 404: Problems, 422: Problems}, auth=EDITOR)
def build(request: HttpRequest, design_id: uuid.UUID, body: Wanted | None = None) -> Status[dict[str, Any]]:
    """Start building the newest revision's solid and files."""
    wanted = body or Wanted()
    made = request_build(design_id, wanted.formats, wanted.chord_error, asker(request))
    return Status(202, BuildOut.of(made))
