"""Figures: a value of something, with its formula, its inputs and its source.

A family of figures is a tuple of them beside what they are of; `metaspira.views.figures` lists the families.
"""

from __future__ import annotations

from collections.abc import Callable, Iterable
from dataclasses import dataclass
from typing import Any, Generic, Literal, TypeVar

from metaspira.problems import suggested

S = TypeVar("S")
Said = str | Callable[[Any], str]
"""A text, or what gives it of the subject."""


@dataclass(frozen=True)
class Why:
    """What stands behind a figure. `rail`: whether it stands beside the part always, only where there is one,
    or never."""

    title: str
    symbol: str
    unit: str
    formula: str
    inputs: str
    source: str
    rail: Literal["always", "there", "never"] = "always"


@dataclass(frozen=True)
class Told:
    """A figure of one subject: its value in `unit`, and what stands behind it."""

    key: str
    title: str
    value: float | None
    unit: str
    formula: str
    inputs: str
    source: str
    symbol: str = ""


@dataclass(frozen=True)
class Figure(Generic[S]):
    """A figure of each subject of a kind: its unit, how it is found (None where a subject has none), and what
    stands behind it, which may differ with the subject."""

    key: str
    title: str
    symbol: str
    unit: str
    value: Callable[[S], float | None]
    formula: Said
    inputs: Said
    source: Said
    rail: Literal["always", "there", "never"] = "always"

    def why(self, subject: S) -> Why:
        """What stands behind it."""
        formula, inputs, source = (_said(one, subject) for one in (self.formula, self.inputs, self.source))
        return Why(self.title, self.symbol, self.unit, formula, inputs, source, self.rail)

    def told(self, subject: S) -> Told:
        """Its value, and what stands behind it."""
        why = self.why(subject)
        value = self.value(subject)
        return Told(self.key, why.title, value, why.unit, why.formula, why.inputs, why.source, why.symbol)


class Figures(dict[str, float | None]):
    """Values by the keys of their figures, each an attribute too; None where there is no such value."""

    def __getattr__(self, name: str) -> float | None:
        if name in self:
            return self[name]
        remedy = suggested(name, self, f"they are {', '.join(self)}")
        raise AttributeError(f"no figure “{name}”; {remedy}")


def values_of(figures: Iterable[Figure[S]], subject: S) -> Figures:
    """The values of a subject, by their keys."""
    return Figures((figure.key, figure.value(subject)) for figure in figures)


def whys_of(figures: Iterable[Figure[S]], subject: S) -> dict[str, Why]:
    """What stands behind each, by their keys."""
    return {figure.key: figure.why(subject) for figure in figures}


def _said(text: Said, subject: Any) -> str:
    return text if isinstance(text, str) else text(subject)
