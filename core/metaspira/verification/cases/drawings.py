"""Dimensions of drawings."""

from __future__ import annotations

import re
from collections.abc import Iterator

from metaspira.drawings import drawing_of
from metaspira.drawings.marks import Dimension
from metaspira.parts import part_of
from metaspira.starting import starting_point
from metaspira.verification.row import Row

_KEYS = ("push", "pull", "turn", "volute", "thread-outside", "thread-inside", "twisted-bar", "horn")


def rows() -> Iterator[Row]:
    for key in _KEYS:
        part = part_of(starting_point(key).recipe)
        dimensions = [one for one in drawing_of(part).parts if isinstance(one, Dimension)]
        for one in {one.words: one for one in dimensions}.values():
            number = re.search(r"(?<![\w./])\d+(?:\.\d+)?$", one.words.replace("⌀", " "))
            if number is None:  # a designation
                continue
            axis = 1 if one.upright else 0
            between = abs(one.end[axis] - one.start[axis]) * one.factor / part.length_unit
            yield Row(
                (),
                f"starting point “{key}”, {one.words}",
                float(between),
                float(number[0]),
                4e-3 * max(float(between), 1.0),
                part.typed.unit,
                "distance of its ends in what is drawn",
                "computed",
            )
