"""Verdicts of recipes, kept for a while: the bench has a recipe checked, and saves it soon after."""

from __future__ import annotations

import hashlib
import json
import time
from collections.abc import Iterator
from contextlib import contextmanager
from typing import Any

from django.core.cache import caches
from metaspira import __version__
from metaspira.checks import Report, verdict_of
from metaspira.parts import part_of
from metaspira.problems import RecipeError

UNUSABLE = "unusable"
UNKNOWN = "unknown"
"""Of a revision that came in with an archive and has not been looked at since."""

_SECONDS = 3600
_AT_MOST_WAITED = 10
_POLL_SECONDS = 0.02


def verdict_on(recipe: dict[str, Any]) -> tuple[str, float | None]:
    """The verdict on a recipe as typed, and its length of wire, mm."""
    key = _key(recipe)
    known: tuple[str, float | None] | None = caches["verdicts"].get(key)
    while known is None and caches["verdicts"].get(_being(key)):
        time.sleep(_POLL_SECONDS)
        known = caches["verdicts"].get(key)
    if known is None:
        try:
            known = verdict_of(part_of(recipe))
        except RecipeError:
            known = UNUSABLE, None
        caches["verdicts"].set(key, known, _SECONDS)
    return known


@contextmanager
def being_checked(recipe: dict[str, Any]) -> Iterator[None]:
    """Meanwhile a save of the recipe waits for the verdict rather than work it out beside."""
    being = _being(_key(recipe))
    caches["verdicts"].set(being, True, _AT_MOST_WAITED)
    try:
        yield
    finally:
        caches["verdicts"].delete(being)


def remember(recipe: dict[str, Any], report: Report) -> None:
    """Keep what a report says of a recipe as typed."""
    known = report.verdict, report.figures.get("wire_length")
    caches["verdicts"].set(_key(recipe), known, _SECONDS)


def _key(recipe: dict[str, Any]) -> str:
    text = json.dumps([__version__, recipe], sort_keys=True)
    return hashlib.sha256(text.encode()).hexdigest()


def _being(key: str) -> str:
    return f"{key}-being-checked"
