"""How a thread ends on its host."""

from __future__ import annotations

import math
from collections.abc import Callable
from typing import Annotated, Literal

from pydantic import Field

from metaspira.numbers.fields import Angle, Distance, Length
from metaspira.numbers.kind import Kind, Usual
from metaspira.threads.profile import Profile
from metaspira.threads.thread import Side

_PAST_ROOT = 0.15
"""How far past the root an undercut goes, as a share of the thread's height."""


class EndBase(Kind):
    """What all ends of a thread share."""

    def sizes(self, length: Callable[[float], str]) -> str:
        """What it is with its sizes, lengths (mm) as they are told."""
        return self.kind

    def noted(self, length: Callable[[float], str], profile: Profile, side: Side) -> str:
        """The same on a thread, where a drawing points at it."""
        return self.sizes(length)

    def undercut(self, profile: Profile, side: Side) -> tuple[float, float] | None:
        """How deep below the crest and how wide its undercut is, mm, where it has one."""
        return None


class PlainEnd(EndBase, title="cut square"):
    """The thread is cut square where it ends."""

    kind: Literal["plain"] = "plain"


class ChamferEnd(EndBase, title="a chamfer"):
    """A cone at the host's face: its angle from the axis, and its diameter there (past the root where none is
    given)."""

    kind: Literal["chamfer"] = "chamfer"
    angle: Angle = Field(default=45.0, title="Angle from the axis")
    diameter: Length | None = Field(default=None, title="Diameter at the face")

    def sizes(self, length: Callable[[float], str]) -> str:
        return f"chamfer at {math.degrees(self.angle):.5g}° to the axis"


class FadeEnd(EndBase, title="a run-out"):
    """The thread runs out to its host's surface over a length along the axis, or over an angle of its
    turn."""

    kind: Literal["fade"] = "fade"
    length: Length | None = Field(default=None, title="Over a length")
    angle: Angle | None = Field(default=None, title="or over an angle")

    def sizes(self, length: Callable[[float], str]) -> str:
        return self.kind if self.length is None else f"runs out over {length(self.length)}"


class UndercutEnd(EndBase, title="an undercut"):
    """The thread ends in a groove of a width, flanked by cones of 45°."""

    kind: Literal["undercut"] = "undercut"
    width: Annotated[Length, Usual(3)]
    diameter: Length | None = None

    def sizes(self, length: Callable[[float], str]) -> str:
        across = "" if self.diameter is None else f", ⌀{length(self.diameter)}"
        return f"undercut {length(self.width)} wide{across}"

    def bottom(self, profile: Profile, side: Side) -> float:
        """The radius of its bottom, mm."""
        return usual_bottom(profile, side) if self.diameter is None else self.diameter / 2

    def noted(self, length: Callable[[float], str], profile: Profile, side: Side) -> str:
        return f"undercut {length(self.width)} wide, ⌀{length(2 * self.bottom(profile, side))}"

    def undercut(self, profile: Profile, side: Side) -> tuple[float, float] | None:
        bottom = self.bottom(profile, side)
        return (profile.outer - bottom if side == "external" else bottom - profile.inner), self.width


class BluntEnd(EndBase, title="blunt, a full form at once"):
    """The thread begins with its full form at a plane through the axis, after a pilot of its root's
    diameter."""

    kind: Literal["blunt"] = "blunt"
    pilot: Distance = Field(default=0.0, title="Pilot before it")


ThreadEnd = Annotated[ChamferEnd | FadeEnd | UndercutEnd | BluntEnd | PlainEnd, Field(discriminator="kind")]


def usual_bottom(profile: Profile, side: Side) -> float:
    """The radius of an undercut's bottom, mm, where no diameter is given: a little past the root."""
    past = _PAST_ROOT * (profile.outer - profile.inner)
    return profile.inner - past if side == "external" else profile.outer + past
