"""Springs: the wires that are kept here, and the search for a spring that does what is wanted."""

from __future__ import annotations

from datetime import date
from typing import Any, Literal

from django.http import HttpRequest, HttpResponse
from metaspira.part import make_part
from metaspira.problems import Problem, RecipeError
from metaspira.recipe.model import Recipe
from metaspira.sheets import SHEETS
from metaspira.sheets.spring import spring_sheet
from metaspira.springs.compared import compared
from metaspira.springs.finding import Wish, find_springs
from metaspira.springs.wire import SpringWire, wires
from ninja import Body, Router
from people.permissions import MEMBER

from api.downloads import download, gives
from api.schemas import ComparedOut, FoundSpringsOut, Problems, WireOut

router = Router()


@router.get("/wires", response=list[WireOut], auth=MEMBER)
def spring_wires(request: HttpRequest) -> list[SpringWire]:
    """The spring wires that are kept here."""
    return list(wires().values())


@router.post("/find", response={200: FoundSpringsOut, 422: Problems}, auth=MEMBER)
def find(request: HttpRequest, wish: Body[Wish]) -> dict[str, Any]:
    """The compression springs that push with two forces at two lengths in a space, each with its recipe, the best
    first; or the one that is nearest to it."""
    answer = find_springs(wish)
    return {
        "free_length": answer.wish.free_length,
        "rate": answer.wish.rate,
        "springs": [{**vars(found), "recipe": found.recipe(answer.wish)} for found in answer.springs],
        "nearest": None
        if answer.nearest is None
        else {**vars(answer.nearest), "recipe": answer.nearest.recipe(answer.wish)},
    }


@router.post(
    "/sheet",
    response={422: Problems},
    openapi_extra=gives("The data sheet", ".html", ".pdf"),
    auth=MEMBER,
)
def sheet(
    request: HttpRequest, recipe: Body[Recipe], suffix: Literal[".html", ".pdf"] = ".pdf"
) -> HttpResponse:
    """The data sheet of a spring as a file to keep."""
    part = make_part(recipe)
    if part.spring is None:
        raise RecipeError(
            Problem(
                "/spring", "the recipe says nothing of a spring", "say on the bench how it is loaded"
            )
        )
    data = SHEETS[suffix](spring_sheet(part, date.today()))
    return download(data, f"data-sheet{suffix}")


@router.post("/beams", response={200: ComparedOut, 422: Problems}, auth=MEMBER)
def beams(request: HttpRequest, recipe: Body[Recipe]) -> dict[str, Any]:
    """Rate and stress of a spring beside its closed sums: by a finite-element model of beams, or by the elastica of
    a spiral's strip."""
    part = make_part(recipe)
    found = None if part.spring is None else compared(part.spring)
    if found is None:
        raise RecipeError(
            Problem(
                "/spring/kind",
                "a model stands beside the sums of single springs that push, of up to 60 turns, and of spirals",
                "compare one of those",
            )
        )
    return vars(found)
