"""Stances: how the section stands while it travels. Each gives frames at any places of a path.

outward   a = the direction away from the axis, made square to the wire
upright   b = the axis direction, made square to the wire
plumb     b = the axis direction itself; a = level, square to the wire: the plane contains the axis direction
seated    a = the direction square to a turned body, made square to the wire
aimed     a = the direction to a second curve, at the same share of its length, made square to the wire
steady    a carried along without roll (`paths.transport`)
fixed     the frame of the wire's start, everywhere

The other axis follows from b = ± a × T. Legs go on steadily from the way the section leaves the path.
"""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import dataclass
from typing import Annotated, Any, Literal

import numpy as np
from numpy.typing import NDArray
from pydantic import Field

from metaspira.numbers.jets import Array
from metaspira.numbers.kind import Kind, Words, tag_of, three_digits, title_of
from metaspira.numbers.vectors import cross
from metaspira.paths import JoinedPath, Path, PathKind
from metaspira.paths.base import NO_REACH
from metaspira.paths.path import Stations
from metaspira.paths.transport import Transport, square_to
from metaspira.paths.turned import TurnedBody, TurnedSurface
from metaspira.problems import Fix, Problem, RecipeError
from metaspira.sweep.frames import Frames, perpendicular

_AXIS = np.array([0.0, 0.0, 1.0])

Direction = Callable[[Stations], tuple[Array, Array]]
"""A direction (n, 3) and its derivative by true length, at stations of a path."""


@dataclass(frozen=True, eq=False)
class Stand:
    """A stance on a path: `frames` and how firmly it is defined there, both at true lengths (n,).

    `firm` is the sine of the angle between the wire and the direction that the stance goes by; at 0 the
    stance is not defined. `stretch` gives a factor on the section's width and its change per mm, where
    the section reaches to a second curve (`both`: on its depth too). `turning` is how much, in radians,
    the stance turns beyond the path.
    """

    frames: Callable[[Array], Frames]
    firm: Callable[[Array], Array]
    stretch: Callable[[Array], tuple[Array, Array]] | None = None
    both: bool = False
    turning: float = 0.0


class StanceBase(Kind):
    """How the section stands while it travels."""

    def words(self, unit: str) -> str:
        return f"{tag_of(type(self))}: {title_of(type(self))}"

    def aim(self, place: str) -> Path | None:
        """The second curve that it points at, where it does."""
        return None

    def seat(self, place: str) -> TurnedSurface | None:
        """The turned body that it stands on, where it has one of its own."""
        return None

    def stand(self, path: Path, outer: float) -> Stand:
        """How it stands on a path; `outer` is how far the section reaches along its first axis, mm. Raises
        RecipeError."""
        raise NotImplementedError

    def stand_through_axis(self, path: Path, outer: float) -> Stand:
        """The same for a section that is given in the plane through the axis."""
        raise RecipeError(
            Problem(
                "/section/plane",
                "the plane through the axis goes along only with a coil without legs in the outward stance, "
                "or with the stance “plumb”",
                "use “across”",
                Fix("/section/plane", "across"),
            )
        )


class Steady(StanceBase, title="as little roll as possible"):
    """Rolls as little as possible; on a closed path it closes. The usual one on a path that runs around no
    axis."""

    kind: Literal["steady"] = "steady"

    def stand(self, path: Path, outer: float) -> Stand:
        return _steady(path)


class Outward(StanceBase, title="faces away from the axis"):
    """Faces away from the axis, on a winding away from its core. The usual one on a coil, a winding or a
    wrap."""

    kind: Literal["outward"] = "outward"

    def stand(self, path: Path, outer: float) -> Stand:
        main = path.without_legs
        if main.away(main.at(np.zeros(1))) is None:
            raise RecipeError(
                Problem(
                    "/stance/kind",
                    "this path runs around no axis, so nothing is outward",
                    "use “steady”",
                    Fix("/stance/kind", "steady"),
                )
            )

        def away(stations: Stations) -> tuple[Array, Array]:
            found = main.away(stations)
            assert found is not None
            return found

        return _with_legs(path, lambda piece: _facing(piece, away))

    def stand_through_axis(self, path: Path, outer: float) -> Stand:
        if path.coil is None or path.without_legs is not path:
            return super().stand_through_axis(path, outer)

        def frames(s: Array) -> Frames:
            stations = path.at(s)
            away = path.away(stations)
            assert away is not None
            second, still = np.broadcast_to(_AXIS, away[0].shape), np.zeros_like(away[0])
            return Frames(stations.position, away[0], second, stations.tangent, away[1], still)

        return Stand(frames, lambda s: _level(path, s))


class Upright(StanceBase, title="its up leans as little as it can"):
    """Its second axis leans as little as it can from the axis direction."""

    kind: Literal["upright"] = "upright"

    def stand(self, path: Path, outer: float) -> Stand:
        side = _side(path)

        def frames(s: Array) -> Frames:
            st = path.at(s)
            up, still = np.broadcast_to(_AXIS, st.tangent.shape), np.zeros_like(st.tangent)
            second, d_second = perpendicular(up, still, st.tangent, st.curvature)
            first = side * cross(st.tangent, second)
            d_first = side * (cross(st.curvature, second) + cross(st.tangent, d_second))
            return Frames(st.position, first, second, st.tangent, d_first, d_second)

        return Stand(frames, lambda s: _level(path, s))


class Plumb(StanceBase, title="its plane always holds the axis direction"):
    """Its plane always contains the axis direction."""

    kind: Literal["plumb"] = "plumb"

    def stand(self, path: Path, outer: float) -> Stand:
        side = _side(path)

        def frames(s: Array) -> Frames:
            st = path.at(s)
            level, d_level = (
                cross(st.tangent, np.broadcast_to(_AXIS, st.tangent.shape)),
                cross(st.curvature, np.broadcast_to(_AXIS, st.tangent.shape)),
            )
            size = np.maximum(np.linalg.norm(level, axis=1, keepdims=True), 1e-12)
            first = side * level / size
            change = side * d_level / size
            d_first = change - np.einsum("ij,ij->i", change, first)[:, None] * first
            second = np.broadcast_to(_AXIS, first.shape)
            return Frames(st.position, first, second, st.tangent, d_first, np.zeros_like(first))

        return Stand(frames, lambda s: _level(path, s))

    def stand_through_axis(self, path: Path, outer: float) -> Stand:
        return self.stand(path, outer)


class Fixed(StanceBase, title="never turns"):
    """Never turns: parallel to itself, as it is at the start."""

    kind: Literal["fixed"] = "fixed"

    def stand(self, path: Path, outer: float) -> Stand:
        first, second = _start_axes(path)

        def frames(s: Array) -> Frames:
            st = path.at(s)
            zero = np.zeros_like(st.position)
            return Frames(st.position, first + zero, second + zero, st.tangent, zero, zero)

        return Stand(frames, np.ones_like)


class Aimed(StanceBase, title="points at a second curve"):
    """Points at a second `curve`, at the same share of its true length. With `stretch` the section grows
    until it reaches that curve: in its width, or in both directions."""

    kind: Literal["aimed"] = "aimed"
    curve: PathKind
    stretch: Annotated[
        Literal["none", "width", "both"],
        Words({"none": "no", "width": "its width", "both": "width and depth"}),
    ] = Field(default="none", title="Stretch to reach the curve")

    def aim(self, place: str) -> Path:
        return self.curve.path(f"{place}/curve", NO_REACH)

    @classmethod
    def usual(cls, size: float) -> dict[str, Any]:
        """The same; it points at the axis."""
        return {"kind": "aimed", "curve": {"kind": "straight", "length": three_digits(size)}}

    def stand(self, path: Path, outer: float) -> Stand:
        other = self.curve.path("/stance/curve", NO_REACH)
        ratio = other.length / path.length

        def towards(stations: Stations) -> tuple[Array, Array]:
            there = other.at(np.clip(stations.s * ratio, 0.0, other.length))
            return there.position - stations.position, there.tangent * ratio - stations.tangent

        def stretch(s: Array) -> tuple[Array, Array]:
            stations = path.at(s)
            reach, change = towards(stations)
            along = np.einsum("ij,ij->i", reach, stations.tangent)
            d_along = np.einsum("ij,ij->i", change, stations.tangent) + np.einsum(
                "ij,ij->i", reach, stations.curvature
            )
            flat = reach - along[:, None] * stations.tangent
            d_flat = change - d_along[:, None] * stations.tangent - along[:, None] * stations.curvature
            size = np.maximum(np.linalg.norm(flat, axis=1), 1e-12)
            return size / outer, np.einsum("ij,ij->i", flat, d_flat) / size / outer

        if self.stretch != "none" and outer <= 1e-9:
            raise RecipeError(
                Problem(
                    "/stance/stretch",
                    (
                        "the section does not extend towards the second curve from the point that rides "
                        "on the path"
                    ),
                    "let it ride at its centre or inside",
                    Fix("/stance/stretch", "none"),
                )
            )
        return Stand(
            lambda s: _facing_frames(path.at(s), towards, _side(path)),
            lambda s: _firmness(path.at(s), towards),
            None if self.stretch == "none" else stretch,
            self.stretch == "both",
            other.turning,
        )


class Seated(StanceBase, title="square to a turned body"):
    """Square to the surface of a turned `body` (of a wrap, its own where none is given)."""

    kind: Literal["seated"] = "seated"
    body: TurnedBody | None = None

    def seat(self, place: str) -> TurnedSurface | None:
        return None if self.body is None else self.body.surface(f"{place}/body")

    @classmethod
    def usual(cls, size: float) -> dict[str, Any]:
        return {"kind": "seated", "body": {"diameter": three_digits(size / 2)}}

    def stand(self, path: Path, outer: float) -> Stand:
        surface = path.seat if self.body is None else self.body.surface("/stance/body")
        if surface is None:
            raise RecipeError(
                Problem(
                    "/stance/body",
                    "there is no body to be seated on",
                    "give its diameter or its profile, or use “outward”",
                    Fix("/stance/kind", "outward"),
                )
            )
        normals = surface.normals
        return _with_legs(path, lambda piece: _facing(piece, lambda st: normals(st.position, st.tangent)))


StanceKind = Annotated[
    Outward | Steady | Upright | Plumb | Fixed | Aimed | Seated, Field(discriminator="kind")
]


def usual_stance(path: PathKind) -> Outward | Steady:
    """The stance on a path where none is named: outward where there is an axis to face away from."""
    return Steady(kind="steady") if path.stance == "steady" else Outward(kind="outward")


def stand_of(path: Path, stance: StanceKind, plane: Literal["across", "axial"], outer: float) -> Stand:
    """The stance on a path; `outer` is how far the section reaches along its first axis, mm. A section
    given through the axis stands in the plane that contains it. Raises RecipeError."""
    return stance.stand(path, outer) if plane == "across" else stance.stand_through_axis(path, outer)


def _side(path: Path) -> float:
    """The sign in b = ± a × T that turns b up."""
    if path.coil is not None:
        return float(path.coil.hand)
    tangent = path.at(np.zeros(1)).tangent[0]
    up = float(np.cross(square_to(tangent), tangent)[2])
    return 1.0 if up > 1e-6 else -1.0


def _level(path: Path, s: Array) -> Array:
    tangent = path.at(s).tangent
    return np.hypot(tangent[:, 0], tangent[:, 1])


def _facing(path: Path, direction: Direction) -> Stand:
    side = _side(path)
    return Stand(
        lambda s: _facing_frames(path.at(s), direction, side),
        lambda s: _firmness(path.at(s), direction),
    )


def _facing_frames(stations: Stations, direction: Direction, side: float) -> Frames:
    first, d_first = perpendicular(*direction(stations), stations.tangent, stations.curvature)
    second = side * cross(first, stations.tangent)
    d_second = side * (cross(d_first, stations.tangent) + cross(first, stations.curvature))
    return Frames(stations.position, first, second, stations.tangent, d_first, d_second)


def _firmness(stations: Stations, direction: Direction) -> Array:
    vector = direction(stations)[0]
    size = np.linalg.norm(vector, axis=1)
    beside = np.linalg.norm(cross(vector, stations.tangent), axis=1)
    return np.where(size > 1e-9, beside / np.maximum(size, 1e-300), 0.0)


def _start_axes(path: Path) -> tuple[Array, Array]:
    main = path.without_legs
    away = None if main is not path else path.away(path.at(np.zeros(1)))
    start = path.at(np.zeros(1))
    tangent = start.tangent[0]
    first = square_to(tangent) if away is None else away[0][0]
    first = first - (first @ tangent) * tangent
    first = first / np.linalg.norm(first)
    return first, _side(path) * np.cross(first, tangent)


def _steady(path: Path, first: Array | None = None) -> Stand:
    if first is None:
        first = _start_axes(path)[0]
    carried = Transport(path, first)
    side = _side(path)
    return Stand(lambda s: _facing_frames(path.at(s), carried.directions, side), np.ones_like)


def _with_legs(path: Path, stand: Callable[[Path], Stand]) -> Stand:
    """A stance on the main piece of a path, and steadily on from it along its legs."""
    if not isinstance(path, JoinedPath):
        return stand(path)
    low, high = path.legs_at
    main = path.pieces[path.main]
    middle = stand(main)
    side = _side(path)
    before = after = None
    if path.main > 0:
        legs = JoinedPath(path.pieces[: path.main])
        wanted = middle.frames(np.zeros(1)).first[0]
        before = _carried_to(legs, wanted)
    if path.main + 1 < len(path.pieces):
        legs = JoinedPath(path.pieces[path.main + 1 :])
        after = Transport(legs, middle.frames(np.array([main.length])).first[0])

    def frames(s: Array) -> Frames:
        parts: list[tuple[NDArray[np.bool_], Frames]] = []
        inside = (s >= low) & (s <= high)
        if inside.any():
            parts.append((inside, middle.frames(np.clip(s[inside] - low, 0.0, main.length))))
        for carried, on, shift in ((before, s < low, 0.0), (after, s > high, high)):
            if carried is not None and on.any():
                stations = carried.path.at(np.clip(s[on] - shift, 0.0, carried.path.length))
                parts.append((on, _facing_frames(stations, carried.directions, side)))
        names = Frames.__annotations__
        whole = {name: np.empty((len(s), 3)) for name in names}
        for on, part in parts:
            for name in names:
                whole[name][on] = getattr(part, name)
        return Frames(**whole)

    def firm(s: Array) -> Array:
        value = np.ones_like(s)
        inside = (s >= low) & (s <= high)
        value[inside] = middle.firm(np.clip(s[inside] - low, 0.0, main.length))
        return value

    return Stand(frames, firm)


def _carried_to(path: Path, last: Array) -> Transport:
    """The transport along a path that ends with the direction `last`."""
    ends = path.at(np.array([0.0, path.length]))
    trial = Transport(path, square_to(ends.tangent[0]))
    there = trial.directions(Stations(*(getattr(ends, n)[1:] for n in Stations.__annotations__)))[0][0]
    tangent = ends.tangent[1]
    angle = np.arctan2(np.cross(there, last) @ tangent, there @ last)
    first = trial.first
    return Transport(path, np.cos(angle) * first + np.sin(angle) * np.cross(ends.tangent[0], first))
