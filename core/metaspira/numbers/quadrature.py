"""The running integral of a smooth function, and its inverse.

    S(t) = ∫ₐᵗ f(τ) dτ

on pieces halved until f is, on each, its Legendre series through 12 Gauss–Legendre points to rounding: the
last coefficients no longer matter (adaptive quadrature: Davis and Rabinowitz, Methods of Numerical
Integration, 2nd ed., 1984, section 6.2). S and its inverse then need no further values of f.
"""

from __future__ import annotations

from collections.abc import Callable, Sequence

import numpy as np

from metaspira.numbers.compiled import compiled
from metaspira.numbers.jets import Array

_COUNT = 12
_NODES, _WEIGHTS = np.polynomial.legendre.leggauss(_COUNT)
_SERIES = np.linalg.inv(np.polynomial.legendre.legvander(_NODES, _COUNT - 1)).T
_N = np.arange(_COUNT)
_UP, _DOWN, _OVER = (2 * _N + 1) / (_N + 1), _N / (_N + 1), 1 / (2 * _N + 1)
_MAX_HALVINGS = 24
_MOST_PIECES = 400_000


class RunningIntegral:
    """S(t) on [start, end] of a vectorised function f: (n,) → (n,), smooth but at `breaks` inside.

    `tolerance` is the share of the greatest |f| that its series may leave out.
    """

    def __init__(
        self,
        f: Callable[[Array], Array],
        start: float,
        end: float,
        tolerance: float = 1e-13,
        breaks: Sequence[float] = (),
    ):
        edges = np.array([start, *breaks, end], dtype=float)
        sample = f(np.linspace(start, end, 33))
        self._constant = float(sample[0]) if np.ptp(sample) == 0 else None
        series = _series(f, edges[:-1], edges[1:])
        for _ in range(_MAX_HALVINGS):
            left_out = np.abs(series[:, -2:]).sum(axis=1) * np.diff(edges)
            scale = max(float(np.abs(series[:, 0]).max()), 1e-300) * (end - start)
            rough = left_out > tolerance * scale
            if not rough.any() or len(edges) > _MOST_PIECES:
                break
            middle = 0.5 * (edges[:-1] + edges[1:])[rough]
            low, high = edges[:-1][rough], edges[1:][rough]
            halves = _series(f, np.concatenate([low, middle]), np.concatenate([middle, high]))
            starts = np.concatenate([edges[:-1][~rough], low, middle])
            order = np.argsort(starts)
            series = np.concatenate([series[~rough], halves])[order]
            edges = np.sort(np.concatenate([edges, middle]))
        self._edges = edges
        self._series = series
        whole = np.diff(edges) * series[:, 0]
        self._sums = np.concatenate([[0.0], np.cumsum(whole)])

    @property
    def total(self) -> float:
        return float(self._sums[-1])

    def __call__(self, t: Array) -> Array:
        if self._constant is not None:
            return self._constant * (t - self._edges[0])
        t = np.asarray(t, dtype=float)
        return np.asarray(_sum_at(t, self._edges, self._sums, self._series))

    def inverse(self, s: Array) -> Array:
        """t where S(t) = s, for f > 0; Newton's method from the piecewise linear guess."""
        s = np.asarray(s, dtype=float)
        if self._constant is not None:
            return self._edges[0] + s / self._constant
        return np.asarray(_inverse(s, self._edges, self._sums, self._series))


def _series(f: Callable[[Array], Array], start: Array, end: Array) -> Array:
    """Legendre coefficients (pieces, 12) of f on pieces."""
    half = 0.5 * (end - start)
    t = 0.5 * (end + start)[:, None] + half[:, None] * _NODES
    return f(t.ravel()).reshape(t.shape) @ _SERIES


@compiled()
def _piece(x, c):  # type: ignore[no-untyped-def]
    """∫ from −1 to x of a Legendre series c (12,), and its value at x.

    ∫ P_n = (P_{n+1} − P_{n−1}) / (2n + 1).
    """
    before, here = 1.0, x
    value = c[0]
    total = c[0] * (x + 1.0)
    for n in range(1, len(c)):
        after = _UP[n] * x * here - _DOWN[n] * before
        value += c[n] * here
        total += c[n] * _OVER[n] * (after - before)
        before, here = here, after
    return total, value


@compiled("f8[::1]", "f8[::1]", "f8[::1]", "f8[:, ::1]")
def _sum_at(t, edges, sums, series):  # type: ignore[no-untyped-def]
    out = np.empty(len(t))
    last = len(edges) - 2
    for i in range(len(t)):
        k = min(max(np.searchsorted(edges, t[i], "right") - 1, 0), last)
        half = 0.5 * (edges[k + 1] - edges[k])
        x = (t[i] - edges[k]) / half - 1.0
        total, _ = _piece(x, series[k])
        out[i] = sums[k] + half * total
    return out


@compiled("f8[::1]", "f8[::1]", "f8[::1]", "f8[:, ::1]")
def _inverse(s, edges, sums, series):  # type: ignore[no-untyped-def]
    out = np.empty(len(s))
    last = len(edges) - 2
    k = 0
    for i in range(len(s)):
        if not (sums[k] <= s[i] and (k == last or s[i] < sums[k + 1])):
            k = min(max(np.searchsorted(sums, s[i], "right") - 1, 0), last)
        half = 0.5 * (edges[k + 1] - edges[k])
        wanted = (s[i] - sums[k]) / half
        whole = (sums[k + 1] - sums[k]) / half
        x = 2.0 * wanted / whole - 1.0
        for _ in range(20):
            total, value = _piece(x, series[k])
            step = (total - wanted) / value
            x = min(max(x - step, -1.0), 1.0)
            if abs(step) < 1e-9:
                break
        out[i] = edges[k] + half * (x + 1.0)
    return out


def gauss_points(start: float, end: float, pieces: int) -> tuple[Array, Array]:
    """Nodes and weights (pieces · 12,) of composite Gauss–Legendre quadrature on [start, end]."""
    edges = np.linspace(start, end, pieces + 1)
    half = 0.5 * np.diff(edges)
    nodes = (0.5 * (edges[1:] + edges[:-1])[:, None] + half[:, None] * _NODES).ravel()
    return nodes, (half[:, None] * _WEIGHTS).ravel()
