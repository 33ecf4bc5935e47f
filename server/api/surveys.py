"""Surveys: asked for, followed, stopped, and kept as a table."""

from __future__ import annotations

import uuid
from typing import Any

from django.http import HttpRequest, HttpResponse
from jobs.services import cancel as cancel_job
from jobs.services import looked_after
from metaspira.surveying import Survey as Found
from metaspira.surveying import csv_of
from ninja import Router, Status
from people.access import asker
from people.permissions import MAKER, OwnJob
from surveys.models import Survey
from surveys.services import request_survey

from api.downloads import download, gives
from api.schemas import Problems, SurveyOut, WantedSurvey

router = Router()

_OWN = OwnJob(kind=Survey, argument="survey_id")
_OWN_CHANGED = OwnJob(changes=True, kind=Survey, argument="survey_id")


@router.post("", response={202: SurveyOut, 422: Problems}, auth=MAKER)
def start(request: HttpRequest, body: WantedSurvey) -> Status[dict[str, Any]]:
    """Start trying one or two inputs of a recipe over a range."""
    return Status(202, SurveyOut.of(request_survey(body.recipe, body.over, asker(request))))


@router.get("/{uuid:survey_id}", response={200: SurveyOut, 404: Problems}, auth=_OWN)
def read(request: HttpRequest, survey_id: uuid.UUID) -> dict[str, Any]:
    """A survey's state and progress, and what it found once it is done."""
    return SurveyOut.of(looked_after(Survey, survey_id))


@router.post("/{uuid:survey_id}/cancel", response={200: SurveyOut, 404: Problems}, auth=_OWN_CHANGED)
def cancel(request: HttpRequest, survey_id: uuid.UUID) -> dict[str, Any]:
    """Stop a survey."""
    return SurveyOut.of(cancel_job(Survey, survey_id))


@router.get(
    "/{uuid:survey_id}/table",
    response={404: Problems},
    openapi_extra=gives("A row a point", ".csv"),
    auth=_OWN,
)
def table(request: HttpRequest, survey_id: uuid.UUID) -> HttpResponse:
    """What a finished survey found, as CSV."""
    found = looked_after(Survey, survey_id)
    if found.state != Survey.State.DONE:
        raise Survey.DoesNotExist
    return download(csv_of(Found.from_dict(found.result)), "survey.csv")
