"""Requests from other sites are refused, and every answer tells the browser what it may load."""

from collections.abc import Callable
from urllib.parse import urlsplit

from django.http import HttpRequest, HttpResponseBase, JsonResponse

_POLICY = (
    "default-src 'self'; img-src 'self' data: blob:; style-src 'self' 'unsafe-inline'; "
    "connect-src 'self' blob: data:; frame-ancestors 'none'; base-uri 'none'; form-action 'self'"
)


def same_origin(
    get_response: Callable[[HttpRequest], HttpResponseBase],
) -> Callable[[HttpRequest], HttpResponseBase]:
    """Refuse a request that a page of another origin makes a browser send."""

    def middleware(request: HttpRequest) -> HttpResponseBase:
        origin = request.headers.get("Origin")
        if origin is not None and urlsplit(origin).netloc != request.get_host():
            problem = {
                "place": "",
                "reason": f"the request comes from another site ({origin[:100]})",
                "remedy": "use Metaspira's own address",
                "fix": None,
            }
            return JsonResponse({"problems": [problem]}, status=403)
        response = get_response(request)
        response.headers.setdefault("Content-Security-Policy", _POLICY)
        return response

    return middleware
