"""A coil turn by turn, as the sums of a spring need it: radius, pitch, and the pitch at which turns touch.

Neighbouring turns of radii that differ by e touch when their pitch is √(p₀² − e²), p₀ that of a cylinder, d /
√(1 − (d/2πr)²); where e ≥ p₀ they pass by each other, as in a telescoping cone. Turns of rectangular wire
touch at p₀ as long as e is less than their width.
"""

from __future__ import annotations

import math
from dataclasses import dataclass

import numpy as np

from metaspira.numbers.jets import Array
from metaspira.numbers.once import cached_property
from metaspira.paths import Path
from metaspira.paths.helix import LinearCoil, ShapedCoil
from metaspira.paths.path import CurvePath
from metaspira.problems import Problem, RecipeError
from metaspira.schedules import Varying, constantly, linearly
from metaspira.springs.shape import WireShape, Wound

_PER_TURN = 72
_LEAST, _MOST = 200, 40_000
_EVEN = 1e-3
_DEAD = 1e-3
_TURN = 2 * math.pi


@dataclass(frozen=True, eq=False)
class Turns:
    """A coil of wire of a shape: radius of its centre and pitch (mm a turn) over the share of its `turns`;
    its centre lies `aside` from its path, away from the axis, mm."""

    radius: Varying
    pitch: Varying
    turns: float
    hand: int
    start_angle: float
    shape: WireShape
    aside: float = 0.0

    @cached_property
    def count(self) -> int:
        return int(min(max(math.ceil(self.turns * _PER_TURN), _LEAST), _MOST))

    @cached_property
    def share(self) -> Array:
        """Middles (n,) of the elements of wire, as shares of the turns."""
        return (np.arange(self.count) + 0.5) / self.count

    @property
    def step(self) -> float:
        """Turns of one element."""
        return self.turns / self.count

    @cached_property
    def radii(self) -> Array:
        """mm (n,)"""
        return self.radius.value(self.share)

    @property
    def cylindrical(self) -> bool:
        """Whether all turns have one radius, within a thousandth of it."""
        return float(np.ptp(self.radii)) <= _EVEN * float(self.radii.max())

    @cached_property
    def pitches(self) -> Array:
        """mm a turn (n,)"""
        return self.pitch.value(self.share)

    @cached_property
    def room(self) -> Array:
        """How far a turn can close before it touches its neighbour, mm a turn (n,); nothing in dead turns."""
        room = self.pitches - self.touching(self.share)
        return np.where(room <= _DEAD * self.shape.height, 0.0, room)

    @cached_property
    def wound(self) -> Wound:
        """What winding does to the wire of its open turns, or of all where they lie closed."""
        radii, pitches = self.open
        return self.shape.wound(radii, pitches)

    @property
    def open(self) -> tuple[Array, Array]:
        """Radii and pitches, mm (m,), of the turns that have room, or of all where none has."""
        some = self.room > 0 if (self.room > 0).any() else np.ones(self.count, dtype=bool)
        return self.radii[some], self.pitches[some]

    @property
    def active(self) -> float:
        """Turns that take part."""
        return float(np.count_nonzero(self.room)) * self.step

    def heights(self, share: Array) -> Array:
        """Rise of the centre line, mm (n,), from the first of ascending shares of the turns on."""
        pitch = self.pitch.value(share)
        steps = 0.5 * (pitch[1:] + pitch[:-1]) * np.diff(share)
        return np.concatenate([[0.0], np.cumsum(steps)]) * self.turns

    def touching(self, share: Array) -> Array:
        """The pitch, mm a turn (n,), at which turns touch."""
        radius, widening = self.radius(share)
        high = self.shape.height
        square = high**2 / np.maximum(1 - (high / (_TURN * radius)) ** 2, 0.1)
        aside = np.abs(widening) / self.turns
        if self.shape.round:
            return np.sqrt(np.maximum(square - aside**2, 0.0))
        return np.where(aside < self.shape.width, np.sqrt(square), 0.0)


def demand_coil(path: Path) -> LinearCoil | ShapedCoil:
    """The curve of a coil around a round base. Raises RecipeError where the path is none."""
    curve = path.curve if isinstance(path, CurvePath) else None
    if isinstance(curve, LinearCoil) or (isinstance(curve, ShapedCoil) and curve.around):
        return curve
    raise RecipeError(
        Problem(
            "/spring/kind",
            "a spring is a coil on a round base, all of it used, and one that pushes has no legs",
            "choose such a path, or leave the load out",
        )
    )


def turns_of(path: Path, shape: WireShape, aside: float = 0.0) -> Turns:
    """The turns of a coil's path. Raises RecipeError where it is not a coil around a round base."""
    curve = demand_coil(path)
    if isinstance(curve, LinearCoil):
        end = curve.start_radius + curve.widening * curve.end
        radius, pitch = linearly(curve.start_radius + aside, end + aside), constantly(curve.climb * _TURN)
    else:
        radius = curve.radius.mapped(lambda jet: jet + aside) if aside else curve.radius
        pitch = curve.pitch
    return Turns(radius, pitch, curve.end / _TURN, curve.hand, curve.start_angle, shape, aside)
