"""Formulas of something that changes: the same language as any number, over arrays, with derivatives."""

from __future__ import annotations

from collections.abc import Callable, Mapping
from dataclasses import dataclass, field
from typing import Any

import numpy as np

from metaspira.numbers.expressions import ExpressionError, evaluate
from metaspira.numbers.jets import Jet
from metaspira.numbers.measure import Measure
from metaspira.problems import Problem, RecipeError


@dataclass(frozen=True)
class Formula:
    """A formula with the variables that it may use; called with the values of what changes.

    `in_base_units` turns the measure that comes out into a value in mm, mm², radians or plain, or None
    where it has the wrong dimension. `place` is where it stands in the recipe.
    """

    text: str
    place: str
    names: Mapping[str, Measure] = field(compare=False)
    unit_name: str = "mm"
    in_base_units: Callable[[Measure], Any] = field(compare=False, default=lambda measure: measure.value)
    meant: str = "a plain number"

    def __call__(self, **changing: Jet | Measure) -> Jet:
        """The formula's jet. Raises RecipeError at its place, where it cannot be evaluated."""
        given = {
            name: value if isinstance(value, Measure) else Measure(value) for name, value in changing.items()
        }
        like = next(m.value for m in given.values())
        try:
            with np.errstate(all="ignore"):
                measure = evaluate(self.text, {**self.names, **given}, self.unit_name)
                value = self.in_base_units(measure)
        except ExpressionError as error:
            raise RecipeError(Problem(self.place, self._where(error.reason, given), error.remedy)) from None
        if value is None:
            raise RecipeError(
                Problem(self.place, f"“{self.text}” is not {self.meant}", f"make it come to {self.meant}")
            )
        jet: Jet = like.lifted(value)
        return jet

    def _where(self, reason: str, given: Mapping[str, Measure]) -> str:
        """The reason, with the first place where the formula has no value, if that is what is wrong."""
        if "finite" not in reason:
            return reason
        name, measure = next(iter(given.items()))
        for index in range(len(measure.value.value)):
            one = {
                key: Measure(Jet([c[index : index + 1] for c in m.value.c]), m.dimension)
                for key, m in given.items()
            }
            try:
                with np.errstate(all="ignore"):
                    evaluate(self.text, {**self.names, **one}, self.unit_name)
            except ExpressionError:
                at = float(measure.value.value[index])
                return f"“{self.text}” is not defined, or not smooth, at {name} = {at:.6g}"
        return reason
