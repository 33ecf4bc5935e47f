"""A joint as a recipe asks for it."""

from __future__ import annotations

from typing import Annotated

from pydantic import Field

from metaspira.numbers.fields import Force, Length, Quantity, Stress, Torque
from metaspira.numbers.kind import Kind, choice_words
from metaspira.threads.joint.metals import Class, OwnMetal

Friction = Annotated[float, Quantity("number", 0.0, 1.0)]


class AskedJoint(Kind):
    """What a threaded joint is made of and bears: the materials of the external and of the internal member,
    the length of full thread in which they hold each other (that of the part and its mate where none is
    given), the load along the axis, the torque that it is tightened by or the preload that it gets, the
    coefficients of friction in the thread and under the head, the mean diameter on which the head rubs
    (1.3 d where none is given), and the pressure that a moving nut may bear."""

    external: Class | OwnMetal = Field(default="8.8", title="External member")
    internal: Class | OwnMetal = Field(default="nut 8", title="Internal member")
    engagement: Length | None = Field(default=None, title="Length of engagement")
    load: Force | None = Field(default=None, title="Load along the axis")
    torque: Torque | None = Field(default=None, title="Tightened by")
    preload: Force | None = None
    friction: Friction = Field(default=0.12, title="Friction in the thread")
    head_friction: Friction = Field(default=0.12, title="Friction under the head")
    head_diameter: Length | None = Field(default=None, title="Mean ⌀ under the head")
    pressure: Stress | None = Field(default=None, title="Pressure of a moving nut")

    def words(self, unit: str) -> str:
        members = (
            named.name if isinstance(named, OwnMetal) else choice_words(type(self), key, named)
            for key, named in (("external", self.external), ("internal", self.internal))
        )
        return " in ".join(members)
