"""What an interface draws of a part: the wire strip's lanes, the section in both planes, sections along the
path, a slice, what the stance goes by, and field values."""

from __future__ import annotations

import math
from typing import Any

import numpy as np

from metaspira.checks import Report
from metaspira.numbers.jets import Array
from metaspira.parts import AnyPart, Part
from metaspira.paths import CurvePath, Path
from metaspira.paths.path import Stations
from metaspira.problems import pointer
from metaspira.recipe.fields import number_fields
from metaspira.recipe.resolving import in_typed_units, variable_values
from metaspira.recipe.variables import uses_of
from metaspira.recipe.wording import field_words
from metaspira.sections.planes import across_from_axial, axial_from_across
from metaspira.sweep.ground import mesh_of
from metaspira.sweep.mesh import preview_fineness

_STRIP_STATIONS = 400
_STRAIGHT = 1e-6
_RIBS = 24
_MOST_MARKS = 120
_GUIDE_POINTS = 160
_SLICE_REACH = 6.0

Points2 = list[list[float]]


def strip(report: Report) -> dict[str, list[float | None] | None]:
    """Lanes over the true length `s` (mm): twist and tilt (degrees), size, width, depth and shape (None where
    one stays as it is), gap (mm), the stress of a spring at its hardest working point (MPa), the radius of
    the bend of its centre line, and of a coil around the axis its own radius and pitch there, mm; and the
    place x, y, z."""
    part = report.part
    assert isinstance(part, Part)
    sweep = part.sweep
    s = np.linspace(0.0, sweep.length, _STRIP_STATIONS + 1)
    share = s / sweep.length
    lane = report.gap_lane
    gap = np.interp(s, lane.s, lane.value) if len(lane.s) else np.full_like(s, np.nan)
    station = sweep.path.at(s)
    origin = station.position
    changes = sweep.changes
    lanes: dict[str, Array | None] = {
        "s": s,
        "twist": np.degrees(changes.twist.value(share)),
        "size": changes.size.value(share),
        "gap": gap,
        "x": origin[:, 0],
        "y": origin[:, 1],
        "z": origin[:, 2],
    }
    for name, factor in (("width", 1.0), ("depth", 1.0), ("tilt", math.degrees(1.0)), ("shape", 1.0)):
        varying = getattr(changes, name)
        lanes[name] = None if varying.constant is not None else factor * varying.value(share)
    curvature = np.linalg.norm(station.curvature, axis=1)
    lanes["bend"] = np.where(curvature * sweep.length > _STRAIGHT, 1 / np.maximum(curvature, 1e-300), np.nan)
    lanes["radius"], lanes["pitch"] = _coiled(part, s, station)
    lanes["stress"] = _stress(part, s)
    lanes["turns"] = _whole_turns(part)
    return {name: None if values is None else _plain(values) for name, values in lanes.items()}


def _coiled(part: Part, s: Array, station: Stations) -> tuple[Array | None, Array | None]:
    """Radius and pitch, mm (n,), of a coil around the axis; none in its legs."""
    path = part.path
    if path.coil is None:
        return None, None
    low = path.legs_at[0]
    inside = (s >= low - 1e-9) & (s <= low + path.without_legs.length + 1e-9)
    (x, y, _), (across, along, rise) = station.position.T, station.tangent.T
    radius = np.hypot(x, y)
    around = np.abs(x * along - y * across) / np.maximum(radius, 1e-300)
    pitch = 2 * math.pi * radius * rise / np.maximum(around, 1e-300)
    return np.where(inside, radius, np.nan), np.where(inside, pitch, np.nan)


def _stress(part: Part, s: Array) -> Array | None:
    """Corrected stress, MPa (n,), of a spring at its hardest working point; none in its legs."""
    spring, path = part.spring, part.path
    if spring is None or not spring.points:
        return None
    low, body = path.legs_at[0], path.without_legs
    inside = (s >= low - 1e-9) & (s <= low + body.length + 1e-9)
    share = body.turned(np.clip(s - low, 0.0, body.length)) / body.turning
    return np.where(inside, spring.stress_along(spring.worst_effort, share), np.nan)


def _whole_turns(part: Part) -> Array:
    """True lengths at which whole turns end; none where there are too many to mark."""
    path = part.path
    if path.turns is None or not isinstance(path, CurvePath) or path.turns > _MOST_MARKS:
        return np.zeros(0)
    return np.array([path.length_at_turn(float(k)) for k in range(1, math.ceil(path.turns))])


def section_planes(part: Part) -> dict[str, Any]:
    """The outline (mm) across the wire and, on a coil, through the axis, at the start of the path; its
    holes in the same planes; where each of its edges starts; and a blend's outlines with their shares."""
    section = part.sweep.section
    outline = section.first
    ring = outline.ring(96, 24)
    firsts = [int(np.argmax(ring.edge == i)) for i in range(len(outline.edges))]
    coil = part.path.coil
    steps = [k / 4 for k in range(5)] if section.varies else []
    drawn: dict[str, Any] = {
        "edges": firsts,
        "closed": outline.closed,
        "blend": [{"at": at, "ring": section.at(at).ring(64, 4).points.tolist()} for at in steps],
    }
    rings = [ring.points, *(hole.ring(96, 24).points for hole in outline.holes)]
    given, other = ("across", "axial") if part.recipe.section.plane == "across" else ("axial", "across")
    drawn[given] = [points.tolist() for points in rings]
    if coil is None or coil.pitch <= 0:
        drawn[other] = None
    else:
        convert = axial_from_across if given == "across" else across_from_axial
        drawn[other] = [convert(points, coil.start_radius, coil.pitch).tolist() for points in rings]
    return drawn


def ribs(part: Part) -> list[Points2]:
    """A few sections along the path: rings (k, 3) in space, mm."""
    sweep = part.sweep
    s = np.linspace(0.0, sweep.length, _RIBS)
    return [ring.tolist() for ring in np.round(sweep.frames(s).points(sweep.ring(s, 24, 2)), 6)]


def guides(part: Part) -> dict[str, Any]:
    """What the wire goes by: the outline (r, z) of a turned body, a second curve, the core of a winding and
    the points of a path, in mm."""
    path, stance = part.recipe.path, part.recipe.stance
    lies_on, runs_around = path.lies_on("/path"), path.runs_around("/path")
    aims = stance.aim("/stance") if stance else None
    seat = stance.seat("/stance") if stance else None
    body: Points2 | None = None
    if lies_on is not None:
        body = _outline(lies_on)
    elif seat is not None and seat.outline is not None:
        body = _outline(seat.outline)
    elif seat is not None:
        height = part.path.derivatives(part.sweep.stations(24, least=9), 0)[0][:, 2]
        body = [[seat.radius, float(height.min())], [seat.radius, float(height.max())]]
    return {
        "body": body,
        "aim": None if aims is None else _line(aims, _GUIDE_POINTS),
        "core": None if runs_around is None else _line(runs_around, 4 * _GUIDE_POINTS),
        "points": None if path.corners is None else [list(map(float, point)) for point in path.corners],
    }


def slice_at(part: Part, s: float) -> dict[str, Any]:
    """The cut through the part in the section's plane at true length s (mm): the outline there, and the
    segments (n, 2, 2) in which the plane cuts whatever else is near, in mm along the section's axes."""
    import trimesh

    sweep = part.sweep
    here = np.array([min(max(s, 0.0), sweep.length)])
    frames = sweep.rigid(here)
    origin, first, second = frames.origin[0], frames.first[0], frames.second[0]
    normal = np.cross(first, second)
    width, _, depth, _ = sweep.scale(here)
    ring = sweep.ring(here, 96, 8)
    own = (ring[0] if ring.ndim == 3 else ring) * [float(width[0]), float(depth[0])]
    reach = _SLICE_REACH * sweep.reach()
    segments = []
    for body in part.bodies:
        mesh = mesh_of(body.sweep, preview_fineness(body.sweep))
        solid = trimesh.Trimesh(mesh.vertices, mesh.faces, process=False)
        cut = trimesh.intersections.mesh_plane(solid, normal, origin)
        if len(cut):
            flat = np.stack([(cut - origin) @ first, (cut - origin) @ second], axis=-1)
            segments.append(flat[np.linalg.norm(flat, axis=2).max(axis=1) < reach])
    found = np.concatenate(segments) if segments else np.zeros((0, 2, 2))
    return {"s": float(here[0]), "own": own.tolist(), "segments": np.round(found, 5).tolist()}


def point_bends(part: Part) -> list[dict[str, float | None]]:
    """For each point of a path through points: the tightest bend near it (mm), and how far it must keep
    from the points beside it for the section not to fold over there: R tan(φ/2) to either side, R the
    section's reach and φ the angle between its two legs."""
    corners = part.recipe.path.corners
    if corners is None:
        return []
    points = np.array(corners, dtype=float)
    s = part.sweep.stations(48, least=65)
    place, _, bend = part.path.derivatives(s, 2)
    curvature = np.linalg.norm(bend, axis=1)
    nearest = np.argmin(np.linalg.norm(points[:, None] - place[None], axis=2), axis=0)
    reach = part.sweep.reach()
    out: list[dict[str, float | None]] = []
    for i in range(len(points)):
        own = curvature[nearest == i]
        tightest = float(1 / own.max()) if len(own) and own.max() > 1e-9 else None
        before, after = i - 1, (i + 1) % len(points)
        if not part.path.closed and (i == 0 or i == len(points) - 1):
            out.append({"bend": tightest, "keep": None})
            continue
        into, away = points[i] - points[before], points[after] - points[i]
        cosine = float(into @ away / (np.linalg.norm(into) * np.linalg.norm(away)))
        turn = math.acos(min(1.0, max(-1.0, cosine)))
        out.append({"bend": tightest, "keep": reach * math.tan(min(turn, 3.1) / 2)})
    return out


def field_values(part: AnyPart) -> dict[str, float]:
    """What each number field and variable comes to, by JSON pointer, in the recipe's unit or degrees."""
    unit = part.typed.unit
    values = {
        pointer(parts): in_typed_units(value, quantity, unit)
        for parts, quantity, value in number_fields(part.recipe)
    }
    for name, measure in variable_values(part.typed).items():
        length, angle, *_ = measure.dimension
        value = measure.value / (part.length_unit**length) * math.degrees(1.0) ** angle
        values[pointer(["variables", name])] = value
    return values


def variables_of(part: AnyPart) -> list[dict[str, Any]]:
    """Each variable with the fields that use it, in words."""
    return [
        {"name": name, "used": [field_words(parts) for parts in places]}
        for name, places in uses_of(part.typed).items()
    ]


def _line(path: Path, count: int) -> Points2:
    places = path.derivatives(np.linspace(0, path.length, count), 0)[0]
    return [[float(c) for c in row] for row in np.round(places, 6)]


def _outline(path: Path) -> Points2:
    places = path.derivatives(np.unique(np.concatenate([path.stations_by_turning(96, 33), path.breaks])), 0)[
        0
    ]
    return [[float(r), float(z)] for r, z in np.round(places[:, [0, 2]], 6)]


def _plain(values: Array) -> list[float | None]:
    return [None if math.isnan(value) else value for value in np.round(values, 9).tolist()]
