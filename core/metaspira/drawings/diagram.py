"""A spring's diagram: force over length, or torque over angle, to the end of its range, with its working
points."""

from __future__ import annotations

import math
from collections.abc import Sequence

import numpy as np

from metaspira.drawings.letters import width
from metaspira.drawings.marks import Circle, Drawing, Line, Mark, Point, Text
from metaspira.numbers.jets import Array
from metaspira.numbers.shown import number_shown, unit_shown
from metaspira.springs.any_spring import AnySpring
from metaspira.springs.working import WorkedPoint

_SIZE = (96.0, 66.0)
_LEFT, _LOW, _RIGHT, _ABOVE = 17.0, 8.0, 11.0, 7.0
_TICK = 1.2


def diagram(spring: AnySpring, length: str) -> Drawing:
    """In the units that are shown beside a unit of length."""
    place_base, effort_base = spring.units
    (along, unit), (up, its) = (unit_shown(base, length) for base in (place_base, effort_base))
    deflection, force = spring.curve()
    most = max(float(force[-1]), spring.worst_effort, 1e-9)
    way = max(float(deflection[-1]), spring.worst_way, 1e-9)
    inner = _SIZE[0] - _LEFT - _RIGHT, _SIZE[1] - _LOW - _ABOVE

    def at(way_: float, effort: float) -> Point:
        return _LEFT + inner[0] * way_ / way, _LOW + inner[1] * effort / most

    def curve(way_: Array, effort: Array, thin: bool = False) -> Line:
        inside = (way_ <= way * (1 + 1e-9)) & (effort <= most * (1 + 1e-9))
        pairs = zip(way_[inside], effort[inside], strict=True)
        return Line(tuple(at(float(s), float(f)) for s, f in pairs), thin, dashed=thin)

    corner, right, top = at(0, 0), at(way, 0), at(0, most)
    start = spring.span[0] / along
    towards = math.copysign(1.0, spring.span[1] - spring.span[0])
    marks: list[Mark] = [
        curve(deflection, force),
        *([] if spring.drawn is None else [curve(*spring.drawn.curve(), thin=True)]),
        Line((corner, right), thin=True),
        Line((corner, top), thin=True),
        Text((right[0] + 1.5, corner[1] - 0.8), unit, "start"),
        Text((_LEFT, top[1] + 1.5), its),
    ]
    for place in _steps(*sorted((start, start + towards * way / along))):
        x, y = at(abs(place - start) * along, 0)
        marks.append(Line(((x, y), (x, y - _TICK)), thin=True))
        marks.append(Text((x, y - 5), number_shown(place), size=2.4))
    for step in _steps(0.0, most / up):
        x, y = at(0, step * up)
        marks.append(Line(((x, y), (x - _TICK, y)), thin=True))
        marks.append(Text((x - 2, y - 0.8), number_shown(step), "end", size=2.4))
    points: Sequence[WorkedPoint] = spring.points
    for k, point in enumerate(points, 1):
        spot = at(min(max(point.way, 0.0), way), min(point.effort, most))
        words = (
            f"{spring.sign}{k} {number_shown(point.effort / up, 4)} at {number_shown(point.place / along)}"
        )
        marks += [
            Circle(spot, 0.9),
            Line((spot, (spot[0], corner[1])), thin=True, dashed=True),
            _beside(spot, words),
        ]
    return Drawing(spring.diagram, *_SIZE, tuple(marks))


def _steps(low: float, high: float) -> Array:
    """Round values from one to another, five or so."""
    rough = max(high - low, 1e-300) / 5
    power = 10.0 ** math.floor(math.log10(rough))
    step = next(power * factor for factor in (1, 2, 2.5, 5, 10) if power * factor >= rough * (1 - 1e-9))
    first, last = math.ceil(low / step - 1e-9), math.floor(high / step + 1e-9)
    return np.array([step * k for k in range(first, last + 1)])


def _beside(at: Point, words: str) -> Text:
    """A text clear of a curve that climbs through a place: above it to the left, or below it to the right."""
    if at[0] - 2 - width(words, Text.size) > _LEFT:
        return Text((at[0] - 1.5, at[1] + 1.5), words, "end")
    return Text((at[0] + 1.8, at[1] - 3), words, "start")
