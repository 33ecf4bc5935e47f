"""What changes along the wire, over the share of its true length, 0 to 1."""

from __future__ import annotations

from dataclasses import dataclass
from typing import Annotated

from pydantic import Field

from metaspira.numbers.jets import sqrt
from metaspira.numbers.kind import Kind, Published
from metaspira.problems import Problem, RecipeError
from metaspira.schedules import (
    AngleSchedule,
    AreaSchedule,
    FactorSchedule,
    LengthSchedule,
    Varying,
    constantly,
    linearly,
)
from metaspira.sections import SectionAlong

_SIZES = ("size", "diameter", "perimeter", "area")
_TAPER = {"from": 1.0, "to": 0.6}


def _starts(still: float, **start: float) -> Published:
    """How a schedule is when it is switched on, and what it is where nothing changes."""
    return Published({"x-start": start, "x-still": still})


class Along(Kind):
    """What changes along the wire.

    `twist` rolls the section about the wire, `tilt` leans its plane about its first axis; `size` is a
    factor on the whole section, `width` and `depth` on its first and second axis. The size may instead be
    given as the section's `diameter` (its extent along the first axis), `perimeter` or `area`. `shape` is
    the place within a blend, 0 to 1.
    """

    twist: Annotated[AngleSchedule | None, _starts(0, total=360)] = Field(
        default=None, title="Twist, even in true length"
    )
    size: Annotated[FactorSchedule | None, _starts(1, **_TAPER)] = Field(default=None, title="A factor")
    diameter: LengthSchedule | None = Field(default=None, title="Its diameter")
    perimeter: LengthSchedule | None = Field(default=None, title="Its perimeter")
    area: AreaSchedule | None = Field(default=None, title="Its area")
    width: Annotated[FactorSchedule | None, _starts(1, **_TAPER)] = Field(
        default=None, title="Width, on its first axis"
    )
    depth: Annotated[FactorSchedule | None, _starts(1, **_TAPER)] = Field(
        default=None, title="Depth, on its second axis"
    )
    tilt: Annotated[AngleSchedule | None, _starts(0, **{"from": 0, "to": 10})] = Field(
        default=None, title="Tilt, leaning out of its plane"
    )
    shape: Annotated[FactorSchedule | None, _starts(0, **{"from": 0, "to": 1})] = Field(
        default=None, title="Shape, the place in the blend"
    )


@dataclass(frozen=True, eq=False)
class Changes:
    """The schedules as functions of the share: radians for `twist` and `tilt`, factors for the rest."""

    twist: Varying
    size: Varying
    width: Varying
    depth: Varying
    tilt: Varying
    shape: Varying

    @property
    def breaks(self) -> tuple[float, ...]:
        """Shares at which one of them is not smooth."""
        every = (self.twist, self.size, self.width, self.depth, self.tilt, self.shape)
        return tuple(sorted({b for varying in every for b in varying.breaks}))


def changes_of(along: Along, section: SectionAlong, place: str) -> Changes:
    """The functions that `along` describes. Raises RecipeError with places below `place`."""

    def varying(name: str, otherwise: Varying) -> Varying:
        schedule = getattr(along, name)
        if schedule is None or not schedule.on:
            return otherwise
        found: Varying = schedule.varying(f"{place}/{name}")
        return found

    one = constantly(1.0)
    shape = varying("shape", linearly(0.0, 1.0) if section.varies else constantly(0.0))
    low, high = shape.extremes()
    if low < -1e-9 or high > 1 + 1e-9:
        raise RecipeError(
            Problem(
                f"{place}/shape",
                f"the place in the blend goes from {low:.4g} to {high:.4g}",
                "keep it between 0 and 1",
            )
        )
    return Changes(
        varying("twist", constantly(0.0)),
        _size(along, section, place, varying),
        varying("width", one),
        varying("depth", one),
        varying("tilt", constantly(0.0)),
        shape,
    )


def _size(along: Along, section: SectionAlong, place: str, varying) -> Varying:  # type: ignore[no-untyped-def]
    given = [name for name in _SIZES if (s := getattr(along, name)) is not None and s.on]
    if len(given) > 1:
        raise RecipeError(
            Problem(
                f"{place}/{given[1]}",
                f"the size is given twice, by {given[0]} and by {given[1]}",
                "switch one of them off",
            )
        )
    if not given or given == ["size"]:
        return varying("size", constantly(1.0))
    name = given[0]
    if section.varies or not section.first.closed:
        raise RecipeError(
            Problem(
                f"{place}/{name}",
                f"a section that blends, or is open, has no one {name}",
                "give the size as a factor",
            )
        )
    outline = section.first
    low, high, _, _ = outline.box
    whole = {"diameter": high - low, "perimeter": outline.perimeter, "area": outline.area}[name]
    found: Varying = varying(name, constantly(whole))
    if name == "area":
        return found.mapped(lambda area: sqrt(area * (1 / whole)))
    return found.mapped(lambda length: length * (1 / whole))
