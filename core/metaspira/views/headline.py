"""What is asked of a spring first: its rate, its loads, the stress, its travel, the limit that is nearest."""

from __future__ import annotations

from metaspira.numbers.figure import Told
from metaspira.numbers.shown import quantity_shown
from metaspira.parts import AnyPart, Part
from metaspira.springs.any_spring import AnySpring
from metaspira.springs.figures import figure_of
from metaspira.springs.limits import limits_of
from metaspira.springs.working import WorkedPoint

_EFFORTS = {"N": "Force", "N mm": "Torque"}


def headline(part: AnyPart) -> list[Told]:
    """The figures of a spring that stand beside the part, in their order; none for what is no spring."""
    if not isinstance(part, Part) or part.spring is None:
        return []
    spring = part.spring
    return [figure_of(spring, "rate"), *_loads(spring, part.typed.unit), *_nearest_limit(part, spring)]


def _loads(spring: AnySpring, unit: str) -> list[Told]:
    base, effort = spring.units
    points: tuple[WorkedPoint, ...] = spring.points
    by = "the diagram of the spring"
    each = [
        Told(
            f"load_{k + 1}",
            f"{_EFFORTS[effort]} at {quantity_shown(point.place, base, unit, 4)}",
            point.effort,
            effort,
            "the diagram at the working point",
            "working point, rate",
            by,
        )
        for k, point in enumerate(points)
    ]
    if not each:
        return []
    most = max(points, key=lambda point: point.stress)
    places = [point.place for point in points]
    stress = "stress at the working point where it is greatest"
    travel = Told("travel", "Travel between them", max(places) - min(places), base, "max − min", "loads", by)
    return [
        *each,
        Told("load_stress", "Stress, greatest", most.stress, "MPa", stress, "working points, wire", by),
        *([travel] if len(places) > 1 else []),
    ]


def _nearest_limit(part: Part, spring: AnySpring) -> list[Told]:
    limits = limits_of(spring, part.recipe.fit)
    if not limits:
        return []
    worst = max(limits, key=lambda limit: limit.use)
    share = "what is used of the limit that is nearest"
    return [
        Told(
            "worst_limit",
            f"Most used: {worst.title.lower()}",
            100 * worst.use,
            "%",
            share,
            "limits of the spring",
            "its check",
        )
    ]
