"""Two recipes side by side: what was changed, in words, and what it changed."""

from __future__ import annotations

import itertools
from collections.abc import Iterator
from dataclasses import dataclass
from typing import Any

from metaspira.checks import Report, Verdict, why_of
from metaspira.problems import RecipeError, pointer
from metaspira.recipe.fields import Parts, number_fields
from metaspira.recipe.reading import read_recipe
from metaspira.recipe.wording import field_words, unit_words

_DEEPEST = 12
"""How deep in a recipe its values are compared one by one."""

_TOLD = 3
"""How deep in a value it is told in words."""


@dataclass(frozen=True)
class Change:
    """What differs at a `place` of a recipe (a JSON pointer), in words; what is on one side alone is None on
    the other."""

    place: str
    words: str
    before: Any
    after: Any


@dataclass(frozen=True)
class FigureChange:
    """A figure of both parts, in `unit`; None where a part does not have it."""

    name: str
    title: str
    unit: str
    before: float | None
    after: float | None


@dataclass(frozen=True)
class CheckChange:
    """A check of both parts; no verdict where it is not asked of one."""

    id: str
    title: str
    before: Verdict | None
    after: Verdict | None


def changes(before: dict[str, Any], after: dict[str, Any]) -> list[Change]:
    """Every value that two recipes, as typed and with what is usual where nothing is, do not share, in the
    order of the first."""
    (old, units), (new, more) = _whole(before), _whole(after)
    units |= more
    return [
        Change(pointer(parts), _words(parts, was, now, units.get(parts, "")), was, now)
        for parts, was, now in _apart(old, new, ())
    ]


def _whole(recipe: dict[str, Any]) -> tuple[dict[str, Any], dict[Parts, str]]:
    """A recipe with what is usual, and what its plain numbers count in; itself where it cannot be read."""
    try:
        typed = read_recipe(recipe)
    except RecipeError:
        return recipe, {}
    units = {parts: unit_words(quantity, typed.unit) for parts, quantity, _ in number_fields(typed)}
    return typed.model_dump(mode="json", by_alias=True, exclude_none=True), units


def figure_changes(before: Report, after: Report) -> list[FigureChange]:
    """Every figure that differs beyond rounding, in their order."""
    why = {**why_of(after.part), **why_of(before.part)}
    names = dict.fromkeys([*before.figures, *after.figures])
    rows = [
        FigureChange(name, why[name].title, why[name].unit, before.figures.get(name), after.figures.get(name))
        for name in names
        if name in why
    ]
    return [row for row in rows if not _same(row.before, row.after)]


def check_changes(before: Report, after: Report) -> list[CheckChange]:
    """The checks that turned."""
    old, new = ({check.id: check for check in report.checks} for report in (before, after))
    rows = [
        CheckChange(
            name,
            (new.get(name) or old[name]).title,
            old[name].verdict if name in old else None,
            new[name].verdict if name in new else None,
        )
        for name in dict.fromkeys([*old, *new])
    ]
    return [row for row in rows if row.before != row.after]


def _same(a: float | None, b: float | None) -> bool:
    if a is None or b is None:
        return a is b
    return abs(a - b) <= 1e-9 * max(abs(a), abs(b))


def _apart(old: Any, new: Any, parts: Parts) -> Iterator[tuple[Parts, Any, Any]]:
    if old is None and new is None:
        return
    grown = [side for side in (old, new) if side is not None]
    deep = len(parts) >= _DEEPEST
    inside = all(isinstance(side, dict) for side in grown) and not deep
    if inside and (len(grown) == 2 or "kind" not in grown[0]):
        old, new = old or {}, new or {}
        for key in dict.fromkeys([*old, *new]):
            yield from _apart(old.get(key), new.get(key), (*parts, key))
    elif isinstance(old, list) and isinstance(new, list) and not deep:
        for index, (was, now) in enumerate(itertools.zip_longest(old, new)):
            yield from _apart(was, now, (*parts, index))
    elif old != new or isinstance(old, bool) != isinstance(new, bool):
        yield parts, old, new


def _words(parts: Parts, old: Any, new: Any, unit: str) -> str:
    name = field_words(parts)
    if old is None:
        return f"{name}: {_value(new, unit)} added"
    if new is None:
        return f"{name}: {_value(old, unit)} taken out"
    return f"{name} {_value(old)} → {_value(new, unit)}"


def _value(value: Any, unit: str = "", inside: int = 0) -> str:
    if isinstance(value, bool):
        return "yes" if value else "no"
    if isinstance(value, float):
        return f"{value:.10g}{unit}"
    if isinstance(value, int):
        return f"{value}{unit}"
    if isinstance(value, dict | list) and inside >= _TOLD:
        return "…"
    if isinstance(value, list):
        return ", ".join(_value(item, "", inside + 1) for item in value)
    if isinstance(value, dict):
        told = (f"{key} {_value(item, '', inside + 1)}" for key, item in value.items())
        return _value(value["kind"], "", inside + 1) if value.get("kind") else ", ".join(told)
    return str(value)
