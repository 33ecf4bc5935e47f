"""The meshes of reference bodies, each kept once, however many revisions it stands in."""

from __future__ import annotations

from typing import Any

from django.db import transaction

from designs.models import Mesh, Revision
from designs.naming import digests_in, filled, named


def packed(recipe: dict[str, Any]) -> dict[str, Any]:
    """A recipe as it is kept; its meshes are kept too."""
    found: dict[str, dict[str, Any]] = {}
    kept = named(recipe, found)
    for digest, mesh in found.items():
        keep(digest, mesh)
    return kept


def keep(digest: str, mesh: dict[str, Any]) -> None:
    """Keep a mesh under its digest, if it is not kept yet."""
    if not Mesh.objects.filter(digest=digest).exists():
        Mesh.objects.bulk_create([Mesh(digest=digest, triangles=mesh)], ignore_conflicts=True)


def whole(kept: dict[str, Any]) -> dict[str, Any]:
    """A recipe as it was typed, with the triangles of its meshes."""
    known = dict(Mesh.objects.filter(digest__in=digests_in(kept)).values_list("digest", "triangles"))
    return filled(kept, known)


def sweep() -> int:
    """Take out the meshes that no revision names any more, and say how many."""
    with transaction.atomic():
        used: set[str] = set()
        for kept in Revision.objects.values_list("kept", flat=True).iterator():
            used |= digests_in(kept)
        count, _ = Mesh.objects.exclude(digest__in=used).delete()
    return count
