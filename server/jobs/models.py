"""A job as the server keeps it: asked for, on its way, ended."""

import uuid
from typing import IO, Any

from django.apps import apps
from django.core.exceptions import ObjectDoesNotExist
from django.db import models

from jobs.files import kept


class Job(models.Model):
    """Work of one kind, `kind`, on what `asked` gives, for the person `asked_by` (nobody in the default
    mode). `turn` counts that person's jobs that were under way when it was asked for: the queue takes the
    lowest first. `attempt` counts how often it was handed to a worker; `beat` is the last sign of life of
    that one, and `beat_seen` when the server saw it."""

    class State(models.TextChoices):
        QUEUED = "queued"
        RUNNING = "running"
        DONE = "done"
        FAILED = "failed"
        CANCELLED = "cancelled"

    ACTIVE = (State.QUEUED, State.RUNNING)
    kind: str

    id = models.UUIDField(primary_key=True, default=uuid.uuid4, editable=False)
    asked_by = models.CharField(max_length=40, default="")
    turn = models.PositiveIntegerField(default=0)
    state = models.CharField(max_length=9, choices=State.choices, default=State.QUEUED)
    progress = models.FloatField(default=0.0)
    step = models.CharField(max_length=40, default="waiting")
    attempt = models.PositiveIntegerField(default=0)
    beat = models.PositiveIntegerField(default=0)
    beat_seen = models.DateTimeField(null=True)
    result = models.JSONField(default=dict)
    error = models.TextField(default="")
    created = models.DateTimeField(auto_now_add=True)
    finished = models.DateTimeField(null=True)

    class Meta:
        abstract = True
        ordering = ("-created",)

    @property
    def asked(self) -> dict[str, Any]:
        """All that a worker needs, as JSON."""
        raise NotImplementedError

    @property
    def title(self) -> str:
        """What its files are called."""
        return self.kind

    def open_file(self, suffix: str) -> IO[bytes]:
        """The file of one suffix that it gave. Raises KeyError where there is none."""
        return kept().open(self.result.get("files", {})[suffix])


def kinds_of_job() -> list[type[Job]]:
    """Every kind of job that the server keeps."""
    return [model for model in apps.get_models() if issubclass(model, Job)]


def find_job(key: uuid.UUID) -> Job:
    """The job of that key, of whatever kind. Raises DoesNotExist."""
    found = (kind._default_manager.filter(pk=key).first() for kind in kinds_of_job())
    job = next((one for one in found if one is not None), None)
    if job is None:
        raise ObjectDoesNotExist
    return job
