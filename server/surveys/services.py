"""What is done with surveys and run-throughs: asked for."""

from __future__ import annotations

from collections.abc import Sequence
from typing import Any

from jobs.services import start
from metaspira.problems import Problem, RecipeError
from metaspira.recipe.model import Recipe
from metaspira.recipe.reading import read_recipe
from metaspira.studies import run
from metaspira.studies.run import Track
from metaspira.studies.survey import Over, demand

from surveys.models import RunThrough, Survey


def request_survey(
    recipe: dict[str, Any], over: Sequence[Over], asked_by: str = "", exact: bool = False
) -> Survey:
    """A survey, queued. Raises RecipeError where the recipe or the inputs cannot be used."""
    demand(read_recipe(recipe), over, exact)
    ranges = [one.model_dump(mode="json") for one in over]
    return start(Survey(recipe=recipe, over=ranges, exact=exact, asked_by=asked_by))


def request_run(
    recipe: dict[str, Any], tracks: list[Track], frames: int, seconds: float, asked_by: str = ""
) -> RunThrough:
    """A run-through, queued. Raises RecipeError where the recipe or the tracks cannot be used."""
    typed = read_recipe(recipe)
    if not isinstance(typed, Recipe):
        raise RecipeError(Problem("/thread", "a thread is not run through", "take a coil"))
    run.demand(typed, tracks, frames, seconds)
    moves = [track.model_dump(mode="json") for track in tracks]
    return start(RunThrough(recipe=recipe, tracks=moves, frames=frames, seconds=seconds, asked_by=asked_by))
