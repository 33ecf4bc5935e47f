"""Turns at the ends of a coil that are wound to touch."""

from __future__ import annotations

import math
from functools import lru_cache
from typing import Annotated, Any

import numpy as np
import scipy

from metaspira.numbers.fields import Length, Quantity, Turns
from metaspira.numbers.jets import Array, Jet
from metaspira.numbers.kind import Kind
from metaspira.problems import Problem, RecipeError
from metaspira.schedules import Varying

_TURN = 2 * math.pi

EvenTurns = Annotated[float, Quantity("turns", 0.0, 50.0)]


class ClosedTurns(Kind):
    """Turns at the ends that are wound to touch: how many at the start and at the end, over how many
    turns the pitch changes, and their pitch (the solid pitch where it is left out)."""

    start: EvenTurns = 0.0
    end: EvenTurns = 0.0
    change: Turns = 0.5
    pitch: Length | None = None


def closing(closed: ClosedTurns, turns: float, solid: float, pitch: float) -> Varying:
    """Solid pitch at the ends, `pitch` between, and a quintic step (no jump in slope or bend) to each."""
    edges, levels = [0.0], []
    if closed.start > 0:
        edges += [closed.start / turns, (closed.start + closed.change) / turns]
        levels += [(solid, solid), (solid, pitch)]
    low = (turns - closed.end - closed.change) / turns if closed.end > 0 else 1.0
    if low > edges[-1] + 1e-12:
        edges.append(low)
        levels.append((pitch, pitch))
    if closed.end > 0:
        edges += [(turns - closed.end) / turns, 1.0]
        levels += [(pitch, solid), (solid, solid)]
    at = np.array(edges)
    lows, highs = np.array(levels).T

    def jet(t: Array, order: int) -> Jet:
        i = np.clip(np.searchsorted(at, t, "right") - 1, 0, len(at) - 2)
        width = at[i + 1] - at[i]
        u = Jet([(t - at[i]) / width, *([1 / width] if order else []), *([0 * t] * (order - 1))])
        return (u**3 * (u * (u * 6 - 15) + 10)) * (highs[i] - lows[i]) + lows[i]

    return Varying(jet, tuple(edges[1:-1]), len(levels))


def closed_rise(given: dict[str, Any], dead: float, solid: float, place: str) -> tuple[float, float]:
    """Turns and pitch between, of a coil with `dead` turns at the solid pitch."""
    known = [name for name, value in given.items() if value is not None]
    if len(known) != 2:
        raise RecipeError(
            Problem(
                place,
                f"a coil needs two of turns, pitch and height; it has {' '.join(known) or 'none'}",
                "give two of them",
            )
        )
    turns, pitch, height = given["turns"], given["pitch"], given["height"]
    if height is None:
        return turns, pitch
    if pitch is None:
        pitch = (height - solid * dead) / max(turns - dead, 1e-9)
        if pitch <= 0:
            raise RecipeError(
                Problem(
                    f"{place}/height",
                    f"the closed turns alone are {solid * dead:.6g} mm high",
                    "use more height, fewer turns, or close fewer",
                )
            )
        return turns, pitch
    return dead + max(height - solid * dead, 0.0) / max(pitch, 1e-9), pitch


@lru_cache(maxsize=256)
def solid_pitch(radius: float, height: float) -> float:
    """The pitch, mm, at which the turns of a helix of `radius` are `height` apart: they touch.

    The distance of a place from the turn beside it is  min over φ of √(2r²(1 − cos φ) + (pφ/2π)²).
    """

    def apart(pitch: float) -> float:
        found = scipy.optimize.minimize_scalar(
            lambda phi: 2 * radius**2 * (1 - math.cos(phi)) + (pitch * phi / _TURN) ** 2,
            bounds=(0.75 * _TURN, 1.05 * _TURN),
            method="bounded",
            options={"xatol": 1e-12},
        )
        return math.sqrt(found.fun)

    high = height
    for _ in range(60):
        if apart(high) >= height:
            break
        high *= 1.1
    else:
        return high
    return (
        height
        if high == height
        else float(scipy.optimize.brentq(lambda p: apart(p) - height, height, high, xtol=1e-12))
    )
