"""Stateless calls on a recipe, for every keystroke: the part's mesh, and its figures and checks."""

from __future__ import annotations

from pathlib import PurePath
from typing import Any

from django.http import HttpRequest, HttpResponse
from metaspira.checks import report_on
from metaspira.formats.drawing import MAX_BYTES, read_drawing
from metaspira.formats.glb import preview_glb
from metaspira.part import Part, make_part
from metaspira.recipe.model import AnyRecipe, Recipe, json_schema
from metaspira.spring_views import spring_view
from metaspira.views import (
    field_values,
    guides,
    point_bends,
    ribs,
    section_planes,
    slice_at,
    strip,
)
from ninja import Body, File, Form, Router
from ninja.files import UploadedFile

from api.schemas import DrawingOut, Problems, ReportOut, SliceOut

router = Router()

_GLB = "model/gltf-binary"
_REMEDY_SECONDS = 4.0


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
def preview(
    request: HttpRequest,
    recipe: Body[AnyRecipe],
    chord_error: float | None = None,
    at: float | None = None,
) -> HttpResponse:
    """The part's mesh as a GLB file: as fine as looks smooth, or as it would be exported within
    `chord_error` mm. A spring is shown `at` a length, mm, or wound by an
    angle, degrees, as far as it goes."""
    part = make_part(recipe)
    if at is not None and isinstance(part, Part) and part.spring is not None:
        part = part.worked_to(at)
    return HttpResponse(preview_glb(part, chord_error), content_type=_GLB)


@router.post("/check", response={200: ReportOut, 422: Problems})
def check(
    request: HttpRequest,
    recipe: Body[Recipe],
    remedies: bool = True,
) -> dict[str, Any]:
    """Figures and checks of a recipe; `remedies=false` leaves the search for remedies out."""
    part = make_part(recipe)
    report = report_on(part, with_remedies=remedies, seconds=_REMEDY_SECONDS)
    return {
        **report.as_dict(),
        "strip": strip(report),
        "section": section_planes(part),
        "ribs": ribs(part),
        "guides": guides(part),
        "points": point_bends(part),
        "bodies": [body.name for body in part.bodies],
        "values": field_values(part),
        "spring": spring_view(part),
    }


@router.post("/slice", response={200: SliceOut, 422: Problems})
def slice_(request: HttpRequest, recipe: Body[Recipe], at: float) -> dict[str, Any]:
    """The cut through a part in the section's plane at a true length `at`, mm, with what is near it."""
    return slice_at(make_part(recipe), at)


@router.post("/drawing", response={200: DrawingOut, 422: Problems})
def drawing(request: HttpRequest, file: File[UploadedFile], unit: Form[str] = "") -> dict[str, Any]:
    """The loops of a DXF or SVG drawing, in mm, as a section or an outline takes them. `unit` is that of
    a drawing which does not say its own."""
    found = read_drawing(file.read(MAX_BYTES + 1), PurePath(file.name or "").suffix, unit or None)
    loops = [loop.model_dump(mode="json") for loop in found.loops]
    return {"loops": loops, "faults": [vars(fault) for fault in found.faults]}


@router.get("/schema", response=dict[str, Any])
def schema(request: HttpRequest) -> dict[str, Any]:
    """The JSON Schema of recipes."""
    return json_schema()
