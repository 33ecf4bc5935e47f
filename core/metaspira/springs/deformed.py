"""The shape of a coil under load: true geometry, whose wire keeps its length.

Where the pitch changes, the radius changes as if each turn kept its length. What the change of radius along
the wire takes is given back by the angle:

    v² = r² + r′² + (p/2π)² before the load,   φ′ = √(v² − r_F′² − (p_F/2π)²) / r_F
"""

from __future__ import annotations

import itertools
import math
from collections.abc import Callable
from dataclasses import dataclass

import numpy as np
import scipy

from metaspira.numbers.jets import Array
from metaspira.numbers.taylor import around_z
from metaspira.paths.path import CoilFacts, CurvePath, Path
from metaspira.schedules import Varying, piecewise
from metaspira.springs.turns import Turns

_PER_TURN = 48
_LEAST = 12
_DEGREE = 5
_TURN = 2 * math.pi


@dataclass(frozen=True, eq=False)
class LoadedCoil:
    """A curve around the z axis by radius, angle and height, each over θ / `end`."""

    radius: Varying
    angle: Varying
    height: Varying
    end: float
    hand: int
    start_angle: float
    breaks: tuple[float, ...]
    start: float = 0.0

    def derivatives(self, t: Array, order: int) -> tuple[Array, ...]:
        radius, angle, height = (
            np.array(given.over(t, self.end, order).c) for given in (self.radius, self.angle, self.height)
        )
        angle *= self.hand
        angle[0] += self.start_angle
        return tuple(around_z(radius, angle, height))

    def speed(self, t: Array) -> Array:
        return np.linalg.norm(self.derivatives(t, 1)[1], axis=1)


def loaded_path(
    turns: Turns,
    under: Callable[[Array], Array],
    edges: list[float],
    touching: list[tuple[float, float]],
    wound: float = 1.0,
) -> Path:
    """The path of turns whose pitch becomes `under` (mm a turn, of shares of the turns), smooth
    between `edges`; `touching` are the shares between which they touch. They are `wound` to so many times as
    many turns."""
    end = _TURN * turns.turns
    radius, pitch = [], []
    for low, high in itertools.pairwise(edges):
        count = max(_LEAST, math.ceil((high - low) * turns.turns * _PER_TURN)) + 1
        share = np.linspace(low, high, count)
        inside = np.clip(share, low + 1e-12, high - 1e-12)
        fallen = under(inside)
        grown = np.sqrt(
            turns.radius.value(inside) ** 2 + (turns.pitch.value(inside) ** 2 - fallen**2) / _TURN**2
        )
        radius.append(scipy.interpolate.make_interp_spline(share, grown / wound, k=_DEGREE))
        pitch.append(scipy.interpolate.make_interp_spline(share, fallen, k=_DEGREE))
    angle, height = [], []
    at_angle = at_height = 0.0
    for (low, high), own_radius, own_pitch in zip(itertools.pairwise(edges), radius, pitch, strict=True):
        share = np.linspace(low, high, 2 * len(own_radius.c) + 1)
        r, widening = turns.radius(np.clip(share, low + 1e-12, high - 1e-12))
        climb = turns.pitch.value(np.clip(share, low + 1e-12, high - 1e-12)) * turns.turns
        speed = (end * r) ** 2 + widening**2 + climb**2
        left = speed - own_radius(share, 1) ** 2 - (own_pitch(share) * turns.turns) ** 2
        spin = scipy.interpolate.make_interp_spline(share, np.sqrt(left) / own_radius(share), k=_DEGREE)
        turned, risen = spin.antiderivative(), own_pitch.antiderivative()
        angle.append((turned, at_angle - float(turned(low))))
        height.append((risen, turns.turns, at_height - turns.turns * float(risen(low))))
        at_angle = float(turned(high)) + angle[-1][1]
        at_height = turns.turns * float(risen(high)) + height[-1][2]
    inner = edges[1:-1]
    curve = LoadedCoil(
        _joined(
            [_moved(scipy.interpolate.PPoly.from_spline(own), 1.0, -turns.aside) for own in radius], edges
        ),
        _joined([_moved(scipy.interpolate.PPoly.from_spline(own), 1.0, by) for own, by in angle], edges),
        _joined(
            [_moved(scipy.interpolate.PPoly.from_spline(own), factor, by) for own, factor, by in height],
            edges,
        ),
        end,
        turns.hand,
        turns.start_angle,
        tuple(float(e) * end for e in inner),
    )
    ends = curve.radius.ends
    facts = CoilFacts(turns.hand, turns.turns, at_height / turns.turns, at_height, *ends)
    path = CurvePath(curve, facts, turns.turns)
    lengths = path.true_length(np.array(touching).ravel() * end) if touching else np.zeros(0)
    spans = tuple((float(a), float(b)) for a, b in lengths.reshape(-1, 2))
    return CurvePath(curve, facts, turns.turns, touching=spans)


def edges_of(turns: Turns, state: Array) -> list[float]:
    """Shares between which the `state` (n,) of the turns stays, breaks of the free shape among them."""
    found = {0.0, 1.0, *turns.radius.breaks, *turns.pitch.breaks}
    margin = 0.2 / turns.count
    for k in np.flatnonzero(np.diff(state)):
        at = float(0.5 * (turns.share[k] + turns.share[k + 1]))
        if min(abs(at - known) for known in found) > 2 * margin:
            found.add(at)
    return sorted(found)


def _moved(poly: scipy.interpolate.PPoly, factor: float, by: float) -> scipy.interpolate.PPoly:
    c = poly.c * factor
    c[-1] += by
    return scipy.interpolate.PPoly(c, poly.x)


def _joined(pieces: list[scipy.interpolate.PPoly], edges: list[float]) -> Varying:
    degree = max(len(piece.c) for piece in pieces)
    c, x = [], [np.array(edges[:1])]
    for piece in pieces:
        wide = np.diff(piece.x) > 0
        own = piece.c[:, wide]
        c.append(np.concatenate([np.zeros((degree - len(own), own.shape[1])), own]))
        x.append(piece.x[1:][wide])
    return piecewise(
        scipy.interpolate.PPoly(np.concatenate(c, axis=1), np.concatenate(x)), np.array(edges[1:-1])
    )
