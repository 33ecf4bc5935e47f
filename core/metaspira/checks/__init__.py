"""Checks: questions with a figure and a verdict. A new check is one module and one line in CHECKS."""

from __future__ import annotations

import logging
import math
from dataclasses import dataclass, replace
from typing import Any

from metaspira.checks.bend import check_bend, min_bend_radius
from metaspira.checks.check import (
    NO_LANE,
    WHOLE,
    Check,
    CheckOf,
    Enough,
    Lane,
    Remedy,
    Verdict,
    worst,
)
from metaspira.checks.clearance import check_clearance
from metaspira.checks.contact import check_contact
from metaspira.checks.expected import expected_checks
from metaspira.checks.gaps import part_gaps
from metaspira.checks.reference import reference_checks
from metaspira.checks.remedies import remedies_for
from metaspira.checks.section import check_section
from metaspira.checks.size import check_size
from metaspira.checks.springs import spring_checks_of
from metaspira.checks.stance import check_stance
from metaspira.checks.threads import THREAD_CHECKS
from metaspira.checks.twist import check_twist
from metaspira.figures import WHY, Why, figures_of
from metaspira.part import AnyPart, Part
from metaspira.problems import RecipeError
from metaspira.threaded import ThreadedPart
from metaspira.threaded_figures import THREAD_WHY, threaded_figures

CHECKS: dict[str, CheckOf] = {
    "bend": check_bend,
    "self-contact": check_contact,
    "clearance": check_clearance,
    "size": check_size,
    "twist": check_twist,
    "section": check_section,
    "stance": check_stance,
}


@dataclass(frozen=True)
class Report:
    """All that is said of a part: the verdict, the figures and the checks. `searched` is False where the
    search for remedies was ended before its end."""

    part: AnyPart
    figures: dict[str, float | None]
    checks: tuple[Check, ...]
    gap_lane: Lane
    searched: bool = True
    gap_range: tuple[float, float] | None = None
    """The interval that holds the smallest gap for certain, mm."""

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


def checks_of(part: AnyPart) -> dict[str, CheckOf]:
    """The checks that are made of a part, by their ids."""
    if isinstance(part, ThreadedPart):
        return THREAD_CHECKS | expected_checks(part)
    return CHECKS | reference_checks(part) | spring_checks_of(part) | expected_checks(part)


def why_of(part: AnyPart) -> dict[str, Why]:
    """What stands behind each figure of a part."""
    return THREAD_WHY if isinstance(part, ThreadedPart) else WHY


def run_checks(part: AnyPart) -> list[Check]:
    """Every check on a part, without remedies."""
    return [_made(check_id, check, part) for check_id, check in checks_of(part).items()]


def _made(check_id: str, check: CheckOf, part: AnyPart) -> Check:
    """A check's answer; where it fails, that it could not be decided, which stops the part."""
    try:
        made = check(part, WHOLE)
        if made.value is None or math.isfinite(made.value):
            return made
        fault = "its figure is no number"
    except RecipeError:
        raise
    except Exception as raised:
        logging.getLogger(__name__).exception("check %s failed", check_id)
        fault = f"{type(raised).__name__} inside the check"
    why = f"This could not be decided ({fault}). Nothing is built until it can be: change the recipe a little, and report it"
    title = check_id.replace("-", " ").capitalize()
    return Check(check_id, title, "stop", None, None, "", why, -1.0, decided=False)


def verdict_of(part: AnyPart) -> tuple[Verdict, float | None]:
    """The verdict on a part and its length of wire, mm, without what takes longer."""
    length = None if isinstance(part, ThreadedPart) else part.sweep.wire_length
    return worst([check.verdict for check in run_checks(part)]), length


def report_on(part: AnyPart, with_remedies: bool = True, enough: Enough = lambda: False) -> Report:
    """Figures and checks of a part; each check that is not clear gets its remedies, searched for until `enough`
    says so."""
    checks = run_checks(part)
    if with_remedies:
        checks = _remedied(part, checks, enough)
    searched = not enough()
    if isinstance(part, ThreadedPart):
        air = next(check.value for check in checks if check.id == "clearance")
        return Report(part, threaded_figures(part, air), tuple(checks), NO_LANE, searched)
    try:
        gaps = part_gaps(part)
        known = {
            name: value if value is None or math.isfinite(value) else None
            for name, value in measured(part).items()
        }
        return Report(part, known, tuple(checks), gaps.lane, searched, gaps.interval)
    except Exception:
        return Report(part, dict.fromkeys(WHY), tuple(checks), NO_LANE, searched)


def measured(part: Part) -> dict[str, float | None]:
    """The figures of a part of wire, with its smallest gap and tightest bend."""
    return figures_of(part, part_gaps(part).smallest, min_bend_radius(part.sweep))


def _remedied(part: AnyPart, checks: list[Check], enough: Enough) -> list[Check]:
    """Checks with their remedies; where the wire runs into itself, its clearance has the same ones."""
    remedies: dict[str, tuple[Remedy, ...]] = {}
    for check in checks:
        if check.verdict == "clear" or not check.decided:
            continue
        contact = remedies.get("self-contact")
        if check.id == "clearance" and contact and (check.value or 0.0) < 0:
            remedies[check.id] = contact
        else:
            remedies[check.id] = remedies_for(
                part, check, checks_of(part)[check.id], run_checks, enough
            )
    return [replace(check, remedies=remedies.get(check.id, ())) for check in checks]


__all__ = [
    "CHECKS", "Check", "Lane", "Report", "Verdict", "checks_of", "report_on", "run_checks", "verdict_of", "why_of", "worst",
]  # fmt: skip
