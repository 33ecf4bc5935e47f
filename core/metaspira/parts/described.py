"""What every part says of itself by its recipe alone."""

from __future__ import annotations

from metaspira.materials import Material, material_of
from metaspira.numbers.measure import unit
from metaspira.numbers.shown import number_shown
from metaspira.recipe.model import Document


class Described:
    """`typed` is the recipe as typed, `recipe` the same in millimetres and radians."""

    typed: Document
    recipe: Document

    @property
    def length_unit(self) -> float:
        """The recipe's unit of length in mm."""
        return unit(self.typed.unit).value

    def length_shown(self, length: float) -> str:
        """A length, mm, as it is written: in the recipe's unit, without it."""
        return number_shown(length / self.length_unit)

    @property
    def material(self) -> Material:
        return material_of(self.recipe.material, self.recipe.finish)
