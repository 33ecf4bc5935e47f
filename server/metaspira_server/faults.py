"""What goes wrong in the machine, told in the API's shape: a database that is locked, full or read-only, a
queue that does not answer; and whatever nobody thought of."""

from __future__ import annotations

import errno
import logging
import sqlite3
import sys

from django.db import DatabaseError
from django.http import HttpRequest, JsonResponse
from people.middleware import refused

from metaspira_server.gate import Busy

_AGAIN = 5
_FULL = (507, "the disk is full", "make room on it; what you typed is kept here")
_BUSY = (503, "the database is busy", "it is tried again by itself")
_SHUT = (503, "the database cannot be written", "tell whoever runs Metaspira")
_READ_ONLY = (503, "the disk can only be read", "tell whoever runs Metaspira")
_UNTHOUGHT = (500, "something here failed that nobody thought of", "try it again, and report it")
_OF_SYSTEM = {errno.ENOSPC: _FULL, errno.EDQUOT: _FULL, errno.EROFS: _READ_ONLY}
_OF_SQLITE = {
    sqlite3.SQLITE_FULL: _FULL,
    sqlite3.SQLITE_BUSY: _BUSY,
    sqlite3.SQLITE_LOCKED: _BUSY,
    **dict.fromkeys(
        (sqlite3.SQLITE_READONLY, sqlite3.SQLITE_CANTOPEN, sqlite3.SQLITE_IOERR, sqlite3.SQLITE_PERM),
        _SHUT,
    ),
}


def told_of(fault: BaseException | None) -> tuple[int, str, str]:
    """The status, reason and remedy that a fault is told as: one of the machine, or of the program."""
    if isinstance(fault, OSError):
        return _OF_SYSTEM.get(fault.errno or 0, _UNTHOUGHT)
    if isinstance(fault, Busy):
        return _BUSY
    cause = getattr(fault, "__cause__", None)
    if isinstance(fault, DatabaseError) and isinstance(cause, sqlite3.Error):
        return _OF_SQLITE.get(getattr(cause, "sqlite_errorcode", 0) & 0xFF, _UNTHOUGHT)
    return _UNTHOUGHT


def failed(request: HttpRequest) -> JsonResponse:
    """Django's handler of what no view caught."""
    fault = sys.exc_info()[1]
    status, reason, remedy = told_of(fault)
    logging.getLogger(__name__).error("answered with %d", status, exc_info=fault)
    answer = refused(status, reason, remedy)
    if status != 500:
        answer["Retry-After"] = str(_AGAIN)
    return answer
