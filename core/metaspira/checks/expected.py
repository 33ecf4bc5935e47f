"""Expected values: does the part weigh and measure what it is expected to?"""

from __future__ import annotations

from collections.abc import Callable
from typing import Any

from metaspira.checks.check import WHOLE, Check, Window
from metaspira.checks.gaps import part_gaps
from metaspira.checks.threads.pair import check_clearance
from metaspira.figures import WHY
from metaspira.part import AnyPart
from metaspira.threaded import ThreadedPart
from metaspira.threaded_figures import THREAD_WHY, quick_figures

_SHARE = 0.005
"""How far off a value may be where no tolerance is given, as a share of it."""

PREFIX = "expected-"


def expected_checks(part: AnyPart) -> dict[str, Callable[[Any, Window], Check]]:
    """A check for each value that is expected of a part."""
    return {f"{PREFIX}{name}": _check_of(name) for name in part.recipe.expected.aims()}


def _check_of(name: str) -> Callable[[AnyPart, Window], Check]:
    def check(part: AnyPart, window: Window) -> Check:
        aim = part.recipe.expected.aims()[name]
        why = (THREAD_WHY if isinstance(part, ThreadedPart) else WHY).get(name)
        title, unit = (why.title, why.unit) if why else (name.replace("_", " "), "")
        title = f"Expected {title.lower()}"
        value = _figure(part, name)
        allowed = abs(aim.value) * _SHARE if aim.tolerance is None else aim.tolerance
        about = f"{aim.value:.6g} {unit} ± {allowed:.3g} {unit}"
        if value is None:
            words = f"{about} is expected, and the part has no such figure"
            return Check(f"{PREFIX}{name}", title, "watch", None, aim.value, unit, words, -1.0)
        off = value - aim.value
        met = abs(off) <= allowed * (1 + 1e-9)
        more = "more" if off > 0 else "less"
        words = f"{value:.6g} {unit} is {abs(off):.3g} {unit} {more} than expected, {about}"
        return Check(
            f"{PREFIX}{name}", title, "clear" if met else "watch", value, aim.value, unit, words, allowed - abs(off)
        )  # fmt: skip

    return check


def _figure(part: AnyPart, name: str) -> float | None:
    if name != "min_gap":
        return quick_figures(part).get(name)
    if isinstance(part, ThreadedPart):
        return check_clearance(part, WHOLE).value
    return part_gaps(part, WHOLE).smallest
