"""From a recipe as typed to a recipe in numbers: formulas worked out, units made one."""

from __future__ import annotations

import math
from dataclasses import dataclass
from typing import Any, TypeVar

from metaspira.numbers.expressions import ExpressionError, evaluate, names_in
from metaspira.numbers.fields import FormulaOf, Kind, Quantity
from metaspira.numbers.formulas import Formula
from metaspira.numbers.measure import (
    ANGLE,
    AREA,
    FORCE,
    LENGTH,
    MASS,
    PLAIN,
    STRESS,
    TORQUE,
    VOLUME,
    Measure,
    dimension_name,
    unit,
)
from metaspira.problems import Fix, Problem, RecipeError, pointer
from metaspira.recipe.fields import Parts, all_replaced, typed_fields
from metaspira.recipe.model import Document

R = TypeVar("R", bound=Document)


@dataclass(frozen=True)
class _Words:
    meant: str
    example: str
    unit: str = ""


_WANTED = {
    "length": LENGTH,
    "area": AREA,
    "volume": VOLUME,
    "angle": ANGLE,
    "radian": ANGLE,
    "turns": PLAIN,
    "force": FORCE,
    "torque": TORQUE,
    "stress": STRESS,
    "mass": MASS,
    "number": PLAIN,
    "count": PLAIN,
}
_WORDS = {
    "length": _Words("a length", "“12 mm”", " mm"),
    "area": _Words("an area", "“12 mm * 1 mm”", " mm²"),
    "volume": _Words("a volume", "“12 mm * 1 mm * 1 mm”", " mm³"),
    "angle": _Words("an angle", "“30 deg” or “2 turns”", "°"),
    "radian": _Words("an angle", "“t” or “2 turns”", " rad"),
    "turns": _Words("a number of turns", "“8.5”", " turns"),
    "force": _Words("a force", "“120” or “27 lbf”", " N"),
    "torque": _Words("a torque", "“300”, “0.5 N m” or “5 lbf in”", " N mm"),
    "stress": _Words("a stress", "“1700” or “250 ksi”", " MPa"),
    "mass": _Words("a mass", "“300”, “0.3 kg” or “0.66 lb”", " g"),
    "number": _Words("a plain number", "“1.5”"),
    "count": _Words("a whole number", "“6”"),
}


def resolve(recipe: R) -> R:
    """The same recipe with every number field a float in base units (mm, mm², rad, turns, N, plain), and
    every formula field a `Formula`.

    Variables keep their text. Raises RecipeError with all that is wrong.
    """
    variables = variable_values(recipe)
    problems: list[Problem] = []
    values: list[tuple[Parts, Any]] = []
    for parts, spec, typed in typed_fields(recipe):
        at = (pointer(parts), recipe.unit, variables)
        try:
            value = _formula(typed, spec, *at) if isinstance(spec, FormulaOf) else _number(typed, spec, *at)
            values.append((parts, value))
        except RecipeError as error:
            problems += error.problems
    if problems:
        raise RecipeError(problems)
    return all_replaced(recipe, values)


def variable_values(recipe: Document) -> dict[str, Measure]:
    """Every variable's measure, in the order in which they depend on each other.

    Raises RecipeError for a cycle or a fault in any of them.
    """
    values: dict[str, Measure] = {}
    problems: list[Problem] = []
    waiting: dict[str, tuple[Any, set[str]]] = {}
    for name, typed in recipe.variables.items():
        try:
            used: set[str] = names_in(typed) if isinstance(typed, str) else set()
        except ExpressionError as error:
            problems.append(Problem(pointer(["variables", name]), error.reason, error.remedy))
            continue
        waiting[name] = (typed, used & set(recipe.variables))
    while waiting and not problems:
        ready = [name for name, (_, used) in waiting.items() if used <= values.keys()]
        if not ready:
            circle = " → ".join(_circle({name: used for name, (_, used) in waiting.items()}))
            place = pointer(["variables", next(iter(waiting))])
            problems.append(
                Problem(place, f"the variables go in a circle: {circle}", "give one of them a number")
            )
        for name in ready:
            typed, _ = waiting.pop(name)
            try:
                values[name] = (
                    evaluate(typed, values, recipe.unit) if isinstance(typed, str) else Measure(float(typed))
                )
            except ExpressionError as error:
                problems.append(Problem(pointer(["variables", name]), error.reason, error.remedy))
    if problems:
        raise RecipeError(problems)
    return values


def _number(
    typed: float | str,
    quantity: Quantity,
    place: str,
    unit_name: str,
    variables: dict[str, Measure],
) -> float:
    """The field's value in base units. Raises RecipeError."""
    try:
        measure = evaluate(typed, variables, unit_name) if isinstance(typed, str) else Measure(float(typed))
    except ExpressionError as error:
        raise RecipeError(Problem(place, error.reason, error.remedy)) from None
    words = _WORDS[quantity.kind]
    value = in_base_units(measure, quantity.kind, unit_name)
    if value is None:
        dimension = dimension_name(measure.dimension)
        raise RecipeError(
            Problem(
                place,
                f"“{typed}” is {dimension}, and {words.meant} is meant",
                f"give it {words.meant} such as {words.example}",
            )
        )
    if quantity.kind == "count" and value != round(value):
        whole = round(value)
        raise RecipeError(
            Problem(place, f"{value:g} is not a whole number", f"use {whole}", Fix(place, whole))
        )
    works = min(max(value, quantity.least), quantity.most)
    if value != works:
        side = "least" if value < works else "most"
        remedy = f"the {side} is {_show(works, quantity)}"
        if value < 0 and quantity.least < -value <= quantity.most:
            works = -value
            remedy = f"{remedy}; {_show(works, quantity)} is as large without the sign"
        raise RecipeError(
            Problem(
                place,
                f"{_show(value, quantity)} is out of range",
                remedy,
                Fix(place, float(f"{in_typed_units(works, quantity, unit_name):.12g}")),
            )
        )
    return value


def _formula(
    text: str, spec: FormulaOf, place: str, unit_name: str, variables: dict[str, Measure]
) -> Formula:
    return Formula(
        text,
        place,
        variables,
        unit_name,
        lambda measure: in_base_units(measure, spec.kind, unit_name),
        _WORDS[spec.kind].meant,
    )


def in_base_units(measure: Measure, kind: Kind, unit_name: str) -> Any:
    """The value of a measure that is meant for a quantity of a kind, in base units; None where it is of
    another dimension. A plain number counts in `unit_name`, an angle in degrees."""
    wanted = _WANTED[kind]
    if measure.is_plain:
        return measure.value * _plain_factor(kind, unit_name)
    if kind == "turns" and measure.dimension == ANGLE:
        return measure.value / (2 * math.pi)
    return measure.value if measure.dimension == wanted else None


def _plain_factor(kind: Kind, unit_name: str) -> float:
    """What a plain number of this kind is multiplied by to be in base units."""
    length = unit(unit_name).value
    return {"length": length, "area": length**2, "volume": length**3, "angle": math.pi / 180}.get(kind, 1.0)


def in_typed_units(value: float, quantity: Quantity, unit_name: str) -> float:
    """A value in base units as it would be typed plainly: in the recipe's unit, or degrees."""
    return value / _plain_factor(quantity.kind, unit_name)


def _show(value: float, quantity: Quantity) -> str:
    shown = math.degrees(value) if quantity.kind == "angle" else value
    return f"{shown:.6g}{_WORDS[quantity.kind].unit}"


def _circle(uses: dict[str, set[str]]) -> list[str]:
    trail = [next(iter(uses))]
    while True:
        step = sorted(uses[trail[-1]] & uses.keys())[0]
        if step in trail:
            return [*trail[trail.index(step) :], step]
        trail.append(step)
