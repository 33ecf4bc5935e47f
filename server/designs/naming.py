"""Recipes that name each mesh of a reference body by a digest, {"sha256": …}, in place of its triangles."""

from __future__ import annotations

import hashlib
import json
from collections.abc import Callable, Iterator
from typing import Any

_TRIANGLES, _NAMED = {"vertices", "faces"}, {"sha256"}


def named(recipe: dict[str, Any], found: dict[str, dict[str, Any]]) -> dict[str, Any]:
    """A recipe that names its meshes by digest; the meshes by digest go to `found`."""

    def name(mesh: dict[str, Any]) -> dict[str, Any]:
        digest = digest_of(mesh)
        found[digest] = mesh
        return {"sha256": digest}

    return _with_meshes(recipe, _TRIANGLES, name)


def filled(kept: dict[str, Any], known: dict[str, dict[str, Any]]) -> dict[str, Any]:
    """A kept recipe with the meshes that are known by digest; one that is not stays named."""
    return _with_meshes(kept, _NAMED, lambda mesh: known.get(mesh["sha256"], mesh))


def digests_in(kept: dict[str, Any]) -> set[str]:
    """The meshes that a kept recipe names."""
    return {body["mesh"]["sha256"] for body in _bodies(kept) if set(body["mesh"]) == _NAMED}


def digest_of(mesh: dict[str, Any]) -> str:
    return hashlib.sha256(json.dumps(mesh, sort_keys=True, separators=(",", ":")).encode()).hexdigest()


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
