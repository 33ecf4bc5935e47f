"""The recipe of a coil whose centre line was traced: the plainest of several that keeps to it."""

from __future__ import annotations

import math
from collections.abc import Callable
from dataclasses import dataclass, replace
from typing import Any

import numpy as np
from scipy.optimize import least_squares

from metaspira.numbers.jets import Array
from metaspira.parts import Part, part_of
from metaspira.problems import RecipeError
from metaspira.studies.trace.outline import SectionFound, section_about, upright
from metaspira.studies.trace.traced import TracedNumber
from metaspira.studies.trace.wire import WoundWire, moved

_STATIONS = 160
_CLOSED, _OPEN = 1.2, 1.35
_KEPT = 0.03
_POINTS = 9
_DEAD = 0.4
_LEG_TURNS = 0.15
_GROUND_END = 0.005  # turns of the tip that is ground away
LEGLESS, LEG_SURE, LEG_FOUND = 0.95, 0.07, 0.02
"""What share of the surface lies on a wire without legs at the least; how sure the turns are where a leg
begins that is not seen apart, and by each leg that was found."""
_OUTLINED = 0.004
_DIVIDED = 3  # corners where facets were divided finer lie off as well


@dataclass(frozen=True, eq=False)
class TracedCoil:
    """The recipe; how far its centre line is off that of the `wire`, mm, by the root of the mean square; and
    by how much more that is up from its start."""

    recipe: dict[str, Any]
    wire: WoundWire
    off: float
    lift: float
    figures: list[TracedNumber]


def coil_of(wire: WoundWire) -> TracedCoil | None:
    """The coil along a traced wire; None where no coil keeps to it."""
    wire, section = _sectioned(wire)
    pace = np.gradient(wire.up, wire.angle) * 2 * math.pi * (1 if wire.right else -1)
    frame = _Frame(wire, section, _closed(wire, pace))
    best: TracedCoil | None = None
    for model in (_cylinder, _cone, _by_points):
        found = model(frame)
        if found is not None and (best is None or found.off < 0.7 * best.off):
            best = found
        if best is not None and best.off < max(_KEPT * 2 * wire.radius, 0.5 * wire.noise):
            break
    return best


def _sectioned(wire: WoundWire) -> tuple[WoundWire, SectionFound]:
    """The wire along the middle of its section."""
    if wire.round:
        sizes = {"diameter": "Diameter"}
        recipe = {"kind": "round", "diameter": round(2 * wire.radius, 4)}
        return wire, SectionFound(recipe, 0.0, 0.0, sizes)
    # a wire to the left is turned over
    side = slice(None, None, 1 if wire.right else -1)
    section = upright(section_about(wire.outline[side], wire.noise, wire.ways[side]))
    across, along = section.at
    return moved(wire, across, along if wire.right else -along), section


@dataclass(frozen=True, eq=False)
class _Frame:
    wire: WoundWire
    section: SectionFound
    closed: tuple[float, float]
    change: float = 0.5

    @property
    def share(self) -> Array:
        return np.asarray((self.wire.angle - self.wire.angle[0]) / np.ptp(self.wire.angle))

    @property
    def beside(self) -> float:
        """The share of the wire at each end that may be a leg, which goes on as the coil does at first."""
        return _LEG_TURNS / self.wire.turns if self.wire.covered < LEGLESS and self.wire.turns > 1 else 0.0

    def recipe(self, **path: Any) -> dict[str, Any]:
        ends = {
            end: {"kind": "ground"}
            for end, flat in zip(("start", "end"), self.wire.ground, strict=True)
            if flat
        }
        closed = {
            end: round(turns, 5) for end, turns in zip(("start", "end"), self.closed, strict=True) if turns
        }
        if closed:
            closed["change"] = round(self.change, 5)
        lean = round(math.degrees(self.section.turned), 2)
        return {
            "format": "metaspira/1",
            "unit": "mm",
            "path": {
                "kind": "coil",
                "hand": "right" if self.wire.right else "left",
                **path,
                "turns": round(self.wire.turns, 4),
                **({"closed": closed} if closed else {}),
            },
            "section": self.section.recipe,
            **({"along": {"twist": {"from": lean, "to": lean}}} if lean else {}),
            **({"ends": ends} if ends else {}),
            **({"strands": {"count": self.wire.starts}} if self.wire.starts > 1 else {}),
            **({"spring": {"kind": "compression"}} if all(self.closed) else {}),
        }


def _closed(wire: WoundWire, pace: Array) -> tuple[float, float]:
    """How many turns at each end are wound to touch; none where all of them do, or none."""
    pitch = float(np.median(pace))
    touch = wire.thick
    if pitch < _OPEN * touch:
        return 0.0, 0.0
    few = max(2, round(_DEAD * 2 * math.pi / float(np.diff(wire.angle).mean())))
    return tuple(  # type: ignore[return-value]
        1.0 if float(np.median(end)) < _CLOSED * touch else 0.0 for end in (pace[:few], pace[-few:])
    )


def _cylinder(frame: _Frame) -> TracedCoil | None:
    start = [2 * float(np.median(frame.wire.out)), *_paces(frame)]
    return _fitted(frame, start, lambda x: {"diameter": x[0]})


def _cone(frame: _Frame) -> TracedCoil | None:
    slope, middle = np.polyfit(frame.share - 0.5, frame.wire.out, 1)
    start = [2 * (middle - slope / 2), 2 * (middle + slope / 2), *_paces(frame)]
    return _fitted(frame, start, lambda x: {"diameter": x[0], "end_diameter": x[1]})


def _by_points(frame: _Frame) -> TracedCoil | None:
    """Diameter and pitch by points; where the end turns are closed, they are among the points."""
    wire = frame.wire
    share = np.linspace(0, 1, _POINTS)
    out = np.interp(share, frame.share, wire.out)
    dense = np.linspace(0, 1, 2 * _POINTS - 1)
    pace = np.abs(np.gradient(wire.up, wire.angle)) * 2 * math.pi
    paces = [float(np.mean(pace[np.abs(frame.share - at) <= 0.03])) for at in dense]
    open_frame = replace(frame, closed=(0.0, 0.0))
    recipe = open_frame.recipe(
        diameter={"points": _points(share, 2 * out), "ease": "smooth"},
        pitch={"points": _points(dense, paces), "ease": "smooth"},
    )
    return _held(frame, recipe)


def _paces(frame: _Frame) -> list[float]:
    rise = float(abs(frame.wire.up[-1] - frame.wire.up[0]))
    dead = sum(frame.closed)
    pitch = (rise - dead * frame.wire.thick) / max(frame.wire.turns - dead, 0.5)
    return [pitch, *(turns for turns in frame.closed if turns), *([frame.change] if dead else [])]


def _fitted(frame: _Frame, start: list[float], path: Callable[[Array], dict[str, Any]]) -> TracedCoil | None:
    """The numbers at which the centre line keeps to the traced one: those of `path`, the pitch, and where
    there are closed turns those of each end and over how many the pitch changes."""
    ends = [end for end, turns in enumerate(frame.closed) if turns]
    own = len(start) - len(_paces(frame))

    def recipe(x: Array) -> dict[str, Any]:
        closed = [0.0, 0.0]
        for k, end in enumerate(ends):
            closed[end] = float(np.clip(x[own + 1 + k], 0.25, 0.45 * frame.wire.turns))
        change = float(np.clip(x[-1], 0.1, 2.0)) if ends else frame.change
        fresh = replace(frame, closed=(closed[0], closed[1]), change=change)
        numbers = {key: round(float(value), 5) for key, value in path(x).items()}
        return fresh.recipe(**numbers, pitch=round(float(x[own]), 5))

    def off(x: Array) -> Array:
        apart = _apart(frame, recipe(x))
        if apart is None:
            return np.full(2 * _STATIONS, 10 * frame.wire.radius)
        out, climb = apart.reshape(2, -1)
        return np.concatenate([out, climb - climb.mean()])

    found = least_squares(off, start, x_scale=np.maximum(np.abs(start), 0.1), diff_step=1e-3, max_nfev=30)
    return _held(frame, recipe(found.x))


def _held(frame: _Frame, recipe: dict[str, Any]) -> TracedCoil | None:
    apart = _apart(frame, recipe)
    if apart is None:
        return None
    out, climb = apart.reshape(2, -1)
    lift = float(climb.mean())
    off = float(np.sqrt(np.mean(out**2 + (climb - lift) ** 2)))
    return TracedCoil(recipe, frame.wire, off, lift, _figures(frame, recipe["path"], off))


def _apart(frame: _Frame, recipe: dict[str, Any]) -> Array | None:
    """How far the recipe's centre line is off the traced one, outward and along the axis, mm, at the same
    shares of the angle; None where the recipe makes no part."""
    try:
        part = part_of(recipe)
    except RecipeError:
        return None
    assert isinstance(part, Part)
    s = np.linspace(0, part.path.length, 24 * max(4, math.ceil(frame.wire.turns)))
    line = part.path.derivatives(s, 0)[0]
    angle = np.abs(np.unwrap(np.arctan2(line[:, 1], line[:, 0])))
    wire = frame.wire
    share = np.linspace(frame.beside, 1 - frame.beside, _STATIONS)
    theirs = (np.interp(share, frame.share, wire.out), np.interp(share, frame.share, wire.up))
    at = np.interp(share, angle / angle[-1], np.arange(len(s)))
    index = np.arange(len(s))
    ours = (np.interp(at, index, np.hypot(line[:, 0], line[:, 1])), np.interp(at, index, line[:, 2]))
    climb = np.abs(theirs[1] - wire.up[0]) - ours[1]
    return np.concatenate([theirs[0] - ours[0], climb])


def _figures(frame: _Frame, path: dict[str, Any], off: float) -> list[TracedNumber]:
    """What was measured, each with how sure it is: half the width (95 %) of its interval by the noise
    of the surface, by how many places each stands on, by what facets leave out, and by how far the model is
    off the line."""
    wire = frame.wire
    point = 2 * wire.noise / math.sqrt(max(len(wire.off), 1) / 50) + _DIVIDED * wire.facets
    if not wire.round:  # facets and corners are within the bins of its outline
        point += _OUTLINED * wire.radius
    sure = 2 * (point + 2 * off / math.sqrt(max(frame.wire.turns, 1.0)))
    end = 2 * (wire.noise / float(np.median(wire.out)) + math.radians(0.5)) / (2 * math.pi)
    end += _GROUND_END * sum(wire.ground)
    if wire.covered < LEGLESS:  # where a leg begins is not seen
        end += LEG_SURE
    section = frame.section
    found = [
        TracedNumber(
            f"wire_{key}",
            f"Wire {title.lower()}",
            section.recipe[key],
            2 * (point + section.off),
            "mm",
            f"/section/{key}",
        )
        for key, title in section.sizes.items()
    ]
    first, last = path["diameter"], path.get("end_diameter")
    if isinstance(first, float) and last is None:
        found.append(TracedNumber("diameter", "Mean diameter", first, sure, "mm", "/path/diameter"))
    else:
        for key, words, value in (("diameter", "start", wire.out[0]), ("end_diameter", "end", wire.out[-1])):
            title, stands = f"Mean diameter at the {words}", isinstance(path.get(key), float)
            found.append(
                TracedNumber(key, title, 2 * float(value), sure, "mm", f"/path/{key}" if stands else None)
            )
    if wire.starts > 1:
        found.append(TracedNumber("strands", "Wires", float(wire.starts), 0.0, "", "/strands/count"))
    found.append(TracedNumber("turns", "Turns", frame.wire.turns, 2 * end, "", "/path/turns"))
    pitch = path["pitch"]
    if isinstance(pitch, float):
        slack = (sure + 2 * end * pitch) / frame.wire.turns
        found.append(TracedNumber("pitch", "Pitch", pitch, slack, "mm", "/path/pitch"))
    rise = float(abs(wire.up[-1] - wire.up[0]))
    found.append(TracedNumber("height", "Height of the centre line", rise, sure, "mm"))
    return found


def _points(share: Array, values: Array | list[float]) -> list[list[float]]:
    return [[round(float(at), 4), round(float(value), 4)] for at, value in zip(share, values, strict=True)]
