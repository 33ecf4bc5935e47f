"""Threads on rods and in bores, by the conventions of ISO 6410-1: the crest a wide line, the root a thin one,
seen along the axis as three quarters of a circle; a bore in section, hatched up to its crest. Where that is
asked for, the front shows the helix as one sees it."""

from __future__ import annotations

import math
from typing import Literal

import numpy as np
from shapely import LineString

from metaspira.drawings import told
from metaspira.drawings.marks import Arc, Circle, Hatch, Line, Mark, Point
from metaspira.drawings.outside import front_and_top
from metaspira.drawings.plan import Plan
from metaspira.drawings.seen import FRONT
from metaspira.drawings.shape import cut, seen
from metaspira.drawings.tables import Notes, Table
from metaspira.drawings.view import Measure, Pointer, Projected, View, cross, upright
from metaspira.parts import ThreadedPart
from metaspira.threads.asked import Mate
from metaspira.threads.body import ThreadBody
from metaspira.threads.hosts import Host
from metaspira.threads.thread import Side

_QUARTER = (-10.0, 260.0)
_APART, _SAMPLES = 1e-6, 257
_ROOM = (60.0, 34.0)
_ROUNDED = 1e-3


def plan_of(part: ThreadedPart) -> Plan:
    """The plan of a thread that is a rod or a bore, or is laid on one."""
    if part.recipe.use.as_ != "body":
        thread = (
            f"Thread {part.thread.designation}, {part.side}, pitch {part.length_shown(part.thread.pitch)}"
        )
        notes = Notes((thread, *told.notes_of(part)))
        return Plan((front_and_top(part, turned=True),), (notes,), part.reach / 3)
    host, mate = part.recipe.host, part.recipe.mate
    rod = part.side == "external"
    views = [_rod(part, part.body, (host.plain, host.bored), "") if rod else _bore(part, part.body, host, "")]
    if mate is not None and len(part.bodies) > 1:
        other, of = part.bodies[1], " of the mate"
        views.append(_bore(part, other, mate, of) if rod else _rod(part, other, (None, None), of))
    notes = Notes((*_said(part), *told.notes_of(part)))
    thin = part.profile.outer - part.profile.inner
    return Plan((*views, _profile(part)), (notes, *_limits(part)), 2 * thin)


def _crest(body: ThreadBody, rod: bool) -> list[Point]:
    """The line of the crests along the axis, as (r, z): of a rod the outermost, of a bore the innermost."""
    profile = body.thread.profile
    share = np.linspace(0.0, 1.0, _SAMPLES)
    runs = []
    for leg in body.thread.legs:
        low, high, z = (np.interp(share, [0.0, 1.0], ends) for ends in (leg.low, leg.high, leg.heights))
        off = np.interp(share, [0.0, 1.0], leg.outline.points[[0, -1], 0])
        if rod:
            radius = np.maximum(np.minimum(profile.outer + off, high), low)
        else:
            radius = np.minimum(np.maximum(profile.inner + off, low), high)
        runs.append(np.column_stack([radius, z]))
    return [(float(r), float(z)) for r, z in LineString(np.concatenate(runs)).simplify(_APART).coords]


def _root(body: ThreadBody, rod: bool, z: float) -> float:
    """The radius of the root at a height."""
    profile = body.thread.profile
    heights = [leg.heights[k] for leg in body.thread.legs for k in (0, 1)]
    off = [float(leg.outline.points[k, 0]) for leg in body.thread.legs for k in (0, -1)]
    return (profile.inner if rod else profile.outer) + float(np.interp(z, heights, off))


def _rod(
    part: ThreadedPart, body: ThreadBody, plain: tuple[float | None, float | None], of: str
) -> Projected:
    """A rod, and along its axis; `plain` are the diameters of its shank and of the hole through it."""
    crest = _crest(body, True)
    low, high = crest[0][1], crest[-1][1]
    start, end = (low, high) if of else part.full
    wide = max(r for r, _ in crest)
    across = np.array(crest)
    ring = [*crest, *((-r, z) for r, z in reversed(crest)), crest[0]]
    marks: list[Mark] = [Line(tuple(ring))]
    roots = [(_root(body, True, z), z) for z in (start, end)]
    marks += [Line(tuple((side * r, z) for r, z in roots), thin=True) for side in (-1, 1)]
    for z in (start, end):
        if low + _APART < z < high - _APART:
            reach = float(np.interp(z, across[:, 1], across[:, 0]))
            marks.append(Line(((-reach, z), (reach, z))))
    marks += [Line(((-r, z), (r, z))) for r, z in crest[1:-1] if not start <= z <= end]
    first = crest[1][0]
    measures = [
        *_lengths(part, -wide, low, high, of),
        _across((first, low), "below", _designation(part, "external")),
    ]
    shank, hole = plain
    if shank is not None and abs(shank / 2 - first) > _APART:
        measures.append(_across((shank / 2, high), "above", _round(part, shank / 2)))
    root = Arc((0.0, 0.0), _root(body, True, low), *_QUARTER, thin=True)
    along: list[Mark] = [Circle((0.0, 0.0), first), root]
    holes: tuple[Pointer, ...] = ()
    if hole is not None:
        along.append(Circle((0.0, 0.0), hole / 2))
        holes = (Pointer((hole / 2, 0.0), _round(part, hole / 2)),)
    box, round_ = (-wide, low, wide, high), (-wide, -wide, wide, wide)
    if part.recipe.thread.drawn == "helix":
        marks = seen([body.mesh(part.usual_chord_error)], FRONT, part.profile.outer / 100)
    return Projected(
        View(
            f"Front{of}", box, tuple(marks), tuple(measures), _ends(part, crest, of), axes=upright(low, high)
        ),
        View(f"Along the axis{of}", round_, tuple(along), (), holes, axes=cross(wide)),
    )


def _bore(part: ThreadedPart, body: ThreadBody, host: Host | Mate, of: str) -> Projected:
    """A sleeve in section, and along its axis."""
    flats = getattr(host, "across_flats", None)
    outside = getattr(host, "outside", None)
    crest = _crest(body, False)
    low, high = crest[0][1], crest[-1][1]
    start, end = (low, high) if of else part.full
    roots = [(_root(body, False, z), z) for z in (start, end)]
    major = roots[0][0]
    outer = body.outer_radius
    wall = (flats or outside or 2 * outer) / 2
    marks: list[Mark] = []
    for side in (-1, 1):
        ring = [(side * r, z) for r, z in crest] + [(side * wall, high), (side * wall, low)]
        marks += [Line((*ring, ring[0])), Hatch((tuple(ring),))]
        marks.append(Line(tuple((side * r, z) for r, z in roots), thin=True))
    marks += [Line(((-r, z), (r, z))) for r, z in (crest[0], crest[-1])]
    marks += [Line(((-r, z), (r, z))) for r, z in roots if low + _APART < z < high - _APART]
    named = _designation(part, "internal")
    measures = _lengths(part, -wall, low, high, of)
    if high - end > start - low:
        measures.append(_across((major, low), "below", named))
        hole, beyond = _across(crest[-1], "above", _round(part, crest[-1][0])), high - end
    else:
        measures.append(_across((major, high), "above", named))
        hole, beyond = _across(crest[0], "below", _round(part, crest[0][0])), start - low
    if beyond > _APART:
        measures.append(hole)
    if part.recipe.thread.drawn == "helix":
        marks = [*cut([body.mesh(part.usual_chord_error)], part.profile.outer / 100), *_rounded(part, body)]
    box, round_ = (-wall, low, wall, high), (-outer, -outer, outer, outer)
    inner = min(r for r, _ in crest)
    along: list[Mark] = [Circle((0.0, 0.0), inner), Arc((0.0, 0.0), major, *_QUARTER, thin=True)]
    across: tuple[Measure, ...]
    if flats is not None:
        far = wall / math.cos(math.pi / 6)
        corners = [
            (far * math.cos(math.radians(60 * k)), far * math.sin(math.radians(60 * k))) for k in range(7)
        ]
        along.append(Line(tuple(corners)))
        left = -far / 2
        across = (Measure((left, -wall), (left, wall), "left", f"AF {part.length_shown(flats)}"),)
    else:
        along.append(Circle((0.0, 0.0), wall))
        across = (_across((wall, 0.0), "above", _round(part, wall)),)
    return Projected(
        View(
            f"Section{of}",
            box,
            tuple(marks),
            tuple(measures),
            _ends(part, crest, of),
            axes=upright(low, high),
        ),
        View(f"Along the axis{of}", round_, tuple(along), across, axes=cross(outer)),
    )


def _rounded(part: ThreadedPart, body: ThreadBody) -> list[Mark]:
    """Thin lines along the crests of a bore behind its section, where these are rounded and have no edges."""
    surface, (start, end) = body.thread, part.full
    pitch, line = surface.profile.pitch, surface.profile.line()
    crest = float(line[line[:, 1].argmin(), 0])
    on_crest = line[:, 1] < surface.profile.inner + _ROUNDED * pitch
    if np.ptp((line[on_crest, 0] - crest + pitch / 2) % pitch) > pitch / 16:
        return []
    turn = np.linspace(0.0, math.pi, 65)
    across = surface.inner_radius * np.cos(turn)
    climb = crest + surface.sign * surface.lead * turn / (2 * math.pi)
    found: list[Mark] = []
    for k in range(math.floor((start - climb.max()) / pitch), math.ceil((end - climb.min()) / pitch) + 1):
        z = climb + k * pitch
        seen_there = (z > start) & (z < end)
        if seen_there.sum() > 1:
            places = zip(across[seen_there].tolist(), z[seen_there].tolist(), strict=True)
            found.append(Line(tuple(places), thin=True))
    return found


def _lengths(part: ThreadedPart, side: float, low: float, high: float, of: str) -> list[Measure]:
    """How long a member is, and its thread where that is shorter."""
    asked, found = part.recipe.thread, []
    if not of and asked.length is not None and asked.length < high - low - _APART:
        ends = (side, low + asked.at), (side, low + asked.at + asked.length)
        found.append(Measure(*ends, "left", part.length_shown(asked.length)))
    return [*found, Measure((side, low), (side, high), "left", part.length_shown(high - low), len(found))]


def _across(place: Point, side: Literal["above", "below"], words: str) -> Measure:
    """A diameter, by a place on it."""
    radius, z = place
    return Measure((-radius, z), (radius, z), side, words)


def _round(part: ThreadedPart, radius: float) -> str:
    return f"⌀{part.length_shown(2 * radius)}"


def _ends(part: ThreadedPart, crest: list[Point], of: str) -> tuple[Pointer, ...]:
    """How the part's thread starts and ends, pointed at; of its mate nothing is asked."""
    asked = part.recipe.thread
    long = part.recipe.host.height - asked.at if asked.length is None else asked.length
    low, high = crest[0][1] + asked.at, crest[0][1] + asked.at + long
    full = part.full
    found = []
    for end, z, above in ((asked.start, (low + full[0]) / 2, False), (asked.end, (high + full[1]) / 2, True)):
        if end is not None and not of:
            radius = float(np.interp(z, [z for _, z in crest], [r for r, _ in crest]))
            found.append(Pointer((radius, z), end.noted(part.length_shown, part.profile, part.side), above))
    return tuple(found)


def _designation(part: ThreadedPart, side: Side) -> str:
    """That of a member: with its own tolerance where the designation names the other one."""
    thread = part.thread
    if thread.side in (None, side):
        return thread.designation
    own, other = thread.member(side).tolerance, thread.member(thread.side).tolerance
    return thread.designation.removesuffix(other) + own


def _profile(part: ThreadedPart) -> View:
    """The thread's axial profile over two pitches, its axis level."""
    pitch = part.thread.pitch
    one = part.profile.line()
    rows = [(float(z) + shift, float(r)) for shift in (0.0, pitch) for z, r in one]
    left, right = rows[0][0], rows[-1][0]
    low, high = min(r for _, r in rows), max(r for _, r in rows)
    measures = (
        Measure((left, high), (left + pitch, high), "above", f"P {part.length_shown(pitch)}"),
        Measure((right, low), (right, high), "right", part.length_shown(high - low)),
    )
    return View(
        "Profile through the axis", (left, low, right, high), (Line(tuple(rows)),), measures, (), _ROOM
    )


def _said(part: ThreadedPart) -> list[str]:
    thread = part.thread
    hand = "" if thread.hand == "right" else ", left hand"
    starts = "" if thread.starts == 1 else f", {thread.starts} starts, lead {part.length_shown(thread.lead)}"
    told = f"Thread {thread.designation}, {part.side}{hand}{starts}"
    return [told, "Sizes: " + "; ".join(" ".join(source) for source in thread.sources)]


def _limits(part: ThreadedPart) -> tuple[Table, ...]:
    """Limits of size of each member that is drawn, where the standard sets any."""
    sides: tuple[Side, ...] = ("external", "internal") if len(part.bodies) > 1 else (part.side,)
    rows = [("Limits", *(f"{side}, {end}" for side in sides for end in ("max.", "min.")))]
    for title, name in (("Major ⌀", "major"), ("Pitch ⌀", "pitch"), ("Minor ⌀", "minor")):
        cells = []
        for side in sides:
            size = getattr(part.thread.member(side), name)
            cells += ["–" if value is None else _exact(part, value) for value in (size.max, size.min)]
        rows.append((title, *cells))
    has = any(cell != "–" for row in rows[1:] for cell in row[1:])
    return (Table("Limits of size", tuple(rows)),) if has else ()


def _exact(part: ThreadedPart, value: float) -> str:
    return f"{value / part.length_unit:.{4 if part.typed.unit == 'in' else 3}f}"
