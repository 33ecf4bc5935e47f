"""Checks of threads. A new one is a function and a line in THREAD_CHECKS."""

from __future__ import annotations

from collections.abc import Callable

from metaspira.checks.check import Check, Window
from metaspira.checks.threads.ends import check_run_out, check_undercut
from metaspira.checks.threads.form import check_crest, check_print
from metaspira.checks.threads.host import check_wall
from metaspira.checks.threads.pair import check_clearance, check_height, check_length
from metaspira.threaded import ThreadedPart

THREAD_CHECKS: dict[str, Callable[[ThreadedPart, Window], Check]] = {
    "clearance": check_clearance,
    "engagement-height": check_height,
    "engagement-length": check_length,
    "wall": check_wall,
    "crest": check_crest,
    "run-out": check_run_out,
    "undercut": check_undercut,
    "print": check_print,
}

__all__ = ["THREAD_CHECKS"]
