"""Expected values: does the part weigh and measure what it is expected to?"""

from __future__ import annotations

from collections.abc import Iterator

from metaspira.checks.check import WHOLE, Check, Window
from metaspira.checks.gaps import part_gaps
from metaspira.checks.question import Ask, Question
from metaspira.checks.threads.pair import check_clearance
from metaspira.materials import MATERIALS
from metaspira.parts import AnyPart
from metaspira.parts.threaded import ThreadedPart
from metaspira.recipe.fields import Parts

_SHARE = 0.005
"""How far off a value may be where no tolerance is given, as a share of it."""

_PREFIX = "expected-"
_SHAPING = ("/section", "/path", "/along", "/strands", "/wires", "/use", "/thread", "/host")


def expected_questions(part: AnyPart) -> dict[str, Question]:
    """A question for each value that is expected of a part."""
    return {f"{_PREFIX}{name}": _question(name) for name in part.recipe.expected.aims()}


def _question(name: str) -> Question:
    return Question(
        f"{_PREFIX}{name}",
        _check_of(name),
        lambda part: True,
        "expected",
        90,
        f"{name.replace('_', ' ')}, as expected",
        cures=_SHAPING,
        choices=_materials if name == "mass" else lambda part: (),
        aimed=True,
    )


def _materials(part: AnyPart) -> Iterator[tuple[Parts, str, str]]:
    """The materials that may explain a mass."""
    for name, material in MATERIALS.items():
        yield ("material",), name, f"material {material.name.lower()}"


def _check_of(name: str) -> Ask:
    def check(part: AnyPart, window: Window) -> Check:
        aim = part.recipe.expected.aims()[name]
        known = next((figure for figure in part.figures if figure.key == name), None)
        title, unit = (known.title, known.unit) if known else (name.replace("_", " "), "")
        title = f"Expected {title.lower()}"
        value = _figure(part, name)
        allowed = abs(aim.value) * _SHARE if aim.tolerance is None else aim.tolerance
        about = f"{aim.value:.6g} {unit} ± {allowed:.3g} {unit}"
        if value is None:
            words = f"{about} is expected, and the part has no such figure"
            return Check(f"{_PREFIX}{name}", title, "watch", None, aim.value, unit, words, -1.0)
        off = value - aim.value
        met = abs(off) <= allowed * (1 + 1e-9)
        more = "more" if off > 0 else "less"
        words = f"{value:.6g} {unit} is {abs(off):.3g} {unit} {more} than expected, {about}"
        return Check(
            f"{_PREFIX}{name}",
            title,
            "clear" if met else "watch",
            value,
            aim.value,
            unit,
            words,
            allowed - abs(off),
        )

    return check


def _figure(part: AnyPart, name: str) -> float | None:
    if name != "min_gap":
        return part.quick_figures.get(name)
    if isinstance(part, ThreadedPart):
        return check_clearance(part, WHOLE).value
    return part_gaps(part, WHOLE).smallest
