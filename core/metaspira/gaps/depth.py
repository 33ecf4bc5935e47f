"""How deep two wires are in each other: the least movement that frees them from each other where they meet.

Near the place each wire is taken for a prism along its tangent, which ends where the wire does. Moved along a
direction n by  δ(n) = max n·A − min n·B  prism A is free of B; δ is finite where n is square to each wire, or
points beyond an end of it.
Where the wires run alike, their sections seen along them tell, with their holes and hollows.
"""

from __future__ import annotations

import math

import numpy as np
from shapely import Polygon
from shapely.affinity import translate

from metaspira.numbers.jets import Array
from metaspira.sweep.ground import ground_planes
from metaspira.sweep.sweep import Sweep

_FACETS = 240
_ALIKE = 0.35
_DIRECTIONS = 48
_STEPS = 12
_HALVINGS = 16
_ROUNDS, _ROUNDS_CONVEX = 3, 9
_AROUND = np.linspace(-1.0, 1.0, 33)
_CLOSER = (1.0, 0.1, 0.01, 1e-3)


def depth_between(one: Sweep, s1: float, two: Sweep, s2: float) -> float:
    """How far, mm, one of two wires that meet at s1 and s2 has to be moved to be free of the other there; a
    ground end of one also along z."""
    a, b = _Prism(one, s1), _Prism(two, s2)
    lean = np.cross(a.tangent, b.tangent)
    square = float(np.linalg.norm(lean))
    found = [_apart(a, b, _fan(prism.tangent, other.tangent, prism)) for prism, other in ((a, b), (b, a))]
    if square > 1e-6:
        found.append(_apart(a, b, np.array([lean, -lean]) / square))
    if square < _ALIKE:
        found += [_seen_along(a, b), _seen_along(b, a)]
    found += _off_ground(one, s1, b) + _off_ground(two, s2, a)
    return min(found)


def _off_ground(sweep: Sweep, s: float, other: _Prism) -> list[float]:
    """How far the other has to be moved along z to lie wholly beyond a plane to which the wire is ground at
    s."""
    return [
        max(float(other.most(np.array([[0.0, 0.0, plane.sign]]))[0]) - plane.sign * plane.height, 0.0)
        for plane in ground_planes(sweep)
        if plane.cuts(np.array(s))
    ]


def beside(one: Sweep, two: Sweep, at: tuple[float, float], near: tuple[float, float]) -> tuple[float, float]:
    """True lengths within `near` mm of those where two wires were seen to meet, at which their paths are
    nearest."""
    places = list(at)
    for share in _CLOSER:
        for k, (own, other) in enumerate(((one, two), (two, one))):
            s = np.clip(places[k] + share * near[k] * _AROUND, 0.0, own.length)
            there = other.path.derivatives(np.array([places[1 - k]]), 0)[0]
            off = own.path.derivatives(s, 0)[0] - there
            places[k] = float(s[np.argmin((off * off).sum(axis=1))])
    return places[0], places[1]


class _Prism:
    def __init__(self, sweep: Sweep, s: float):
        at = np.array([s])
        frames = sweep.frames(at)
        self.loops = [frames.points(sweep.uv(ring.points, at))[0] for ring in sweep.section.rings(_FACETS, 4)]
        self.points = np.concatenate(self.loops)
        tangent = frames.d_origin[0]
        self.tangent = tangent / np.linalg.norm(tangent)
        self.middle = frames.origin[0]
        near = 1.5 * float(np.linalg.norm(self.points - self.middle, axis=1).max())
        free = not sweep.closed
        self.before = s if free and s < near else math.inf
        self.after = sweep.length - s if free and sweep.length - s < near else math.inf

    def most(self, n: Array) -> Array:
        """max n·x (k,) over the prism for directions n (k, 3); ∞ where it goes on that way."""
        along = n @ self.tangent
        some = np.abs(along) > 1e-9
        ahead = np.zeros(len(n))
        ahead[some] = np.abs(along[some]) * np.where(along[some] > 0, self.after, self.before)
        return np.asarray((n @ self.points.T).max(axis=1) + ahead)


def _apart(a: _Prism, b: _Prism, n: Array) -> float:
    if not len(n):
        return math.inf
    return float(np.min(np.maximum(a.most(n) + b.most(-n), 0.0)))


def _fan(tangent: Array, other: Array, prism: _Prism) -> Array:
    """Directions (k, 3) square to the other wire that lead away from an end of this one."""
    if math.isinf(prism.before) and math.isinf(prism.after):
        return np.zeros((0, 3))
    first = tangent - (tangent @ other) * other
    if np.linalg.norm(first) < 1e-6:
        return np.array([tangent, -tangent])
    first /= np.linalg.norm(first)
    second = np.cross(other, first)
    angle = np.linspace(0.0, 2 * np.pi, 2 * _DIRECTIONS, endpoint=False)
    fan = np.cos(angle)[:, None] * first + np.sin(angle)[:, None] * second
    return np.concatenate([fan, -fan])


def _seen_along(a: _Prism, b: _Prism) -> float:
    """The least movement square to both wires after which their sections, seen along them, share no area."""
    along = a.tangent + math.copysign(1.0, float(a.tangent @ b.tangent)) * b.tangent
    along /= np.linalg.norm(along)
    first = np.cross(along, np.eye(3)[int(np.argmin(np.abs(along)))])
    first /= np.linalg.norm(first)
    axes = np.stack([first, np.cross(along, first)], axis=1)
    one, two = (_polygon([(loop - a.middle) @ axes for loop in prism.loops]) for prism in (a, b))
    if not one.intersects(two):
        return 0.0
    hulls = [np.array(p.convex_hull.exterior.coords) for p in (one, two)]
    convex = all(p.area > (1 - 1e-9) * p.convex_hull.area for p in (one, two))
    reach = float(np.hypot(*np.ptp(np.concatenate(hulls), axis=0)))

    def free(angle: float, most: float) -> float:
        n = np.array([math.cos(angle), math.sin(angle)])
        whole = float((hulls[0] @ -n).max() + (hulls[1] @ n).max())
        return whole if convex else _free_along(one, two, n, min(whole, most))

    angles, spread, best = (
        np.linspace(0, 2 * np.pi, _DIRECTIONS, endpoint=False),
        2 * np.pi / _DIRECTIONS,
        (reach, 0.0),
    )
    for _ in range(_ROUNDS if not convex else _ROUNDS_CONVEX):
        best = min(best, min((free(angle, 1.05 * best[0]), float(angle)) for angle in angles))
        angles, spread = best[1] + spread * np.linspace(-1, 1, 9), spread / 4
    return best[0]


def _polygon(loops: list[Array]) -> Polygon:
    made = Polygon(loops[0], loops[1:])
    return made if made.is_valid else made.buffer(0)


def _free_along(one: Polygon, two: Polygon, n: Array, most: float) -> float:
    """How far one polygon is moved along n until it shares no area with the other, at most `most`; ∞ where it
    still does."""

    def meets(step: float) -> bool:
        return bool(translate(one, step * n[0], step * n[1]).intersection(two).area > 1e-12 * two.area)

    low, high = 0.0, math.inf
    for step in np.linspace(0.0, most * (1 + 1e-9), _STEPS + 1)[1:]:
        if not meets(float(step)):
            high = float(step)
            break
        low = float(step)
    for _ in range(_HALVINGS if high < math.inf else 0):
        middle = 0.5 * (low + high)
        low, high = (middle, high) if meets(middle) else (low, middle)
    return high
