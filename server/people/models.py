"""Who may do what with a design, tokens for programs, and what was changed by whom."""

from __future__ import annotations

from designs.models import Design
from django.conf import settings
from django.db import models


class Role(models.TextChoices):
    """Each may do what the one before it may."""

    READ = "read"
    EDIT = "edit"
    OWN = "own"


class Share(models.Model):
    """A person's role in a design; each design has at least one owner."""

    design = models.ForeignKey(Design, on_delete=models.CASCADE, related_name="shares")
    person = models.ForeignKey(settings.AUTH_USER_MODEL, on_delete=models.CASCADE, related_name="shares")
    role = models.CharField(max_length=4, choices=Role.choices)

    class Meta:
        constraints = (models.UniqueConstraint(fields=("design", "person"), name="one_role_a_person"),)


class Token(models.Model):
    """A token that a program signs in with; `digest` is SHA-256 of it, the token itself is shown once."""

    person = models.ForeignKey(settings.AUTH_USER_MODEL, on_delete=models.CASCADE, related_name="tokens")
    name = models.CharField(max_length=80)
    digest = models.CharField(max_length=64, unique=True)
    may_edit = models.BooleanField(default=False)
    created = models.DateTimeField(auto_now_add=True)
    expires = models.DateTimeField()
    used = models.DateTimeField(null=True)

    class Meta:
        ordering = ("-created",)


class SignInTry(models.Model):
    """A try to sign in: as whom, digested, and from where."""

    at = models.DateTimeField(auto_now_add=True, db_index=True)
    name = models.CharField(max_length=64)
    address = models.CharField(max_length=64)


class Deed(models.Model):
    """What was asked for: by whom, what, of which design, and how it was answered."""

    at = models.DateTimeField(auto_now_add=True)
    person = models.CharField(max_length=150)
    method = models.CharField(max_length=6)
    path = models.CharField(max_length=200)
    design = models.UUIDField(null=True)
    status = models.PositiveSmallIntegerField()

    class Meta:
        ordering = ("-at", "-id")
