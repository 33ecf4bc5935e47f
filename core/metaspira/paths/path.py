"""A curve in space, asked by true length.

x(t): t ∈ [start, end],   s(t) = ∫ |x'|,   T = dx/ds,   K = dT/ds (curvature vector)
"""

from __future__ import annotations

import math
from abc import ABC, abstractmethod
from collections.abc import Callable, Sequence
from dataclasses import dataclass, field
from typing import TYPE_CHECKING, Generic, Protocol, TypeVar

import numpy as np

from metaspira.numbers.compiled import compiled
from metaspira.numbers.jets import Array, Jet, sqrt
from metaspira.numbers.once import cached_property
from metaspira.numbers.quadrature import RunningIntegral
from metaspira.numbers.vectors import dots
from metaspira.problems import Problem, RecipeError

if TYPE_CHECKING:
    from metaspira.paths.turned import TurnedSurface

T = TypeVar("T")

_REMEMBERED = 2
_MOST_TURNING = 2 * math.pi * 1e6

Span = tuple[float, float]
"""From and to, in mm of true length."""


class Curve(Protocol):
    """A parametric curve; its parameter is free, its unit of length the millimetre.

    `breaks` are the parameters inside at which its curvature jumps.
    """

    @property
    def start(self) -> float: ...

    @property
    def end(self) -> float: ...

    @property
    def breaks(self) -> Sequence[float]: ...

    def derivatives(self, t: Array, order: int) -> tuple[Array, ...]:
        """x, x', x'' … at t (n,), `order` + 1 arrays (n, 3)."""

    def speed(self, t: Array) -> Array:
        """|x'| at t, (n,)."""


@dataclass(frozen=True)
class Stations:
    """What a path is at n places: s (n,), the rest (n, 3); `curvature` is the vector dT/ds."""

    s: Array
    position: Array
    tangent: Array
    curvature: Array


@dataclass(frozen=True)
class CoilFacts:
    """What is known of a coil beyond its curve: hand +1 or −1, turns, mm of rise a turn and in all."""

    hand: int
    turns: float
    pitch: float
    height: float
    start_radius: float
    end_radius: float


class Path(ABC):
    """A curve by true length.

    `coil` is set where the path runs around the z axis; `turns` is how often it runs around its axis, or
    None; `closed` where it ends as it starts; `even` where it turns by the same for each mm; `touching` are
    the spans that are meant to touch what is beside them (closed end turns); `seat` is the turned body that
    it lies on, or None.
    """

    coil: CoilFacts | None = None
    turns: float | None = None
    closed: bool = False
    even: bool = False
    touching: tuple[Span, ...] = ()
    seat: TurnedSurface | None = None

    @property
    @abstractmethod
    def length(self) -> float:
        """True length, mm."""

    @abstractmethod
    def derivatives(self, s: Array, order: int) -> tuple[Array, ...]:
        """Position and its derivatives by true length at s (n,), `order` + 1 arrays (n, 3)."""

    @abstractmethod
    def turned(self, s: Array) -> Array:
        """Angle, radians, by which the path has turned from its start to s (n,); never falls."""

    @property
    def breaks(self) -> tuple[float, ...]:
        """True lengths inside the path at which its curvature jumps."""
        return ()

    @property
    def without_legs(self) -> Path:
        """The path without its legs."""
        return self

    @property
    def legs_at(self) -> tuple[float, float]:
        """True lengths between which the path without its legs lies."""
        return 0.0, self.length

    def at(self, s: Array) -> Stations:
        """Position, tangent and curvature vector at true length s (n,), 0 ≤ s ≤ length."""
        return Stations(s, *self.derivatives(s, 2))

    def away(self, stations: Stations) -> tuple[Array, Array] | None:
        """The direction away from the path's axis (n, 3) and its derivative by true length; None where
        the path has no axis to face away from."""
        return None

    @cached_property
    def turning(self) -> float:
        """Angle, radians, by which the whole path turns. Raises RecipeError where it turns without end, as at
        a tip at which it comes back on itself."""
        turning = float(self.turned(np.array([self.length]))[0])
        if not turning < _MOST_TURNING:
            raise RecipeError(
                Problem("/path", "the path comes back on itself at a tip", "round it there, or move it aside")
            )
        return turning

    def stations_by_turning(self, per_turn: float, least: int) -> Array:
        """True lengths (n,) from 0 to the length, `per_turn` of them for each turn, breaks among them."""
        count = max(least, int(np.ceil(per_turn * self.turning / (2 * np.pi) - 1e-9)) + 1)
        fine = np.linspace(0.0, self.length, 4 * count)
        weight = self.turned(fine) + 1e-3 * self.turning * fine / self.length + fine * 1e-9
        s = np.interp(np.linspace(0.0, weight[-1], count), weight, fine)
        s[0], s[-1] = 0.0, self.length
        return np.unique(np.concatenate([s, self.breaks]))


def total_curvature(path: Path, rough: int = 64) -> tuple[Array, Array]:
    """∫|K| ds as a table: true lengths and angles, each (n,), refined where the path bends most."""
    s = np.unique(np.concatenate([np.linspace(0.0, path.length, rough * 4 + 1), path.breaks]))
    for _ in range(7):
        bend = np.linalg.norm(path.derivatives(s, 2)[2], axis=1)
        step = 0.5 * (bend[1:] + bend[:-1]) * np.diff(s)
        wide = step > 0.1
        if not wide.any() or len(s) > 400_000:
            break
        s = np.sort(np.concatenate([s, 0.5 * (s[1:] + s[:-1])[wide]]))
    bend = np.linalg.norm(path.derivatives(s, 2)[2], axis=1)
    step = 0.5 * (bend[1:] + bend[:-1]) * np.diff(s)
    return s, np.concatenate([[0.0], np.cumsum(step)])


class Remembered(Generic[T]):
    """A function of an array with its latest answers, found again where it is asked of the same array;
    arrays of true lengths are never changed in place."""

    def __init__(self, function: Callable[[Array], T]):
        self._function = function
        self._known: list[tuple[Array, T]] = []

    def __call__(self, s: Array) -> T:
        for known, answer in self._known:
            if known is s:
                return answer
        answer = self._function(s)
        self._known.insert(0, (s, answer))
        del self._known[_REMEMBERED:]
        return answer


@dataclass(frozen=True, eq=False)
class CurvePath(Path):
    """A curve, by true length. With `turns`, its parameter grows by the same for each of them."""

    curve: Curve
    coil: CoilFacts | None = None
    turns: float | None = None
    closed: bool = False
    even: bool = False
    touching: tuple[Span, ...] = ()

    @cached_property
    def _length(self) -> RunningIntegral:
        return RunningIntegral(self.curve.speed, self.curve.start, self.curve.end, breaks=self.curve.breaks)

    @property
    def length(self) -> float:
        return self._length.total

    @cached_property
    def breaks(self) -> tuple[float, ...]:
        return tuple(float(s) for s in self._length(np.array(self.curve.breaks, dtype=float)))

    @cached_property
    def _parameters(self) -> Remembered[Array]:
        return Remembered(self._length.inverse)

    @cached_property
    def _stations(self) -> Remembered[Stations]:
        return Remembered(self._station)

    def parameter(self, s: Array) -> Array:
        """The curve's own parameter at true length s (n,)."""
        return self._parameters(s)

    def true_length(self, t: Array) -> Array:
        """True length at the curve's own parameter t (n,)."""
        return self._length(t)

    def length_at_turn(self, turn: float) -> float:
        """True length at which turn number `turn` ends. Raises ValueError on a path without turns."""
        if self.turns is None:
            raise ValueError("this path has no turns")
        start, end = self.curve.start, self.curve.end
        return float(self._length(np.array([start + (end - start) * turn / self.turns]))[0])

    def at(self, s: Array) -> Stations:
        return self._stations(s)

    def _station(self, s: Array) -> Stations:
        position, first, second = self.curve.derivatives(self.parameter(s), 2)
        return Stations(s, position, *_by_true_length(first, second))

    def derivatives(self, s: Array, order: int) -> tuple[Array, ...]:
        if order <= 2:
            stations = self.at(s)
            return (stations.position, stations.tangent, stations.curvature)[: order + 1]
        t = self.parameter(s)
        given = self.curve.derivatives(t, order)
        if order == 3:
            return _by_length(*given)
        coordinates = [Jet.of_derivatives([d[:, k] for d in given]) for k in range(3)]
        slopes = [x.derivative() for x in coordinates]
        pace = 1 / sqrt(slopes[0] * slopes[0] + slopes[1] * slopes[1] + slopes[2] * slopes[2])
        run = Jet([t])
        for _ in range(order):
            run = run.compose(pace.c).integral(t)
        by_length = [run.compose(x.c).derivatives() for x in coordinates]
        return tuple(np.stack([x[k] for x in by_length], axis=1) for k in range(order + 1))

    def turned(self, s: Array) -> Array:
        if self.coil is not None:
            return self.parameter(s)
        return np.zeros_like(s) if self.even else np.interp(s, *self._curvature)

    @cached_property
    def _curvature(self) -> tuple[Array, Array]:
        return total_curvature(self)

    def away(self, stations: Stations) -> tuple[Array, Array] | None:
        own = getattr(self.curve, "away", None)
        if own is not None:
            direction: tuple[Array, Array] = own(self, stations)
            return direction
        return radial(stations) if self.coil is not None else None


@compiled("f8[:, ::1]", "f8[:, ::1]")
def _by_true_length(first, second):  # type: ignore[no-untyped-def]
    """Tangent and curvature vectors (n, 3) from the derivatives by any parameter."""
    tangent, curvature = np.empty_like(first), np.empty_like(first)
    for i in range(len(first)):
        square = 0.0
        for c in range(3):
            square += first[i, c] ** 2
        speed, along = math.sqrt(square), 0.0
        for c in range(3):
            tangent[i, c] = first[i, c] / speed
            along += second[i, c] * tangent[i, c]
        for c in range(3):
            curvature[i, c] = (second[i, c] - along * tangent[i, c]) / square
    return tangent, curvature


def _by_length(x: Array, x1: Array, x2: Array, x3: Array) -> tuple[Array, ...]:
    """Derivatives by true length from those by any parameter, to the third, each (n, 3).

    x′ = v T,  x″ = v′ T + v² K,  x‴ = v″ T + 3 v v′ K + v³ dK/ds
    """
    v = np.sqrt(dots(x1, x1))
    tangent = x1 / v
    dv = np.einsum("ij,ij->i", x2, tangent)[:, None]
    bend = (x2 - dv * tangent) / v**2
    ddv = (np.einsum("ij,ij->i", x3, tangent) + np.einsum("ij,ij->i", x2, bend) * v[:, 0])[:, None]
    return x, tangent, bend, (x3 - ddv * tangent - 3 * v * dv * bend) / v**3


@dataclass(frozen=True, eq=False)
class JoinedPath(Path):
    """Paths one after another, each going on where and as the one before it ends.

    `main` is the index of the piece that the others are legs of; it gives the coil's facts.
    """

    pieces: tuple[Path, ...]
    main: int = 0
    starts: Array = field(init=False)

    def __post_init__(self) -> None:
        ends = np.cumsum([piece.length for piece in self.pieces])
        object.__setattr__(self, "starts", np.concatenate([[0.0], ends]))
        object.__setattr__(self, "coil", self.pieces[self.main].coil)
        object.__setattr__(self, "seat", self.pieces[self.main].seat)
        shift = self.starts[self.main]
        spans = tuple((a + shift, b + shift) for a, b in self.pieces[self.main].touching)
        object.__setattr__(self, "touching", spans)

    @property
    def length(self) -> float:
        return float(self.starts[-1])

    @property
    def without_legs(self) -> Path:
        return self.pieces[self.main]

    @property
    def breaks(self) -> tuple[float, ...]:
        inner = [
            start + b for piece, start in zip(self.pieces, self.starts, strict=False) for b in piece.breaks
        ]
        return tuple(sorted([*inner, *(float(s) for s in self.starts[1:-1])]))

    @property
    def legs_at(self) -> tuple[float, float]:
        return float(self.starts[self.main]), float(self.starts[self.main + 1])

    def piece_at(self, s: Array) -> Array:
        """Index (n,) of the piece in which each s lies."""
        found = np.searchsorted(self.starts, s, "right") - 1
        return np.clip(found, 0, len(self.pieces) - 1)

    def derivatives(self, s: Array, order: int) -> tuple[Array, ...]:
        which = self.piece_at(s)
        out = tuple(np.empty((len(s), 3)) for _ in range(order + 1))
        for index in np.unique(which):
            on = which == index
            piece = self.pieces[index]
            local = np.clip(s[on] - self.starts[index], 0.0, piece.length)
            for whole, part in zip(out, piece.derivatives(local, order), strict=True):
                whole[on] = part
        return out

    def turned(self, s: Array) -> Array:
        total = np.zeros_like(s)
        for piece, start in zip(self.pieces, self.starts, strict=False):
            total += piece.turned(np.clip(s - start, 0.0, piece.length))
        return total


@dataclass(frozen=True, eq=False)
class SpanOfPath(Path):
    """The part of a path from `low` to `high` (mm of its true length)."""

    whole: Path
    low: float
    high: float
    coil: CoilFacts | None = None

    def __post_init__(self) -> None:
        facts = self.whole.coil
        if facts is not None and facts.turns > 0:
            ends = np.array([self.low, self.high])
            turned = self.whole.turned(ends)
            share = float(turned[1] - turned[0]) / self.whole.turning
            position = self.whole.derivatives(ends, 0)[0]
            rise = float(position[1, 2] - position[0, 2])
            turns = facts.turns * share
            radii = np.hypot(position[:, 0], position[:, 1])
            facts = CoilFacts(facts.hand, turns, rise / turns, rise, float(radii[0]), float(radii[1]))
        object.__setattr__(self, "coil", facts)
        object.__setattr__(self, "even", self.whole.even)
        object.__setattr__(self, "seat", self.whole.seat)
        spans = ((max(a, self.low), min(b, self.high)) for a, b in self.whole.touching)
        object.__setattr__(self, "touching", tuple((a - self.low, b - self.low) for a, b in spans if b > a))

    @property
    def length(self) -> float:
        return self.high - self.low

    @property
    def breaks(self) -> tuple[float, ...]:
        return tuple(b - self.low for b in self.whole.breaks if self.low < b < self.high)

    def derivatives(self, s: Array, order: int) -> tuple[Array, ...]:
        return self.whole.derivatives(s + self.low, order)

    def turned(self, s: Array) -> Array:
        return self.whole.turned(s + self.low) - self.whole.turned(np.array([self.low]))

    def away(self, stations: Stations) -> tuple[Array, Array] | None:
        shifted = Stations(stations.s + self.low, stations.position, stations.tangent, stations.curvature)
        return self.whole.away(shifted)


def radial(stations: Stations) -> tuple[Array, Array]:
    """The direction away from the z axis (n, 3), and its derivative by true length."""
    flat = np.array([1.0, 1.0, 0.0])
    vector, change = stations.position * flat, stations.tangent * flat
    size = np.maximum(np.sqrt(dots(vector, vector)), 1e-300)
    unit = vector / size
    along = np.einsum("ij,ij->i", change, unit)[:, None]
    return unit, (change - along * unit) / size
