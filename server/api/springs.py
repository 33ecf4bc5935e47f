"""Springs: the wires that are kept here, and the search for a spring that does what is wanted."""

from __future__ import annotations

from typing import Any

from django.http import HttpRequest
from metaspira.formats.readings import MOST_BYTES, read_readings
from metaspira.parts import make_part
from metaspira.problems import Problem, RecipeError
from metaspira.recipe.model import Recipe
from metaspira.springs.compared import Compared, compared
from metaspira.springs.exact import Exact, demand_exact, exact_of
from metaspira.springs.scatter import Scatter, scatter_of
from metaspira.springs.wire import SpringWire, wires
from metaspira.studies.find_spring import Wish, find_springs
from ninja import Body, File, Form, Router
from ninja.files import UploadedFile
from people.permissions import MEMBER

from api.schemas import FoundSpringsOut, Problems, WireOut

router = Router()


@router.get("/wires", response=list[WireOut], auth=MEMBER)
def spring_wires(request: HttpRequest) -> list[SpringWire]:
    """The spring wires that are kept here."""
    return list(wires().values())


@router.post("/find", response={200: FoundSpringsOut, 422: Problems}, auth=MEMBER)
def find(request: HttpRequest, wish: Body[Wish]) -> dict[str, Any]:
    """The springs that do what is wished, each with its recipe, the best first; or the one that is nearest to
    it, and which limits are in the way."""
    answer = find_springs(wish)
    return {**vars(answer), "rate": answer.wish.rate}


@router.post("/beams", response={200: Compared, 422: Problems}, auth=MEMBER)
def beams(request: HttpRequest, recipe: Body[Recipe]) -> dict[str, Any]:
    """Rate and stress of a spring beside its closed sums: by a finite-element model of beams, or by the
    elastica of a spiral's strip."""
    part = make_part(recipe)
    found = None if part.spring is None else compared(part.spring)
    if found is None:
        raise RecipeError(
            Problem(
                "/spring/kind",
                (
                    "a model stands beside the sums of single springs that push, of up to 60 turns, and "
                    "of spirals"
                ),
                "compare one of those",
            )
        )
    return vars(found)


@router.post("/exact", response={200: Exact, 422: Problems}, auth=MEMBER)
def exact(request: HttpRequest, recipe: Body[Recipe]) -> Exact:
    """Rate and greatest stresses of a spring that pushes, pulls or turns by the exact elasticity of its
    turns, and the stress over its section."""
    return exact_of(demand_exact(make_part(recipe).spring))


@router.post("/scatter", response={200: Scatter, 422: Problems}, auth=MEMBER)
def scatter(request: HttpRequest, recipe: Body[Recipe]) -> Scatter:
    """What the tolerances of a spring come to: rate, loads, stresses and solid length of the springs that are
    made, the share of them within limits, and what each tolerance costs."""
    return scatter_of(make_part(recipe).spring)


@router.post("/readings", response={200: list[list[float]], 422: Problems}, auth=MEMBER)
def readings(request: HttpRequest, file: File[UploadedFile], unit: Form[str] = "") -> list[list[float]]:
    """Readings of a made spring from a CSV table: length, mm, and force, N. `unit` are the units of one that
    does not tell its own, such as “mm N”."""
    return read_readings(file.read(MOST_BYTES + 1), unit or None)
