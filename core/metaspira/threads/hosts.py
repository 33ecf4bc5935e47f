"""What a thread is on: a rod, a bore, a cone, a turned body."""

from __future__ import annotations

import itertools
from typing import TYPE_CHECKING, Annotated, Any, ClassVar, Literal

import numpy as np
from pydantic import Field

from metaspira.numbers.fields import Distance, Length
from metaspira.numbers.jets import Array
from metaspira.numbers.kind import Kind, Usual, Words, three_digits
from metaspira.paths import Path
from metaspira.paths.turned import Profile as Outline
from metaspira.paths.turned import outline_path
from metaspira.problems import Problem, RecipeError
from metaspira.sections.loops import fitted
from metaspira.sections.outline import Edge, chebyshev, line
from metaspira.threads.thread import Side

_DEGREE = 7


class HostBase(Kind):
    """What all hosts share: the `side` of the thread that is on it, and whether it is `parallel`, so that the
    thread can be the whole body."""

    side: ClassVar[Side] = "external"
    parallel: ClassVar[bool] = False

    @property
    def height(self) -> float:
        """How long it is along its axis, mm."""
        raise NotImplementedError

    @property
    def plain(self) -> float | None:
        """Its diameter where it is not threaded, mm, where that is given."""
        return None

    @property
    def bored(self) -> float | None:
        """The diameter of a hole through it, mm, where it has one."""
        return None

    @property
    def sleeve(self) -> tuple[float | None, float | None] | None:
        """The diameter and the width across flats, mm, of the body around a bore, where they are given; None
        of what is no bore."""
        return None

    def outline(self, place: str) -> tuple[Edge, ...] | None:
        """The outline (r, z) of its surface; None where that follows from its thread. Raises RecipeError
        below `place`."""
        return None


class ParallelHost(HostBase):
    """A rod or a bore."""

    parallel: ClassVar[bool] = True
    if TYPE_CHECKING:
        length: float
        diameter: float | None

    @property
    def height(self) -> float:
        return self.length

    @property
    def plain(self) -> float | None:
        return self.diameter


class RodHost(ParallelHost, title="a rod"):
    """A rod; its own diameter where it is not threaded (the thread's crest where none is given), and a hole
    through it."""

    kind: Literal["rod"] = "rod"
    length: Annotated[Length, Usual(2)]
    diameter: Length | None = Field(default=None, title="Diameter beyond the thread")
    hole: Length | None = Field(default=None, title="Hole through it")

    @property
    def bored(self) -> float | None:
        return self.hole


class BoreHost(ParallelHost, title="a bore, with the body around it"):
    """A sleeve around a bore: its outside, round or of six flats, and the bore's own diameter where it is not
    threaded."""

    kind: Literal["bore"] = "bore"
    length: Annotated[Length, Usual(1)]
    diameter: Length | None = Field(default=None, title="Bore beyond the thread")
    outside: Length | None = Field(default=None, title="Outside, round")
    across_flats: Length | None = Field(default=None, title="Outside, across flats")
    side: ClassVar[Side] = "internal"

    @property
    def sleeve(self) -> tuple[float | None, float | None]:
        return self.outside, self.across_flats


class ConeHost(HostBase, title="a cone"):
    """A cone: its diameters at the start and at the end."""

    kind: Literal["cone"] = "cone"
    length: Annotated[Length, Usual(2)]
    diameter: Annotated[Length, Usual(1)] = Field(title="Diameter at the start")
    end_diameter: Annotated[Length, Usual(0.8)] = Field(title="Diameter at the end")

    @property
    def height(self) -> float:
        return self.length

    def outline(self, place: str) -> tuple[Edge, ...]:
        return (line((self.diameter / 2, 0.0), (self.end_diameter / 2, self.length)),)


class TurnedHost(HostBase, title="a turned body"):
    """A turned body: the outline of its surface, points [radius, height] from its foot up."""

    kind: Literal["turned"] = "turned"
    profile: Outline
    ease: Annotated[
        Literal["straight", "smooth"],
        Words({"straight": "straight between points", "smooth": "smooth through points"}),
    ] = Field(default="straight", title="Its outline is")
    corner_radius: Distance = 0.0

    @classmethod
    def usual(cls, size: float) -> dict[str, Any]:
        shares = ((0.35, 0), (0.55, 0.4), (0.5, 0.9), (0.3, 1.3))
        profile = [[three_digits(c * size) for c in point] for point in shares]
        return {"kind": "turned", "profile": profile, "ease": "smooth"}

    @property
    def height(self) -> float:
        heights = [point[1] for point in self.profile]
        return max(heights) - min(heights)

    def outline(self, place: str) -> tuple[Edge, ...]:
        path = outline_path(self.profile, self.ease, self.corner_radius, f"{place}/profile")
        return _edges(path, f"{place}/profile")


Host = Annotated[RodHost | BoreHost | ConeHost | TurnedHost, Field(discriminator="kind")]


def _edges(path: Path, place: str) -> tuple[Edge, ...]:
    """The outline (r, 0, z) of a turned body as edges in (r, z), upward, each within 30° of turning; arcs and
    curves become polynomials of degree 7 through Chebyshev points. Raises RecipeError where it goes back."""
    s = np.unique(np.concatenate([[0.0, path.length], path.breaks, path.stations_by_turning(12, 2)]))
    shares = chebyshev(_DEGREE)
    edges: list[Edge] = []
    for low, high in itertools.pairwise(s):
        points: Array = path.derivatives(low + (high - low) * shares, 0)[0][:, [0, 2]]
        straight = points[0] + (points[-1] - points[0]) * shares[:, None]
        if np.abs(points - straight).max() < 1e-9 * path.length:
            edges.append(line(tuple(points[0]), tuple(points[-1])))
        else:
            edges.append(fitted(shares, points))
    if edges[0].points[0, 1] > edges[-1].points[-1, 1]:
        edges = [edge.reversed() for edge in reversed(edges)]
    heights = np.concatenate([edge.at(np.linspace(0, 1, 9))[0][:, 1] for edge in edges])
    if np.any(np.diff(heights) < -1e-9):
        raise RecipeError(
            Problem(
                place,
                "the outline goes back on its height",
                "a thread needs an outline that only climbs",
            )
        )
    return tuple(edges)
