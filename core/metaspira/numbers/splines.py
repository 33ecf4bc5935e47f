"""Smooth curves through points.

The interpolating spline of degree 5 with the least ∫|x‴|² (natural at open ends), over the centripetal
parameter t_{i+1} − t_i = |p_{i+1} − p_i|^½ (Lee, Computer-Aided Design 21 (1989) 363).
"""

from __future__ import annotations

from dataclasses import dataclass

import numpy as np
import scipy

from metaspira.numbers.jets import Array

DEGREE = 5
_LAPS = 5


@dataclass(frozen=True, eq=False)
class SplineCurve:
    """A B-spline in space or in a plane; `spline` gives (n, 3)."""

    spline: scipy.interpolate.BSpline
    start: float
    end: float
    breaks: tuple[float, ...] = ()

    def derivatives(self, t: Array, order: int) -> tuple[Array, ...]:
        return tuple(np.asarray(self.spline(t, nu=k)) for k in range(order + 1))

    def speed(self, t: Array) -> Array:
        return np.linalg.norm(self.spline(t, nu=1), axis=1)


def spline_through(points: Array, closed: bool) -> SplineCurve:
    """The curve of the module's head through points (n, 3), n ≥ 2 (closed: n ≥ 3), no two in a row alike."""
    ring = np.concatenate([points, points[:1]]) if closed else points
    t = np.concatenate([[0.0], np.cumsum(np.sqrt(np.linalg.norm(np.diff(ring, axis=0), axis=1)))])
    if not closed:
        if len(points) <= 3:
            spline = scipy.interpolate.make_interp_spline(t, points, k=len(points) - 1)
        else:
            natural = [(order, np.zeros(3)) for order in (3, 4)]
            spline = scipy.interpolate.make_interp_spline(t, points, k=DEGREE, bc_type=(natural, natural))
        return SplineCurve(spline, 0.0, float(t[-1]))
    laps = 1 if len(ring) > DEGREE else _LAPS
    around = np.concatenate([*([points] * laps), points[:1]])
    times = np.concatenate([*(t[:-1] + lap * t[-1] for lap in range(laps)), [laps * t[-1]]])
    spline = scipy.interpolate.make_interp_spline(times, around, k=DEGREE, bc_type="periodic")
    lap = laps // 2
    return SplineCurve(spline, float(lap * t[-1]), float((lap + 1) * t[-1]))
