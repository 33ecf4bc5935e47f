"""The shapes of what the API takes and gives."""

from __future__ import annotations

import uuid
from datetime import datetime
from typing import Any, Literal

from builds.models import Build
from designs.models import Revision
from ninja import Schema

Verdict = Literal["clear", "watch", "stop"]


class FixOut(Schema):
    input: str
    value: float | str


class ProblemOut(Schema):
    place: str
    reason: str
    remedy: str
    fix: FixOut | None


class Problems(Schema):
    """Why a request was refused: place (JSON pointer), reason and remedy of each fault."""

    problems: list[ProblemOut]


class ConflictOut(Problems):
    head: int


class RemedyOut(Schema):
    input: str
    value: float | str
    text: str


class CheckOut(Schema):
    id: str
    title: str
    verdict: Verdict
    value: float | None
    limit: float | None
    unit: str
    where: list[list[float]]
    points: list[list[float]]
    why: str
    remedies: list[RemedyOut]


class WhyOut(Schema):
    title: str
    unit: str
    formula: str
    inputs: str
    source: str


class StripOut(Schema):
    s: list[float]
    twist: list[float]
    size: list[float]
    gap: list[float | None]
    x: list[float]
    y: list[float]
    z: list[float]


class SectionOut(Schema):
    across: list[list[float]]
    axial: list[list[float]] | None


class ReportOut(Schema):
    """Figures and checks as on the command line, and what the bench draws of them."""

    verdict: Verdict
    figures: dict[str, float | None]
    checks: list[CheckOut]
    why: dict[str, WhyOut]
    strip: StripOut
    section: SectionOut
    values: dict[str, float]


class ShelfItem(Schema):
    id: uuid.UUID
    name: str
    revision: int
    verdict: Verdict | Literal["unusable"]
    wire_length: float | None
    updated: datetime

    @staticmethod
    def of(revision: Revision) -> dict[str, Any]:
        return {
            "id": revision.design.id,
            "name": revision.design.name,
            "revision": revision.number,
            "verdict": revision.verdict,
            "wire_length": revision.wire_length,
            "updated": revision.design.updated,
        }


class DesignOut(ShelfItem):
    recipe: dict[str, Any]

    @staticmethod
    def of(revision: Revision) -> dict[str, Any]:
        return {**ShelfItem.of(revision), "recipe": revision.recipe}


class RevisionOut(Schema):
    number: int
    verdict: str
    wire_length: float | None
    created: datetime


class NewDesign(Schema):
    recipe: dict[str, Any] | None = None


class Save(Schema):
    recipe: dict[str, Any]
    based_on: int


class Rename(Schema):
    name: str


class ProofOut(Schema):
    closed: bool
    valid: bool
    volume: float
    predicted_volume: float
    relative_error: float
    allowed: float


class BuildFile(Schema):
    suffix: str
    bytes: int


class BuildOut(Schema):
    id: uuid.UUID
    revision: int
    state: Literal["queued", "running", "done", "failed", "cancelled"]
    progress: float
    step: str
    error: str
    proofs: dict[str, ProofOut]
    files: list[BuildFile]

    @staticmethod
    def of(build: Build) -> dict[str, Any]:
        files = [
            {"suffix": suffix, "bytes": build.file(suffix).stat().st_size} for suffix in build.proofs
        ]
        names = ("id", "state", "progress", "step", "error", "proofs")
        return {
            **{name: getattr(build, name) for name in names},
            "revision": build.revision.number,
            "files": files,
        }
