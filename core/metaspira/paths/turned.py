"""Turned bodies: the outline of a body of revolution about the z axis, as a path in the (radius, height)
plane, and the way square to its surface.

An outline is given by points [radius, height], straight or smooth, where a third number is the bulge of
the arc that leads to the point (tan of a quarter of its angle, positive to the left). Corners between
straight pieces are rounded, so that what lies on the body has a tangent everywhere.
"""

from __future__ import annotations

import math
from dataclasses import dataclass
from typing import Annotated, Literal

import numpy as np
import scipy
from pydantic import Field

from metaspira.numbers.fields import Distance, Factor, Length, Offset
from metaspira.numbers.jets import Array, Jet
from metaspira.numbers.kind import Kind, Words
from metaspira.numbers.once import cached_property
from metaspira.numbers.splines import spline_through
from metaspira.numbers.vectors import cross
from metaspira.paths.legs import ArcCurve, RayCurve
from metaspira.paths.path import CurvePath, JoinedPath, Path
from metaspira.problems import Problem, RecipeError

_UP = np.array([0.0, 1.0, 0.0])

MOST_POINTS = 300

ProfilePoint = tuple[Distance, Offset] | tuple[Distance, Offset, Factor]
Profile = Annotated[
    tuple[ProfilePoint, ...],
    Field(
        min_length=2,
        max_length=MOST_POINTS,
        description="a list of `[radius, height]` or `[radius, height, bulge]`",
    ),
]
OutlineEase = Annotated[
    Literal["straight", "smooth"],
    Words({"straight": "straight, corners rounded"}),
]


class TurnedBody(Kind):
    """A body of revolution about the z axis: a cylinder by its `diameter`, or any outline by `profile`."""

    diameter: Length | None = None
    profile: Profile | None = None
    ease: OutlineEase = Field(default="straight", title="Outline of the body")
    corner_radius: Distance = 0.0

    def surface(self, place: str) -> TurnedSurface:
        """The body's surface. Raises RecipeError with places below `place`."""
        if (self.diameter is None) == (self.profile is None):
            raise RecipeError(
                Problem(place, "a body is given by its diameter or by a profile", "give one of them")
            )
        if self.diameter is not None:
            return TurnedSurface(None, self.diameter / 2)
        assert self.profile is not None
        path = outline_path(self.profile, self.ease, self.corner_radius, f"{place}/profile")
        return TurnedSurface(path, 0.0)


@dataclass(frozen=True, eq=False)
class TurnedSurface:
    """The surface of a turned body; `outline` is None for an endless cylinder of `radius`."""

    outline: Path | None
    radius: float

    def normals(self, position: Array, velocity: Array) -> tuple[Array, Array]:
        """The direction square to the surface where it is nearest to each position (n, 3), and its
        derivative as the position moves by velocity (n, 3)."""
        flat = np.array([1.0, 1.0, 0.0])
        r = np.maximum(np.linalg.norm(position * flat, axis=1), 1e-300)
        out = position * flat / r[:, None]
        r_rate = np.einsum("ij,ij->i", velocity, out)
        d_out = (velocity * flat - r_rate[:, None] * out) / r[:, None]
        if self.outline is None:
            return out, d_out
        where = np.stack([r, 0 * r, position[:, 2]], axis=1)
        rate = np.stack([r_rate, 0 * r, velocity[:, 2]], axis=1)
        s = self._nearest(where)
        point, tangent, bend = self.outline.derivatives(s, 2)
        offset = where - point
        inside = (s > 0) & (s < self.outline.length)
        stiff = np.einsum("ij,ij->i", offset, bend)
        ds = np.einsum("ij,ij->i", rate, tangent) / np.where(np.abs(1 - stiff) < 1e-9, np.inf, 1 - stiff)
        d_tangent = bend * np.where(inside, ds, 0.0)[:, None]
        n, dn = cross(tangent, _UP), cross(d_tangent, _UP)
        sign = self.outward_sign
        n, dn = sign * n, sign * dn
        up = np.array([0.0, 0.0, 1.0])
        normal = n[:, :1] * out + n[:, 2:] * up
        return normal, dn[:, :1] * out + n[:, :1] * d_out + dn[:, 2:] * up

    @cached_property
    def outward_sign(self) -> float:
        """+1 where the outline's left side is outside: outlines that climb have the body on their left."""
        assert self.outline is not None
        ends = self.outline.derivatives(np.array([0.0, self.outline.length]), 0)[0]
        climbs = ends[1, 2] - ends[0, 2]
        if abs(climbs) < 1e-9:
            return 1.0 if ends[1, 0] < ends[0, 0] else -1.0
        return -1.0 if climbs > 0 else 1.0

    @cached_property
    def _samples(self) -> tuple[Array, scipy.spatial.cKDTree]:
        assert self.outline is not None
        s = np.unique(
            np.concatenate(
                [np.linspace(0, self.outline.length, 2001), self.outline.stations_by_turning(200, 2)]
            )
        )
        return s, scipy.spatial.cKDTree(self.outline.derivatives(s, 0)[0])

    def _nearest(self, where: Array) -> Array:
        """True length (n,) of the outline nearest to each place (n, 3)."""
        assert self.outline is not None
        samples, tree = self._samples
        s = samples[tree.query(where)[1]]
        for _ in range(12):
            point, tangent, bend = self.outline.derivatives(s, 2)
            offset = where - point
            slope = np.einsum("ij,ij->i", offset, tangent)
            stiff = 1 - np.einsum("ij,ij->i", offset, bend)
            step = slope / np.maximum(stiff, 0.2)
            s = np.clip(s + step, 0.0, self.outline.length)
            if np.all(np.abs(step) < 1e-13 * self.outline.length):
                break
        return s


def outline_path(
    profile: tuple[ProfilePoint, ...],
    ease: Literal["straight", "smooth"],
    corner_radius: float,
    place: str,
) -> Path:
    """The path (r, 0, z) of an outline. Raises RecipeError with places below `place`."""
    points = np.array([[p[0], 0.0, p[1]] for p in profile], dtype=float)
    steps = np.linalg.norm(np.diff(points, axis=0), axis=1)
    if np.any(steps < 1e-6):
        at = int(np.argmin(steps)) + 1
        raise RecipeError(
            Problem(f"{place}/{at}", "this point is where the one before it is", "move it, or take it out")
        )
    bulges = [float(p[2]) if len(p) > 2 else 0.0 for p in profile]
    if ease == "smooth":
        if any(bulges):
            at = next(i for i, b in enumerate(bulges) if b)
            raise RecipeError(
                Problem(f"{place}/{at}/2", "a smooth outline has no arcs of its own", "leave the bulge out")
            )
        return CurvePath(spline_through(points, closed=False))
    return _rounded(points, bulges, corner_radius, place)


@dataclass(frozen=True, eq=False)
class _Piece:
    """A straight piece or an arc in the plane, from `a` to `b`, with its tangents there."""

    a: Array
    b: Array
    first: Array
    last: Array
    arc: ArcCurve | None

    @property
    def length(self) -> float:
        return self.arc.radius * self.arc.end if self.arc else float(np.linalg.norm(self.b - self.a))

    def path(self) -> Path:
        if self.arc is not None:
            return CurvePath(self.arc)
        return CurvePath(RayCurve(self.a, self.first, self.length))


def _piece(a: Array, b: Array, bulge: float) -> _Piece:
    chord = b - a
    size = float(np.linalg.norm(chord))
    along = chord / size
    if bulge == 0:
        return _Piece(a, b, along, along, None)
    angle = 4 * math.atan(abs(bulge))
    radius = size / (2 * math.sin(angle / 2))
    left = np.array([-along[2], 0.0, along[0]])
    side = left if bulge > 0 else -left
    half = angle / 2
    first = math.cos(half) * along - math.sin(half) * side
    inward = math.sin(half) * along + math.cos(half) * side
    last = math.cos(half) * along + math.sin(half) * side
    return _Piece(a, b, first, last, ArcCurve(a, first, inward, radius, angle))


def _rounded(points: Array, bulges: list[float], radius: float, place: str) -> Path:
    """Pieces one after another, each corner between straight ones rounded by `radius`."""
    pieces = [_piece(points[i], points[i + 1], bulges[i + 1]) for i in range(len(points) - 1)]
    paths: list[Path] = []
    cut = 0.0
    for i, piece in enumerate(pieces):
        following = pieces[i + 1] if i + 1 < len(pieces) else None
        turn = 0.0 if following is None else math.acos(float(np.clip(piece.last @ following.first, -1, 1)))
        trim = 0.0
        if following is not None and turn > 1e-6:
            trim = radius * math.tan(turn / 2)
            corner = f"{place}/{i + 1}"
            if piece.arc is not None or following.arc is not None:
                raise RecipeError(
                    Problem(
                        corner,
                        "an arc meets its neighbour at a corner here",
                        "let them meet with one tangent",
                    )
                )
            if radius <= 0:
                raise RecipeError(
                    Problem(
                        corner,
                        "the outline has a sharp corner here",
                        "give a corner_radius that rounds it",
                    )
                )
            room = min(piece.length - cut, following.length)
            if trim > room * (1 + 1e-9):
                most = room / math.tan(turn / 2)
                raise RecipeError(
                    Problem(
                        corner,
                        f"a corner radius of {radius:.6g} mm does not fit here",
                        f"use {most:.6g} mm or less",
                    )
                )
        if piece.arc is not None:
            paths.append(piece.path())
        else:
            length = piece.length - cut - trim
            if length > 1e-9:
                paths.append(CurvePath(RayCurve(piece.a + cut * piece.first, piece.first, length)))
        if trim > 0:
            assert following is not None
            side = following.first - (following.first @ piece.last) * piece.last
            side = side / np.linalg.norm(side)
            paths.append(CurvePath(ArcCurve(piece.b - trim * piece.last, piece.last, side, radius, turn)))
        cut = trim
    return paths[0] if len(paths) == 1 else JoinedPath(tuple(paths))


@dataclass(frozen=True, eq=False)
class OffsetCurve:
    """A planar path (r, 0, z) moved square to itself by `distance`; its parameter is that path's s."""

    path: Path
    distance: float
    start: float = 0.0

    @property
    def end(self) -> float:
        return self.path.length

    @property
    def breaks(self) -> tuple[float, ...]:
        return self.path.breaks

    def derivatives(self, t: Array, order: int) -> tuple[Array, ...]:
        given = self.path.derivatives(t, order + 1)
        r, z = (Jet.of_derivatives([d[:, k] for d in given]) for k in (0, 2))
        dr, dz = r.derivative(), z.derivative()
        x, y = r + dz * -self.distance, z + dr * self.distance
        columns = zip(x.derivatives(), (x * 0).derivatives(), y.derivatives(), strict=True)
        return tuple(np.stack(column, axis=1) for column in columns)[: order + 1]

    def speed(self, t: Array) -> Array:
        return np.linalg.norm(self.derivatives(t, 1)[1], axis=1)
