"""Bend: does the section fit through the wire's curvature, or does the shape fold over?

The figure is the smallest stretch J of a fibre along the wire, for a unit length of the centre line: on
the inside of a bend of radius ρ a fibre at distance y has J = 1 − y/ρ. At 0 the shape folds over.
"""

from __future__ import annotations

import math
from functools import lru_cache

import numpy as np

from metaspira.checks.check import Check, Lane, Verdict, Window, spans_below
from metaspira.part import Part
from metaspira.paths.quadrature import Array

_TIGHT = 0.05
_BLOCK = 16_384


@lru_cache(maxsize=64)
def stretch_along(part: Part, window: Window) -> Lane:
    """Smallest fibre stretch at stations along the wire (within a share of it)."""
    sweep = part.sweep
    s = sweep.stations(48, least=17)
    s = s[(s >= window[0] * sweep.length) & (s <= window[1] * sweep.length)]
    size = np.maximum(sweep.size(s)[0], 1e-3)
    hull = sweep.outline.ring(64).points
    blocks = np.array_split(s, math.ceil(len(s) / _BLOCK))
    least = [sweep.jacobian(sweep.frames(block), hull).min(axis=1) for block in blocks]
    value: Array = np.concatenate(least) / size**2
    value[sweep.size(s)[0] < 1e-3] = 1.0
    return Lane(s, value)


def fold_depth(lane: Lane) -> float:
    """How far, mm, a fibre runs backwards through the wire: the integral of −J where J < 0."""
    return float(np.trapezoid(np.maximum(-lane.value, 0.0), lane.s))


def check_bend(part: Part, window: Window) -> Check:
    lane = stretch_along(part, window)
    least = float(lane.value.min())
    stops = least <= 0
    verdict: Verdict = "stop" if stops else "watch" if least < _TIGHT else "clear"
    limit = 0.0 if verdict != "watch" else _TIGHT
    at = int(np.argmin(lane.value))
    radius = min_bend_radius(part, lane.s)
    tightest = "the wire is straight" if radius is None else f"the tightest bend is {radius:.4g} mm"
    if stops and part.recipe.stance.kind == "fixed":
        why = (
            "The section never turns, so the wire runs along its plane and then backwards "
            f"through it, first at {spans_below(lane.s, lane.value, 0.0)[0][0]:.4g} mm"
        )
    elif stops:
        why = f"The section is too wide for the bend: {tightest}, and its inner side folds over"
    else:
        why = f"The innermost fibre keeps {100 * least:.3g} % of its length; {tightest}"
    x, y, z = (float(c) for c in part.sweep.frames(lane.s[at : at + 1]).origin[0])
    return Check(
        id="bend",
        title="Bends",
        verdict=verdict,
        value=least,
        limit=limit,
        unit="",
        why=why,
        margin=least - _TIGHT,
        where=spans_below(lane.s, lane.value, limit),
        lane=lane,
        points=((x, y, z),) if verdict != "clear" else (),
    )


def min_bend_radius(part: Part, s: Array | None = None) -> float | None:
    """Smallest radius of curvature of the path, mm; None on a straight path."""
    if s is None:
        s = part.sweep.stations(48, least=17)
    curvature = float(np.linalg.norm(part.path.at(s).curvature, axis=1).max())
    return 1 / curvature if curvature > 1e-12 else None
