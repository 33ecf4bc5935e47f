"""Two recipes side by side."""

from __future__ import annotations

from dataclasses import asdict, replace
from typing import Any

from django.http import HttpRequest
from metaspira.checks import Report, report_on
from metaspira.formats.bodies import bodies_in
from metaspira.formats.outside import MOST_BYTES
from metaspira.parts import part_of
from metaspira.problems import RecipeError
from metaspira.recipe.reading import read_json
from metaspira.studies.body import HeldAgainst, held_against
from metaspira.studies.compare import changes, check_changes, figure_changes
from ninja import File, Form, Router
from ninja.files import UploadedFile
from people.permissions import MEMBER

from api.schemas import ComparisonOut, Pair, Problems
from api.uploads import sent

router = Router()


@router.post("", response=ComparisonOut, auth=MEMBER)
def compare(request: HttpRequest, pair: Pair) -> dict[str, Any]:
    """What was changed from one recipe to another, in words; the figures and checks that it changed, where
    both can be used."""
    reports = [_report(recipe) for recipe in (pair.before, pair.after)]
    usable = [report for report in reports if isinstance(report, Report)]
    both = len(usable) == 2
    return {
        "changes": [vars(change) for change in changes(pair.before, pair.after)],
        "figures": [vars(row) for row in figure_changes(*usable)] if both else [],
        "checks": [vars(row) for row in check_changes(*usable)] if both else [],
        "verdicts": [report.verdict if isinstance(report, Report) else "unusable" for report in reports],
        "problems": [problem for report in reports if isinstance(report, list) for problem in report],
    }


@router.post("/body", response={200: HeldAgainst, 422: Problems}, auth=MEMBER)
def compare_body(
    request: HttpRequest, file: File[UploadedFile], recipe: Form[str], unit: Form[str] = ""
) -> dict[str, Any]:
    """A recipe (JSON) held against a body from an STL, GLB, 3MF or STEP file, both where they stand: the
    figures of both, and how far each reaches beyond the other. `unit` is that of a file which does not say
    its own."""
    try:
        typed = read_json(recipe)
    except RecipeError as error:
        raise RecipeError(replace(problem, place="/recipe") for problem in error.problems) from None
    part = part_of(typed)
    data, suffix, name = sent(file, MOST_BYTES)
    found = bodies_in(data, suffix, unit or None, name)
    return asdict(held_against(part, found))


def _report(recipe: dict[str, Any]) -> Report | list[dict[str, Any]]:
    """The report on a recipe, or what makes it unusable."""
    try:
        return report_on(part_of(recipe), with_remedies=False)
    except RecipeError as error:
        return [problem.as_dict() for problem in error.problems]
