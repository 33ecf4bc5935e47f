"""The recipe's model: the file format, the API's body and the command line's input."""

from __future__ import annotations

from typing import Annotated, Any, Literal

from pydantic import Discriminator, Field, StringConstraints, Tag, TypeAdapter

from metaspira.materials import Finish, MaterialChoice, OwnMaterial
from metaspira.numbers.fields import Length, Quantity
from metaspira.numbers.kind import Kind, Words
from metaspira.numbers.shown import LengthUnit
from metaspira.paths import PathKind
from metaspira.recipe.expected import Expected
from metaspira.recipe.title_block import TitleBlock
from metaspira.references.fit import Fit
from metaspira.sections import SectionKind
from metaspira.springs.asked import AskedSpring
from metaspira.strands import Strands
from metaspira.sweep.along import Along
from metaspira.sweep.ends import Ends
from metaspira.sweep.stances import StanceKind
from metaspira.threads.asked import AskedThread, Mate
from metaspira.threads.hosts import Host
from metaspira.threads.joint.asked import AskedJoint
from metaspira.threads.ladder import Ladder

FORMAT = "metaspira/1"

Name = Annotated[str, StringConstraints(pattern=r"^[A-Za-z_][A-Za-z0-9_]{0,40}$")]
Value = Annotated[float, Quantity("number", -1e12, 1e12)]


class Use(Kind):
    """What the swept shape becomes: a body, or a skin, which the line of an open section may be
    thickened from. Its wall is `kept` where the size varies, unless it is to be `scaled` with it."""

    as_: Literal["body", "skin"] = Field(default="body", alias="as")
    thickness: Length | None = None
    wall: Literal["kept", "scaled"] | None = None


class Wire(Kind):
    """One wire: its path, its section and how it travels. The stance is the usual one where none is
    given: outward where the path runs around an axis, else steady."""

    path: PathKind
    section: SectionKind
    stance: StanceKind | None = None
    along: Along = Along()
    ends: Ends = Ends()
    strands: Strands | None = None


class FurtherWire(Wire):
    """Another wire of the same part, such as an inner coil."""

    name: str = Field(default="", max_length=120)


class Document(Kind):
    """What every design has; every number may be a number in `unit` or degrees, or a formula."""

    format: Literal["metaspira/1"]
    name: str = Field(default="Unnamed", max_length=120)
    unit: Annotated[
        LengthUnit,
        Words({"mm": "millimetres", "cm": "centimetres", "m": "metres", "in": "inches"}),
    ] = "mm"
    variables: dict[Name, Value] = Field(default_factory=dict, max_length=200)
    material: MaterialChoice | OwnMaterial = "spring-steel"
    finish: Finish | None = None
    note: str = Field(default="", max_length=4000)
    title_block: TitleBlock | None = None
    expected: Expected = Expected()


class Recipe(Wire, Document, defer_build=False):
    """A part that is wound or swept, as typed."""

    fit: Fit = Fit()
    wires: tuple[FurtherWire, ...] = Field(default=(), max_length=12)
    use: Use = Field(default_factory=lambda: Use.model_validate({"as": "body"}))
    spring: AskedSpring | None = None


class ThreadUse(Kind):
    """What a thread becomes: the whole body, whose threaded surface it is; a ridge that stands on its host's
    surface; or a groove cut into it."""

    as_: Annotated[
        Literal["body", "ridge", "groove"],
        Words({"body": "the whole body", "ridge": "a ridge on it", "groove": "a groove in it"}),
    ] = Field(default="body", alias="as", title="The thread is")


class ThreadRecipe(Document, defer_build=False):
    """A threaded part, as typed."""

    thread: AskedThread
    host: Host
    use: ThreadUse = Field(default_factory=lambda: ThreadUse.model_validate({"as": "body"}))
    mate: Mate | None = None
    joint: AskedJoint | None = None
    ladder: Ladder | None = None


def _which(data: Any) -> str:
    threaded = "thread" in data if isinstance(data, dict) else isinstance(data, ThreadRecipe)
    return "threaded" if threaded else "wound"


AnyRecipe = Annotated[
    Annotated[Recipe, Tag("wound")] | Annotated[ThreadRecipe, Tag("threaded")], Discriminator(_which)
]


def json_schema() -> dict[str, Any]:
    """The JSON Schema (draft 2020-12) of a recipe."""
    recipes: TypeAdapter[Recipe | ThreadRecipe] = TypeAdapter(AnyRecipe)
    return {"$schema": "https://json-schema.org/draft/2020-12/schema", **recipes.json_schema()}
