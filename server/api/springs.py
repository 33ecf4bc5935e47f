"""Springs: the wires that are kept here, and the search for a spring that does what is wanted."""

from __future__ import annotations

from typing import Any

from django.http import HttpRequest
from metaspira.springs.finding import Wish, find_springs
from metaspira.springs.wire import SpringWire, wires
from ninja import Body, Router

from api.schemas import FoundSpringsOut, Problems, WireOut

router = Router()


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
