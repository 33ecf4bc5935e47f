"""Self-contact: does a wire run into itself, or into another, anywhere?"""

from __future__ import annotations

from metaspira.checks.bend import fold_depth, stretch_along
from metaspira.checks.check import Check, Window, spans_below
from metaspira.checks.gaps import part_gaps
from metaspira.part import Part

_TOUCH = 1e-9


def check_contact(part: Part, window: Window) -> Check:
    found = part_gaps(part, window)
    stretch = stretch_along(part.sweep, window)
    folded = fold_depth(stretch)
    least = found.least
    value = None if least is None else least[1].smallest
    where = spans_below(found.lane.s, found.lane.value, 0.0)
    points: tuple[tuple[float, float, float], ...] = ()
    if folded > 0:
        value = min(-folded, value if value is not None else 0.0)
        where = tuple(sorted({*where, *spans_below(stretch.s, stretch.value, 0.0)}))
    error = 0.0 if least is None else least[1].error
    if value is None:
        why = "No part of the wire comes back near another"
    elif folded > 0:
        why = f"The shape folds over and runs {folded:.4g} mm backwards through itself"
    elif least is not None and value < -_TOUCH:
        name, gaps = least
        if name.startswith("between "):
            why = f"Overlap of {-value:.4g} mm {name}, at {gaps.at[0]:.4g} mm and {gaps.at[1]:.4g} mm along them"
        else:
            one, two = sorted(gaps.at)
            whose = "The wire" if len(part.bodies) == 1 else name[0].upper() + name[1:]
            why = (
                f"{whose} is {-value:.4g} mm deep in itself, at {one:.4g} mm and {two:.4g} mm along it"
            )
        points = (gaps.point,)
    elif value <= _TOUCH:
        why = "The turns just touch"
    else:
        why = f"The nearest turns keep {value:.4g} mm of air"
        if least is not None and least[0].startswith("between "):
            why = f"There is {value:.4g} mm of air {least[0]}"
    stated = f" (stated error {error:.1g} mm)" if error > 0 else ""
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
        margin=1.0 if value is None else value - error,
        where=where,
        lane=found.lane,
        points=points,
    )
