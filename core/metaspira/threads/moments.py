"""Volume moments and surface of a threaded body, by integrals over the patches of its surfaces.

    ∫ f dV = ∮ F · n dA,   div F = f,   n dA = ∂x/∂q × ∂x/∂w dq dw

with fields F across the axis, to which the planes at the ends give nothing (divergence theorem).
"""

from __future__ import annotations

import math

import numpy as np

from metaspira.numbers.jets import Array
from metaspira.numbers.quadrature import gauss_points
from metaspira.numbers.vectors import cross
from metaspira.sweep.inertia import NOTHING, Moments
from metaspira.threads.body import Lateral, ThreadBody

_PANELS_A_TURN, _PANELS_ACROSS = 2, 1
_STEP = 1e-5


def moments_of_body(body: ThreadBody) -> Moments:
    """The moments of a threaded body, brought to its exact volume."""
    found = NOTHING
    for index, loop in enumerate(body.loops):
        found += _enclosed(loop).times(-1.0 if index else 1.0)
    return found.times(body.volume / found.volume)


def surface_of_body(body: ThreadBody) -> float:
    """The surface of a threaded body with the planes at its ends, mm²."""
    ends = sum((-1.0 if index else 1.0) * _ends(loop) for index, loop in enumerate(body.loops))
    lateral = (np.linalg.norm(normal, axis=-1).sum() for loop in body.loops for _, normal in _elements(loop))
    return float(sum(lateral)) + ends


def _enclosed(loop: Lateral) -> Moments:
    volume, first, second = 0.0, np.zeros(3), np.zeros((3, 3))
    for places, normal in _elements(loop):
        x, y, z = np.moveaxis(places, -1, 0)
        along_x, along_y = normal[..., 0], normal[..., 1]
        across = (x * along_x + y * along_y) / 2
        volume += across.sum()
        first += [(x**2 * along_x).sum() / 2, (y**2 * along_y).sum() / 2, (z * across).sum()]
        xx, yy, zz = (x**3 * along_x).sum() / 3, (y**3 * along_y).sum() / 3, (z**2 * across).sum()
        xy, xz = ((x**2 * other * along_x).sum() / 2 for other in (y, z))
        yz = (y**2 * z * along_y).sum() / 2
        second += [[xx, xy, xz], [xy, yy, yz], [xz, yz, zz]]
    return Moments(float(volume), first, second)


def _elements(loop: Lateral) -> list[tuple[Array, Array]]:
    """For each patch places (n, m, 3) all over it and n dA (n, m, 3) there, away from the axis."""
    found = []
    for piece in loop.pieces:
        low, high = piece.leg.heights
        turns = abs(high - low) / loop.lead
        q, along = gauss_points(0.0, 1.0, max(1, math.ceil(_PANELS_A_TURN * turns)))
        step = _STEP / max(1.0, turns)
        w, across = gauss_points(0.0, 1.0, _PANELS_ACROSS)
        for start, slot in loop.around():
            forth, back = (loop.patch(piece, slot, start, q + d, w) for d in (step, -step))
            over, under = (loop.patch(piece, slot, start, q, w + d) for d in (_STEP, -_STEP))
            normal = cross((over - under) / (2 * _STEP), (forth - back) / (2 * step))
            found.append(
                (loop.patch(piece, slot, start, q, w), normal * along[:, None, None] * across[:, None])
            )
    return found


def _ends(loop: Lateral) -> float:
    """What a loop encloses in the planes at both ends, mm²."""
    total = 0.0
    w, across = gauss_points(0.0, 1.0, _PANELS_ACROSS)
    for piece, q in ((loop.pieces[0], np.zeros(1)), (loop.pieces[-1], np.ones(1))):
        for start, slot in loop.around():
            over, under = (loop.patch(piece, slot, start, q, w + d)[0] for d in (_STEP, -_STEP))
            x, y, _ = loop.patch(piece, slot, start, q, w)[0].T
            dx, dy, _ = ((over - under) / (2 * _STEP)).T
            total += float(((x * dy - y * dx) / 2) @ across)
    return total
