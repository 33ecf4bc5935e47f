"""What a person may do. In the default mode there is nobody to ask for, and everything is allowed."""

from __future__ import annotations

import hashlib
import secrets
import uuid
from typing import Any

from builds.models import Build
from designs.models import Design
from django.conf import settings
from django.contrib.auth import get_user_model
from django.contrib.auth.models import AbstractUser
from django.db import transaction
from django.db.models import QuerySet
from django.http import HttpRequest
from django.utils import timezone
from metaspira.problems import Problem, RecipeError
from surveys.models import RunThrough, Survey

from people.models import Role, Share, Token

_RANK = {Role.READ: 1, Role.EDIT: 2, Role.OWN: 3}
_PREFIX = "mtsp_"
_MOST_TOKENS = 50


def person_of(request: HttpRequest) -> AbstractUser | None:
    """Who is asking, in team mode."""
    return getattr(request, "person", None)


def asker(request: HttpRequest) -> str:
    """Who is asking, as a survey or a run keeps it; nobody in the default mode."""
    person = person_of(request)
    return "" if person is None else str(person.pk)


def visible(request: HttpRequest) -> QuerySet[Design]:
    """The designs that whoever asks may read."""
    person = person_of(request)
    if not settings.TEAM:
        return Design.objects.all()
    return (
        Design.objects.none() if person is None else Design.objects.filter(shares__person_id=person.pk)
    )


def own(request: HttpRequest, design_id: uuid.UUID) -> None:
    """Make a new design the asker's."""
    person = person_of(request)
    if person is not None:
        Share.objects.get_or_create(
            design_id=design_id, person_id=person.pk, defaults={"role": Role.OWN}
        )


def allowed(person: AbstractUser, design_id: uuid.UUID, needed: Role) -> bool:
    """Whether a person's role in a design is enough."""
    share = Share.objects.filter(design_id=design_id, person_id=person.pk).first()
    return share is not None and _RANK[Role(share.role)] >= _RANK[needed]


def design_behind(kwargs: dict[str, Any]) -> uuid.UUID | None:
    """The design that a request's address speaks of, by itself or by its build. Raises DoesNotExist."""
    if "build_id" in kwargs:
        build = Build.objects.select_related("revision").get(pk=kwargs["build_id"])
        return build.revision.design_id
    return kwargs.get("design_id")


def is_theirs(person: AbstractUser, kwargs: dict[str, Any]) -> bool:
    """Whether the survey or run that a request's address speaks of, if any, was asked for by this person. Raises DoesNotExist."""
    for name, kind in (("survey_id", Survey), ("run_id", RunThrough)):
        if name in kwargs:
            return kind._default_manager.get(pk=kwargs[name]).asked_by == str(person.pk)
    return True


def shares(design_id: uuid.UUID) -> list[Share]:
    """Who has which role in a design, by name."""
    return list(
        Share.objects.filter(design_id=design_id).select_related("person").order_by("person__username")
    )


def share(design_id: uuid.UUID, name: str, role: Role | None) -> list[Share]:
    """Give a person a role in a design, or none. Raises RecipeError where there is no such person, or where nobody would
    own it."""
    person = get_user_model().objects.filter(username=name, is_active=True).first()
    if person is None:
        raise RecipeError(Problem("/name", f"there is nobody called “{name[:60]}”", "write the name as it is signed in with"))  # fmt: skip
    with transaction.atomic():
        if role is None:
            Share.objects.filter(design_id=design_id, person=person).delete()
        else:
            Share.objects.update_or_create(design_id=design_id, person=person, defaults={"role": role})
        if not Share.objects.filter(design_id=design_id, role=Role.OWN).exists():
            raise RecipeError(
                Problem("/role", "nobody would own this design", "give it another owner first")
            )
    return shares(design_id)


def new_token(person: AbstractUser, name: str) -> tuple[Token, str]:
    """A token under a name, and its text, which is kept nowhere. Raises RecipeError."""
    if Token.objects.filter(person_id=person.pk).count() >= _MOST_TOKENS:
        raise RecipeError(
            Problem("", f"there are {_MOST_TOKENS} tokens already", "take one back first")
        )
    text = _PREFIX + secrets.token_urlsafe(32)
    return Token.objects.create(
        person_id=person.pk, name=name[:80] or "token", digest=_digest(text)
    ), text


def bearer(header: str) -> AbstractUser | None:
    """The person whose token an Authorization header carries."""
    kind, _, text = header.partition(" ")
    if kind.lower() != "bearer" or not text.startswith(_PREFIX):
        return None
    token = (
        Token.objects.filter(digest=_digest(text), person__is_active=True)
        .select_related("person")
        .first()
    )
    if token is None:
        return None
    Token.objects.filter(pk=token.pk).update(used=timezone.now())
    person: AbstractUser = token.person
    return person


def _digest(text: str) -> str:
    return hashlib.sha256(text.encode()).hexdigest()
