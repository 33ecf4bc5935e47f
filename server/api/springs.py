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
from metaspira.springs.compression import Compression
from metaspira.springs.finding import Wish, find_springs
from metaspira.springs.wire import SpringWire, wires
from ninja import Body, Router

from api.schemas import ComparedOut, FoundSpringsOut, Problems, WireOut

router = Router()

_TYPES = {".html": "text/html", ".pdf": "application/pdf"}


@router.get("/wires", response=list[WireOut])
def spring_wires(request: HttpRequest) -> list[SpringWire]:
    """The spring wires that are kept here."""
    return list(wires().values())


@router.post("/find", response={200: FoundSpringsOut, 422: Problems})
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
    openapi_extra={
        "responses": {
            200: {"description": "The data sheet", "content": {kind: {} for kind in _TYPES.values()}}
        }
    },
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
    headers = {"Content-Disposition": f'attachment; filename="data-sheet{suffix}"'}
    return HttpResponse(data, content_type=_TYPES[suffix], headers=headers)


@router.post("/beams", response={200: ComparedOut, 422: Problems})
def beams(request: HttpRequest, recipe: Body[Recipe]) -> dict[str, Any]:
    """Rate and stress of a spring by a finite-element model of beams, beside its closed sums."""
    part = make_part(recipe)
    if not isinstance(part.spring, Compression):
        raise RecipeError(
            Problem(
                "/spring/kind",
                "beams stand beside the sums of a compression spring",
                "compare one of those",
            )
        )
    if not part.spring.shape.round:
        raise RecipeError(
            Problem("/section/kind", "beams here are of round wire", "compare a round one")
        )
    found = compared(part.spring)
    if found is None:
        raise RecipeError(
            Problem(
                "/path/turns", "that many turns take beams too long", "compare a spring of fewer turns"
            )
        )
    return vars(found)
