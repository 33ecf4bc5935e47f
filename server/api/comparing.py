"""Two recipes side by side."""

from __future__ import annotations

from typing import Any

from django.http import HttpRequest
from metaspira.checks import Report, report_on
from metaspira.comparing import changes, check_changes, figure_changes
from metaspira.part import part_of
from metaspira.problems import RecipeError
from ninja import Router

from api.schemas import ComparisonOut, Pair

router = Router()


@router.post("", response=ComparisonOut)
def compare(request: HttpRequest, pair: Pair) -> dict[str, Any]:
    """What was changed from one recipe to another, in words; the figures and checks that it changed, where both can be used."""
    reports = [_report(recipe) for recipe in (pair.before, pair.after)]
    usable = [report for report in reports if isinstance(report, Report)]
    both = len(usable) == 2
    return {
        "changes": [vars(change) for change in changes(pair.before, pair.after)],
        "figures": [vars(row) for row in figure_changes(*usable)] if both else [],
        "checks": [vars(row) for row in check_changes(*usable)] if both else [],
        "verdicts": [
            report.verdict if isinstance(report, Report) else "unusable" for report in reports
        ],
        "problems": [problem for report in reports if isinstance(report, list) for problem in report],
    }


def _report(recipe: dict[str, Any]) -> Report | list[dict[str, Any]]:
    """The report on a recipe, or what makes it unusable."""
    try:
        return report_on(part_of(recipe), with_remedies=False)
    except RecipeError as error:
        return [problem.as_dict() for problem in error.problems]
