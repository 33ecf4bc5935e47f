"""Team mode: signing in, sharing, tokens, and what was changed. In the default mode there is nobody to sign
in."""

from __future__ import annotations

import uuid
from typing import Annotated, Any

from django.conf import settings
from django.contrib.auth import authenticate, login, logout, update_session_auth_hash
from django.http import HttpRequest
from django.middleware.csrf import get_token
from metaspira.problems import Problem, RecipeError
from metaspira.recipe.title_block import workshop_block
from ninja import Field, Router, Status
from people import access, guesses
from people.middleware import address_of
from people.models import Deed, Role, Token
from people.permissions import OWNER, READER, Anybody, InDesign, InPerson

from api.schemas import (
    DeedOut,
    NewPassword,
    NewToken,
    OtherSessions,
    Problems,
    SessionOut,
    SetShare,
    ShareOut,
    SignIn,
    TokenMade,
    TokenOut,
)

session = Router()
sharing = Router()
tokens = Router()


def _session(request: HttpRequest) -> dict[str, Any]:
    person = access.person_of(request)
    mark = get_token(request) if settings.TEAM else ""
    return {
        "team": settings.TEAM,
        "name": None if person is None else person.get_username(),
        "mark": mark,
        "workshop": workshop_block(),
    }


@session.get("", response=SessionOut, auth=Anybody())
def read(request: HttpRequest) -> dict[str, Any]:
    """Whether this is a team's Metaspira, who is signed in, and the mark to send as X-CSRFToken with every
    change."""
    return _session(request)


@session.post("", response={200: SessionOut, 401: Problems, 429: Problems}, auth=Anybody(recorded=True))
def sign_in(request: HttpRequest, body: SignIn) -> Any:
    """Sign in by name and password."""
    request.named = body.name  # type: ignore[attr-defined]
    if guesses.too_many(body.name, address_of(request)):
        return _refusal(429, "there were too many tries", "wait a minute")
    person = authenticate(request, username=body.name, password=body.password)
    if person is None:
        return _refusal(401, "name and password do not belong together", "try again")
    login(request, person)
    request.person = person  # type: ignore[attr-defined]
    return Status(200, _session(request))


@session.delete("", response={204: None}, auth=Anybody())
def sign_out(request: HttpRequest) -> Status[None]:
    """Sign out."""
    logout(request)
    return Status(204, None)


@session.put("/password", response={200: SessionOut, 422: Problems}, auth=InPerson(changes=True))
def change_password(request: HttpRequest, body: NewPassword) -> dict[str, Any]:
    """Change one's password; whoever is signed in with the old one elsewhere is signed out."""
    person = access.person_of(request)
    if person is not None:
        access.change_password(person, body.old, body.new)
        update_session_auth_hash(request, person)
    return _session(request)


@session.get("/others", response=OtherSessions, auth=InPerson())
def others(request: HttpRequest) -> dict[str, Any]:
    """How many other sessions of the asker are open."""
    return {"others": len(access.other_sessions(request))}


@session.delete("/others", response={204: None}, auth=InPerson(changes=True))
def end_others(request: HttpRequest) -> Status[None]:
    """Sign the asker out everywhere else."""
    for other in access.other_sessions(request):
        other.delete()
    return Status(204, None)


@sharing.get("/{uuid:design_id}/share", response={200: list[ShareOut], 404: Problems}, auth=READER)
def shares(request: HttpRequest, design_id: uuid.UUID) -> list[dict[str, Any]]:
    """Who has which role in a design."""
    return _told(access.shares(design_id))


@sharing.put(
    "/{uuid:design_id}/share", response={200: list[ShareOut], 404: Problems, 422: Problems}, auth=OWNER
)
def share(request: HttpRequest, design_id: uuid.UUID, body: SetShare) -> list[dict[str, Any]]:
    """Give a person a role in a design, or none."""
    return _told(access.share(design_id, body.name, None if body.role is None else Role(body.role)))


@sharing.delete(
    "/{uuid:design_id}/share",
    response={204: None, 404: Problems, 422: Problems},
    auth=InDesign(changes=True),
)
def leave(request: HttpRequest, design_id: uuid.UUID) -> Status[None]:
    """Give up one's role in a design; somebody has to own it still."""
    person = access.person_of(request)
    if person is not None:
        access.leave(design_id, person)
    return Status(204, None)


@sharing.get("/{uuid:design_id}/deeds", response={200: list[DeedOut], 404: Problems}, auth=READER)
def deeds(
    request: HttpRequest,
    design_id: uuid.UUID,
    before: Annotated[int | None, Field(ge=1)] = None,
    limit: Annotated[int, Field(ge=1, le=200)] = 12,
) -> list[Deed]:
    """What was changed of a design and by whom, the latest first: `limit` deeds, from the one `before`
    another on."""
    found = Deed.objects.filter(design=design_id).order_by("-pk")
    return list((found if before is None else found.filter(pk__lt=before))[:limit])


@tokens.get("", response=list[TokenOut], auth=InPerson())
def listed(request: HttpRequest) -> list[Token]:
    """The tokens of whoever asks."""
    person = access.person_of(request)
    return [] if person is None else list(Token.objects.filter(person_id=person.pk))


@tokens.post("", response={201: TokenMade, 422: Problems}, auth=InPerson(changes=True))
def make(request: HttpRequest, body: NewToken) -> Status[TokenMade]:
    """A new token; its text is in this answer and nowhere else."""
    person = access.person_of(request)
    if person is None:
        raise RecipeError(Problem("", "without a team nobody needs a token", "leave it out"))
    token, text = access.new_token(person, body.name, body.may_edit, body.days)
    return Status(201, TokenMade(**TokenOut.from_orm(token).model_dump(), token=text))


@tokens.delete(
    "/{int:token_id}",
    response={204: None, 404: Problems},
    auth=InPerson(changes=True, arguments=frozenset({"token_id"})),
)
def take_back(request: HttpRequest, token_id: int) -> Status[None]:
    """Take a token back; who has it is signed out at once."""
    person = access.person_of(request)
    Token.objects.get(pk=token_id, person_id=None if person is None else person.pk).delete()
    return Status(204, None)


def _told(found: list[Any]) -> list[dict[str, Any]]:
    return [{"name": share.person.get_username(), "role": share.role} for share in found]


def _refusal(status: int, reason: str, remedy: str) -> Status[dict[str, Any]]:
    return Status(status, {"problems": [Problem("", reason, remedy).as_dict()]})
