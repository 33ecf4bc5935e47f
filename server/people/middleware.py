"""In team mode every request under /api/ is of somebody: signed in, or with a token; allowed by their role; not too many of
them; and what changes anything is written down."""

from __future__ import annotations

import hashlib
import time
from collections.abc import Callable
from typing import Any

from django.conf import settings
from django.core.cache import caches
from django.core.exceptions import ObjectDoesNotExist
from django.http import HttpRequest, HttpResponse, HttpResponseBase, JsonResponse
from django.middleware.csrf import CsrfViewMiddleware
from metaspira.problems import Problem

from people.access import allowed, bearer, design_behind, is_theirs
from people.models import Deed, Role

_READING = ("GET", "HEAD", "OPTIONS")
_OPEN = "/api/session"
_OWNERS = ("delete", "restore", "share")


def refused(status: int, reason: str, remedy: str) -> JsonResponse:
    """A refusal in the API's shape."""
    return JsonResponse({"problems": [Problem("", reason, remedy).as_dict()]}, status=status)


def _nothing() -> JsonResponse:
    return refused(404, "there is no such thing here", "go back to the shelf")


class TeamMiddleware:
    """Asks who, whether, and how often; writes down what."""

    def __init__(self, get_response: Callable[[HttpRequest], HttpResponseBase]) -> None:
        self.get_response = get_response

    def __call__(self, request: HttpRequest) -> HttpResponseBase:
        if not settings.TEAM or not request.path.startswith("/api/"):
            return self.get_response(request)
        person = bearer(request.headers.get("Authorization", ""))
        request.by_token = person is not None  # type: ignore[attr-defined]
        if person is None and request.user.is_authenticated:
            person = request.user
        request.person = person  # type: ignore[attr-defined]
        if too_many(f"person {person.pk}" if person else f"address {_address(request)}"):
            return refused(429, "there are too many requests", "wait a minute")
        if person is None and not request.path.startswith(_OPEN):
            return refused(401, "nobody is signed in", "sign in, or send a token")
        response = self.get_response(request)
        if person is not None and request.method not in _READING:
            _write_down(request, response, str(person))
        return response

    def process_view(
        self, request: HttpRequest, view: Any, args: Any, kwargs: dict[str, Any]
    ) -> HttpResponseBase | None:
        if not settings.TEAM or not request.path.startswith("/api/"):
            return None
        if request.method not in _READING and not request.by_token:  # type: ignore[attr-defined]
            foreign = CsrfViewMiddleware(lambda _: HttpResponse()).process_view(
                request, _checked, (), {}
            )
            if foreign is not None:
                return refused(
                    403, "the request does not carry this site's mark", "open the page again"
                )
        person = request.person  # type: ignore[attr-defined]
        if person is None:
            return None
        try:
            design = design_behind(kwargs)
            if not is_theirs(person, kwargs):
                return _nothing()
        except ObjectDoesNotExist:
            return _nothing()
        request.design = design  # type: ignore[attr-defined]
        if design is None or allowed(person, design, _needed(request)):
            return None
        if allowed(person, design, Role.READ):
            return refused(403, "your role in this design does not allow that", "ask its owner")
        return _nothing()


def _checked(request: HttpRequest) -> HttpResponseBase:
    """A view that asks for the mark against forged requests; it is never called."""
    raise NotImplementedError


def _needed(request: HttpRequest) -> Role:
    last = request.path.rstrip("/").rsplit("/", 1)[-1]
    if request.method in _READING or last == "copy":
        return Role.READ
    if request.method == "DELETE" or last in _OWNERS:
        return Role.OWN
    return Role.EDIT


def too_many(who: str, most: int | None = None) -> bool:
    """Count a request of somebody in this minute; True past what is allowed."""
    cache = caches["limits"]
    digest = hashlib.sha256(who.encode(errors="replace")).hexdigest()
    key = f"{digest}-{int(time.time() // 60)}"
    cache.add(key, 0, 120)
    return bool(cache.incr(key) > (settings.RATE if most is None else most))


def _address(request: HttpRequest) -> str:
    return str(request.META.get("REMOTE_ADDR", ""))


def _write_down(request: HttpRequest, response: HttpResponseBase, person: str) -> None:
    design = getattr(request, "design", None)
    if design is None and not request.path.startswith(
        ("/api/designs", "/api/shelf", "/api/library", "/api/tokens")
    ):
        return
    Deed.objects.create(
        person=person,
        method=request.method or "",
        path=request.path[:200],
        design=design,
        status=response.status_code,
    )
