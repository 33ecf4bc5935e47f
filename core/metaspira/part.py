"""A part: a recipe with all that follows from it, worked out once and kept."""

from __future__ import annotations

import math
from dataclasses import dataclass
from typing import Any

import numpy as np

from metaspira.materials import MATERIALS, Material
from metaspira.numbers.measure import unit
from metaspira.paths import Path
from metaspira.problems import Problem, RecipeError
from metaspira.recipe.model import Recipe
from metaspira.recipe.reading import read_recipe
from metaspira.recipe.resolving import resolve
from metaspira.sections import Outline, Round
from metaspira.sweep.schedules import Linear, size_at_ends, twist_of
from metaspira.sweep.stances import stance_frames
from metaspira.sweep.sweep import Sweep

_MOST_TURNS = 25_000


@dataclass(frozen=True, eq=False)
class Part:
    """`typed` is the recipe as typed, `recipe` the same in millimetres and radians."""

    typed: Recipe
    recipe: Recipe
    outline: Outline
    path: Path
    sweep: Sweep

    @property
    def length_unit(self) -> float:
        """The recipe's unit of length in mm."""
        return unit(self.typed.unit).value

    @property
    def material(self) -> Material:
        return MATERIALS[self.recipe.material]


def make_part(typed: Recipe) -> Part:
    """The part that a recipe describes. Raises RecipeError."""
    recipe = resolve(typed)
    section = recipe.section
    outline = section.outline("/section")
    sizes = size_at_ends(recipe.along)
    inward, outward, _, _ = outline.box
    at_start, at_end = ((size * inward, size * outward) for size in sizes)
    path = recipe.path.path("/path", (at_start, at_end))
    across = section.plane == "across"
    sweep = Sweep(
        path=path,
        outline=outline,
        stance=stance_frames(path, recipe.stance, section.plane),
        twist=twist_of(recipe.along, path.length),
        size=Linear(*sizes, path.length),
        is_tube=isinstance(section, Round)
        and across
        and recipe.stance.kind != "fixed"
        and bool(np.hypot(*outline.centroid) < 1e-9 * outline.reach),
    )
    if sweep.turning > _MOST_TURNS * 2 * math.pi:
        raise RecipeError(
            Problem(
                "/along/twist/total" if recipe.along.twist else "/path/turns",
                f"the wire turns {sweep.turning / (2 * math.pi):.6g} times, with its twist",
                f"keep it to {_MOST_TURNS} turns in all",
            )
        )
    return Part(typed, recipe, outline, path, sweep)


def part_of(data: Any) -> Part:
    """The part of a recipe given as parsed JSON. Raises RecipeError."""
    return make_part(read_recipe(data))
