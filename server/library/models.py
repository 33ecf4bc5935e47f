"""What is kept to be used in many designs: thread forms of one's own, and fits found by printing."""

import uuid

from django.db import models


class ThreadForm(models.Model):
    """A thread form under a name: the keys `form`, `diameter`, `pitch` and `starts` of a recipe's thread, as
    they were typed, in `unit`; `made_by` a person of the team."""

    id = models.UUIDField(primary_key=True, default=uuid.uuid4, editable=False)
    name = models.CharField(max_length=120, unique=True)
    unit = models.CharField(max_length=2)
    thread = models.JSONField()
    made_by = models.CharField(max_length=40, default="")
    created = models.DateTimeField(auto_now_add=True)

    class Meta:
        ordering = ("name",)


class PrintedFit(models.Model):
    """The allowance, mm, with which threads of a material fit as a printer makes them, found by a fit ladder;
    `made_by` a person of the team."""

    id = models.UUIDField(primary_key=True, default=uuid.uuid4, editable=False)
    printer = models.CharField(max_length=120)
    material = models.CharField(max_length=120)
    allowance = models.FloatField()
    made_by = models.CharField(max_length=40, default="")
    created = models.DateTimeField(auto_now_add=True)

    class Meta:
        ordering = ("printer", "material")
        constraints = (models.UniqueConstraint(fields=("printer", "material"), name="one_fit_each"),)
