"""Everything that a part can become, as one archive with a manifest: what each file is, its unit, its SHA-256
and what was measured on it."""

from __future__ import annotations

import hashlib
import json
import re
import zipfile
from pathlib import Path as FilePath
from tempfile import TemporaryDirectory
from typing import Any

from metaspira.outputs.output import Built, any_part
from metaspira.parts import AnyPart
from metaspira.problems import RecipeError
from metaspira.processes import Progress
from metaspira.solids.proof import Proof

LISTED = 17

_UNITS = {".glb": "m"}


def _write(part: AnyPart, file: FilePath, chord_error: float, progress: Progress) -> Proof:
    from metaspira.outputs import outputs
    from metaspira.parts.identity import SYSTEM, identity_of

    identity, name = identity_of(part), _name(part)
    offered = [one for one in outputs().values() if one.key != "zip"]
    files: list[dict[str, Any]] = []
    left_out: list[dict[str, str]] = []
    proofs: dict[str, Proof] = {}
    with TemporaryDirectory(prefix="metaspira-") as scratch:
        folder = FilePath(scratch)
        recipe = folder / f"{name}.spira.json"
        told = part.typed.model_dump(mode="json", by_alias=True, exclude_none=True)
        recipe.write_text(json.dumps(told, ensure_ascii=False, indent=1), encoding="utf-8")
        files.append(_entry(recipe, "Recipe", part.typed.unit, {}))
        for index, output in enumerate(offered):
            progress(index / len(offered), output.key)
            made = folder / f"{name}.{output.key}"
            try:
                output.demand_fit(part)
                if isinstance(output, Built):
                    proofs[output.key] = output.write(part, made, chord_error, _silent)
                    proof = proofs[output.key].as_dict()
                else:
                    proof = output.save(part, made)
            except RecipeError as error:
                left_out.append({"key": output.key, "why": error.problems[0].reason})
                continue
            unit = _UNITS.get(output.suffix, "mm")
            files.append(_entry(made, f"{output.what}, {output.title}", unit, proof))
        manifest = {
            "design": identity.title,
            **identity.block.model_dump(),
            "made_by": SYSTEM,
            "time": identity.stamp,
            "files": files,
            "left_out": left_out,
        }
        text = json.dumps(manifest, ensure_ascii=False, indent=1)
        with zipfile.ZipFile(file, "w", zipfile.ZIP_DEFLATED) as archive:
            held = [(entry["name"], (folder / entry["name"]).read_bytes()) for entry in files]
            for title, data in [("manifest.json", text.encode()), *held]:
                when = max(identity.time.timetuple()[:6], (1980, 1, 1, 0, 0, 0))
                archive.writestr(zipfile.ZipInfo(title, when), data, zipfile.ZIP_DEFLATED)
    return proofs["step"]


def _entry(file: FilePath, what: str, unit: str, proof: dict[str, Any]) -> dict[str, Any]:
    data = file.read_bytes()
    digest = hashlib.sha256(data).hexdigest()
    return {
        "name": file.name,
        "what": what,
        "unit": unit,
        "bytes": len(data),
        "sha256": digest,
        "proof": proof,
    }


def _name(part: AnyPart) -> str:
    """The design's name as that of a file."""
    return re.sub(r"[^\w-]+", "-", part.recipe.name).strip("-")[:60] or "part"


def _silent(share: float, step: str) -> None:
    """Progress of one file of many, which is told as a whole."""


OUTPUTS = (Built("zip", "Solid", "Everything, one archive", "application/zip", any_part, _write),)
