"""Remedies: the nearest value of one input that makes a check clear, found by search on that input.

The search looks at the check alone, on long coils only around the worst place; each value found is then
tried on the whole part, and dropped where the check is not clear or another check has become worse.
"""

from __future__ import annotations

import math
import time
from collections.abc import Callable, Iterator
from dataclasses import dataclass
from functools import lru_cache
from typing import Any

from metaspira.checks.check import WHOLE, Check, Remedy, Window, worst
from metaspira.checks.expected import PREFIX
from metaspira.materials import MATERIALS
from metaspira.numbers.fields import Quantity
from metaspira.part import AnyPart, make_part, part_of
from metaspira.problems import RecipeError, pointer
from metaspira.recipe.fields import Parts, number_fields, replaced
from metaspira.recipe.resolving import in_typed_units
from metaspira.recipe.wording import field_words, unit_words
from metaspira.threaded import ThreadedPart

CheckOf = Callable[[Any, Window], Check]
AllChecks = Callable[[AnyPart], list[Check]]

_INPUTS = {
    "stance": (),
    "bend": (
        "/path/diameter",
        "/path/end_diameter",
        "/path/radius",
        "/path/corner_radius",
        "/path/legs",
        "/section",
        "/along/size",
        "/strands/radius",
    ),
    "self-contact": (
        "/path/pitch",
        "/path/height",
        "/path/turns",
        "/strands/lay",
        "/strands/radius",
        "/section",
        "/along/twist",
        "/along/size",
        "/path/end_diameter",
        "/path/radius",
        "/path/diameter",
    ),
    "clearance": (
        "/path/pitch",
        "/path/height",
        "/path/turns",
        "/path/diameter",
        "/path/end_diameter",
        "/strands/lay",
        "/strands/radius",
        "/section",
        "/fit",
    ),
    "reference": (
        "/path/diameter",
        "/path/end_diameter",
        "/path/pitch",
        "/path/height",
        "/path/turns",
        "/fit",
    ),
    "size": ("/along/size", "/along/width", "/along/depth"),
    "twist": ("/along/twist",),
    "section": ("/section",),
    **dict.fromkeys(
        (
            "spring-travel",
            "spring-stress",
            "spring-block",
            "spring-fatigue",
            "spring-buckling",
            "spring-bore",
            "spring-index",
            "spring-wire",
            "spring-hooks",
            "spring-initial",
            "spring-rod",
            "spring-shape",
        ),
        (
            "/spring/points",
            "/section/diameter",
            "/section/width",
            "/section/height",
            "/path/diameter",
            "/path/end_diameter",
            "/path/turns",
            "/path/pitch",
            "/path/height",
            "/path/legs",
            "/spring/initial_tension",
            "/fit",
        ),
    ),
    "engagement-height": ("/thread/allowance",),
    "engagement-length": ("/thread/length", "/host/length", "/mate/length"),
    "wall": (
        "/host/outside",
        "/host/across_flats",
        "/host/hole",
        "/mate/outside",
        "/mate/across_flats",
    ),
    "crest": ("/thread/form/crest", "/thread/form/height", "/thread/allowance", "/thread/pitch"),
    "run-out": ("/thread/length", "/thread/end", "/thread/start"),
    "undercut": ("/thread/end/width", "/thread/start/width", "/thread/end/diameter"),
    "print": ("/thread/form/leading", "/thread/form/trailing"),
}
_SHAPING = ("/section", "/path", "/along", "/strands", "/wires", "/use", "/thread", "/host")
_NEVER = ("rides_at", "at", "turn", "holes", "paint")
_BUDGET = 100
_SMALL_BUDGET = 36
_LEAST_BUDGET = 10
_MOST = 4
_FURTHEST = 2.0
_AIMED_STEPS = 8
_LONG = 6


@dataclass(frozen=True)
class _Input:
    parts: Parts
    quantity: Quantity
    value: float


def remedies_for(
    part: AnyPart, check: Check, check_of: CheckOf, run_all: AllChecks, until: float = math.inf
) -> tuple[Remedy, ...]:
    """Up to four remedies for a check that is not clear, the smallest change first. No more are tried once
    `time.monotonic()` is past `until`."""
    window = _window(part, check)
    budget = _Budget(_budget(part), until)
    verdict_before = {other.id: other.verdict for other in run_all(part)}
    found: list[tuple[float, Remedy]] = []

    def clears(remedied: AnyPart) -> bool:
        for after in run_all(remedied):
            before = verdict_before[after.id]
            if after.id == check.id and after.verdict != "clear":
                return False
            if worst([after.verdict, before]) != before:
                return False
        return True

    for stance in _stances(part, check.id):
        if budget.spent:
            break
        remedied = _with_stance(part, stance)
        if remedied is not None and clears(remedied):
            found.append((0.0, _stance_remedy(part, stance)))
            break
    for name in MATERIALS if check.id == f"{PREFIX}mass" else ():
        remedied = _with(part, ("material",), name)
        margin = -math.inf if remedied is None else check_of(remedied, window).margin
        if remedied is not None and margin >= 0 and clears(remedied):
            words = f"material {MATERIALS[name].name.lower()}"
            found.append((margin, Remedy("/material", name, words)))
    search = _aimed if check.id.startswith(PREFIX) else _search
    for field in _inputs(part, check.id):
        if budget.spent or len(found) > _MOST:
            break
        value = search(part, field, window, check_of, budget)
        if value is None or budget.late:
            continue
        remedied = _with(part, field.parts, value)
        if remedied is None or not clears(remedied):
            continue
        change = abs(value - field.value) / max(abs(field.value), 1e-9)
        text = f"{field_words(field.parts)} {value:g}{unit_words(field.quantity, part.typed.unit)}"
        found.append((change, Remedy(pointer(field.parts), value, text)))
    found.sort(key=lambda item: item[0])
    return tuple(remedy for _, remedy in found[:_MOST])


def _budget(part: AnyPart) -> int:
    """How many parts may be tried: fewer where each takes long."""
    if isinstance(part, ThreadedPart):
        return _BUDGET
    if len(part.bodies) > 1:
        return max(_LEAST_BUDGET, _SMALL_BUDGET // len(part.bodies) * 2)
    return _BUDGET if part.sweep.is_tube else _SMALL_BUDGET


def _inputs(part: AnyPart, check_id: str) -> Iterator[_Input]:
    """The numbers that may cure a check, in the order of _INPUTS."""
    resolved = {parts: value for parts, _, value in number_fields(part.recipe)}
    typed = list(number_fields(part.typed))
    for name in _SHAPING if check_id.startswith(PREFIX) else _INPUTS.get(check_id, ()):
        for parts, quantity, _ in typed:
            wanted = f"{pointer(parts)}/".startswith(f"{name}/")
            if wanted and quantity.kind != "count" and not any(word in parts for word in _NEVER):
                value = in_typed_units(resolved[parts], quantity, part.typed.unit)
                yield _Input(parts, quantity, value)


def _stances(part: AnyPart, check_id: str) -> tuple[str, ...]:
    """Other stances, the ones that fit most paths first."""
    if isinstance(part, ThreadedPart) or check_id not in ("stance", "bend", "self-contact", "section"):
        return ()
    now = "outward" if part.recipe.stance is None else part.recipe.stance.kind
    return tuple(kind for kind in ("outward", "steady", "upright") if kind != now)


def _window(part: AnyPart, check: Check) -> Window:
    if isinstance(part, ThreadedPart):
        return WHOLE
    turns = part.sweep.turning / (2 * math.pi)
    if len(part.bodies) > 1 or turns <= _LONG or not check.where:
        return WHOLE
    middle = sum(check.where[0]) / 2 / part.path.length
    half = _LONG / 4 / turns
    middle = min(max(middle, half), 1 - half)
    return middle - half, middle + half


@dataclass
class _Budget:
    """How many more parts may be tried, and until when."""

    left: int
    until: float

    @property
    def late(self) -> bool:
        return time.monotonic() > self.until

    @property
    def spent(self) -> bool:
        return self.left <= 0 or self.late


def _search(
    part: AnyPart, field: _Input, window: Window, check_of: CheckOf, budget: _Budget
) -> float | None:
    """The value nearest to the present one, rounded, at which the margin is not negative.

    Steps by the secant, a little beyond its zero, in the direction in which the margin grows.
    """
    known: dict[float, float] = {}

    def at(value: float) -> float:
        if value not in known:
            if budget.late:
                return -math.inf
            budget.left -= 1
            changed = _with(part, field.parts, value)
            known[value] = -math.inf if changed is None else check_of(changed, window).margin
        return known[value]

    start = field.value
    scale = max(abs(start), 1e-2)
    slope = (at(start + 0.002 * scale) - at(start)) / (0.002 * scale)
    if not math.isfinite(slope):
        slope = (at(start) - at(start - 0.002 * scale)) / (0.002 * scale)
    if at(start) >= 0 or not math.isfinite(slope):
        return None
    flat = abs(slope) * scale < 1e-2 * abs(at(start))
    if flat:
        trials = [start + sign * share * scale for share in (0.1, 0.4, 0.8, 1.0) for sign in (1, -1)]
    else:
        needed = min(1.02 * abs(at(start) / slope), _FURTHEST * scale)
        steps = [min(needed * growth, _FURTHEST * scale) for growth in (1.0, 1.6, 2.6, 4.2)]
        trials = [start + math.copysign(step, slope) for step in steps]
    bad = start
    for trial in trials:
        if start > 0 and trial <= 0:
            continue
        if at(trial) >= 0:
            return _rounded(bad, trial, at)
        bad = start if flat else trial
    return None


def _aimed(
    part: AnyPart, field: _Input, window: Window, check_of: CheckOf, budget: _Budget
) -> float | None:
    """The value at which a figure is what is expected of it, by the secant, in as few digits as keep it within."""

    def at(value: float) -> tuple[float, bool]:
        changed = None if budget.spent else _with(part, field.parts, value)
        budget.left -= 1
        if changed is None:
            return math.nan, False
        check = check_of(changed, window)
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


def _rounded(bad: float, good: float, at: Callable[[float], float]) -> float | None:
    """The first clear value between `bad` and `good`, in as few digits as keep it near."""
    for _ in range(12):
        if abs(good - bad) < 1e-3 * abs(good) or at(good) < 1e-4 * abs(at(bad)):
            break
        low, high = at(bad), at(good)
        share = low / (low - high) if math.isfinite(low) else 0.5
        middle = bad + min(max(1.01 * share, 0.05), 0.95) * (good - bad)
        if at(middle) >= 0:
            good = middle
        else:
            bad = middle
    digits = 2 - math.floor(math.log10(max(abs(good), 1e-9)))
    towards = math.ceil if good > bad else math.floor
    for extra in (0, 1, 2):
        grid = 10.0 ** (digits + extra)
        value = float(f"{towards(good * grid) / grid:.12g}")
        if at(value) >= 0:
            return value
    return good


@lru_cache(maxsize=64)
def _with(part: AnyPart, parts: Parts, value: float | str) -> AnyPart | None:
    try:
        return make_part(replaced(part.typed, parts, value))
    except RecipeError:
        return None


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
