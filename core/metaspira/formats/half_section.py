"""The outline of a turned body out of a drawn half section, or of one drawn line."""

from __future__ import annotations

import itertools
import math
from collections.abc import Sequence

import numpy as np

from metaspira.numbers.jets import Array
from metaspira.paths.turned import MOST_POINTS
from metaspira.problems import Problem, RecipeError
from metaspira.sections.loops import Loop

_ON_AXIS = 1e-5
_PAIRS = 2

Step = tuple[float, ...]
"""`[radius, height]`, or with the bulge of the arc that leads to it."""


def half_section(loops: Sequence[Loop]) -> tuple[Step, ...]:
    """The outline `[radius, height]` or `[radius, height, bulge]`, from its foot up, of the body that the
    first of `loops` makes when it is turned around x = 0: without the sides that lie on the axis and the
    flat ends that reach it; of a loop that stays off the axis, the outer side. Curves become arcs, four to
    each. Raises RecipeError where there is none, or where it lies on both sides of the axis."""
    if not loops:
        raise RecipeError(
            Problem("/file", "there is no outline in the drawing", "draw it larger, in one line")
        )
    loop = loops[0]
    steps = _steps(loop)
    x = np.array([step[0] for step in steps])
    size = float(np.ptp([step[1] for step in steps]) + np.max(np.abs(x)))
    near = _ON_AXIS * size
    if x.min() < -near and x.max() > near:
        raise RecipeError(
            Problem(
                "/file", "the outline lies on both sides of the axis x = 0", "draw the half on one side of it"
            )
        )
    if x.min() < -near:
        steps = [(-step[0], step[1], *(-bulge for bulge in step[2:])) for step in steps]
    steps = [(max(step[0], 0.0), *step[1:]) for step in steps]
    if loop.closed:
        steps = _opened(steps, near)
    if len(steps) > 2 and len(steps[1]) == 2 and _flat_end(steps[0], steps[1], near):
        steps = [steps[1][:2], *steps[2:]]
    if len(steps) > 2 and len(steps[-1]) == 2 and _flat_end(steps[-1], steps[-2], near):
        steps = steps[:-1]
    if steps[-1][1] < steps[0][1]:
        steps = _reversed(steps)
    if len(steps) > MOST_POINTS:
        raise RecipeError(
            Problem(
                "/file",
                f"the outline has {len(steps)} points, more than the {MOST_POINTS} that it may have",
                "draw it with fewer lines and curves",
            )
        )
    return tuple(steps)


def _steps(loop: Loop) -> list[Step]:
    """The loop's corners one after the other, the first without a bulge; a closed one ends at its start."""
    first = loop.points[0]
    steps: list[Step] = [first[:2] if len(first) == 3 else (first[-2], first[-1])]
    for entry in loop.points[1:]:
        if len(entry) == 6:
            steps += _arcs(np.array([steps[-1][:2], entry[:2], entry[2:4], entry[4:]]))
        else:
            steps.append(entry)
    if loop.closed and math.dist(steps[0], steps[-1][:2]) > 1e-9:
        steps.append(steps[0])
    return steps


def _arcs(control: Array) -> list[Step]:
    """A cubic curve as pairs of arcs that share their tangents (biarcs of equal legs; Bolton, K. M.: Biarc
    curves, Computer-Aided Design 7 (1975))."""
    t = np.linspace(0.0, 1.0, _PAIRS + 1)[:, None]
    legs = np.diff(control, axis=0)
    points = (1 - t) ** 3 * control[0] + 3 * (1 - t) ** 2 * t * control[1]
    points += 3 * (1 - t) * t * t * control[2] + t**3 * control[3]
    slopes = (1 - t) ** 2 * legs[0] + 2 * (1 - t) * t * legs[1] + t * t * legs[2]
    chords = np.diff(points, axis=0)
    slopes[0] = slopes[0] if np.any(slopes[0]) else chords[0]
    slopes[-1] = slopes[-1] if np.any(slopes[-1]) else chords[-1]
    tangents = slopes / np.maximum(np.linalg.norm(slopes, axis=1, keepdims=True), 1e-300)
    found: list[Step] = []
    for i, chord in enumerate(chords):
        if float(np.hypot(*chord)) < 1e-12:
            continue
        first, last = tangents[i], tangents[i + 1]
        whole, both = float(chord @ chord), first + last
        across, room = float(chord @ both), 2 * (1 - float(first @ last))
        leg = whole / (across + math.sqrt(across * across + room * whole))
        middle = (points[i] + leg * first + points[i + 1] - leg * last) / 2
        found += [
            _arc(points[i], first, middle),
            _arc(middle, (middle - points[i] - leg * first) / leg, points[i + 1]),
        ]
    return found


def _arc(start: Array, tangent: Array, end: Array) -> Step:
    """The arc that leaves `start` along `tangent`."""
    chord = end - start
    turn = math.atan2(tangent[0] * chord[1] - tangent[1] * chord[0], float(tangent @ chord))
    bulge = math.tan(turn / 2)
    return (float(end[0]), float(end[1]), bulge) if abs(bulge) > 1e-9 else (float(end[0]), float(end[1]))


def _opened(steps: list[Step], near: float) -> list[Step]:
    """A closed outline, which ends at its start, without what lies on the axis; of one that keeps off it, the
    outer of the two ways from its lowest to its highest point."""
    on_axis = [len(b) == 2 and a[0] < near and b[0] < near for a, b in itertools.pairwise(steps)]
    if any(on_axis):
        last = max(i for i, on in enumerate(on_axis) if on and not on_axis[(i + 1) % len(on_axis)])
        kept = _turned(steps, last + 1)
        while len(kept) > 2 and len(kept[-1]) == 2 and kept[-1][0] < near and kept[-2][0] < near:
            kept = kept[:-1]
        return kept
    corners = steps[:-1]
    low = min(range(len(corners)), key=lambda i: (corners[i][1], -corners[i][0]))
    around = _turned(steps, low)
    high = max(range(len(corners)), key=lambda i: (around[i][1], around[i][0]))
    one, other = around[: high + 1], _reversed(around[high:])
    return max(one, other, key=lambda way: float(np.mean([step[0] for step in way])))


def _turned(steps: list[Step], start: int) -> list[Step]:
    """A closed outline begun at another of its corners."""
    around = steps[1:]
    start %= len(around)
    first = steps[start]
    return [first[:2], *around[start:], *around[:start]]


def _reversed(steps: list[Step]) -> list[Step]:
    bulges = [*(tuple(-b for b in step[2:]) for step in steps[1:]), ()]
    found = [(*step[:2], *bulge) for step, bulge in zip(steps, bulges, strict=True)][::-1]
    return [found[0][:2], *found[1:]]


def _flat_end(tip: Step, inner: Step, near: float) -> bool:
    return tip[0] < near and abs(tip[1] - inner[1]) < near
