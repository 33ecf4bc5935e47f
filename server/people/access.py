"""What a person may do. In the default mode there is nobody to ask for, and everything is allowed."""

from __future__ import annotations

import hashlib
import secrets
import uuid
from collections import defaultdict
from datetime import timedelta

from designs.models import Design
from django.conf import settings
from django.contrib.auth import SESSION_KEY, get_user_model
from django.contrib.auth.models import User
from django.contrib.auth.password_validation import validate_password
from django.contrib.sessions.models import Session
from django.core.exceptions import ValidationError
from django.db import transaction
from django.db.models import QuerySet
from django.http import HttpRequest
from django.utils import timezone
from metaspira.problems import Problem, RecipeError

from people.models import Deed, Role, Share, Token

_RANK = {Role.READ: 1, Role.EDIT: 2, Role.OWN: 3}
_PREFIX = "mtsp_"
_MOST_TOKENS = 50


def person_of(request: HttpRequest) -> User | None:
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
    return Design.objects.none() if person is None else Design.objects.filter(shares__person_id=person.pk)


def editable(request: HttpRequest) -> QuerySet[Design]:
    """The designs that whoever asks may change."""
    person = person_of(request)
    if not settings.TEAM:
        return Design.objects.all()
    if person is None:
        return Design.objects.none()
    theirs = Share.objects.filter(person_id=person.pk, role__in=(Role.EDIT, Role.OWN))
    return Design.objects.filter(pk__in=theirs.values("design"))


def own(request: HttpRequest, design_id: uuid.UUID) -> None:
    """Make a new design the asker's."""
    person = person_of(request)
    if person is not None:
        Share.objects.get_or_create(design_id=design_id, person_id=person.pk, defaults={"role": Role.OWN})


def write_down(request: HttpRequest, design_id: uuid.UUID | None, status: int = 200) -> None:
    """Write down what was asked for in team mode, by whom, or under what name, and of which design."""
    if not settings.TEAM:
        return
    person = person_of(request)
    Deed.objects.create(
        person=str(person) if person else getattr(request, "named", "")[:150],
        method=request.method or "",
        path=request.path_info[:200],
        design=design_id,
        status=status,
    )


def allowed(person: User, design_id: uuid.UUID, needed: Role) -> bool:
    """Whether a person's role in a design is enough."""
    share = Share.objects.filter(design_id=design_id, person_id=person.pk).first()
    return share is not None and _RANK[Role(share.role)] >= _RANK[needed]


def owners(designs: QuerySet[Design]) -> dict[uuid.UUID, list[str]]:
    """The names of those who own each of the designs, in team mode."""
    found: dict[uuid.UUID, list[str]] = defaultdict(list)
    if settings.TEAM:
        owned = Share.objects.filter(design__in=designs, role=Role.OWN).order_by("person__username")
        for design_id, name in owned.values_list("design_id", "person__username"):
            found[design_id].append(name)
    return found


def shares(design_id: uuid.UUID) -> list[Share]:
    """Who has which role in a design, by name."""
    return list(
        Share.objects.filter(design_id=design_id).select_related("person").order_by("person__username")
    )


def share(design_id: uuid.UUID, name: str, role: Role | None) -> list[Share]:
    """Give a person a role in a design, or none. Raises RecipeError where there is no such person, or where
    nobody would own it."""
    person = get_user_model().objects.filter(username=name, is_active=True).first()
    if person is None:
        raise RecipeError(
            Problem(
                "/name", f"there is nobody called “{name[:60]}”", "write the name as it is signed in with"
            )
        )
    with transaction.atomic():
        if role is None:
            Share.objects.filter(design_id=design_id, person=person).delete()
        else:
            Share.objects.update_or_create(design_id=design_id, person=person, defaults={"role": role})
        if not Share.objects.filter(design_id=design_id, role=Role.OWN).exists():
            raise RecipeError(Problem("/role", "nobody would own this design", "give it another owner first"))
    return shares(design_id)


def leave(design_id: uuid.UUID, person: User) -> None:
    """Give up a role in a design. Raises RecipeError where nobody would own it."""
    share(design_id, person.get_username(), None)


def change_password(person: User, old: str, new: str) -> None:
    """Give a person a new password. Raises RecipeError where the old one is wrong or the new one too weak."""
    if not person.check_password(old):
        raise RecipeError(Problem("/old", "this is not the present password", "type it again"))
    try:
        validate_password(new, person)
    except ValidationError as error:
        raise RecipeError(Problem("/new", error.messages[0], "choose a longer, rarer one")) from None
    person.set_password(new)
    person.save(update_fields=("password",))


def other_sessions(request: HttpRequest) -> list[Session]:
    """The asker's sessions that are open, but this one."""
    person = person_of(request)
    if person is None:
        return []
    open_ = Session.objects.filter(expire_date__gt=timezone.now()).exclude(pk=request.session.session_key)
    return [one for one in open_ if one.get_decoded().get(SESSION_KEY) == str(person.pk)]


def new_token(person: User, name: str, may_edit: bool, days: int) -> tuple[Token, str]:
    """A token under a name, for some days, and its text, which is kept nowhere. Raises RecipeError."""
    if Token.objects.filter(person_id=person.pk).count() >= _MOST_TOKENS:
        raise RecipeError(Problem("", f"there are {_MOST_TOKENS} tokens already", "take one back first"))
    text = _PREFIX + secrets.token_urlsafe(32)
    return Token.objects.create(
        person_id=person.pk,
        name=name[:80] or "token",
        digest=_digest(text),
        may_edit=may_edit,
        expires=timezone.now() + timedelta(days=days),
    ), text


def bearer(header: str) -> Token | None:
    """The token that an Authorization header carries, if it is still good."""
    kind, _, text = header.partition(" ")
    if kind.lower() != "bearer" or not text.startswith(_PREFIX):
        return None
    good = Token.objects.filter(person__is_active=True, expires__gt=timezone.now())
    token = good.filter(digest=_digest(text)).select_related("person").first()
    if token is not None:
        Token.objects.filter(pk=token.pk).update(used=timezone.now())
    return token


def _digest(text: str) -> str:
    return hashlib.sha256(text.encode()).hexdigest()
