"""Bend: does the section fit through the wire's curvature, or does the shape fold over?

The figure is the smallest stretch J of a fibre along the wire, for a unit length of the centre line: on
the inside of a bend of radius ρ a fibre at distance y has J = 1 − y/ρ. At 0 the shape folds over.
"""

from __future__ import annotations

import math
from functools import lru_cache

import numpy as np

from metaspira.checks.check import WHOLE, Check, Lane, Verdict, Window, spans_below
from metaspira.numbers.jets import Array
from metaspira.part import Part
from metaspira.sweep.sweep import Sweep

_TIGHT = 0.05
_BLOCK = 16_384
_LEAST_SIZE = 1e-6


@lru_cache(maxsize=128)
def stretch_along(sweep: Sweep, window: Window) -> Lane:
    """Smallest fibre stretch at stations along a wire (within a share of it)."""
    s = sweep.stations(48, least=17)
    if window != WHOLE:
        s = s[(s >= window[0] * sweep.length) & (s <= window[1] * sweep.length)]
    if sweep.is_tube and sweep.keeps_size:
        bend = np.linalg.norm(sweep.path.derivatives(s, 2)[2], axis=1)
        return Lane(s, 1 - sweep.outline.reach * bend)
    least = []
    for block in np.array_split(s, math.ceil(len(s) / _BLOCK)):
        width, _, depth, _ = sweep.scale(block)
        area = width * depth
        jacobian = sweep.jacobian(sweep.frames(block), sweep.ring(block, 64)).min(axis=1)
        some = area > _LEAST_SIZE
        least.append(np.where(some, jacobian / np.where(some, area, 1.0), 1.0))
    return Lane(s, np.concatenate(least))


def fold_depth(lane: Lane) -> float:
    """How far, mm, a fibre runs backwards through the wire: the integral of −J where J < 0."""
    return float(np.trapezoid(np.maximum(-lane.value, 0.0), lane.s))


def check_bend(part: Part, window: Window) -> Check:
    lanes = [
        stretch_along(body.sweep, window if i == 0 else WHOLE) for i, body in enumerate(part.bodies)
    ]
    worst = int(np.argmin([float(lane.value.min()) for lane in lanes]))
    lane, body = lanes[worst], part.bodies[worst]
    least = float(lane.value.min())
    stops = least <= 0
    verdict: Verdict = "stop" if stops else "watch" if least < _TIGHT else "clear"
    limit = 0.0 if verdict != "watch" else _TIGHT
    at = int(np.argmin(lane.value))
    place = float(lane.s[at])
    radius = min_bend_radius(body.sweep, lane.s)
    tightest = "the wire is straight" if radius is None else f"the tightest bend is {radius:.4g} mm"
    spans = spans_below(lane.s, lane.value, limit)
    if stops and _leans(body.sweep, place):
        why = (
            "The section does not stand square to the wire, which runs along its plane and then backwards "
            f"through it, first at {spans[0][0]:.4g} mm"
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
        lane=lanes[0],
        points=((x, y, z),) if verdict != "clear" else (),
    )


def _leans(sweep: Sweep, place: float) -> bool:
    """The section's plane is far from square to the wire at a place."""
    frames = sweep.rigid(np.array([place]))
    return bool(abs(np.einsum("ij,ij->i", frames.normal, frames.d_origin)[0]) < 0.5)


def min_bend_radius(sweep: Sweep, s: Array | None = None) -> float | None:
    """Smallest radius of curvature of the path, mm; None on a straight path."""
    if s is None:
        s = sweep.stations(48, least=17)
    curvature = float(np.linalg.norm(sweep.path.derivatives(s, 2)[2], axis=1).max())
    return 1 / curvature if curvature > 1e-12 else None
