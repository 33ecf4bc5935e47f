"""Ends: how the wire stops. A dome or a point takes up the last millimetres of the wire.

Over its length the section shrinks by a factor of x, the share of that length done:

    dome    1 − (ρ/R) (1 − √(1 − x²))     length ρ; R is the section's reach
    point   1 − x                         over any length

A dome of the radius of a round wire is a half ball.
"""

from __future__ import annotations

from dataclasses import dataclass
from typing import Annotated, Literal

import numpy as np
from pydantic import Field

from metaspira.numbers.fields import Length
from metaspira.numbers.jets import Array
from metaspira.numbers.kind import Kind, Usual
from metaspira.problems import Fix, Problem, RecipeError

_CLAMP = 1e-7


class WireEnd(Kind):
    """What all ends of a wire share."""

    kind: Literal["flat", "open", "dome", "point", "ground"]

    def shape(self, reach: float, place: str) -> EndShape:
        """Its shape on a wire whose section reaches `reach` mm from the path. Raises RecipeError below
        `place`."""
        return EndShape(self.kind)


class FlatEnd(WireEnd, title="flat, across the wire"):
    """Cut flat in the plane of the section."""

    kind: Literal["flat"] = "flat"


class OpenEnd(WireEnd, title="open"):
    """No face at the end: the surface stays open, and the part is a skin."""

    kind: Literal["open"] = "open"


class DomeEnd(WireEnd, title="a dome"):
    """Rounded; the radius is that of a full dome where it is left out."""

    kind: Literal["dome"] = "dome"
    radius: Length | None = Field(default=None, title="Radius, or full")

    def shape(self, reach: float, place: str) -> EndShape:
        radius = reach if self.radius is None else self.radius
        if radius > reach * (1 + 1e-9):
            raise RecipeError(
                Problem(
                    f"{place}/radius",
                    f"a dome of {radius:.6g} mm is larger than the section, which reaches {reach:.6g} mm",
                    "leave the radius out for the full dome",
                    Fix(f"{place}/radius", f"{reach:.9g} mm"),
                )
            )
        return EndShape("dome", radius, min(1.0, radius / reach))


class PointEnd(WireEnd, title="a point"):
    """Pointed over a length."""

    kind: Literal["point"] = "point"
    length: Annotated[Length, Usual(1)] = Field(title="Over")

    def shape(self, reach: float, place: str) -> EndShape:
        return EndShape("point", self.length, 1.0)


class GroundEnd(WireEnd, title="ground, square to the axis"):
    """Ground square to the axis: the wire ends at a plane across the z axis, `depth` into the wire from
    its outermost place (half the wire where it is left out)."""

    kind: Literal["ground"] = "ground"
    depth: Length | None = Field(default=None, title="Grind depth, or half")

    def shape(self, reach: float, place: str) -> EndShape:
        return EndShape("ground", depth=self.depth or 0.0)


EndKind = Annotated[FlatEnd | GroundEnd | DomeEnd | PointEnd | OpenEnd, Field(discriminator="kind")]


class Ends(Kind):
    """How the wire stops at its start and at its end: flat where nothing is said, open on a skin."""

    start: EndKind | None = None
    end: EndKind | None = None


@dataclass(frozen=True)
class EndShape:
    """`length` mm of the wire are shaped; `share` is ρ/R of a dome, 1 for a point or a full dome; `depth`
    is how deep a ground end is ground, 0 for half the wire."""

    kind: Literal["flat", "open", "dome", "point", "ground"]
    length: float = 0.0
    share: float = 0.0
    depth: float = 0.0

    @property
    def closes(self) -> bool:
        """The section shrinks to nothing at the tip."""
        return self.kind in ("dome", "point") and self.share >= 1

    def scale(self, x: Array) -> tuple[Array, Array]:
        """The factor on the section at a share x (n,) of the shaped length, and its change by x."""
        if self.kind == "point":
            return 1 - x, -np.ones_like(x)
        root = np.sqrt(np.maximum(1 - x * x, 0.0))
        return 1 - self.share * (1 - root), -self.share * x / np.maximum(root, _CLAMP)

    def along(self, p: Array) -> tuple[Array, Array]:
        """x at a parameter p (n,) in which the surface is smooth, and its change by p."""
        if self.kind == "point":
            return p, np.ones_like(p)
        return np.sin(p * np.pi / 2), np.pi / 2 * np.cos(p * np.pi / 2)


def end_shapes(
    ends: tuple[EndKind, EndKind], reach: float, length: float, closed: bool, place: str
) -> tuple[EndShape, EndShape]:
    """The shapes of both ends of a wire whose section reaches `reach` mm from the path. Raises
    RecipeError with places below `place`."""
    shapes = []
    for name, end in zip(("start", "end"), ends, strict=True):
        here = f"{place}/{name}"
        if closed and end.kind not in ("flat", "open"):
            raise RecipeError(
                Problem(here, "a closed path has no ends", "leave this out", Fix(f"{here}/kind", "flat"))
            )
        shapes.append(end.shape(reach, here))
    used = shapes[0].length + shapes[1].length
    if used >= length:
        raise RecipeError(
            Problem(
                f"{place}/end",
                f"the shaped ends take {used:.6g} mm, and the wire has {length:.6g} mm",
                "make them shorter",
            )
        )
    return shapes[0], shapes[1]
