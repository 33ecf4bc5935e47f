"""Parts of pieces: their control points, and what they are at single places.

A node of a piece is the share [a, b] of its wire and of its section the edges [e, f), or, of one edge, the
share [c, d].
"""

from __future__ import annotations

import math

import numpy as np

from metaspira.gaps.hulls import CONVEX, FACES, HIGH, KIND, LEAVES, LOW, SWEPT, TUBE
from metaspira.numbers.compiled import compiled


@compiled()
def restricted(rows, last, low, high):  # type: ignore[no-untyped-def]
    """Bézier coefficients (last + 1, k) made those of their share [low, high] (de Casteljau)."""
    width = rows.shape[1]
    if low > 0.0:
        for k in range(1, last + 1):
            for r in range(last + 1 - k):
                for c in range(width):
                    rows[r, c] += low * (rows[r + 1, c] - rows[r, c])
    if high < 1.0:
        t = (high - low) / (1.0 - low)
        for k in range(1, last + 1):
            for r in range(last, k - 1, -1):
                for c in range(width):
                    rows[r, c] = rows[r - 1, c] + t * (rows[r, c] - rows[r - 1, c])


@compiled()
def pieces_of(hulls, node):  # type: ignore[no-untyped-def]
    """The first and the last piece of a node of the tree."""
    leaves = int(hulls.facts[LEAVES])
    low = high = node
    while low < leaves:
        low, high = 2 * low, 2 * high + 1
    return low - leaves, high - leaves


@compiled()
def columns_of(hulls, e, f):  # type: ignore[no-untyped-def]
    """How many control points around a node of edges [e, f) has."""
    if hulls.facts[KIND] != SWEPT:
        return 1
    if e == 0 and f == len(hulls.edges) - 1:
        return len(hulls.outer)
    return int(hulls.edges[f, 0] - hulls.edges[e, 0])


@compiled()
def control_points(hulls, i, node, span, rows, edge, out):  # type: ignore[no-untyped-def]
    """The control points of a node of piece i, row by row along the wire, to `out`; their number is
    returned."""
    e, f = node[0], node[1]
    if hulls.facts[KIND] == FACES:
        for r in range(hulls.frame.shape[1]):
            for c in range(3):
                out[r, c] = hulls.frame[i, r, c]
        return hulls.frame.shape[1]
    width = hulls.frame.shape[2]
    for r in range(6):
        for c in range(width):
            rows[r, c] = hulls.frame[i, r, c]
    restricted(rows[:, :width], 5, span[0], span[1])
    if hulls.facts[KIND] == TUBE:
        for r in range(6):
            for c in range(3):
                out[r, c] = rows[r, c]
        return 6
    m = hulls.coef.shape[1] - 1
    start, count = int(hulls.edges[e, 0]), columns_of(hulls, e, f)
    whole = e == 0 and f == len(hulls.edges) - 1
    cut = f == e + 1 and (span[2] > 0.0 or span[3] < 1.0)
    if cut:
        for j in range(count):
            w = hulls.coef[start + j, m]
            edge[j, m] = w
            for k in range(m):
                edge[j, k] = w * hulls.coef[start + j, k]
        restricted(edge[:count, : m + 1], count - 1, span[2], span[3])
        for j in range(count):
            for k in range(m):
                edge[j, k] /= edge[j, m]
    else:
        for j in range(count):
            for k in range(m):
                edge[j, k] = hulls.outer[j, k] if whole else hulls.coef[start + j, k]
    for r in range(6):
        for j in range(count):
            for c in range(3):
                x = rows[r, c]
                for k in range(m):
                    x += edge[j, k] * rows[r, 3 + 3 * k + c]
                out[r * count + j, c] = x
    return 6 * count


@compiled()
def beyond(hulls, i, points, count, low, high):  # type: ignore[no-untyped-def]
    """The plane beyond which some points of piece i, at its shares from low to high, all lie; −1 where there
    is none."""
    size = hulls.pieces[i, HIGH] - hulls.pieces[i, LOW]
    first, last = hulls.pieces[i, LOW] + low * size, hulls.pieces[i, LOW] + high * size
    for k in range(len(hulls.planes)):
        if last < hulls.planes[k, 2] or first > hulls.planes[k, 3]:
            continue
        far = True
        for r in range(count):
            far = far and hulls.planes[k, 0] * (points[r, 2] - hulls.planes[k, 1]) < 0.0
        if far:
            return k
    return -1


@compiled()
def below_ground(hulls, i, points, count):  # type: ignore[no-untyped-def]
    """How far all of some points lie beyond a plane that cuts piece i; 0 where they do not."""
    far = 0.0
    for k in range(len(hulls.planes)):
        if hulls.pieces[i, HIGH] < hulls.planes[k, 2] or hulls.pieces[i, LOW] > hulls.planes[k, 3]:
            continue
        least = np.inf
        for r in range(count):
            least = min(least, hulls.planes[k, 0] * (hulls.planes[k, 1] - points[r, 2]))
        far = max(far, least)
    return far


@compiled()
def ground_points(hulls, i, node, span, rows, edge, out):  # type: ignore[no-untyped-def]
    """As control_points; those of what is ground away lie on the plane."""
    count = control_points(hulls, i, node, span, rows, edge, out)
    k = beyond(hulls, i, out, count, span[0], span[1])
    if k >= 0:
        out[:count, 2] = hulls.planes[k, 1]
    return count


@compiled()
def curved(points, count, columns):  # type: ignore[no-untyped-def]
    """How far control points are from running straight along the wire."""
    rows = 6
    if count != rows * columns:
        return 0.0
    worst = 0.0
    for j in range(columns):
        for c in range(3):
            low = points[j, c]
            step = (points[(rows - 1) * columns + j, c] - low) / (rows - 1)
            for r in range(1, rows - 1):
                worst = max(worst, abs(points[r * columns + j, c] - low - r * step))
    return worst


@compiled()
def spread(hulls, i, node, span, points, columns):  # type: ignore[no-untyped-def]
    """How far a node's section is from a straight line or, of a convex one, from itself."""
    e, f = node[0], node[1]
    if hulls.facts[KIND] != SWEPT or (hulls.facts[CONVEX] > 0 and e == 0 and f == len(hulls.edges) - 1):
        return 0.0
    if f > e + 1:
        widest = 0.0
        for c in range(3):
            low, high = np.inf, -np.inf
            for j in range(columns):
                low, high = min(low, points[j, c]), max(high, points[j, c])
            widest = max(widest, high - low)
        return widest
    size = 0.0
    for k in range(3, hulls.frame.shape[2], 3):
        size = max(
            size,
            math.sqrt(
                hulls.frame[i, 0, k] ** 2 + hulls.frame[i, 0, k + 1] ** 2 + hulls.frame[i, 0, k + 2] ** 2
            ),
        )
    return hulls.edges[e, 1] * size * (span[3] - span[2]) ** 2


@compiled()
def frame_at(hulls, i, s, at):  # type: ignore[no-untyped-def]
    """o and the axes of piece i, and their first and second derivatives, at its share s, to at (3, …)."""
    width = hulls.frame.shape[2]
    r = 1.0 - s
    for c in range(width):
        p0, p1, p2 = hulls.frame[i, 0, c], hulls.frame[i, 1, c], hulls.frame[i, 2, c]
        p3, p4, p5 = hulls.frame[i, 3, c], hulls.frame[i, 4, c], hulls.frame[i, 5, c]
        p0, p1, p2, p3, p4 = (
            r * p0 + s * p1,
            r * p1 + s * p2,
            r * p2 + s * p3,
            r * p3 + s * p4,
            r * p4 + s * p5,
        )
        p0, p1, p2, p3 = r * p0 + s * p1, r * p1 + s * p2, r * p2 + s * p3, r * p3 + s * p4
        p0, p1, p2 = r * p0 + s * p1, r * p1 + s * p2, r * p2 + s * p3
        at[2, c] = 20.0 * (p2 - 2.0 * p1 + p0)
        p0, p1 = r * p0 + s * p1, r * p1 + s * p2
        at[1, c] = 5.0 * (p1 - p0)
        at[0, c] = r * p0 + s * p1


@compiled()
def section_at(hulls, e, t, edge, uv):  # type: ignore[no-untyped-def]
    """The coefficients of the point at share t of edge e, and their derivative, to uv (2, …)."""
    m = hulls.coef.shape[1] - 1
    start = int(hulls.edges[e, 0])
    count = int(hulls.edges[e + 1, 0]) - start
    for j in range(count):
        w = hulls.coef[start + j, m]
        edge[j, m] = w
        for k in range(m):
            edge[j, k] = w * hulls.coef[start + j, k]
    last = count - 1
    for level in range(last, 1, -1):
        for j in range(level):
            for k in range(m + 1):
                edge[j, k] += t * (edge[j + 1, k] - edge[j, k])
    w = edge[0, m] + t * (edge[1, m] - edge[0, m])
    d_w = last * (edge[1, m] - edge[0, m])
    for k in range(m):
        x = (edge[0, k] + t * (edge[1, k] - edge[0, k])) / w
        uv[0, k] = x
        uv[1, k] = (last * (edge[1, k] - edge[0, k]) - x * d_w) / w


@compiled()
def point_of(at, uv, m, k, out):  # type: ignore[no-untyped-def]
    """o + Σ uvᵢ Eᵢ over m axes, of derivative k along the wire, to out (3,)."""
    for c in range(3):
        x = at[k, c]
        for j in range(m):
            x += uv[0, j] * at[k, 3 + 3 * j + c]
        out[c] = x
