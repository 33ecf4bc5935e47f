"""Where a thread runs on its host: from the host's outline, and from how the thread begins and ends, to the
legs of its surface.

Along the axis the two levels (see `surface`) are given at heights, straight between them: a plain stretch of
radius R has low = high = R; the whole thread has low below its inner and high above its outer radius; a
chamfer lets `high` fall, a run-out lets `low` rise (inside a bore the two change places).
"""

from __future__ import annotations

import itertools
import math
from dataclasses import dataclass
from typing import Literal

import numpy as np

from metaspira.problems import Fix, Problem, RecipeError
from metaspira.sections.outline import Edge
from metaspira.threads.asked import AskedThread
from metaspira.threads.ends import BluntEnd, ChamferEnd, FadeEnd, ThreadEnd, UndercutEnd, usual_bottom
from metaspira.threads.profile import Flat, Profile
from metaspira.threads.surface import Leg
from metaspira.threads.thread import Side

_USUAL_FADE = 1.5
_DEGREE = 7
_EASED = 0.02


@dataclass(frozen=True)
class Knot:
    """The levels at a height, mm."""

    height: float
    low: float
    high: float


@dataclass(frozen=True)
class Laid:
    """The legs of a thread's surface, the heights between which it has its full form, and where it is blunt
    (see `ThreadSurface`)."""

    legs: tuple[Leg, ...]
    full: tuple[float, float]
    rests: Flat
    blunt: tuple[float | None, float | None]


@dataclass(frozen=True)
class _Run:
    """The levels from an end inward: heights from it on, the last knot with the full form; and where a lobe
    that is cut by a plane begins to stand out."""

    knots: tuple[Knot, ...]
    lobe: float | None = None


def lay(
    asked: AskedThread,
    profile: Profile,
    side: Side,
    outline: tuple[Edge, ...],
    plain: float | None,
    pitch: float,
    lead: float,
    chamfered: bool,
    groove: bool = False,
) -> Laid:
    """The legs of a thread on an outline (edges in (r, z), upward). `plain` is the radius, less the
    outline's, of the host where it is not threaded; an end at the host's face that asks for nothing is
    `chamfered` or fades. Raises RecipeError."""
    foot, top = float(outline[0].points[0, 1]), float(outline[-1].points[-1, 1])
    begin = foot + asked.at
    finish = top if asked.length is None else begin + asked.length
    if asked.at >= top - foot or finish > top + 1e-9:
        room = max(top - begin, 0.0)
        raise RecipeError(
            Problem(
                "/thread/length" if room else "/thread/at",
                f"the thread ends {finish - top:.6g} mm beyond its host"
                if room
                else "the thread begins beyond its host",
                f"use {room:.6g} mm or less" if room else "begin it on the host",
                Fix("/thread/length", float(f"{room:.9g}")) if room else None,
            )
        )
    crest = profile.outer if side == "external" else profile.inner
    level = crest if plain is None else plain
    rests: Flat = "outer" if (side == "internal") != groove else "inner"

    def run(end: ThreadEnd | None, at_face: bool, name: Literal["start", "end"]) -> _Run:
        place = f"/thread/{name}"
        if isinstance(end, BluntEnd):
            return _blunt(end, profile, rests, level, name, place)
        return _Run(tuple(_end(end, profile, side, level, at_face, lead, pitch, chamfered, place)))

    lower = run(asked.start, abs(begin - foot) < 1e-9, "start")
    upper = run(asked.end, abs(finish - top) < 1e-9, "end")
    start = [Knot(begin + k.height, k.low, k.high) for k in lower.knots]
    end = [Knot(finish - k.height, k.low, k.high) for k in reversed(upper.knots)]
    if start[-1].height > end[0].height + 1e-9:
        needed = lower.knots[-1].height + upper.knots[-1].height
        raise RecipeError(
            Problem(
                "/thread/length",
                f"the ends take {needed:.6g} mm, and the thread is {finish - begin:.6g} mm long",
                f"use more than {needed:.6g} mm, or shorter ends",
            )
        )
    knots = start + end
    if begin > foot + 1e-9:
        knots.insert(0, Knot(foot, level, level))
    if finish < top - 1e-9:
        knots.append(Knot(top, level, level))
    corners = profile.lobe(rests)
    blunt = (
        None if lower.lobe is None else begin + lower.lobe - float(corners[0]),
        None if upper.lobe is None else finish - upper.lobe - float(corners[-1]),
    )
    return Laid(_legs(knots, outline), (start[-1].height, end[0].height), rests, blunt)


def _end(
    end: ThreadEnd | None,
    profile: Profile,
    side: Side,
    level: float,
    at_face: bool,
    lead: float,
    pitch: float,
    chamfered: bool,
    place: str,
) -> list[Knot]:
    """The levels from an end inward: heights from it on, the last knot with the full form."""
    inner, outer = profile.inner, profile.outer
    whole = (min(level, inner), max(level, outer))
    if end is None:
        bare = at_face and chamfered
        end = ChamferEnd(kind="chamfer", angle=math.pi / 4) if bare else FadeEnd(kind="fade")
    if end.kind == "plain":
        if not at_face:
            raise RecipeError(
                Problem(
                    f"{place}/kind",
                    "a thread is cut square at its host's face, and this one ends inside",
                    "use a run-out or an undercut",
                    Fix(place, {"kind": "fade"}),
                )
            )
        return [Knot(0.0, *whole)]
    if isinstance(end, FadeEnd):
        length = _USUAL_FADE * pitch if end.length is None and end.angle is None else end.length or 0.0
        if end.angle is not None:
            length = lead * abs(end.angle) / (2 * math.pi)
        if end.length is not None and end.angle is not None:
            raise RecipeError(
                Problem(
                    f"{place}/angle",
                    "a run-out has a length or an angle, not both",
                    "leave one of them out",
                )
            )
        if length <= 0:
            raise RecipeError(Problem(f"{place}/angle", "a run-out needs some length", "make it longer"))
        return [Knot(0.0, level, level), Knot(length, *whole)]
    if isinstance(end, ChamferEnd):
        if not at_face:
            raise RecipeError(
                Problem(
                    f"{place}/kind",
                    "a chamfer stands at the host's face, and the thread ends inside",
                    "use a fade or an undercut",
                )
            )
        if not 0 < end.angle < math.pi / 2:
            raise RecipeError(
                Problem(
                    f"{place}/angle",
                    "a chamfer's angle lies between 0° and 90°",
                    "use 45°",
                    Fix(f"{place}/angle", 45),
                )
            )
        past = 0.1 * (outer - inner)
        if side == "external":
            cut = inner - past if end.diameter is None else end.diameter / 2
            return _cone(cut, outer, outer - cut, end.angle, "high", whole, f"{place}/diameter")
        cut = outer + past if end.diameter is None else end.diameter / 2
        return _cone(cut, inner, cut - inner, end.angle, "low", whole, f"{place}/diameter")
    assert isinstance(end, UndercutEnd)
    return _undercut(end, profile, side, level, place)


def _blunt(
    end: BluntEnd,
    profile: Profile,
    rests: Flat,
    level: float,
    side: Literal["start", "end"],
    place: str,
) -> _Run:
    """A cone from the host's surface to the flat that the lobe stands on, the pilot, and the lobe's corners.
    A lobe with an upright flank on the outer side rises there over a little of the pitch."""
    ends = profile.lobe_ends(rests)
    for chain in ends:
        if not chain.is_upright and np.any(np.diff(chain.corners) < 1e-9):
            raise RecipeError(
                Problem(
                    f"{place}/kind",
                    "a blunt start needs a form whose flanks lean all along, or are square to the axis",
                    "slope its square edges a little, or use a run-out",
                    Fix(place, {"kind": "fade"}),
                )
            )
    whole = (min(level, profile.inner), max(level, profile.outer))
    flat = profile.inner if rests == "inner" else profile.outer
    near = abs(level - flat)
    lobe = near + end.pilot
    corners = profile.lobe(rests)
    first = side == "start"
    heights = sorted({float(lobe + (z - corners[0] if first else corners[-1] - z)) for z in corners})
    knots = [Knot(0.0, level, level), Knot(near, flat, flat), Knot(lobe, flat, flat)]
    if ends[0 if first else 1].is_upright:
        eased = (whole[0], flat) if rests == "inner" else (flat, whole[1])
        knots.append(Knot(lobe, *eased))
        heights = [lobe + _EASED * profile.pitch, *heights[1:]]
    return _Run((*knots, *(Knot(height, *whole) for height in heights)), lobe)


def _cone(
    cut: float,
    crest: float,
    height: float,
    angle: float,
    which: str,
    whole: tuple[float, float],
    place: str,
) -> list[Knot]:
    if height <= 0:
        raise RecipeError(
            Problem(
                place,
                f"a chamfer of ⌀ {2 * cut:.6g} mm does not reach the crest, ⌀ {2 * crest:.6g} mm",
                "leave the diameter out",
            )
        )
    length = height / math.tan(angle)
    if which == "high":
        return [Knot(0.0, min(whole[0], cut), cut), Knot(length, whole[0], crest)]
    return [Knot(0.0, cut, max(whole[1], cut)), Knot(length, crest, whole[1])]


def _undercut(end: UndercutEnd, profile: Profile, side: Side, level: float, place: str) -> list[Knot]:
    inner, outer = profile.inner, profile.outer
    bottom = end.bottom(profile, side)
    root, crest = (inner, outer) if side == "external" else (outer, inner)
    if (bottom >= root) if side == "external" else (bottom <= root):
        raise RecipeError(
            Problem(
                f"{place}/diameter",
                f"an undercut of ⌀ {2 * bottom:.6g} mm does not reach the root",
                f"use {'less' if side == 'external' else 'more'} than {2 * root:.6g} mm",
                Fix(f"{place}/diameter", float(f"{2 * usual_bottom(profile, side):.9g}")),
            )
        )
    away = abs(crest - bottom)
    near = abs(level - bottom)
    if end.width <= near + away:
        raise RecipeError(
            Problem(
                f"{place}/width",
                f"the undercut's cones take {near + away:.6g} mm of its width",
                f"use more than {near + away:.6g} mm",
            )
        )
    knots = [
        Knot(0.0, level, level),
        Knot(near, bottom, bottom),
        Knot(end.width - away, bottom, bottom),
    ]
    whole = (min(bottom, inner), max(bottom, outer))
    if side == "external":
        return [*knots, Knot(end.width, whole[0], crest)]
    return [*knots, Knot(end.width, crest, whole[1])]


def _legs(knots: list[Knot], outline: tuple[Edge, ...]) -> tuple[Leg, ...]:
    heights = sorted({k.height for k in knots} | {float(e.points[-1, 1]) for e in outline})
    legs = []
    for first, last in itertools.pairwise(knots):
        if last.height - first.height <= 1e-9:
            continue
        inside = [h for h in heights if first.height + 1e-9 < h < last.height - 1e-9]
        for low, high in itertools.pairwise([first.height, *inside, last.height]):
            shares = [(h - first.height) / (last.height - first.height) for h in (low, high)]
            ends = [
                (a + (b - a) * shares[0], a + (b - a) * shares[1] if shares[1] < 1 else b)
                for a, b in ((first.low, last.low), (first.high, last.high))
            ]
            legs.append(Leg(_cut(outline, low, high), ends[0], ends[1]))
    return tuple(legs)


def _cut(outline: tuple[Edge, ...], low: float, high: float) -> Edge:
    """The part of an outline between two heights on one of its edges."""
    middle = 0.5 * (low + high)
    edge = next(e for e in outline if e.points[0, 1] <= middle <= e.points[-1, 1])
    a, b = (_at_height(edge, h) for h in (low, high))
    part = edge.part(a, b) if (a, b) != (0.0, 1.0) else edge
    points = part.points.copy()
    points[0, 1], points[-1, 1] = low, high
    return Edge(points, part.weights)


def _at_height(edge: Edge, height: float) -> float:
    first, last = float(edge.points[0, 1]), float(edge.points[-1, 1])
    if height <= first + 1e-12:
        return 0.0
    if height >= last - 1e-12:
        return 1.0
    if edge.is_line:
        return (height - first) / (last - first)
    low, high = 0.0, 1.0
    for _ in range(60):
        middle = 0.5 * (low + high)
        if edge.at(np.array([middle]))[0][0, 1] < height:
            low = middle
        else:
            high = middle
    return 0.5 * (low + high)
