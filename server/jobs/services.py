"""What is done with jobs: handed to the workers, looked after, cancelled."""

from __future__ import annotations

import contextlib
import sqlite3
import uuid
from datetime import timedelta
from typing import Any, TypeVar

from django.conf import settings
from django.core.cache import cache
from django.utils import timezone
from huey.contrib.djhuey import HUEY
from metaspira.problems import Problem, RecipeError
from redis.exceptions import RedisError

from jobs import board
from jobs.files import drop
from jobs.models import Job, kinds_of_job

SILENT = timedelta(seconds=10)
"""A worker that gives no sign of life for so long is taken for lost."""

LOST = timedelta(seconds=60)
"""A job that waits for so long while the queue is empty was lost with the queue."""

MOST_ATTEMPTS = 3

_SWEPT, _SWEEP_SECONDS = "jobs-looked-after", 3

UNREACHABLE = (RedisError, sqlite3.Error, OSError)
UNREACHED = "the queue cannot be reached"
"""What is said of a job that is handed over as soon as the queue answers."""

_J = TypeVar("_J", bound=Job)


def start(job: _J) -> _J:
    """Hand a job to the workers, after those of people who have fewer under way. Raises RecipeError where
    this person has as many as may be."""
    job.turn = sum(1 for other in _under_way() if other.asked_by == job.asked_by)
    if job.turn >= settings.MOST_JOBS:
        raise RecipeError(
            Problem("", f"{job.turn} jobs of yours are under way", "wait until one has ended, or stop one")
        )
    job.attempt, job.beat_seen = 1, timezone.now()
    job.save()
    return _handed(job)


def place_of(job: Job) -> int | None:
    """How many jobs the workers take before this one, counted from 1, while it waits."""
    if job.state != Job.State.QUEUED or job.beat:
        return None
    waiting = [other for other in _under_way() if other.state == Job.State.QUEUED and not other.beat]
    mine = (job.turn, job.created)
    return 1 + sum(1 for other in waiting if (other.turn, other.created) < mine)


def _under_way() -> list[Job]:
    """All jobs that wait or run; every few seconds each is looked after, whoever asked for it."""
    if cache.add(_SWEPT, True, _SWEEP_SECONDS):
        for kind in kinds_of_job():
            for key in kind._default_manager.filter(state__in=Job.ACTIVE).values_list("pk", flat=True):
                looked_after(kind, key)
    light = ("turn", "created", "state", "beat", "asked_by")
    return [
        job
        for kind in kinds_of_job()
        for job in kind._default_manager.filter(state__in=Job.ACTIVE).only(*light)
    ]


def looked_after(kind: type[_J], key: uuid.UUID) -> _J:
    """The job of that key as it is now. Raises DoesNotExist."""
    return as_it_is(kind._default_manager.get(pk=key))


def as_it_is(job: _J) -> _J:
    """A job as it is now: what its worker told is written down, and where the worker was lost it is handed to
    another one, MOST_ATTEMPTS times at the most."""
    if job.state not in Job.ACTIVE:
        return job
    if job.step == UNREACHED:
        return _handed(job)
    try:
        return _asked_after(job)
    except UNREACHABLE:
        job.step = UNREACHED
        return job


def _asked_after(job: _J) -> _J:
    kind, key = type(job), job.pk
    end = board.ended(str(key))
    if end is not None:
        return _close(job, end)
    told = board.told_of(str(key))
    if told is not None and told.attempt == job.attempt and told.beat != job.beat:
        kind._default_manager.filter(pk=key, state__in=Job.ACTIVE).update(
            state=Job.State.RUNNING,
            beat=told.beat,
            beat_seen=timezone.now(),
            progress=told.progress,
            step=told.step,
        )
        job.refresh_from_db()
    elif _lost(job):
        return _again(job)
    return job


def shown_of(job: Job) -> dict[str, Any] | None:
    """What a job that runs has found until now, where it shows it."""
    if job.state != Job.State.RUNNING:
        return None
    with contextlib.suppress(*UNREACHABLE):
        return board.so_far(str(job.pk))
    return None


def forget(job: Job) -> None:
    """Take out a job that has ended, with its files."""
    for attempt in range(job.attempt + 1):
        drop(str(job.pk), attempt)
    with contextlib.suppress(*UNREACHABLE):
        board.clear(str(job.pk))
    job.delete()


def cancel(job: _J) -> _J:
    """Stop a job that waits or runs; one that is finished stays as it is."""
    with contextlib.suppress(*UNREACHABLE):
        board.want_cancel(str(job.pk))
    waiting = type(job)._default_manager.filter(pk=job.pk, state=Job.State.QUEUED, beat=0)
    waiting.update(state=Job.State.CANCELLED, step="cancelled", finished=timezone.now())
    return looked_after(type(job), job.pk)


def _handed(job: _J) -> _J:
    """The job in the queue; or where that cannot be reached, still to be handed over."""
    try:
        _hand_over(job)
        step = "waiting"
    except UNREACHABLE:
        step = UNREACHED
    if step != job.step:
        job.step = step
        type(job)._default_manager.filter(pk=job.pk, state=Job.State.QUEUED).update(
            step=step, beat_seen=timezone.now()
        )
    return job


def _lost(job: Job) -> bool:
    since = timezone.now() - (job.beat_seen or job.created)
    if job.beat:
        return since > SILENT
    return since > LOST and HUEY.pending_count() == 0


def _again(job: _J) -> _J:
    """Hand a job whose worker was lost to another one. Of several who find it lost one does."""
    if board.cancel_wanted(str(job.pk)):
        return _close(job, board.Ended(job.attempt, "cancelled", {}, ""))
    if job.attempt >= MOST_ATTEMPTS:
        error = f"its worker was stopped {job.attempt} times; try again with fewer turns"
        return _close(job, board.Ended(job.attempt, "failed", {}, error))
    mine = type(job)._default_manager.filter(pk=job.pk, attempt=job.attempt, state__in=Job.ACTIVE)
    taken = mine.update(attempt=job.attempt + 1, beat=0, beat_seen=timezone.now(), state=Job.State.QUEUED)
    job.refresh_from_db()
    if taken:
        _hand_over(job)
    return job


def _hand_over(job: Job) -> None:
    from jobs.tasks import run_job

    run_job(job.kind, str(job.pk), job.attempt, job.asked, priority=-job.turn)


def _close(job: _J, end: board.Ended) -> _J:
    open_ = type(job)._default_manager.filter(pk=job.pk, state__in=Job.ACTIVE)
    closed = open_.update(
        state=end.state,
        result=end.result,
        error=end.error,
        step={"done": "ready", "cancelled": "cancelled"}.get(end.state, job.step),
        finished=timezone.now(),
        **({"progress": 1.0} if end.state == "done" else {}),
    )
    if closed:
        for attempt in range(job.attempt + 1):
            if attempt != end.attempt or end.state != "done":
                drop(str(job.pk), attempt)
        board.file_away(str(job.pk), end)
    job.refresh_from_db()
    return job
