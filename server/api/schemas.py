"""The shapes of what the API takes and gives."""

from __future__ import annotations

import uuid
from dataclasses import dataclass
from datetime import datetime
from typing import Annotated, Any, Literal

from builds.models import Build, usual_formats
from designs.archived import Tags
from designs.models import Revision
from jobs.models import Job
from jobs.services import place_of, shown_of
from metaspira.checks.check import Remedy
from metaspira.devices.tester import Reading
from metaspira.formats.drawing import Fault
from metaspira.numbers.figure import Told, Why
from metaspira.numbers.shown import LengthUnit
from metaspira.outputs import built
from metaspira.parts.weight import Weight
from metaspira.problems import Problem
from metaspira.recipe.model import Recipe, ThreadRecipe
from metaspira.recipe.title_block import TitleBlock
from metaspira.springs.limits import Limit
from metaspira.springs.measured import Measured
from metaspira.springs.standard import Rules
from metaspira.springs.working import Mark
from metaspira.studies.compare import CheckChange, FigureChange
from metaspira.studies.find_spring.found import Blocking, Found
from metaspira.studies.inputs import Input
from metaspira.studies.run import Track
from metaspira.studies.survey import Over
from metaspira.studies.survey import Survey as FoundSurvey
from metaspira.studies.trace import Traced
from metaspira.threads.gauges import LimitGauge
from metaspira.threads.joint.metals import Metal
from metaspira.threads.judging import Readings
from metaspira.threads.thread import Side
from metaspira.verification import Standing
from ninja import Field, Schema
from surveys.models import Survey

Verdict = Literal["clear", "watch", "stop"]


class Problems(Schema):
    """Why a request was refused: place (JSON pointer), reason and remedy of each fault."""

    problems: list[Problem]


class ConflictOut(Problems):
    head: int


@dataclass(frozen=True, kw_only=True)
class Weighed(Weight):
    """What a part weighs, and how it is spread, as figures too."""

    figures: list[Told]


class OutputOut(Schema):
    """A file that the part can become, by its key; `built` says that it is a build's, `misfit` why the part
    cannot."""

    key: str
    what: str
    title: str
    use: str
    suffix: str
    built: bool
    misfit: Problem | None


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
    remedies: list[Remedy]


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
    bend: list[float | None]
    radius: list[float | None] | None
    pitch: list[float | None] | None
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


class DrawingOut(Schema):
    """`plane` is that of a section that was written here; `profile` the outline of the body that the
    largest loop makes when it is turned, or `profile_fault` why it makes none."""

    loops: list[dict[str, Any]]
    faults: list[Fault]
    plane: Literal["across", "axial"] | None
    profile: list[list[float]] | None = None
    profile_fault: str | None = None


class VariableOut(Schema):
    name: str
    used: list[str]


class SaidOut(Schema):
    """Figures and checks as on the command line; `headline` is what is asked of a spring first,
    `values` what each number field comes to, `gap_range` the interval that holds the smallest gap for
    certain, mm; `words` a sentence for each step of the work, `outputs` every file."""

    verdict: Verdict
    figures: dict[str, float | None]
    headline: list[Told]
    gap_range: tuple[float, float] | None = None
    checks: list[CheckOut]
    why: dict[str, Why]
    searched: bool
    bodies: list[str]
    values: dict[str, float]
    variables: list[VariableOut]
    words: dict[str, str]
    outputs: list[OutputOut]


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


class LifeOut(Schema):
    where: str
    cycles: float
    mean: float
    amplitude: float
    endurance: float
    breaking: float
    utilisation: float


class WorkedOut(Schema):
    """What a spring does, by one model, in mm, degrees, N, N mm and MPa; `first` and `last` are the places
    between which it is drawn, `curve` points of place and effort; `least_length` keeps the least gaps."""

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
    curve: list[list[float]]


class SpringOut(WorkedOut):
    """A spring; `units` are those of place and effort. Of one that pushes also by which rules its figures
    are, in words, and why where others were asked for; and the same by the contact of its drawn turns, where
    its figures are a standard's; and the readings of a made one beside it; and whether tolerances are carried
    through it."""

    kind: Literal["compression", "extension", "torsion", "spiral"]
    units: list[str]
    rules: Rules | None
    rules_words: str
    rules_why: str
    as_drawn: WorkedOut | None
    measured: Measured | None
    scatters: bool
    figures: list[Told]
    marks: list[Mark]
    limits: list[Limit]
    life: LifeOut | None


class Pair(Schema):
    """Two recipes, as typed: what was, and what became of it."""

    before: dict[str, Any]
    after: dict[str, Any]


class ChangeOut(Schema):
    place: str
    words: str


class ComparisonOut(Schema):
    changes: list[ChangeOut]
    figures: list[FigureChange]
    checks: list[CheckChange]
    verdicts: tuple[str, str]
    problems: list[Problem]


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


class FoundSpringsOut(Schema):
    """The rate that both loads set (N/mm, or N mm/°), the springs that have them, and how many were tried;
    where there is none, the nearest one and what is in the way."""

    rate: float
    springs: list[Found]
    tried: int
    nearest: Found | None
    blocking: list[Blocking]


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


class CandidateOut(Schema):
    """A thread, and how far a measured one is off it: mm, mm, and both in one figure."""

    designation: str
    family: str
    diameter: float
    pitch: float
    inch: bool
    diameter_off: float
    pitch_off: float
    off: float
    probable: float


class MadeThread(Schema):
    """A made thread: the recipe that it is by, which of its members it is, and what was measured of it."""

    recipe: ThreadRecipe
    side: Side
    readings: Readings


class SizeOut(Schema):
    basic: float
    max: float | None
    min: float | None


class MemberOut(Schema):
    tolerance: str
    major: SizeOut
    pitch: SizeOut
    minor: SizeOut


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


class DrillOut(Schema):
    """A drill within the limits, mm, and the share of the thread's height that its hole leaves."""

    name: str
    diameter: float
    share: float


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
    gauging: list[Told]
    drills: list[DrillOut]
    gauges: list[LimitGauge]
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


class JointOut(Schema):
    """What a joint bears: mm of engagement, its figures, and the share of the load on each turn."""

    length: float
    external: Metal
    internal: Metal
    strips_first: Literal["external", "internal"]
    breaks_first: bool
    figures: list[Told]
    shares: list[float]


class ThreadViewOut(ProfilesOut):
    built: list[list[float]]
    mate: list[list[float]]
    side: Literal["external", "internal"]
    full: list[float]
    standard: ThreadOut
    joint: JointOut | None


class CurveOut(Schema):
    """Points in mm; how far the path through them runs from the file's curve at the most, mm; how many curves
    it holds."""

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
    """`workshop` is what title blocks say where a design says nothing."""

    team: bool
    name: str | None
    mark: str
    workshop: TitleBlock


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
    """Names of the designs that are new here, that got further revisions, that were here already, and that
    are kept beside another one since their revisions differ; and of the forms that are new."""

    added: list[str]
    continued: list[str]
    same: list[str]
    beside: list[str]
    forms: list[str]


class FormIn(Schema):
    """A thread form to be kept: the keys form, diameter, pitch and starts of a recipe's thread, in `unit`."""

    name: str
    unit: LengthUnit = "mm"
    thread: dict[str, Any]


class FormOut(Schema):
    id: uuid.UUID
    name: str
    unit: LengthUnit
    thread: dict[str, Any]


class FitIn(Schema):
    """An allowance, mm, that fits, found by a fit ladder."""

    printer: str
    material: str
    allowance: float = Field(ge=0, le=10, allow_inf_nan=False)


class FitOut(FitIn):
    id: uuid.UUID


class ThreadReportOut(SaidOut):
    """What is said of a threaded part, and what the bench draws of it."""

    thread: ThreadViewOut


class ProofRowOut(Schema):
    """A figure held against a value from elsewhere."""

    figures: list[str]
    case: str
    value: float
    ours: float
    allowed: float
    unit: str
    source: str
    standing: Standing
    off: float
    within: bool


class ProofFamilyOut(Schema):
    """A family of cases."""

    name: str
    title: str
    rows: list[ProofRowOut]


class ProofBookOut(Schema):
    """`standings` says what the other value of a row may be."""

    standings: dict[str, str]
    families: list[ProofFamilyOut]


class StartOut(Schema):
    """What a new design may begin as."""

    key: str
    group: str
    title: str
    sentence: str


class ShelfItem(Schema):
    id: uuid.UUID
    name: str
    revision: int
    verdict: Verdict | Literal["unusable", "unknown"]
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


class OnShelf(ShelfItem):
    """A design as the shelf lists it; `kind` says what it is in a few words, `owners` whose it is in team
    mode."""

    kind: str
    tags: list[str]
    owners: list[str]


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


class Tagging(Schema):
    tags: Tags


class Wanted(Schema):
    """Which files to build (their suffixes), and the chord error of meshes, mm (null: the usual one)."""

    formats: list[str] = Field(default_factory=usual_formats)
    chord_error: float | None = None


class ProofOut(Schema):
    """A skin has its area (mm²) in place of a volume; how far a mesh is off the shape at the most is in
    mm."""

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
    def of(job: Job) -> dict[str, Any]:
        """What is told of a job of its kind."""
        raise NotImplementedError

    @staticmethod
    def followed(job: Job) -> dict[str, Any]:
        """`place` counts a waiting job among those that wait."""
        place = place_of(job)
        told = {name: getattr(job, name) for name in ("kind", *JobOut.model_fields) if name != "place"}
        waits = place is not None and place > 1 and job.step == "waiting"
        return {
            **told,
            "place": place,
            **({"step": f"waiting, number {place} in the queue"} if waits else {}),
        }


class WantedSurvey(Schema):
    kind: Literal["survey"]
    recipe: dict[str, Any]
    over: list[Over]
    exact: bool = False


class SurveyOut(JobOut):
    """`found` is what is known of the first points while the survey runs, and of all once it is done."""

    kind: Literal["survey"]
    found: FoundSurvey | None

    @staticmethod
    def of(job: Job) -> dict[str, Any]:
        assert isinstance(job, Survey)
        return {**JobOut.followed(job), "found": job.result or shown_of(job)}


class WantedRun(Schema):
    kind: Literal["run"]
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
    inputs: list[Input]
    seconds: float
    frames: list[FrameOut]
    clash: int | None


class RunOut(JobOut):
    kind: Literal["run"]
    run: RanOut | None

    @staticmethod
    def of(job: Job) -> dict[str, Any]:
        return {**JobOut.followed(job), "run": job.result.get("run")}


class TraceOut(JobOut):
    kind: Literal["trace"]
    found: Traced | None

    @staticmethod
    def of(job: Job) -> dict[str, Any]:
        return {**JobOut.followed(job), "found": job.result or None}


AnyWanted = Annotated[WantedSurvey | WantedRun, Field(discriminator="kind")]


class CoilingOut(Schema):
    """Rows of feed, diameter and pitch settings, free diameter and pitch, mm; what springback was calculated
    by, MPa."""

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


class LoadTestOut(Schema):
    simulated: str
    readings: list[Reading]
    rate: float
    calculated_rate: float


class BuildFile(Schema):
    suffix: str
    title: str
    bytes: int


class BuildOut(JobOut):
    kind: Literal["build"]
    revision: int
    proofs: dict[str, ProofOut]
    files: list[BuildFile]

    @staticmethod
    def of(job: Job) -> dict[str, Any]:
        assert isinstance(job, Build)
        known = built()
        files = [
            {"suffix": suffix, "title": known[suffix].title, "bytes": size}
            for suffix, size in job.result.get("sizes", {}).items()
        ]
        return {
            **JobOut.followed(job),
            "revision": job.revision.number,
            "proofs": job.result.get("proofs", {}),
            "files": files,
        }


AnyJobOut = Annotated[BuildOut | SurveyOut | RunOut | TraceOut, Field(discriminator="kind")]
