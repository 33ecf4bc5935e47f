"""Files as answers: always downloads."""

from __future__ import annotations

from typing import Any

from django.http import HttpResponse


def download(data: str | bytes, name: str, media: str) -> HttpResponse:
    """A file to keep under a name."""
    headers = {"Content-Disposition": f'attachment; filename="{name}"'}
    return HttpResponse(data, content_type=media, headers=headers)


def gives(description: str, *media: str) -> dict[str, Any]:
    """What the schema says of a call that answers with a file."""
    content: dict[str, Any] = {one: {} for one in media}
    return {"responses": {200: {"description": description, "content": content}}}
