"""The book of proof: figures held against published values and other libraries."""

from __future__ import annotations

from typing import Any

from django.http import HttpRequest
from metaspira.verification import STANDINGS
from metaspira.verification.record import about, recorded
from ninja import Router
from people.permissions import MEMBER

from api.schemas import ProofBookOut

router = Router()


@router.get("", response=ProofBookOut, auth=MEMBER)
def verification(request: HttpRequest, figure: str | None = None) -> dict[str, Any]:
    """Every row, or those that hold one figure by its key, as they were recorded with this version;
    `metaspira verify` calculates them anew."""
    return {"standings": STANDINGS, "families": about(figure) if figure else recorded()}
