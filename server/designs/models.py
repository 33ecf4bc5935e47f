"""Designs and their revisions. A revision is written once and never changed."""

import uuid
from functools import cached_property
from typing import Any

from django.db import models


class Design(models.Model):
    """One part, as saved. `head` is the number of its newest revision."""

    id = models.UUIDField(primary_key=True, default=uuid.uuid4, editable=False)
    name = models.CharField(max_length=120)
    head = models.PositiveIntegerField(default=0)
    created = models.DateTimeField(auto_now_add=True)
    updated = models.DateTimeField(auto_now=True)
    deleted = models.DateTimeField(null=True, default=None)

    class Meta:
        ordering = ("-updated",)

    @property
    def tag_names(self) -> list[str]:
        """The words that it is found by, in their order."""
        return [tag.name for tag in self.tags.all()]


class Tag(models.Model):
    """A word that a design is found by, whoever looks for it."""

    design = models.ForeignKey(Design, on_delete=models.CASCADE, related_name="tags")
    name = models.CharField(max_length=40)

    class Meta:
        ordering = ("name",)
        constraints = (models.UniqueConstraint(fields=("design", "name"), name="one_tag_a_name"),)


class Mesh(models.Model):
    """The triangles of a reference body, under the SHA-256 of their JSON."""

    digest = models.CharField(max_length=64, unique=True)
    triangles = models.JSONField()


class Revision(models.Model):
    """A design as it was typed at one time, with what was found of it; `kept` is its recipe, the meshes by
    their digests."""

    design = models.ForeignKey(Design, on_delete=models.CASCADE, related_name="revisions")
    number = models.PositiveIntegerField()
    kept = models.JSONField()
    verdict = models.CharField(max_length=8)
    wire_length = models.FloatField(null=True)
    created = models.DateTimeField(auto_now_add=True)

    class Meta:
        ordering = ("number",)
        constraints = (models.UniqueConstraint(fields=("design", "number"), name="one_revision_a_number"),)

    @cached_property
    def recipe(self) -> dict[str, Any]:
        """The recipe as it was typed."""
        from designs.meshes import whole

        return whole(self.kept)
