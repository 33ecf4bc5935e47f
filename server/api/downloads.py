"""Files as answers: downloads, and small pictures that are kept."""

from __future__ import annotations

from collections.abc import Callable
from typing import Any

from django.core.cache import cache
from django.http import HttpResponse
from metaspira import __version__
from metaspira.formats.picture import picture
from metaspira.parts import part_of


def download(data: str | bytes, name: str, media: str) -> HttpResponse:
    """A file to keep under a name."""
    headers = {"Content-Disposition": f'attachment; filename="{name}"'}
    return HttpResponse(data, content_type=media, headers=headers)


def small_picture(key: str, recipe: Callable[[], dict[str, Any]]) -> HttpResponse:
    """A small picture (PNG) of a recipe, drawn once and kept under a key. Raises RecipeError where it makes
    no part."""
    return drawn_once(key, "image/png", lambda: picture(part_of(recipe())))


def drawn_once(key: str, media: str, draw: Callable[[], bytes]) -> HttpResponse:
    """What is drawn once and kept under a key, and what it is."""
    kept = f"drawn-{__version__}-{key}"
    image = cache.get(kept)
    if image is None:
        image = draw()
        cache.set(kept, image)
    headers = {"Cache-Control": "private, max-age=31536000, immutable"}
    return HttpResponse(image, content_type=media, headers=headers)


def gives(description: str, *media: str) -> dict[str, Any]:
    """What the schema says of a call that answers with a file."""
    content: dict[str, Any] = {one: {} for one in media}
    return {"responses": {200: {"description": description, "content": content}}}
