"""What all springs of wound wire share, and a spring at one load."""

from __future__ import annotations

import math
from abc import ABC, abstractmethod
from collections.abc import Callable
from dataclasses import dataclass
from typing import Any, ClassVar, Literal, Protocol, Self

from metaspira.numbers.jets import Array
from metaspira.numbers.once import cached_property
from metaspira.paths import Path
from metaspira.springs.asked import AxialSpring, SpringBase
from metaspira.springs.shape import WireShape
from metaspira.springs.standard import INDEX, Rules
from metaspira.springs.turns import Turns
from metaspira.springs.wire import SpringWire


class WorkedPoint(Protocol):
    """What a working point has, whatever the spring: where it works, how far from free, what that takes, and
    the greatest stress, plain and corrected (MPa)."""

    @property
    def place(self) -> float: ...
    @property
    def way(self) -> float: ...
    @property
    def effort(self) -> float: ...
    @property
    def stress(self) -> float: ...
    @property
    def corrected(self) -> float: ...


@dataclass(frozen=True)
class Working:
    """The spring at one load: length and the way from its free length (mm), force (N), the greatest stress
    plain and corrected (MPa), its share of what the wire allows, and the energy stored (N mm)."""

    length: float
    force: float
    deflection: float
    stress: float
    corrected: float
    utilisation: float
    energy: float

    @property
    def place(self) -> float:
        """Where it works: its length."""
        return self.length

    @property
    def way(self) -> float:
        """How far from free."""
        return self.deflection

    @property
    def effort(self) -> float:
        """What it takes: its force."""
        return self.force


@dataclass(frozen=True)
class Mark:
    """A force, N, or torque, N mm, at which a stress is reached, and what that is."""

    effort: float
    words: str
    verdict: Literal["watch", "stop"]


@dataclass(frozen=True)
class Bounds:
    """Lengths of a spring along its axis, mm: free, solid, the least it is to work at, and how far it is
    pressed until it buckles; and its first natural frequency, Hz. None where a spring has no such bound."""

    free_length: float | None = None
    solid_length: float | None = None
    least_length: float | None = None
    buckling: float | None = None
    frequency: float | None = None


@dataclass(frozen=True, eq=False)
class WoundSpring(ABC):
    """A spring of wound wire: what is asked of it, its wire and its turns. Its place is a length (mm) or an
    angle (degrees), its effort a force (N) or a torque (N mm), as `units` says; `sign` and `diagram` are what
    its effort and its diagram are called, `indices` its least and greatest index."""

    asked: SpringBase
    wire: SpringWire
    turns: Turns

    units: ClassVar[tuple[str, str]]
    sign: ClassVar[str]
    diagram: ClassVar[str]
    indices: ClassVar[tuple[float, float]] = INDEX

    @property
    @abstractmethod
    def points(self) -> tuple[WorkedPoint, ...]:
        """The working points that were asked for, in their order."""

    @property
    @abstractmethod
    def active(self) -> float:
        """Turns that take part."""

    @property
    @abstractmethod
    def index(self) -> float:
        """Least w = D / d of the turns that take part."""

    @property
    @abstractmethod
    def rate(self) -> float:
        """Effort by place."""

    @property
    @abstractmethod
    def allowed(self) -> float:
        """Plain stress allowed at work, MPa."""

    @property
    @abstractmethod
    def span(self) -> tuple[float, float]:
        """The places between which it works or is drawn, the free one first."""

    @abstractmethod
    def curve(self, count: int = 61) -> tuple[Array, Array]:
        """Way from free and effort, each about (count,)."""

    @abstractmethod
    def stress_along(self, effort: float, share: Array) -> Array:
        """Corrected stress, MPa (n,), under an effort at shares of the turns."""

    @abstractmethod
    def path_to(self, place: float) -> Path:
        """The centre line of its turns at a place, held to the span."""

    @property
    def members(self) -> tuple[Any, ...]:
        """The springs that it is made of: itself, or those of a nest."""
        return (self,)

    @property
    def bounds(self) -> Bounds:
        """What bounds it along its axis."""
        return Bounds()

    @property
    @abstractmethod
    def marks(self) -> tuple[Mark, ...]:
        """What its diagram is marked with."""

    @property
    def left(self) -> float:
        """What is left of an effort after relaxation, as a share."""
        return 1 - self.asked.relaxation / 100

    @property
    def rules(self) -> Rules | None:
        """The rules that its figures are by, where there are several."""
        return None

    @property
    def rules_why(self) -> str:
        """Why it is by other rules than were asked for."""
        return ""

    @property
    def drawn(self) -> Self | None:
        """The same by the contact of its own turns, where its figures are a standard's."""
        return None

    def paths_to(self, place: float) -> tuple[Path, ...]:
        """The centre line of each of its wires at a place, held to the span."""
        return (self.path_to(place),)

    @property
    def worst_stress(self) -> float:
        """The greatest plain stress of its working points, MPa; none where there are none."""
        return max((point.stress for point in self.points), default=0.0)

    @property
    def worst_effort(self) -> float:
        """The greatest force or torque of its working points."""
        return max((point.effort for point in self.points), default=0.0)

    @property
    def worst_way(self) -> float:
        """The furthest of its working points from free."""
        return max((point.way for point in self.points), default=0.0)

    @property
    def shape(self) -> WireShape:
        return self.turns.shape

    @property
    def diameter(self) -> float:
        """Of the wire, or of round wire of the same area, mm."""
        return self.shape.equal

    @property
    def shear_modulus(self) -> float:
        """MPa, at its temperature."""
        return self.wire.shear_modulus(self.diameter, self.asked.temperature)

    @property
    def elastic_modulus(self) -> float:
        """MPa, at its temperature."""
        return self.wire.elastic_modulus(self.diameter, self.asked.temperature)

    @property
    def strength(self) -> float:
        """Least tensile strength of the wire at its temperature, MPa."""
        return self.wire.strength(self.diameter) * self.asked.strength_left / 100


@dataclass(frozen=True, eq=False)
class Axial(WoundSpring):
    """What works along its axis: its place is its length, its effort its force."""

    asked: AxialSpring

    units: ClassVar[tuple[str, str]] = ("mm", "N")
    sign: ClassVar[str] = "F"
    diagram: ClassVar[str] = "Force over length"

    @property
    @abstractmethod
    def free_length(self) -> float:
        """mm"""

    @property
    def bounds(self) -> Bounds:
        return Bounds(self.free_length)

    @abstractmethod
    def at_force(self, force: float) -> Working:
        """It under a force, N."""

    @abstractmethod
    def at_length(self, length: float) -> Working:
        """It at a length, mm."""

    @cached_property
    def points(self) -> tuple[Working, ...]:
        """The working points that were asked for, in their order."""
        first, last = self.span
        away = 1.0 if last > first else -1.0
        return tuple(
            self.at_force(point.force)
            if point.force is not None
            else self.at_length(self.free_length + away * (point.travel or 0.0))
            if point.length is None
            else self.at_length(point.length)
            for point in self.asked.points
        )


@dataclass(frozen=True, eq=False)
class Spring(Axial):
    """A spring along its axis; `measured` gives the heights, mm, between which it works, free, which takes
    longer than all the sums."""

    measured: Callable[[], tuple[float, float]]

    @cached_property
    def reach(self) -> tuple[float, float]:
        """The heights of both its ends, free, over the first place of its centre line, mm."""
        return self.measured()

    @property
    def free_length(self) -> float:
        """mm"""
        return self.reach[1] - self.reach[0]

    @cached_property
    def yielding(self) -> Array:
        """How much a turn moves under 1 N, mm (n,)."""
        return self.yielding_at(self.turns.share)

    def yielding_at(self, share: Array) -> Array:
        """How much a turn moves under 1 N, mm (n,), at shares of the turns: 2π r³ / (G J)."""
        radius = self.turns.radius.value(share)
        stiffness = self.shape.stiffness * self.turns.wound.stiffer(radius)
        return 2 * math.pi * radius**3 / (self.shear_modulus * stiffness)

    def stress_at(self, force: Array | float, radius: Array) -> tuple[Array, Array]:
        """Plain and corrected stress, MPa (n,), of torsion under forces at radii (n,): F r / W."""
        plain = force * radius / self.shape.modulus
        return plain, plain * self.turns.wound.sheared(radius)
