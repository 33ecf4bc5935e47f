"""Pairs of bodies at random places, nearly touching, and what another library says of their meshes.

Manifold (manifold3d) intersects meshes exactly and measures the distance between them; a mesh is within CHORD
of its shape, so what it says holds of the shape wherever the gap is larger than that.
"""

from __future__ import annotations

from dataclasses import dataclass
from typing import Any

import manifold3d
import numpy as np
from metaspira.checks.gaps import part_gaps
from metaspira.parts import Body, Part, part_of
from metaspira.verification.parts import manifold

CHORD = 0.01
MARGIN = 3 * CHORD
_FAR = 4.0


@dataclass(frozen=True)
class Case:
    """What is said of one pair: the gap and its interval, and what the meshes say: the volume they share,
    mm³, and their distance, mm."""

    recipe: dict[str, Any]
    gap: float
    low: float
    high: float
    shared: float
    distance: float

    @property
    def false_clear(self) -> bool:
        return self.low > 0 and self.shared > 1e-9 and self.low > MARGIN

    @property
    def false_stop(self) -> bool:
        return self.high < -MARGIN and self.shared == 0

    @property
    def outside_interval(self) -> bool:
        """The meshes' distance is outside the interval, by more than the meshes can be off."""
        if self.shared > 0:
            return self.low > MARGIN
        near = min(self.distance, _FAR)
        return self.distance < _FAR and not self.low - MARGIN <= near <= max(self.high, 0.0) + MARGIN


def section(rng: np.random.Generator) -> dict[str, Any]:
    """A small section of a random kind."""
    a, b = rng.uniform(1.0, 3.0, 2).round(3).tolist()
    return [
        {"kind": "round", "diameter": a},
        {"kind": "tube", "diameter": a + 3, "wall": round(0.25 * a, 3)},
        {"kind": "rectangle", "width": a, "height": b},
        {"kind": "rectangle", "width": a + 1, "height": b + 1, "corner_radius": 0.4},
        {"kind": "polygon", "sides": int(rng.integers(3, 8)), "across_flats": a},
        {"kind": "ellipse", "width": a, "height": b + 1},
        {"kind": "star", "points": 5, "outer_diameter": a + 2, "inner_diameter": a},
        {"kind": "trough", "width": a + 4, "depth": b + 1, "wall": 0.6},
        {"kind": "channel", "width": a + 4, "depth": b + 2, "wall": 0.7},
    ][int(rng.integers(9))]


def wire(rng: np.random.Generator, shift: np.ndarray) -> dict[str, Any]:
    """A wire through two or four points, sometimes twisted or tapered, moved by `shift`."""
    if rng.random() < 0.6:
        points = rng.uniform(-1, 1, 3) * 6 + np.outer([-1, 1], rng.normal(size=3) * 6)
    else:
        points = np.cumsum(rng.normal(size=(4, 3)) * [6, 6, 3], axis=0)
        points -= points.mean(axis=0)
    made: dict[str, Any] = {
        "path": {"kind": "points", "points": (points + shift).round(4).tolist()},
        "section": section(rng),
    }
    along: dict[str, Any] = {}
    if rng.random() < 0.2:
        along["twist"] = {"total": float(rng.integers(-180, 180))}
    if rng.random() < 0.2:
        along["size"] = {"from": 1, "to": round(float(rng.uniform(0.5, 1.8)), 3)}
    return {**made, "along": along} if along else made


def coils(rng: np.random.Generator) -> dict[str, Any]:
    """One coil in another."""
    outer, inner = rng.uniform(20, 26), rng.uniform(12, 20)
    pitch = rng.uniform(6, 9, 2)
    both = [
        {
            "path": {
                "kind": "coil",
                "diameter": round(float(d), 3),
                "turns": 1.7,
                "pitch": round(float(p), 3),
                "hand": "left" if rng.random() < 0.5 else "right",
            },
            "section": section(rng),
        }
        for d, p in zip((outer, inner), pitch, strict=True)
    ]
    return {"format": "metaspira/1", **both[0], "wires": [both[1]]}


def pair(seed: int) -> dict[str, Any] | None:
    """The recipe of a random pair, moved together or apart until they nearly touch; None where a wire
    folds."""
    rng = np.random.default_rng(seed)
    if rng.random() < 0.15:
        return coils(rng)
    state = rng.bit_generator.state
    recipe = _of(rng, np.zeros(3))
    part = _made(recipe)
    if part is None:
        return None
    between = part_gaps(part).between
    if between is None or rng.random() < 0.2:
        return recipe
    at = [
        body.sweep.path.derivatives(np.array([s]), 0)[0][0]
        for body, s in zip(part.bodies, between.gap.at, strict=True)
    ]
    line = at[0] - at[1]
    size = float(np.linalg.norm(line))
    if size < 1e-6:
        return recipe
    wanted = float(np.random.default_rng(seed + 1).choice([-1, 1])) * float(
        np.random.default_rng(seed + 2).uniform(1.2, 12) * MARGIN
    )
    rng.bit_generator.state = state
    return _of(rng, (between.gap.value - wanted) * line / size)


def _of(rng: np.random.Generator, shift: np.ndarray) -> dict[str, Any]:
    first, second = wire(rng, np.zeros(3)), wire(rng, shift)
    return {"format": "metaspira/1", **first, "wires": [second]}


def _made(recipe: dict[str, Any]) -> Part | None:
    part = part_of(recipe)
    folds = any(least_stretch(body) < 0.1 for body in part.bodies)
    return None if folds else part


def least_stretch(body: Body) -> float:
    from metaspira.gaps.bends import least_stretch as least

    return least(body.sweep)[0]


def case(seed: int) -> Case | None:
    """One pair, measured and held against its meshes; None where it is no fair one (a wire folds, or runs
    into itself)."""
    recipe = pair(seed)
    part = None if recipe is None else _made(recipe)
    if recipe is None or part is None:
        return None
    gaps = part_gaps(part)
    if gaps.within is not None and gaps.within.gap.low < MARGIN:
        return None
    one, two = (manifold(body.mesh(CHORD)) for body in part.bodies)
    if one.status() != manifold3d.Error.NoError or two.status() != manifold3d.Error.NoError:
        return None
    shared = float((one ^ two).volume())
    distance = float(one.min_gap(two, _FAR)) if shared == 0 else 0.0
    between = gaps.between
    if between is None:
        return Case(recipe, np.inf, np.inf, np.inf, shared, distance)
    return Case(recipe, between.gap.value, between.gap.low, between.gap.high, shared, distance)
