"""Coil: around the z axis, by turns, pitch and height, with a diameter and a pitch that may vary."""

from __future__ import annotations

import math
from dataclasses import dataclass
from typing import Annotated, Any, Literal

import numpy as np
from pydantic import Field

from metaspira.numbers.fields import Angle, AnyLength, Distance, Length, Quantity, Turns
from metaspira.numbers.jets import Jet, cos, exp
from metaspira.numbers.kind import Usual, said
from metaspira.numbers.quadrature import RunningIntegral
from metaspira.paths.base import PathBase, Reach
from metaspira.paths.closed_turns import ClosedTurns, closed_rise, closing, solid_pitch
from metaspira.paths.coil_bases import Oval, RoundedRectangle
from metaspira.paths.helix import Base, LinearCoil, ShapedCoil, circle
from metaspira.paths.path import CoilFacts, CurvePath, Path
from metaspira.problems import Fix, Problem, RecipeError
from metaspira.schedules import Schedule, Varying, linearly

AtTurns = Annotated[float, Quantity("turns", 0.0, 20_000)]


class DiameterSchedule(Schedule[Length, AnyLength]):
    """A diameter over the turns, by points, formula (of t or turn), or a shape.

    `over` says whether points stand at shares of the turns or at turns. Shapes: `barrel` and `hourglass`
    go `from` – `middle` – `to` along a parabola, `dome` falls like a quarter cosine, `horn` grows
    exponentially.
    """

    points: tuple[tuple[AtTurns, Length], ...] | None = Field(default=None, min_length=1, max_length=200)
    over: Literal["share", "turns"] = "share"
    shape: Literal["barrel", "hourglass", "dome", "horn"] | None = None
    middle: Length | None = None


class PitchSchedule(Schedule[Distance, AnyLength]):
    """A pitch over the turns, by points or formula (of t or turn)."""

    points: tuple[tuple[AtTurns, Distance], ...] | None = Field(default=None, min_length=1, max_length=200)
    over: Literal["share", "turns"] = "share"


class Coil(PathBase, title="coil"):
    """A coil around the z axis, by any two of turns, pitch and height (of the centre line).

    With `closed` end turns the turns and the height are those of the whole coil, and the pitch is that
    of the turns between.
    """

    listed = 1
    stance = "outward"
    kind: Literal["coil"] = "coil"
    hand: Literal["right", "left"] = "right"
    start_angle: Angle = 0.0
    diameter: Annotated[Length | DiameterSchedule, Usual(1)]
    diameter_at: Literal["mean", "outside", "inside"] = Field(default="mean", title="Measured at")
    end_diameter: Length | None = Field(default=None, description="measured at the same place")
    cone_angle: Angle | None = Field(
        default=None, title="Half angle", description="positive widens as the cone rises"
    )
    turns: Annotated[Turns | None, Usual(6)] = None
    pitch: Annotated[Distance | PitchSchedule | None, Usual(0.4)] = None
    height: Distance | None = None
    base: Oval | RoundedRectangle | None = Field(default=None, discriminator="kind")
    closed: ClosedTurns | None = None

    @property
    def closed_counts(self) -> tuple[float, float]:
        return (self.closed.start, self.closed.end) if self.closed else (0.0, 0.0)

    def words(self, unit: str) -> str:
        varies = isinstance(self.diameter, DiameterSchedule)
        shape = self.diameter.shape or "varying ⌀" if isinstance(self.diameter, DiameterSchedule) else ""
        parts = [shape if varies else f"⌀ {said(self.diameter, unit)}"]
        if self.end_diameter is not None:
            parts[0] += f" to {said(self.end_diameter, unit)}"
        elif self.cone_angle is not None:
            parts.append(f"cone {said(self.cone_angle, '°')}")
        if self.turns is not None:
            parts.append(f"{said(self.turns)} turns")
        if isinstance(self.pitch, PitchSchedule):
            parts.append("varying pitch")
        elif self.pitch is not None:
            parts.append(f"pitch {said(self.pitch, unit)}")
        if self.height is not None:
            parts.append(f"height {said(self.height, unit)}")
        if self.closed:
            parts.append("closed ends")
        return f"{self.hand}-hand coil, {', '.join(parts)}"

    def curve(self, place: str, reach: Reach) -> Path:
        """The path of a resolved coil. Raises RecipeError with places below `place`."""
        hand = 1 if self.hand == "right" else -1
        first = self.diameter
        plain = not isinstance(first, DiameterSchedule) and not isinstance(self.pitch, PitchSchedule)
        if plain and self.base is None and self.closed is None:
            turns, pitch, height = self._rise(place)
            start = self._mean_radius(first, reach[0], f"{place}/diameter")  # type: ignore[arg-type]
            end = self._end_radius(place, start, height, reach[1])
            sweep = 2 * math.pi * turns
            curve = LinearCoil(start, (end - start) / sweep, height / sweep, hand, self.start_angle, sweep)
            facts = CoilFacts(hand, turns, pitch, height, start, end)
            return CurvePath(curve, facts, turns, even=start == end)
        return self._shaped(place, reach, hand)

    def _shaped(self, place: str, reach: Reach, hand: int) -> Path:
        mean = self._start_diameter(place)
        pitch, turns = self._pitches(place, reach, mean)
        sweep = 2 * math.pi * turns
        radius = self._radii(place, reach, turns, float(pitch.mean) * turns)
        least, greatest = radius.extremes()
        if least <= 0:
            raise RecipeError(
                Problem(
                    f"{place}/diameter",
                    f"the radius of the path falls to {least:.6g} mm",
                    "keep it above zero all along",
                )
            )
        base: Base = circle
        base_breaks: tuple[float, ...] = ()
        if self.base is not None:
            base, base_breaks = self.base.outline(
                2 * greatest, turns, hand, self.start_angle, f"{place}/base"
            )
        curve = ShapedCoil(
            radius, pitch.varying, hand, self.start_angle, sweep, base, base_breaks, self.base is None
        )
        start, end = radius.ends
        height = float(curve._rise(np.array([sweep]))[0])
        facts = CoilFacts(hand, turns, height / turns, height, start, end)
        path = CurvePath(curve, facts, turns)
        if self.closed is None:
            return path
        edges = np.array([0.0, self.closed.start, turns - self.closed.end, turns]) * 2 * math.pi
        spans = path.true_length(edges)
        touching = tuple(
            (float(a), float(b)) for a, b in ((spans[0], spans[1]), (spans[2], spans[3])) if b > a
        )
        return CurvePath(curve, facts, turns, touching=touching)

    def _start_diameter(self, place: str) -> float:
        if isinstance(self.diameter, DiameterSchedule):
            return self._diameters(place, 1.0).ends[0]
        return self.diameter

    def _diameters(self, place: str, turns: float) -> Varying:
        given = self.diameter
        if not isinstance(given, DiameterSchedule):
            raise TypeError("a single diameter is no schedule")
        here = f"{place}/diameter"
        for name in ("end_diameter", "cone_angle"):
            if getattr(self, name) is not None:
                raise RecipeError(
                    Problem(
                        f"{place}/{name}",
                        "the diameter varies already, so there is no taper beside it",
                        "leave it out",
                    )
                )
        if given.shape is not None:
            return _shape(given, here)
        return _over_turns(given, here, turns)

    def _radii(self, place: str, reach: Reach, turns: float, height: float) -> Varying:
        """Radius of the path over the share of the turns."""
        if isinstance(self.diameter, DiameterSchedule):
            insets = [
                {"mean": 0.0, "outside": outward, "inside": inward}[self.diameter_at]
                for inward, outward, _ in reach
            ]
            diameters, inset = self._diameters(place, turns), linearly(*insets)
            if inset.constant is not None:
                return diameters.mapped(lambda d: d * 0.5 - inset.constant)
            return Varying(
                lambda t, order: diameters.jet(t, order) * 0.5 - inset.jet(t, order),
                diameters.breaks,
                diameters.pieces,
            )
        start = self._mean_radius(self.diameter, reach[0], f"{place}/diameter")
        return linearly(start, self._end_radius(place, start, height, reach[1]))

    def _pitches(self, place: str, reach: Reach, diameter: float) -> tuple[_Pitches, float]:
        """The pitch over the share of the turns, and the turns."""
        if isinstance(self.pitch, PitchSchedule):
            if self.closed is not None:
                raise RecipeError(
                    Problem(
                        f"{place}/closed",
                        "the pitch varies already, so the ends are closed by it",
                        "leave “closed” out, and let the pitch fall to the wire's height at the ends",
                    )
                )
            return self._by_schedule(place, self.pitch)
        if self.closed is None:
            turns, pitch, _ = self._rise(place)
            return _Pitches(linearly(pitch, pitch), pitch), turns
        closed = self.closed
        solid = closed.pitch
        if solid is None:
            solid = max(solid_pitch(diameter / 2, height) for _, _, height in reach)
        counts = [n for n in (closed.start, closed.end) if n > 0]
        dead = sum(n + closed.change / 2 for n in counts)
        given = {name: getattr(self, name) for name in ("turns", "pitch", "height")}
        turns, pitch = closed_rise(given, dead, solid, place)
        if turns < dead + closed.change / 2 * len(counts):
            raise RecipeError(
                Problem(
                    f"{place}/closed",
                    f"{turns:.6g} turns do not hold the closed ones and their change of pitch",
                    f"use at least {dead + closed.change / 2 * len(counts):.6g} turns, or close fewer",
                )
            )
        return _Pitches(
            closing(closed, turns, solid, pitch), (solid * dead + pitch * (turns - dead)) / turns
        ), turns

    def _by_schedule(self, place: str, schedule: PitchSchedule) -> tuple[_Pitches, float]:
        if (self.turns is None) == (self.height is None):
            raise RecipeError(
                Problem(
                    place,
                    "with a pitch that varies, a coil needs either turns or height",
                    "give one of them",
                )
            )
        here = f"{place}/pitch"
        if self.turns is not None:
            varying = _over_turns(schedule, here, self.turns)
            return _Pitches(varying, _mean(varying)), self.turns
        if schedule.over == "turns":
            raise RecipeError(
                Problem(f"{here}/over", "the turns are not known yet", "give turns in place of height")
            )
        varying = _over_turns(schedule, here, 1.0)
        mean = _mean(varying)
        if not 1e-3 <= (turns := self.height / max(mean, 1e-9)) <= 20_000:  # type: ignore[operator]
            raise RecipeError(
                Problem(here, f"height over pitch makes {turns:.6g} turns", "choose another pitch")
            )
        return _Pitches(varying, mean), turns

    def _rise(self, place: str) -> tuple[float, float, float]:
        given = [name for name in ("turns", "pitch", "height") if getattr(self, name) is not None]
        if len(given) == 3:
            raise RecipeError(
                Problem(
                    place,
                    "turns, pitch and height are all given, and two of them set the third",
                    "leave one of them out",
                )
            )
        if len(given) < 2:
            missing = [name for name in ("turns", "pitch", "height") if name not in given]
            raise RecipeError(
                Problem(
                    place,
                    f"a coil needs two of turns, pitch and height; it has {' '.join(given) or 'none'}",
                    f"add {' or '.join(missing)}",
                )
            )
        if self.height is None:
            assert self.turns is not None and isinstance(self.pitch, int | float)
            return self.turns, self.pitch, self.turns * self.pitch
        if self.pitch is None:
            assert self.turns is not None
            return self.turns, self.height / self.turns, self.height
        if self.pitch == 0 or self.height == 0:
            raise RecipeError(
                Problem(
                    f"{place}/pitch",
                    "a flat coil has neither pitch nor height, so they do not tell its turns",
                    "give turns, and leave the pitch out",
                )
            )
        assert isinstance(self.pitch, int | float)
        turns = self.height / self.pitch
        if not 1e-3 <= turns <= 20_000:
            raise RecipeError(
                Problem(
                    f"{place}/pitch",
                    f"height over pitch makes {turns:.6g} turns",
                    "choose a pitch that makes between 0.001 and 20000 turns",
                )
            )
        return turns, self.pitch, self.height

    def _mean_radius(self, diameter: float, reach: tuple[float, float, float], place: str) -> float:
        inward, outward, _ = reach
        inset = {"mean": 0.0, "outside": outward, "inside": inward}[self.diameter_at]
        radius = diameter / 2 - inset
        if radius <= 0:
            raise RecipeError(
                Problem(
                    place,
                    f"the section reaches {inset:.6g} mm outward from the path, "
                    f"so no path is left inside an outside diameter of {diameter:.6g} mm",
                    f"use an outside diameter above {2 * inset:.6g} mm",
                )
            )
        return radius

    def _end_radius(
        self, place: str, start: float, height: float, reach: tuple[float, float, float]
    ) -> float:
        if self.end_diameter is not None and self.cone_angle is not None:
            raise RecipeError(
                Problem(
                    f"{place}/cone_angle",
                    "the taper is given twice, by end_diameter and by cone_angle",
                    "leave one of them out",
                )
            )
        if self.end_diameter is not None:
            return self._mean_radius(self.end_diameter, reach, f"{place}/end_diameter")
        if self.cone_angle is None:
            return start
        if abs(self.cone_angle) >= math.radians(89):
            raise RecipeError(
                Problem(
                    f"{place}/cone_angle",
                    f"a half angle of {math.degrees(self.cone_angle):.6g}° is flat",
                    "stay between −89° and 89°, or use end_diameter with height 0",
                )
            )
        end = start + height * math.tan(self.cone_angle)
        if end <= 0:
            steepest = -math.degrees(math.atan(start / height))
            works = math.ceil(steepest * 0.999 * 100) / 100
            raise RecipeError(
                Problem(
                    f"{place}/cone_angle",
                    f"at {math.degrees(self.cone_angle):.6g}° the cone closes to a point "
                    "below the end of the coil",
                    f"use {works:g}° or less of it",
                    Fix(f"{place}/cone_angle", works),
                )
            )
        return end


@dataclass(frozen=True)
class _Pitches:
    varying: Varying
    mean: float


def _mean(varying: Varying) -> float:
    return RunningIntegral(varying.value, 0.0, 1.0, breaks=varying.breaks).total


def _over_turns(schedule: DiameterSchedule | PitchSchedule, place: str, turns: float) -> Varying:
    if schedule.points is not None and schedule.over == "turns":
        return schedule.through_points(place, last=turns)
    return schedule.varying(place, turn=lambda share: share * turns)


def _shape(schedule: DiameterSchedule, place: str) -> Varying:
    def needed(name: str, value: Any) -> float:
        if value is None:
            raise RecipeError(Problem(f"{place}/{name}", f"a {schedule.shape} needs “{name}”", "add it"))
        return float(value)

    start = needed("from", schedule.from_)
    if schedule.shape in ("barrel", "hourglass"):
        end = start if schedule.to is None else float(schedule.to)
        middle = needed("middle", schedule.middle)
        bulge = middle - 0.5 * (start + end)
        if (bulge > 0) != (schedule.shape == "barrel"):
            other = "hourglass" if schedule.shape == "barrel" else "barrel"
            raise RecipeError(
                Problem(
                    f"{place}/middle",
                    f"a middle of {middle:.6g} mm makes it the shape of a {other}",
                    f"use “{other}”, or another middle",
                    Fix(f"{place}/shape", other),
                )
            )
        return Varying(lambda t, order: _parabola(Jet.variable(t, order), start, end, bulge), pieces=3)
    end = needed("to", schedule.to)
    if schedule.shape == "dome":
        return Varying(
            lambda t, order: (start - end) * cos(Jet.variable(t, order) * (math.pi / 2)) + end, pieces=3
        )
    return Varying(lambda t, order: exp(Jet.variable(t, order) * math.log(end / start)) * start, pieces=3)


def _parabola(t: Jet, start: float, end: float, bulge: float) -> Jet:
    return t * (end - start) + start + t * (1 - t) * (4 * bulge)
