"""What a drawing is dimensioned with (ISO 129-1): dimension lines with arrows, extension lines, axes,
hatching."""

from __future__ import annotations

import math

import numpy as np
from shapely import LineString, Polygon
from shapely.geometry.base import BaseGeometry

from metaspira.numbers.jets import Array
from metaspira.sheets.sheet import Circle, Line, Point, Text

Part = Line | Circle | Text

_ARROW, _SPREAD = 2.5, 0.45
_PAST, _GAP = 1.5, 0.8
_HATCH = 1.6


def across(low: float, high: float, foot: float, at: float, words: str) -> list[Part]:
    """A dimension from x `low` to x `high`, its line at height `at`, its extension lines from height
    `foot`."""
    side = 1.0 if at > foot else -1.0
    parts: list[Part] = [
        Line(((x, foot + side * _GAP), (x, at + side * _PAST)), thin=True) for x in (low, high)
    ]
    parts += _arrowed((low, at), (high, at))
    narrow = high - low < 1.7 * len(words)
    place = (high + 2 * _ARROW + 0.5 if narrow else (low + high) / 2, at + 0.8)
    parts.append(Text(place, words, "start" if narrow else "middle"))
    return parts


def upward(low: float, high: float, foot: float, at: float, words: str) -> list[Part]:
    """A dimension from height `low` to `high`, its line at x `at`, its extension lines from x `foot`."""
    side = 1.0 if at > foot else -1.0
    parts: list[Part] = [
        Line(((foot + side * _GAP, y), (at + side * _PAST, y)), thin=True) for y in (low, high)
    ]
    parts += _arrowed((at, low), (at, high))
    narrow = high - low < 1.7 * len(words)
    place = (at - 0.8, high + 2 * _ARROW + 0.5 if narrow else (low + high) / 2)
    parts.append(Text(place, words, "start" if narrow else "middle", upright=True))
    return parts


def leader(tip: Point, knee: Point, words: str) -> list[Part]:
    """A note that points at a place."""
    right = knee[0] >= tip[0]
    end = (knee[0] + (4.0 if right else -4.0), knee[1])
    return [
        Line((tip, knee, end), thin=True),
        *_head(tip, math.atan2(knee[1] - tip[1], knee[0] - tip[0])),
        Text((end[0] + (0.8 if right else -0.8), end[1] - 0.9), words, "start" if right else "end"),
    ]


def axis(a: Point, b: Point) -> Line:
    """A line of symmetry."""
    return Line((a, b), thin=True, dashed=True)


def hatched(rings: list[Array]) -> list[Part]:
    """Hatching at 45° between an outline and its holes, each (n, 2)."""
    shape: BaseGeometry = Polygon(rings[0], rings[1:]).buffer(0)
    left, low, right, high = shape.bounds
    reach = high - low
    parts: list[Part] = []
    for x in np.arange(left - reach, right + _HATCH, _HATCH * math.sqrt(2)):
        cut = shape.intersection(LineString([(x, low), (x + reach, high)]))
        for piece in getattr(cut, "geoms", [cut]):
            if isinstance(piece, LineString) and not piece.is_empty:
                parts.append(Line(tuple((float(a), float(b)) for a, b in piece.coords), thin=True))
    return parts


def _arrowed(a: Point, b: Point) -> list[Part]:
    length = math.dist(a, b)
    along = math.atan2(b[1] - a[1], b[0] - a[0])
    if length >= 2.5 * _ARROW:
        return [Line((a, b), thin=True), *_head(a, along), *_head(b, along + math.pi)]
    out = 2 * _ARROW
    cos, sin = math.cos(along), math.sin(along)
    ends = ((a[0] - out * cos, a[1] - out * sin), (b[0] + out * cos, b[1] + out * sin))
    return [Line(ends, thin=True), *_head(a, along + math.pi), *_head(b, along)]


def _head(tip: Point, towards: float) -> list[Part]:
    """An arrow head whose shaft goes in the direction `towards`."""
    wings = [
        (
            tip[0] + _ARROW * math.cos(towards) - side * _SPREAD * math.sin(towards),
            tip[1] + _ARROW * math.sin(towards) + side * _SPREAD * math.cos(towards),
        )
        for side in (1.0, -1.0)
    ]
    return [Line((wings[0], tip, wings[1], wings[0]))]
