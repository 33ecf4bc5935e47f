"""A view: what is drawn of a part, in mm of the part, with its dimensions and notes, and as it stands on a
sheet to a scale."""

from __future__ import annotations

import math
from collections.abc import Iterable
from dataclasses import dataclass
from typing import Literal

from metaspira.drawings.letters import width
from metaspira.drawings.marks import Arc, Circle, Dimension, Hatch, Line, Mark, Point, Text
from metaspira.drawings.strokes import ARROW, head

Side = Literal["left", "right", "above", "below"]

_FIRST, _NEXT, _PAST = 9.0, 7.5, 4.5
_TITLE, _RIM, _AXIS = 7.0, 4.5, 3.0
_LEADER = 14.0
_TYPE = 3.5

SCALES = (50.0, 20.0, 10.0, 5.0, 2.0, 1.0, 0.5, 0.2, 0.1, 0.05, 0.02, 0.01, 0.005, 0.002, 0.001)
"""Those of ISO 5455."""


Axes = tuple[tuple[Point, Point], ...]


def upright(low: float, high: float) -> Axes:
    """The axis of what is seen from the side."""
    return (((0.0, low), (0.0, high)),)


def cross(reach: float) -> Axes:
    """The axes of what is seen along its axis."""
    return ((-reach, 0.0), (reach, 0.0)), ((0.0, -reach), (0.0, reach))


def ratio(scale: float) -> str:
    """A scale as it is written."""
    return f"{scale:g} : 1" if scale >= 1 else f"1 : {1 / scale:g}"


@dataclass(frozen=True)
class Measure:
    """A dimension beside a view, of the way from one place to another, in the row `row` from the view."""

    start: Point
    end: Point
    side: Side
    words: str
    row: int = 0


@dataclass(frozen=True)
class Pointer:
    """A note that points at a place, from the right of the view, above or below the place."""

    tip: Point
    words: str
    above: bool = True


@dataclass(frozen=True)
class View:
    """`box` is its left, foot, right and top. It is drawn to the sheet's scale; or to one of its own, the
    largest that keeps it within `room`, mm of the sheet, which its title then says. `axes` are lines of
    symmetry, which go on past it."""

    title: str
    box: tuple[float, float, float, float]
    marks: tuple[Mark, ...]
    measures: tuple[Measure, ...] = ()
    pointers: tuple[Pointer, ...] = ()
    room: tuple[float, float] | None = None
    axes: Axes = ()

    def scale(self, main: float) -> float:
        if self.room is None:
            return main
        wide, tall = self.box[2] - self.box[0], self.box[3] - self.box[1]
        most = min(self.room[0] / max(wide, 1e-9), self.room[1] / max(tall, 1e-9))
        return next((scale for scale in SCALES if scale <= most), SCALES[-1])

    def _rims(self, main: float) -> tuple[float, float, float, float]:
        """What stands beside it: left, below, right, above."""
        scale = self.scale(main)
        rims = {"left": _RIM, "below": _RIM, "right": _RIM, "above": _RIM}
        for measure in self.measures:
            upright = measure.side in ("left", "right")
            axis = 1 if upright else 0
            long = scale * abs(measure.end[axis] - measure.start[axis])
            off = _FIRST + _NEXT * measure.row + _PAST
            rims[measure.side] = max(rims[measure.side], off)
            beside = width(measure.words, Text.size) + 3 * ARROW
            if beside > long:
                past = "above" if upright else "right"
                rims[past] = max(rims[past], beside)
        return rims["left"], rims["below"] + _TITLE, rims["right"] + self._told(), rims["above"]

    def size(self, main: float) -> tuple[float, float]:
        """On the sheet, with all that stands beside it, mm."""
        scale = self.scale(main)
        left, below, right, above = self._rims(main)
        wide = left + scale * (self.box[2] - self.box[0]) + right
        return max(wide, width(self._said(main), _TYPE)), below + scale * (self.box[3] - self.box[1]) + above

    def _said(self, main: float) -> str:
        return self.title if self.room is None else f"{self.title}, {ratio(self.scale(main))}"

    def placed(self, main: float, x: float, y: float) -> list[Mark]:
        """Its marks on a sheet, the lower left corner of all that belongs to it at x, y."""
        scale = self.scale(main)
        left, below, right, _ = self._rims(main)
        place = x + left - scale * self.box[0], y + below - scale * self.box[1]

        def at(point: Point) -> Point:
            return _at(point, scale, place)

        marks = [moved(mark, scale, place) for mark in self.marks]
        marks += [_axis(at(start), at(end)) for start, end in self.axes]
        low, high = at(self.box[:2]), at(self.box[2:])
        for measure in self.measures:
            off = _FIRST + _NEXT * measure.row
            line = {
                "left": low[0] - off,
                "right": high[0] + off,
                "below": low[1] - off,
                "above": high[1] + off,
            }
            upright = measure.side in ("left", "right")
            ends = at(measure.start), at(measure.end)
            marks.append(Dimension(*ends, line[measure.side], measure.words, upright, 1 / scale))
        beyond = high[0] + max(right - self._told(), _RIM)
        for pointer in self.pointers:
            marks += _leader(at(pointer.tip), beyond, pointer)
        title = self._said(main)
        half = width(title, _TYPE) / 2
        middle = min(max((low[0] + high[0]) / 2, x + half), x + self.size(main)[0] - half)
        marks.append(Text((middle, y + 2), title, size=_TYPE))
        return marks

    def left_of(self, main: float) -> float:
        """How far its origin is from the left edge of all that belongs to it."""
        return self._rims(main)[0] - self.scale(main) * self.box[0]

    def _told(self) -> float:
        return max((_LEADER + width(one.words, Text.size) for one in self.pointers), default=0.0)


@dataclass(frozen=True)
class Projected:
    """Two views in first-angle projection (ISO 5456-2): the second, from above, below the first."""

    front: View
    top: View

    def size(self, main: float) -> tuple[float, float]:
        sizes = [view.size(main) for view in (self.front, self.top)]
        left = self._left(main)
        right = max(
            size[0] - view.left_of(main) for view, size in zip((self.front, self.top), sizes, strict=True)
        )
        return left + right, sizes[0][1] + sizes[1][1]

    def placed(self, main: float, x: float, y: float) -> list[Mark]:
        left, lift = x + self._left(main), self.top.size(main)[1]
        return [
            *self.front.placed(main, left - self.front.left_of(main), y + lift),
            *self.top.placed(main, left - self.top.left_of(main), y),
        ]

    def _left(self, main: float) -> float:
        return max(self.front.left_of(main), self.top.left_of(main))


def _at(point: Point, scale: float, place: Point) -> Point:
    return place[0] + scale * point[0], place[1] + scale * point[1]


def _axis(start: Point, end: Point) -> Line:
    """A line of symmetry, on past the ends of what it stands for."""
    long = max(math.dist(start, end), 1e-9)
    x, y = (_AXIS * (b - a) / long for a, b in zip(start, end, strict=True))
    return Line(((start[0] - x, start[1] - y), (end[0] + x, end[1] + y)), thin=True, dashed=True)


def _leader(tip: Point, beyond: float, pointer: Pointer) -> Iterable[Mark]:
    knee = beyond + 3.0, tip[1] + (5.0 if pointer.above else -5.0)
    end = knee[0] + 4.0, knee[1]
    yield Line((tip, knee, end), thin=True)
    yield head(tip, math.atan2(knee[1] - tip[1], knee[0] - tip[0]))
    yield Text((end[0] + 0.8, end[1] - 0.9), pointer.words, "start")


def moved(mark: Mark, scale: float, place: Point) -> Mark:
    """A mark `scale` times as large, then moved to a place; a text keeps its size."""

    def at(point: Point) -> Point:
        return _at(point, scale, place)

    if isinstance(mark, Line):
        return Line(tuple(at(point) for point in mark.points), mark.thin, mark.dashed)
    if isinstance(mark, Circle):
        return Circle(at(mark.centre), scale * mark.radius, mark.thin)
    if isinstance(mark, Arc):
        return Arc(at(mark.centre), scale * mark.radius, mark.start, mark.end, mark.thin)
    if isinstance(mark, Hatch):
        return Hatch(tuple(tuple(at(point) for point in ring) for ring in mark.rings))
    if isinstance(mark, Text):
        return Text(at(mark.place), mark.words, mark.anchor, mark.upright, mark.size)
    ends = at(mark.start), at(mark.end)
    line = at((mark.at, mark.at))[0 if mark.upright else 1]
    return Dimension(*ends, line, mark.words, mark.upright, mark.factor / scale)
