"""A recipe's variables: where each is used, and renaming one everywhere."""

from __future__ import annotations

import copy
import re
from collections.abc import Iterator
from typing import Any

from metaspira.numbers.expressions import ExpressionError, names_in
from metaspira.problems import Problem, RecipeError, pointer
from metaspira.recipe.fields import Parts, formula_fields, json_at, json_put, number_fields
from metaspira.recipe.model import Document
from metaspira.recipe.reading import read_recipe


def uses_of(recipe: Document) -> dict[str, list[Parts]]:
    """The places of the fields and variables whose formula names each variable, in the recipe's order."""
    found: dict[str, list[Parts]] = {name: [] for name in recipe.variables}
    for parts, names in _named(recipe):
        for name in names & found.keys():
            found[name].append(parts)
    return found


def _named(recipe: Document) -> Iterator[tuple[Parts, set[str]]]:
    """The places of all formulas, and the names in each."""
    texts: list[tuple[Parts, Any]] = [(("variables", name), of) for name, of in recipe.variables.items()]
    texts += [(parts, typed) for parts, _, typed in number_fields(recipe)]
    texts += [(parts, text) for parts, _, text in formula_fields(recipe)]
    return ((parts, _names(text)) for parts, text in texts)


def renamed(recipe: dict[str, Any], old: str, new: str) -> dict[str, Any]:
    """A recipe, as typed, whose variable `old` is called `new` wherever it stands. Raises RecipeError."""
    typed = read_recipe(recipe)
    place = pointer(["variables", old])
    if old not in typed.variables:
        raise RecipeError(Problem(place, f"there is no variable “{old}”", "name one that there is"))
    if new != old and new in typed.variables:
        raise RecipeError(Problem(place, f"there is a variable “{new}” already", "choose another name"))
    if any(new in names for _, names in _named(typed) if new != old) or new in ("pi", "t"):
        raise RecipeError(Problem(place, f"“{new}” means something else in a formula", "choose another name"))
    changed = copy.deepcopy(recipe)
    whole_name = re.compile(rf"(?<![\w.]){re.escape(old)}(?!\w)")
    for parts in uses_of(typed)[old]:
        json_put(changed, parts, whole_name.sub(lambda _: new, str(json_at(changed, parts))))
    changed["variables"] = {
        new if name == old else name: value for name, value in changed["variables"].items()
    }
    read_recipe(changed)
    return changed


def _names(text: Any) -> set[str]:
    try:
        return names_in(text) if isinstance(text, str) else set()
    except ExpressionError:
        return set()
