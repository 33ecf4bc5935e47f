"""Stateless calls on a recipe, for every keystroke: the part's mesh, and its figures and checks."""

from __future__ import annotations

from typing import Any

from django.http import HttpRequest, HttpResponse
from metaspira.checks import report_on
from metaspira.formats.glb import preview_glb
from metaspira.part import make_part
from metaspira.recipe.model import Recipe, json_schema
from metaspira.views import field_values, section_planes, strip
from ninja import Body, Router

from api.schemas import Problems, ReportOut

router = Router()

_GLB = "model/gltf-binary"


@router.post(
    "/preview",
    response={422: Problems},
    openapi_extra={
        "responses": {
            200: {
                "description": "The part as GLB, true length at each vertex",
                "content": {_GLB: {"schema": {"type": "string", "format": "binary"}}},
            }
        }
    },
)
def preview(request: HttpRequest, recipe: Body[Recipe]) -> HttpResponse:
    """The part's mesh as a GLB file."""
    return HttpResponse(preview_glb(make_part(recipe)), content_type=_GLB)


@router.post("/check", response={200: ReportOut, 422: Problems})
def check(
    request: HttpRequest,
    recipe: Body[Recipe],
    remedies: bool = True,
) -> dict[str, Any]:
    """Figures and checks of a recipe; `remedies=false` leaves the search for remedies out."""
    part = make_part(recipe)
    report = report_on(part, with_remedies=remedies)
    return {
        **report.as_dict(),
        "strip": strip(report),
        "section": section_planes(part),
        "values": field_values(part),
    }


@router.get("/schema", response=dict[str, Any])
def schema(request: HttpRequest) -> dict[str, Any]:
    """The JSON Schema of recipes."""
    return json_schema()
