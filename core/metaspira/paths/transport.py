"""Transport: a direction carried along a path square to it, with no roll about it.

    N' = −(K · N) T        (rotation minimizing; Bishop 1975; Wang, Jüttler, Zheng and Liu 2008)

which is the rotation  N' = Ω × N  with  Ω = T × K, integrated by the sixth-order Magnus method on three
Gauss points a step (Blanes, Casas and Ros, BIT 40 (2000) 434), and quintic Hermite between the steps.
"""

from __future__ import annotations

from dataclasses import dataclass

import numpy as np

from metaspira.numbers.compiled import compiled
from metaspira.numbers.jets import Array, Jet
from metaspira.numbers.once import cached_property
from metaspira.numbers.vectors import cross, dots
from metaspira.paths.path import Path, Stations

_PER_TURN = 48
_ROOT15 = 15**0.5
_GAUSS = np.array([0.5 - _ROOT15 / 10, 0.5, 0.5 + _ROOT15 / 10])


@dataclass(frozen=True, eq=False)
class Transport:
    """The unit vector `first` (3,), made square to the path at its start and carried along it.

    On a closed path the angle by which it fails to close is spread evenly over the length, so that it
    closes; `roll` is what that adds, radians a mm.
    """

    path: Path
    first: Array

    @cached_property
    def nodes(self) -> Array:
        """True lengths (n,) of the steps."""
        return self.path.stations_by_turning(_PER_TURN, 33)

    @cached_property
    def _carried(self) -> Array:
        """The direction at each node (n, 3), unrolled."""
        s = self.nodes
        step = np.diff(s)
        places = (s[:-1, None] + step[:, None] * _GAUSS).ravel()
        _, tangent, curvature = self.path.derivatives(places, 2)
        omega = cross(tangent, curvature).reshape(len(step), 3, 3)
        h = step[:, None]
        one = h * omega[:, 1]
        two = h * _ROOT15 / 3 * (omega[:, 2] - omega[:, 0])
        three = h * 10 / 3 * (omega[:, 2] - 2 * omega[:, 1] + omega[:, 0])
        inner = cross(one, two)
        outer = -cross(one, 2 * three + inner) / 60
        turn = one + three / 12 + cross(-20 * one - three + inner, two + outer) / 240
        tangents = self.path.derivatives(s, 1)[1]
        return _carry(self.first, turn, tangents)

    @cached_property
    def roll(self) -> float:
        if not self.path.closed:
            return 0.0
        first, last = self._carried[0], self._carried[-1]
        tangent = self.path.derivatives(np.zeros(1), 1)[1][0]
        angle = np.arctan2(cross(last, first) @ tangent, last @ first)
        return float(angle) / self.path.length

    @cached_property
    def _table(self) -> Array:
        """Carried directions with two derivatives on either side of each interval, (6, n, 3)."""
        s, n = self.nodes, self._carried
        step = np.diff(s)
        inside = 1e-9 * step
        sides = []
        for places, normal in ((s[:-1] + inside, n[:-1]), (s[1:] - inside, n[1:])):
            _, tangent, bend, jerk = self.path.derivatives(places, 3)
            along = dots(bend, normal)
            first = -along * tangent
            second = -(dots(jerk, normal) + dots(bend, first)) * tangent - along * bend
            sides += [normal, first * step[:, None], second * step[:, None] ** 2]
        return np.stack(sides)

    def carried(self, stations: Stations) -> Array:
        """The direction (n, 3) carried without any roll."""
        return self._at(stations.s, stations.tangent)

    def directions(self, stations: Stations) -> tuple[Array, Array]:
        """The carried direction and its derivative by true length at stations, each (n, 3)."""
        normal = self.carried(stations)
        change = -dots(stations.curvature, normal) * stations.tangent
        if self.roll:
            angle = (self.roll * stations.s)[:, None]
            side = cross(stations.tangent, normal)
            d_side = cross(stations.curvature, normal) + cross(stations.tangent, change)
            cos, sin = np.cos(angle), np.sin(angle)
            turned = cos * normal + sin * side
            change = cos * change + sin * d_side + self.roll * (cos * side - sin * normal)
            return turned, change
        return normal, change

    def jets(self, s: Array, tangent: list[Jet], order: int) -> tuple[list[Jet], list[Jet]]:
        """The carried direction and its companion T × N as three jets each, from those of T."""
        bend = [component.derivative() for component in tangent]
        start = self._at(s, np.stack([t.value for t in tangent], axis=1))
        normal = [Jet([start[:, k]]) for k in range(3)]
        for _ in range(order):
            along = bend[0] * normal[0] + bend[1] * normal[1] + bend[2] * normal[2]
            normal = [(-(along * tangent[k])).integral(start[:, k]) for k in range(3)]
        side = [
            tangent[1] * normal[2] - tangent[2] * normal[1],
            tangent[2] * normal[0] - tangent[0] * normal[2],
            tangent[0] * normal[1] - tangent[1] * normal[0],
        ]
        return normal, side

    def _at(self, s: Array, tangent: Array) -> Array:
        return np.asarray(_hermite(s, self.nodes, self._table, tangent))


@compiled("f8[::1]", "f8[::1]", "f8[:, :, ::1]", "f8[:, ::1]")
def _hermite(s, nodes, table, tangents):  # type: ignore[no-untyped-def]
    """Quintic Hermite interpolation of the table (6, n, 3) at s, made square to tangents and of length 1."""
    out = np.empty((len(s), 3))
    last = len(nodes) - 2
    i = 0
    for q in range(len(s)):
        if not (nodes[i] <= s[q] and (i == last or s[q] < nodes[i + 1])):
            i = min(max(np.searchsorted(nodes, s[q], "right") - 1, 0), last)
        t = (s[q] - nodes[i]) / (nodes[i + 1] - nodes[i])
        u = 1 - t
        t3, u3 = t * t * t, u * u * u
        w0, w1, w2 = u3 * (1 + 3 * t + 6 * t * t), u3 * t * (1 + 3 * t), u3 * t * t / 2
        w3, w4, w5 = t3 * (1 + 3 * u + 6 * u * u), -t3 * u * (1 + 3 * u), t3 * u * u / 2
        along = 0.0
        for c in range(3):
            out[q, c] = (
                table[0, i, c] * w0
                + table[1, i, c] * w1
                + table[2, i, c] * w2
                + table[3, i, c] * w3
                + table[4, i, c] * w4
                + table[5, i, c] * w5
            )
            along += out[q, c] * tangents[q, c]
        size = 0.0
        for c in range(3):
            out[q, c] -= along * tangents[q, c]
            size += out[q, c] ** 2
        size = np.sqrt(size)
        for c in range(3):
            out[q, c] /= size
    return out


@compiled("f8[::1]", "f8[:, ::1]", "f8[:, ::1]")
def _carry(first, turn, tangents):  # type: ignore[no-untyped-def]
    """`first` turned by each rotation vector (n, 3) in turn, and kept square to tangents (n + 1, 3)."""
    n = len(turn)
    out = np.empty((n + 1, 3))
    x, y, z = first[0], first[1], first[2]
    for k in range(n + 1):
        if k > 0:
            wx, wy, wz = turn[k - 1, 0], turn[k - 1, 1], turn[k - 1, 2]
            angle = np.sqrt(wx * wx + wy * wy + wz * wz)
            if angle > 1e-300:
                wx, wy, wz = wx / angle, wy / angle, wz / angle
                c, s = np.cos(angle), np.sin(angle)
                along = (wx * x + wy * y + wz * z) * (1 - c)
                x, y, z = (
                    c * x + s * (wy * z - wz * y) + along * wx,
                    c * y + s * (wz * x - wx * z) + along * wy,
                    c * z + s * (wx * y - wy * x) + along * wz,
                )
        tx, ty, tz = tangents[k, 0], tangents[k, 1], tangents[k, 2]
        along = tx * x + ty * y + tz * z
        x, y, z = x - along * tx, y - along * ty, z - along * tz
        size = np.sqrt(x * x + y * y + z * z)
        x, y, z = x / size, y / size, z / size
        out[k, 0], out[k, 1], out[k, 2] = x, y, z
    return out


def square_to(tangent: Array) -> Array:
    """A unit vector square to a unit tangent (3,): as level as it can be; x where the tangent is upright."""
    level = np.array([tangent[1], -tangent[0], 0.0])
    if np.linalg.norm(level) < 1e-6:
        level = np.array([1.0, 0.0, 0.0])
    level = level - (level @ tangent) * tangent
    return np.asarray(level / np.linalg.norm(level))
