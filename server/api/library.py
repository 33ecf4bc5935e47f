"""The library: thread forms of one's own, and fits that were found by printing, kept for many designs."""

from __future__ import annotations

import uuid

from django.http import HttpRequest
from library import services
from library.models import PrintedFit, ThreadForm
from ninja import Router, Status
from people.access import asker
from people.permissions import MAKER, MEMBER, OwnFit, OwnForm

from api.schemas import FitIn, FitOut, FormIn, FormOut, Problems

router = Router()


@router.get("/forms", response=list[FormOut], auth=MEMBER)
def forms(request: HttpRequest) -> list[ThreadForm]:
    """Every thread form that is kept, by name."""
    return services.forms()


@router.post("/forms", response={201: FormOut, 422: Problems}, auth=MAKER)
def keep(request: HttpRequest, body: FormIn) -> Status[ThreadForm]:
    """Keep a form under a name; one of that name is put in its place. It must make a thread by itself, so
    without variables."""
    return Status(201, services.keep_form(body.name, body.unit, body.thread, asker(request)))


@router.delete("/forms/{uuid:form_id}", response={204: None, 404: Problems}, auth=OwnForm(changes=True))
def take_out(request: HttpRequest, form_id: uuid.UUID) -> Status[None]:
    """Take a form out of the library; designs that use it keep it."""
    services.take_out(form_id)
    return Status(204, None)


@router.get("/fits", response=list[FitOut], auth=MEMBER)
def fits(request: HttpRequest) -> list[PrintedFit]:
    """Every fit that is kept, by printer and material."""
    return services.fits()


@router.post("/fits", response={201: FitOut, 422: Problems}, auth=MAKER)
def keep_fit(request: HttpRequest, body: FitIn) -> Status[PrintedFit]:
    """Keep the allowance with which threads of a material fit as a printer makes them, mm."""
    return Status(201, services.keep_fit(body.printer, body.material, body.allowance, asker(request)))


@router.delete("/fits/{uuid:fit_id}", response={204: None, 404: Problems}, auth=OwnFit(changes=True))
def take_fit_out(request: HttpRequest, fit_id: uuid.UUID) -> Status[None]:
    """Take a fit out of the library."""
    services.take_fit_out(fit_id)
    return Status(204, None)
