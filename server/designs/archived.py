"""A kept shelf as it comes from outside: its list, its members, and how much they may hold.

No database is needed here, so that a child process can read all of an archive before anything is done with
it.
"""

from __future__ import annotations

import io
import uuid
import zipfile
from collections.abc import Iterator
from contextlib import contextmanager
from typing import Annotated, Any, Literal

from metaspira.numbers.shown import LengthUnit
from metaspira.problems import Problem, RecipeError
from metaspira.recipe.reading import MAX_BYTES as MOST_RECIPE_BYTES
from metaspira.recipe.reading import read_json
from pydantic import AwareDatetime, BaseModel, ConfigDict, Field, StringConstraints, ValidationError

from designs.naming import digest_of, digests_in, named

FORMAT = "metaspira-shelf/2"
LIST = "shelf.json"
MOST_BYTES = 64_000_000
MOST_UNPACKED = 400_000_000
_MOST_LIST_BYTES = 8_000_000
_MOST_MEMBERS = 30_000


TagName = Annotated[
    str, StringConstraints(strip_whitespace=True, min_length=1, max_length=40, pattern=r"^[^,]*$")
]
Tags = Annotated[tuple[TagName, ...], Field(max_length=20)]
"""The words that a design is found by."""


class Entry(BaseModel):
    model_config = ConfigDict(extra="forbid")


class ListedRevision(Entry):
    """What the archive says of verdict and length is not believed."""

    number: Annotated[int, Field(ge=1)]
    created: AwareDatetime
    verdict: Any = None
    wire_length: Any = None
    recipe: str


class ListedDesign(Entry):
    id: uuid.UUID
    created: AwareDatetime
    updated: AwareDatetime
    deleted: AwareDatetime | None
    tags: Tags = ()
    revisions: Annotated[list[ListedRevision], Field(min_length=1, max_length=100_000)]


class ListedForm(Entry):
    name: str
    unit: LengthUnit
    thread: dict[str, Any]


class Listed(Entry):
    format: Literal["metaspira-shelf/1", "metaspira-shelf/2"]
    designs: Annotated[list[ListedDesign], Field(max_length=100_000)]
    forms: Annotated[list[ListedForm], Field(max_length=500)]


class Reader:
    """Reads the members of a ZIP, no more than the limits allow, whatever their heads say."""

    def __init__(self, file: zipfile.ZipFile) -> None:
        self.file = file
        members = file.infolist()
        names = {member.filename for member in members}
        if len(members) > _MOST_MEMBERS or len(names) < len(members):
            raise refused(
                f"the archive holds more than {_MOST_MEMBERS} files, or one twice",
                "keep the shelf again",
            )
        if sum(member.file_size for member in members) > MOST_UNPACKED:
            raise refused(
                f"the archive unpacks to more than {MOST_UNPACKED} bytes", "bring the shelf in by parts"
            )

    def json(self, name: str, most: int) -> Any:
        """The strict JSON of a member of at most `most` bytes."""
        try:
            with self.file.open(name) as member:
                text = member.read(most + 1)
        except KeyError:
            raise refused(f"“{name[:80]}” is not in the archive", "keep the shelf again") from None
        if len(text) > most:
            raise refused(f"“{name[:80]}” unpacks to too much", "bring the shelf in by parts")
        try:
            return read_json(text)
        except RecipeError as error:
            raise refused(f"“{name[:80]}”: {error.problems[0].reason}", "keep the shelf again") from None

    def mesh(self, digest: str) -> dict[str, Any]:
        """A mesh by its digest, which it is held against."""
        found = self.json(mesh_name(digest), MOST_RECIPE_BYTES)
        if not isinstance(found, dict) or digest_of(found) != digest:
            raise refused(f"the mesh “{digest[:80]}” is not what its name says", "keep the shelf again")
        return found


@contextmanager
def opened(data: bytes) -> Iterator[Reader]:
    """The reader of an archive. Raises RecipeError where it is none, there and while it is read."""
    if len(data) > MOST_BYTES:
        raise refused(f"the archive has more than {MOST_BYTES} bytes", "bring the shelf in by parts")
    try:
        with zipfile.ZipFile(io.BytesIO(data)) as file:
            yield Reader(file)
    except (zipfile.BadZipFile, EOFError, NotImplementedError, RuntimeError, ValueError, OSError):
        raise refused(
            "this is no archive of a shelf, or it is damaged", "give a file that a shelf was kept as"
        ) from None


def listed(reader: Reader) -> Listed:
    """What an archive says that it holds. Raises RecipeError."""
    try:
        told = Listed.model_validate(reader.json(LIST, _MOST_LIST_BYTES))
    except ValidationError as error:
        fault = error.errors()[0]
        where = "/".join(str(part) for part in fault["loc"])
        raise refused(f"{LIST} is not right at {where}: {fault['msg']}", "keep the shelf again") from None
    seen: set[str] = set()
    for design in told.designs:
        numbers = [revision.number for revision in design.revisions]
        if numbers != list(range(1, len(numbers) + 1)):
            raise refused(f"the revisions of {design.id} are not in order", "keep the shelf again")
        for revision in design.revisions:
            if revision.recipe in seen:
                raise refused(f"“{revision.recipe[:80]}” is listed twice", "keep the shelf again")
            seen.add(revision.recipe)
    return told


def recipe_in(reader: Reader, revision: ListedRevision) -> tuple[dict[str, Any], dict[str, dict[str, Any]]]:
    """A recipe that names its meshes, and the meshes that it brought itself."""
    recipe = reader.json(revision.recipe, MOST_RECIPE_BYTES)
    if not isinstance(recipe, dict):
        raise refused(f"“{revision.recipe[:80]}” is no recipe", "keep the shelf again")
    brought: dict[str, dict[str, Any]] = {}
    return named(recipe, brought), brought


def examine(data: bytes) -> None:
    """Read all of an archive once, so that nothing in it is refused later. Raises RecipeError."""
    sound: set[str] = set()
    with opened(data) as reader:
        for design in listed(reader).designs:
            for revision in design.revisions:
                kept, brought = recipe_in(reader, revision)
                for digest in digests_in(kept) - brought.keys() - sound:
                    reader.mesh(digest)
                    sound.add(digest)


def mesh_name(digest: str) -> str:
    """The member that holds a mesh."""
    return f"meshes/{digest}.json"


def refused(reason: str, remedy: str) -> RecipeError:
    """The refusal of an archive."""
    return RecipeError(Problem("/file", reason, remedy))
