"""The screw motion that moves a surface along itself.

A screw moves a place p with the velocity c̄ + c × p; where it moves a surface along itself, every normal n is
square to it: c̄ · n + c · (p × n) = 0. The coefficients that hold this best are those of the smallest
eigenvalue (Pottmann and Randrup, Rotational and helical surface approximation for reverse engineering,
Computing 60 (1998)).
"""

from __future__ import annotations

import math
from dataclasses import dataclass, replace

import numpy as np

from metaspira.numbers.jets import Array
from metaspira.studies.trace.scan import Scan

_ROUNDS, _ABOUT = 10, (1.3, 0.9)
_HELD, _CLEARLY = 30, 0.7

TURNED_OVER = np.array([1.0, -1.0, -1.0])
"""What upright places are multiplied by when they are turned over about x."""


def turned_about(points: Array, angle: float) -> Array:
    """Upright places (n, 3) turned about z by an angle, radians."""
    cosine, sine = math.cos(angle), math.sin(angle)
    return np.asarray(points @ np.array([[cosine, sine, 0], [-sine, cosine, 0], [0, 0, 1]]))


@dataclass(frozen=True, eq=False)
class Screw:
    """An axis through `centre` (3,) along the unit vector `axis` (3,), mm; `lead` in a turn, mm, positive to
    the right; `strays` is how far the surface is from being moved along itself: 0 for a perfect one, about 1
    where no screw moves it."""

    axis: Array
    centre: Array
    lead: float
    strays: float

    @property
    def turned(self) -> Array:
        """The rotation (3, 3) that takes the axis to z."""
        z = self.axis
        x = np.cross(np.eye(3)[int(np.argmin(np.abs(z)))], z)
        x /= np.linalg.norm(x)
        return np.stack([x, np.cross(z, x), z])

    def moved(self, shift: Array, tilt: Array, height: float) -> Screw:
        """The screw whose axis, of what is upright, goes through `shift` (2,), mm, at a `height`, and leans
        by `tilt` (2,)."""
        back = self.turned.T
        axis = back @ np.append(tilt, 1.0)
        centre = self.centre + back @ np.append(shift - height * tilt, 0.0)
        return replace(self, axis=axis / np.linalg.norm(axis), centre=centre)

    def upright(self, points: Array) -> Array:
        """Places (n, 3) with the axis along z."""
        return np.asarray((points - self.centre) @ self.turned.T)


def about_z(lead: float = math.inf) -> Screw:
    """The screw about the z axis."""
    return Screw(np.array([0.0, 0.0, 1.0]), np.zeros(3), lead, 1.0)


def screw_of(scan: Scan) -> Screw:
    """The screw of a surface, robust against what is not moved by it: of all places, or of those about the
    middle where many more are moved by theirs, since what reaches far out weighs much."""
    middle = scan.points.mean(axis=0)
    from_middle = np.linalg.norm(scan.points - middle, axis=1)
    size = float(from_middle.max())
    arms = np.cross((scan.points - middle) / size, scan.normals)
    rows = np.hstack([arms, scan.normals])
    best = _robust(rows)
    for about in _ABOUT:
        found = _robust(rows[from_middle < about * np.median(from_middle)])
        if _off(rows, found) < _CLEARLY * _off(rows, best):
            best = found
    turn, shift, strays = best
    lead = 2 * math.pi * float(turn @ shift) * size
    return Screw(turn, middle + np.cross(turn, shift) * size, lead, strays)


def _off(rows: Array, found: tuple[Array, Array, float]) -> float:
    """How far off the rows are that a rotation and a shift hold best."""
    return float(np.percentile(np.abs(rows @ np.concatenate(found[:2])), _HELD))


def _robust(rows: Array) -> tuple[Array, Array, float]:
    """The unit rotation, the shift, and how far the surface strays."""
    weight = np.ones(len(rows))
    for _ in range(_ROUNDS):
        turn, shift, values = _least(rows, weight)
        off = rows @ np.concatenate([turn, shift])
        spread = float(np.median(np.abs(off))) + 1e-12
        weight = 1 / (1 + (off / (2 * spread)) ** 2)
    return turn, shift, float(values[0] / max(values[1], 1e-300))


def _least(rows: Array, weight: Array) -> tuple[Array, Array, Array]:
    """The unit rotation and the shift of least squares, and the eigenvalues."""
    whole = (rows * weight[:, None]).T @ rows
    turns, mixed, shifts = whole[:3, :3], whole[:3, 3:], whole[3:, 3:]
    inverse = np.linalg.pinv(shifts, rcond=1e-7)
    values, vectors = np.linalg.eigh(turns - mixed @ inverse @ mixed.T)
    turn = vectors[:, 0]
    return turn, -inverse @ mixed.T @ turn, values
