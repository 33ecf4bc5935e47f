"""A question that is asked of a part: by which function, of which parts, and what may cure it."""

from __future__ import annotations

from collections.abc import Callable, Iterable
from dataclasses import dataclass, field
from typing import Any

from metaspira.checks.check import Check, Window
from metaspira.parts import AnyPart, Part, ThreadedPart
from metaspira.recipe.fields import Parts

Ask = Callable[[Any, Window], Check]
Choices = Callable[[Any], Iterable[tuple[Parts, str, str]]]


def of_wire(part: AnyPart) -> bool:
    return isinstance(part, Part)


def of_thread(part: AnyPart) -> bool:
    return isinstance(part, ThreadedPart)


@dataclass(frozen=True)
class Question:
    """`ask(part, window)` answers it within a share of the wire, of the parts that it is `of`; `margin` gives
    the answer's margin in less time. A remedy is looked for in the inputs `cures`, each a JSON pointer with
    all below it, in that order, and where it says so in other stances and in the points of a path;
    `choices(part)` gives words that may cure it: where, which, and as said. `asks`, `stops` and `watches`
    tell it in the documentation, where it is `told` among others, with the `kinds` of springs that it is
    about; `listed` is its place there and in a report."""

    id: str
    ask: Ask
    of: Callable[[AnyPart], bool]
    told: str
    listed: int
    asks: str
    stops: str = ""
    watches: str = ""
    kinds: str = ""
    cures: tuple[str, ...] = ()
    stances: bool = False
    points: bool = False
    choices: Choices = field(default=lambda part: ())
    margin: Callable[[Any, Window], float] | None = None
    aimed: bool = False
    """Whether its figure is to come to its limit, and not beyond it."""

    def margin_of(self, part: AnyPart, window: Window) -> float:
        """Positive where the answer is clear."""
        return self.margin(part, window) if self.margin else self.ask(part, window).margin
