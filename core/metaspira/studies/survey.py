"""Surveys: one or two inputs over a range, with every figure and check of the part at each value."""

from __future__ import annotations

import itertools
import math
from collections.abc import Callable, Sequence
from dataclasses import asdict, dataclass, field
from functools import partial
from typing import Annotated, Any

import numpy as np
from pydantic import Field

from metaspira.checks import Report, report_on, why_of
from metaspira.numbers.kind import Kind
from metaspira.numbers.tables import csv_text
from metaspira.parts import AnyPart, make_part
from metaspira.problems import Problem, RecipeError
from metaspira.processes import Progress, spread
from metaspira.recipe.fields import Parts
from metaspira.recipe.model import Recipe, ThreadRecipe
from metaspira.springs.exact import demand_exact, exact_of
from metaspira.springs.figures import spring_figures
from metaspira.springs.working import WoundSpring
from metaspira.studies.inputs import Input, input_at, with_values

MOST_POINTS = 2500

_Plain = Annotated[float, Field(allow_inf_nan=False, ge=-1e12, le=1e12)]


class Over(Kind):
    """An input, a JSON pointer, at `count` even steps from `low` to `high`, plain numbers as typed there."""

    input: str = Field(max_length=200)
    low: _Plain
    high: _Plain
    count: int = Field(ge=2, le=MOST_POINTS)


@dataclass
class Column:
    """A figure at each point; None where the part has no such figure."""

    title: str
    unit: str
    values: list[float | None]

    def fill(self, rows: int) -> None:
        """Make it `rows` long."""
        self.values += [None] * (rows - len(self.values))

    def put(self, row: int, value: float | None) -> None:
        """Add a value in a row, after all that it has."""
        self.fill(row)
        self.values.append(value)


@dataclass
class CheckColumn(Column):
    """A check's figure and verdict at each point."""

    verdicts: list[str | None]

    def fill(self, rows: int) -> None:
        super().fill(rows)
        self.verdicts += [None] * (rows - len(self.verdicts))

    def put(self, row: int, value: float | None, verdict: str | None = None) -> None:
        super().put(row, value)
        self.verdicts.append(verdict)


@dataclass(frozen=True)
class Survey:
    """What was found. Points run through the last input first. `verdicts` is that of each point, “unusable”
    where the recipe cannot be used there, and `reasons` says why."""

    inputs: list[Input]
    steps: list[list[float]]
    figures: dict[str, Column]
    checks: dict[str, CheckColumn]
    verdicts: list[str]
    reasons: list[str]

    def as_dict(self) -> dict[str, Any]:
        """The survey as JSON."""
        return asdict(self)

    @classmethod
    def from_dict(cls, data: dict[str, Any]) -> Survey:
        """The survey in JSON that `as_dict` gave."""
        return cls(
            [Input(**one) for one in data["inputs"]],
            data["steps"],
            {name: Column(**column) for name, column in data["figures"].items()},
            {name: CheckColumn(**column) for name, column in data["checks"].items()},
            data["verdicts"],
            data["reasons"],
        )


def survey(
    typed: Recipe | ThreadRecipe,
    over: Sequence[Over],
    progress: Progress = lambda share, step: None,
    cancelled: Callable[[], bool] = lambda: False,
    found_so_far: Callable[[Survey], None] = lambda found: None,
    exact: bool = False,
) -> Survey:
    """Try a recipe at every combination of one or two inputs' values, on every processor. `progress` is told
    the share done, `found_so_far` is given all points up to the last that is known, and `cancelled` is asked
    now and then. With `exact` what a spring does by the exact elasticity of its turns is among the figures.
    Raises RecipeError, Cancelled."""
    inputs = demand(typed, over, exact)
    steps = [_steps(one, asked) for one, asked in zip(inputs, over, strict=True)]
    points = list(itertools.product(*steps))
    found = Survey(inputs, steps, {}, {}, [], [])
    tried = partial(_tried, typed, [one.parts for one in inputs], exact)
    for done, tried_point in enumerate(spread(tried, points, cancelled, __name__), start=1):
        _add(found, tried_point)
        progress(done / len(points), f"point {done} of {len(points)}")
        found_so_far(found)
    return found


def csv_of(found: Survey) -> str:
    """A survey as a table: a row a point, units in the heads."""
    rows = [
        [
            *(_head(one.words, one.unit) for one in found.inputs),
            "verdict",
            *(_head(column.title, column.unit) for column in found.figures.values()),
            *(_head(column.title, column.unit) for column in found.checks.values()),
            *(f"{column.title}, verdict" for column in found.checks.values()),
            "reason",
        ]
    ]
    for row, point in enumerate(itertools.product(*found.steps)):
        rows.append(
            [
                *(f"{value:.10g}" for value in point),
                found.verdicts[row],
                *(_cell(column.values[row]) for column in found.figures.values()),
                *(_cell(column.values[row]) for column in found.checks.values()),
                *(column.verdicts[row] or "" for column in found.checks.values()),
                found.reasons[row],
            ]
        )
    return csv_text(rows)


def demand(typed: Recipe | ThreadRecipe, over: Sequence[Over], exact: bool = False) -> list[Input]:
    """The inputs that a survey goes over. Raises RecipeError where they, or the recipe, cannot be used."""
    if not 1 <= len(over) <= 2:
        raise RecipeError(Problem("/over", f"{len(over)} inputs are given", "survey one input, or two"))
    points = int(np.prod([asked.count for asked in over]))
    if points > MOST_POINTS:
        raise RecipeError(
            Problem("/over", f"{points} points are asked for", f"keep it to {MOST_POINTS} in all")
        )
    part = make_part(typed)
    if exact:
        demand_exact(part.spring)
    inputs = [input_at(part, asked.input, f"/over/{k}/input") for k, asked in enumerate(over)]
    if len({one.place for one in inputs}) < len(inputs):
        raise RecipeError(Problem("/over/1/input", "both inputs are the same", "take another one"))
    return inputs


def _steps(one: Input, asked: Over) -> list[float]:
    values = np.linspace(asked.low, asked.high, asked.count)
    if one.whole:
        values = np.unique(np.round(values))
    return [float(f"{value:.12g}") for value in values]


@dataclass(frozen=True)
class _Tried:
    """What came of one point: the figures' and the checks' names, titles, units and values, and the checks'
    verdicts."""

    verdict: str
    reason: str
    figures: list[tuple[str, str, str, float | None]] = field(default_factory=list)
    checks: list[tuple[str, str, str, float | None, str]] = field(default_factory=list)


def _tried(
    typed: Recipe | ThreadRecipe, inputs: Sequence[Parts], exact: bool, point: tuple[float, ...]
) -> _Tried:
    try:
        report = report_on(with_values(typed, dict(zip(inputs, point, strict=True))), False)
        figures = _figures(report) + (_exact(report.part) if exact else [])
    except RecipeError as error:
        return _Tried("unusable", "; ".join(problem.reason for problem in error.problems))
    stops = [check for check in report.checks if check.verdict == report.verdict != "clear"]
    return _Tried(
        report.verdict,
        stops[0].why if stops else "",
        [(name, title, unit, _finite(value)) for name, title, unit, value in figures],
        [(c.id, c.title, c.unit, _finite(c.value), c.verdict) for c in report.checks],
    )


def _add(found: Survey, tried: _Tried) -> None:
    row = len(found.verdicts)
    found.verdicts.append(tried.verdict)
    found.reasons.append(tried.reason)
    for name, title, unit, value in tried.figures:
        found.figures.setdefault(name, Column(title, unit, [])).put(row, value)
    for name, title, unit, value, verdict in tried.checks:
        found.checks.setdefault(name, CheckColumn(title, unit, [], [])).put(row, value, verdict)
    for column in (*found.figures.values(), *found.checks.values()):
        column.fill(row + 1)


_Figure = tuple[str, str, str, float | None]


def _figures(report: Report) -> list[_Figure]:
    """Name, title, unit and value of each figure of the part, and of the spring that it is."""
    why, part = why_of(report.part), report.part
    rows = [(name, why[name].title, why[name].unit, value) for name, value in report.figures.items()]
    if part.spring is not None:
        rows += [(f"spring-{one.key}", one.title, one.unit, one.value) for one in spring_figures(part.spring)]
        spring: WoundSpring = part.spring
        place, effort = spring.units
        for k, point in enumerate(spring.points):
            at, name = f"at working point {k + 1}", f"spring-point-{k}"
            rows += [
                (f"{name}-place", f"{'Length' if place == 'mm' else 'Angle'} {at}", place, point.place),
                (
                    f"{name}-effort",
                    f"{'Force' if effort == 'N' else 'Torque'} {at}",
                    effort,
                    point.effort,
                ),
                (f"{name}-stress", f"Corrected stress {at}", "MPa", point.corrected),
            ]
    return rows


def _exact(part: AnyPart) -> list[_Figure]:
    """What a spring does by the exact elasticity of its turns."""
    found = exact_of(demand_exact(part.spring))
    rate = "N mm/°" if found.rate_turning is None else "N/mm"
    rows = [
        ("exact-rate", "Rate, exact", rate, found.rate),
        ("exact-rate-turning", "Rate, exact, ends that can turn", rate, found.rate_turning),
    ]
    for k, load in enumerate(found.loads):
        at, name = f"at working point {k + 1}", f"exact-point-{k}"
        rows += [
            (f"{name}-stress", f"Greatest {found.stress} {at}, exact", "MPa", load.stress),
            (f"{name}-equivalent", f"Greatest equivalent stress {at}, exact", "MPa", load.equivalent),
        ]
    for k, hook in enumerate(found.hooks):
        at = f"in the hooks at working point {k + 1}, exact"
        rows += [
            (f"exact-point-{k}-hooks", f"Bending {at}", "MPa", hook.stress),
            (f"exact-point-{k}-bends", f"Torsion {at}", "MPa", hook.shear),
        ]
    return [row for row in rows if row[3] is not None]


def _finite(value: float | None) -> float | None:
    return value if value is not None and math.isfinite(value) else None


def _head(title: str, unit: str) -> str:
    return f"{title} {unit}".strip()


def _cell(value: float | None) -> str:
    return "" if value is None else f"{value:.10g}"
