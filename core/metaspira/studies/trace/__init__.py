"""From a body in a file back to the recipe that would make it."""

from __future__ import annotations

import math
import re
from collections.abc import Callable
from dataclasses import replace
from typing import Any, Literal

import numpy as np
import trimesh

from metaspira.formats.bodies import BODIES, scanned_in
from metaspira.formats.clouds import TABLES, cloud_in, is_cloud
from metaspira.formats.limited import limited
from metaspira.numbers.jets import Array
from metaspira.parts import Part, part_of
from metaspira.problems import Problem, RecipeError
from metaspira.processes import Progress
from metaspira.references.placed import PlacedBody
from metaspira.studies.trace.bar import TracedBar, bar_of
from metaspira.studies.trace.coil import TracedCoil, coil_of
from metaspira.studies.trace.rounding import rounded, rounded_bar
from metaspira.studies.trace.scan import Scan, Surface, scan_of
from metaspira.studies.trace.screw import screw_of
from metaspira.studies.trace.thread import TracedThread, thread_of
from metaspira.studies.trace.traced import Designation, Deviation, Ghost, Traced, TracedNumber
from metaspira.studies.trace.wire import WoundWire, wound_wire
from metaspira.sweep.mesh import as_one
from metaspira.threads.lookup import measured, read_thread
from metaspira.threads.profile import Profile, profile_of

__all__ = [
    "SCANS",
    "Designation",
    "Deviation",
    "Ghost",
    "Surface",
    "Traced",
    "TracedNumber",
    "surface_in",
    "trace",
    "trace_surface",
    "traced_in_child",
]

SCANS = (*BODIES, *TABLES)
"""Suffixes of the files that are traced."""

SECONDS, MEMORY = 60.0, 2 * 2**30
"""What tracing may take, processor seconds and bytes."""

_ROUND, _ROUGH, _COVERED, _HALF, _LEAST_TURNS = 0.04, 0.25, 0.55, 0.65, 0.6
_FOLDS, _TRUSTED, _ALIKE = 0.3, 0.05, 0.06
_STEEPEST = math.radians(32)
_PROBES = 4000
_LEAST_SIZE, _FLAT = 1e-3, 1e-4
_LIKELY, _NAMES = 40, 6
_LONGEST_NAME = 120
_LIKELY_FLANK = 30.0
_INPUTS = {"major_diameter": "/thread/diameter", "pitch": "/thread/pitch"}
"""Where the numbers of a thread with a form of its own stand in the recipe."""


def trace(
    data: bytes, suffix: str, unit: str | None, name: str, progress: Progress = lambda share, words: None
) -> Traced:
    """The recipe of the body in a file's bytes. `unit` is that of a file which does not say its own. Raises
    RecipeError where it cannot be read, or is no such part."""
    progress(0.0, "reading the file")
    surface = surface_in(data, suffix, unit)
    try:
        return trace_surface(surface, name, progress)
    except ValueError:
        raise RecipeError(
            Problem("/file", "its surface is too ragged to be traced", "mend the mesh, or give a finer scan")
        ) from None


def traced_in_child(
    surface: Surface,
    name: str,
    progress: Progress = lambda share, words: None,
    cancelled: Callable[[], bool] = lambda: False,
) -> Traced:
    """The recipe of a body by its triangles or points, mm, in a child process, within limits of time and
    memory. Raises RecipeError, and Cancelled."""
    found: Traced = limited(
        SECONDS, MEMORY, trace_surface, surface, name, progress=progress, cancelled=cancelled
    )
    return found


def surface_in(data: bytes, suffix: str, unit: str | None) -> Surface:
    """The triangles or the points in a file's bytes, mm. `unit` is that of a file which does not say its own.
    Raises RecipeError."""
    return cloud_in(data, suffix, unit) if is_cloud(data, suffix) else scanned_in(data, suffix, unit)


def trace_surface(surface: Surface, name: str, progress: Progress = lambda share, words: None) -> Traced:
    """The recipe of a body by its triangles or points, mm. Raises RecipeError where it is no such part, and
    ValueError where its numbers break down."""
    name = name[:_LONGEST_NAME]
    places = surface.vertices if isinstance(surface, trimesh.Trimesh) else surface
    places = places - places.mean(axis=0)
    size, _, thin = np.linalg.svd(places, compute_uv=False) / math.sqrt(len(places))
    if size < _LEAST_SIZE or thin < _FLAT * size:
        raise RecipeError(Problem("/file", "the body is flat or tiny", "give a body, and check its unit"))
    progress(0.1, "spreading places over the surface")
    scan = scan_of(surface)
    progress(0.2, "looking for its axis")
    screw = screw_of(scan)
    progress(0.3, "looking for the wire")
    wire = wound_wire(scan, screw)
    if wire is not None and _is_wire(wire):
        progress(0.6, "fitting a coil")
        coil = coil_of(wire)
        if coil is not None:
            progress(0.9, "measuring how far it is off")
            return _coil(name, scan, wire, coil)
    progress(0.6, "looking for a thread")
    thread = thread_of(scan, screw)
    if thread is not None and thread.spread < _FOLDS and thread.lead_angle < _STEEPEST:
        return _thread(name, thread)
    progress(0.7, "looking for a bar")
    bar = bar_of(scan, screw)
    if bar is not None and not bar.plain:
        progress(0.9, "measuring how far it is off")
        return _bar(name, scan, bar)
    raise RecipeError(_nothing(wire, thread, bar))


def _is_wire(wire: WoundWire) -> bool:
    """Of a thread at most half of the way around such a wire is there, and it fits badly."""
    fits = wire.noise < (_ROUGH if wire.around > _HALF else _ROUND) * wire.radius
    even = wire.uneven < _ROUND * wire.radius
    return fits and even and wire.covered > _COVERED and wire.turns > _LEAST_TURNS


def _nothing(wire: WoundWire | None, thread: TracedThread | None, bar: TracedBar | None) -> Problem:
    if bar is not None:
        reason = "it is a plain straight bar: nothing in it is wound, twisted or tapered"
    elif thread is not None and thread.lead_angle >= _STEEPEST:
        reason = "its surface winds too steeply for a thread, and no twisted bar was found"
    elif wire is None:
        reason = "no wire that is wound around an axis, no thread and no twisted bar was found in it"
    elif max(wire.noise / _ROUGH, wire.uneven / _ROUND) >= wire.radius:
        reason = (
            "no coil of round wire and no thread was found: the surface lies "
            f"{wire.noise:.2g} mm off a wire of ⌀{2 * wire.radius:.3g} mm"
        )
    else:
        reason = f"only {100 * wire.covered:.0f} % of the surface lies on one wire, and no thread was found"
    remedy = "give one coil of round wire, one thread or one twisted bar, without its surroundings"
    return Problem("/file", reason, remedy)


def _coil(name: str, scan: Scan, wire: WoundWire, coil: TracedCoil) -> Traced:
    places = _in_its_place(wire.axis.upright(scan.points), wire, coil)
    places = places[:: max(1, len(places) // _PROBES)]
    off = _off(places, coil.recipe, wire.radius)
    found = _deviation(off, wire.radius)
    if found is None or found.mean > _TRUSTED * 2 * wire.radius + 2 * wire.noise:
        far = "far" if found is None else f"{found.mean:.2g} mm"
        reason = f"the coil that fits best is {far} off the surface; its turns could not be told apart"
        raise RecipeError(
            Problem("/file", reason, "give a finer scan, with less noise and more of the wire seen")
        )
    told = _beside(scan)
    if wire.covered < 0.9:
        share = 100 * (1 - wire.covered)
        told.append(f"{share:.0f} % of the surface is not of the coil (legs or hooks), and was left out")
    if wire.seen < 0.95:
        told.append(f"{100 * (1 - wire.seen):.0f} % of the wire was not seen; the coil is led on through it")
    recipe = {**coil.recipe, "name": name}
    return _compared("coil", recipe, rounded(recipe), coil.figures, told, places, off, wire.radius)


def _bar(name: str, scan: Scan, bar: TracedBar) -> Traced:
    recipe = {**bar.recipe, "name": name}
    places = bar.places[:: max(1, len(bar.places) // _PROBES)]
    told = _beside(scan)
    if bar.seen < 0.95:
        told.append(f"{100 * (1 - bar.seen):.0f} % of the way around was not seen, and is led on straight")
    off = _off(places, recipe, bar.size)
    return _compared("bar", recipe, rounded_bar(recipe), bar.figures, told, places, off, bar.size)


def _compared(
    kind: Literal["coil", "bar"],
    recipe: dict[str, Any],
    even: dict[str, Any],
    figures: list[TracedNumber],
    told: list[str],
    places: Array,
    off: Array,
    size: float,
) -> Traced:
    """What is said of a recipe that places (n, 3) of the scan are `off` (n,), mm, and of its rounded one."""
    even_off = _off(places, even, size)
    found, even_found = (_deviation(one, size) for one in (off, even_off))
    ghost = Ghost(*(np.round(one, 4).tolist() for one in (places, off, even_off)))
    return Traced(kind, recipe, even, figures, found, even_found, [], told, ghost)


def _beside(scan: Scan) -> list[str]:
    if not scan.plate:
        return []
    return [f"a flat plate, {100 * scan.plate:.0f} % of the surface, was left out"]


def _off(places: Array, recipe: dict[str, Any], radius: float) -> Array:
    """How far (n,) places (n, 3) of the scan are out of the surface of the recipe's part, mm."""
    part = part_of(recipe)
    assert isinstance(part, Part)
    own = PlacedBody("part", 0.0, *as_one([body.mesh(radius / 100) for body in part.bodies]), True)
    return own.distance(places)


def _deviation(off: Array, radius: float) -> Deviation | None:
    """What is said of places that are so far off; None where all are far."""
    far = np.abs(off)
    near = far[far < 3 * radius]
    if not len(near):
        return None
    return Deviation(float(near.mean()), float(np.percentile(near, 95)), float(near.max()))


def _in_its_place(points: Array, wire: WoundWire, coil: TracedCoil) -> Array:
    """Upright places where the recipe's part stands: its start at the angle and the height of 0; one that is
    wound to the left is turned over, since it climbs as its angle falls."""
    cosine, sine = np.cos(wire.angle[0]), np.sin(wire.angle[0])
    turned = points @ np.array([[cosine, -sine, 0], [sine, cosine, 0], [0, 0, 1]]) - [0, 0, wire.up[0]]
    over = [1, 1, 1] if wire.right else [1, -1, -1]
    return np.asarray(turned * over - [0, 0, coil.lift])


def _thread(name: str, thread: TracedThread) -> Traced:
    names = _named(thread)
    own = _apart(thread, _profile(names[0].designation, thread)) > _ALIKE * thread.depth + 2 * thread.noise
    told = []
    if own:
        told.append("no standard thread has this profile; the recipe has the form that was measured")
    elif thread.starts > 1:
        told.append(f"{thread.starts} starts were found; the names in the list are of one")
    for end, angle in zip(("start", "end"), thread.flanks, strict=True):
        if angle is None:
            told.append(f"the flank towards the {end} was hardly seen; its angle could not be told")
    hand = {"hand": "left"} if thread.hand == "left" else {}
    length = round(thread.length + thread.pitch, 2)
    recipe: dict[str, Any] = {
        "format": "metaspira/1",
        "unit": "mm",
        "name": name,
        "thread": {
            **(_own(thread) if own else {"designation": _designation(names[0].designation, thread)}),
            **hand,
        },
        "host": {"kind": "rod" if thread.side == "external" else "bore", "length": length},
    }
    figures = [replace(one, input=_INPUTS.get(one.key) if own else None) for one in thread.figures]
    return Traced("thread", recipe, recipe, figures, None, None, [] if own else names, told)


def _own(thread: TracedThread) -> dict[str, Any]:
    """A form of flanks with the measured numbers; its crest is as wide as the flanks leave it."""
    seen = [angle for angle in thread.flanks if angle is not None] or [_LIKELY_FLANK]
    # of a flank that was hardly seen, the other one tells
    rising, falling = (seen[0] if angle is None else angle for angle in thread.flanks)
    to_crest = abs(thread.crest - thread.pitch_diameter) / 2
    slopes = math.tan(math.radians(rising)) + math.tan(math.radians(falling))
    form = {
        "kind": "flanks",
        "leading": round(rising, 1),
        "trailing": round(falling, 1),
        "height": round(thread.depth, 3),
        "crest": round(max(thread.pitch / 2 - to_crest * slopes, 0.0), 3),
    }
    several = {"starts": thread.starts} if thread.starts > 1 else {}
    outer = max(thread.crest, thread.root)
    return {"form": form, "diameter": round(outer, 3), "pitch": round(thread.pitch, 4), **several}


def _designation(name: str, thread: TracedThread) -> str:
    """The name of the thread with as many starts, where its family has one for it."""
    if thread.starts == 1:
        return name
    lead = f"{thread.starts * read_thread(name).pitch:g}"
    for written in (
        re.sub(r"x([\d.]+)$", rf"x{lead}P\1", name),
        re.sub(r"x([\d.]+)$", rf"xPh{lead}P\1", name),
    ):
        try:
            if read_thread(written).starts == thread.starts:
                return written
        except RecipeError:
            continue
    return name


def _profile(name: str, thread: TracedThread) -> Profile:
    return profile_of(read_thread(name), thread.side)


def _named(thread: TracedThread) -> list[Designation]:
    """The standard threads that it may be, by crest, pitch and the form of the profile."""
    error, slack = max(4 * thread.noise, 0.1), max(0.02, 2 * thread.noise * thread.pitch / thread.length)
    rough = measured(thread.crest, thread.pitch, thread.side, _LIKELY, error, slack)
    allowed = thread.noise + 0.012 * thread.pitch
    weighed = []
    for one in rough:
        apart = _apart(thread, _profile(one.row.designation, thread))
        weighed.append(
            (one.probable * math.exp(-0.5 * min((apart / allowed) ** 2, 1400.0)) + 1e-300, apart, one)
        )
    whole = sum(weight for weight, _, _ in weighed)
    weighed.sort(key=lambda one: -one[0])
    return [
        Designation(
            one.row.designation,
            weight / whole,
            math.hypot(apart, one.diameter_off / 2),
            one.pitch_off,
            one.diameter_off,
        )
        for weight, apart, one in weighed[:_NAMES]
    ]


def _apart(thread: TracedThread, profile: Profile) -> float:
    """How far two profiles are apart, mm, by the root of the mean square, each about its own mean and laid
    where they fit best, either way round."""
    line = profile.line(24)
    z = np.concatenate([line[:, 0] + k * profile.pitch for k in (-1, 0, 1)])
    at = (np.arange(len(thread.profile)) + 0.5) / len(thread.profile) * profile.pitch
    theirs = np.interp(at, np.maximum.accumulate(z), np.tile(line[:, 1], 3))
    ours = thread.profile - thread.profile.mean()
    both = (theirs - theirs.mean(), (theirs - theirs.mean())[::-1])
    return min(
        float(np.sqrt(np.mean((ours - np.roll(one, k)) ** 2))) for one in both for k in range(len(ours))
    )
