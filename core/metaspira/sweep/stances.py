"""Stances: how the section stands while it travels. Each gives frames at any places of a path.

outward   a = the direction away from the axis, made square to the wire; b = its upward companion
axial     a = away from the axis, b = along the axis: the plane that contains the axis
steady    the outward frame turned back by φ(s) = ∫ a'·b ds, so that it does not roll (Bishop 1975)
fixed     the frame of the wire's start, everywhere
"""

from __future__ import annotations

from collections.abc import Callable
from typing import Literal

import numpy as np

from metaspira.numbers.kind import Kind
from metaspira.paths.path import Path, Stations
from metaspira.paths.quadrature import Array, RunningIntegral
from metaspira.problems import Fix, Problem, RecipeError
from metaspira.sweep.frames import Frames, cross, normalised, perpendicular

FrameAt = Callable[[Array], Frames]


class Stance(Kind):
    """How the section stands while it travels."""

    kind: Literal["outward", "steady", "fixed"]


def stance_frames(path: Path, stance: Stance, plane: Literal["across", "axial"]) -> FrameAt:
    """Frames of `stance` on `path`, as a function of true length (n,). Raises RecipeError."""
    if plane == "axial":
        return _axial(path, stance)
    return {"outward": _outward, "steady": _steady, "fixed": _fixed}[stance.kind](path)


def _outward(path: Path) -> FrameAt:
    if path.coil is None:
        raise RecipeError(
            Problem(
                "/stance/kind",
                "a straight path lies on its axis, so nothing is outward",
                "use “steady”",
                Fix("/stance/kind", "steady"),
            )
        )
    return lambda s: _outward_frames(path, path.at(s))


def _outward_frames(path: Path, stations: Stations) -> Frames:
    assert path.coil is not None
    radial, d_radial = _radial(stations)
    first, d_first = perpendicular(radial, d_radial, stations.tangent, stations.curvature)
    second = path.coil.hand * cross(first, stations.tangent)
    d_second = path.coil.hand * (cross(d_first, stations.tangent) + cross(first, stations.curvature))
    return Frames(stations.position, first, second, stations.tangent, d_first, d_second)


def _axial(path: Path, stance: Stance) -> FrameAt:
    if path.coil is None or stance.kind != "outward":
        raise RecipeError(
            Problem(
                "/section/plane",
                "the plane through the axis goes along only with a coil in the outward stance",
                "use “across”",
                Fix("/section/plane", "across"),
            )
        )

    def frames(s: Array) -> Frames:
        stations = path.at(s)
        first, d_first = _radial(stations)
        second = np.broadcast_to([0.0, 0.0, 1.0], first.shape)
        return Frames(stations.position, first, second, stations.tangent, d_first, np.zeros_like(first))

    return frames


def _steady(path: Path) -> FrameAt:
    if path.coil is None:
        return _fixed(path)
    outward = _outward(path)

    def roll(s: Array) -> Array:
        frames = outward(s)
        return -np.einsum("ij,ij->i", frames.d_first, frames.second)

    angle = RunningIntegral(roll, 0.0, path.length, tolerance=1e-12)
    return lambda s: (frames := outward(s)).turned(
        angle(s), -np.einsum("ij,ij->i", frames.d_first, frames.second)
    )


def _fixed(path: Path) -> FrameAt:
    if path.coil is None:
        first, second = np.array([[1.0, 0.0, 0.0]]), np.array([[0.0, 1.0, 0.0]])
    else:
        start = _outward_frames(path, path.at(np.zeros(1)))
        first, second = start.first, start.second

    def frames(s: Array) -> Frames:
        stations = path.at(s)
        zero = np.zeros_like(stations.position)
        return Frames(stations.position, first + zero, second + zero, stations.tangent, zero, zero)

    return frames


def _radial(stations: Stations) -> tuple[Array, Array]:
    flat = np.array([1.0, 1.0, 0.0])
    return normalised(stations.position * flat, stations.tangent * flat)
