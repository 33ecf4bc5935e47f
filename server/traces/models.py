"""Traces of scanned bodies: being followed back to a recipe, and what was found."""

from typing import Any

from django.db import models
from jobs.models import Job


class Trace(Job):
    """A trace of the stored `surface`, of a body that is called `name`; its result is the core's, as JSON."""

    kind = "trace"

    LONGEST_NAME = 120

    name = models.CharField(max_length=LONGEST_NAME)
    surface = models.CharField(max_length=200)

    @property
    def asked(self) -> dict[str, Any]:
        return {"name": self.name, "surface": self.surface}
