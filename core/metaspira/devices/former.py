"""A simulated wire former: it is given a coiling table and nothing else, bends wire by it, and measures what
came out.

Each batch of wire has a flow stress and a feed of its own, and its flow stress wanders along it; all of it
from the seed. The wire springs back by `coiling.springback`, and the centre line follows from its curvature κ
and torsion τ by the Frenet equations, which have over a short step h the exact solution of a helix: a turn
about d = τ T + κ B by |d| h, and a rise along it.
"""

from __future__ import annotations

import math
from dataclasses import dataclass, replace
from typing import Any

import numpy as np
import scipy

from metaspira.coiling.table import CoilingTable
from metaspira.numbers.jets import Array
from metaspira.parts import Part

SIMULATED = "simulated: no wire was wound"
_FEED_SCATTER = 0.1
_WANDER = 0.3
_WAVES = 5
_MOST_POINTS = 480


@dataclass(frozen=True, eq=False)
class WoundPart:
    """A part as a former measures it, mm: the centre line (n, 3) around the z axis, and figures by the names
    of a part's."""

    line: Array
    figures: dict[str, float]

    def as_recipe(self, part: Part) -> dict[str, Any]:
        """The recipe of the wound part, of the same wire and from the same start: a path through points of
        its line."""
        every = math.ceil(len(self.line) / _MOST_POINTS)
        points = np.concatenate([self.line[:-1:every], self.line[-1:]])
        start = part.path.without_legs.derivatives(np.zeros(1), 0)[0][0]
        turn = math.atan2(start[1], start[0]) - math.atan2(points[0, 1], points[0, 0])
        points = scipy.spatial.transform.Rotation.from_rotvec([0, 0, turn]).apply(points) + np.array(
            [0, 0, start[2]]
        )
        typed = part.recipe.model_dump(
            mode="json", by_alias=True, exclude_none=True, include={"section", "material"}
        )
        return {
            "format": part.typed.format,
            "name": f"{part.typed.name[:90]}, wound ({SIMULATED})"[:120],
            "path": {"kind": "points", "points": np.round(points, 6).tolist()},
            **typed,
        }


def wind(table: CoilingTable, seed: int, scatter: float = 0.02) -> WoundPart:
    """Wind by a table. `scatter` is the standard deviation of the wire's flow stress from batch to batch, as
    a share of it; its feed scatters by a tenth of that."""
    random = np.random.default_rng(seed)
    flow = table.wire.flow * (1 + scatter * random.standard_normal())
    fed = 1 + _FEED_SCATTER * scatter * random.standard_normal()
    phases = random.uniform(0, 2 * math.pi, _WAVES)
    sizes = _WANDER * scatter * random.standard_normal(_WAVES) / np.arange(1, _WAVES + 1)
    share = table.feed / table.feed[-1]
    waves = np.sin(2 * math.pi * np.outer(share, np.arange(1, _WAVES + 1)) + phases) @ sizes
    square = (table.diameter / 2) ** 2 + (table.pitch / (2 * math.pi)) ** 2
    bent, turn = table.diameter / 2 / square, table.pitch / (2 * math.pi) / square
    bend = np.array(
        [
            replace(table.wire, flow=flow * (1 + wave)).released(float(k))
            for k, wave in zip(bent, waves, strict=True)
        ]
    )
    s, line = _line(table.feed * fed, bend, turn)
    return WoundPart(line, _measured(s, line, table.outside))


def designed(part: Part) -> WoundPart:
    """A part as it should come out, without its legs, measured in the same way."""
    path = part.path.without_legs
    s = np.unique(np.concatenate([path.stations_by_turning(96, 65), path.breaks]))
    line = path.derivatives(s, 0)[0]
    return WoundPart(line, _measured(s, line, part.outline.box[1]))


def _line(s: Array, bend: Array, turn: Array) -> tuple[Array, Array]:
    """The centre line of a curvature and a torsion over the true length, and its stations, laid around the z
    axis."""
    steps = np.diff(s)
    own = steps > 1e-12
    bend, turn = (bend[1:] + bend[:-1])[own] / 2, (turn[1:] + turn[:-1])[own] / 2
    steps = steps[own]
    frame = np.eye(3)
    place = np.zeros(3)
    places, axes, centres = [place], [], []
    for h, k, t in zip(steps, bend, turn, strict=True):
        tangent, normal, binormal = frame
        whole = math.hypot(k, t)
        axis = (t * tangent + k * binormal) / whole
        angle = whole * h
        sine, cosine = math.sin(angle), math.cos(angle)
        radius, rise = k / whole**2, t / whole
        out, along = -normal, np.cross(axis, -normal)
        place = place + radius * ((cosine - 1) * out + sine * along) + rise * h * axis
        frame = scipy.spatial.transform.Rotation.from_rotvec(angle * axis).apply(frame)
        places.append(place)
        axes.append(axis * h)
        centres.append(places[-2] + radius * normal)
    line = np.array(places)
    upright, _ = scipy.spatial.transform.Rotation.align_vectors([[0.0, 0.0, 1.0]], [np.sum(axes, axis=0)])
    line = upright.apply(line)
    middle = np.average(upright.apply(np.array(centres)), axis=0, weights=steps)
    return np.concatenate([[0.0], np.cumsum(steps)]), line - [middle[0], middle[1], line[0, 2]]


def _measured(s: Array, line: Array, outside: float) -> dict[str, float]:
    radius = np.hypot(line[:, 0], line[:, 1])
    turns = float(np.abs(np.diff(np.unwrap(np.arctan2(line[:, 1], line[:, 0])))).sum() / (2 * math.pi))
    height = float(abs(line[-1, 2] - line[0, 2]))
    return {
        "wire_length": float(s[-1]),
        "turns": turns,
        "pitch": height / turns,
        "height": height,
        "outside_diameter": 2 * float(radius.max() + outside),
    }
