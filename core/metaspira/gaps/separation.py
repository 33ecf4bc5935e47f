"""How far apart two convex hulls of points are at the least.

The least distance of hulls P and Q is the greatest over directions n of  min n·p − max n·q, so any
direction gives a bound from below that holds however it was found. Good ones come from the nearest point
to the origin of the hull of all p − q, by Gilbert, Johnson and Keerthi, IEEE J. Robotics Automat. 4 (1988)
193.
"""

from __future__ import annotations

import math

import numpy as np

from metaspira.numbers.compiled import compiled

_STEPS = 24
_SURE = 1e-9


@compiled("f8[:, ::1]", "i8", "f8[:, ::1]", "i8", "f8", "i8[::1]", "i8[::1]", "f8[::1]")
def separation(p, count_p, q, count_q, enough, pick_p, pick_q, share):  # type: ignore[no-untyped-def]
    """A distance that hulls of p (count_p, 3) and q (count_q, 3) keep for certain, no better than needed once
    it is `enough`; 0 where they meet. The nearest points found are the mixes of p[pick_p] and q[pick_q] by
    share (4,)."""
    vx = vy = vz = 0.0
    for i in range(count_p):
        vx, vy, vz = vx + p[i, 0], vy + p[i, 1], vz + p[i, 2]
    vx, vy, vz = vx / count_p, vy / count_p, vz / count_p
    wx = wy = wz = 0.0
    for i in range(count_q):
        wx, wy, wz = wx + q[i, 0], wy + q[i, 1], wz + q[i, 2]
    vx, vy, vz = vx - wx / count_q, vy - wy / count_q, vz - wz / count_q
    simplex, gram, trial = np.empty((4, 3)), np.empty((4, 4)), np.empty(4)
    size = 0
    best = 0.0
    share[:] = 0.0
    share[0] = 1.0
    pick_p[:] = 0
    pick_q[:] = 0
    for _ in range(_STEPS):
        length = math.sqrt(vx * vx + vy * vy + vz * vz)
        if length < 1e-14:
            return 0.0
        a = b = 0
        low, high = np.inf, -np.inf
        for i in range(count_p):
            d = vx * p[i, 0] + vy * p[i, 1] + vz * p[i, 2]
            if d < low:
                low, a = d, i
        for i in range(count_q):
            d = vx * q[i, 0] + vy * q[i, 1] + vz * q[i, 2]
            if d > high:
                high, b = d, i
        best = max(best, (low - high) / length)
        if size == 0:
            pick_p[0], pick_q[0] = a, b
        if best >= enough:
            return best
        if size > 0 and length - best <= _SURE * length:
            return best
        for k in range(size):
            if pick_p[k] == a and pick_q[k] == b:
                return best
        for c in range(3):
            simplex[size, c] = p[a, c] - q[b, c]
        pick_p[size], pick_q[size] = a, b
        size = _nearest(simplex, size + 1, share, pick_p, pick_q, gram, trial)
        if size == 4:
            return 0.0
        vx = vy = vz = 0.0
        for k in range(size):
            vx += share[k] * simplex[k, 0]
            vy += share[k] * simplex[k, 1]
            vz += share[k] * simplex[k, 2]
    return best


@compiled()
def _nearest(simplex, size, share, pick_p, pick_q, gram, trial):  # type: ignore[no-untyped-def]
    """The corners (moved to the front) between which the point of a simplex nearest to the origin lies, their
    number, and the point's shares of them; 4 where the origin is inside. The last corner is the newest, and
    one of them."""
    last = size - 1
    for i in range(size):
        gram[i, last] = (
            simplex[i, 0] * simplex[last, 0]
            + simplex[i, 1] * simplex[last, 1]
            + simplex[i, 2] * simplex[last, 2]
        )
        gram[last, i] = gram[i, last]
    found, mask = np.inf, 0
    for subset in range(1 << last):
        square = _foot(gram, last, subset, trial)
        if square < found:
            found, mask = square, subset
            share[:] = trial
    mask |= 1 << last
    count = 0
    for k in range(size):
        if mask >> k & 1:
            share[count] = share[k]
            pick_p[count], pick_q[count] = pick_p[k], pick_q[k]
            for c in range(3):
                simplex[count, c] = simplex[k, c]
            at = 0
            for i in range(k + 1):
                if mask >> i & 1:
                    gram[count, at] = gram[k, i]
                    gram[at, count] = gram[k, i]
                    at += 1
            count += 1
    for k in range(count, 4):
        share[k] = 0.0
    return count


@compiled()
def _foot(gram, base, subset, out):  # type: ignore[no-untyped-def]
    """The squared distance of the origin from its foot on the span of corner `base` and those of a subset,
    whose shares go to `out`; ∞ where the foot is not between them."""
    out[:] = 0.0
    one = two = three = -1
    for k in range(base):
        if subset >> k & 1:
            if one < 0:
                one = k
            elif two < 0:
                two = k
            else:
                three = k
    g = gram[base, base]
    if one < 0:
        out[base] = 1.0
        return g
    a = gram[one, one] - 2 * gram[one, base] + g
    r1 = g - gram[one, base]
    if two < 0:
        if a <= 0.0:
            return np.inf
        x = r1 / a
        if x < 0.0 or x > 1.0:
            return np.inf
        out[one], out[base] = x, 1.0 - x
        return max(g - r1 * x, 0.0)
    b = gram[one, two] - gram[one, base] - gram[two, base] + g
    d = gram[two, two] - 2 * gram[two, base] + g
    r2 = g - gram[two, base]
    if three < 0:
        det = a * d - b * b
        if det <= 1e-13 * a * d:
            return np.inf
        x, y = (r1 * d - r2 * b) / det, (r2 * a - r1 * b) / det
        if x < 0.0 or y < 0.0 or x + y > 1.0:
            return np.inf
        out[one], out[two], out[base] = x, y, 1.0 - x - y
        return max(g - r1 * x - r2 * y, 0.0)
    c = gram[one, three] - gram[one, base] - gram[three, base] + g
    e = gram[two, three] - gram[two, base] - gram[three, base] + g
    f = gram[three, three] - 2 * gram[three, base] + g
    r3 = g - gram[three, base]
    det = a * (d * f - e * e) - b * (b * f - e * c) + c * (b * e - d * c)
    if det <= 1e-13 * a * d * f:
        return np.inf
    x = (r1 * (d * f - e * e) - b * (r2 * f - e * r3) + c * (r2 * e - d * r3)) / det
    y = (a * (r2 * f - e * r3) - r1 * (b * f - e * c) + c * (b * r3 - r2 * c)) / det
    z = (a * (d * r3 - r2 * e) - b * (b * r3 - r2 * c) + r1 * (b * e - d * c)) / det
    if x < 0.0 or y < 0.0 or z < 0.0 or x + y + z > 1.0:
        return np.inf
    out[one], out[two], out[three], out[base] = x, y, z, 1.0 - x - y - z
    return max(g - r1 * x - r2 * y - r3 * z, 0.0)
