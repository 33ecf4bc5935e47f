"""What a check says: a question with a figure, a limit, a verdict, places and remedies."""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import dataclass, field
from typing import Any, Literal

import numpy as np

from metaspira.numbers.jets import Array
from metaspira.paths.path import Span

Verdict = Literal["clear", "watch", "stop"]
_ORDER: dict[Verdict, int] = {"clear": 0, "watch": 1, "stop": 2}

Window = tuple[float, float]
"""The share of the wire that is looked at, from and to in 0..1."""

WHOLE: Window = (0.0, 1.0)


@dataclass(frozen=True)
class Remedy:
    """The nearest value of one input that makes a check clear, in the recipe's units, and what it costs."""

    input: str
    value: float | str | list[float] | dict[str, Any]
    text: str = ""
    cost: str = ""


@dataclass(frozen=True)
class Lane:
    """A figure along the wire: true lengths and values, both (n,); value NaN where there is none."""

    s: Array
    value: Array


NO_LANE = Lane(np.zeros(0), np.zeros(0))


@dataclass(frozen=True)
class Check:
    """One check's answer.

    `value` and `limit` are in `unit`; `where` are the places along the wire (from, to) in mm of true
    length; `why` explains the verdict; `margin` is positive where the check is clear, and is what a
    remedy brings back to zero; `decided` is False where the check itself failed.
    """

    id: str
    title: str
    verdict: Verdict
    value: float | None
    limit: float | None
    unit: str
    why: str
    margin: float
    where: tuple[Span, ...] = ()
    points: tuple[tuple[float, float, float], ...] = ()
    remedies: tuple[Remedy, ...] = field(default=())
    decided: bool = True

    def as_dict(self) -> dict[str, Any]:
        """The keys of the recipe contract, with title and points beside them."""
        return {
            "id": self.id,
            "title": self.title,
            "verdict": self.verdict,
            "value": self.value,
            "limit": self.limit,
            "unit": self.unit,
            "where": [list(span) for span in self.where],
            "points": [list(point) for point in self.points],
            "why": self.why,
            "remedies": [vars(remedy) for remedy in self.remedies],
        }


def worst(verdicts: list[Verdict]) -> Verdict:
    """The gravest of several verdicts; clear when there are none."""
    return max(verdicts, key=_ORDER.__getitem__, default="clear")


def in_words(value: float, how: str = ".4g") -> str:
    """A number as it stands in a sentence, with a true minus sign."""
    return format(value, how).replace("-", "−")


def capital(sentence: str) -> str:
    """A sentence with a capital."""
    return sentence[:1].upper() + sentence[1:]


def spans_below(s: Array, value: Array, limit: float) -> tuple[Span, ...]:
    """Where a sampled figure is below a limit: spans of s, their ends interpolated."""
    below = np.where(np.isnan(value), False, value < limit)
    edges = np.diff(np.concatenate([[False], below, [False]]).astype(int))
    spans = []
    for first, last in zip(np.flatnonzero(edges == 1), np.flatnonzero(edges == -1) - 1, strict=True):
        start = _crossing(s, value, first, first - 1, limit)
        spans.append((start, _crossing(s, value, last, last + 1, limit)))
    return tuple(spans)


def _crossing(s: Array, value: Array, inside: np.intp, outside: np.intp, limit: float) -> float:
    if not 0 <= outside < len(s) or np.isnan(value[outside]) or value[outside] == value[inside]:
        return float(s[inside])
    share = (limit - value[inside]) / (value[outside] - value[inside])
    return float(s[inside] + np.clip(share, 0, 1) * (s[outside] - s[inside]))


Enough = Callable[[], bool]
"""Whether a search that may take long is to end now."""
