"""What goes wrong in the machine, told in the API's shape: a database that is locked, full or read-only, a queue that does
not answer; and whatever nobody thought of."""

from __future__ import annotations

import errno
import logging
import sqlite3
import sys

from django.db import DatabaseError
from django.http import HttpRequest, JsonResponse
from metaspira.problems import Problem

_AGAIN = 5


def told_of(fault: BaseException | None) -> tuple[int, Problem] | None:
    """The status and the problem that a fault of the machine is told as; None for a fault of the program."""
    cause = getattr(fault, "__cause__", None)
    if isinstance(fault, OSError) and fault.errno in (errno.ENOSPC, errno.EDQUOT):
        return 507, Problem("", "the disk is full", "make room on it; what you typed is kept here")
    if isinstance(fault, OSError) and fault.errno == errno.EROFS:
        return 503, Problem("", "the disk can only be read", "tell whoever runs Metaspira")
    if not isinstance(fault, DatabaseError) or not isinstance(cause, sqlite3.Error):
        return None
    code = getattr(cause, "sqlite_errorcode", 0) & 0xFF
    if code == sqlite3.SQLITE_FULL:
        return 507, Problem("", "the disk is full", "make room on it; what you typed is kept here")
    if code in (sqlite3.SQLITE_BUSY, sqlite3.SQLITE_LOCKED):
        return 503, Problem("", "the database is busy", "it is tried again by itself")
    if code in (sqlite3.SQLITE_READONLY, sqlite3.SQLITE_CANTOPEN, sqlite3.SQLITE_IOERR, sqlite3.SQLITE_PERM):  # fmt: skip
        return 503, Problem("", "the database cannot be written", "tell whoever runs Metaspira")
    return None


def answer_to(fault: BaseException | None) -> JsonResponse:
    """The refusal that a fault is answered with."""
    status, problem = told_of(fault) or (
        500,
        Problem("", "something here failed that nobody thought of", "try it again, and report it"),
    )
    logging.getLogger(__name__).error("answered with %d", status, exc_info=fault)
    headers = {"Retry-After": str(_AGAIN)} if status in (503, 507) else {}
    return JsonResponse({"problems": [problem.as_dict()]}, status=status, headers=headers)


def failed(request: HttpRequest) -> JsonResponse:
    """Django's handler of what no view caught."""
    return answer_to(sys.exc_info()[1])
