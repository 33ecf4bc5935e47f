"""Builds: solids being made of a revision, and what came of them."""

import uuid
from pathlib import Path

from designs.models import Revision
from django.conf import settings
from django.db import models

USUAL_FORMATS = (".step", ".stl", ".glb")


def usual_formats() -> list[str]:
    return list(USUAL_FORMATS)


class Build(models.Model):
    """One build of a revision in `formats` (suffixes), meshes within `chord_error` mm (null: the usual).
    `proofs` holds a proof for each file's suffix."""

    class State(models.TextChoices):
        QUEUED = "queued"
        RUNNING = "running"
        DONE = "done"
        FAILED = "failed"
        CANCELLED = "cancelled"

    id = models.UUIDField(primary_key=True, default=uuid.uuid4, editable=False)
    revision = models.ForeignKey(Revision, on_delete=models.CASCADE, related_name="builds")
    formats = models.JSONField(default=usual_formats)
    chord_error = models.FloatField(null=True, default=None)
    state = models.CharField(max_length=9, choices=State.choices, default=State.QUEUED)
    progress = models.FloatField(default=0.0)
    step = models.CharField(max_length=40, default="waiting")
    cancel_wanted = models.BooleanField(default=False)
    proofs = models.JSONField(default=dict)
    error = models.TextField(default="")
    created = models.DateTimeField(auto_now_add=True)
    finished = models.DateTimeField(null=True)

    class Meta:
        ordering = ("-created",)

    def file(self, suffix: str) -> Path:
        """Where the build's file of one format is kept."""
        folder: Path = settings.FILES / str(self.id)
        return folder / f"part{suffix}"
