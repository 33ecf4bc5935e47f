"""How far a surface reaches from the z axis and along it, by branch and bound.

Along a piece the control points are polynomials X_j, and a place of it is a mix Σ λ_j X_j. So  r² = Σ λ_j
λ_k X_j·X_k  (in x and y) lies between the least and the greatest Bézier coefficient of the products
X_j·X_k; of the greatest, those with j = k are enough, since r² is convex. On a helix these are all but the
value itself.
"""

from __future__ import annotations

import math

import numpy as np

from metaspira.gaps.hulls import BOX, CARRIED, FACES, HULLS, KIND, LEAVES, MARGIN, RADIUS, SWEPT, Hulls
from metaspira.gaps.nodes import (
    beyond,
    columns_of,
    control_points,
    curved,
    frame_at,
    pieces_of,
    point_of,
    section_at,
    spread,
)
from metaspira.gaps.screws import FIRST, LAST, around_z
from metaspira.numbers.compiled import compiled
from metaspira.numbers.jets import Array

DOWN, UP, OUT, IN = range(4)
_STACK = 400
_LEAST_NODES, _NODES_A_PIECE = 20_000, 60
_SHARP = 1e-4
_SHARP_MOST = 400
_PRODUCTS = 10
_CHOOSE = np.array([1.0, 5.0, 10.0, 10.0, 5.0, 1.0])
_CHOOSE_TEN = np.array([1.0, 10.0, 45.0, 120.0, 210.0, 252.0, 210.0, 120.0, 45.0, 10.0, 1.0])


def reaches(hulls: Hulls, best: Array, width: float) -> tuple[Array, Array]:
    """−(least z), greatest z, greatest r and −(least r) of a surface, each at an actual place, and bounds
    that none exceeds, by at most about `width` mm; those in `best` (4,) stand where they are greater. What is
    ground away is left out. Of end faces only the least r is asked: all else is greatest on their outline; of
    a run that a screw carries around the z axis, its first and last piece."""
    value, bound = best.copy(), best.copy()
    if hulls.facts[KIND] == FACES:
        value[IN] = bound[IN] = max(best[IN], -_from_axis(hulls.frame[..., :2]))
        return value, bound
    width = max(width, 3 * float(hulls.facts[MARGIN]))
    far = float(np.abs(hulls.tree[1, BOX : BOX + 6]).max())
    told = not len(hulls.planes) and around_z(hulls.run, far, CARRIED * float(hulls.facts[MARGIN]))
    for which in range(4):
        if which in (DOWN, UP) and np.any(hulls.planes[:, 0] == (1.0 if which == DOWN else -1.0)):
            continue
        value[which], bound[which], at = _greatest(hulls, which, best[which], width, 1, told)
        if at > 1:
            value[which] = _greatest(hulls, which, value[which], _SHARP * width, at, told)[0]
            bound[which] = max(bound[which], value[which])
    return value, bound


def _from_axis(corners: Array) -> float:
    """Least distance of convex polygons (n, k, 2) from the origin, 0 where that is inside one."""
    to = np.roll(corners, -1, axis=1) - corners
    across = corners[..., 0] * to[..., 1] - corners[..., 1] * to[..., 0]
    around = np.all(across >= 0, axis=1) | np.all(across <= 0, axis=1)
    if np.any(around & np.any(across != 0, axis=1)):
        return 0.0
    share = -(corners * to).sum(axis=2) / np.maximum((to * to).sum(axis=2), 1e-300)
    nearest = corners + np.clip(share, 0.0, 1.0)[..., None] * to
    return float(np.linalg.norm(nearest, axis=2).min())


@compiled()
def _figure(which, x, y, z):  # type: ignore[no-untyped-def]
    if which == DOWN:
        return -z
    if which == UP:
        return z
    r = math.sqrt(x * x + y * y)
    return r if which == OUT else -r


@compiled()
def _box_bound(node, which):  # type: ignore[no-untyped-def]
    if which == DOWN:
        return -node[BOX + 2]
    if which == UP:
        return node[BOX + 5]
    square = 0.0
    for c in range(2):
        low, high = node[BOX + c], node[BOX + 3 + c]
        if which == OUT:
            square += max(low * low, high * high)
        else:
            square += max(low, -high, 0.0) ** 2
    return math.sqrt(square) if which == OUT else -math.sqrt(square)


@compiled()
def _bound(points, count, columns, radius, which, faces):  # type: ignore[no-untyped-def]
    """A value that no place of a node exceeds; and one that none of its control points' own curves
    exceeds."""
    if which in (DOWN, UP) or faces or count != 6 * columns:
        most = -np.inf
        nx = ny = 0.0
        for k in range(count):
            most = max(most, _figure(which, points[k, 0], points[k, 1], points[k, 2]))
            nx, ny = nx + points[k, 0], ny + points[k, 1]
        if which == IN:
            size, least = math.sqrt(nx * nx + ny * ny), np.inf
            for k in range(count):
                least = min(least, (nx * points[k, 0] + ny * points[k, 1]) / max(size, 1e-300))
            most = -max(least, 0.0)
        return most + radius, most + radius
    if which == OUT:
        most = 0.0
        for j in range(columns):
            most = max(most, _product(points, columns, j, j, True))
        return math.sqrt(most) + radius, math.sqrt(most) + radius
    own = np.inf
    for j in range(columns):
        own = min(own, _product(points, columns, j, j, False))
    square = own
    if columns <= _PRODUCTS:
        for j in range(columns):
            for k in range(j):
                square = min(square, _product(points, columns, j, k, False))
    else:
        nx = ny = 0.0
        for k in range(count):
            nx, ny = nx + points[k, 0], ny + points[k, 1]
        size, least = math.sqrt(nx * nx + ny * ny), np.inf
        for k in range(count):
            least = min(least, (nx * points[k, 0] + ny * points[k, 1]) / max(size, 1e-300))
        square = min(square, max(least, 0.0) ** 2)
    return -max(math.sqrt(max(square, 0.0)) - radius, 0.0), -max(math.sqrt(max(own, 0.0)) - radius, 0.0)


@compiled()
def _product(points, columns, j, k, greatest):  # type: ignore[no-untyped-def]
    """The greatest or least Bézier coefficient of X_j·X_k in x and y along a piece."""
    found = -np.inf if greatest else np.inf
    for n in range(11):
        total = 0.0
        for a in range(max(0, n - 5), min(5, n) + 1):
            p, q = a * columns + j, (n - a) * columns + k
            total += _CHOOSE[a] * _CHOOSE[n - a] * (points[p, 0] * points[q, 0] + points[p, 1] * points[q, 1])
        total /= _CHOOSE_TEN[n]
        found = max(found, total) if greatest else min(found, total)
    return found


@compiled()
def _spotted(hulls, i, node, span, columns, best_at, spot, edge, uv):  # type: ignore[no-untyped-def]
    """The place of a node, to spot[0], whose shares are those of one of its control points."""
    if hulls.facts[KIND] == FACES:
        return
    row, j = best_at // columns, best_at % columns
    frame_at(hulls, i, span[0] + row / 5.0 * (span[1] - span[0]), spot)
    if hulls.facts[KIND] != SWEPT:
        return
    m = hulls.coef.shape[1] - 1
    e, f = node[0], node[1]
    at = hulls.outer[j, m] if e == 0 and f == len(hulls.edges) - 1 else hulls.edges[e, 0] + j
    while e + 1 < f and hulls.edges[e + 1, 0] <= at:
        e += 1
    t = (at - hulls.edges[e, 0]) / (hulls.edges[e + 1, 0] - hulls.edges[e, 0] - 1)
    if f == node[0] + 1:
        t = span[2] + t * (span[3] - span[2])
    section_at(hulls, e, t, edge, uv)
    point_of(spot, uv, m, 0, spot[3])
    spot[0, :3] = spot[3, :3]


@compiled(HULLS, "i8", "f8", "f8", "i8", "b1")
def _greatest(hulls, which, best, width, root, told):  # type: ignore[no-untyped-def]
    """The greatest figure below a node of the tree, a bound above it, and the leaf where it is, or 0; where
    its ends have `told` all of a run, without the rest of it."""
    around, size = len(hulls.coef) + 1, max(hulls.frame.shape[2], 9)
    points, rows, edge = (
        np.empty((max(6 * around, hulls.frame.shape[1]), 3)),
        np.empty((6, size)),
        np.empty((around, size)),
    )
    spot, uv = np.zeros((4, size)), np.zeros((2, size))
    leaves, radius = int(hulls.facts[LEAVES]), hulls.facts[RADIUS]
    faces, swept = hulls.facts[KIND] == FACES, hulls.facts[KIND] == SWEPT
    margin = 0.0 if faces else hulls.facts[MARGIN]
    tree = np.empty(64, dtype=np.int64)
    nodes, spans = np.empty((_STACK, 2), dtype=np.int64), np.empty((_STACK, 4))
    node, span = np.empty(2, dtype=np.int64), np.empty(4)
    tree[0], top, bound, seen, found = root, 1, best, 0, 0
    most = _LEAST_NODES + _NODES_A_PIECE * len(hulls.frame) if root == 1 else _SHARP_MOST
    if root == 1 and not faces:
        for i in range(len(hulls.frame)):
            if told and hulls.run[FIRST] < i < hulls.run[LAST]:
                continue
            for e in range(len(hulls.edges) - 1 if swept else 1):
                for c in range(3):
                    spot[0, c] = hulls.frame[i, 0, c]
                    if swept:
                        for k in range(hulls.coef.shape[1] - 1):
                            spot[0, c] += (
                                hulls.coef[int(hulls.edges[e, 0]), k] * hulls.frame[i, 0, 3 + 3 * k + c]
                            )
                here = _figure(which, spot[0, 0], spot[0, 1], spot[0, 2]) + radius
                here = min(here, 0.0) if which == IN else here
                if here > best and beyond(hulls, i, spot, 1, 0.0, 0.0) < 0:
                    best, found = here, leaves + i
    while top > 0:
        top -= 1
        a = tree[top]
        most_here = _box_bound(hulls.tree[a], which) + margin
        if hulls.tree[a, BOX] > hulls.tree[a, BOX + 3]:
            continue
        if most_here <= best + width:
            bound = max(bound, most_here)
            continue
        if told:
            low, high = pieces_of(hulls, a)
            if low > hulls.run[FIRST] and high < hulls.run[LAST]:
                continue
        if a < leaves:
            first = _box_bound(hulls.tree[2 * a], which) > _box_bound(hulls.tree[2 * a + 1], which)
            tree[top], tree[top + 1] = (2 * a + 1, 2 * a) if first else (2 * a, 2 * a + 1)
            top += 2
            continue
        i = a - leaves
        nodes[0, 0], nodes[0, 1] = 0, len(hulls.edges) - 1
        spans[0, 0], spans[0, 1], spans[0, 2], spans[0, 3] = 0.0, 1.0, 0.0, 1.0
        depth = 1
        while depth > 0:
            depth -= 1
            node[:], span[:] = nodes[depth], spans[depth]
            seen += 1
            count, columns = (
                control_points(hulls, i, node, span, rows, edge, points),
                columns_of(hulls, node[0], node[1]),
            )
            if beyond(hulls, i, points, count, span[0], span[1]) >= 0:
                continue
            least, own = _bound(points, count, columns, radius, which, faces)
            if least + margin <= best + width:
                bound = max(bound, least + margin)
                continue
            ends = -np.inf
            for k in range(2 * columns):
                at = k if k < columns else count - 2 * columns + k
                ends = max(ends, _figure(which, points[at, 0], points[at, 1], points[at, 2]) + radius)
            for k in (0, columns - 1, count - columns, count - 1, _argmost(points, count, which)):
                _spotted(hulls, i, node, span, columns, k, spot, edge, uv)
                if faces:
                    spot[0, :3] = points[k]
                if beyond(hulls, i, spot, 1, span[0], span[1]) >= 0:
                    continue
                here = _figure(which, spot[0, 0], spot[0, 1], spot[0, 2]) + radius
                here = min(here, 0.0) if which == IN else here
                if here > best:
                    best, found = here, a
            along = (
                min(own - ends, curved(points, count, columns)) if swept else curved(points, count, columns)
            )
            across = max(least - own, spread(hulls, i, node, span, points, columns)) if swept else 0.0
            if node[1] > node[0] + 1:
                across = np.inf
            if (
                least + margin <= best + width
                or seen > most
                or depth > _STACK - 3
                or max(along, across) < 1e-12
            ):
                bound = max(bound, least + margin)
                continue
            for half in range(2):
                nodes[depth], spans[depth] = node, span
                if along >= across:
                    spans[depth, 1 - half] = 0.5 * (span[0] + span[1])
                elif node[1] > node[0] + 1:
                    nodes[depth, 1 - half] = (node[0] + node[1]) // 2
                else:
                    spans[depth, 3 - half] = 0.5 * (span[2] + span[3])
                depth += 1
    return best, max(bound, best), found


@compiled()
def _argmost(points, count, which):  # type: ignore[no-untyped-def]
    best, at = -np.inf, 0
    for k in range(count):
        value = _figure(which, points[k, 0], points[k, 1], points[k, 2])
        if value > best:
            best, at = value, k
    return at
