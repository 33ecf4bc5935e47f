"""Coil: around the z axis, by turns, pitch and height, with a diameter and a pitch that may vary.

    r(θ) = r₀ + k θ,   x(θ) = (r cos(θ₀ ± θ), r sin(θ₀ ± θ), c θ),   0 ≤ θ ≤ 2π·turns

k = 0 is the cylinder, c = 0 the flat (Archimedean) spiral; + winds right-handed, − left-handed. Where the
diameter or the pitch varies, r and dz/dθ are functions of θ; a base outline that is not round stretches
the y direction, or replaces the circle by a rounded rectangle.
"""

from __future__ import annotations

import math
from collections.abc import Callable
from dataclasses import dataclass, field
from functools import lru_cache
from typing import Annotated, Any, Literal

import numpy as np
import scipy
from pydantic import Field

from metaspira.numbers.compiled import compiled
from metaspira.numbers.fields import Angle, AnyLength, Distance, Length, Quantity, Turns
from metaspira.numbers.jets import Array, Jet, cos, exp, sin_cos
from metaspira.numbers.kind import Kind, Usual, said
from metaspira.numbers.quadrature import RunningIntegral
from metaspira.paths.base import PathBase, Reach
from metaspira.paths.path import CoilFacts, CurvePath, Path, Stations, radial
from metaspira.problems import Fix, Problem, RecipeError
from metaspira.schedules import Schedule, Varying, linearly

_TURN = 2 * math.pi

Base = Callable[[Jet], tuple[Jet, Jet]]
"""A base outline: x and y for a radius of 1, from the angle."""

EvenTurns = Annotated[float, Quantity("turns", 0.0, 50.0)]
AtTurns = Annotated[float, Quantity("turns", 0.0, 20_000)]


@dataclass(frozen=True)
class LinearCoil:
    """The curve of the module's head; parameter θ in radians."""

    start_radius: float
    widening: float
    climb: float
    hand: int
    start_angle: float
    end: float
    start: float = 0.0
    breaks: tuple[float, ...] = ()

    def derivatives(self, t: Array, order: int) -> tuple[Array, ...]:
        radii = self.start_radius, self.widening
        return tuple(_linear(t, order, *radii, self.climb, self.hand, self.start_angle))

    def speed(self, t: Array) -> Array:
        r = self.start_radius + self.widening * t
        return np.sqrt(r * r + self.widening**2 + self.climb**2)


@compiled("f8[::1]", "i8", "f8", "f8", "f8", "i8", "f8")
def _linear(t, order, radius, widening, climb, hand, start):  # type: ignore[no-untyped-def]
    """Derivatives (order + 1, n, 3): those of r e^{iφ} in the plane are (±i)ᵏ r e^{iφ} + k (±i)ᵏ⁻¹ r′
    e^{iφ}."""
    out = np.zeros((order + 1, len(t), 3))
    for i in range(len(t)):
        angle = start + hand * t[i]
        plane = complex(math.cos(angle), math.sin(angle))
        before = 0j
        for k in range(order + 1):
            here = (radius + widening * t[i]) * plane + k * widening * before
            out[k, i, 0], out[k, i, 1] = here.real, here.imag
            before, plane = plane, complex(-hand * plane.imag, hand * plane.real)
        out[0, i, 2] = climb * t[i]
        if order > 0:
            out[1, i, 2] = climb
    return out


@dataclass(frozen=True, eq=False)
class ShapedCoil:
    """A coil whose radius and pitch are any functions of the share of its turns; parameter θ.

    `base` gives the base outline's x and y for a radius of 1, as jets of the angle.
    """

    radius: Varying
    pitch: Varying
    hand: int
    start_angle: float
    end: float
    base: Base
    base_breaks: tuple[float, ...] = ()
    around: bool = True
    start: float = 0.0
    _rise: RunningIntegral = field(init=False)

    def __post_init__(self) -> None:
        rise = RunningIntegral(
            lambda t: self.pitch.value(t / self.end) / _TURN, 0.0, self.end, breaks=self._pitch_breaks
        )
        object.__setattr__(self, "_rise", rise)

    @property
    def _pitch_breaks(self) -> tuple[float, ...]:
        return tuple(b * self.end for b in self.pitch.breaks)

    @property
    def breaks(self) -> tuple[float, ...]:
        own = [b * self.end for b in self.radius.breaks] + list(self._pitch_breaks)
        return tuple(sorted({*own, *self.base_breaks}))

    def derivatives(self, t: Array, order: int) -> tuple[Array, ...]:
        theta = Jet.variable(t, order)
        radius = self.radius.over(t, self.end, order)
        climb = [c / _TURN for c in self.pitch.over(t, self.end, order).c]
        height = Jet(climb[:order]).integral(self._rise(t)) if order else Jet([self._rise(t)])
        u, v = self.base(theta * self.hand + self.start_angle)
        x, y = radius * u, radius * v
        columns = zip(x.derivatives(), y.derivatives(), height.derivatives(), strict=True)
        return tuple(np.stack(column, axis=1) for column in columns)

    def speed(self, t: Array) -> Array:
        return np.linalg.norm(self.derivatives(t, 1)[1], axis=1)

    def away(self, path: CurvePath, stations: Stations) -> tuple[Array, Array]:
        """Away from the axis on a round base; square to the outline on any other."""
        if self.around:
            return radial(stations)
        level = np.stack([stations.tangent[:, 1], -stations.tangent[:, 0], 0 * stations.s], axis=1)
        bend = np.stack([stations.curvature[:, 1], -stations.curvature[:, 0], 0 * stations.s], axis=1)
        size = np.maximum(np.linalg.norm(level, axis=1, keepdims=True), 1e-300)
        unit = self.hand * level / size
        change = self.hand * bend / size
        return unit, change - np.einsum("ij,ij->i", change, unit)[:, None] * unit


def _circle(angle: Jet) -> tuple[Jet, Jet]:
    sine, cosine = sin_cos(angle)
    return cosine, sine


class Oval(Kind, title="oval"):
    """An oval base: `depth` is its diameter in y, while the coil's diameter is the one in x."""

    kind: Literal["oval"] = "oval"
    depth: Annotated[Length, Usual(1.6)]

    def outline(
        self, diameter: float, turns: float, hand: int, start: float, place: str
    ) -> tuple[Base, tuple[float, ...]]:
        ratio = self.depth / diameter

        def base(angle: Jet) -> tuple[Jet, Jet]:
            sine, cosine = sin_cos(angle)
            return cosine, sine * ratio

        return base, ()


class RoundedRectangle(Kind, title="rounded rectangle"):
    """A rounded rectangle as base: the coil's diameter is its width in x, `depth` its width in y."""

    kind: Literal["rectangle"] = "rectangle"
    depth: Annotated[Length, Usual(1.6)]
    corner_radius: Annotated[Length, Usual(0.25)] = Field(title="Corners")

    def outline(
        self, diameter: float, turns: float, hand: int, start: float, place: str
    ) -> tuple[Base, tuple[float, ...]]:
        """The outline by its own true length, once around in a turn, in units of half the diameter."""
        a, b, r = diameter / 2, self.depth / 2, self.corner_radius
        if r > min(a, b):
            raise RecipeError(
                Problem(
                    f"{place}/corner_radius",
                    f"a corner radius of {r:.6g} mm does not fit sides of {2 * a:.6g} and {2 * b:.6g} mm",
                    f"use {min(a, b):.6g} mm or less",
                    Fix(f"{place}/corner_radius", f"{min(a, b):.9g} mm"),
                )
            )
        quarter = math.pi * r / 2
        sides = [
            b - r,
            quarter,
            2 * (a - r),
            quarter,
            2 * (b - r),
            quarter,
            2 * (a - r),
            quarter,
            b - r,
        ]
        ends = np.concatenate([[0.0], np.cumsum(sides)])
        around = float(ends[-1])
        corners = np.array([[a - r, b - r], [-(a - r), b - r], [-(a - r), -(b - r)], [a - r, -(b - r)]])

        def base(angle: Jet) -> tuple[Jet, Jet]:
            run = angle * (around / _TURN)
            at = np.mod(run.value, around)
            piece = np.clip(np.searchsorted(ends, at, "right") - 1, 0, 8)
            local = Jet([at - ends[piece], *run.c[1:]])
            x, y = local.lifted(0.0), local.lifted(0.0)
            for k in np.unique(piece):
                on = piece == k
                part = Jet([c[on] for c in local.c])
                if k % 2:
                    centre, first = corners[k // 2], (k // 2) * math.pi / 2
                    sine, cosine = sin_cos(part * (1 / r) + first)
                    px, py = cosine * r + centre[0], sine * r + centre[1]
                else:
                    px, py = {
                        0: (part * 0 + a, part),
                        2: (-part + (a - r), part * 0 + b),
                        4: (part * 0 - a, -part + (b - r)),
                        6: (part - (a - r), part * 0 - b),
                        8: (part * 0 + a, part - (b - r)),
                    }[int(k)]
                for whole, given in ((x, px), (y, py)):
                    for c, value in zip(whole.c, given.c, strict=True):
                        c[on] = value
            return x * (1 / a), y * (1 / a)

        joints = ends[1:-1] / around * _TURN
        laps = np.arange(-math.ceil(turns) - 2, math.ceil(turns) + 3)[:, None] * _TURN
        parameters = np.sort((hand * (joints + laps - start)).ravel())
        inside = parameters[(parameters > 1e-9) & (parameters < turns * _TURN - 1e-9)]
        return base, tuple(float(p) for p in inside)


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


class ClosedTurns(Kind):
    """Turns at the ends that are wound to touch: how many at the start and at the end, over how many
    turns the pitch changes, and their pitch (the solid pitch where it is left out)."""

    start: EvenTurns = 0.0
    end: EvenTurns = 0.0
    change: Turns = 0.5
    pitch: Length | None = None


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
            sweep = _TURN * turns
            curve = LinearCoil(start, (end - start) / sweep, height / sweep, hand, self.start_angle, sweep)
            facts = CoilFacts(hand, turns, pitch, height, start, end)
            return CurvePath(curve, facts, turns, even=start == end)
        return self._shaped(place, reach, hand)

    def _shaped(self, place: str, reach: Reach, hand: int) -> Path:
        mean = self._start_diameter(place)
        pitch, turns = self._pitches(place, reach, mean)
        sweep = _TURN * turns
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
        base: Base = _circle
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
        edges = np.array([0.0, self.closed.start, turns - self.closed.end, turns]) * _TURN
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
        turns, pitch = _closed_rise(given, dead, solid, place)
        if turns < dead + closed.change / 2 * len(counts):
            raise RecipeError(
                Problem(
                    f"{place}/closed",
                    f"{turns:.6g} turns do not hold the closed ones and their change of pitch",
                    f"use at least {dead + closed.change / 2 * len(counts):.6g} turns, or close fewer",
                )
            )
        return _Pitches(
            _closing(closed, turns, solid, pitch), (solid * dead + pitch * (turns - dead)) / turns
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


def _closing(closed: ClosedTurns, turns: float, solid: float, pitch: float) -> Varying:
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


def _closed_rise(given: dict[str, Any], dead: float, solid: float, place: str) -> tuple[float, float]:
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
