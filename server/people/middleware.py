"""In team mode a request is of somebody: signed in, or with a token; not too many of them; and what they do
is written down. Whether they may is asked by the rule that each route declares (people.permissions)."""

from __future__ import annotations

import math
from collections.abc import Callable
from typing import Any

from django.conf import settings
from django.http import HttpRequest, HttpResponse, HttpResponseBase, JsonResponse
from django.middleware.csrf import CsrfViewMiddleware
from metaspira.problems import Problem

from people.access import bearer, write_down
from people.limits import MinuteThrottle

_READING = ("GET", "HEAD", "OPTIONS")


def refused(status: int, reason: str, remedy: str) -> JsonResponse:
    """A refusal in the API's shape."""
    return JsonResponse({"problems": [Problem("", reason, remedy).as_dict()]}, status=status)


class TeamMiddleware:
    """Asks who, and how often; writes down what."""

    def __init__(self, get_response: Callable[[HttpRequest], HttpResponseBase]) -> None:
        self.get_response = get_response

    def __call__(self, request: HttpRequest) -> HttpResponseBase:
        if not settings.TEAM:
            return self.get_response(request)
        token = bearer(request.headers.get("Authorization", ""))
        person = token.person if token else request.user if request.user.is_authenticated else None
        request.token, request.person = token, person  # type: ignore[attr-defined]
        throttle = MinuteThrottle()
        if not throttle.allow_request(request):
            full = refused(429, "there are too many requests", "wait a minute")
            full["Retry-After"] = str(math.ceil(throttle.wait()))
            return full
        response = self.get_response(request)
        rule = getattr(request, "rule", None)
        if rule is not None and (rule.changes or rule.recorded):
            write_down(request, getattr(request, "design", None), response.status_code)
        return response

    def process_view(
        self, request: HttpRequest, view: Any, args: Any, kwargs: dict[str, Any]
    ) -> HttpResponseBase | None:
        if not settings.TEAM or request.method in _READING or request.token is not None:  # type: ignore[attr-defined]
            return None
        check = CsrfViewMiddleware(lambda _: HttpResponse())
        if check.process_view(request, _checked, (), {}) is None:
            return None
        return refused(403, "the request does not carry this site's mark", "open the page again")


def _checked(request: HttpRequest) -> HttpResponseBase:
    """A view that asks for the mark against forged requests; it is never called."""
    raise NotImplementedError


def address_of(request: HttpRequest) -> str:
    """The address that a request comes from."""
    return str(request.META.get("REMOTE_ADDR", ""))
