"""A spring pressed between two plates, as it is drawn: beams along its wire that touch the plates and each
other.

The wire is a polygon seen along the axis, whose corners rise by w and turn by two slopes; each side twists
and bends (G J, E I). Contact is one-sided: corner on plate, and corner on the corner a turn further on, gaps

    g = z(θ) − h/2 − z_low,   g = z_high − s − z(θ) − h/2,   g = z(θ + 2π) − z(θ) − p_touch

each a stiff spring where it is negative. The energy is convex and quadratic by pieces, so that Newton's
method with an exact search along each step finds its one minimum. Corners stand a little outside the wire's
circle, so that a whole polygon is as soft as the circle under a force along the axis.
"""

from __future__ import annotations

import math
from dataclasses import dataclass

import numpy as np
import scipy
from numpy.typing import NDArray

from metaspira.numbers.jets import Array
from metaspira.numbers.once import cached_property
from metaspira.springs.turns import Turns

Whole = NDArray[np.int_]

_TURN = 2 * math.pi
_FREE = 3
_FEWEST, _MOST, _COST = 8, 16, 49_000.0
_STIFF = 100.0
_HELD, _MORE = 1e-9, 100.0
_TOUCHING = 1e-3
_STEPS, _SMALL = 60, 1e-9


@dataclass(frozen=True, eq=False)
class PressedCoil:
    """Turns of wire with moduli E and G, MPa, between plates at heights `plates` over the first place of its
    centre line, mm."""

    turns: Turns
    E: float
    G: float
    plates: tuple[float, float]

    @cached_property
    def a_turn(self) -> int:
        """Corners a turn: fewer of a long spring, to bound its time."""
        return int(np.clip(round((_COST / self.turns.turns) ** (1 / 3)), _FEWEST, _MOST))

    @cached_property
    def corners(self) -> Array:
        """Where the corners stand, as shares of the turns (n,)."""
        turns = self.turns.turns
        places = np.arange(math.floor(turns * self.a_turn) + 1) / self.a_turn
        return np.append(places, turns)[: len(places) + int(turns - places[-1] > _SMALL)] / turns

    @cached_property
    def sides(self) -> Array:
        """Middles of the sides, as shares of the turns (n − 1,)."""
        return 0.5 * (self.corners[1:] + self.corners[:-1])

    def pressed(self, deflection: float, start: Array | None = None) -> tuple[float, Array, Array]:
        """The force, N, at a deflection, mm; the torsion, MPa (n − 1,), of its sides; and the movements (n,
        3) of its corners, from which a next one may start."""
        moved = np.zeros((len(self.corners), _FREE)) if start is None else start
        gaps = self._gaps(moved, deflection)
        for _ in range(_STEPS):
            slope, stiffness = self._newton(moved, gaps)
            step = self._step(slope, stiffness)
            falls = float(np.vdot(slope, step))
            if -falls <= _SMALL * max(self._energy(moved, gaps), _SMALL):
                break
            changes = self._changes(step)
            length = self._along(falls, step, gaps, changes)
            moved = moved + length * step
            gaps = gaps + length * changes
        count = len(self.corners)
        force = -self._stiff * float(np.minimum(gaps[count : 2 * count], 0.0).sum())
        return force, self._torsion(moved), moved

    def _step(self, slope: Array, stiffness: Array) -> Array:
        """Newton's step (n, 3). Where nothing holds the coil its stiffness is singular, so that a little is
        added to it, which changes the way to the minimum alone; more where rounding takes that up."""
        radius = float(self.turns.radii.mean())
        own = self._rigidity[1] / radius * np.array([radius**-2, 1.0, 1.0])
        held = _HELD
        while True:
            tried = stiffness.copy()
            tried[0].reshape(-1, _FREE)[:] += held * own
            try:
                step = scipy.linalg.solveh_banded(
                    tried, -slope.ravel(), lower=True, overwrite_ab=True, check_finite=False
                )
            except np.linalg.LinAlgError:
                if held > 1:
                    raise
                held *= _MORE
                continue
            return step.reshape(slope.shape)

    @cached_property
    def _polygon(self) -> tuple[Array, Array]:
        """Length of the sides (n − 1,), mm, and their directions (n − 1, 2)."""
        turns, bend, twist = self.turns, self._rigidity[0], self._rigidity[1]
        half = math.pi / self.a_turn
        cosine, sine = math.cos(half), math.sin(half)
        wider = (half / (sine * (cosine**2 + twist * sine**2 / (3 * bend)))) ** (1 / 3)
        radius = wider * turns.radius.value(np.clip(self.corners, _SMALL, 1 - _SMALL))
        angle = _TURN * turns.turns * self.corners
        side = np.diff(np.stack([radius * np.cos(angle), radius * np.sin(angle)], axis=1), axis=0)
        length = np.hypot(*side.T)
        return length, side / length[:, None]

    @cached_property
    def _twisted(self) -> Array:
        """G J of the sides as they are wound, N mm² (n − 1,)."""
        radius = self.turns.radius.value(self.sides)
        return self._rigidity[1] * self.turns.wound.stiffer(radius)

    @property
    def _rigidity(self) -> tuple[float, float]:
        shape = self.turns.shape
        return self.E * shape.inertia[1], self.G * shape.stiffness

    @cached_property
    def _stiff(self) -> float:
        """Of a contact, N/mm: so many times that of a turn."""
        return _STIFF * self._rigidity[1] / (_TURN * float(self.turns.radii.mean()) ** 3)

    @cached_property
    def _turned(self) -> Array:
        """Takes movements of both corners of a side into its own: rise, twist and slope (n − 1, 6, 6)."""
        (c, s) = self._polygon[1].T
        turned = np.zeros((len(c), 6, 6))
        for k in (0, _FREE):
            turned[:, k, k] = 1.0
            turned[:, k + 1, k + 1], turned[:, k + 1, k + 2] = c, s
            turned[:, k + 2, k + 1], turned[:, k + 2, k + 2] = s, -c
        return turned

    @cached_property
    def _wire(self) -> Array:
        """The stiffness of the wire alone, lower band (3 a_turn + 1, 3 n)."""
        length, bend, twist = self._polygon[0], self._rigidity[0], self._twisted
        own = np.zeros((len(length), 6, 6))
        push, lever, hold = 12 * bend / length**3, 6 * bend / length**2, bend / length
        for i, j, value in (
            (0, 0, push),
            (3, 3, push),
            (0, 3, -push),
            (0, 2, lever),
            (0, 5, lever),
            (2, 3, -lever),
            (3, 5, -lever),
            (2, 2, 4 * hold),
            (5, 5, 4 * hold),
            (2, 5, 2 * hold),
            (1, 1, twist / length),
            (4, 4, twist / length),
            (1, 4, -twist / length),
        ):
            own[:, i, j] = own[:, j, i] = value
        whole = np.einsum("nji,njk,nkl->nil", self._turned, own, self._turned)
        band = np.zeros((_FREE * self.a_turn + 1, _FREE * len(self.corners)))
        at = _FREE * np.arange(len(length))
        for i in range(6):
            for j in range(i + 1):
                band[i - j, at + j] += whole[:, i, j]
        return band

    @cached_property
    def _free_gaps(self) -> Array:
        """Gaps, mm, before it is pressed: of all corners to the plate below and to that above, and of each to
        the one a turn further on; infinite where turns pass by each other."""
        turns, high = self.turns, self.turns.shape.height
        fine = np.unique(np.concatenate([np.linspace(0.0, 1.0, turns.count + 1), self.corners]))
        z = np.interp(self.corners, fine, turns.heights(fine))
        low, top = self.plates
        first, second = self._pairs
        touch = turns.touching(0.5 * (self.corners[first] + self.corners[second]))
        between = np.maximum(z[second] - z[first] - touch, 0.0)
        between[between < _TOUCHING * high] = 0.0
        between[touch <= 0] = np.inf
        return np.concatenate(
            [np.maximum(z - 0.5 * high - low, 0.0), np.maximum(top - 0.5 * high - z, 0.0), between]
        )

    @cached_property
    def _pairs(self) -> tuple[Whole, Whole]:
        whole = math.floor(self.turns.turns * self.a_turn) + 1
        first = np.arange(max(whole - self.a_turn, 0))
        return first, first + self.a_turn

    def _changes(self, moved: Array) -> Array:
        """How movements (n, 3) change the gaps."""
        rise = moved[:, 0]
        first, second = self._pairs
        return np.concatenate([rise, -rise, rise[second] - rise[first]])

    def _gaps(self, moved: Array, deflection: float) -> Array:
        gaps = self._free_gaps + self._changes(moved)
        count = len(self.corners)
        gaps[count : 2 * count] -= deflection
        return gaps

    def _pull(self, moved: Array) -> Array:
        """Forces of the wire (n, 3) at movements."""
        flat, band = moved.ravel(), self._wire
        pull = band[0] * flat
        for k in range(1, 2 * _FREE):
            pull[k:] += band[k, :-k] * flat[:-k]
            pull[:-k] += band[k, :-k] * flat[k:]
        return pull.reshape(moved.shape)

    def _energy(self, moved: Array, gaps: Array) -> float:
        closed = np.minimum(gaps, 0.0)
        return 0.5 * (float(np.vdot(moved, self._pull(moved))) + self._stiff * float(closed @ closed))

    def _newton(self, moved: Array, gaps: Array) -> tuple[Array, Array]:
        """Slope (n, 3) of the energy and its stiffness, lower band."""
        count, stiff = len(self.corners), self._stiff
        first, second = self._pairs
        push = stiff * np.minimum(gaps, 0.0)
        slope = self._pull(moved)
        slope[:, 0] += push[:count] - push[count : 2 * count]
        slope[second, 0] += push[2 * count :]
        slope[first, 0] -= push[2 * count :]
        touched = np.where(gaps < 0, stiff, 0.0)
        band = self._wire.copy()
        rise = band[:, ::_FREE]
        rise[0] += touched[:count] + touched[count : 2 * count]
        rise[0, first] += touched[2 * count :]
        rise[0, second] += touched[2 * count :]
        rise[-1, first] -= touched[2 * count :]
        return slope, band

    def _along(self, falls: float, step: Array, gaps: Array, changes: Array) -> float:
        """The share of a step at which the energy is least along it, whose slope at its start is `falls`."""
        with np.errstate(divide="ignore", invalid="ignore"):
            at = np.where(changes != 0, -gaps / changes, np.inf)
        closed = gaps < 0
        turn = self._stiff * changes**2
        rising = float(np.vdot(step, self._pull(step))) + float(turn[closed].sum())
        met = np.flatnonzero((at > 0) & np.isfinite(at))
        met = met[np.argsort(at[met])]
        more = np.cumsum(np.where(closed[met], -turn[met], turn[met]))
        places = np.append(0.0, at[met])
        rises = rising + np.append(0.0, more)
        slopes = falls + np.append(0.0, np.cumsum(rises[:-1] * np.diff(places)))
        last = int(np.searchsorted(slopes >= 0, True)) - 1 if (slopes >= 0).any() else len(places) - 1
        return float(places[last] - slopes[last] / rises[last])

    def _torsion(self, moved: Array) -> Array:
        own = np.einsum("nij,nj->ni", self._turned, np.concatenate([moved[:-1], moved[1:]], axis=1))
        twist = (own[:, 4] - own[:, 1]) / self._polygon[0]
        return np.abs(twist) * self._twisted / self.turns.shape.modulus
