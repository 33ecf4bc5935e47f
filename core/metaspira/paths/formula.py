"""Formula: x, y, z, or radius, angle and height, as functions of t over a range."""

from __future__ import annotations

from dataclasses import dataclass
from typing import Annotated, Any, Literal

import numpy as np
from pydantic import Field

from metaspira.numbers.fields import AnyLength, Factor, FormulaOf
from metaspira.numbers.formulas import Formula
from metaspira.numbers.jets import Array, Jet, sin_cos
from metaspira.numbers.kind import said, three_digits
from metaspira.paths.base import PathBase, Reach
from metaspira.paths.path import CurvePath, Path
from metaspira.problems import Problem, RecipeError

AnyTurning = Annotated[Formula, FormulaOf("radian")]

_SAMPLES = 2049
_KINK = 0.02
_BISECTIONS = 30


@dataclass(frozen=True, eq=False)
class FormulaCurve:
    """Three formulas of t: x, y, z, or radius, angle (radians) and height."""

    formulas: tuple[Formula, Formula, Formula]
    round: bool
    start: float
    end: float
    breaks: tuple[float, ...] = ()

    def derivatives(self, t: Array, order: int) -> tuple[Array, ...]:
        along = Jet.variable(t, order)
        first, second, third = (formula(t=along) for formula in self.formulas)
        if self.round:
            sine, cosine = sin_cos(second)
            first, second = first * cosine, first * sine
        columns = zip(*(c.derivatives() for c in (first, second, third)), strict=True)
        return tuple(np.stack(column, axis=1) for column in columns)

    def speed(self, t: Array) -> Array:
        return np.linalg.norm(self.derivatives(t, 1)[1], axis=1)


class FormulaPath(PathBase, title="by formula"):
    """A curve by formulas of t, from `from` to `to`: x, y and z, or radius, angle and height.

    A plain angle is in radians here, as in sin and cos.
    """

    listed = 4
    kind: Literal["formula"] = "formula"
    x: AnyLength | None = None
    y: AnyLength | None = None
    z: AnyLength | None = None
    radius: AnyLength | None = None
    angle: AnyTurning | None = Field(default=None, description="in radians")
    height: AnyLength | None = None
    from_: Factor = Field(default=0.0, alias="from", title="t from")
    to: Factor = Field(default=1.0, title="t to")

    @classmethod
    def usual(cls, size: float) -> dict[str, Any]:
        return {
            "kind": "formula",
            "radius": f"{three_digits(size / 2):g} + {three_digits(size / 10):g} * sin(t / 2)",
            "angle": "t",
            "height": f"{three_digits(0.06 * size):g} * t",
            "from": 0,
            "to": "12 * pi",
        }

    def words(self, unit: str) -> str:
        return f"by formula, t from {said(self.from_)} to {said(self.to)}"

    def curve(self, place: str, reach: Reach) -> Path:
        """The path of a resolved formula. Raises RecipeError with places below `place`."""
        flat, around = ("x", "y", "z"), ("radius", "angle", "height")
        given = [name for name in (*flat, *around) if getattr(self, name) is not None]
        for names in (flat, around):
            if set(given) == set(names):
                break
        else:
            wanted = around if given and given[0] in around else flat
            stray = [name for name in given if name not in wanted]
            missing = [name for name in wanted if name not in given]
            name = (stray or missing)[0]
            raise RecipeError(
                Problem(
                    f"{place}/{name}",
                    f"a formula path is given by {', '.join(flat)} or by {', '.join(around)}; it has "
                    f"{', '.join(given) or 'none of them'}",
                    f"leave {name} out" if stray else f"add {name}",
                )
            )
        if not self.to > self.from_:
            raise RecipeError(
                Problem(
                    f"{place}/to",
                    f"the range ends at {self.to:g}, where it starts or before",
                    "give a larger “to”",
                )
            )
        formulas: tuple[Formula, Formula, Formula] = tuple(getattr(self, n) for n in names)
        curve = FormulaCurve(formulas, names is around, self.from_, self.to)
        _demand_smooth(curve, formulas[0].place)
        ends = curve.derivatives(np.array([curve.start, curve.end]), 1)
        scale = float(np.abs(ends[0]).max()) + 1e-9
        unit = ends[1] / np.linalg.norm(ends[1], axis=1, keepdims=True)
        closed = bool(np.linalg.norm(ends[0][1] - ends[0][0]) < 1e-9 * scale and unit[0] @ unit[1] > 1 - 1e-9)
        return CurvePath(curve, closed=closed)


def _demand_smooth(curve: FormulaCurve, place: str) -> None:
    """Refuse a curve that stands still or turns sharply anywhere, and say where."""
    t = np.linspace(curve.start, curve.end, _SAMPLES)
    slope = curve.derivatives(t, 1)[1]
    speed = np.linalg.norm(slope, axis=1)
    still = speed < 1e-9 * max(float(speed.max()), 1e-300)
    if still.any() or speed.max() == 0:
        at = float(t[int(np.argmax(still))])
        raise RecipeError(
            Problem(
                place,
                f"the curve stands still at t = {at:.6g}",
                "change the formula or the range so that it moves on everywhere",
            )
        )
    directions = slope / speed[:, None]
    sharp = np.flatnonzero(np.linalg.norm(np.diff(directions, axis=0), axis=1) > _KINK)
    low, high = t[sharp], t[sharp + 1]
    for _ in range(_BISECTIONS):
        middle = 0.5 * (low + high)
        first, second, third = (_directions(curve, at) for at in (low, middle, high))
        before = np.linalg.norm(second - first, axis=1) >= np.linalg.norm(third - second, axis=1)
        low, high = np.where(before, low, middle), np.where(before, middle, high)
    left = np.linalg.norm(_directions(curve, high) - _directions(curve, low), axis=1)
    if np.any(left > 0.5 * _KINK):
        at = float(low[int(np.argmax(left > 0.5 * _KINK))])
        raise RecipeError(
            Problem(place, f"the curve has a corner at t = {at:.6g}", "round it, or use only one side of it")
        )


def _directions(curve: FormulaCurve, t: Array) -> Array:
    slope = curve.derivatives(t, 1)[1]
    return np.asarray(slope / np.maximum(np.linalg.norm(slope, axis=1, keepdims=True), 1e-300))
