"""Stateless calls on a recipe, for every keystroke: the part's mesh, and its figures and checks."""

from __future__ import annotations

from typing import Any

from django.http import HttpRequest, HttpResponse
from metaspira.formats.bodies import read_body
from metaspira.formats.curves import MOST_BYTES as MOST_CURVE
from metaspira.formats.curves import read_path
from metaspira.formats.drawing import MAX_BYTES, Drawing, read_drawing
from metaspira.formats.glb import preview_glb
from metaspira.formats.half_section import half_section
from metaspira.formats.outside import MOST_BYTES as MOST_BODY
from metaspira.numbers.shown import LengthUnit
from metaspira.outputs import made, outputs
from metaspira.parts import Part, make_part
from metaspira.parts.weight import weigh, weight_figures
from metaspira.problems import RecipeError
from metaspira.recipe.kinds import usual
from metaspira.recipe.model import AnyRecipe, Recipe, json_schema
from metaspira.recipe.sentences import sentences
from metaspira.recipe.units import in_unit
from metaspira.recipe.variables import renamed
from metaspira.references.asked import ReferenceBody
from metaspira.studies.fit_around import fitted
from metaspira.studies.inputs import Input, inputs_of
from metaspira.views.springs import spring_view
from metaspira.views.wound import (
    guides,
    point_bends,
    ribs,
    section_planes,
    slice_at,
    strip,
)
from ninja import Body, File, Form, Router
from ninja.files import UploadedFile
from people.permissions import MEMBER, Rule

from api.checking import reported, said
from api.downloads import download, gives
from api.schemas import (
    AroundWish,
    CurveOut,
    DrawingOut,
    NewVariableName,
    Problems,
    ReportOut,
    SliceOut,
    Weighed,
)
from api.uploads import sent

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
    auth=MEMBER,
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


@router.post("/check", response={200: ReportOut, 422: Problems}, auth=MEMBER)
def check(
    request: HttpRequest,
    recipe: Body[Recipe],
    remedies: bool = True,
) -> dict[str, Any]:
    """Figures and checks of a recipe; `remedies=false` leaves the search for remedies out."""
    part = make_part(recipe)
    report = reported(request, part, remedies)
    return {
        **said(report),
        "strip": strip(report),
        "section": section_planes(part),
        "ribs": ribs(part),
        "guides": guides(part),
        "points": point_bends(part),
        "spring": spring_view(part),
    }


@router.post("/slice", response={200: SliceOut, 422: Problems}, auth=MEMBER)
def slice_(request: HttpRequest, recipe: Body[Recipe], at: float) -> dict[str, Any]:
    """The cut through a part in the section's plane at a true length `at`, mm, with what is near it."""
    return slice_at(make_part(recipe), at)


@router.post("/drawing", response={200: DrawingOut, 422: Problems}, auth=MEMBER)
def drawing(request: HttpRequest, file: File[UploadedFile], unit: Form[str] = "") -> dict[str, Any]:
    """The loops of a DXF or SVG drawing, in mm, as a section takes them, and the outline of the body that
    the largest makes when it is turned. `unit` is that of a drawing which does not say its own."""
    found = read_drawing(*sent(file, MAX_BYTES)[:2], unit or None)
    loops = [loop.model_dump(mode="json") for loop in found.loops]
    return {
        "loops": loops,
        "faults": [vars(fault) for fault in found.faults],
        "plane": found.plane,
        **_turned(found),
    }


def _turned(found: Drawing) -> dict[str, Any]:
    try:
        return {"profile": half_section(found.loops)}
    except RecipeError as error:
        return {"profile_fault": error.problems[0].line()}


@router.post("/body", response={200: ReferenceBody, 422: Problems}, auth=MEMBER)
def body(request: HttpRequest, file: File[UploadedFile], unit: Form[str] = "") -> ReferenceBody:
    """A reference body from an STL, GLB, 3MF or STEP file, made light enough to stand in a recipe's
    `fit.bodies`. `unit` is that of a file which does not say its own."""
    data, suffix, name = sent(file, MOST_BODY)
    return read_body(data, suffix, unit or None, name)


@router.post("/curve", response={200: CurveOut, 422: Problems}, auth=MEMBER)
def curve(request: HttpRequest, file: File[UploadedFile], unit: Form[str] = "") -> dict[str, Any]:
    """A path through points, in mm, from a CSV table, a DXF or SVG drawing, or the edges of a STEP file.
    `unit` is that of a file which does not say its own."""
    found = read_path(*sent(file, MOST_CURVE)[:2], unit or None)
    return vars(found)


@router.post("/fit-around", response={200: dict[str, float], 422: Problems}, auth=MEMBER)
def fit_around(request: HttpRequest, wish: AroundWish) -> dict[str, float]:
    """The diameters, by JSON pointer, with which a coil keeps `air` mm to its reference bodies."""
    return fitted(make_part(wish.recipe), wish.air)


@router.post("/weigh", response={200: Weighed, 422: Problems}, auth=MEMBER)
def weight(request: HttpRequest, recipe: Body[AnyRecipe]) -> dict[str, Any]:
    """Mass, surface, box, centre of mass and inertia of a part."""
    found = weigh(make_part(recipe))
    return {**vars(found), "figures": weight_figures(found)}


@router.post(
    "/files/{str:key}",
    response={422: Problems},
    openapi_extra=gives("The file", *(one.media for one in outputs().values() if not one.built)),
    auth=Rule(arguments=frozenset({"key"})),
)
def file(request: HttpRequest, recipe: Body[AnyRecipe], key: str) -> HttpResponse:
    """A file of a part that needs no build, by its key, such as path.csv; the checks' answer lists all
    `outputs`."""
    output = made(key)
    data, _ = output.bytes_of(make_part(recipe))
    return download(data, key, output.media)


@router.post("/inputs", response={200: list[Input], 422: Problems}, auth=MEMBER)
def inputs(request: HttpRequest, recipe: Body[AnyRecipe]) -> list[Input]:
    """Every input of a recipe that holds a number, in the order of the recipe: what a survey can go over."""
    return list(inputs_of(make_part(recipe)).values())


@router.post("/rename", response={200: dict[str, Any], 422: Problems}, auth=MEMBER)
def rename(request: HttpRequest, wish: NewVariableName) -> dict[str, Any]:
    """The recipe with a variable renamed wherever it stands."""
    return renamed(wish.recipe, wish.old, wish.new)


@router.post("/words", response={200: dict[str, str], 422: Problems}, auth=MEMBER)
def words(request: HttpRequest, recipe: Body[AnyRecipe]) -> dict[str, str]:
    """A sentence for each step of the work, also of a recipe that makes no part."""
    return sentences(recipe)


@router.post("/converted", response={200: dict[str, Any], 422: Problems}, auth=MEMBER)
def converted(request: HttpRequest, unit: LengthUnit, recipe: Body[AnyRecipe]) -> dict[str, Any]:
    """The same recipe counted in another unit of length."""
    return in_unit(recipe.model_dump(mode="json", by_alias=True, exclude_unset=True), unit)


@router.get("/usual", response={200: dict[str, Any], 422: Problems}, auth=MEMBER)
def usual_(request: HttpRequest, name: str, size: float) -> dict[str, Any]:
    """A usual instance of a kind, by its name in the schema's `$defs`, about `size` across in a recipe's own
    unit."""
    return usual(name, size)


@router.get("/schema", response=dict[str, Any], auth=MEMBER)
def schema(request: HttpRequest) -> dict[str, Any]:
    """The JSON Schema of recipes."""
    return json_schema()
