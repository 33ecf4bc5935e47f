"""One attempt at a job, as a worker makes it."""

from __future__ import annotations

from typing import Any

from metaspira.outputs.building import BuildError
from metaspira.problems import Cancelled, Interrupted, RecipeError

from jobs import board
from jobs.board import Desk, Ended
from jobs.files import drop
from jobs.kinds import KINDS


def work(kind: str, key: str, attempt: int, asked: dict[str, Any]) -> None:
    """Do a job and tell what came of it; nothing where it has ended already, or where this worker is stopped,
    so that another one takes it up."""
    if board.ended(key) is not None:
        return
    desk = Desk(key, attempt)
    with desk.beating():
        try:
            end = _tried(kind, desk, asked)
        except Interrupted:
            drop(key, attempt)
            return
        if not board.end(key, end):
            drop(key, attempt)


def _tried(kind: str, desk: Desk, asked: dict[str, Any]) -> Ended:
    try:
        if desk.cancelled():
            raise Cancelled
        return Ended(desk.attempt, "done", KINDS[kind](asked, desk), "")
    except Cancelled:
        return Ended(desk.attempt, "cancelled", {}, "")
    except Interrupted:
        raise
    except (BuildError, RecipeError) as error:
        return Ended(desk.attempt, "failed", {}, str(error))
    except Exception as error:
        board.end(
            desk.key, Ended(desk.attempt, "failed", {}, f"an unexpected fault ({type(error).__name__})")
        )
        raise
