"""What every part says of itself by its recipe alone."""

from __future__ import annotations

from dataclasses import dataclass
from typing import Any, ClassVar, Generic, TypeVar

from metaspira.materials import Material, material_of
from metaspira.numbers.figure import Figure, Figures, values_of
from metaspira.numbers.measure import unit
from metaspira.numbers.once import cached_property
from metaspira.numbers.shown import number_shown
from metaspira.recipe.model import Document
from metaspira.springs.any_spring import AnySpring
from metaspira.threads.joint.joint import Joint

P = TypeVar("P")

LEAST_ERROR = 1e-4
"""The least chord error of a mesh where none is asked for, mm."""


@dataclass(frozen=True)
class Known(Generic[P]):
    """A part with what is searched for longer: its smallest gap and its tightest bend, mm, where they are
    known."""

    part: P
    min_gap: float | None = None
    min_bend_radius: float | None = None


class Described:
    """`typed` is the recipe as typed, `recipe` the same in millimetres and radians."""

    typed: Document
    recipe: Document
    figures: ClassVar[tuple[Figure[Any], ...]]
    """What is told of each in numbers, in the order in which it stands beside the part."""

    @property
    def volume(self) -> float:
        """Predicted volume of all bodies, mm³."""
        raise NotImplementedError

    @property
    def reach(self) -> float:
        """How far its wire reaches from its path, or its thread from the axis, mm."""
        raise NotImplementedError

    @property
    def usual_chord_error(self) -> float:
        """Of a mesh where none is asked for, mm."""
        raise NotImplementedError

    @property
    def sizes(self) -> dict[str, float]:
        """What a change of it is told by."""
        return {"mass": self.volume}

    @property
    def is_skin(self) -> bool:
        """Whether it is a surface and encloses nothing."""
        return False

    @property
    def spring(self) -> AnySpring | None:
        """The spring that it is, where its recipe says so."""
        return None

    @property
    def joint(self) -> Joint | None:
        """What its recipe asks of a thread and its mate under load."""
        return None

    @property
    def wire_length(self) -> float | None:
        """The length of its first wire, mm."""
        return None

    @property
    def heights(self) -> tuple[float, float] | None:
        """Least and most z of its surface, mm, where they are known without a mesh."""
        return None

    def known(self, min_gap: float | None = None, min_bend_radius: float | None = None) -> Known[Any]:
        """It, with what is known of it."""
        return Known(self, min_gap, min_bend_radius)

    @cached_property
    def quick_figures(self) -> Figures:
        """Its figures, but for its least gap and tightest bend, which take longer."""
        return values_of(self.figures, self.known())

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
