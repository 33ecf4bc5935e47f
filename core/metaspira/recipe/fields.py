"""The number and formula fields of a recipe: walked with their places, read and replaced."""

from __future__ import annotations

import types
from collections.abc import Iterable, Iterator, Sequence
from functools import cache
from typing import Annotated, Any, Literal, TypeVar, Union, get_args, get_origin

from pydantic import BaseModel

from metaspira.numbers.fields import FormulaOf, Quantity

Parts = tuple[str | int, ...]
Placed = tuple[Sequence[str | int], Any]
Spec = Quantity | FormulaOf
M = TypeVar("M", bound=BaseModel)


def number_fields(model: BaseModel, parts: Parts = ()) -> Iterator[tuple[Parts, Quantity, Any]]:
    """(place, quantity, value) of each number field of `model` that is set; variables are left out."""
    for here, spec, value in typed_fields(model, parts):
        if isinstance(spec, Quantity):
            yield here, spec, value


def formula_fields(model: BaseModel, parts: Parts = ()) -> Iterator[tuple[Parts, FormulaOf, str]]:
    """(place, what it is a formula of, text) of each formula field of `model` that is set."""
    for here, spec, value in typed_fields(model, parts):
        if isinstance(spec, FormulaOf):
            yield here, spec, value


def replaced(model: M, parts: Sequence[str | int], value: Any) -> M:
    """A copy of `model` with `value` at the place `parts` (keys as in JSON)."""
    return all_replaced(model, [(parts, value)])


def all_replaced(model: M, values: Iterable[Placed]) -> M:
    """A copy of `model` with each of the values at its place (keys as in JSON)."""
    names: dict[str | int, str] = {key: name for name, key, _, _ in _plan(type(model))}
    fresh = {names[key]: _put(getattr(model, names[key]), own) for key, own in _by_key(values).items()}
    return model.model_copy(update=fresh)


def json_at(data: Any, parts: Sequence[str | int]) -> Any:
    """What stands in parsed JSON at the place `parts`; None where there is nothing."""
    for part in parts:
        items = dict(enumerate(data)) if isinstance(data, list) else data
        data = items.get(part) if isinstance(items, dict) else None
    return data


def json_put(data: Any, parts: Sequence[str | int], value: Any) -> None:
    """Put `value` into parsed JSON at the place `parts`, in what stands there already."""
    json_at(data, parts[:-1])[parts[-1]] = value


def _by_key(values: Iterable[Placed]) -> dict[str | int, list[Placed]]:
    """The values by the first key of their places, with what follows on it."""
    found: dict[str | int, list[Placed]] = {}
    for parts, value in values:
        found.setdefault(parts[0], []).append((parts[1:], value))
    return found


def _put(old: Any, values: list[Placed]) -> Any:
    if not values[-1][0]:
        return values[-1][1]
    if isinstance(old, BaseModel):
        return all_replaced(old, values)
    by_key = _by_key(values)
    if isinstance(old, dict):
        return old | {key: _put(old.get(key), own) for key, own in by_key.items()}
    by_index = {int(key): own for key, own in by_key.items()}
    return tuple(_put(one, by_index[k]) if k in by_index else one for k, one in enumerate(old))


@cache
def _plan(kind: type[BaseModel]) -> tuple[tuple[str, str, Spec | None, Any], ...]:
    """(name, key in JSON, what it is a number or a formula of, annotation) of each field of a model."""
    return tuple(
        (
            name,
            field.alias or name,
            next((item for item in field.metadata if isinstance(item, Spec)), None),
            field.annotation,
        )
        for name, field in kind.model_fields.items()
    )


def typed_fields(model: BaseModel, parts: Parts = ()) -> Iterator[tuple[Parts, Spec, Any]]:
    """(place, what it is a number or a formula of, value) of each such field of `model` that is set."""
    for name, key, spec, annotation in _plan(type(model)):
        value = getattr(model, name)
        if value is None or isinstance(value, dict):
            continue
        if spec is not None:
            yield (*parts, key), spec, value
        else:
            yield from _walk(annotation, value, (*parts, key))


def _walk(annotation: Any, value: Any, parts: Parts) -> Iterator[tuple[Parts, Spec, Any]]:
    if isinstance(value, BaseModel):
        yield from typed_fields(value, parts)
        return
    origin, inner = _taken_apart(annotation)
    if origin is Annotated:
        spec = next((m for m in inner[1:] if isinstance(m, Spec)), None)
        if spec is None:
            yield from _walk(inner[0], value, parts)
        elif not isinstance(value, tuple | list):
            yield parts, spec, value
    elif origin in (Union, types.UnionType):
        if value not in _words(annotation):
            for member in inner:
                found = list(_walk(member, value, parts)) if _fits(member, value) else []
                yield from found
                if found:
                    return
    elif origin is tuple and isinstance(value, tuple | list):
        for index, item in enumerate(value):
            of = inner[0] if inner[-1] is Ellipsis else inner[index]
            yield from _walk(of, item, (*parts, index))


@cache
def _taken_apart(annotation: Any) -> tuple[Any, tuple[Any, ...]]:
    return get_origin(annotation), get_args(annotation)


@cache
def _words(union: Any) -> tuple[Any, ...]:
    """The words that a union allows in place of a number."""
    bare = [get_args(one)[0] if get_origin(one) is Annotated else one for one in get_args(union)]
    return tuple(word for one in bare if get_origin(one) is Literal for word in get_args(one))


def _fits(member: Any, value: Any) -> bool:
    """Whether `value` can be of the type `member` of a union, as far as lists tell."""
    origin, inner = _taken_apart(member)
    if origin is not tuple:
        return member is not type(None) and not isinstance(value, tuple | list)
    return isinstance(value, tuple | list) and (inner[-1] is Ellipsis or len(inner) == len(value))
