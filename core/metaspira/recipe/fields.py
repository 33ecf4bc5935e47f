"""The number fields of a recipe: walked with their places, read and replaced one at a time."""

from __future__ import annotations

from collections.abc import Iterator, Sequence
from typing import Any, TypeVar

from pydantic import BaseModel

from metaspira.numbers.fields import Quantity

Parts = tuple[str | int, ...]
M = TypeVar("M", bound=BaseModel)


def number_fields(model: BaseModel, parts: Parts = ()) -> Iterator[tuple[Parts, Quantity, Any]]:
    """(place, quantity, value) of each number field of `model` that is set; variables are left out."""
    for name, field in type(model).model_fields.items():
        value = getattr(model, name)
        here = (*parts, field.alias or name)
        if isinstance(value, BaseModel):
            yield from number_fields(value, here)
            continue
        quantity = _quantity(field.metadata, field.annotation)
        if quantity is None or value is None or isinstance(value, dict):
            continue
        if isinstance(value, tuple):
            yield from (((*here, index), quantity, item) for index, item in enumerate(value))
        elif name != "rides_at":
            yield here, quantity, value


def replaced(model: M, parts: Sequence[str | int], value: Any) -> M:
    """A copy of `model` with `value` at the place `parts` (keys as in JSON)."""
    name = next(
        name for name, field in type(model).model_fields.items() if (field.alias or name) == parts[0]
    )
    return model.model_copy(update={name: _put(getattr(model, name), parts[1:], value)})


def _put(old: Any, parts: Sequence[str | int], value: Any) -> Any:
    if not parts:
        return value
    if isinstance(old, BaseModel):
        return replaced(old, parts, value)
    if isinstance(old, dict):
        return {**old, parts[0]: value}
    index = int(parts[0])
    return (*old[:index], value, *old[index + 1 :])


def _quantity(metadata: Sequence[Any], annotation: Any) -> Quantity | None:
    """The Quantity in a field's metadata or anywhere inside its annotation."""
    for item in metadata:
        if isinstance(item, Quantity):
            return item
    for inner in getattr(annotation, "__args__", ()):
        found = _quantity(getattr(inner, "__metadata__", ()), inner)
        if found is not None:
            return found
    return None
