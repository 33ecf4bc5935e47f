"""What every part of a recipe has in common: unknown keys are refused, values are not changed, and each says
what it is.

A kind is declared with its title, `class Tube(SectionBase, title="tube")`; what it has of its own stands
after its `kind`, each field with a title of its own where its name does not say enough. All of it is
published in the JSON Schema.
"""

from __future__ import annotations

import importlib
import itertools
import pkgutil
from collections.abc import Iterable, Iterator, Mapping
from dataclasses import dataclass
from types import ModuleType
from typing import TYPE_CHECKING, Annotated, Any, ClassVar, Union, get_args

from pydantic import BaseModel, ConfigDict, Field, GetJsonSchemaHandler
from pydantic.fields import ComputedFieldInfo, FieldInfo
from pydantic_core import CoreSchema

from metaspira.numbers.fields import Quantity


def _title(name: str, field: FieldInfo | ComputedFieldInfo) -> str:
    words = name.strip("_").replace("_", " ")
    return words[:1].upper() + words[1:]


class Kind(BaseModel):
    model_config = ConfigDict(extra="forbid", frozen=True, defer_build=True, field_title_generator=_title)
    if TYPE_CHECKING:

        @property
        def kind(self) -> str:
            """The word that tells which of several it is."""

    listed: ClassVar[int] = 50
    """Where it stands among the kinds beside it, the lowest first."""

    @classmethod
    def __get_pydantic_json_schema__(
        cls, schema: CoreSchema, handler: GetJsonSchemaHandler
    ) -> dict[str, Any]:
        """In a recipe the `kind` is always written, whatever it is by itself."""
        found = handler(schema)
        told = handler.resolve_ref_schema(found)
        kind = told.get("properties", {}).get("kind", {})
        if "const" in kind and kind.pop("default", None) is not None:
            told["required"] = ["kind", *told.get("required", [])]
        return found

    def __repr_args__(self) -> Iterator[tuple[str | None, Any]]:
        """What differs from the usual."""
        for name, field in type(self).model_fields.items():
            value = getattr(self, name)
            if name != "kind" and (
                field.is_required() or value != field.get_default(call_default_factory=True)
            ):
                yield name, value

    @classmethod
    def usual(cls, size: float) -> dict[str, Any]:
        """A usual instance about `size` across, as a recipe types it in its own unit; of what belongs to a
        thread, `size` is the pitch."""
        found = {
            field.alias or name: usual.at(size, field)
            for name, field in cls.model_fields.items()
            for usual in field.metadata
            if isinstance(usual, Usual)
        }
        return {"kind": tag_of(cls), **found}

    def words(self, unit: str) -> str:
        """What it is, in a few words, with its own values as they are typed in a recipe in `unit`."""
        return title_of(type(self))


@dataclass(frozen=True)
class Words:
    """What the choices of a field are called where they are offered, as far as they are not their own
    words."""

    of: Mapping[Any, str]

    def __hash__(self) -> int:
        return hash(tuple(self.of.items()))

    def __get_pydantic_json_schema__(
        self, schema: CoreSchema, handler: GetJsonSchemaHandler
    ) -> dict[str, Any]:
        return {**handler(schema), "x-words": {str(key): words for key, words in self.of.items()}}


@dataclass(frozen=True)
class Published:
    """What the schema says of a field beside its type, by keys that begin with `x-`."""

    of: Mapping[str, Any]

    def __hash__(self) -> int:
        return hash(str(self.of))

    def __get_pydantic_json_schema__(
        self, schema: CoreSchema, handler: GetJsonSchemaHandler
    ) -> dict[str, Any]:
        return {**handler(schema), **self.of}


@dataclass(frozen=True)
class Usual:
    """What a field of a usual instance holds: of a length its share of the size, of anything else the
    value."""

    value: float

    def at(self, size: float, field: FieldInfo) -> float:
        """As it is typed in an instance of that size."""
        members = (getattr(one, "__metadata__", ()) for one in get_args(field.annotation))
        specs = itertools.chain(field.metadata, *members)
        length = any(isinstance(one, Quantity) and one.kind == "length" for one in specs)
        return three_digits(self.value * size) if length else self.value


def title_of(kind: type[BaseModel]) -> str:
    """What a kind is called."""
    return kind.model_config.get("title") or kind.__name__


def tag_of(kind: type[BaseModel]) -> str:
    """The word in a recipe that tells a kind."""
    tag: str = kind.model_fields["kind"].annotation.__args__[0]  # type: ignore[union-attr]
    return tag


def said(value: Any, unit: str = "") -> str:
    """A typed value in words: a number with its unit, a formula as it stands."""
    if value is None:
        return "–"
    return f"{value:.7g} {unit}".strip() if isinstance(value, int | float) else str(value)


def choice_words(kind: type[BaseModel], name: str, value: Any) -> str:
    """What a choice of a field, or of a branch of it, is called."""
    field = kind.model_fields[name]
    inner = (m for branch in get_args(field.annotation) for m in getattr(branch, "__metadata__", ()))
    words = next((m for m in (*field.metadata, *inner) if isinstance(m, Words)), None)
    return words.of.get(value, str(value)) if words else str(value)


def counted(number: int, one: str) -> str:
    """“1 leg”, “2 legs”."""
    return f"{number} {one}{'' if number == 1 else 's'}"


def three_digits(value: float) -> float:
    """A value as somebody would type it."""
    return float(f"{value:.3g}")


def modules_of(package: ModuleType) -> None:
    """Import every module of a package, so that the kinds in them are known."""
    for module in pkgutil.iter_modules(package.__path__):
        importlib.import_module(f"{package.__name__}.{module.name}")


def kinds_of(base: type[Kind]) -> list[type[Kind]]:
    """The kinds that are derived from a base and have a word of their own, in the order in which they are
    offered."""
    found: dict[type[Kind], None] = {}
    waiting = [base]
    while waiting:
        kind = waiting.pop(0)
        waiting += kind.__subclasses__()
        field = kind.model_fields.get("kind")
        if field and get_args(field.annotation) and not kind.__name__.startswith("_"):
            found[kind] = None
    return sorted(found, key=lambda kind: kind.listed)


def one_of(kinds: Iterable[type[Kind]]) -> Any:
    """The type of a field that holds one of several kinds, told by its `kind`."""
    return Annotated[Union[tuple(kinds)], Field(discriminator="kind")]  # noqa: UP007
