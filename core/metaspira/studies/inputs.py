"""Trying other values of a part's inputs: the places that take a number, and the recipe with values there."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass

from metaspira.parts import AnyPart, make_part
from metaspira.problems import Problem, RecipeError, nearest, parts_of, pointer
from metaspira.recipe.fields import Parts, number_fields, replaced
from metaspira.recipe.model import Recipe, ThreadRecipe
from metaspira.recipe.resolving import in_typed_units
from metaspira.recipe.wording import field_words, unit_words


@dataclass(frozen=True)
class Input:
    """A place of a recipe that takes a number: what it is in words, what a plain number there counts in, what
    it comes to now, and whether whole numbers alone fit."""

    place: str
    words: str
    unit: str
    value: float
    whole: bool

    @property
    def parts(self) -> Parts:
        return tuple(parts_of(self.place))


def inputs_of(part: AnyPart) -> dict[str, Input]:
    """Every number field and variable of a part, by its JSON pointer, in the order of the recipe."""
    unit = part.typed.unit
    found = {
        place: Input(place, f"variable {name}", _unit_of(name, part.typed), float(typed), False)
        for name, typed in part.typed.variables.items()
        for place in [pointer(["variables", name])]
        if isinstance(typed, int | float)
    }
    for parts, quantity, value in number_fields(part.recipe):
        place = pointer(parts)
        found[place] = Input(
            place,
            field_words(parts),
            unit_words(quantity, unit).strip(),
            in_typed_units(value, quantity, unit),
            quantity.kind == "count",
        )
    return found


def _unit_of(name: str, recipe: Recipe | ThreadRecipe) -> str:
    """What a variable counts in, where every field that it stands alone in counts in the same."""
    units = {
        unit_words(quantity, recipe.unit).strip()
        for _, quantity, typed in number_fields(recipe)
        if isinstance(typed, str) and typed.strip() == name
    }
    return units.pop() if len(units) == 1 else ""


def input_at(part: AnyPart, place: str, where: str) -> Input:
    """The input at a JSON pointer. Raises RecipeError, told at `where`, where no number stands."""
    inputs = inputs_of(part)
    if place in inputs:
        return inputs[place]
    near = nearest(place, inputs)
    raise RecipeError(
        Problem(
            where,
            f"“{place[:80]}” is no input of this recipe that holds a number",
            f"take {near}" if near else f"take one of {', '.join(list(inputs)[:6])}",
        )
    )


def with_values(typed: Recipe | ThreadRecipe, values: Mapping[Parts, float]) -> AnyPart:
    """The part with plain numbers at some of its places. Raises RecipeError."""
    for parts, value in values.items():
        typed = replaced(typed, parts, value)
    return make_part(typed)
