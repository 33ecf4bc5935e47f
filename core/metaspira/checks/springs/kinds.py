"""Which spring a part is, for the questions of its kind; of springs one in the other each is asked."""

from __future__ import annotations

from dataclasses import replace
from typing import TypeVar

from metaspira.checks.check import WHOLE, Check, Window, worst
from metaspira.checks.question import Ask, Question
from metaspira.parts import AnyPart, Part
from metaspira.springs.working import WoundSpring

S = TypeVar("S", bound=WoundSpring)

EVERY_KIND = ("compression", "extension", "torsion", "spiral")

_CURES = (
    "/spring/points",
    "/section/diameter",
    "/section/width",
    "/section/height",
    "/path/diameter",
    "/path/end_diameter",
    "/path/turns",
    "/path/pitch",
    "/path/height",
    "/path/legs",
    "/spring/initial_tension",
    "/fit",
)


def spring_as(part: Part, kind: type[S]) -> S:
    """The spring that a part is, of a kind. Raises TypeError where it is none."""
    if not isinstance(part.spring, kind):
        raise TypeError(f"the part is no {kind.__name__.lower()} spring")
    return part.spring


def spring_question(
    id: str,
    check: Ask,
    kinds: tuple[str, ...],
    listed: int,
    asks: str,
    stops: str = "",
    watches: str = "",
    whole: bool = False,
    cures: tuple[str, ...] = _CURES,
) -> Question:
    """A question about springs of some `kinds`, asked of each spring of a nest, or of the `whole` of it."""

    def of(part: AnyPart) -> bool:
        return part.spring is not None and part.spring.asked.kind in kinds

    told = "all" if kinds == EVERY_KIND else ", ".join(kinds)
    ask = check if whole else _of_each(check)
    return Question(id, ask, of, "spring", listed, asks, stops, watches, kinds=told, cures=cures)


def _of_each(check: Ask) -> Ask:
    """The check of each spring of a nest: the gravest answer, with the name of the spring that it is of."""

    def checked(part: Part, window: Window) -> Check:
        if len(part.members) == 1:
            return check(part, window)
        found = [check(member, WHOLE) for member in part.members]
        gravest = worst([one.verdict for one in found])
        at = min((k for k, one in enumerate(found) if one.verdict == gravest), key=lambda k: found[k].margin)
        why = f"{part.bodies[at].name}: {found[at].why}"
        return replace(found[at], why=why, where=found[at].where if at == 0 else ())

    return checked
