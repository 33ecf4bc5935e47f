"""The public API. Its schema is at /api/openapi.json; every refusal has the shape of `Problems`."""

from __future__ import annotations

from collections.abc import Callable
from functools import cached_property, wraps
from http import HTTPStatus
from typing import Any

from designs.services import Conflict
from django.core.exceptions import ObjectDoesNotExist
from django.http import HttpRequest, HttpResponse
from metaspira import __version__
from metaspira.problems import Problem, RecipeError
from metaspira.recipe.reading import problems_of, read_json
from ninja import NinjaAPI
from ninja.errors import HttpError, ValidationError
from ninja.openapi.schema import OpenAPISchema
from ninja.parser import Parser
from people.permissions import MEMBER, Refused, closed, nothing

from api.comparing import router as comparing
from api.designs import router as designs
from api.jobs import router as jobs
from api.library import router as library
from api.parts import router as parts
from api.people import session, sharing, tokens
from api.shelf import router as shelf
from api.springs import router as springs
from api.starts import router as starts
from api.threads import router as threads
from api.verification import router as verification
from api.workshop import router as workshop

_BODY_NAMES = ("trial", "recipe", "body", "wish", "pair", "made")


class _Api(NinjaAPI):
    """The API, whose description is made once: it takes seconds."""

    @cached_property
    def _described(self) -> OpenAPISchema:
        return super().get_openapi_schema()

    def get_openapi_schema(
        self, *, path_prefix: str | None = None, path_params: dict[str, Any] | None = None
    ) -> OpenAPISchema:
        return self._described


class _StrictParser(Parser):
    """JSON as RFC 8259 has it: numbers that are finite, text that is Unicode, nesting that can be walked;
    kept beside the request, as `typed`."""

    def parse_body(self, request: HttpRequest) -> Any:
        request.typed = read_json(request.body)  # type: ignore[attr-defined]
        return request.typed  # type: ignore[attr-defined]


def for_members(view: Callable[..., HttpResponse]) -> Callable[..., HttpResponse]:
    """A view of the API's own description, which asks as the API does: in a team, for somebody of it."""

    @wraps(view)
    def shown(request: HttpRequest, *args: Any, **given: Any) -> HttpResponse:
        try:
            MEMBER(request)
        except Refused as error:
            return _refused(request, error)
        return view(request, *args, **given)

    return shown


api = _Api(
    title="Metaspira",
    version=__version__,
    docs_url=None,
    docs_decorator=for_members,
    auth=closed,
    parser=_StrictParser(),
)
api.add_router("/designs", designs, tags=["designs"])
api.add_router("/designs", sharing, tags=["people"])
api.add_router("/session", session, tags=["people"])
api.add_router("/tokens", tokens, tags=["people"])
api.add_router("/shelf", shelf, tags=["designs"])
api.add_router("/parts", parts, tags=["parts"])
api.add_router("/starts", starts, tags=["parts"])
api.add_router("/verification", verification, tags=["parts"])
api.add_router("/compare", comparing, tags=["compare"])
api.add_router("/springs", springs, tags=["springs"])
api.add_router("/threads", threads, tags=["threads"])
api.add_router("/library", library, tags=["library"])
api.add_router("/workshop", workshop, tags=["workshop"])
api.add_router("/jobs", jobs, tags=["jobs"])


def _refusal(request: HttpRequest, problems: list[Problem], status: int, **more: Any) -> HttpResponse:
    body = {"problems": [problem.as_dict() for problem in problems], **more}
    return api.create_response(request, body, status=status)


@api.exception_handler(RecipeError)
def _unusable(request: HttpRequest, error: RecipeError) -> HttpResponse:
    return _refusal(request, list(error.problems), HTTPStatus.UNPROCESSABLE_ENTITY)


@api.exception_handler(Refused)
def _refused(request: HttpRequest, error: Refused) -> HttpResponse:
    return _refusal(request, [Problem("", error.reason, error.remedy)], error.status)


@api.exception_handler(Conflict)
def _conflict(request: HttpRequest, error: Conflict) -> HttpResponse:
    problem = Problem(
        "",
        f"this design was saved from elsewhere; revision {error.head} is the newest",
        "take that one, or save yours as a new design",
    )
    return _refusal(request, [problem], HTTPStatus.CONFLICT, head=error.head)


@api.exception_handler(ObjectDoesNotExist)
def _missing(request: HttpRequest, error: ObjectDoesNotExist) -> HttpResponse:
    return _refused(request, nothing())


@api.exception_handler(HttpError)
def _http(request: HttpRequest, error: HttpError) -> HttpResponse:
    if isinstance(error.__cause__, RecipeError):
        return _unusable(request, error.__cause__)
    problem = Problem("", str(error).lower(), "send JSON as the API's schema says")
    return _refusal(request, [problem], error.status_code)


@api.exception_handler(ValidationError)
def _invalid(request: HttpRequest, error: ValidationError) -> HttpResponse:
    """pydantic's faults told as the command line tells them; a recipe's places start at the recipe."""
    body = getattr(request, "typed", None)
    stripped = []
    for fault in error.errors:
        where, *rest = fault["loc"]
        if where == "body" and rest and rest[0] in _BODY_NAMES:
            rest = rest[1:]
        stripped.append({"ctx": {}, "input": None, **fault, "loc": tuple(rest)})
    return _refusal(request, problems_of(stripped, body), HTTPStatus.UNPROCESSABLE_ENTITY)
