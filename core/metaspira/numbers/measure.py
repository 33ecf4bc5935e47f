"""A number with its dimension, and the units that a recipe may use.

Dimensions are powers of (length, angle, force, mass). A *plain* number has none; where it is added to or
compared with a length it counts in the recipe's unit, with an angle in degrees.
"""

from __future__ import annotations

import math
from dataclasses import dataclass
from functools import cache
from typing import Any

from metaspira.problems import Fix, Problem, RecipeError, nearest

PLAIN = (0.0, 0.0, 0.0, 0.0)
LENGTH = (1.0, 0.0, 0.0, 0.0)
AREA = (2.0, 0.0, 0.0, 0.0)
VOLUME = (3.0, 0.0, 0.0, 0.0)
ANGLE = (0.0, 1.0, 0.0, 0.0)
FORCE = (0.0, 0.0, 1.0, 0.0)
TORQUE = (1.0, 0.0, 1.0, 0.0)
STRESS = (-2.0, 0.0, 1.0, 0.0)
MASS = (0.0, 0.0, 0.0, 1.0)

Dimension = tuple[float, float, float, float]

_UNITS: tuple[tuple[float, Dimension, str], ...] = (
    (1.0, LENGTH, "mm millimetre millimeter millimetres millimeters"),
    (10.0, LENGTH, "cm centimetre centimeter centimetres centimeters"),
    (1000.0, LENGTH, "m metre meter metres meters"),
    (0.001, LENGTH, "um µm μm micrometre micron microns"),
    (25.4, LENGTH, "in inch inches"),
    (304.8, LENGTH, "ft foot feet"),
    (0.0254, LENGTH, "thou mil"),
    (1.0, ANGLE, "rad radian radians"),
    (math.pi / 180, ANGLE, "deg ° degree degrees"),
    (2 * math.pi, ANGLE, "turn turns"),
    (1.0, FORCE, "N newton newtons"),
    (1000.0, FORCE, "kN kilonewton"),
    (4.4482216152605, FORCE, "lbf pound_force"),
    (9.80665, FORCE, "kgf kilogram_force"),
    (1.0, TORQUE, "Nmm"),
    (1000.0, TORQUE, "Nm"),
    (1.0, STRESS, "MPa"),
    (1000.0, STRESS, "GPa"),
    (4.4482216152605 / 25.4**2, STRESS, "psi"),
    (4448.2216152605 / 25.4**2, STRESS, "ksi"),
    (1.0, MASS, "g gram grams"),
    (1000.0, MASS, "kg kilogram kilograms"),
    (1e6, MASS, "tonne tonnes"),
    (453.59237, MASS, "lb lbs pound pounds"),
    (453.59237 / 16, MASS, "oz ounce ounces"),
)
"""Each unit in base units, its dimension, and its names. The inch of 25.4 mm, the pound and the
pound-force by the International Yard and Pound Agreement (1959), the standard gravity by the 3rd CGPM
(1901)."""


@cache
def _units() -> dict[str, Measure]:
    return {name: Measure(size, dimension) for size, dimension, names in _UNITS for name in names.split()}


def unit_names() -> tuple[str, ...]:
    """Every unit name and symbol that a recipe may use."""
    return tuple(_units())


def unit(name: str) -> Measure:
    """One of the unit called `name`, in base units. Raises KeyError with the nearest name."""
    if name not in _units():
        raise KeyError(nearest(name, unit_names()) or "mm")
    return _units()[name]


@dataclass(frozen=True)
class Measure:
    """`value` in base units (mm, rad, N, g) of dimension `dimension`: a float, or a jet in a formula."""

    value: Any
    dimension: Dimension = PLAIN

    @property
    def is_plain(self) -> bool:
        return self.dimension == PLAIN

    def __mul__(self, other: Measure) -> Measure:
        return Measure(self.value * other.value, self._powers(other, 1))

    def __truediv__(self, other: Measure) -> Measure:
        return Measure(self.value / other.value, self._powers(other, -1))

    def __pow__(self, exponent: Any) -> Measure:
        if not self.is_plain and not isinstance(exponent, float):
            raise ArithmeticError("the power of a length must be a constant")
        value = self.value**exponent
        if isinstance(value, complex):
            raise ArithmeticError("the root of a negative number is not a length")
        if self.is_plain:
            return Measure(value)
        length, angle, force, mass = (power * exponent for power in self.dimension)
        return Measure(value, (length, angle, force, mass))

    def __neg__(self) -> Measure:
        return Measure(-self.value, self.dimension)

    def _powers(self, other: Measure, sign: int) -> Dimension:
        a, b, c, d = (x + sign * y for x, y in zip(self.dimension, other.dimension, strict=True))
        return a, b, c, d


def dimension_name(dimension: Dimension) -> str:
    """The dimension in words, for messages."""
    names: dict[Dimension, str] = {
        PLAIN: "a plain number",
        LENGTH: "a length",
        ANGLE: "an angle",
        AREA: "an area",
        FORCE: "a force",
        TORQUE: "a torque",
        STRESS: "a stress",
        VOLUME: "a volume",
        MASS: "a mass",
    }
    length, angle, force, mass = dimension
    return names.get(dimension, f"mm^{length:g}·rad^{angle:g}·N^{force:g}·g^{mass:g}")


def length_of_file(own: float | None, name: str | None, what: str) -> float:
    """Millimetres in a file's unit of length: its `own`, or the one of this name where `what` does not say.
    Raises RecipeError where neither does."""
    if own is not None:
        return own
    if not name:
        raise RecipeError(
            Problem(
                "/unit",
                f"{what} does not say its unit",
                "say which it is: mm, cm, m or in",
                Fix("/unit", "mm"),
            )
        )
    return unit(name).value
