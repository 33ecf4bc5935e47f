"""One row of the book of proof."""

from __future__ import annotations

import math
import re
from dataclasses import dataclass
from typing import Literal

Standing = Literal["printed", "formula", "computed"]

STANDINGS: dict[Standing, str] = {
    "printed": "a published value, from memory; not checked against the printed page",
    "formula": "a published formula, calculated apart from the product; from memory, not checked against the "
    "printed page",
    "computed": "by another method or another library",
}
"""What the other value is."""


@dataclass(frozen=True)
class Row:
    """A figure held against a value from elsewhere. `figures` are the keys of what is held, `case` the part
    that it was calculated of; `value`, `ours` and `allowed` (the most by which they may differ) have `unit`;
    `source` says where the value is from, and `standing` what it is."""

    figures: tuple[str, ...]
    case: str
    value: float
    ours: float
    allowed: float
    unit: str
    source: str
    standing: Standing

    @property
    def off(self) -> float:
        """By how much ours is more."""
        return self.ours - self.value

    def holds(self, figure: str) -> bool:
        """Whether it holds a figure, by its key; those of the wires of a nest and of the working points are
        numbered."""
        return re.sub(r"_\d+$", "", figure) in self.figures

    @property
    def within(self) -> bool:
        return math.isfinite(self.ours) and abs(self.off) <= self.allowed


def printed(figures: tuple[str, ...], case: str, text: str, ours: float, unit: str, source: str) -> Row:
    """A value as it is printed, which ours rounds to: half a unit of its last digit is allowed."""
    digits = len(text.partition(".")[2])
    return Row(figures, case, float(text), ours, (0.5 + 1e-6) * 10.0**-digits, unit, source, "printed")


def near(
    figures: tuple[str, ...],
    case: str,
    value: float,
    ours: float,
    share: float,
    unit: str,
    source: str,
    standing: Standing = "computed",
) -> Row:
    """A value that ours may differ from by a share of it."""
    return Row(figures, case, value, ours, share * abs(value), unit, source, standing)
