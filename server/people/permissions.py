"""What a route asks of whoever calls it. Each route of the API declares one of these rules as its `auth`; a
route that declares none is closed. Without a team nobody is asked."""

from __future__ import annotations

from dataclasses import dataclass, field
from typing import Any

from builds.models import Build
from django.conf import settings
from django.contrib.auth.models import User
from django.core.exceptions import ObjectDoesNotExist
from django.http import HttpRequest
from jobs.models import find_job
from library.models import PrintedFit, ThreadForm

from people.access import allowed, person_of
from people.models import Role


class Refused(Exception):
    """A request that is not answered: its status, why, and what to do."""

    def __init__(self, status: int, reason: str, remedy: str) -> None:
        super().__init__(reason)
        self.status, self.reason, self.remedy = status, reason, remedy


def nothing() -> Refused:
    """The answer about what is not there, or not for the asker's eyes."""
    return Refused(404, "there is no such thing here", "go back to the shelf")


def closed(request: HttpRequest) -> bool:
    """The rule of a route that declares none: nobody may call it."""
    raise Refused(403, "this address is closed", "use one that the API's description names")


@dataclass(frozen=True)
class Rule:
    """Somebody of the team; `changes` says that the route changes what is kept, `recorded` that a call is
    written down even where it changes nothing, and `arguments` which arguments of the address the rule knows
    how to judge."""

    changes: bool = False
    recorded: bool = False
    arguments: frozenset[str] = field(default=frozenset())

    def __call__(self, request: HttpRequest) -> bool:
        """True where the request may be answered; raises Refused where not."""
        request.rule = self  # type: ignore[attr-defined]
        if not settings.TEAM:
            return True
        person = person_of(request)
        if person is None:
            raise Refused(401, "nobody is signed in", "sign in, or send a token")
        token = getattr(request, "token", None)
        if self.changes and token is not None and not token.may_edit:
            raise Refused(403, "this token may only read", "use a token that may edit")
        match = request.resolver_match
        given = match.kwargs if match is not None else {}
        if not self.arguments.issuperset(given):
            return closed(request)
        try:
            self.demand(request, person, given)
        except ObjectDoesNotExist:
            raise nothing() from None
        return True

    def demand(self, request: HttpRequest, person: User, given: dict[str, Any]) -> None:
        """Raise Refused, or DoesNotExist, where this person may not."""


@dataclass(frozen=True)
class Anybody(Rule):
    """Whoever calls, signed in or not."""

    def __call__(self, request: HttpRequest) -> bool:
        request.rule = self  # type: ignore[attr-defined]
        return True


@dataclass(frozen=True)
class InPerson(Rule):
    """Somebody who signed in at a browser; no token will do."""

    def demand(self, request: HttpRequest, person: User, given: dict[str, Any]) -> None:
        if getattr(request, "token", None) is not None:
            raise Refused(403, "a token cannot do that", "sign in at a browser")


@dataclass(frozen=True)
class InDesign(Rule):
    """Somebody whose role in the design of the address is enough."""

    role: Role = Role.READ
    arguments: frozenset[str] = frozenset({"design_id", "number"})

    def demand(self, request: HttpRequest, person: User, given: dict[str, Any]) -> None:
        design = given["design_id"]
        if not allowed(person, design, Role.READ):
            raise nothing()
        request.design = design  # type: ignore[attr-defined]
        if not allowed(person, design, self.role):
            raise Refused(403, "your role in this design does not allow that", "ask its owner")


@dataclass(frozen=True)
class OfJob(InDesign):
    """Whoever asked for the job of the address; and of a build, somebody whose role in its design is
    enough."""

    arguments: frozenset[str] = frozenset({"job_id", "suffix"})

    def demand(self, request: HttpRequest, person: User, given: dict[str, Any]) -> None:
        job = find_job(given["job_id"])
        if isinstance(job, Build):
            super().demand(request, person, {"design_id": job.revision.design_id})
        elif job.asked_by != str(person.pk):
            raise nothing()


@dataclass(frozen=True)
class OwnForm(Rule):
    """Whoever put the thread form of the address into the library."""

    arguments: frozenset[str] = frozenset({"form_id"})

    def demand(self, request: HttpRequest, person: User, given: dict[str, Any]) -> None:
        _demand_made_by(person, ThreadForm.objects.get(pk=given["form_id"]).made_by)


@dataclass(frozen=True)
class OwnFit(Rule):
    """Whoever put the fit of the address into the library."""

    arguments: frozenset[str] = frozenset({"fit_id"})

    def demand(self, request: HttpRequest, person: User, given: dict[str, Any]) -> None:
        _demand_made_by(person, PrintedFit.objects.get(pk=given["fit_id"]).made_by)


def _demand_made_by(person: User, maker: str) -> None:
    if maker != str(person.pk):
        raise Refused(403, "this was put here by somebody else", "ask whoever did")


MEMBER = Rule()
MAKER = Rule(changes=True)
READER = InDesign()
EDITOR = InDesign(changes=True, role=Role.EDIT)
OWNER = InDesign(changes=True, role=Role.OWN)
