"""A whole shelf as one file, out and in: a ZIP of a list, shelf.json, a recipe a revision, and each mesh that
recipes name by its digest. Nothing is lost either way. Archives whose recipes hold their meshes themselves
are taken in as well.

Nothing of an archive is unpacked to disk, and only what its list names is read; a child process with limits
reads it first.
"""

from __future__ import annotations

import io
import json
import time
import uuid
import zipfile
from collections.abc import Callable, Iterator
from dataclasses import dataclass, field
from datetime import datetime
from typing import Any, Literal

from django.db import transaction
from django.db.models import QuerySet
from library.models import ThreadForm
from library.services import keep_form
from metaspira.formats.limited import limited

from designs.archived import (
    FORMAT,
    LIST,
    MOST_BYTES,
    MOST_UNPACKED,
    Listed,
    ListedDesign,
    Reader,
    examine,
    listed,
    mesh_name,
    opened,
    recipe_in,
    refused,
)
from designs.meshes import keep
from designs.models import Design, Mesh, Revision
from designs.naming import digests_in, filled
from designs.services import name_of, tag
from designs.verdicts import UNKNOWN, verdict_on

_AT_ONCE = 50
_SECONDS, _MEMORY = 20, 450 * 2**20
_LOOKING_SECONDS = 5.0


@dataclass
class TakenIn:
    """What became of an archive: names of the designs that are new here, that got further revisions, that
    were here already, and that are kept beside another one since their revisions differ; and of the forms
    that are new."""

    added: list[str] = field(default_factory=list)
    continued: list[str] = field(default_factory=list)
    same: list[str] = field(default_factory=list)
    beside: list[str] = field(default_factory=list)
    forms: list[str] = field(default_factory=list)


def archive(designs: QuerySet[Design]) -> bytes:
    """Designs with every revision, what was taken off the shelf too, and the library of forms. Raises
    RecipeError where that is more than could be taken in again."""
    data = io.BytesIO()
    with zipfile.ZipFile(data, "w", zipfile.ZIP_DEFLATED) as file:
        written = [_written(design, file) for design in designs.order_by("created", "pk")]
        forms = [
            {"name": form.name, "unit": form.unit, "thread": form.thread} for form in ThreadForm.objects.all()
        ]
        for mesh in Mesh.objects.filter(digest__in=_named_by(designs)).iterator(_AT_ONCE):
            file.writestr(mesh_name(mesh.digest), json.dumps(mesh.triangles))
        told = {"format": FORMAT, "designs": written, "forms": forms}
        file.writestr(LIST, json.dumps(told, ensure_ascii=False, indent=1))
        unpacked = sum(member.file_size for member in file.infolist())
    if data.tell() > MOST_BYTES or unpacked > MOST_UNPACKED:
        raise refused("the shelf is larger than an archive may be", "keep its designs one by one")
    return data.getvalue()


@dataclass(frozen=True)
class Asker:
    """Who brings an archive in: the designs that they may read, and change; what is told of each design that
    is new, and of each that got revisions; and what they are called in the library."""

    known: QuerySet[Design]
    editable: QuerySet[Design]
    made: Callable[[uuid.UUID], None]
    changed: Callable[[uuid.UUID], None]
    name: str


def take_in(data: bytes, asker: Asker) -> TakenIn:
    """Put what an archive holds on the shelf, all of it or nothing. A design that the asker may not change
    comes in as a copy. Verdicts are found anew, whatever the archive says. Raises RecipeError."""
    limited(_SECONDS, _MEMORY, examine, data)
    with opened(data) as reader:
        told = listed(reader)
        verdicts = _verdicts(told, reader)
        with transaction.atomic():
            return _taken(told, verdicts, reader, asker)


_Verdict = tuple[str, float | None]
"""A verdict and the length of wire, mm."""


def _verdicts(told: Listed, reader: Reader) -> list[_Verdict]:
    """The verdict on the newest revision of each design; of many, those that there is no time for are looked
    at when the shelf is shown."""
    found: list[_Verdict] = []
    until = time.monotonic() + _LOOKING_SECONDS
    for design in told.designs:
        if time.monotonic() > until:
            found += [(UNKNOWN, None)] * (len(told.designs) - len(found))
            break
        kept, brought = recipe_in(reader, design.revisions[-1])
        named = {digest: reader.mesh(digest) for digest in digests_in(kept) - brought.keys()}
        found.append(verdict_on(filled(kept, {**named, **brought})))
    return found


def _taken(told: Listed, verdicts: list[_Verdict], reader: Reader, asker: Asker) -> TakenIn:
    taken = TakenIn()
    here: set[str] = set()
    for design, verdict in zip(told.designs, verdicts, strict=True):
        recipes = [_put_meshes(reader, *recipe_in(reader, revision), here) for revision in design.revisions]
        what, key = _put(design, recipes, verdict, asker)
        getattr(taken, what).append(name_of(recipes[-1]))
        if what in ("added", "beside"):
            asker.made(key)
        if what != "same":
            asker.changed(key)
    named = set(ThreadForm.objects.values_list("name", flat=True))
    for form in told.forms:
        if form.name.strip()[:120] not in named:
            keep_form(form.name, form.unit, form.thread, asker.name)
            taken.forms.append(form.name)
    return taken


def _put_meshes(
    reader: Reader, kept: dict[str, Any], brought: dict[str, dict[str, Any]], here: set[str]
) -> dict[str, Any]:
    """The recipe, whose meshes are kept now; their digests are `here` from now on."""
    for digest in digests_in(kept) - here:
        keep(digest, brought[digest] if digest in brought else reader.mesh(digest))
        here.add(digest)
    return kept


def _put(
    kept: ListedDesign, recipes: list[dict[str, Any]], verdict: _Verdict, asker: Asker
) -> tuple[Literal["added", "continued", "same", "beside"], uuid.UUID]:
    """What became of a design, and where it now is."""
    here = asker.known.filter(pk=kept.id).first()
    if here is None:
        key = uuid.uuid4() if Design.objects.filter(pk=kept.id).exists() else kept.id
        _create(kept, key, recipes, verdict)
        return "added", key
    may_edit = asker.editable.filter(pk=kept.id).exists()
    own = list(here.revisions.values_list("kept", flat=True))
    shared = min(len(own), len(recipes))
    if own[:shared] == recipes[:shared] and len(recipes) == shared:
        if may_edit and _back(here, kept):
            asker.changed(kept.id)
        return "same", kept.id
    if own[:shared] != recipes[:shared] or not may_edit:
        key = uuid.uuid4()
        _create(kept, key, recipes, verdict)
        return "beside", key
    _append(here, kept, recipes, verdict, shared)
    _back(here, kept)
    return "continued", kept.id


def _back(here: Design, kept: ListedDesign) -> bool:
    """Put a design back on the shelf where the archive has it there."""
    if not here.deleted or kept.deleted:
        return False
    Design.objects.filter(pk=here.pk).update(deleted=None)
    return True


def _create(kept: ListedDesign, key: uuid.UUID, recipes: list[dict[str, Any]], verdict: _Verdict) -> None:
    design = Design.objects.create(pk=key, deleted=kept.deleted)
    _append(design, kept, recipes, verdict, 0)
    Design.objects.filter(pk=key).update(created=kept.created)


def _append(
    design: Design, told: ListedDesign, recipes: list[dict[str, Any]], verdict: _Verdict, after: int
) -> None:
    rows = [
        Revision(design=design, number=revision.number, kept=kept, verdict=UNKNOWN)
        for revision, kept in zip(told.revisions[after:], recipes[after:], strict=True)
    ]
    rows[-1].verdict, rows[-1].wire_length = verdict
    Revision.objects.bulk_create(rows)
    for row, revision in zip(rows, told.revisions[after:], strict=True):
        row.created = revision.created
    Revision.objects.bulk_update(rows, ["created"])
    Design.objects.filter(pk=design.pk).update(
        head=len(recipes), name=name_of(recipes[-1]), updated=told.updated
    )
    tag(design, {*told.tags, *design.tag_names})


def _named_by(designs: QuerySet[Design]) -> set[str]:
    """The digests of the meshes that stand in any revision of designs."""
    kept = Revision.objects.filter(design__in=designs).values_list("kept", flat=True)
    return {digest for recipe in kept.iterator() for digest in digests_in(recipe)}


def _written(design: Design, file: zipfile.ZipFile) -> dict[str, Any]:
    return {
        "id": str(design.pk),
        **{name: _iso(getattr(design, name)) for name in ("created", "updated", "deleted")},
        "tags": design.tag_names,
        "revisions": list(_revisions(design, file)),
    }


def _revisions(design: Design, file: zipfile.ZipFile) -> Iterator[dict[str, Any]]:
    for revision in design.revisions.iterator(_AT_ONCE):
        name = f"designs/{design.pk}/{revision.number}.spira.json"
        file.writestr(name, json.dumps(revision.kept, ensure_ascii=False, indent=1))
        yield {
            "number": revision.number,
            "created": _iso(revision.created),
            "verdict": revision.verdict,
            "wire_length": revision.wire_length,
            "recipe": name,
        }


def _iso(moment: datetime | None) -> str | None:
    return None if moment is None else moment.isoformat()
