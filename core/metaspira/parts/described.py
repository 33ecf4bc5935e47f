"""What every part says of itself by its recipe alone."""

from __future__ import annotations

from metaspira.materials import Material, material_of
from metaspira.numbers.measure import unit
from metaspira.recipe.model import Document


class Described:
    """`typed` is the recipe as typed, `recipe` the same in millimetres and radians."""

    typed: Document
    recipe: Document

    @property
    def length_unit(self) -> float:
        """The recipe's unit of length in mm."""
        return unit(self.typed.unit).value

    @property
    def material(self) -> Material:
        return material_of(self.recipe.material, self.recipe.finish)
