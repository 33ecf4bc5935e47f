"""A finite-element model of wire: straight Euler–Bernoulli beams in space along a centre line, with stretch,
bending and torsion (twelve degrees of freedom an element; Przemieniecki, Theory of Matrix Structural
Analysis, 1968).

It stands beside the closed sums to check them. They take the wire's torsion alone, on a coil of no slope; the
beams also bend and stretch, follow the true slope of the wire, and stand between ends that do not turn. For
springs of usual slope the two are a percent or two apart, more where there are few turns.
"""

from __future__ import annotations

from dataclasses import dataclass

import numpy as np
import scipy

from metaspira.numbers.jets import Array
from metaspira.springs.shape import WireShape

_FREE = 6


@dataclass(frozen=True)
class Beams:
    """Beams from node to node (n, 3), mm, of wire of a shape whose height is along z, moduli E and G in
    MPa."""

    nodes: Array
    shape: WireShape
    E: float
    G: float

    def solve(self, held: dict[int, float], loads: dict[int, float]) -> tuple[Array, Array]:
        """Movements (n, 6) of the nodes (mm, and radians about x, y and z) and the forces (n, 6) that hold or
        load them (N, N mm). `held` gives movements and `loads` forces by degree of freedom, 6 · node + axis.
        """
        size = _FREE * len(self.nodes)
        stiffness = self.stiffness()
        moved = np.zeros(size)
        fixed = np.array(sorted(held), dtype=int)
        moved[fixed] = [held[int(k)] for k in fixed]
        force = np.zeros(size)
        for k, value in loads.items():
            force[k] = value
        free = np.setdiff1d(np.arange(size), fixed)
        right = force[free] - stiffness[free][:, fixed] @ moved[fixed]
        moved[free] = scipy.sparse.linalg.splu(stiffness[free][:, free].tocsc()).solve(right)
        return moved.reshape(-1, _FREE), (stiffness @ moved).reshape(-1, _FREE)

    def torsion(self, moved: Array) -> Array:
        """Shear stress of torsion, MPa (n − 1,), in each beam at movements (n, 6)."""
        along, length = self._along()
        twist = np.einsum("ij,ij->i", moved[1:, 3:] - moved[:-1, 3:], along) / length
        return np.abs(twist) * self.G * self.shape.stiffness / self.shape.modulus

    def _along(self) -> tuple[Array, Array]:
        steps = np.diff(self.nodes, axis=0)
        length = np.linalg.norm(steps, axis=1)
        return steps / length[:, None], length

    def stiffness(self) -> scipy.sparse.coo_matrix:
        along, length = self._along()
        aside = np.where(np.abs(along[:, 2:]) < 0.9, [0.0, 0.0, 1.0], [1.0, 0.0, 0.0])
        second = np.cross(aside, along)
        second /= np.linalg.norm(second, axis=1, keepdims=True)
        axes = np.stack([along, second, np.cross(along, second)], axis=1)
        count = len(length)
        turn = np.zeros((count, 12, 12))
        for k in range(4):
            turn[:, 3 * k : 3 * k + 3, 3 * k : 3 * k + 3] = axes
        whole = np.einsum("nji,njk,nkl->nil", turn, self._local(length), turn)
        places = _FREE * np.arange(count)[:, None] + np.arange(12)
        rows = np.repeat(places, 12, axis=1).ravel()
        columns = np.tile(places, (1, 12)).ravel()
        size = _FREE * len(self.nodes)
        return scipy.sparse.coo_matrix((whole.ravel(), (rows, columns)), shape=(size, size)).tocsr()

    def _local(self, length: Array) -> Array:
        shape = self.shape
        k = np.zeros((len(length), 12, 12))

        def pair(i: int, j: int, value: Array) -> None:
            k[:, i, j] = value
            k[:, j, i] = value

        for i, stiff in ((0, self.E * shape.area), (3, self.G * shape.stiffness)):
            pair(i, i, stiff / length)
            pair(i + 6, i + 6, stiff / length)
            pair(i, i + 6, -stiff / length)
        aside, along = (self.E * inertia for inertia in shape.inertia)
        for shift, turn, sign, bend in ((1, 5, 1.0, aside), (2, 4, -1.0, along)):
            push, lever, hold = 12 * bend / length**3, sign * 6 * bend / length**2, bend / length
            for i, j, value in (
                (shift, shift, push),
                (shift + 6, shift + 6, push),
                (shift, shift + 6, -push),
                (shift, turn, lever),
                (shift, turn + 6, lever),
                (shift + 6, turn, -lever),
                (shift + 6, turn + 6, -lever),
                (turn, turn, 4 * hold),
                (turn + 6, turn + 6, 4 * hold),
                (turn, turn + 6, 2 * hold),
            ):
                pair(i, j, value)
        return k
