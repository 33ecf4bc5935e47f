"""The meshes of reference bodies, each kept once, however many revisions it stands in.

A kept recipe names each mesh by a digest, {"sha256": …}, in place of its triangles.
"""

from __future__ import annotations

import hashlib
import json
from collections.abc import Callable, Iterator
from typing import Any

from django.db import transaction

from designs.models import Mesh, Revision

_TRIANGLES, _NAMED = {"vertices", "faces"}, {"sha256"}


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


def named(recipe: dict[str, Any], found: dict[str, dict[str, Any]]) -> dict[str, Any]:
    """A recipe that names its meshes by digest; the meshes by digest go to `found`."""

    def name(mesh: dict[str, Any]) -> dict[str, Any]:
        digest = digest_of(mesh)
        found[digest] = mesh
        return {"sha256": digest}

    return _with_meshes(recipe, _TRIANGLES, name)


def whole(kept: dict[str, Any]) -> dict[str, Any]:
    """A recipe as it was typed, with the triangles of its meshes."""
    known = dict(Mesh.objects.filter(digest__in=digests_in(kept)).values_list("digest", "triangles"))
    return filled(kept, known)


def filled(kept: dict[str, Any], known: dict[str, dict[str, Any]]) -> dict[str, Any]:
    """A kept recipe with the meshes that are known by digest; one that is not stays named."""
    return _with_meshes(kept, _NAMED, lambda mesh: known.get(mesh["sha256"], mesh))


def digests_in(kept: dict[str, Any]) -> set[str]:
    """The meshes that a kept recipe names."""
    return {
        body["mesh"]["sha256"] for body in _bodies(kept) if set(body["mesh"]) == _NAMED
    }  # fmt: skip


def digest_of(mesh: dict[str, Any]) -> str:
    return hashlib.sha256(json.dumps(mesh, sort_keys=True, separators=(",", ":")).encode()).hexdigest()


def sweep() -> int:
    """Take out the meshes that no revision names any more, and say how many."""
    with transaction.atomic():
        used: set[str] = set()
        for kept in Revision.objects.values_list("kept", flat=True).iterator():
            used |= digests_in(kept)
        count, _ = Mesh.objects.exclude(digest__in=used).delete()
    return count


def _bodies(recipe: dict[str, Any]) -> Iterator[dict[str, Any]]:
    fit = recipe.get("fit")
    bodies = fit.get("bodies") if isinstance(fit, dict) else None
    for body in bodies if isinstance(bodies, list) else ():
        if isinstance(body, dict) and isinstance(body.get("mesh"), dict):
            yield body


def _with_meshes(
    recipe: dict[str, Any], keys: set[str], new: Callable[[dict[str, Any]], dict[str, Any]]
) -> dict[str, Any]:
    """The recipe, where it has meshes of just these keys with others in their place."""
    if not any(set(body["mesh"]) == keys for body in _bodies(recipe)):
        return recipe
    bodies = [
        {**body, "mesh": new(body["mesh"])}
        if isinstance(body, dict) and isinstance(body.get("mesh"), dict) and set(body["mesh"]) == keys
        else body
        for body in recipe["fit"]["bodies"]
    ]
    return {**recipe, "fit": {**recipe["fit"], "bodies": bodies}}
