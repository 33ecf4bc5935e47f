"""Designs and their revisions. A revision is written once and never changed."""

import uuid

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


class Revision(models.Model):
    """A design as it was typed at one time, with what was found of it."""

    design = models.ForeignKey(Design, on_delete=models.CASCADE, related_name="revisions")
    number = models.PositiveIntegerField()
    recipe = models.JSONField()
    verdict = models.CharField(max_length=8)
    wire_length = models.FloatField(null=True)
    created = models.DateTimeField(auto_now_add=True)

    class Meta:
        ordering = ("number",)
        constraints = (
            models.UniqueConstraint(fields=("design", "number"), name="one_revision_a_number"),
        )
