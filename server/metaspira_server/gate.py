"""At most so many threads of a process wait for the database's one writer, so that some are always left for
readers."""

from __future__ import annotations

import re
import threading
from collections.abc import Callable
from typing import Any

from django.db import OperationalError
from django.db.backends.signals import connection_created
from django.dispatch import receiver

MOST_WAITING = 4
"""Of the six threads of a process (bin/web)."""

_WRITES = re.compile(r"\s*(BEGIN IMMEDIATE|INSERT|UPDATE|DELETE|REPLACE)", re.IGNORECASE)
_places = threading.BoundedSemaphore(MOST_WAITING)


class Busy(OperationalError):
    """As many writes wait as may."""


def passed(execute: Callable[..., Any], sql: str, params: Any, many: bool, context: Any) -> Any:
    """Run a statement; one that may have to wait for the writer only where a place to wait in is free. Raises
    Busy."""
    if context["connection"].in_atomic_block or not _WRITES.match(sql):
        return execute(sql, params, many, context)
    if not _places.acquire(blocking=False):
        raise Busy("the database is busy")
    try:
        return execute(sql, params, many, context)
    finally:
        _places.release()


@receiver(connection_created)
def put_up(connection: Any, **kwargs: Any) -> None:
    """Let all that a connection runs pass here."""
    if passed not in connection.execute_wrappers:
        connection.execute_wrappers.append(passed)
