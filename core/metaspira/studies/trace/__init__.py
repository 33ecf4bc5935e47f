"""From a body in a file back to the recipe that would make it."""

from __future__ import annotations

from collections.abc import Callable
from typing import Any

import numpy as np
import trimesh

from metaspira.formats.bodies import bodies_in
from metaspira.numbers.jets import Array
from metaspira.parts import Part, part_of
from metaspira.problems import Problem, RecipeError
from metaspira.references.placed import PlacedBody
from metaspira.studies.trace.coil import TracedCoil, coil_of
from metaspira.studies.trace.scan import Scan, scan_of
from metaspira.studies.trace.screw import screw_of
from metaspira.studies.trace.thread import TracedThread, thread_of
from metaspira.studies.trace.traced import Designation, Deviation, Measured, Traced
from metaspira.studies.trace.wire import WoundWire, ground_ends, wound_wire
from metaspira.sweep.mesh import as_one
from metaspira.threads.lookup import measured

__all__ = ["Designation", "Deviation", "Measured", "Traced", "trace", "trace_mesh"]

Progress = Callable[[float, str], None]

_ROUND, _COVERED, _SEEN = 0.12, 0.55, 0.35
_FOLDS = 0.2
_PROBES = 4000


def trace(
    data: bytes, suffix: str, unit: str | None, name: str, progress: Progress = lambda share, words: None
) -> Traced:
    """The recipe of the body in a file's bytes. `unit` is that of a file which does not say its own. Raises
    RecipeError where it cannot be read, or is no such part."""
    progress(0.0, "reading the file")
    return trace_mesh(bodies_in(data, suffix, unit, name).mesh, name, progress)


def trace_mesh(
    mesh: trimesh.Trimesh, name: str, progress: Progress = lambda share, words: None
) -> Traced:
    """The recipe of a body by its triangles, mm. Raises RecipeError where it is no such part."""
    progress(0.1, "spreading places over the surface")
    scan = scan_of(mesh)
    progress(0.2, "looking for its axis")
    screw = screw_of(scan)
    progress(0.3, "looking for the wire")
    wire = wound_wire(scan, screw)
    if wire is not None and _is_wire(wire):
        progress(0.6, "fitting a coil")
        _, ground = ground_ends(scan, screw)
        coil = coil_of(wire, ground if wire.up[-1] >= wire.up[0] else ground[::-1])
        progress(0.9, "measuring how far it is off")
        return _coil(name, scan, wire, coil)
    progress(0.6, "looking for a thread")
    thread = thread_of(scan, screw)
    if thread is not None and thread.spread < _FOLDS:
        return _thread(name, thread)
    raise RecipeError(_nothing(wire, thread))


def _is_wire(wire: WoundWire) -> bool:
    return wire.noise < _ROUND * wire.radius and wire.covered > _COVERED and wire.turns > 0.6


def _nothing(wire: WoundWire | None, thread: TracedThread | None) -> Problem:
    if wire is None and thread is None:
        reason = "no wire that is wound around an axis, and no thread, was found in it"
    elif wire is not None and wire.noise >= _ROUND * wire.radius:
        reason = (
            f"no coil of round wire and no thread was found: the surface lies {wire.noise:.2g} mm off a wire of "
            f"⌀{2 * wire.radius:.3g} mm"
        )
    elif wire is not None:
        reason = f"only {100 * wire.covered:.0f} % of the surface lies on one wire"
    else:
        reason = "the surface does not fold into one thread"
    return Problem("/file", reason, "give one coil of round wire or one thread, without its surroundings")


def _coil(name: str, scan: Scan, wire: WoundWire, coil: TracedCoil) -> Traced:
    told = []
    if scan.plate:
        told.append(f"a flat plate, {100 * scan.plate:.0f} % of the surface, was left out")
    if wire.covered < 0.9:
        told.append(f"{100 * (1 - wire.covered):.0f} % of the surface is not of the coil (legs or hooks), and was left out")
    if wire.seen < 0.95:
        told.append(f"{100 * (1 - wire.seen):.0f} % of the wire was not seen; the coil is led on through it")
    return Traced("coil", {**coil.recipe, "name": name}, coil.figures, _deviation(scan, wire, coil), [], told)


def _deviation(scan: Scan, wire: WoundWire, coil: TracedCoil) -> Deviation | None:
    """By places of the scan beside the recipe's own surface, the start of both at one angle and height."""
    part = part_of(coil.recipe)
    assert isinstance(part, Part)
    own = PlacedBody("part", 0.0, *as_one([body.mesh(wire.radius / 100) for body in part.bodies]), True)
    points = _in_its_place(wire.axis.upright(scan.points), wire, coil)
    far = np.abs(own.distance(points[:: max(1, len(points) // _PROBES)]))
    near = far[far < 3 * wire.radius]
    if not len(near):
        return None
    return Deviation(float(near.mean()), float(np.percentile(near, 95)), float(near.max()))


def _in_its_place(points: Array, wire: WoundWire, coil: TracedCoil) -> Array:
    """Upright places where the recipe's part stands: its start at the angle and the height of 0; one that is
    wound to the left is turned over, since it climbs as its angle falls."""
    cosine, sine = np.cos(wire.angle[0]), np.sin(wire.angle[0])
    turned = points @ np.array([[cosine, -sine, 0], [sine, cosine, 0], [0, 0, 1]]) - [0, 0, wire.up[0]]
    over = [1, -1, -1] if wire.up[-1] < wire.up[0] else [1, 1, 1]
    return np.asarray(turned * over - [0, 0, coil.lift])


def _thread(name: str, thread: TracedThread) -> Traced:
    error = max(4 * thread.noise, 0.1)
    found = measured(
        thread.crest, thread.pitch, thread.side, 6, error, max(0.02, 2 * thread.noise * thread.pitch / thread.length)
    )
    names = [Designation(one.row.designation, one.probable, one.pitch_off, one.diameter_off) for one in found]
    best = names[0]
    kind = "rod" if thread.side == "external" else "bore"
    hand = {"hand": "left"} if thread.hand == "left" else {}
    recipe: dict[str, Any] = {
        "format": "metaspira/1",
        "unit": "mm",
        "name": name,
        "thread": {"designation": best.name, **hand},
        "host": {"kind": kind, "length": round(thread.length, 2)},
    }
    told = ["the thread is taken for the standard one that comes first; compare the flank angles before you trust it"]
    if thread.starts > 1:
        told.append(f"{thread.starts} starts were found; the series holds threads of one")
    return Traced("thread", recipe, thread.figures, None, names, told)

