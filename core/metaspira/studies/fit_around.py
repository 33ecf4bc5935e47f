"""A coil fitted around reference bodies: the least diameters that leave the air asked for.

Of a coil whose centre line is at radius R₀ + (R₁ − R₀) z/H at height z, every point of the bodies at height z
and distance ρ from the axis wants R(z′) − w ≥ ρ + air for the heights z′ of the wire beside it, w its reach
towards the axis: a linear programme in R₀ and R₁.
"""

from __future__ import annotations

import math

import numpy as np
import scipy

from metaspira.checks.reference import check_reference
from metaspira.numbers.jets import Array
from metaspira.parts import Part
from metaspira.paths.coil import Coil
from metaspira.problems import Fix, Problem, RecipeError, parts_of
from metaspira.references.placed import placed
from metaspira.studies.inputs import with_values

_STEP = 0.01
_TRIES = 8


def fitted(part: Part, air: float) -> dict[str, float]:
    """Values of the diameters, by JSON pointer in the recipe's unit, with which a coil keeps `air` mm to its
    reference bodies. Raises RecipeError where it is no coil, or where no body stands inside it."""
    path = part.recipe.path
    if not part.recipe.fit.bodies:
        raise RecipeError(Problem("/fit/bodies", "there is no reference body", "bring one in"))
    if not isinstance(path, Coil) or path.cone_angle is not None or not isinstance(path.diameter, float):
        raise RecipeError(
            Problem(
                "/path/kind",
                "a coil with a diameter at each end is fitted",
                "take a coil",
                Fix("/path/kind", "coil"),
            )
        )
    taper = path.end_diameter is not None
    inward, outward, low, high = part.outline.box
    height, radius = _points(part)
    line = part.path.without_legs.derivatives(np.array([0.0, part.path.without_legs.length]), 0)[0][:, 2]
    start, rise = float(line[0]), float(line[1] - line[0])
    up = max(high, -low)
    near = (height >= min(line) - up) & (height <= max(line) + up)
    if not near.any():
        raise RecipeError(
            Problem(
                "/fit/bodies",
                "no reference body stands at the coil's heights",
                "move it, or make the coil longer",
            )
        )
    height, radius = height[near], radius[near]
    ends = _least(height, radius - inward + air, start, rise, up, taper)
    for _ in range(_TRIES):
        values = _diameters(part, ends, inward, outward, taper)
        tried = with_values(part.typed, {tuple(parts_of(place)): v for place, v in values.items()})
        assert isinstance(tried, Part)
        found = check_reference(tried)
        short = air - (found.value or 0.0)
        if short <= 1e-9:
            return values
        ends = [radius + max(short, _STEP / 2) for radius in ends]
    return values


def _points(part: Part) -> tuple[Array, Array]:
    """Heights and distances from the axis, (n,), of places all over the bodies."""
    bodies = [placed(body) for body in part.recipe.fit.bodies]
    points = np.concatenate([np.vstack([body.places, body.triangles.mean(axis=1)]) for body in bodies])
    error = max(body.error for body in bodies)
    return points[:, 2], np.hypot(points[:, 0], points[:, 1]) + error


def _least(height: Array, wanted: Array, start: float, rise: float, up: float, taper: bool) -> list[float]:
    if not taper or abs(rise) < 1e-9:
        return [float(wanted.max())]
    rows = []
    for shift in (-up, 0.0, up):
        share = np.clip((height + shift - start) / rise, 0.0, 1.0)
        rows.append(np.column_stack([1 - share, share]))
    found = scipy.optimize.linprog(
        [1.0, 1.0], A_ub=-np.vstack(rows), b_ub=-np.tile(wanted, 3), bounds=[(0, None)] * 2
    )
    return [float(value) for value in found.x]


def _diameters(part: Part, ends: list[float], inward: float, outward: float, taper: bool) -> dict[str, float]:
    path = part.recipe.path
    assert isinstance(path, Coil)
    more = {"mean": 0.0, "outside": outward, "inside": inward}[path.diameter_at]
    values = [math.ceil(2 * (radius + more) / _STEP - 1e-9) * _STEP / part.length_unit for radius in ends]
    places = ["/path/diameter", "/path/end_diameter"] if taper else ["/path/diameter"]
    return {place: round(value, 6) for place, value in zip(places, values, strict=True)}
