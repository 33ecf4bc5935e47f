"""Taylor series at many places at once: of piecewise polynomials, and of curves around the z axis."""

from __future__ import annotations

import math

import numpy as np

from metaspira.numbers.compiled import compiled


@compiled("f8[:, ::1]", "f8[::1]", "f8[::1]", "i8")
def of_pieces(c, x, t, order):  # type: ignore[no-untyped-def]
    """Taylor coefficients (order + 1, n) at t (n,) of a piecewise polynomial: c (degree + 1, m), highest
    power first, of t − x[k] between x[k] and x[k + 1]; it goes on as its outer pieces do."""
    out = np.zeros((order + 1, len(t)))
    degree = len(c) - 1
    part = np.empty(degree + 1)
    for i in range(len(t)):
        k = min(max(np.searchsorted(x, t[i], "right") - 1, 0), len(x) - 2)
        u = t[i] - x[k]
        part[:] = c[:, k]
        for n in range(min(order, degree) + 1):
            for j in range(1, degree + 1 - n):
                part[j] += part[j - 1] * u
            out[n, i] = part[degree - n]
    return out


@compiled("f8[:, ::1]", "f8[:, ::1]", "f8[:, ::1]")
def around_z(radius, angle, height):  # type: ignore[no-untyped-def]
    """Derivatives (order + 1, n, 3) of (r cos φ, r sin φ, z), of the Taylor coefficients (order + 1, n) of r,
    φ and z.

    Of s = sin φ and c = cos φ:  k sₖ = Σ j φⱼ cₖ₋ⱼ,  k cₖ = −Σ j φⱼ sₖ₋ⱼ,  j from 1 to k.
    """
    count, n = radius.shape
    out = np.zeros((count, n, 3))
    sine, cosine = np.empty(count), np.empty(count)
    for i in range(n):
        sine[0], cosine[0] = math.sin(angle[0, i]), math.cos(angle[0, i])
        factorial = 1.0
        for k in range(count):
            if k > 0:
                factorial *= k
                s = c = 0.0
                for j in range(1, k + 1):
                    s += j * angle[j, i] * cosine[k - j]
                    c -= j * angle[j, i] * sine[k - j]
                sine[k], cosine[k] = s / k, c / k
            x = y = 0.0
            for j in range(k + 1):
                x += radius[j, i] * cosine[k - j]
                y += radius[j, i] * sine[k - j]
            out[k, i, 0], out[k, i, 1], out[k, i, 2] = factorial * x, factorial * y, factorial * height[k, i]
    return out
