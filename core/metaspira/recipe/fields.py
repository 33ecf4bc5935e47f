"""The number and formula fields of a recipe: walked with their places, read and replaced one at a time."""

from __future__ import annotations

import types
from collections.abc import Iterator, Sequence
from typing import Annotated, Any, Literal, TypeVar, Union, get_args, get_origin

from pydantic import BaseModel

from metaspira.numbers.fields import FormulaOf, Quantity

Parts = tuple[str | int, ...]
M = TypeVar("M", bound=BaseModel)


def number_fields(model: BaseModel, parts: Parts = ()) -> Iterator[tuple[Parts, Quantity, Any]]:
    """(place, quantity, value) of each number field of `model` that is set; variables are left out."""
    for here, spec, value in _fields(model, parts):
        if isinstance(spec, Quantity):
            yield here, spec, value


def formula_fields(model: BaseModel, parts: Parts = ()) -> Iterator[tuple[Parts, FormulaOf, str]]:
    """(place, what it is a formula of, text) of each formula field of `model` that is set."""
    for here, spec, value in _fields(model, parts):
        if isinstance(spec, FormulaOf):
            yield here, spec, value


def replaced(model: M, parts: Sequence[str | int], value: Any) -> M:
    """A copy of `model` with `value` at the place `parts` (keys as in JSON)."""
    name = next(name for name, field in type(model).model_fields.items() if (field.alias or name) == parts[0])
    return model.model_copy(update={name: _put(getattr(model, name), parts[1:], value)})


def json_at(data: Any, parts: Sequence[str | int]) -> Any:
    """What stands in parsed JSON at the place `parts`; None where there is nothing."""
    for part in parts:
        items = dict(enumerate(data)) if isinstance(data, list) else data
        data = items.get(part) if isinstance(items, dict) else None
    return data


def json_put(data: Any, parts: Sequence[str | int], value: Any) -> None:
    """Put `value` into parsed JSON at the place `parts`, in what stands there already."""
    json_at(data, parts[:-1])[parts[-1]] = value


def _put(old: Any, parts: Sequence[str | int], value: Any) -> Any:
    if not parts:
        return value
    if isinstance(old, BaseModel):
        return replaced(old, parts, value)
    if isinstance(old, dict):
        return {**old, parts[0]: value}
    index = int(parts[0])
    return (*old[:index], _put(old[index], parts[1:], value), *old[index + 1 :])


def _fields(model: BaseModel, parts: Parts) -> Iterator[tuple[Parts, Quantity | FormulaOf, Any]]:
    for name, field in type(model).model_fields.items():
        value = getattr(model, name)
        if value is None or isinstance(value, dict):
            continue
        here = (*parts, field.alias or name)
        for item in field.metadata:
            if isinstance(item, Quantity | FormulaOf):
                yield here, item, value
                break
        else:
            yield from _walk(field.annotation, value, here)


def _walk(annotation: Any, value: Any, parts: Parts) -> Iterator[tuple[Parts, Quantity | FormulaOf, Any]]:
    if isinstance(value, BaseModel):
        yield from _fields(value, parts)
        return
    origin, inner = get_origin(annotation), get_args(annotation)
    if origin is Annotated:
        spec = next((m for m in inner[1:] if isinstance(m, Quantity | FormulaOf)), None)
        if spec is None:
            yield from _walk(inner[0], value, parts)
        elif not isinstance(value, tuple | list):
            yield parts, spec, value
    elif origin in (Union, types.UnionType):
        bare = [get_args(one)[0] if get_origin(one) is Annotated else one for one in inner]
        words = [word for one in bare if get_origin(one) is Literal for word in get_args(one)]
        if value not in words:
            for member in inner:
                found = list(_walk(member, value, parts)) if _fits(member, value) else []
                yield from found
                if found:
                    return
    elif origin is tuple and isinstance(value, tuple | list):
        for index, item in enumerate(value):
            of = inner[0] if inner[-1] is Ellipsis else inner[index]
            yield from _walk(of, item, (*parts, index))


def _fits(member: Any, value: Any) -> bool:
    """Whether `value` can be of the type `member` of a union, as far as lists tell."""
    if get_origin(member) is not tuple:
        return member is not type(None) and not isinstance(value, tuple | list)
    inner = get_args(member)
    return isinstance(value, tuple | list) and (inner[-1] is Ellipsis or len(inner) == len(value))
