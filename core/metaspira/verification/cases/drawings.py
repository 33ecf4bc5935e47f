"""Dimensions of drawings."""

from __future__ import annotations

import re
from collections.abc import Iterator

from metaspira.drawings import drawing_of
from metaspira.drawings.marks import Dimension, Drawing
from metaspira.parts import AnyPart, part_of
from metaspira.starting import starting_point
from metaspira.verification.row import Row

_KEYS = ("push", "pull", "turn", "volute", "thread-outside", "thread-inside", "twisted-bar", "horn")


def rows() -> Iterator[Row]:
    for key in _KEYS:
        part = part_of(starting_point(key).recipe)
        for words, (said, between) in {
            one: both for one, *both in dimensions(part, drawing_of(part))
        }.items():
            yield Row(
                (),
                f"starting point “{key}”, {words}",
                between,
                said,
                4e-3 * max(between, 1.0),
                part.typed.unit,
                "distance of its ends in what is drawn",
                "computed",
            )


def dimensions(part: AnyPart, drawing: Drawing) -> Iterator[tuple[str, float, float]]:
    """Of each dimension of a drawing of a part that has a number and is no designation its words, that
    number, and the distance of its ends in what is drawn, both in the recipe's unit."""
    for one in drawing.parts:
        if not isinstance(one, Dimension):
            continue
        size = one.words.partition(" ± ")[0].replace("⌀", " ")
        number = re.search(r"(?<![\w./])\d+(?:\.\d+)?$", size)
        if number is not None:
            axis = 1 if one.upright else 0
            between = abs(one.end[axis] - one.start[axis]) * one.factor / part.length_unit
            yield one.words, float(number[0]), float(between)
