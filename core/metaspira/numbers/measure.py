"""A number with its dimension, and the units that a recipe may use.

Dimensions are powers of (length, angle, force). A *plain* number has none; where it is added to or compared
with a length it counts in the recipe's unit, with an angle in degrees.
"""

from __future__ import annotations

import math
from dataclasses import dataclass
from functools import cache
from typing import Any

import pint

from metaspira.problems import Fix, Problem, RecipeError, nearest

PLAIN = (0.0, 0.0, 0.0)
LENGTH = (1.0, 0.0, 0.0)
AREA = (2.0, 0.0, 0.0)
VOLUME = (3.0, 0.0, 0.0)
ANGLE = (0.0, 1.0, 0.0)
FORCE = (0.0, 0.0, 1.0)

Dimension = tuple[float, float, float]

_DEFINITIONS = (
    "millimetre = [length] = mm = millimeter = millimetres = millimeters",
    "centimetre = 10 mm = cm = centimeter = centimetres = centimeters",
    "metre = 1000 mm = m = meter = metres = meters",
    "micrometre = 0.001 mm = um = µm = μm = micron = microns",
    "inch = 25.4 mm = in = inches",
    "foot = 304.8 mm = ft = feet",
    "thou = 0.0254 mm = mil",
    "radian = [angle] = rad = radians",
    f"degree = {math.pi / 180!r} rad = deg = degrees = °",
    f"turn = {2 * math.pi!r} rad = turns",
    "newton = [force] = N = newtons",
    "kilonewton = 1000 N = kN",
    "pound_force = 4.4482216152605 N = lbf",
    "kilogram_force = 9.80665 N = kgf",
)


@cache
def _registry() -> pint.UnitRegistry:
    registry: pint.UnitRegistry = pint.UnitRegistry(None)
    for line in _DEFINITIONS:
        registry.define(line)
    return registry


@cache
def unit_names() -> tuple[str, ...]:
    """Every unit name and symbol that a recipe may use."""
    names = []
    for line in _DEFINITIONS:
        name, _, *aliases = (part.strip() for part in line.split("="))
        names += [name, *aliases]
    return tuple(dict.fromkeys(names))


@cache
def unit(name: str) -> Measure:
    """One of the unit called `name`, in base units. Raises KeyError with the nearest name."""
    if name not in unit_names():
        raise KeyError(nearest(name, unit_names()) or "mm")
    base = _registry().Quantity(1.0, name).to_base_units()
    kinds = {"[length]": LENGTH, "[angle]": ANGLE, "[force]": FORCE}
    return Measure(float(base.magnitude), kinds[next(iter(base.dimensionality))])


@dataclass(frozen=True)
class Measure:
    """`value` in base units (mm, rad, N) of dimension `dimension`: a float, or a jet in a formula."""

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
        length, angle, force = self.dimension
        if not self.is_plain and not isinstance(exponent, float):
            raise ArithmeticError("the power of a length must be a constant")
        value = self.value**exponent
        if isinstance(value, complex):
            raise ArithmeticError("the root of a negative number is not a length")
        powers = PLAIN if self.is_plain else (length * exponent, angle * exponent, force * exponent)
        return Measure(value, powers)

    def __neg__(self) -> Measure:
        return Measure(-self.value, self.dimension)

    def _powers(self, other: Measure, sign: int) -> Dimension:
        a, b, c = (x + sign * y for x, y in zip(self.dimension, other.dimension, strict=True))
        return a, b, c


def dimension_name(dimension: Dimension) -> str:
    """The dimension in words, for messages."""
    names: dict[Dimension, str] = {
        PLAIN: "a plain number",
        LENGTH: "a length",
        ANGLE: "an angle",
        AREA: "an area",
        FORCE: "a force",
        (3.0, 0.0, 0.0): "a volume",
    }
    length, angle, force = dimension
    return names.get(dimension, f"mm^{length:g}·rad^{angle:g}·N^{force:g}")


def length_of_file(own: float | None, name: str | None, what: str) -> float:
    """Millimetres in a file's unit of length: its `own`, or the one of this name where `what` does not say. Raises RecipeError
    where neither does."""
    if own is not None:
        return own
    if not name:
        raise RecipeError(
            Problem("/unit", f"{what} does not say its unit", "say which it is: mm, cm, m or in", Fix("/unit", "mm"))
        )  # fmt: skip
    return unit(name).value
