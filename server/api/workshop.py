"""The workshop: the coiling table of a part, and simulated devices that wind it and load it."""

from __future__ import annotations

from typing import Any

from django.http import HttpRequest, HttpResponse
from metaspira.checks import why_of
from metaspira.coiling.table import coiling_table
from metaspira.devices import former, tester
from metaspira.formats.readings import readings_csv
from metaspira.parts import Part, make_part
from metaspira.problems import Problem, RecipeError
from metaspira.recipe.model import Recipe
from metaspira.springs.working import Axial
from ninja import Body, Router
from people.permissions import MEMBER

from api.downloads import download, gives
from api.schemas import CoilingOut, LoadTestOut, Problems, Trial, WoundOut

router = Router()

_SHOWN = 600


@router.post("/coiling", response={200: CoilingOut, 422: Problems}, auth=MEMBER)
def coiling(request: HttpRequest, recipe: Body[Recipe]) -> dict[str, Any]:
    """The settings of a wire former over the wire that it is fed, as many rows as a picture needs."""
    table = coiling_table(make_part(recipe))
    rows = table.rows[:: max(1, len(table.rows) // _SHOWN)].tolist()
    return {
        "rows": rows,
        "modulus": table.wire.modulus,
        "flow": table.wire.flow,
        "source": table.source,
        "count": len(table.rows),
    }


@router.post("/wind", response={200: WoundOut, 422: Problems}, auth=MEMBER)
def wind(request: HttpRequest, trial: Trial) -> dict[str, Any]:
    """Wind a part on the simulated former, by its coiling table alone, and measure it beside the design."""
    part = make_part(trial.recipe)
    wound = former.wind(coiling_table(part), trial.seed, trial.scatter)
    meant, why = former.designed(part).figures, why_of(part)
    return {
        "simulated": former.SIMULATED,
        "figures": [
            {
                "name": name,
                "title": why[name].title,
                "unit": why[name].unit,
                "design": meant[name],
                "measured": value,
            }
            for name, value in wound.figures.items()
        ],
        "recipe": wound.as_recipe(part),
    }


@router.post("/readings", response={422: Problems}, openapi_extra=gives("The table", "text/csv"), auth=MEMBER)
def readings(request: HttpRequest, trial: Trial) -> HttpResponse:
    """What the simulated load tester reads, going and coming back, as the table that a measured spring is
    read from."""
    found = tester.load_test(_pressed(trial), trial.seed, trial.scatter)
    rows = [(one.length, one.going) for one in found.readings]
    rows += [(one.length, one.back) for one in reversed(found.readings)]
    return download(readings_csv(rows), "readings.csv", "text/csv")


@router.post("/load", response={200: LoadTestOut, 422: Problems}, auth=MEMBER)
def load(request: HttpRequest, trial: Trial) -> dict[str, Any]:
    """Press or pull a spring on the simulated load tester."""
    found = tester.load_test(_pressed(trial), trial.seed, trial.scatter)
    return {
        "simulated": tester.SIMULATED,
        "readings": [vars(reading) for reading in found.readings],
        "rate": found.rate,
        "calculated_rate": found.calculated_rate,
    }


def _pressed(trial: Trial) -> Axial:
    """The spring of a trial. Raises RecipeError where it is none along its axis."""
    part = make_part(trial.recipe)
    if not isinstance(part, Part) or not isinstance(part.spring, Axial):
        raise RecipeError(
            Problem(
                "/spring", "the part is no spring along its axis", "say in Load what kind of spring it is"
            )
        )
    return part.spring
