"""Builds: solids being made of a revision, and what came of them."""

from typing import Any

from designs.models import Revision
from django.db import models
from jobs.files import file_stem
from jobs.models import Job

USUAL_FORMATS = (".step", ".stl", ".glb")


def usual_formats() -> list[str]:
    return list(USUAL_FORMATS)


class Build(Job):
    """One build of a revision in `formats` (suffixes), meshes within `chord_error` mm (null: the usual). Its
    result holds by suffix the `proofs`, the stored `files` and their `sizes` in bytes."""

    kind = "build"

    revision = models.ForeignKey(Revision, on_delete=models.CASCADE, related_name="builds")
    formats = models.JSONField(default=usual_formats)
    chord_error = models.FloatField(null=True, default=None)

    @property
    def title(self) -> str:
        return file_stem(self.revision.design.name)

    @property
    def asked(self) -> dict[str, Any]:
        return {
            "recipe": self.revision.recipe,
            "formats": self.formats,
            "chord_error": self.chord_error,
        }
