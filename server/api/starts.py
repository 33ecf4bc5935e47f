"""Starting points: what a new design may begin as."""

from __future__ import annotations

from typing import Any

from django.http import HttpRequest, HttpResponse
from metaspira.numbers.shown import LengthUnit
from metaspira.parts import part_of
from metaspira.recipe.units import in_unit
from metaspira.starting import starting_point, starting_points
from metaspira.studies.trace.sample import sample_scan
from ninja import Router
from people.permissions import MEMBER, Rule

from api.downloads import download, drawn_once, gives, small_picture
from api.schemas import Problems, StartOut

router = Router()

_NAMED = Rule(arguments=frozenset({"name"}))


@router.get("", response=list[StartOut], auth=MEMBER)
def starts(request: HttpRequest) -> list[Any]:
    """All of them, in the order in which they are offered."""
    return list(starting_points().values())


@router.get("/scan/sample", openapi_extra=gives("Triangles in millimetres", "model/stl"), auth=MEMBER)
def sample(request: HttpRequest) -> HttpResponse:
    """A made-up scan of a spring (STL, mm) to try tracing on."""
    return download(sample_scan(), "made-up-scan.stl", "model/stl")


@router.get("/{name}", response={200: dict[str, Any], 422: Problems}, auth=_NAMED)
def start(request: HttpRequest, name: str, unit: LengthUnit = "mm") -> dict[str, Any]:
    """The recipe of one, counted in a unit of length."""
    return in_unit(starting_point(name).recipe, unit)


@router.get("/{name}/picture", response={422: Problems}, auth=_NAMED)
def start_picture(request: HttpRequest, name: str) -> HttpResponse:
    """A small picture (PNG) of one."""
    found = starting_point(name)
    return small_picture(f"start-{name}", lambda: found.recipe)


@router.get("/{name}/drawing", response={422: Problems}, auth=_NAMED)
def start_drawing(request: HttpRequest, name: str) -> HttpResponse:
    """The main view (SVG) of one, with its dimensions."""
    found = starting_point(name)

    def draw() -> bytes:
        from metaspira.drawings import DRAWINGS
        from metaspira.drawings.kinds import plan_of
        from metaspira.drawings.picture import picture_of

        return DRAWINGS[".svg"](picture_of(plan_of(part_of(found.recipe))))

    return drawn_once(f"drawing-{name}", "image/svg+xml", draw)
