"""A whole shelf as one file, out and in: a ZIP of a list, shelf.json, and a recipe a revision. Nothing is lost either way.

Nothing of an archive is unpacked to disk, and only what its list names is read, up to the limits below.
"""

from __future__ import annotations

import io
import json
import uuid
import zipfile
from collections.abc import Callable, Iterator
from dataclasses import dataclass, field
from datetime import datetime
from typing import Annotated, Any, Literal

from django.db import transaction
from django.db.models import QuerySet
from library.models import ThreadForm
from library.services import keep_form
from metaspira.problems import Problem, RecipeError
from metaspira.recipe.reading import MAX_BYTES as MOST_RECIPE_BYTES
from pydantic import AwareDatetime, BaseModel, ConfigDict, Field, ValidationError

from designs.models import Design, Revision
from designs.services import name_of

FORMAT = "metaspira-shelf/1"
MOST_BYTES = 64_000_000
_LIST = "shelf.json"
_MOST_LIST_BYTES = 32_000_000
_MOST_READ = 1_000_000_000


class _Entry(BaseModel):
    model_config = ConfigDict(extra="forbid")


class _Revision(_Entry):
    number: Annotated[int, Field(ge=1)]
    created: AwareDatetime
    verdict: Literal["clear", "watch", "stop", "unusable"]
    wire_length: Annotated[float, Field(allow_inf_nan=False)] | None
    recipe: str


class _Design(_Entry):
    id: uuid.UUID
    created: AwareDatetime
    updated: AwareDatetime
    deleted: AwareDatetime | None
    revisions: Annotated[list[_Revision], Field(min_length=1, max_length=100_000)]


class _Form(_Entry):
    name: str
    unit: Literal["mm", "cm", "m", "in"]
    thread: dict[str, Any]


class _List(_Entry):
    format: Literal["metaspira-shelf/1"]
    designs: Annotated[list[_Design], Field(max_length=100_000)]
    forms: Annotated[list[_Form], Field(max_length=500)]


@dataclass
class TakenIn:
    """What became of an archive: names of the designs that are new here, that got further revisions, that were here
    already, and that are kept beside another one since their revisions differ; and of the forms that are new."""

    added: list[str] = field(default_factory=list)
    continued: list[str] = field(default_factory=list)
    same: list[str] = field(default_factory=list)
    beside: list[str] = field(default_factory=list)
    forms: list[str] = field(default_factory=list)


def archive(designs: QuerySet[Design]) -> bytes:
    """Designs with every revision, what was taken off the shelf too, and the library of forms."""
    data = io.BytesIO()
    with zipfile.ZipFile(data, "w", zipfile.ZIP_DEFLATED) as file:
        written = [_written(design, file) for design in designs.order_by("created", "pk")]
        forms = [
            {"name": form.name, "unit": form.unit, "thread": form.thread}
            for form in ThreadForm.objects.all()
        ]
        told = {"format": FORMAT, "designs": written, "forms": forms}
        file.writestr(_LIST, json.dumps(told, ensure_ascii=False, indent=1))
    return data.getvalue()


def take_in(data: bytes, known: QuerySet[Design], made: Callable[[uuid.UUID], None]) -> TakenIn:
    """Put what an archive holds on the shelf, all of it or nothing; only `known` designs are gone on with, and `made` is
    told of each that is new. Raises RecipeError."""
    if len(data) > MOST_BYTES:
        raise _refused(f"the archive has more than {MOST_BYTES} bytes", "bring the shelf in by parts")
    try:
        with zipfile.ZipFile(io.BytesIO(data)) as file, transaction.atomic():
            return _taken(_Reader(file), known, made)
    except (zipfile.BadZipFile, EOFError, NotImplementedError, RuntimeError, ValueError, OSError):
        raise _refused(
            "this is no archive of a shelf, or it is damaged", "give a file that a shelf was kept as"
        ) from None


class _Reader:
    """Reads the members of a ZIP, no more than the limits allow, whatever their heads say."""

    def __init__(self, file: zipfile.ZipFile) -> None:
        self.file, self.left = file, _MOST_READ

    def json(self, name: str, most: int) -> Any:
        try:
            with self.file.open(name) as member:
                text = member.read(most + 1)
        except KeyError:
            raise _refused(f"“{name[:80]}” is not in the archive", "keep the shelf again") from None
        self.left -= len(text)
        if len(text) > most or self.left < 0:
            raise _refused(f"“{name[:80]}” unpacks to too much", "bring the shelf in by parts")
        try:
            return json.loads(text, parse_constant=_no_constant)
        except (ValueError, RecursionError):
            raise _refused(f"“{name[:80]}” is not readable as JSON", "keep the shelf again") from None


def _taken(reader: _Reader, known: QuerySet[Design], made: Callable[[uuid.UUID], None]) -> TakenIn:
    try:
        told = _List.model_validate(reader.json(_LIST, _MOST_LIST_BYTES))
    except ValidationError as error:
        fault = error.errors()[0]
        where = "/".join(str(part) for part in fault["loc"])
        raise _refused(
            f"{_LIST} is not right at {where}: {fault['msg']}", "keep the shelf again"
        ) from None
    taken = TakenIn()
    for design in told.designs:
        if [revision.number for revision in design.revisions] != list(
            range(1, len(design.revisions) + 1)
        ):
            raise _refused(f"the revisions of {design.id} are not in order", "keep the shelf again")
        recipes = [_recipe(reader, revision) for revision in design.revisions]
        what, key = _put(design, recipes, known)
        getattr(taken, what).append(name_of(recipes[-1]))
        if what in ("added", "beside"):
            made(key)
    named = set(ThreadForm.objects.values_list("name", flat=True))
    for form in told.forms:
        if form.name not in named:
            keep_form(form.name, form.unit, form.thread)
            taken.forms.append(form.name)
    return taken


def _recipe(reader: _Reader, revision: _Revision) -> dict[str, Any]:
    recipe = reader.json(revision.recipe, MOST_RECIPE_BYTES)
    if not isinstance(recipe, dict):
        raise _refused(f"“{revision.recipe[:80]}” is no recipe", "keep the shelf again")
    return recipe


def _put(
    kept: _Design, recipes: list[dict[str, Any]], known: QuerySet[Design]
) -> tuple[Literal["added", "continued", "same", "beside"], uuid.UUID]:
    """What became of a design, and where it now is."""
    here = known.filter(pk=kept.id).first()
    if here is None:
        key = uuid.uuid4() if Design.objects.filter(pk=kept.id).exists() else kept.id
        _create(kept, key, recipes)
        return "added", key
    own = list(here.revisions.values_list("recipe", flat=True))
    shared = min(len(own), len(recipes))
    if own[:shared] != recipes[:shared]:
        key = uuid.uuid4()
        _create(kept, key, recipes)
        return "beside", key
    if len(recipes) == shared:
        return "same", kept.id
    _append(here, kept, recipes, shared)
    return "continued", kept.id


def _create(kept: _Design, key: uuid.UUID, recipes: list[dict[str, Any]]) -> None:
    design = Design.objects.create(pk=key, deleted=kept.deleted)
    _append(design, kept, recipes, 0)
    Design.objects.filter(pk=key).update(created=kept.created)


def _append(design: Design, kept: _Design, recipes: list[dict[str, Any]], after: int) -> None:
    rows = Revision.objects.bulk_create(
        Revision(
            design=design,
            number=revision.number,
            recipe=recipe,
            verdict=revision.verdict,
            wire_length=revision.wire_length,
        )
        for revision, recipe in zip(kept.revisions[after:], recipes[after:], strict=True)
    )
    for row, revision in zip(rows, kept.revisions[after:], strict=True):
        row.created = revision.created
    Revision.objects.bulk_update(rows, ["created"])
    Design.objects.filter(pk=design.pk).update(
        head=len(recipes), name=name_of(recipes[-1]), updated=kept.updated
    )


def _written(design: Design, file: zipfile.ZipFile) -> dict[str, Any]:
    return {
        "id": str(design.pk),
        **{name: _iso(getattr(design, name)) for name in ("created", "updated", "deleted")},
        "revisions": list(_revisions(design, file)),
    }


def _revisions(design: Design, file: zipfile.ZipFile) -> Iterator[dict[str, Any]]:
    for revision in design.revisions.all():
        name = f"designs/{design.pk}/{revision.number}.spira.json"
        file.writestr(name, json.dumps(revision.recipe, ensure_ascii=False, indent=1))
        yield {
            "number": revision.number,
            "created": _iso(revision.created),
            "verdict": revision.verdict,
            "wire_length": revision.wire_length,
            "recipe": name,
        }


def _iso(moment: datetime | None) -> str | None:
    return None if moment is None else moment.isoformat()


def _no_constant(name: str) -> float:
    raise ValueError(name)


def _refused(reason: str, remedy: str) -> RecipeError:
    return RecipeError(Problem("/file", reason, remedy))
