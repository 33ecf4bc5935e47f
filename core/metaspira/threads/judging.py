"""A made thread as it was measured, against the limits of its class.

The functional pitch diameter of an external thread is what a perfect nut feels: over the measured one it is
larger by what the pitch is off over the engagement and by what the flanks are off (common metrology of 60°
threads; not checked against a printed page):

    f_P = |δP| cot α;   f_α = 0.073 P (k₁|Δα₁| + k₂|Δα₂|)  µm, P in mm, Δα in minutes of arc; k = 3 where a
    half angle of an external thread is too small, 2 where it is too large, of an internal one the other way
    round
"""

from __future__ import annotations

import math
from collections.abc import Sequence
from dataclasses import dataclass
from typing import Annotated

from pydantic import Field

from metaspira.numbers.kind import Kind
from metaspira.problems import Problem, RecipeError
from metaspira.threads.gauging import lead_correction, over_wires, tooth_depth
from metaspira.threads.thread import Side, Size, Thread

_Size = Annotated[float, Field(gt=0, le=10_000, allow_inf_nan=False)]
_Error = Annotated[float, Field(ge=-100, le=100, allow_inf_nan=False)]


class Readings(Kind):
    """What was measured of a made thread, mm: the crest (major diameter, of a nut the minor diameter), the
    depth from crest to root, the pitch diameter or the size `over` three wires of a diameter, the error of
    the pitch over the engagement; and those of both half angles, degrees."""

    crest: _Size | None = None
    depth: _Size | None = None
    pitch_diameter: _Size | None = None
    wire: _Size | None = None
    over: _Size | None = None
    pitch_error: _Error = 0.0
    flank_errors: tuple[_Error, _Error] = (0.0, 0.0)


@dataclass(frozen=True)
class Judged:
    """A size as measured, its limits, mm, and whether it is within them; `off` is how far beyond."""

    key: str
    title: str
    value: float
    least: float | None
    most: float | None
    within: bool
    off: float


@dataclass(frozen=True)
class Judgement:
    """What was measured against its limits, and the sizes over the wires at hand, basic, most and least,
    mm."""

    measured: list[Judged]
    over_wires: dict[str, float]


def judgement(thread: Thread, side: Side, readings: Readings) -> Judgement:
    """A made thread against the limits of its class. Raises RecipeError where the wires cannot measure it."""
    pitch, wire = readings.pitch_diameter, readings.wire
    if readings.over is not None:
        if wire is None:
            raise RecipeError(Problem("/wire", "the wires are not told", "give their diameter"))
        if side == "internal":
            raise RecipeError(
                Problem("/over", "wires measure external threads", "measure the pitch diameter another way")
            )
        pitch = pitch_diameter(thread, readings.over, wire)
    sizes = thread.external.pitch
    over = {} if wire is None else {"basic": sizes.basic, "max": sizes.max, "min": sizes.min}
    return Judgement(
        judged(
            thread, side, readings.crest, pitch, readings.pitch_error, readings.flank_errors, readings.depth
        ),
        {
            name: over_wires(thread, value, demand_wire(thread, wire or 0.0))
            for name, value in over.items()
            if value is not None
        },
    )


def pitch_diameter(thread: Thread, over: float, wire: float) -> float:
    """The pitch diameter, mm, of an external thread that measures `over` three wires of any diameter, mm.
    Raises RecipeError where the wire does not bear on the flanks."""
    half = thread.leading
    wire = demand_wire(thread, wire)
    plain = over - wire * (1 + 1 / math.sin(half)) + thread.pitch / (2 * math.tan(half))
    return plain - lead_correction(thread, wire)


def demand_wire(thread: Thread, wire: float) -> float:
    """The wire, where it bears on the flanks of an external thread. Raises RecipeError."""
    if abs(thread.leading - thread.trailing) > 1e-12 or thread.leading == 0:
        raise RecipeError(
            Problem("/wire", "three wires measure threads of two like flanks", "measure another way")
        )
    least, most = wire_range(thread)
    if not least <= wire <= most:
        raise RecipeError(
            Problem(
                "/wire",
                f"a wire of {wire:.5g} mm does not bear on the flanks",
                f"use one of {least:.4g} to {most:.4g} mm",
            )
        )
    return wire


def wire_range(thread: Thread) -> tuple[float, float]:
    """The thinnest and the thickest wire, mm, that bear on the straight flanks of an external thread."""
    half, p = thread.leading, thread.pitch
    external = thread.external

    def wire_at(radius_over_pitch: float) -> float:
        return (p / 2 + 2 * radius_over_pitch * math.tan(half)) / math.cos(half)

    low = wire_at(-(external.pitch.basic - external.minor.basic) / 2)
    high = wire_at((external.major.at("min") - external.pitch.basic) / 2)
    return low, high


def judged(
    thread: Thread,
    side: Side,
    crest: float | None = None,
    pitch: float | None = None,
    pitch_error: float = 0.0,
    flank_errors: Sequence[float] = (),
    depth: float | None = None,
) -> list[Judged]:
    """What was measured, mm, against its limits: the crest (major diameter of an external, minor diameter of
    an internal thread), the `depth` from crest to root, and the pitch diameter, with it the functional one;
    `pitch_error` over the engagement, mm, and errors of both half angles, degrees, with their signs."""
    member, found = thread.member(side), []
    name = "major" if side == "external" else "minor"
    if crest is not None:
        found.append(_held("crest", f"{name.capitalize()} diameter", crest, getattr(member, name)))
    if depth is not None:
        found.append(_held("depth", "Tooth depth", depth, tooth_depth(thread, side)))
    if pitch is not None:
        found.append(_held("pitch", "Pitch diameter", pitch, member.pitch))
        feels = pitch + (1 if side == "external" else -1) * _felt(thread, side, pitch_error, flank_errors)
        found.append(_held("functional", "Functional pitch diameter", feels, member.pitch))
    return found


def _held(key: str, title: str, value: float, size: Size) -> Judged:
    low = 0.0 if size.min is None else size.min - value
    high = 0.0 if size.max is None else value - size.max
    off = max(low, high, 0.0)
    return Judged(key, title, value, size.min, size.max, off < 1e-9, off)


def _felt(thread: Thread, side: Side, pitch_error: float, flank_errors: Sequence[float]) -> float:
    """How much more than its pitch diameter a perfect mate feels, mm."""
    slope = 0.5 * (math.tan(thread.leading) + math.tan(thread.trailing))
    felt = abs(pitch_error) / slope if slope > 1e-9 else 0.0
    if abs(slope - math.tan(math.pi / 6)) < 1e-6:
        for error in flank_errors:
            narrow = (error < 0) == (side == "external")
            felt += 0.073e-3 * thread.pitch * (3 if narrow else 2) * abs(error) * 60
    return felt
