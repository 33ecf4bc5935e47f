"""A thread and its other member: the air between them, and how far they hold each other.

Both members are the same screw, so each is its axial profile, turned and advanced by φ and Lφ/2π. Whether
they overlap, and how deep, shows in one axial plane; the air between them is the least distance in space,
over a
point of each profile and φ:  d² = r₁² + r₂² − 2 r₁r₂ cos φ + (z₂ − z₁ + Lφ/2π)².
"""

from __future__ import annotations

import math

import numpy as np
import scipy
from shapely import LineString, Point, Polygon, distance, get_coordinates, linestrings

from metaspira.checks.check import Check, Verdict, Window
from metaspira.checks.question import Question, of_thread
from metaspira.numbers.jets import Array
from metaspira.parts.threaded import ThreadedPart
from metaspira.threads.asked import State
from metaspira.threads.family import INCH
from metaspira.threads.profile import Profile
from metaspira.threads.thread import Thread

_LEAST_HEIGHT, _NO_HEIGHT = 0.6, 0.3
_LEAST_LENGTH = 0.8
_LEAST_PITCHES = 5
_FASTENERS = ("metric", "unified", "whitworth", "ba")
_EXACT = 2e-6
_PIECES, _STEPS = 24, 5
_CANDIDATES = 40
_GRID = np.linspace(0, 1, 17)


def check_clearance(part: ThreadedPart, window: Window) -> Check:
    """The least air between the members as they are built, and at both ends of their tolerances where both
    have some: a parallel pipe thread that seals on a taper one has limits by itself alone (ISO 7-1)."""
    limited = all(part.thread.member(side).pitch.max is not None for side in ("external", "internal"))
    states = _STATES if limited or part.thread.family == "own" else {"basic": _STATES["basic"]}
    air = {name: _air(part, *state) for name, state in states.items()}
    own, mate = part.recipe.thread.size, part.recipe.mate.size if part.recipe.mate else "basic"
    built = _air(part, *((own, mate) if part.side == "external" else (mate, own)))
    least = min(built, air.get("tightest", built))
    listed = ", ".join(f"{value:.4g} mm {name}" for name, value in air.items())
    verdict: Verdict = "stop" if least < 0 else "clear"
    why = f"Between the flanks and crests of both members: {built:.4g} mm as built; {listed}"
    return Check(
        "clearance",
        "Air between the members",
        verdict,
        least,
        0.0,
        "mm",
        why,
        least,
        () if verdict == "clear" else (part.full,),
    )


def check_height(part: ThreadedPart, window: Window) -> Check:
    """The height in which the members hold each other when loosest, against its basic value: below 60 % they
    hold poorly, below 30 % hardly (common practice, no source)."""
    outer = _profile(part, "external", "min")
    inner = _profile(part, "internal", "max")
    height = outer.outer - inner.inner
    basic = part.thread.depth
    share = height / basic
    verdict: Verdict = "stop" if share < _NO_HEIGHT else "watch" if share < _LEAST_HEIGHT else "clear"
    why = (
        f"The crests overlap by {height:.4g} mm at the loose end of the tolerances, {100 * share:.3g} % "
        f"of the basic {basic:.4g} mm"
    )
    return Check(
        "engagement-height", "Height of engagement", verdict, height, _LEAST_HEIGHT * basic, "mm", why,
        height - _LEAST_HEIGHT * basic, () if verdict == "clear" else (part.full,),
    )  # fmt: skip


def check_length(part: ThreadedPart, window: Window) -> Check:
    """The length of full thread, with the mate of the part where both have it. Fasteners want 0.8 diameters
    (common practice for steel in steel), other standard threads five pitches, ridges, grooves and forms of
    one's own one (common practice, no source); less than a pitch of a start is a stop."""
    low, high = part.engaged
    length = max(high - low, 0.0)
    thread = part.thread
    if thread.family in _FASTENERS and part.recipe.use.as_ == "body":
        limit = _LEAST_LENGTH * thread.external.major.basic
    else:
        standard = thread.family != "own" and part.recipe.use.as_ == "body"
        limit = (_LEAST_PITCHES if standard else 1) * thread.pitch
    verdict: Verdict = (
        "stop"
        if length < thread.pitch * min(1.0, 2 / thread.starts)
        else "watch"
        if length < limit
        else "clear"
    )
    turns = length / part.thread.lead
    why = f"{length:.4g} mm of full thread, {turns:.3g} turns, where {limit:.4g} mm are wanted"
    return Check(
        "engagement-length", "Length of engagement", verdict, length, limit, "mm", why, length - limit,
        () if verdict == "clear" else (part.full,),
    )  # fmt: skip


_STATES: dict[str, tuple[State, State]] = {
    "basic": ("basic", "basic"),
    "tightest": ("max", "min"),
    "loosest": ("min", "max"),
}


def _air(part: ThreadedPart, own: State, other: State) -> float:
    """Least distance, mm, of the members in states given for the external and the internal one; negative
    where they overlap, by the depth of it."""
    outside, inside = _profile(part, "external", own), _profile(part, "internal", other)
    flat = _distance(outside, inside)
    if abs(flat) < _EXACT or -_rounding(part.thread) < flat < 0:
        return 0.0
    return (
        flat * math.cos(part.thread.lead_angle) if flat < 0 else in_space(outside, inside, part.thread.lead)
    )


def _rounding(thread: Thread) -> float:
    """Half the last digit of a standard's diameters, mm: members that overlap by less touch."""
    if thread.family == "own":
        return 0.0
    return 0.5 * 10.0**-thread.digits * (INCH if thread.inch else 1.0)


def in_space(outside: Profile, inside: Profile, lead: float) -> float:
    """Least distance, mm, of the screws of two profiles that do not overlap: from the edges that are nearest
    to each other in the axial plane."""
    one = outside.line(_PIECES)
    bolt, nut = (
        linestrings(np.stack([row[:-1], row[1:]], axis=1))
        for row in (
            np.concatenate([one + np.array([k * outside.pitch, 0.0]) for k in (-1, 0, 1)]),
            inside.line(_PIECES),
        )
    )
    plane = distance(bolt[:, None], nut[None, :])
    nearest = np.unravel_index(np.argsort(plane, axis=None)[:_CANDIDATES], plane.shape)
    edges = [get_coordinates(row[k]).reshape(-1, 2, 2) for row, k in zip((bolt, nut), nearest, strict=True)]

    def apart(first: Array, second: Array, kept: int | slice = slice(None)) -> Array:
        low, high = edges[0][kept, 0], edges[0][kept, 1]
        one = low[..., None, None, :] + (high - low)[..., None, None, :] * first[..., None]
        low, high = edges[1][kept, 0], edges[1][kept, 1]
        two = low[..., None, None, :] + (high - low)[..., None, None, :] * second[..., None]
        return _apart(one, two, lead)

    found = apart(_GRID[:, None], _GRID[None, :])
    best, i, j = np.unravel_index(np.argmin(found), found.shape)
    refined = scipy.optimize.minimize(
        lambda t: float(apart(t[:1, None], t[None, 1:], int(best))[0, 0]),
        [_GRID[i], _GRID[j]],
        bounds=[(0, 1), (0, 1)],
        method="L-BFGS-B",
    )
    return math.sqrt(min(float(refined.fun), float(found.min())))


def _apart(one: Array, two: Array, lead: float) -> Array:
    """Least squared distance (…) over φ of points (z, r) (…, 2) on two screws; by Newton from φ = 0, near
    which it is for surfaces this close."""
    rise = lead / (2 * math.pi)
    product, along = one[..., 1] * two[..., 1], two[..., 0] - one[..., 0]
    phi = np.zeros_like(product)
    for _ in range(_STEPS):
        slope = product * np.sin(phi) + rise * (along + rise * phi)
        phi = np.clip(phi - slope / (product * np.maximum(np.cos(phi), 0.1) + rise**2), -1.5, 1.5)
    square: Array = (
        one[..., 1] ** 2 + two[..., 1] ** 2 - 2 * product * np.cos(phi) + (along + rise * phi) ** 2
    )
    return square


def _profile(part: ThreadedPart, side: str, state: State) -> Profile:
    asked = part.recipe.thread
    return asked.profile(
        part.thread, "external" if side == "external" else "internal", state, asked.allowance
    )


def _distance(outside: Profile, inside: Profile) -> float:
    pitch = outside.pitch
    bolt = [(z + k * pitch, r) for k in (-1, 0, 1, 2) for z, r in outside.line(24)]
    nut = [(z + k * pitch, r) for k in (0, 1) for z, r in inside.line(24)]
    floor = min(outside.inner, inside.inner) - pitch
    solid = Polygon([*bolt, (bolt[-1][0], floor), (bolt[0][0], floor)])
    surface = LineString(bolt)
    deepest = max((surface.distance(Point(p)) for p in nut if solid.contains(Point(p))), default=0.0)
    return -deepest if deepest > 1e-9 else float(surface.distance(LineString(nut)))


QUESTIONS = (
    Question(
        "clearance",
        check_clearance,
        of_thread,
        "thread",
        10,
        "air between the members as built and at both ends of their tolerances, mm",
        "where they overlap",
    ),
    Question(
        "engagement-height",
        check_height,
        of_thread,
        "thread",
        11,
        "overlap of the crests at the loose end, of the basic height",
        "under 30 %",
        "under 60 % (common practice)",
        cures=("/thread/allowance",),
    ),
    Question(
        "engagement-length",
        check_length,
        of_thread,
        "thread",
        12,
        "length of full thread, mm",
        "under a pitch",
        "fasteners under 0.8 diameters, others under 5 pitches (common practice)",
        cures=("/thread/length", "/host/length", "/mate/length"),
    ),
)
