"""Self-contact: does the wire run into itself anywhere?"""

from __future__ import annotations

from metaspira.checks.bend import fold_depth, stretch_along
from metaspira.checks.check import Check, Window, spans_below
from metaspira.checks.gaps import self_gaps
from metaspira.part import Part

_TOUCH = 1e-9


def check_contact(part: Part, window: Window) -> Check:
    gaps = self_gaps(part.sweep, window)
    stretch = stretch_along(part, window)
    folded = fold_depth(stretch)
    value = gaps.smallest
    where = spans_below(gaps.lane.s, gaps.lane.value, 0.0)
    points: tuple[tuple[float, float, float], ...] = ()
    if folded > 0:
        value = min(-folded, value if value is not None else 0.0)
        where = tuple(sorted({*where, *spans_below(stretch.s, stretch.value, 0.0)}))
    if value is None:
        why = "No part of the wire comes back near another"
    elif folded > 0:
        why = f"The shape folds over and runs {folded:.4g} mm backwards through itself"
    elif value < -_TOUCH:
        one, two = sorted(gaps.at)
        why = f"The wire is {-value:.4g} mm deep in itself, at {one:.4g} mm and {two:.4g} mm along it"
        points = (gaps.point,)
    elif value <= _TOUCH:
        why = "The turns just touch"
    else:
        why = f"The nearest turns keep {value:.4g} mm of air"
    stated = f" (stated error {gaps.error:.1g} mm)" if gaps.error > 0 else ""
    stops = value is not None and value < -_TOUCH
    touches = value is not None and not stops and value <= _TOUCH
    return Check(
        id="self-contact",
        title="Self-contact",
        verdict="stop" if stops else "watch" if touches else "clear",
        value=value,
        limit=0.0,
        unit="mm",
        why=why + stated,
        margin=1.0 if value is None else value - gaps.error,
        where=where,
        lane=gaps.lane,
        points=points,
    )
