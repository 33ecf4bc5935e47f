"""The API under /api/, and the application's page for every other address."""

from api import api, for_members
from api.reference import page as reference
from django.conf import settings
from django.http import FileResponse, HttpRequest, HttpResponse
from django.http.response import HttpResponseBase
from django.urls import path, re_path

from metaspira_server import health
from metaspira_server.admin import administration


def page(request: HttpRequest) -> HttpResponseBase:
    """The single page; its own router reads the address."""
    index = settings.WEB / "index.html"
    if not index.exists():
        return HttpResponse("The interface is not built: run bin/demo", status=503)
    return FileResponse(index.open("rb"), content_type="text/html")


handler500 = "metaspira_server.faults.failed"
urlpatterns = [
    path("api/reference", for_members(reference)),
    path("api/", api.urls),
    path("admin/", administration.urls),
    path("health/live", health.live),
    path("health/ready", health.ready),
    path("metrics", health.metrics),
    re_path(r"^(?!api/|assets/).*$", page),
]
