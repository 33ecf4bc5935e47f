"""Whether a place in space is inside a piece of a body, and how deep.

The section's plane at s holds a place P where  (P − o(s)) · n(s) = 0;  P is inside where its coordinates
there lie within the outline and in no hole. So inside is decided on the section itself, whatever else the
wire does.
"""

from __future__ import annotations

import math

import numpy as np

from metaspira.gaps.hulls import HIGH, KIND, LOW, RADIUS, SOLID, SWEPT, TUBE
from metaspira.gaps.nodes import frame_at
from metaspira.numbers.compiled import compiled

_ITERATIONS, _LEVEL = 30, 1e-12


@compiled()
def depth_in(hulls, i, point, slack, at):  # type: ignore[no-untyped-def]
    """How deep, mm, a place is inside piece i, and its share of the piece; −∞ where no section of the piece,
    `slack` longer at both ends, has it in its plane. Negative outside, by the distance in the section."""
    if hulls.facts[KIND] == TUBE:
        return _in_tube(hulls, i, point, at)
    if hulls.facts[KIND] != SWEPT or hulls.facts[SOLID] == 0:
        return -np.inf, 0.0
    low, high = -slack, 1.0 + slack
    h0 = _height(hulls, i, low, point, at)
    h1 = _height(hulls, i, high, point, at)
    if h0 * h1 > 0.0:
        return -np.inf, 0.0
    s, enough = 0.5, _LEVEL * (abs(h0) + abs(h1))
    for _ in range(_ITERATIONS):
        s = low + (high - low) * (h0 / (h0 - h1) if h0 != h1 else 0.5)
        s = min(max(s, low + 0.05 * (high - low)), high - 0.05 * (high - low))
        h = _height(hulls, i, s, point, at)
        if h * h0 > 0.0:
            low, h0 = s, h
        else:
            high, h1 = s, h
        if high - low < 1e-13 or abs(h) <= enough:
            break
    u, v = _in_plane(at, hulls.coef.shape[1] - 1, point)
    return -_outside(hulls, at, u, v), s


@compiled()
def above_ground(hulls, i, z, share):  # type: ignore[no-untyped-def]
    """How far a place at height z that is in piece i, at a share of it, lies from the faces that grinding
    left; negative in what is ground away."""
    place = hulls.pieces[i, LOW] + share * (hulls.pieces[i, HIGH] - hulls.pieces[i, LOW])
    above = np.inf
    for k in range(len(hulls.planes)):
        if hulls.planes[k, 2] <= place <= hulls.planes[k, 3]:
            above = min(above, hulls.planes[k, 0] * (z - hulls.planes[k, 1]))
    return above


@compiled()
def _in_tube(hulls, i, point, at):  # type: ignore[no-untyped-def]
    s, low, high = 0.5, 0.0, 1.0
    for _ in range(12):
        frame_at(hulls, i, s, at)
        g = curve = 0.0
        for c in range(3):
            d = at[0, c] - point[c]
            g += d * at[1, c]
            curve += at[1, c] * at[1, c] + d * at[2, c]
        if curve <= 0.0:
            break
        new = min(max(s - g / curve, low), high)
        if abs(new - s) < 1e-14:
            break
        s = new
    frame_at(hulls, i, s, at)
    square = 0.0
    for c in range(3):
        square += (at[0, c] - point[c]) ** 2
    return hulls.facts[RADIUS] - math.sqrt(square), s


@compiled()
def _height(hulls, i, s, point, at):  # type: ignore[no-untyped-def]
    """Height of a place over the section's plane at share s, times the size of the axes."""
    frame_at(hulls, i, s, at)
    m = hulls.coef.shape[1] - 1
    ax = ay = az = bx = by = bz = 0.0
    for k in range(0, m, 2):
        ax, ay, az = ax + at[0, 3 + 3 * k], ay + at[0, 4 + 3 * k], az + at[0, 5 + 3 * k]
        bx, by, bz = bx + at[0, 6 + 3 * k], by + at[0, 7 + 3 * k], bz + at[0, 8 + 3 * k]
    return (
        (point[0] - at[0, 0]) * (ay * bz - az * by)
        + (point[1] - at[0, 1]) * (az * bx - ax * bz)
        + (point[2] - at[0, 2]) * (ax * by - ay * bx)
    )


@compiled()
def _in_plane(at, m, point):  # type: ignore[no-untyped-def]
    """Coordinates of a place by the section's axes, which need be neither unit nor square."""
    aa = ab = bb = pa = pb = 0.0
    for c in range(3):
        a = b = 0.0
        for k in range(0, m, 2):
            a += at[0, 3 + 3 * k + c]
            b += at[0, 6 + 3 * k + c]
        p = point[c] - at[0, c]
        aa, ab, bb, pa, pb = aa + a * a, ab + a * b, bb + b * b, pa + p * a, pb + p * b
    det = aa * bb - ab * ab
    if det <= 0.0:
        return np.inf, np.inf
    return (bb * pa - ab * pb) / det, (aa * pb - ab * pa) / det


@compiled()
def _outside(hulls, at, u, v):  # type: ignore[no-untyped-def]
    """Signed distance, mm, to the section's outline at hand, negative in its material."""
    m = hulls.coef.shape[1] - 1
    ax = ay = az = bx = by = bz = 0.0
    for k in range(0, m, 2):
        ax, ay, az = ax + at[0, 3 + 3 * k], ay + at[0, 4 + 3 * k], az + at[0, 5 + 3 * k]
        bx, by, bz = bx + at[0, 6 + 3 * k], by + at[0, 7 + 3 * k], bz + at[0, 8 + 3 * k]
    a2, b2 = ax * ax + ay * ay + az * az, bx * bx + by * by + bz * bz
    ab = ax * bx + ay * by + az * bz
    best = np.inf
    inside = False
    count = len(hulls.polygon)
    start = 0
    while start < count:
        end = start + 1
        while end < count and hulls.polygon[end, m] == hulls.polygon[start, m]:
            end += 1
        px, py = _corner(hulls, at, end - 1, ax, ay, az, a2)
        for k in range(start, end):
            qx, qy = _corner(hulls, at, k, ax, ay, az, a2)
            du, dv, eu, ev = qx - px, qy - py, u - px, v - py
            square = a2 * du * du + 2 * ab * du * dv + b2 * dv * dv
            w = 0.0
            if square > 0.0:
                w = min(1.0, max(0.0, (a2 * du * eu + ab * (du * ev + dv * eu) + b2 * dv * ev) / square))
            fu, fv = eu - w * du, ev - w * dv
            best = min(best, a2 * fu * fu + 2 * ab * fu * fv + b2 * fv * fv)
            if (py > v) != (qy > v) and u < px + (v - py) / (qy - py) * du:
                inside = not inside
            px, py = qx, qy
        start = end
    return -math.sqrt(best) if inside else math.sqrt(best)


@compiled()
def _corner(hulls, at, k, ax, ay, az, a2):  # type: ignore[no-untyped-def]
    """A corner of the polygon in the section's own coordinates; of a blend, mixed by the outlines' shares
    there."""
    m = hulls.coef.shape[1] - 1
    if m == 2:
        return hulls.polygon[k, 0], hulls.polygon[k, 1]
    u = v = 0.0
    for j in range(0, m, 2):
        share = (at[0, 3 + 3 * j] * ax + at[0, 4 + 3 * j] * ay + at[0, 5 + 3 * j] * az) / a2
        u += share * hulls.polygon[k, j]
        v += share * hulls.polygon[k, j + 1]
    return u, v
