"""The shapes of what the API takes and gives."""

from __future__ import annotations

import uuid
from datetime import datetime
from typing import Any, Literal

from builds.models import Build, usual_formats
from designs.models import Revision
from jobs.models import Job
from jobs.services import place_of, shown_of
from metaspira.recipe.model import Recipe
from metaspira.references.asked import ReferenceBody
from metaspira.running import Track
from metaspira.surveying import Over
from ninja import Field, Schema
from surveys.models import RunThrough, Survey

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
    value: float | str | list[float] | dict[str, Any]
    text: str
    cost: str = ""


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
    rail: Literal["always", "there", "never"]


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


class VariableOut(Schema):
    name: str
    used: list[str]


class SaidOut(Schema):
    """Figures and checks as on the command line; `values` is what each number field comes to, `gap_range` the interval that
    holds the smallest gap for certain, mm; `words` a sentence for each step of the work."""

    verdict: Verdict
    figures: dict[str, float | None]
    gap_range: tuple[float, float] | None = None
    checks: list[CheckOut]
    why: dict[str, WhyOut]
    searched: bool
    bodies: list[str]
    values: dict[str, float]
    variables: list[VariableOut]
    words: dict[str, str]


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
    left: float
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
    where: str
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

    kind: Literal["compression", "extension", "torsion", "spiral"]
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
    """Rate, and MPa under an effort of 1, in the units of the effort and of the rate."""

    rate: float
    stress: float
    closed_rate: float
    closed_stress: float
    why: str
    units: tuple[str, str]


class Pair(Schema):
    """Two recipes, as typed: what was, and what became of it."""

    before: dict[str, Any]
    after: dict[str, Any]


class ChangeOut(Schema):
    place: str
    words: str


class FigureChangeOut(Schema):
    name: str
    title: str
    unit: str
    before: float | None
    after: float | None


class CheckChangeOut(Schema):
    id: str
    title: str
    before: str | None
    after: str | None


class ComparisonOut(Schema):
    changes: list[ChangeOut]
    figures: list[FigureChangeOut]
    checks: list[CheckChangeOut]
    verdicts: tuple[str, str]
    problems: list[ProblemOut]


class ApartOut(Schema):
    """How far one surface reaches out of the other at the most, mm, and where."""

    distance: float
    at: tuple[float, float, float]


class HeldOut(Schema):
    """A body from a file (before) and a part (after): their figures, how far each reaches beyond the other, and the body
    made light."""

    figures: list[FigureChangeOut]
    part_beyond: ApartOut
    body_beyond: ApartOut
    closed: bool
    body: ReferenceBody


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


class WeightOut(Schema):
    """g, mm³, mm², mm and g mm²; no centre and no inertia of a skin; the coat of a finish is not in the mass."""

    mass: float
    volume: float
    surface: float
    low: list[float]
    high: list[float]
    centre: list[float] | None
    inertia: list[list[float]] | None
    principal: list[float] | None
    coat: float | None


class NewVariableName(Schema):
    recipe: dict[str, Any]
    old: str
    new: str


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
    """A standard's thread, and a recipe of each of its members."""

    standard: ThreadOut
    profiles: ProfilesOut
    recipes: dict[Literal["external", "internal"], dict[str, Any]]


class ThreadViewOut(ProfilesOut):
    built: list[list[float]]
    mate: list[list[float]]
    side: Literal["external", "internal"]
    full: list[float]
    standard: ThreadOut


class CurveOut(Schema):
    """Points in mm; how far the path through them runs from the file's curve at the most, mm; how many curves it holds."""

    points: list[tuple[float, float, float]]
    closed: bool
    deviation: float
    pieces: int


class AroundWish(Schema):
    recipe: Recipe
    air: float = Field(0.5, ge=0, le=1e4)


class SignIn(Schema):
    name: str = Field(max_length=150)
    password: str = Field(max_length=500)


class SessionOut(Schema):
    team: bool
    name: str | None
    mark: str


class NewPassword(Schema):
    old: str = Field(max_length=500)
    new: str = Field(max_length=500)


class OtherSessions(Schema):
    others: int


class SetShare(Schema):
    name: str = Field(max_length=150)
    role: Literal["read", "edit", "own"] | None


class ShareOut(Schema):
    name: str
    role: Literal["read", "edit", "own"]


class DeedOut(Schema):
    id: int
    at: datetime
    person: str
    method: str
    path: str
    status: int


class NewToken(Schema):
    """A token that may only read, unless `may_edit`, for some `days`."""

    name: str = Field("token", max_length=80)
    may_edit: bool = False
    days: int = Field(90, ge=1, le=366)


class TokenOut(Schema):
    id: int
    name: str
    may_edit: bool
    created: datetime
    expires: datetime
    used: datetime | None


class TokenMade(TokenOut):
    token: str


class TakenInOut(Schema):
    """Names of the designs that are new here, that got further revisions, that were here already, and that are kept
    beside another one since their revisions differ; and of the forms that are new."""

    added: list[str]
    continued: list[str]
    same: list[str]
    beside: list[str]
    forms: list[str]


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


class GoneOut(Schema):
    id: uuid.UUID
    name: str
    deleted: datetime


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


JobState = Literal["queued", "running", "done", "failed", "cancelled"]


class JobOut(Schema):
    """How far a job is."""

    id: uuid.UUID
    state: JobState
    progress: float
    step: str
    error: str
    place: int | None

    @staticmethod
    def followed(job: Job) -> dict[str, Any]:
        """`place` counts a waiting job among those that wait."""
        place = place_of(job)
        told = {name: getattr(job, name) for name in JobOut.model_fields if name != "place"}
        waits = place is not None and place > 1 and job.step == "waiting"
        return {
            **told,
            "place": place,
            **({"step": f"waiting, number {place} in the queue"} if waits else {}),
        }


class WantedSurvey(Schema):
    recipe: dict[str, Any]
    over: list[Over]


class InputOut(Schema):
    place: str
    words: str
    unit: str
    value: float
    whole: bool


class ColumnOut(Schema):
    title: str
    unit: str
    values: list[float | None]


class CheckColumnOut(ColumnOut):
    verdicts: list[Literal["clear", "watch", "stop"] | None]


class FoundOut(Schema):
    """Points run through the last input's steps first."""

    inputs: list[InputOut]
    steps: list[list[float]]
    figures: dict[str, ColumnOut]
    checks: dict[str, CheckColumnOut]
    verdicts: list[Literal["clear", "watch", "stop", "unusable"]]
    reasons: list[str]


class SurveyOut(JobOut):
    """`found` is what is known of the first points while the survey runs, and of all once it is done."""

    found: FoundOut | None

    @staticmethod
    def of(survey: Survey) -> dict[str, Any]:
        return {**JobOut.followed(survey), "found": survey.result or shown_of(survey)}


class WantedRun(Schema):
    recipe: dict[str, Any]
    tracks: list[Track]
    frames: int = 40
    seconds: float = 4.0


class FrameOut(Schema):
    values: list[float]
    verdict: Literal["clear", "watch", "stop", "unusable"]
    why: str
    figures: dict[str, float | None]
    where: list[list[float]]


class RanOut(Schema):
    inputs: list[InputOut]
    seconds: float
    frames: list[FrameOut]
    clash: int | None


class RunOut(JobOut):
    run: RanOut | None

    @staticmethod
    def of(run: RunThrough) -> dict[str, Any]:
        return {**JobOut.followed(run), "run": run.result.get("run")}


class CoilingOut(Schema):
    """Rows of feed, diameter and pitch settings, free diameter and pitch, mm; what springback was reckoned by, MPa."""

    rows: list[list[float]]
    count: int
    modulus: float
    flow: float
    source: str


class Trial(Schema):
    """What a simulated device is given; `scatter` is a standard deviation, as a share."""

    recipe: Recipe
    seed: int = Field(1, ge=0, le=2**31)
    scatter: float = Field(0.02, ge=0, le=0.2)


class MeasuredOut(Schema):
    name: str
    title: str
    unit: str
    design: float
    measured: float


class WoundOut(Schema):
    simulated: str
    figures: list[MeasuredOut]
    recipe: dict[str, Any]


class ReadingOut(Schema):
    length: float
    going: float
    back: float
    reckoned: float


class LoadTestOut(Schema):
    simulated: str
    readings: list[ReadingOut]
    rate: float
    reckoned_rate: float


class BuildFile(Schema):
    suffix: str
    bytes: int


class BuildOut(JobOut):
    revision: int
    proofs: dict[str, ProofOut]
    files: list[BuildFile]

    @staticmethod
    def of(build: Build) -> dict[str, Any]:
        sizes = build.result.get("sizes", {})
        files = [{"suffix": suffix, "bytes": size} for suffix, size in sizes.items()]
        return {
            **JobOut.followed(build),
            "revision": build.revision.number,
            "proofs": build.result.get("proofs", {}),
            "files": files,
        }
