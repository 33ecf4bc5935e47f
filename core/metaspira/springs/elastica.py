"""A strip bent in its own plane between two ends: Euler's elastica, curved by κ₀ where it is free.

    x′ = cos ψ,   y′ = sin ψ,   ψ′ = κ₀ + M / EI,   M′ = F_x sin ψ − F_y cos ψ

by true length. The force F is the same all along, and so is the torque about the axis, T = M − F_x y + F_y x
(Love, A Treatise on the Mathematical Theory of Elasticity, 4th ed. 1927, chapter 19). The strip neither
stretches nor touches itself.
"""

from __future__ import annotations

import math
from collections.abc import Callable
from dataclasses import dataclass

import numpy as np
import scipy

from metaspira.numbers.jets import Array

_TOLERANCE = 1e-6
_MOST_FINER = 8


@dataclass(frozen=True)
class Strip:
    """A strip when it is free, its first end on the arbor: its length (mm), and over the share of it (n,) its
    places (n, 2), mm, and directions (n,)."""

    length: float
    share: Array
    place: Array
    direction: Array


@dataclass(frozen=True)
class Bent:
    """A strip held bent: directions ψ and M / EI (1/mm) at any share (n,) of it, and the torque on the arbor
    over EI, 1/mm."""

    direction: Callable[[Array], Array]
    bending: Callable[[Array], Array]
    torque: float


def bend(strip: Strip, turned: float, clamped: bool) -> Bent | None:
    """The strip with its first end turned about the axis by `turned` radians, so as to wind it up, its last
    end held where it is, `clamped` or free to swivel there; None where no such shape is found."""
    way = -math.copysign(1.0, float(strip.direction[-1] - strip.direction[0]))
    length, share = strip.length, strip.share
    start = np.array([*strip.place[0], strip.direction[0]])
    end = np.array([*strip.place[-1], strip.direction[-1]]) / [length, length, 1.0]

    curved = scipy.interpolate.make_interp_spline(share, strip.direction, k=5).derivative()

    def slopes(at: Array, state: Array, force: Array) -> Array:
        sine, cosine = np.sin(state[2]), np.cos(state[2])
        return np.stack([cosine, sine, curved(at) + state[3], force[0] * sine - force[1] * cosine])

    def jacobian(at: Array, state: Array, force: Array) -> tuple[Array, Array]:
        sine, cosine = np.sin(state[2]), np.cos(state[2])
        by_state, by_force = np.zeros((4, 4, len(at))), np.zeros((4, 2, len(at)))
        by_state[0, 2], by_state[1, 2], by_state[2, 3] = -sine, cosine, 1.0
        by_state[3, 2] = force[0] * cosine + force[1] * sine
        by_force[3] = sine, -cosine
        return by_state, by_force

    angle = way * turned
    x, y = start[:2] / length
    sine, cosine = math.sin(angle), math.cos(angle)
    first = np.array([x * cosine - y * sine, x * sine + y * cosine, start[2] + angle])

    def apart(low: Array, high: Array, force: Array) -> Array:
        last = high[2] - end[2] if clamped else high[3]
        return np.array([*(low[:3] - first), *(high[:2] - end[:2]), last])

    guess = np.stack(
        [*(strip.place.T / length), strip.direction + angle * (1 - share), np.full_like(share, -angle)]
    )
    found = scipy.integrate.solve_bvp(
        slopes,
        apart,
        share,
        guess,
        p=np.zeros(2),
        fun_jac=jacobian,
        tol=_TOLERANCE,
        max_nodes=_MOST_FINER * len(share),
    )
    if found.status != 0:
        return None
    x, y, _, moment = found.y[:, 0]
    torque = abs(float(moment - found.p[0] * y + found.p[1] * x)) / length
    shape = found.sol
    return Bent(lambda at: shape(at)[2], lambda at: shape(at)[3] / length, torque)
