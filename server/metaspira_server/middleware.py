"""Requests from other sites, and too large ones, are refused; every answer tells the browser what it may
load."""

import logging
import time
from collections.abc import Callable
from urllib.parse import urlsplit

from django.conf import settings
from django.http import HttpRequest, HttpResponseBase
from django.middleware.gzip import GZipMiddleware
from people.middleware import refused

_POLICY = (
    "default-src 'self'; img-src 'self' data: blob:; style-src 'self' 'unsafe-inline'; "
    "connect-src 'self' blob: data:; frame-ancestors 'none'; base-uri 'none'; form-action 'self'"
)
_FORWARDING = (
    "HTTP_FORWARDED",
    "HTTP_SCRIPT_NAME",
    "HTTP_X_FORWARDED_FOR",
    "HTTP_X_FORWARDED_HOST",
    "HTTP_X_FORWARDED_PORT",
    "HTTP_X_FORWARDED_PROTO",
    "HTTP_X_REAL_IP",
)

_log = logging.getLogger("metaspira_server.requests")

Ask = Callable[[HttpRequest], HttpResponseBase]


def forwarded(get_response: Ask) -> Ask:
    """Believe what proxies named in the settings say of where a request comes from, and nobody else."""

    def middleware(request: HttpRequest) -> HttpResponseBase:
        told = request.META.get("HTTP_X_FORWARDED_FOR", "")
        believed = request.META.get("REMOTE_ADDR") in settings.PROXIES
        if believed and told:
            request.META["REMOTE_ADDR"] = told.rsplit(",", 1)[-1].strip()
        for name in _FORWARDING if not believed else ():
            request.META.pop(name, None)
        return get_response(request)

    return middleware


def told(get_response: Ask) -> Ask:
    """Tell the log of each request: how it was answered, how long it took, and who asked."""

    def middleware(request: HttpRequest) -> HttpResponseBase:
        start = time.perf_counter()
        response = get_response(request)
        person = getattr(request, "person", None)
        facts = {
            "method": request.method,
            "path": request.path_info[:200],
            "status": response.status_code,
            "milliseconds": round(1000 * (time.perf_counter() - start), 1),
            "person": None if person is None else str(person),
            "address": request.META.get("REMOTE_ADDR"),
        }
        _log.info("answered", extra=facts)
        return response

    return middleware if settings.LOGS else get_response


def same_origin(get_response: Ask) -> Ask:
    """Refuse a request that a page of another origin makes a browser send."""

    def middleware(request: HttpRequest) -> HttpResponseBase:
        origin = request.headers.get("Origin")
        if origin is not None and urlsplit(origin).netloc != request.get_host():
            reason = f"the request comes from another site ({origin[:100]})"
            return refused(403, reason, "use Metaspira's own address")
        response = get_response(request)
        response.headers.setdefault("Content-Security-Policy", _POLICY)
        return response

    return middleware


def bounded(get_response: Ask) -> Ask:
    """Refuse a request that sends too much, before it is read."""

    def middleware(request: HttpRequest) -> HttpResponseBase:
        told = request.headers.get("Content-Length") or "0"
        if told.isdecimal() and int(told) > settings.MOST_UPLOAD:
            return refused(413, f"more than {settings.MOST_UPLOAD} bytes are sent", "send less at once")
        return get_response(request)

    return middleware


class LocalPlainGZip(GZipMiddleware):
    """Packs answers, but not a preview for a browser on this machine: packing one takes three times as long
    as making it."""

    def process_response(self, request: HttpRequest, response: HttpResponseBase) -> HttpResponseBase:
        here = (
            request.META.get("REMOTE_ADDR") in ("127.0.0.1", "::1")
            and "X-Forwarded-For" not in request.headers
        )
        if here and response.get("Content-Type") == "model/gltf-binary":
            return response
        return super().process_response(request, response)
