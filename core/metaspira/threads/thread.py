"""A thread in numbers: what a standard, or one's own form, says of both members. Millimetres and radians."""

from __future__ import annotations

import math
from dataclasses import dataclass, field, replace
from typing import Any, Literal

Side = Literal["external", "internal"]
Hand = Literal["right", "left"]


@dataclass(frozen=True)
class Size:
    """A diameter: its basic value and its limits, None where the standard sets none."""

    basic: float
    max: float | None = None
    min: float | None = None

    def at(self, state: str) -> float:
        """The diameter at `basic`, `max`, `min` or `middle`; the basic one where a limit is not set."""
        if state == "middle":
            return 0.5 * (self.at("max") + self.at("min"))
        limit = {"max": self.max, "min": self.min}.get(state)
        return self.basic if limit is None else limit

    def scaled(self, factor: float) -> Size:
        return Size(*(None if v is None else v * factor for v in (self.basic, self.max, self.min)))  # type: ignore[arg-type]

    def moved(self, by: float) -> Size:
        return Size(*(None if v is None else v + by for v in (self.basic, self.max, self.min)))  # type: ignore[arg-type]

    def as_dict(self, digits: int) -> dict[str, float | None]:
        return {
            name: None if value is None else round(value, digits)
            for name, value in (("basic", self.basic), ("max", self.max), ("min", self.min))
        }


@dataclass(frozen=True)
class Member:
    """One member of a pair. `root` is the diameter of its root as it is modelled at basic size, `outer_round`
    and `inner_round` the radii at the ends of its flanks away from and towards the axis."""

    tolerance: str
    major: Size
    pitch: Size
    minor: Size
    root: float
    outer_round: float = 0.0
    inner_round: float = 0.0

    def moved(self, by: float) -> Member:
        """The member with `by` mm added to every diameter."""
        return replace(
            self,
            major=self.major.moved(by),
            pitch=self.pitch.moved(by),
            minor=self.minor.moved(by),
            root=self.root + by,
        )

    def as_dict(self, factor: float, digits: int) -> dict[str, Any]:
        return {
            "tolerance": self.tolerance,
            **{
                name: getattr(self, name).scaled(factor).as_dict(digits)
                for name in ("major", "pitch", "minor")
            },
        }


@dataclass(frozen=True)
class Gauge:
    """A figure that a family has beside the diameters, in mm."""

    key: str
    title: str
    value: float
    source: str


@dataclass(frozen=True)
class Thread:
    """`leading` and `trailing` are the flank angles (from square to the axis) of the flank that climbs away
    from the axis and of the one that falls back to it, along +z; `taper` is the growth of the diameter a mm
    of length. `side` is the member that the designation names, if it names one; `sources` says where the
    form, the sizes and the limits come from."""

    designation: str
    family: str
    title: str
    pitch: float
    starts: int
    hand: Hand
    leading: float
    trailing: float
    external: Member
    internal: Member
    sources: tuple[tuple[str, str], ...]
    side: Side | None = None
    taper: float = 0.0
    inch: bool = False
    digits: int = 3
    gauges: tuple[Gauge, ...] = field(default=())

    def __repr__(self) -> str:
        return f"<Thread {self.designation}: {self.title}, pitch {self.pitch:.6g} mm>"

    @property
    def lead(self) -> float:
        return self.pitch * self.starts

    @property
    def lead_angle(self) -> float:
        """At the pitch diameter, radians."""
        return math.atan2(self.lead, math.pi * self.external.pitch.basic)

    @property
    def gauge_plane(self) -> float:
        """How far a taper's gauge plane is from its small end, mm; 0 of a parallel thread."""
        return next((one.value for one in self.gauges if one.key == "gauge_length"), 0.0)

    @property
    def sides(self) -> tuple[Side, ...]:
        """The members that it may be."""
        return (self.side,) if self.side else ("external", "internal")

    def member(self, side: Side) -> Member:
        return self.external if side == "external" else self.internal

    @property
    def depth(self) -> float:
        """Basic height of engagement: half the difference of the basic crests, mm."""
        return 0.5 * (self.external.major.basic - self.internal.minor.basic)
