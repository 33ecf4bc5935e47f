"""A recipe in another unit of length: the same part, its numbers counted anew."""

from __future__ import annotations

import copy
import math
from collections.abc import Mapping
from typing import Any

import numpy as np

from metaspira.numbers.expressions import evaluate, names_in
from metaspira.numbers.fields import Kind
from metaspira.numbers.jets import Jet
from metaspira.numbers.measure import Measure
from metaspira.numbers.measure import unit as unit_of
from metaspira.problems import Problem, RecipeError, pointer
from metaspira.recipe.fields import formula_fields, json_put, number_fields
from metaspira.recipe.reading import read_recipe
from metaspira.recipe.resolving import in_base_units, resolve, variable_values

_POWERS: Mapping[Kind, int] = {"length": 1, "area": 2, "volume": 3}
_CLOSE_MM = 1e-5
"""How far a length may be off after it is rounded to be short: a hundredth of a micrometre."""
_CLOSE_SHARE = 1e-9
_SAMPLE = Jet.variable(np.array([0.3137]), 0)


def in_unit(data: dict[str, Any], unit: str) -> dict[str, Any]:
    """The recipe `data` (as JSON) counted in `unit`: the same part, every length within 0.01 µm.

    A formula that comes to a plain number keeps its text and counts in the unit it was typed in; one that
    adds plain numbers to lengths becomes what it comes to. Variables stay. Raises RecipeError where the
    recipe cannot be resolved, or a formula of something that changes adds plain numbers to lengths.
    """
    typed = read_recipe(data)
    resolve(typed)
    variables = variable_values(typed)
    converted = copy.deepcopy(data)
    for parts, quantity, value in number_fields(typed):
        power = _POWERS.get(quantity.kind)
        if power is None or value == 0:
            continue
        if isinstance(value, str):
            kept = _kept(value, quantity.kind, typed.unit, unit, variables)
            counted: str | float = kept or _with_unit(evaluate(value, variables, typed.unit), power)
        else:
            mm = value * unit_of(typed.unit).value ** power
            counted = _short(mm / unit_of(unit).value ** power, _CLOSE_MM / unit_of(unit).value, power)
        json_put(converted, parts, counted)
    for parts, spec, text in formula_fields(typed):
        if spec.kind not in _POWERS:
            continue
        changing = {name: Measure(_SAMPLE) for name in names_in(text) - set(variables)}
        kept = _kept(text, spec.kind, typed.unit, unit, {**variables, **changing})
        if kept is None:
            raise RecipeError(
                Problem(
                    pointer(parts),
                    f"“{text}” adds plain numbers to lengths, and would change with the unit",
                    "give its plain numbers a unit",
                )
            )
        json_put(converted, parts, kept)
    return {**converted, "unit": unit}


def _kept(text: str, kind: Kind, old: str, new: str, names: Mapping[str, Measure]) -> str | None:
    """A formula that comes in the unit `new` to what `text` comes to in `old`; None where neither itself nor
    itself times a unit does."""
    times = " * " + " * ".join([f"1 {old}"] * _POWERS[kind])
    meant = _value(text, kind, old, names)
    for one in (text, f"({text}){times}"):
        if abs(_value(one, kind, new, names) - meant) <= _CLOSE_SHARE * abs(meant):
            return one
    return None


def _value(text: str, kind: Kind, unit: str, names: Mapping[str, Measure]) -> float:
    value = in_base_units(evaluate(text, names, unit), kind, unit)
    return math.nan if value is None else float(value.value[0] if isinstance(value, Jet) else value)


def _with_unit(measure: Measure, power: int) -> str:
    return " * ".join([f"{measure.value:.12g} mm", *["1 mm"] * (power - 1)])


def _short(value: float, close: float, power: int) -> float:
    """`value` with as few digits as keep it this close; of an area or a volume, with twelve."""
    if power > 1:
        return float(f"{value:.12g}")
    return next(
        short for digits in range(1, 18) if abs((short := float(f"{value:.{digits}g}")) - value) <= close
    )
