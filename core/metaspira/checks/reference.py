"""Reference bodies: does the wire keep the air that was asked for to each?"""

from __future__ import annotations

import math
from functools import lru_cache

import numpy as np

from metaspira.checks.check import WHOLE, Check, Verdict, Window, in_words, spans_below
from metaspira.checks.question import Question
from metaspira.gaps.measure import Shape, deepest_within, gap_to_surface
from metaspira.numbers.jets import Array
from metaspira.parts import AnyPart, Body, Part
from metaspira.references.placed import PlacedBody, placed
from metaspira.sweep.ground import ground_planes

_TITLE = "Reference bodies"
_PER_TURN, _FEW = 60, 8
_WORST, _FINER = 6, 24
_CROSSED = 1e-9


def check_reference(part: Part, window: Window = WHOLE) -> Check:
    wanted = part.recipe.fit.gap or 0.0
    air: dict[str, tuple[float, float]] = {}
    error, s, gap = 0.0, np.zeros(0), np.zeros(0)
    for body in map(placed, part.recipe.fit.bodies):
        error = max(error, body.error)
        for index, wire in enumerate(part.bodies):
            places, found = _gaps(wire, body)
            name = body.name if len(part.bodies) == 1 else f"{body.name} from {wire.name}"
            air[name] = _air_to(wire, body, float(found.min()), not part.is_skin, (0.0, wanted))
            if index == 0:
                s, gap = (
                    (places, found) if not len(gap) else (s, np.minimum(gap, np.interp(s, places, found)))
                )
    nearest = min(air, key=lambda name: air[name][0])
    value, low = air[nearest][0], min(low for _, low in air.values())
    where = spans_below(s, gap - error, wanted) if value < wanted else ()
    told = ", ".join(f"{in_words(amount)} mm to {name}" for name, (amount, _) in air.items())
    sure = f", each sure to {error:.2g} mm" if error > 0 else ""
    verdict: Verdict = "stop" if value < 0 else "watch" if min(value, low) < wanted else "clear"
    margin = value - wanted
    if value < 0:
        why = f"The wire runs into {nearest}"
    elif value < wanted:
        why = f"Less than the {wanted:.4g} mm asked for"
    elif low < wanted:
        why = f"Too near the {wanted:.4g} mm asked for to tell, {low:.6g} mm for certain"
        margin = low - wanted
    else:
        why = "Air"
    return Check("reference", _TITLE, verdict, value, wanted, "mm", f"{why}: {told}{sure}", margin, where)


def reference_margin(part: Part, window: Window = WHOLE) -> float:
    """The margin of the check, to about a hundredth of the wire where it is small, in less time."""
    air = (
        _air_to(
            wire,
            body,
            float(_air(wire, body, wire.sweep.stations(_FEW, least=9)).min()),
            not part.is_skin,
            (-math.inf,),
        )[0]
        for body in map(placed, part.recipe.fit.bodies)
        for wire in part.bodies
    )
    return min(air) - (part.recipe.fit.gap or 0.0)


def _air_to(
    wire: Body, body: PlacedBody, sampled: float, solid: bool, limits: tuple[float, ...]
) -> tuple[float, float]:
    """The air between a wire and a body, mm, and what it is not below for certain; negative where one is in
    the other, by the depth that samples tell. Under no limit but −∞ the value alone is sought."""
    shape = Shape(wire.sweep, solid)
    value, low = gap_to_surface(shape, body.surface, limits)
    deep = deepest_within(shape, body.vertices[0]) if solid else 0.0
    if value <= 0 or sampled < -body.error or deep > 0:
        depth = min(sampled - body.error, value, -deep, -_CROSSED)
        return depth, depth
    return value - body.error, low


@lru_cache(maxsize=64)
def _gaps(wire: Body, body: PlacedBody) -> tuple[Array, Array]:
    """True lengths and the air there, mm, finer where it is least."""
    sweep = wire.sweep
    s = sweep.stations(_PER_TURN, least=65)
    air = _air(wire, body, s)
    worst = np.argsort(air)[:_WORST]
    low, high = s[np.maximum(worst - 1, 0)], s[np.minimum(worst + 1, len(s) - 1)]
    finer = np.linspace(low, high, _FINER).ravel()
    every, first = np.unique(np.concatenate([s, finer]), return_index=True)
    return every, np.concatenate([air, _air(wire, body, finer)])[first]


def _air(wire: Body, body: PlacedBody, s: Array) -> Array:
    sweep, planes = wire.sweep, ground_planes(wire.sweep)
    if sweep.is_tube and not planes:
        size = sweep.scale(s)[0]
        return body.distance(sweep.path.derivatives(s, 0)[0]) - size * sweep.outline.reach
    frames = sweep.frames(s)
    rings = frames.points(sweep.ring(s, 32, 4))
    for plane in planes:
        flat = np.minimum if plane.above else np.maximum
        rings[..., 2] = np.where(plane.cuts(s)[:, None], flat(rings[..., 2], plane.height), rings[..., 2])
    return body.distance(rings.reshape(-1, 3)).reshape(len(s), -1).min(axis=1)


def _has_bodies(part: AnyPart) -> bool:
    return isinstance(part, Part) and bool(part.recipe.fit.bodies)


QUESTIONS = (
    Question(
        "reference",
        check_reference,
        _has_bodies,
        "wire",
        20,
        "least air to a reference body, mm, less its error",
        "below 0",
        "below `fit.gap`",
        cures=("/path/diameter", "/path/end_diameter", "/path/pitch", "/path/height", "/path/turns", "/fit"),
        points=True,
        margin=reference_margin,
    ),
)
