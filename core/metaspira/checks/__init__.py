"""Checks: questions with a figure and a verdict. A new one is a module with QUESTIONS, in this package or one
below it."""

from __future__ import annotations

import importlib
import logging
import math
import pkgutil
from collections.abc import Sequence
from dataclasses import dataclass, replace
from functools import cache
from typing import Any

from metaspira.checks.bend import min_bend_radius
from metaspira.checks.check import (
    NO_LANE,
    WHOLE,
    Check,
    Enough,
    Lane,
    Remedy,
    Verdict,
    worst,
)
from metaspira.checks.expected import expected_questions
from metaspira.checks.gaps import PartGaps, part_gaps
from metaspira.checks.question import Question
from metaspira.checks.remedies import remedies_for
from metaspira.checks.threads.pair import least_air
from metaspira.numbers.figure import Figure, Figures, Why, values_of, whys_of
from metaspira.numbers.shown import sentence_shown
from metaspira.parts import AnyPart, Part
from metaspira.parts.threaded import ThreadedPart
from metaspira.problems import RecipeError, suggested


@cache
def questions() -> tuple[Question, ...]:
    """Every question, in the order in which they are answered."""
    names = [found.name for found in pkgutil.walk_packages(__path__, f"{__name__}.")]
    modules = [importlib.import_module(name) for name in names]
    found = [question for module in modules for question in getattr(module, "QUESTIONS", ())]
    return tuple(sorted(found, key=lambda question: question.listed))


@dataclass(frozen=True, repr=False)
class Report:
    """All that is said of a part: the verdict, the figures and the checks, each by its id too. `searched` is
    False where the search for remedies was ended before its end."""

    part: AnyPart
    figures: Figures
    checks: tuple[Check, ...]
    searched: bool = True
    gap_range: tuple[float, float] | None = None
    """The interval that holds the smallest gap for certain, mm."""
    gaps: PartGaps | None = None
    """The gaps of a part of wire."""

    def __repr__(self) -> str:
        return f"<Report on “{self.part.typed.name}”: {self.verdict}, {len(self.checks)} checks>"

    @property
    def gap_lane(self) -> Lane:
        """The gap along the wire."""
        return NO_LANE if self.gaps is None else self.gaps.lane

    def __getitem__(self, check_id: str) -> Check:
        """The check of an id. Raises KeyError, which names the nearest."""
        found = {check.id: check for check in self.checks}
        if check_id not in found:
            remedy = suggested(check_id, found, f"they are {', '.join(found)}")
            raise KeyError(f"no check “{check_id}” of this part; {remedy}")
        return found[check_id]

    @property
    def verdict(self) -> Verdict:
        return worst([check.verdict for check in self.checks])

    def as_dict(self) -> dict[str, Any]:
        """The recipe contract's keys, with what stands behind each figure beside them."""
        return {
            "verdict": self.verdict,
            "figures": {**self.figures, "min_gap_range": self.gap_range and list(self.gap_range)},
            "checks": [check.as_dict() for check in self.checks],
            "why": {name: vars(why) for name, why in why_of(self.part).items()},
            "searched": self.searched,
        }


def questions_of(part: AnyPart) -> dict[str, Question]:
    """The questions that are asked of a part, by their ids."""
    asked = {question.id: question for question in questions() if question.of(part)}
    return asked | expected_questions(part)


def why_of(part: AnyPart) -> dict[str, Why]:
    """What stands behind each figure of a part."""
    figures: Sequence[Figure[Any]] = part.figures
    return whys_of(figures, part.known())


def run_checks(part: AnyPart) -> list[Check]:
    """Every check on a part, without remedies."""
    return [answered(question, part) for question in questions_of(part).values()]


def answered(question: Question, part: AnyPart) -> Check:
    """A check's answer, said in the units of the recipe; where it fails, that it could not be decided, which
    stops the part."""
    try:
        made = question.ask(part, WHOLE)
        if made.value is None or math.isfinite(made.value):
            return replace(made, why=sentence_shown(made.why, part.typed.unit))
        fault = "its figure is no number"
    except RecipeError:
        raise
    except Exception as raised:
        logging.getLogger(__name__).exception("check %s failed", question.id)
        fault = f"{type(raised).__name__} inside the check"
    why = (
        f"This could not be decided ({fault}). Nothing is built until it can be: change the recipe a "
        "little, and report it"
    )
    title = question.id.replace("-", " ").capitalize()
    return Check(question.id, title, "stop", None, None, "", why, -1.0, decided=False)


def verdict_of(part: AnyPart) -> tuple[Verdict, float | None]:
    """The verdict on a part and its length of wire, mm, without what takes longer."""
    return worst([check.verdict for check in run_checks(part)]), part.wire_length


def report_on(part: AnyPart, with_remedies: bool = True, enough: Enough = lambda: False) -> Report:
    """Figures and checks of a part; each check that is not clear gets its remedies, searched for until
    `enough` says so."""
    checks = run_checks(part)
    if with_remedies:
        checks = _remedied(part, checks, enough)
    searched = not enough()
    if isinstance(part, ThreadedPart):
        return _threaded(part, tuple(checks), searched)
    try:
        gaps = part_gaps(part)
        known = Figures(
            (name, value if value is None or math.isfinite(value) else None)
            for name, value in measured(part).items()
        )
        return Report(part, known, tuple(checks), searched, gaps.interval, gaps)
    except Exception:
        return Report(part, Figures(dict.fromkeys(why_of(part))), tuple(checks), searched)


def _threaded(part: ThreadedPart, checks: tuple[Check, ...], searched: bool) -> Report:
    air = next(check for check in checks if check.id == "clearance")
    least = least_air(part) if air.decided else None
    interval = None if least is None else (least.low, least.high)
    return Report(part, values_of(part.figures, part.known(air.value)), checks, searched, interval)


def measured(part: Part) -> Figures:
    """The figures of a part of wire, with its smallest gap and tightest bend."""
    return values_of(part.figures, part.known(part_gaps(part).smallest, min_bend_radius(part.sweep)))


def _remedied(part: AnyPart, checks: list[Check], enough: Enough) -> list[Check]:
    """Checks with their remedies; where the wire runs into itself, its clearance has the same ones."""
    remedies: dict[str, tuple[Remedy, ...]] = {}
    asked = questions_of(part)
    for check in checks:
        if check.verdict == "clear" or not check.decided:
            continue
        contact = remedies.get("self-contact")
        if check.id == "clearance" and contact and (check.value or 0.0) < 0:
            remedies[check.id] = contact
        else:
            remedies[check.id] = remedies_for(part, check, asked[check.id], run_checks, enough)
    return [replace(check, remedies=remedies.get(check.id, ())) for check in checks]


__all__ = [
    "Check",
    "Lane",
    "Question",
    "Report",
    "Verdict",
    "questions",
    "questions_of",
    "report_on",
    "run_checks",
    "verdict_of",
    "why_of",
    "worst",
]
