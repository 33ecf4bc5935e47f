"""Files as answers: always downloads, each with the type of its suffix."""

from __future__ import annotations

from pathlib import PurePath
from typing import Any

from django.http import HttpResponse

TYPES = {
    ".csv": "text/csv",
    ".dxf": "image/vnd.dxf",
    ".html": "text/html",
    ".json": "application/json",
    ".pdf": "application/pdf",
    ".svg": "image/svg+xml",
    ".zip": "application/zip",
}


def download(data: str | bytes, name: str) -> HttpResponse:
    """A file to keep under a name."""
    headers = {"Content-Disposition": f'attachment; filename="{name}"'}
    return HttpResponse(data, content_type=TYPES[PurePath(name).suffix], headers=headers)


def gives(description: str, *suffixes: str) -> dict[str, Any]:
    """What the schema says of a call that answers with a file."""
    content: dict[str, Any] = {TYPES[suffix]: {} for suffix in suffixes}
    return {"responses": {200: {"description": description, "content": content}}}
