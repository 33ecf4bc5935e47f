"""Surveys, inputs of a recipe over a range, and run-throughs, inputs that move over time: being tried, and
what was found."""

from io import BytesIO
from typing import IO, Any

from django.db import models
from jobs.files import file_stem
from jobs.models import Job
from metaspira.studies.survey import Survey as Found
from metaspira.studies.survey import csv_of


class Survey(Job):
    """A survey of a recipe over one or two inputs; its result is the core's, as JSON."""

    kind = "survey"

    recipe = models.JSONField()
    over = models.JSONField()
    exact = models.BooleanField(default=False)

    @property
    def title(self) -> str:
        return f"{file_stem(str(self.recipe.get('name', '')))}-survey"

    @property
    def asked(self) -> dict[str, Any]:
        return {"recipe": self.recipe, "over": self.over, "exact": self.exact}

    def open_file(self, suffix: str) -> IO[bytes]:
        if suffix != ".csv" or self.state != Job.State.DONE:
            raise KeyError(suffix)
        return BytesIO(csv_of(Found.from_dict(self.result)).encode())


class RunThrough(Job):
    """A run of a recipe through `tracks`; its result holds the core's `run`, as JSON, and the stored
    `files`."""

    kind = "run"

    recipe = models.JSONField()
    tracks = models.JSONField()
    frames = models.PositiveIntegerField()
    seconds = models.FloatField()

    @property
    def title(self) -> str:
        return f"{file_stem(str(self.recipe.get('name', '')))}-run-through"

    @property
    def asked(self) -> dict[str, Any]:
        return {
            "recipe": self.recipe,
            "tracks": self.tracks,
            "frames": self.frames,
            "seconds": self.seconds,
        }
