"""Parts: a recipe with all that follows from it. Of wire (`wound.py`), or a thread on its host
(`threaded.py`)."""

from __future__ import annotations

from dataclasses import replace
from typing import Any, overload

from metaspira.numbers.shown import sentence_shown
from metaspira.parts.threaded import ThreadedPart, make_threaded
from metaspira.parts.wound import Body, Part, make_wound
from metaspira.problems import RecipeError
from metaspira.recipe.model import Recipe, ThreadRecipe
from metaspira.recipe.reading import read_recipe
from metaspira.threads.body import ThreadBody

__all__ = ["AnyBody", "AnyPart", "Body", "Part", "ThreadedPart", "bodies_of", "make_part", "part_of"]

AnyPart = Part | ThreadedPart


AnyBody = Body | ThreadBody


def bodies_of(part: AnyPart) -> tuple[AnyBody, ...]:
    """The bodies of any part."""
    return part.bodies


@overload
def make_part(typed: Recipe) -> Part: ...
@overload
def make_part(typed: ThreadRecipe) -> ThreadedPart: ...
def make_part(typed: Recipe | ThreadRecipe) -> AnyPart:
    """The part that a recipe describes. Raises RecipeError, its sentences in the recipe's units."""
    try:
        return make_threaded(typed) if isinstance(typed, ThreadRecipe) else make_wound(typed)
    except RecipeError as error:
        raise RecipeError(
            replace(
                problem,
                reason=sentence_shown(problem.reason, typed.unit),
                remedy=sentence_shown(problem.remedy, typed.unit),
            )
            for problem in error.problems
        ) from None


def part_of(data: Any) -> AnyPart:
    """The part of a recipe given as parsed JSON. Raises RecipeError."""
    return make_part(read_recipe(data))
