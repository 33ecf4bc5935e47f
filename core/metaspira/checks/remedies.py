"""Remedies: the nearest value of one input that makes a check clear, found by search on that input.

The search looks at the check alone, on long coils only around the worst place; each value found is then tried
on the whole part, and dropped where the check is not clear or another check has become worse. An input is a
cure only where the check answers to it: one that does nothing until it takes the place of the trouble away is
none. What changes the part least comes first; what would leave less than half of it, or more than double it,
is offered only where nothing else is found.
"""

from __future__ import annotations

import math
from collections.abc import Callable, Iterator
from dataclasses import dataclass, replace
from functools import lru_cache
from typing import Any

import numpy as np

from metaspira.checks.check import WHOLE, Check, Enough, Remedy, Window, in_words, worst
from metaspira.checks.gaps import part_gaps
from metaspira.checks.question import Question
from metaspira.gaps.bends import least_stretch
from metaspira.numbers.fields import Quantity
from metaspira.numbers.jets import Array
from metaspira.parts import AnyPart, Body, Part, make_part, part_of
from metaspira.parts.threaded import ThreadedPart
from metaspira.problems import RecipeError, pointer
from metaspira.recipe.fields import Parts, number_fields, replaced
from metaspira.recipe.resolving import in_typed_units
from metaspira.recipe.wording import field_words, unit_words

AllChecks = Callable[[AnyPart], list[Check]]

_NEVER = ("rides_at", "at", "turn", "holes", "paint")
_BUDGET = 160
_SMALL_BUDGET = 120
_LEAST_BUDGET = 40
_MOST = 4
_FURTHEST = 2.0
_AIMED_STEPS = 8
_HALVINGS = 24
_LONG = 6
_STEP = 2e-3
_ANSWERS = 1e-2
_NEAR = 2e-3
_ROUNDING = 4e-3
_DRASTIC = 2.0
_SAID = 5e-4
_POINTS, _FAR = 2, 0.15
_SCAN = (0.05, 0.1, 0.2, 0.35, 0.5, 0.8)
_FARTHER = (1.0, 1.02, 1.06)


@dataclass(frozen=True)
class _Input:
    """One number that can be turned: where it stands, its value, how large it is, and what is written there,
    and said, for another value."""

    parts: Parts
    value: float
    scale: float
    put: Callable[[float], Any]
    words: Callable[[float], str]
    unit: str = ""


@dataclass(frozen=True)
class _Found:
    remedy: Remedy
    cost: float
    drastic: bool = False


def remedies_for(
    part: AnyPart, check: Check, question: Question, run_all: AllChecks, enough: Enough
) -> tuple[Remedy, ...]:
    """Up to four remedies for a check that is not clear, the smallest change first. No more are tried once
    `enough` says so."""
    window = _window(part, check)
    budget = _Budget(_budget(part), enough)
    verdict_before = {other.id: other.verdict for other in run_all(part)}
    found: list[_Found] = []

    def clears(remedied: AnyPart) -> bool:
        for after in run_all(remedied):
            before = verdict_before[after.id]
            if after.id == check.id and after.verdict != "clear":
                return False
            if worst([after.verdict, before]) != before:
                return False
        return True

    for stance in _stances(part) if question.stances else ():
        if budget.spent:
            break
        remedied = _with_stance(part, stance)
        if remedied is not None and clears(remedied):
            found.append(_costed(part, remedied, _stance_remedy(part, stance)))
            break
    for parts, choice, words in question.choices(part):
        remedied = _with(part, parts, choice)
        if remedied is not None and question.ask(remedied, window).margin >= 0 and clears(remedied):
            found.append(_costed(part, remedied, Remedy(pointer(parts), choice, words)))
    search = _aimed if question.aimed else _search
    tried_at: set[Parts] = set()
    for field in _inputs(part, check, question):
        if field.parts in tried_at:
            continue
        tried_at.add(field.parts)
        if budget.spent or sum(not one.drastic for one in found) > _MOST:
            break
        value = search(part, field, window, question, budget)
        if value is None or budget.enough():
            continue
        for farther in _FARTHER:
            tried = field.value + farther * (value - field.value)
            tried = value if farther == 1.0 else float(f"{tried:.4g}")
            remedied = _with(part, field.parts, field.put(tried))
            if remedied is not None and clears(remedied):
                text = f"{field.words(tried)}{field.unit}"
                remedy = Remedy(pointer(field.parts), field.put(tried), text)
                found.append(_costed(part, remedied, remedy, field, tried))
                break
    kind = [one for one in found if not one.drastic] or [
        replace(
            one,
            remedy=replace(one.remedy, cost=f"a large change, nothing smaller was found; {one.remedy.cost}"),
        )
        for one in sorted(found, key=lambda one: one.cost)[:1]
    ]
    return tuple(one.remedy for one in sorted(kind, key=lambda one: one.cost)[:_MOST])


def _costed(
    part: AnyPart, remedied: AnyPart, remedy: Remedy, field: _Input | None = None, value: float = 0.0
) -> _Found:
    """A remedy with what it costs in words, and how large a change it is."""
    before, after = part.sizes, remedied.sizes
    changes = {name: after[name] / size - 1 for name, size in before.items() if size > 0}
    told = [
        f"{name} {in_words(100 * change, '+.2g')} %"
        for name, change in changes.items()
        if _SAID <= abs(change) < 1
    ]
    turned = 0.0 if field is None else abs(value - field.value) / max(abs(field.value), field.scale)
    shrunk = (
        field is not None and field.value > 0 and not 1 / _DRASTIC <= value / field.value <= 1.5 * _DRASTIC
    )
    drastic = field is not None and (
        shrunk or any(not 1 / _DRASTIC <= 1 + change <= _DRASTIC for change in changes.values())
    )
    instead = "" if field is None or field.value == 0 else f"for {field.value:.4g}: "
    cost = instead + (", ".join(told) or "mass and size stay")
    return _Found(replace(remedy, cost=cost), sum(map(abs, changes.values())) + 0.1 * turned, drastic)


def _budget(part: AnyPart) -> int:
    """How many parts may be tried: fewer where each takes long."""
    if isinstance(part, ThreadedPart):
        return _BUDGET
    if len(part.bodies) > 1:
        return max(_LEAST_BUDGET, _SMALL_BUDGET // len(part.bodies) * 2)
    return _BUDGET if part.sweep.is_tube else _SMALL_BUDGET


def _inputs(part: AnyPart, check: Check, question: Question) -> Iterator[_Input]:
    """The inputs that may cure a check, in the question's order; points of a path at last."""
    resolved = {parts: value for parts, _, value in number_fields(part.recipe)}
    typed = list(number_fields(part.typed))
    for name in question.cures:
        for parts, quantity, _ in typed:
            at = pointer(parts)
            wanted = at == name or (at.startswith(f"{name}/") and not any(word in parts for word in _NEVER))
            if wanted and quantity.kind != "count":
                value = in_typed_units(resolved[parts], quantity, part.typed.unit)
                yield _number(parts, quantity, value, part.typed.unit)
    if isinstance(part, Part) and part.recipe.path.corners is not None and question.points:
        yield from _points(part, np.array(part.recipe.path.corners, dtype=float), check)


def _number(parts: Parts, quantity: Quantity, value: float, unit: str) -> _Input:
    words = field_words(parts)
    return _Input(
        parts,
        value,
        max(abs(value), 1e-2),
        lambda v: v,
        lambda v: f"{words} {v:g}",
        unit_words(quantity, unit),
    )


def _points(part: Part, points: Array, check: Check) -> Iterator[_Input]:
    """The points of a path nearest to the trouble, moved along the line on which that goes away."""
    least = part_gaps(part).least
    if check.id in ("self-contact", "clearance") and least is not None:
        places = np.array(least.gap.at)
        at = [
            body.sweep.path.derivatives(places[k : k + 1], 0)[0][0]
            for k, body in enumerate(_ends_of(part, least.of))
        ]
        lines = [(at[0], at[0] - at[1]), (at[1], at[0] - at[1])]
    else:
        place = np.array([sum(check.where[0]) / 2 if check.where else least_stretch(part.sweep)[1]])
        here = part.path.at(place)
        lines = [(here.position[0], here.curvature[0])]
    for where, line in lines:
        size = float(np.linalg.norm(line))
        if size < 1e-12:
            continue
        line = line / size / part.length_unit
        for nearest in np.argsort(np.linalg.norm(points - where, axis=1))[:_POINTS]:
            yield _moved(part, points, int(nearest), line)


def _moved(part: Part, points: Array, number: int, line: Array) -> _Input:
    """A point of a path, moved along a line."""
    start = points[number] / part.length_unit
    scale = max(part.sweep.section.reach(), _FAR * float(np.ptp(points, axis=0).max())) / part.length_unit

    def put(v: float) -> list[float]:
        return [round(float(c), 4) for c in start + v * line * part.length_unit]

    def words(v: float) -> str:
        x, y, z = put(v)
        return f"point {number + 1} to ({x:g}, {y:g}, {z:g}), {abs(v):.3g} {part.typed.unit} away"

    return _Input(("path", "points", number), 0.0, scale, put, words)


def _ends_of(part: Part, names: tuple[str, ...]) -> list[Body]:
    named = {body.name: body for body in part.bodies}
    return [named[names[0]], named[names[-1]]]


def _stances(part: AnyPart) -> tuple[str, ...]:
    """Other stances, the ones that fit most paths first."""
    if isinstance(part, ThreadedPart):
        return ()
    now = "outward" if part.recipe.stance is None else part.recipe.stance.kind
    return tuple(kind for kind in ("outward", "steady", "upright") if kind != now)


def _window(part: AnyPart, check: Check) -> Window:
    """The share of a long wire to look at: around the worst place, where both that meet are within it."""
    if isinstance(part, ThreadedPart):
        return WHOLE
    turns = part.sweep.turning / (2 * math.pi)
    if len(part.bodies) > 1 or turns <= _LONG or not check.where:
        return WHOLE
    places = [sum(check.where[0]) / 2]
    least = part_gaps(part).least
    if check.id in ("self-contact", "clearance") and least is not None:
        places = list(least.gap.at)
    low, high = min(places) / part.path.length, max(places) / part.path.length
    half = _LONG / 4 / turns
    if high - low > half:
        return WHOLE
    middle = min(max(0.5 * (low + high), half), 1 - half)
    return middle - half, middle + half


@dataclass
class _Budget:
    """How many more parts may be tried, and whether it is enough before."""

    left: int
    enough: Enough

    @property
    def spent(self) -> bool:
        return self.left <= 0 or self.enough()


def _search(
    part: AnyPart, field: _Input, window: Window, question: Question, budget: _Budget
) -> float | None:
    """The value nearest to the present one, rounded, at which the margin is not negative; None where the
    margin does not answer to the input.

    Steps by the secant, a little beyond its zero, in the direction in which the margin grows; where that
    fails, as it may where turns of two windings pass each other, both directions are tried in steps.
    """
    known: dict[float, float] = {}

    def at(value: float) -> float:
        if value not in known:
            if budget.enough():
                return -math.inf
            budget.left -= 1
            changed = _with(part, field.parts, field.put(value))
            known[value] = -math.inf if changed is None else question.margin_of(changed, window)
        return known[value]

    start, scale = field.value, field.scale
    if at(start) >= 0 or not math.isfinite(at(start)):
        return None
    slope = 0.0
    for share in (_STEP, -_STEP, 0.1, -0.1):
        rise = at(start + share * scale) - at(start)
        if math.isfinite(rise) and abs(rise) > _ANSWERS * abs(share * at(start)):
            slope = rise / (share * scale)
            break
    if slope == 0.0:
        return None
    needed = min(1.02 * abs(at(start) / slope), _FURTHEST * scale)
    bad = start
    for growth in (1.0, 1.6, 2.6, 4.2, 6.8):
        trial = start + math.copysign(min(needed * growth, _FURTHEST * scale), slope)
        if start > 0 and trial <= 0:
            trial = 0.5 * (bad if bad > 0 else start)
        if at(trial) >= 0:
            return _rounded(start, bad, trial, at)
        bad = trial
    near = {0: start, 1: start}
    for share in _SCAN:
        for side, sign in enumerate((math.copysign(1.0, slope), -math.copysign(1.0, slope))):
            trial = start + sign * share * scale
            if at(trial) >= 0:
                return _rounded(start, near[side], trial, at)
            near[side] = trial
    return None


def _aimed(part: AnyPart, field: _Input, window: Window, question: Question, budget: _Budget) -> float | None:
    """The value at which a figure is what is expected of it, by the secant, in as few digits as keep it
    within."""

    def at(value: float) -> tuple[float, bool]:
        changed = None if budget.spent else _with(part, field.parts, field.put(value))
        budget.left -= 1
        if changed is None:
            return math.nan, False
        check = question.ask(changed, window)
        off = math.nan if check.value is None or check.limit is None else check.value - check.limit
        return off, check.margin >= 0

    old, new = field.value, field.value * 1.01 or 0.01
    off_old, (off_new, met) = at(old)[0], at(new)
    for _ in range(_AIMED_STEPS):
        if not math.isfinite(off_old + off_new) or off_old == off_new:
            return None
        if met:
            break
        step = -off_new * (new - old) / (off_new - off_old)
        furthest = _FURTHEST * max(abs(field.value), 1e-2)
        old, off_old, new = new, off_new, new + min(max(step, -furthest), furthest)
        off_new, met = at(new)
    if not met:
        return None
    digits = (round(new, k - math.floor(math.log10(max(abs(new), 1e-9)))) for k in range(1, 9))
    return next((value for value in digits if at(value)[1]), new)


def _rounded(start: float, bad: float, good: float, at: Callable[[float], float]) -> float:
    """The clear value nearest to `bad`, in as few digits as keep it near."""
    for step in range(_HALVINGS):
        if abs(good - bad) < _NEAR * max(abs(good), abs(good - start)):
            break
        low, high = at(bad), at(good)
        share = low / (low - high) if math.isfinite(low) and step % 2 == 0 else 0.5
        middle = bad + min(max(1.01 * share, 0.02), 0.98) * (good - bad)
        if at(middle) >= 0:
            good = middle
        else:
            bad = middle
    digits = 1 - math.floor(math.log10(max(abs(good), 1e-9)))
    towards = math.ceil if good > bad else math.floor
    for extra in range(5):
        grid = 10.0 ** (digits + extra)
        value = float(f"{towards(good * grid) / grid:.12g}")
        if abs(value - good) <= _ROUNDING * max(abs(good), 1e-9) and at(value) >= 0:
            return value
    return good


@lru_cache(maxsize=64)
def _with_value(part: AnyPart, parts: Parts, value: Any) -> AnyPart | None:
    try:
        return make_part(replaced(part.typed, parts, value))
    except RecipeError:
        return None


def _with(part: AnyPart, parts: Parts, value: Any) -> AnyPart | None:
    return _with_value(part, parts, tuple(value) if isinstance(value, list) else value)


def _stance_remedy(part: AnyPart, kind: str) -> Remedy:
    now = None if isinstance(part, ThreadedPart) else part.recipe.stance
    plain = now is not None and set(type(now).model_fields) == {"kind"}
    if plain:
        return Remedy("/stance/kind", kind, f"stance {kind}")
    return Remedy("/stance", {"kind": kind}, f"stance {kind}")


def _with_stance(part: AnyPart, kind: str) -> AnyPart | None:
    data = part.typed.model_dump(mode="json", by_alias=True, exclude_none=True)
    try:
        return part_of({**data, "stance": {"kind": kind}})
    except RecipeError:
        return None
