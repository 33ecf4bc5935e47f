"""Threads: what a designation or a measured thread is, and the checks of a threaded part."""

from __future__ import annotations

from typing import Any

from django.http import HttpRequest
from metaspira.parts import make_part
from metaspira.problems import Problem, RecipeError
from metaspira.recipe.kinds import usual_thread
from metaspira.recipe.model import ThreadRecipe
from metaspira.threads.asked import AskedThread
from metaspira.threads.family import Row
from metaspira.threads.gauging import as_dict
from metaspira.threads.judging import Judgement, judgement
from metaspira.threads.lookup import Candidate, measured, nearest_threads, read_thread
from metaspira.threads.thread import Side
from metaspira.views.threads import profiles, thread_view
from ninja import Body, Router
from people.permissions import MEMBER

from api.checking import reported, said
from api.schemas import CandidateOut, MadeThread, Problems, StandardOut, ThreadReportOut

router = Router()


@router.get("", response={200: StandardOut, 422: Problems}, auth=MEMBER)
def read(request: HttpRequest, designation: str) -> dict[str, Any]:
    """The thread that a designation names: sizes, limits, gauging and profiles, in mm and degrees; and a
    recipe of each of its members."""
    thread = read_thread(designation, "/designation")
    return {
        "standard": as_dict(thread),
        "profiles": profiles(thread, AskedThread(designation=designation)),
        "recipes": {side: usual_thread(thread, side) for side in thread.sides},
    }


@router.get("/nearest", response=list[Row], auth=MEMBER)
def nearest(request: HttpRequest, text: str) -> list[dict[str, Any]]:
    """The threads of the series that are written most like a text, the likest first."""
    return [vars(row) for row in nearest_threads(text[:60], 12)]


@router.get("/measured", response={200: list[CandidateOut], 422: Problems}, auth=MEMBER)
def measured_(
    request: HttpRequest,
    diameter: float,
    pitch: float,
    side: Side = "external",
    diameter_error: float = 0.1,
    pitch_error: float = 0.02,
) -> list[dict[str, Any]]:
    """The threads that a measured one may be, the most probable first; diameter, pitch and the errors of both
    readings (19 times of 20) in mm."""
    for name, value in (
        ("diameter", diameter),
        ("pitch", pitch),
        ("diameter_error", diameter_error),
        ("pitch_error", pitch_error),
    ):
        least = 1e-4 if name.endswith("error") else 0.01
        if not least <= value <= 1000:
            words = name.replace("_", " ")
            raise RecipeError(
                Problem(f"/{name}", f"a {words} of {value:g} mm is out of range", "measure again")
            )
    found = measured(diameter, pitch, side, 12, diameter_error, pitch_error)
    return [_candidate(one) for one in found]


@router.post("/judged", response={200: Judgement, 422: Problems}, auth=MEMBER)
def judged(request: HttpRequest, made: Body[MadeThread]) -> Judgement:
    """A made thread as it was measured, mm and degrees, against its limits: those of its class, or the
    recipe's own."""
    return judgement(make_part(made.recipe).thread, made.side, made.readings)


@router.post("/check", response={200: ThreadReportOut, 422: Problems}, auth=MEMBER)
def check(request: HttpRequest, recipe: Body[ThreadRecipe], remedies: bool = True) -> dict[str, Any]:
    """Figures and checks of a threaded part; `remedies=false` leaves the search for remedies out."""
    part = make_part(recipe)
    return {**said(reported(request, part, remedies)), "thread": thread_view(part)}


def _candidate(found: Candidate) -> dict[str, Any]:
    return {
        **vars(found.row),
        "diameter_off": found.diameter_off,
        "pitch_off": found.pitch_off,
        "off": found.off,
        "probable": found.probable,
    }
