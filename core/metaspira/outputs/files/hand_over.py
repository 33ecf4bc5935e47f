"""Everything that a part can become, as one archive with a manifest: what each file is, its unit, its SHA-256
and what was measured on it."""

from __future__ import annotations

import hashlib
import json
import re
import zipfile
from dataclasses import asdict, dataclass
from pathlib import Path as FilePath
from tempfile import TemporaryDirectory
from typing import IO, Any

from metaspira.outputs.output import Built, any_part
from metaspira.parts import AnyPart
from metaspira.problems import RecipeError
from metaspira.processes import Progress
from metaspira.solids.proof import Proof

LISTED = 17

_MANIFEST = "manifest.json"

_UNITS = {".glb": "m"}


@dataclass(frozen=True)
class Entry:
    """A file of the archive: the output that it is, what lengths in it count, and what was measured on it as
    read back."""

    key: str
    name: str
    what: str
    unit: str
    bytes: int
    sha256: str
    proof: dict[str, Any]


@dataclass(frozen=True)
class LeftOut:
    """An output that the part cannot become, and why."""

    key: str
    why: str


@dataclass(frozen=True)
class Contents:
    """What an archive holds, and what not."""

    files: list[Entry]
    left_out: list[LeftOut]


def _write(part: AnyPart, file: FilePath, chord_error: float, progress: Progress) -> Proof:
    from metaspira.outputs import outputs
    from metaspira.parts.identity import SYSTEM, identity_of

    identity, name = identity_of(part), _name(part)
    offered = [one for one in outputs().values() if one.key != "zip"]
    held: list[Entry] = []
    left_out: list[LeftOut] = []
    proofs: dict[str, Proof] = {}
    with TemporaryDirectory(prefix="metaspira-") as scratch:
        folder = FilePath(scratch)
        recipe = folder / f"{name}.spira.json"
        told = part.typed.model_dump(mode="json", by_alias=True, exclude_none=True)
        recipe.write_text(json.dumps(told, ensure_ascii=False, indent=1), encoding="utf-8")
        held.append(_entry(recipe, "spira.json", "Recipe", part.typed.unit, {}))
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
                left_out.append(LeftOut(output.key, error.problems[0].reason))
                continue
            unit = _UNITS.get(output.suffix, "mm")
            held.append(_entry(made, output.key, f"{output.what}, {output.title}", unit, proof))
        manifest = {
            "design": identity.title,
            **identity.block.model_dump(),
            "made_by": SYSTEM,
            "time": identity.stamp,
            **asdict(Contents(held, left_out)),
        }
        text = json.dumps(manifest, ensure_ascii=False, indent=1)
        with zipfile.ZipFile(file, "w", zipfile.ZIP_DEFLATED) as archive:
            data_of = [(entry.name, (folder / entry.name).read_bytes()) for entry in held]
            for title, data in [(_MANIFEST, text.encode()), *data_of]:
                when = max(identity.time.timetuple()[:6], (1980, 1, 1, 0, 0, 0))
                archive.writestr(zipfile.ZipInfo(title, when), data, zipfile.ZIP_DEFLATED)
    return proofs["step"]


def contents_of(archive: IO[bytes]) -> Contents:
    """What an archive that was written here holds, by its manifest; those of earlier versions name no
    keys."""
    with zipfile.ZipFile(archive) as opened:
        told = json.loads(opened.read(_MANIFEST))
    files = [Entry(**({"key": ""} | one)) for one in told["files"]]
    return Contents(files, [LeftOut(**one) for one in told["left_out"]])


def _entry(file: FilePath, key: str, what: str, unit: str, proof: dict[str, Any]) -> Entry:
    data = file.read_bytes()
    return Entry(key, file.name, what, unit, len(data), hashlib.sha256(data).hexdigest(), proof)


def _name(part: AnyPart) -> str:
    """The design's name as that of a file."""
    return re.sub(r"[^\w-]+", "-", part.recipe.name).strip("-")[:60] or "part"


def _silent(share: float, step: str) -> None:
    """Progress of one file of many, which is told as a whole."""


_USE = "handing over: all that fits, with a manifest"

OUTPUTS = (Built("zip", "Solid", "Everything, one archive", _USE, "application/zip", any_part, _write),)
