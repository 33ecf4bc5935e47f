"""What is wrong with an input: place, reason, remedy, as values of the domain."""

from __future__ import annotations

import difflib
from collections.abc import Iterable
from dataclasses import asdict, dataclass
from typing import Any

_COMPARED = 60


@dataclass(frozen=True)
class Fix:
    """One press: put `value` (in the recipe's own units) at the JSON pointer `input`."""

    input: str
    value: float | str | dict[str, Any]


@dataclass(frozen=True)
class Problem:
    """One unusable input.

    `place` is a JSON pointer into the recipe ("" is the whole of it); `reason` and `remedy` are
    sentences without a full stop; `fix` is set when one value is known to work.
    """

    place: str
    reason: str
    remedy: str
    fix: Fix | None = None

    def line(self) -> str:
        return f"{self.place or '/'}: {self.reason}; {self.remedy}"

    def as_dict(self) -> dict[str, Any]:
        return asdict(self)


class RecipeError(Exception):
    """The recipe cannot be used. Carries every problem found, never none."""

    def __init__(self, problems: Problem | Iterable[Problem]):
        self.problems = (problems,) if isinstance(problems, Problem) else tuple(problems)
        super().__init__("\n".join(problem.line() for problem in self.problems))


class Cancelled(Exception):
    """Work was stopped on request."""


class Interrupted(Exception):
    """Work was stopped because the program ends; it may be done again."""


def pointer(parts: Iterable[str | int]) -> str:
    """JSON pointer (RFC 6901) of the keys and indices `parts`."""
    return "".join("/" + str(part).replace("~", "~0").replace("/", "~1") for part in parts)


def parts_of(place: str) -> list[str]:
    """Keys and indices of a JSON pointer (RFC 6901)."""
    return [part.replace("~1", "/").replace("~0", "~") for part in place.split("/")[1:]]


def nearest(word: str, known: Iterable[str]) -> str | None:
    """The known word most like `word`, if any is like it at all. Of a long one its beginning is compared: the
    cost grows with its square."""
    found = difflib.get_close_matches(word[:_COMPARED].lower(), list(known), n=1, cutoff=0.5)
    return found[0] if found else None


def suggested(word: str, known: Iterable[str], otherwise: str) -> str:
    """The remedy for a word that is not known: the one most like it, or else something else."""
    near = nearest(word, known)
    return f"did you mean “{near}”" if near else otherwise
