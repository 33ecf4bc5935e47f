"""Self-contact: does a wire run into itself, or into another, anywhere?"""

from __future__ import annotations

from metaspira.checks.bend import fold_depth, stretch_along
from metaspira.checks.check import Check, Window, capital, in_words, spans_below
from metaspira.checks.gaps import Named, part_gaps
from metaspira.checks.question import Question, of_wire
from metaspira.parts import Part

_TOUCH = 1e-9
_CROSSED = 1e-6


def check_contact(part: Part, window: Window) -> Check:
    found = part_gaps(part, window)
    stretch = stretch_along(part.sweep, window)
    folded = fold_depth(stretch)
    least, interval = found.least, found.interval
    value = found.smallest
    where = spans_below(found.lane.s, found.lane.value, 0.0) if value is not None and value < 0 else ()
    points: tuple[tuple[float, float, float], ...] = ()
    low, high = interval or (1.0, 1.0)
    if folded > 0:
        value = min(-folded, value if value is not None else 0.0)
        low = high = value
        where = tuple(sorted({*where, *spans_below(stretch.s, stretch.value, 0.0)}))
        why = f"The shape folds over and runs {folded:.4g} mm backwards through itself"
    elif value is None or least is None:
        why = "No part of the wire comes back near another"
    elif high < -_TOUCH:
        why, points = _overlapping(part, least, value), (least.gap.point,)
    elif low <= _TOUCH:
        why, points = "The turns touch, or are too near each other to tell", (least.gap.point,)
    elif len(least.of) == 2:
        why = f"There is {value:.4g} mm of air between {least.of[0]} and {least.of[1]}"
    else:
        why = f"The nearest turns keep {value:.4g} mm of air"
    if value is not None and folded <= 0 and in_words(low) != in_words(high):
        why += f" (certain: {in_words(low)} to {in_words(high)} mm)"
    return Check(
        id="self-contact",
        title="Self-contact",
        verdict="stop" if high < -_TOUCH else "watch" if low <= _TOUCH else "clear",
        value=value,
        limit=0.0,
        unit="mm",
        why=why,
        margin=1.0 if value is None else value if value < 0 or low > _TOUCH else min(low, 0.0),
        where=where,
        points=points,
    )


def contact_margin(part: Part, window: Window) -> float:
    """The margin of the check, to about a hundredth of the wire where it is small, in less time."""
    folded = fold_depth(stretch_along(part.sweep, window))
    value = part_gaps(part, window, certain=False).smallest
    if value is not None and 0 <= value < _CROSSED * part.sweep.section.reach():
        value = -_CROSSED
    if folded > 0:
        return min(-folded, value if value is not None else 0.0)
    return 1.0 if value is None else value


def _overlapping(part: Part, least: Named, value: float) -> str:
    one, two = least.gap.at
    if len(least.of) == 2:
        return (
            f"Overlap of {-value:.4g} mm between {least.of[0]} and {least.of[1]}, at {one:.4g} mm and "
            f"{two:.4g} mm along them"
        )
    one, two = sorted((one, two))
    whose = "The wire" if len(part.bodies) == 1 else capital(least.of[0])
    return f"{whose} overlaps itself by {-value:.4g} mm, at {one:.4g} mm and {two:.4g} mm along it"


QUESTIONS = (
    Question(
        "self-contact",
        check_contact,
        of_wire,
        "wire",
        11,
        "distance between parts of the surface that are not neighbours, and between wires, mm",
        "where it is below 0",
        "where they touch",
        cures=(
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
            "/path/around/pitch",
            "/path/around/turns",
            "/path/around/diameter",
            "/path/around/end_diameter",
            "/wires",
        ),
        stances=True,
        points=True,
        margin=contact_margin,
    ),
)
