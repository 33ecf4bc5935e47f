"""The shapes of what the API takes and gives."""

from __future__ import annotations

import uuid
from datetime import datetime
from typing import Any, Literal

from builds.models import Build, usual_formats
from designs.models import Revision
from ninja import Field, Schema

Verdict = Literal["clear", "watch", "stop"]


class FixOut(Schema):
    input: str
    value: float | str | dict[str, Any]


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
    value: float | str | dict[str, Any]
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
    width: list[float] | None
    depth: list[float] | None
    tilt: list[float] | None
    shape: list[float] | None
    gap: list[float | None]
    stress: list[float | None] | None
    turns: list[float]
    x: list[float]
    y: list[float]
    z: list[float]


class BlendOut(Schema):
    at: float
    ring: list[list[float]]


class SectionOut(Schema):
    """Rings in both planes, the outer one first, then the holes; `edges` holds the number of the point in
    the outer ring at which each edge starts."""

    across: list[list[list[float]]] | None
    axial: list[list[list[float]]] | None
    edges: list[int]
    closed: bool
    blend: list[BlendOut]


class GuidesOut(Schema):
    body: list[list[float]] | None
    aim: list[list[float]] | None
    core: list[list[float]] | None
    points: list[list[float]] | None


class PointOut(Schema):
    bend: float | None
    keep: float | None


class SliceOut(Schema):
    s: float
    own: list[list[float]]
    segments: list[list[list[float]]]


class FaultOut(Schema):
    what: str
    text: str
    points: list[list[float]]


class DrawingOut(Schema):
    loops: list[dict[str, Any]]
    faults: list[FaultOut]


class SaidOut(Schema):
    """Figures and checks as on the command line; `values` is what each number field comes to."""

    verdict: Verdict
    figures: dict[str, float | None]
    checks: list[CheckOut]
    why: dict[str, WhyOut]
    searched: bool
    bodies: list[str]
    values: dict[str, float]


class LoadOut(Schema):
    """One working point: `place` is its length or angle, `effort` its force or torque."""

    place: float
    effort: float
    length: float | None = None
    force: float | None = None
    angle: float | None = None
    torque: float | None = None
    deflection: float | None = None
    stress: float
    corrected_stress: float
    utilisation: float
    energy: float
    open_turns: float | None = None


class SpringFigureOut(Schema):
    key: str
    title: str
    value: float | None
    unit: str
    formula: str
    inputs: str
    source: str


class LimitOut(Schema):
    """How much of a limit is used, 1 for all of it."""

    id: str
    title: str
    use: float


class LifeOut(Schema):
    cycles: float
    mean: float
    amplitude: float
    endurance: float
    breaking: float
    utilisation: float


class MarkOut(Schema):
    """A force or torque at which a stress is reached, in words, with the verdict beyond it."""

    effort: float
    words: str
    verdict: Verdict


class SpringOut(Schema):
    """A spring in mm, degrees, N, N mm and MPa; `units` are those of place and effort, `first` and `last` the places
    between which it is drawn, `curve` points of place and effort; `least_length` keeps the least gaps."""

    kind: Literal["compression", "extension", "torsion"]
    units: list[str]
    rate: float
    index: float
    free_length: float | None
    first: float
    last: float
    solid_length: float | None
    least_length: float | None
    loads: list[LoadOut]
    buckling: float | None
    frequency: float | None
    figures: list[SpringFigureOut]
    curve: list[list[float]]
    marks: list[MarkOut]
    limits: list[LimitOut]
    life: LifeOut | None


class ComparedOut(Schema):
    """N/mm, and MPa under 1 N."""

    rate: float
    stress: float
    closed_rate: float
    closed_stress: float
    why: str


class WireOut(Schema):
    """A spring wire: the diameters it is made in, mm, and its moduli, MPa."""

    name: str
    title: str
    standard: str
    least: float
    most: float
    E: float
    G: float
    source: str


class FoundSpringOut(Schema):
    """A spring that was found, mm, g and MPa, with the limit that it uses most and the share that it uses."""

    wire: str
    thickness: float
    diameter: float
    turns: float
    height: float
    mass: float
    stress: float
    limit: str
    use: float
    on_hand: bool
    recipe: dict[str, Any]


class FoundSpringsOut(Schema):
    """The rate (N/mm) and the free length (mm) that both loads set, and the springs that have them."""

    free_length: float
    rate: float
    springs: list[FoundSpringOut]
    nearest: FoundSpringOut | None


class ReportOut(SaidOut):
    """What is said of a wound part, and what the bench draws of it."""

    spring: SpringOut | None
    strip: StripOut
    section: SectionOut
    ribs: list[list[list[float]]]
    guides: GuidesOut
    points: list[PointOut]


class ThreadRowOut(Schema):
    designation: str
    family: str
    diameter: float
    pitch: float
    inch: bool


class CandidateOut(ThreadRowOut):
    """How far a measured thread is off this one: mm, mm, and both in one figure."""

    diameter_off: float
    pitch_off: float
    off: float


class SizeOut(Schema):
    basic: float
    max: float | None
    min: float | None


class MemberOut(Schema):
    tolerance: str
    major: SizeOut
    pitch: SizeOut
    minor: SizeOut


class GaugedOut(Schema):
    key: str
    title: str
    value: float | None
    unit: str
    formula: str
    source: str


class InchOut(Schema):
    pitch: float
    lead: float
    external: MemberOut
    internal: MemberOut


class GoOut(Schema):
    go: float | None
    not_go: float | None
    crest_max: float | None
    crest_min: float | None


class ThreadOut(Schema):
    """A standard thread, in mm and degrees; `inch` where it is made in inches."""

    designation: str
    family: str
    title: str
    side: Literal["external", "internal"] | None
    hand: Literal["right", "left"]
    pitch: float
    starts: int
    lead: float
    lead_angle: float
    flank_angles: list[float]
    taper: float
    external: MemberOut
    internal: MemberOut
    stress_area: float
    gauging: list[GaugedOut]
    go: dict[str, GoOut]
    sources: dict[str, str]
    inch: InchOut | None = None


class ProfilesOut(Schema):
    """Profiles by member and state (basic, max, min): lines of points (z, r), mm."""

    pitch: float
    pitch_radius: float
    external: dict[str, list[list[float]]]
    internal: dict[str, list[list[float]]]


class StandardOut(Schema):
    standard: ThreadOut
    profiles: ProfilesOut


class ThreadViewOut(ProfilesOut):
    built: list[list[float]]
    mate: list[list[float]]
    side: Literal["external", "internal"]
    full: list[float]
    standard: ThreadOut


class FormIn(Schema):
    """A thread form to be kept: the keys form, diameter, pitch and starts of a recipe's thread, in `unit`."""

    name: str
    unit: Literal["mm", "cm", "m", "in"] = "mm"
    thread: dict[str, Any]


class FormOut(Schema):
    id: uuid.UUID
    name: str
    unit: Literal["mm", "cm", "m", "in"]
    thread: dict[str, Any]


class ThreadReportOut(SaidOut):
    """What is said of a threaded part, and what the bench draws of it."""

    thread: ThreadViewOut


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


class Wanted(Schema):
    """Which files to build (their suffixes), and the chord error of meshes, mm (null: the usual one)."""

    formats: list[str] = Field(default_factory=usual_formats)
    chord_error: float | None = None


class ProofOut(Schema):
    """A skin has its area (mm²) in place of a volume."""

    closed: bool
    valid: bool
    volume: float
    predicted_volume: float
    relative_error: float
    allowed: float
    area: float | None = None
    predicted_area: float | None = None


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
