"""A whole shelf as one file, out and in: a ZIP of a list, shelf.json, a recipe a revision, and each mesh that recipes name by
its digest. Nothing is lost either way. Archives whose recipes hold their meshes themselves are taken in as well.

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
from metaspira.recipe.reading import read_json
from pydantic import AwareDatetime, BaseModel, ConfigDict, Field, ValidationError

from designs.meshes import digest_of, digests_in, filled, keep, named
from designs.models import Design, Mesh, Revision
from designs.services import name_of
from designs.verdicts import UNKNOWN, verdict_on

FORMAT = "metaspira-shelf/2"
MOST_BYTES = 64_000_000
_LIST = "shelf.json"
_AT_ONCE = 50
_MOST_LIST_BYTES = 8_000_000
_MOST_MEMBERS = 30_000
MOST_UNPACKED = 400_000_000


class _Entry(BaseModel):
    model_config = ConfigDict(extra="forbid")


class _Revision(_Entry):
    """What the archive says of verdict and length is not believed."""

    number: Annotated[int, Field(ge=1)]
    created: AwareDatetime
    verdict: Any = None
    wire_length: Any = None
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
    format: Literal["metaspira-shelf/1", "metaspira-shelf/2"]
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
    """Designs with every revision, what was taken off the shelf too, and the library of forms. Raises RecipeError
    where that is more than could be taken in again."""
    data = io.BytesIO()
    with zipfile.ZipFile(data, "w", zipfile.ZIP_DEFLATED) as file:
        written = [_written(design, file) for design in designs.order_by("created", "pk")]
        forms = [
            {"name": form.name, "unit": form.unit, "thread": form.thread}
            for form in ThreadForm.objects.all()
        ]
        for mesh in Mesh.objects.filter(digest__in=_named_by(designs)).iterator(_AT_ONCE):
            file.writestr(_mesh_name(mesh.digest), json.dumps(mesh.triangles))
        told = {"format": FORMAT, "designs": written, "forms": forms}
        file.writestr(_LIST, json.dumps(told, ensure_ascii=False, indent=1))
        unpacked = sum(member.file_size for member in file.infolist())
    if data.tell() > MOST_BYTES or unpacked > MOST_UNPACKED:
        raise _refused("the shelf is larger than an archive may be", "keep its designs one by one")
    return data.getvalue()


@dataclass(frozen=True)
class Asker:
    """Who brings an archive in: the designs that they may read, and change; what is told of each design that is new, and of
    each that got revisions; and what they are called in the library."""

    known: QuerySet[Design]
    editable: QuerySet[Design]
    made: Callable[[uuid.UUID], None]
    changed: Callable[[uuid.UUID], None]
    name: str


def take_in(data: bytes, asker: Asker) -> TakenIn:
    """Put what an archive holds on the shelf, all of it or nothing. A design that the asker may not change comes in as a
    copy. Verdicts are found anew, whatever the archive says. Raises RecipeError."""
    if len(data) > MOST_BYTES:
        raise _refused(f"the archive has more than {MOST_BYTES} bytes", "bring the shelf in by parts")
    try:
        with zipfile.ZipFile(io.BytesIO(data)) as file:
            reader = _Reader(file)
            told, verdicts = _checked(reader)
            with transaction.atomic():
                return _taken(told, verdicts, reader, asker)
    except (zipfile.BadZipFile, EOFError, NotImplementedError, RuntimeError, ValueError, OSError):
        raise _refused(
            "this is no archive of a shelf, or it is damaged", "give a file that a shelf was kept as"
        ) from None


_Verdict = tuple[str, float | None]
"""A verdict and the length of wire, mm."""


class _Reader:
    """Reads the members of a ZIP, no more than the limits allow, whatever their heads say."""

    def __init__(self, file: zipfile.ZipFile) -> None:
        self.file = file
        members = file.infolist()
        names = {member.filename for member in members}
        if len(members) > _MOST_MEMBERS or len(names) < len(members):
            raise _refused(
                f"the archive holds more than {_MOST_MEMBERS} files, or one twice",
                "keep the shelf again",
            )
        if sum(member.file_size for member in members) > MOST_UNPACKED:
            raise _refused(
                f"the archive unpacks to more than {MOST_UNPACKED} bytes", "bring the shelf in by parts"
            )

    def json(self, name: str, most: int) -> Any:
        try:
            with self.file.open(name) as member:
                text = member.read(most + 1)
        except KeyError:
            raise _refused(f"“{name[:80]}” is not in the archive", "keep the shelf again") from None
        if len(text) > most:
            raise _refused(f"“{name[:80]}” unpacks to too much", "bring the shelf in by parts")
        try:
            return read_json(text)
        except RecipeError as error:
            raise _refused(
                f"“{name[:80]}”: {error.problems[0].reason}", "keep the shelf again"
            ) from None

    def mesh(self, digest: str) -> dict[str, Any]:
        """A mesh by its digest, which it is held against."""
        found = self.json(_mesh_name(digest), MOST_RECIPE_BYTES)
        if not isinstance(found, dict) or digest_of(found) != digest:
            raise _refused(
                f"the mesh “{digest[:80]}” is not what its name says", "keep the shelf again"
            )
        return found


def _checked(reader: _Reader) -> tuple[_List, list[_Verdict]]:
    """The list of an archive all of which has been read once, so that nothing in it is refused later; and the verdict on the
    newest revision of each design, found before anything is locked."""
    try:
        told = _List.model_validate(reader.json(_LIST, _MOST_LIST_BYTES))
    except ValidationError as error:
        fault = error.errors()[0]
        where = "/".join(str(part) for part in fault["loc"])
        raise _refused(
            f"{_LIST} is not right at {where}: {fault['msg']}", "keep the shelf again"
        ) from None
    seen: set[str] = set()
    sound: set[str] = set()
    verdicts: list[_Verdict] = []
    for design in told.designs:
        numbers = [revision.number for revision in design.revisions]
        if numbers != list(range(1, len(numbers) + 1)):
            raise _refused(f"the revisions of {design.id} are not in order", "keep the shelf again")
        kept: dict[str, Any] = {}
        brought: dict[str, dict[str, Any]] = {}
        for revision in design.revisions:
            if revision.recipe in seen:
                raise _refused(f"“{revision.recipe[:80]}” is listed twice", "keep the shelf again")
            seen.add(revision.recipe)
            kept, brought = _recipe(reader, revision)
            for digest in digests_in(kept) - brought.keys() - sound:
                reader.mesh(digest)
                sound.add(digest)
        known = {
            **{digest: reader.mesh(digest) for digest in digests_in(kept) - brought.keys()},
            **brought,
        }
        verdicts.append(verdict_on(filled(kept, known)))
    return told, verdicts


def _taken(told: _List, verdicts: list[_Verdict], reader: _Reader, asker: Asker) -> TakenIn:
    taken = TakenIn()
    here: set[str] = set()
    for design, verdict in zip(told.designs, verdicts, strict=True):
        recipes = [
            _put_meshes(reader, *_recipe(reader, revision), here) for revision in design.revisions
        ]
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


def _recipe(reader: _Reader, revision: _Revision) -> tuple[dict[str, Any], dict[str, dict[str, Any]]]:
    """A recipe that names its meshes, and the meshes that it brought itself."""
    recipe = reader.json(revision.recipe, MOST_RECIPE_BYTES)
    if not isinstance(recipe, dict):
        raise _refused(f"“{revision.recipe[:80]}” is no recipe", "keep the shelf again")
    brought: dict[str, dict[str, Any]] = {}
    return named(recipe, brought), brought


def _put_meshes(
    reader: _Reader, kept: dict[str, Any], brought: dict[str, dict[str, Any]], here: set[str]
) -> dict[str, Any]:
    """The recipe, whose meshes are kept now; their digests are `here` from now on."""
    for digest in digests_in(kept) - here:
        keep(digest, brought[digest] if digest in brought else reader.mesh(digest))
        here.add(digest)
    return kept


def _put(
    kept: _Design, recipes: list[dict[str, Any]], verdict: _Verdict, asker: Asker
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


def _back(here: Design, kept: _Design) -> bool:
    """Put a design back on the shelf where the archive has it there."""
    if not here.deleted or kept.deleted:
        return False
    Design.objects.filter(pk=here.pk).update(deleted=None)
    return True


def _create(kept: _Design, key: uuid.UUID, recipes: list[dict[str, Any]], verdict: _Verdict) -> None:
    design = Design.objects.create(pk=key, deleted=kept.deleted)
    _append(design, kept, recipes, verdict, 0)
    Design.objects.filter(pk=key).update(created=kept.created)


def _append(
    design: Design, told: _Design, recipes: list[dict[str, Any]], verdict: _Verdict, after: int
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


def _named_by(designs: QuerySet[Design]) -> set[str]:
    """The digests of the meshes that stand in any revision of designs."""
    kept = Revision.objects.filter(design__in=designs).values_list("kept", flat=True)
    return {digest for recipe in kept.iterator() for digest in digests_in(recipe)}


def _mesh_name(digest: str) -> str:
    return f"meshes/{digest}.json"


def _written(design: Design, file: zipfile.ZipFile) -> dict[str, Any]:
    return {
        "id": str(design.pk),
        **{name: _iso(getattr(design, name)) for name in ("created", "updated", "deleted")},
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


def _refused(reason: str, remedy: str) -> RecipeError:
    return RecipeError(Problem("/file", reason, remedy))
