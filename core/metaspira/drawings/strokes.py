"""Dimensions and hatching as the lines and texts that they are drawn with (ISO 129-1, ISO 128-50)."""

from __future__ import annotations

import math
from collections.abc import Iterable, Iterator

import numpy as np
from shapely import LineString, Polygon
from shapely.geometry.base import BaseGeometry

from metaspira.drawings.letters import width
from metaspira.drawings.marks import Arc, Circle, Dimension, Hatch, Line, Mark, Point, Text

Stroke = Line | Circle | Arc | Text

ARROW, _SPREAD = 2.5, 0.45
_PAST, _GAP = 1.5, 0.8
_HATCH = 1.6


def strokes(marks: Iterable[Mark]) -> Iterator[Stroke]:
    """Marks as what a pen draws."""
    for mark in marks:
        if isinstance(mark, Dimension):
            yield from _dimension(mark)
        elif isinstance(mark, Hatch):
            yield from _hatched(mark)
        else:
            yield mark


def on_arc(arc: Arc, degrees: float) -> Point:
    """The place on an arc's circle at an angle."""
    angle = math.radians(degrees)
    return arc.centre[0] + arc.radius * math.cos(angle), arc.centre[1] + arc.radius * math.sin(angle)


def head(tip: Point, towards: float) -> Line:
    """An arrow head whose shaft goes in the direction `towards`."""
    wings = [
        (
            tip[0] + ARROW * math.cos(towards) - side * _SPREAD * math.sin(towards),
            tip[1] + ARROW * math.sin(towards) + side * _SPREAD * math.cos(towards),
        )
        for side in (1.0, -1.0)
    ]
    return Line((wings[0], tip, wings[1], wings[0]))


def _dimension(mark: Dimension) -> Iterator[Stroke]:
    """Its extension lines, its line with arrows, and its words over it, or beside it where they do not
    fit."""

    def turned(point: Point) -> Point:
        return (point[1], point[0]) if mark.upright else point

    ends = sorted((turned(mark.start), turned(mark.end)))
    (low, _), (high, _) = ends
    for along, foot in ends:
        side = 1.0 if mark.at > foot else -1.0
        yield Line((turned((along, foot + side * _GAP)), turned((along, mark.at + side * _PAST))), thin=True)
    inside = high - low >= 2.5 * ARROW
    out = 0.0 if inside else 2 * ARROW
    yield Line((turned((low - out, mark.at)), turned((high + out, mark.at))), thin=True)
    forward, back = (math.pi / 2, -math.pi / 2) if mark.upright else (0.0, math.pi)
    yield head(turned((low, mark.at)), forward if inside else back)
    yield head(turned((high, mark.at)), back if inside else forward)
    beside = width(mark.words, Text.size) > high - low - (2 * ARROW if inside else 0)
    along = high + 2 * ARROW + 0.5 if beside else (low + high) / 2
    place = (mark.at - 0.8, along) if mark.upright else (along, mark.at + 0.8)
    yield Text(place, mark.words, "start" if beside else "middle", mark.upright)


def _hatched(mark: Hatch) -> Iterator[Stroke]:
    shape: BaseGeometry = Polygon(mark.rings[0], mark.rings[1:]).buffer(0)
    left, low, right, high = shape.bounds
    reach = high - low
    for x in np.arange(left - reach, right + _HATCH, _HATCH * math.sqrt(2)):
        cut = shape.intersection(LineString([(x, low), (x + reach, high)]))
        for piece in getattr(cut, "geoms", [cut]):
            if isinstance(piece, LineString) and not piece.is_empty:
                yield Line(tuple((float(a), float(b)) for a, b in piece.coords), thin=True)
