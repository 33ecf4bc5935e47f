"""Bend: does the section fit through the wire's curvature, or does the shape fold over?

The figure is the smallest stretch J of a fibre along the wire, for a unit length of the centre line: on
the inside of a bend of radius ρ a fibre at distance y has J = 1 − y/ρ. At 0 the shape folds over.
"""

from __future__ import annotations

import math
from functools import lru_cache

import numpy as np

from metaspira.checks.check import WHOLE, Check, Lane, Verdict, Window, spans_below
from metaspira.checks.question import Question, of_wire
from metaspira.gaps.bends import least_stretch, stretch_at, tightest_bend
from metaspira.parts import Part
from metaspira.sweep.sweep import Sweep

_TIGHT = 0.05
_BLOCK = 16_384


@lru_cache(maxsize=128)
def stretch_along(sweep: Sweep, window: Window) -> Lane:
    """Smallest fibre stretch at stations along a wire (within a share of it), and where it is least of
    all."""
    s = sweep.stations(48, least=17)
    least, at = least_stretch(sweep)
    low, high = window[0] * sweep.length, window[1] * sweep.length
    if window != WHOLE:
        s = s[(s >= low) & (s <= high)]
    if sweep.is_tube and sweep.keeps_size:
        value = 1 - sweep.outline.reach * np.linalg.norm(sweep.path.derivatives(s, 2)[2], axis=1)
    else:
        value = np.concatenate(
            [stretch_at(sweep, block) for block in np.array_split(s, math.ceil(len(s) / _BLOCK))]
        )
    where = int(np.searchsorted(s, at))
    return (
        Lane(np.insert(s, where, at), np.insert(value, where, least)) if low <= at <= high else Lane(s, value)
    )


def fold_depth(lane: Lane) -> float:
    """How far, mm, a fibre runs backwards through the wire: the integral of −J where J < 0."""
    return float(np.trapezoid(np.maximum(-lane.value, 0.0), lane.s))


def check_bend(part: Part, window: Window) -> Check:
    lanes = [stretch_along(body.sweep, window if i == 0 else WHOLE) for i, body in enumerate(part.bodies)]
    worst = int(np.argmin([float(lane.value.min()) for lane in lanes]))
    lane, body = lanes[worst], part.bodies[worst]
    least = float(lane.value.min())
    stops = least <= 0
    verdict: Verdict = "stop" if stops else "watch" if least < _TIGHT else "clear"
    limit = 0.0 if verdict != "watch" else _TIGHT
    at = int(np.argmin(lane.value))
    place = float(lane.s[at])
    radius = min_bend_radius(body.sweep)
    tightest = "the wire is straight" if radius is None else f"the tightest bend is {radius:.4g} mm"
    spans = spans_below(lane.s, lane.value, limit)
    if stops and _leans(body.sweep, place):
        why = (
            "The section does not stand square to the wire, which runs along its plane and then backwards "
            f"through it, first at {spans[0][0] if spans else place:.4g} mm"
        )
    elif stops:
        why = f"The section is too wide for the bend: {tightest}, and its inner side folds over"
    else:
        why = f"The innermost fibre keeps {100 * least:.3g} % of its length; {tightest}"
    if worst:
        why += f" ({body.name})"
    x, y, z = (float(c) for c in body.sweep.path.derivatives(lane.s[at : at + 1], 0)[0][0])
    return Check(
        id="bend",
        title="Bends",
        verdict=verdict,
        value=least,
        limit=limit,
        unit="",
        why=why,
        margin=least - _TIGHT,
        where=spans if worst == 0 else (),
        points=((x, y, z),) if verdict != "clear" else (),
    )


def _leans(sweep: Sweep, place: float) -> bool:
    """The section's plane is far from square to the wire at a place."""
    frames = sweep.rigid(np.array([place]))
    return bool(abs(np.einsum("ij,ij->i", frames.normal, frames.d_origin)[0]) < 0.5)


def min_bend_radius(sweep: Sweep) -> float | None:
    """Smallest radius of curvature of the path, mm; None on a straight path."""
    curvature = tightest_bend(sweep)[0]
    return 1 / curvature if curvature > 1e-12 else None


QUESTIONS = (
    Question(
        "bend",
        check_bend,
        of_wire,
        "wire",
        10,
        "smallest stretch of a fibre (1 on a straight wire)",
        "at 0 the shape folds over",
        "under 0.05",
        cures=(
            "/path/diameter",
            "/path/end_diameter",
            "/path/radius",
            "/path/corner_radius",
            "/path/legs",
            "/path/around/diameter",
            "/path/around/radius",
            "/section",
            "/along/size",
            "/strands/radius",
        ),
        stances=True,
        points=True,
    ),
)
