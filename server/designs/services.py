"""What is done with designs: made, saved, renamed, duplicated, deleted and brought back."""

from __future__ import annotations

import re
import time
import uuid
from collections.abc import Iterable
from functools import reduce
from operator import or_
from typing import Any

from django.db import OperationalError, transaction
from django.db.models import F, Q, QuerySet
from django.db.models.fields.json import KT
from django.utils import timezone
from jobs.services import forget
from metaspira.problems import Problem, RecipeError

from designs.meshes import packed
from designs.models import Design, Revision, Tag
from designs.verdicts import UNKNOWN, verdict_on

_AT_ONCE, _LOOKING_SECONDS = 20, 1.0

NEW_RECIPE: dict[str, Any] = {
    "format": "metaspira/1",
    "name": "New spring",
    "unit": "mm",
    "variables": {},
    "path": {
        "kind": "coil",
        "hand": "right",
        "start_angle": 0,
        "diameter": 20,
        "diameter_at": "mean",
        "turns": 8,
        "pitch": 6,
    },
    "section": {"kind": "round", "diameter": 2.5, "plane": "across"},
    "stance": {"kind": "outward"},
    "along": {},
    "use": {"as": "body"},
    "material": "spring-steel",
}


class Conflict(Exception):
    """The design was saved from elsewhere since; `head` is its newest revision's number."""

    def __init__(self, head: int):
        super().__init__(head)
        self.head = head


def create(recipe: dict[str, Any]) -> Revision:
    """A new design with its first revision."""
    verdict, wire_length = verdict_on(recipe)
    with transaction.atomic():
        design = Design.objects.create(name=name_of(recipe))
        return _append(design, recipe, verdict, wire_length)


def save(design_id: uuid.UUID, recipe: dict[str, Any], based_on: int) -> Revision:
    """A new revision on top of revision `based_on`. Raises Conflict where that is not the newest.

    What is typed is kept even where it cannot be used yet; its verdict then says so. Saving the newest
    recipe again makes no revision.
    """
    verdict, wire_length = verdict_on(recipe)
    with transaction.atomic():
        design = living(design_id)
        if design.head != based_on:
            raise Conflict(design.head)
        newest = design.revisions.select_related("design").get(number=design.head)
        if newest.kept == packed(recipe):
            return newest
        return _append(design, recipe, verdict, wire_length)


def rename(design_id: uuid.UUID, name: str) -> Revision:
    """A new revision that differs from the newest by its name."""
    newest = head(design_id)
    return save(design_id, {**newest.recipe, "name": name}, newest.number)


def tag(design: Design, names: Iterable[str]) -> None:
    """Give a design these tags in the place of those that it has."""
    with transaction.atomic():
        design.tags.all().delete()
        Tag.objects.bulk_create([Tag(design=design, name=name) for name in sorted(set(names))])


def duplicate(design_id: uuid.UUID) -> Revision:
    """A new design that starts as a copy of another's newest revision, with its tags."""
    original = head(design_id)
    made = create({**original.recipe, "name": f"{name_of(original.recipe)[:110]}, copy"})
    tag(made.design, original.design.tag_names)
    return made


def delete(design_id: uuid.UUID) -> None:
    """Take a design off the shelf; nothing of it is destroyed."""
    design = living(design_id)
    Design.objects.filter(pk=design.pk).update(deleted=timezone.now())


def restore(design_id: uuid.UUID) -> Revision:
    """Put a deleted design back on the shelf."""
    Design.objects.filter(pk=design_id).update(deleted=None)
    return head(design_id)


def gone(known: QuerySet[Design]) -> list[Design]:
    """Those of the `known` designs that were taken off the shelf, the latest first."""
    return list(known.exclude(deleted=None).order_by("-deleted"))


def purge(design_id: uuid.UUID) -> None:
    """Destroy a design that was taken off the shelf, with its revisions and what was built of them. Raises
    Design.DoesNotExist, and RecipeError where it stands on the shelf."""
    design = Design.objects.get(pk=design_id)
    if design.deleted is None:
        raise RecipeError(Problem("", "the design is on the shelf", "take it off first"))
    for related in Revision._meta.related_objects:
        jobs: Any = related.related_model._default_manager.filter(**{f"{related.field.name}__design": design})
        for job in jobs:
            forget(job)
    design.delete()


def living(design_id: uuid.UUID) -> Design:
    """A design that is on the shelf. Raises Design.DoesNotExist."""
    return Design.objects.get(pk=design_id, deleted=None)


def head(design_id: uuid.UUID) -> Revision:
    """The newest revision of a design on the shelf. Raises Design.DoesNotExist."""
    design = living(design_id)
    found = design.revisions.select_related("design").get(number=design.head)
    _look_at([found])
    return found


def revisions(design_id: uuid.UUID, before: int | None = None, most: int = 100) -> list[Revision]:
    """The last revisions of a design, or the last before one, `most` of them, the first one first; of those
    that nobody has looked at yet, some of the last get their verdicts. Raises Design.DoesNotExist."""
    design = living(design_id)
    asked = design.revisions.filter(number__lt=design.head + 1 if before is None else before)
    found = list(asked.defer("kept").order_by("-number")[:most])[::-1]
    _look_at(reversed(found))
    return found


def _look_at(revisions: Iterable[Revision]) -> None:
    """Find the verdicts of some that nobody has looked at yet, as many as a moment allows, and keep them
    where the database takes them now: who reads is not refused for it."""
    until = time.monotonic() + _LOOKING_SECONDS
    unknown = [revision for revision in revisions if revision.verdict == UNKNOWN]
    for count, revision in enumerate(unknown[:_AT_ONCE]):
        if count and time.monotonic() > until:
            return
        revision.verdict, revision.wire_length = verdict_on(revision.recipe)
        try:
            revision.save(update_fields=("verdict", "wire_length"))
        except OperationalError:
            return


_SEARCHED = (
    "kept__note",
    "kept__thread__designation",
    "kept__spring__wire",
    "kept__title_block__number",
    "kept__material",
)
_KINDS = {"spring_kind": "spring__kind", "thread_host": "host__kind", "path_kind": "path__kind"}


def shelf(search: str, known: QuerySet[Design]) -> list[Revision]:
    """The newest revision of each of the `known` designs on the shelf that holds every word of `search` in
    its name, tags, note, designation, wire or number; the newest first. Each says the kinds that it is of:
    that of its spring, of its thread's host, of its path; of those that came in with an archive and nobody
    has looked at yet, some get their verdicts."""
    heads = Revision.objects.filter(design__in=known.filter(deleted=None), number=F("design__head"))
    for word in search.split():
        pattern = re.escape(word)
        tagged = Tag.objects.filter(name__iregex=pattern)
        held = (Q(**{f"{place}__iregex": pattern}) for place in ("design__name", *_SEARCHED))
        heads = heads.filter(reduce(or_, held, Q(design__in=tagged.values("design"))))
    kinds = {name: KT(f"kept__{place}") for name, place in _KINDS.items()}
    listed = heads.annotate(**kinds).select_related("design").prefetch_related("design__tags")
    found = list(listed.defer("kept").order_by("-design__updated"))
    _look_at(found)
    return found


def _append(design: Design, recipe: dict[str, Any], verdict: str, wire_length: float | None) -> Revision:
    design.head += 1
    design.name = name_of(recipe)
    design.save()
    return Revision.objects.create(
        design=design,
        number=design.head,
        kept=packed(recipe),
        verdict=verdict,
        wire_length=wire_length,
    )


def name_of(recipe: dict[str, Any]) -> str:
    """What a design of this recipe is called."""
    name = recipe.get("name")
    return name[:120] if isinstance(name, str) and name.strip() else "Unnamed"
