"""The running integral of a smooth positive or signed function, and its inverse.

    S(t) = ∫ₐᵗ f(τ) dτ

on pieces halved until 12-point Gauss–Legendre agrees with two halves of itself (adaptive
quadrature: Davis and Rabinowitz, Methods of Numerical Integration, 2nd ed., 1984, section 6.2).
"""

from __future__ import annotations

from collections.abc import Callable

import numpy as np
from numpy.typing import NDArray

Array = NDArray[np.float64]

_NODES, _WEIGHTS = np.polynomial.legendre.leggauss(12)
_MAX_HALVINGS = 40


class RunningIntegral:
    """S(t) on [start, end] of a vectorised function f: (n,) → (n,)."""

    def __init__(self, f: Callable[[Array], Array], start: float, end: float, tolerance: float = 1e-14):
        self._f = f
        edges = np.array([start, end], dtype=float)
        sample = f(np.linspace(start, end, 33))
        self._constant = float(sample[0]) if np.ptp(sample) == 0 else None
        whole = self._over(edges[:-1], edges[1:])
        for _ in range(_MAX_HALVINGS):
            middle = 0.5 * (edges[:-1] + edges[1:])
            left, right = self._over(edges[:-1], middle), self._over(middle, edges[1:])
            scale = max(np.abs(whole).sum(), 1e-300)
            rough = np.abs(left + right - whole) > tolerance * scale
            if not rough.any():
                break
            edges = np.sort(np.concatenate([edges, middle[rough]]))
            whole = self._over(edges[:-1], edges[1:])
        self._edges = edges
        self._sums = np.concatenate([[0.0], np.cumsum(whole)])

    @property
    def total(self) -> float:
        return float(self._sums[-1])

    def __call__(self, t: Array) -> Array:
        if self._constant is not None:
            return self._constant * (t - self._edges[0])
        piece = np.clip(np.searchsorted(self._edges, t, "right") - 1, 0, len(self._edges) - 2)
        return self._sums[piece] + self._over(self._edges[piece], t)

    def inverse(self, s: Array) -> Array:
        """t where S(t) = s, for f > 0; Newton's method from the piecewise linear guess."""
        if self._constant is not None:
            return self._edges[0] + s / self._constant
        t = np.interp(s, self._sums, self._edges)
        tolerance = 4e-16 * max(self.total, 1e-300)
        for _ in range(30):
            error = self(t) - s
            if np.all(np.abs(error) <= tolerance):
                break
            step = error / self._f(t)
            t = np.clip(t - step, self._edges[0], self._edges[-1])
            if np.all(np.abs(step) <= 4e-16 * np.maximum(np.abs(t), 1e-3)):
                break
        return t

    def _over(self, start: Array, end: Array) -> Array:
        half = 0.5 * (end - start)
        t = 0.5 * (end + start)[..., None] + half[..., None] * _NODES
        return half * (self._f(t.ravel()).reshape(t.shape) @ _WEIGHTS)


def gauss_points(start: float, end: float, pieces: int) -> tuple[Array, Array]:
    """Nodes and weights (pieces · 12,) of composite Gauss–Legendre quadrature on [start, end]."""
    edges = np.linspace(start, end, pieces + 1)
    half = 0.5 * np.diff(edges)
    nodes = (0.5 * (edges[1:] + edges[:-1])[:, None] + half[:, None] * _NODES).ravel()
    return nodes, (half[:, None] * _WEIGHTS).ravel()
