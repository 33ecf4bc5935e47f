"""A run-through: inputs that move between values over time, with the whole part and all its checks at each
moment.

Where a working point of a spring moves, the spring is shown at that point, with the force and the stress
there.
"""

from __future__ import annotations

from collections.abc import Callable
from typing import Annotated, Literal

import numpy as np
from pydantic import Field

from metaspira.checks import Report, measured, report_on
from metaspira.numbers.jets import Array
from metaspira.numbers.kind import Kind
from metaspira.parts import Part
from metaspira.problems import Cancelled, Problem, RecipeError
from metaspira.processes import Progress
from metaspira.recipe.model import Recipe
from metaspira.studies.film import Film, Frame, Run, faces_of, grid_of, stations_of
from metaspira.studies.inputs import Input, input_at, with_values

MOST_FRAMES = 120

_Plain = Annotated[float, Field(allow_inf_nan=False, ge=-1e12, le=1e12)]


class Track(Kind):
    """An input, a JSON pointer, that moves through `values`, plain numbers as typed there, at even times; by
    straight lines, or smoothly."""

    input: str = Field(max_length=200)
    values: list[_Plain] = Field(min_length=2, max_length=20)
    ease: Literal["straight", "smooth"] = "smooth"


def demand(typed: Recipe, tracks: list[Track], frames: int, seconds: float) -> list[Input]:
    """The inputs that move. Raises RecipeError where they, or the recipe, cannot be used."""
    if not tracks:
        raise RecipeError(Problem("/tracks", "nothing moves", "let an input move"))
    if not 2 <= frames <= MOST_FRAMES:
        raise RecipeError(Problem("/frames", f"{frames} frames are asked for", f"take 2 to {MOST_FRAMES}"))
    if not 0.1 <= seconds <= 120:
        raise RecipeError(Problem("/seconds", f"{seconds:g} s are asked for", "take 0.1 to 120 s"))
    part = with_values(typed, {})
    if not isinstance(part, Part):
        raise RecipeError(Problem("/thread", "a thread is not run through", "take a coil"))
    inputs = [input_at(part, track.input, f"/tracks/{k}/input") for k, track in enumerate(tracks)]
    if len({one.place for one in inputs}) < len(inputs):
        raise RecipeError(Problem("/tracks", "an input moves twice", "let it move once"))
    return inputs


def run_through(
    typed: Recipe,
    tracks: list[Track],
    frames: int = 40,
    seconds: float = 4.0,
    progress: Progress = lambda share, step: None,
    cancelled: Callable[[], bool] = lambda: False,
) -> Film:
    """Run a recipe through its tracks. Raises RecipeError, Cancelled."""
    inputs = demand(typed, tracks, frames, seconds)
    point = _point_in(inputs)
    told: list[Frame] = []
    shapes: list[list[Array]] = []
    first: Part | None = None
    counts: list[int] = []
    for k in range(frames):
        if cancelled():
            raise Cancelled
        progress(k / frames, f"frame {k + 1} of {frames}")
        values = [_at(track, one, k / (frames - 1)) for track, one in zip(tracks, inputs, strict=True)]
        try:
            part = with_values(typed, {one.parts: v for one, v in zip(inputs, values, strict=True)})
            assert isinstance(part, Part)
            report = report_on(part, with_remedies=False)
            shape, figures = (part, report.figures) if point is None else _at_work(part, point)
        except RecipeError as error:
            told.append(Frame(values, "unusable", error.problems[0].reason, {}, []))
            if shapes:
                shapes.append(shapes[-1])
            continue
        told.append(_frame(report, values, figures))
        if first is None:
            first, counts = shape, [stations_of(body.sweep.turning) for body in shape.bodies]
        if len(part.bodies) != len(counts):
            raise RecipeError(Problem("/tracks", "the number of wires changes on the way", "keep it"))
        own = [grid_of(shape, index, count) for index, count in enumerate(counts)]
        shapes += [own] * (k + 1 - len(shapes))
    if first is None:
        raise RecipeError(Problem("/tracks", f"no frame can be used: {told[0].why}", "let it move elsewhere"))
    clash = next((k for k, frame in enumerate(told) if frame.verdict in ("stop", "unusable")), None)
    wires = [
        (
            body.name,
            np.array([shape[index] for shape in shapes]),
            faces_of(body.sweep, counts[index]),
        )
        for index, body in enumerate(first.bodies)
    ]
    return Film(Run(inputs, seconds, told, clash), first, wires)


def _at(track: Track, one: Input, share: float) -> float:
    legs = len(track.values) - 1
    leg = min(int(share * legs), legs - 1)
    t = share * legs - leg
    if track.ease == "smooth":
        t = t * t * (3 - 2 * t)
    value = track.values[leg] + t * (track.values[leg + 1] - track.values[leg])
    return float(round(value)) if one.whole else float(f"{value:.12g}")


def _point_in(inputs: list[Input]) -> int | None:
    """Which working point of the spring moves; the first where several do."""
    points = (int(one.parts[2]) for one in inputs if one.parts[:2] == ("spring", "points"))
    return next(points, None)


def _at_work(part: Part, point: int) -> tuple[Part, dict[str, float | None]]:
    """The spring at a working point, and its figures there, with what it takes and its corrected stress.
    Raises RecipeError."""
    spring = part.spring
    assert spring is not None
    worked = spring.points[point]
    shape = part.worked_to(worked.place)
    effort = "force" if spring.units[1] == "N" else "torque"
    return shape, {**measured(shape), effort: worked.effort, "stress": worked.corrected}


def _frame(report: Report, values: list[float], figures: dict[str, float | None]) -> Frame:
    worst = [check for check in report.checks if check.verdict == report.verdict != "clear"]
    where = [list(span) for span in worst[0].where] if worst else []
    return Frame(values, report.verdict, worst[0].why if worst else "", figures, where)
