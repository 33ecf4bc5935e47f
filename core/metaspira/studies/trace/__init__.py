"""From a body in a file back to the recipe that would make it."""

from __future__ import annotations

import math
from collections.abc import Callable, Sequence
from dataclasses import replace
from typing import Any

import numpy as np
import trimesh

from metaspira.formats.bodies import BODIES, scanned_in
from metaspira.formats.clouds import TABLES, cloud_in, is_cloud
from metaspira.formats.limited import limited
from metaspira.numbers.jets import Array
from metaspira.parts import bodies_of, part_of
from metaspira.problems import Problem, RecipeError
from metaspira.processes import Progress
from metaspira.references.placed import PlacedBody
from metaspira.studies.trace.bar import TracedBar, bar_of
from metaspira.studies.trace.bent import Bend, bends_of
from metaspira.studies.trace.bent_bar import bent_bar_of
from metaspira.studies.trace.coil import LEG_FOUND, LEG_SURE, LEGLESS, TracedCoil, coil_of
from metaspira.studies.trace.legs import Legged, with_legs
from metaspira.studies.trace.named import named, wear_of
from metaspira.studies.trace.rounding import rounded, rounded_bar, rounded_thread, rounded_winding
from metaspira.studies.trace.scan import Scan, Surface, scan_of
from metaspira.studies.trace.screw import TURNED_OVER, Screw, screw_of, turned_about
from metaspira.studies.trace.thread import STEEPEST, Steep, TracedThread, thread_of
from metaspira.studies.trace.traced import Designation, Deviation, Ghost, Traced, TracedKind, TracedNumber
from metaspira.studies.trace.winding import TracedWinding, winding_of
from metaspira.studies.trace.wire import WoundWire, shaped_wire, wound_wire
from metaspira.sweep.mesh import as_one

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

SECONDS, MEMORY = 120.0, 2 * 2**30
"""What tracing may take, processor seconds and bytes."""

_ROUND, _ROUGH, _HALF, _LEAST_TURNS = 0.04, 0.25, 0.65, 0.6
_COVERED, _COVERED_LEGGED, _ALL_AROUND = 0.55, 0.4, 0.9
_EVEN, _CLEARLY, _LEFT = 0.012, 0.7, 0.02
_FOLDS, _FOLDS_OF_FEW, _FEW_TURNS, _TRUSTED, _FAR_OFF = 0.3, 0.1, 3, 0.05, 0.25
_PROBES = 4000
_LEAST_SIZE, _FLAT = 1e-3, 1e-4
_LONGEST_NAME = 120
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
    wire = _wire(scan, screw)
    refused: RecipeError | None = None
    if wire is not None and _is_wire(wire):
        progress(0.5, "fitting a coil")
        coil = coil_of(wire)
        found = None if coil is None else _coil(name, scan, coil)
        if isinstance(found, Traced):
            return found
        refused = found
    progress(0.6, "looking for a thread")
    thread = thread_of(scan, screw)
    if refused is None and isinstance(thread, TracedThread) and _is_thread(thread):
        found = _thread(name, scan, thread)
        if isinstance(found, Traced):
            return found
        refused = found
    progress(0.7, "looking for a bar")
    bar = None if refused is not None else bar_of(scan, screw)
    if bar is not None and not bar.plain:
        return _bar(name, scan, bar)
    bent = None if bar is not None else _bent(name, scan, progress)
    if bent is not None:
        return bent
    raise RecipeError(_nothing(wire, thread, bar)) if refused is None else refused


def _bent(name: str, scan: Scan, progress: Progress) -> Traced | None:
    """The winding or the bar along the first curve that one keeps to; None where none does."""
    progress(0.8, "looking for a curve that it follows")
    for bend in bends_of(scan):
        try:
            found = _around(name, scan, bend) if bend.hollow(scan) else _along(name, scan, bend)
        except RecipeError:  # a curve that bends too tightly for what is around it
            continue
        if found is not None:
            return found
    return None


def _around(name: str, scan: Scan, bend: Bend) -> Traced | None:
    """The winding around a curve; None where it does not keep to the scan."""
    winding = winding_of(scan, bend)
    if winding is None:
        return None
    found = _winding(name, scan, winding)
    return found if _trusted(found.deviation, 2 * winding.wire.radius, scan.noise) else None


def _along(name: str, scan: Scan, bend: Bend) -> Traced | None:
    """The bar along a curve; None where it does not keep to the scan."""
    bar = bent_bar_of(scan, bend)
    if bar is None:
        return None
    found = _bar(name, scan, bar)
    return found if _trusted(found.deviation, bar.size, scan.noise) else None


def _share_on(off: Array, radius: float, noise: float) -> float:
    """The share of places that lie on a wire."""
    return float((np.abs(off) <= _TRUSTED * 2 * radius + 3 * noise).mean())


def _trusted(found: Deviation | None, size: float, noise: float) -> bool:
    return found is not None and found.mean <= _TRUSTED * size + 2 * noise


def _wire(scan: Scan, screw: Screw) -> WoundWire | None:
    """The round wire, or that of any section where it fits clearly better; no other does where one is seen to
    be round, though it leaves the axis."""
    plain = wound_wire(scan, screw)
    if plain is not None and plain.uneven < _EVEN * plain.radius and (_is_wire(plain) or _is_seen(plain)):
        return plain
    shaped = shaped_wire(scan, screw)
    if plain is None or not _is_wire(plain):
        return shaped if shaped is not None and _is_wire(shaped) else plain
    return shaped if shaped is not None and shaped.noise < _CLEARLY * plain.noise else plain


def _is_seen(wire: WoundWire) -> bool:
    """Whether most of the way around it is there, and fits."""
    return wire.around > _HALF and wire.noise < _ROUGH * wire.radius


def _is_wire(wire: WoundWire) -> bool:
    """Of a thread at most half of the way around such a wire is there, and it fits badly."""
    fits = _is_seen(wire) or wire.noise < _ROUND * wire.radius
    even = wire.uneven < _ROUND * wire.radius
    legged = wire.round and wire.uneven < _EVEN * wire.radius and wire.around > _ALL_AROUND
    covered = wire.covered > (_COVERED_LEGGED if legged else _COVERED)
    return fits and even and covered and wire.turns > _LEAST_TURNS


def _is_thread(thread: TracedThread) -> bool:
    """Of few turns it has to fit well: a bent rod is like two of them by chance."""
    folds = _FOLDS if thread.length > _FEW_TURNS * thread.pitch else _FOLDS_OF_FEW
    return thread.spread < folds and thread.lead_angle < STEEPEST


def _nothing(wire: WoundWire | None, thread: TracedThread | Steep | None, bar: TracedBar | None) -> Problem:
    if bar is not None:
        reason = "it is a plain straight bar: nothing in it is wound, twisted or tapered"
    elif thread is not None and thread.lead_angle >= STEEPEST:
        reason = "its surface winds too steeply for a thread, and no twisted bar was found"
    elif wire is None:
        reason = "no wire that is wound around an axis, no thread and no twisted or bent bar was found in it"
    elif max(wire.noise / _ROUGH, wire.uneven / _ROUND) >= wire.radius:
        reason = (
            "no coil and no thread was found: the surface lies "
            f"{wire.noise:.2g} mm off a wire of ⌀{2 * wire.radius:.3g} mm"
        )
    else:
        reason = f"only {100 * wire.covered:.0f} % of the surface lies on one wire, and no thread was found"
    remedy = "give one coil, one thread or one twisted or bent bar, without its surroundings"
    return Problem("/file", reason, remedy)


def _coil(name: str, scan: Scan, coil: TracedCoil) -> Traced | RecipeError:
    wire = coil.wire
    places = _in_its_place(wire.axis.upright(scan.points), coil)
    off = _off(_probes(places), coil.recipe, wire.radius)
    legged = Legged(coil.recipe, places, (), [], 1 - wire.covered)
    if wire.round and wire.starts == 1 and _share_on(off, wire.radius, scan.noise) > _COVERED_LEGGED:
        legged = with_legs(coil.recipe, places, wire.radius, wire.noise)
    places, recipe = _probes(legged.places), {**legged.recipe, "name": name}
    if legged.found:
        off = _off(places, recipe, wire.radius)
    share = _share_on(off, wire.radius, scan.noise)
    if share < _COVERED:
        reason = f"only {100 * share:.0f} % of the surface lies on the coil that fits best, with its legs"
        return RecipeError(
            Problem("/file", reason, "give a finer scan, with less noise and more of the wire seen")
        )
    told = _beside(scan)
    if legged.left > _LEFT:
        told.append(
            f"{100 * legged.left:.0f} % of the surface is not of the coil (legs or hooks), and was left out"
        )
    if wire.seen < 0.95:
        told.append(f"{100 * (1 - wire.seen):.0f} % of the wire was not seen; the coil is led on through it")
    turns = recipe["path"]["turns"]
    told_by_each = LEG_FOUND - (LEG_SURE if wire.covered < LEGLESS else 0.0)
    figures = [
        replace(one, value=turns, sure=one.sure + told_by_each * len(legged.found))
        if one.key == "turns"
        else one
        for one in coil.figures
    ]
    return _compared(
        "coil", recipe, rounded(recipe), figures + legged.figures, told, places, off, wire.radius
    )


def _winding(name: str, scan: Scan, winding: TracedWinding) -> Traced:
    recipe, wire = {**winding.recipe, "name": name}, winding.wire
    places = _probes(winding.places)
    told = _beside(scan)
    if 1 - wire.covered > _LEFT:
        told.append(
            f"{100 * (1 - wire.covered):.0f} % of the surface is not of the winding, and was left out"
        )
    even = rounded_winding(recipe)
    off = _off(places, recipe, wire.radius)
    return _compared("winding", recipe, even, winding.figures, told, places, off, wire.radius)


def _bar(name: str, scan: Scan, bar: TracedBar) -> Traced:
    recipe = {**bar.recipe, "name": name}
    places = _probes(bar.places)
    told = _beside(scan)
    if bar.seen < 0.95:
        told.append(f"{100 * (1 - bar.seen):.0f} % of the way around was not seen, and is led on straight")
    off = _off(places, recipe, bar.size)
    return _compared("bar", recipe, rounded_bar(recipe), bar.figures, told, places, off, bar.size)


def _compared(
    kind: TracedKind,
    recipe: dict[str, Any],
    even: dict[str, Any],
    figures: list[TracedNumber],
    told: list[str],
    places: Array,
    off: Array,
    size: float,
    designations: Sequence[Designation] = (),
) -> Traced:
    """What is said of a recipe that places (n, 3) of the scan are `off` (n,), mm, and of its rounded one."""
    even_off = _off(places, even, size)
    found, even_found = (_deviation(one, size) for one in (off, even_off))
    ghost = Ghost(*(np.round(one, 4).tolist() for one in (places, off, even_off)))
    return Traced(kind, recipe, even, figures, found, even_found, list(designations), told, ghost)


def _beside(scan: Scan) -> list[str]:
    if not scan.plate:
        return []
    return [f"a flat plate, {100 * scan.plate:.0f} % of the surface, was left out"]


def _probes(places: Array) -> Array:
    return places[:: max(1, len(places) // _PROBES)]


def _off(places: Array, recipe: dict[str, Any], radius: float) -> Array:
    """How far (n,) places (n, 3) of the scan are out of the surface of the recipe's part, mm."""
    part = part_of(recipe)
    own = PlacedBody("part", 0.0, *as_one([body.mesh(radius / 100) for body in bodies_of(part)]), True)
    return own.distance(places)


def _deviation(off: Array, radius: float) -> Deviation | None:
    """What is said of places that are so far off; None where all are far."""
    far = np.abs(off)
    near = far[far < 3 * radius]
    if not len(near):
        return None
    return Deviation(float(near.mean()), float(np.percentile(near, 95)), float(near.max()))


def _in_its_place(points: Array, coil: TracedCoil) -> Array:
    """Upright places where the recipe's part stands: its start at the angle and the height of 0; one that is
    wound to the left is turned over, since it climbs as its angle falls."""
    wire = coil.wire
    turned = turned_about(points, -float(wire.angle[0])) - [0, 0, wire.up[0]]
    return np.asarray(turned * (1.0 if wire.right else TURNED_OVER) - [0, 0, coil.lift])


def _thread(name: str, scan: Scan, thread: TracedThread) -> Traced | RecipeError:
    known = named(thread)
    told = _beside(scan)
    if known.standard is None:
        told.append("no standard thread has this profile; the recipe has the form that was measured")
    elif thread.starts > 1:
        told.append(f"{thread.starts} starts were found; the names in the list are of one")
    for end, angle in zip(("start", "end"), thread.flanks, strict=True):
        if angle is None:
            told.append(f"the flank towards the {end} was hardly seen; its angle could not be told")
    figures = [
        replace(one, input=_INPUTS.get(one.key) if known.standard is None else None) for one in thread.figures
    ]
    worn = None if known.standard is None else wear_of(thread, known.standard)
    if worn is not None:
        figures.append(worn)
        if worn.value > worn.sure:
            told.append(
                f"its pitch diameter is {worn.value:.2g} mm beyond its limit: worn, or not made to that class"
            )
    recipe = {**known.recipe, "name": name}
    even = rounded_thread(recipe)
    places = _probes(known.places)
    off = _off(places, recipe, thread.depth)
    if float(np.median(np.abs(off))) > _FAR_OFF * thread.depth + 2 * scan.noise:
        reason = f"the thread that fits best is {np.median(np.abs(off)):.2g} mm off the surface"
        return RecipeError(Problem("/file", reason, "give one thread, without its surroundings"))
    return _compared("thread", recipe, even, figures, told, places, off, thread.depth, known.designations)
