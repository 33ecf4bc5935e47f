"""Branch and bound over pairs of pieces.

A pair of nodes is dropped where its hulls are farther apart than the nearest two places known so far, less
the width that is asked for. Where two may cross they are searched on until a place inside both is found. What
is left is halved where it is least straight. Of a wire and itself only places count that are no neighbours:
the path turns by more than a quarter turn between them, and neither moves nearer to the other by sliding
along the wire (the doubly critical distance of Gonzalez and Maddocks, PNAS 96 (1999) 4769). A pair of nodes
with no such places, by bounds of the first and second derivative of the distance, is dropped as well. Of
pieces that a screw carries into each other only the pairs with the first one are searched (screws.py).
"""

from __future__ import annotations

import math

import numpy as np

from metaspira.gaps.hulls import (
    ALL,
    BOX,
    CHORD,
    CONVEX,
    ENDS,
    FACES,
    HIGH,
    HULLS,
    KIND,
    LEAVES,
    LOW,
    MARGIN,
    PACE,
    RADIUS,
    RANGE,
    SOLID,
    SOME,
    STOP_HIGH,
    STOP_LOW,
    SWEPT,
    TUBE,
    TURNED_HIGH,
    TURNED_LOW,
    WHOLE,
)
from metaspira.gaps.inside import above_ground, depth_in
from metaspira.gaps.nodes import (
    below_ground,
    beyond,
    columns_of,
    curved,
    frame_at,
    ground_points,
    pieces_of,
    point_of,
    section_at,
    spread,
)
from metaspira.gaps.screws import FIRST, LAST
from metaspira.gaps.separation import separation
from metaspira.numbers.compiled import compiled

NEIGHBOUR_TURN = math.pi / 2
EVERY, LOOSE, TOUCHING = 0, 1, 2
_STACK = 400
_NEWTON = 12
_CRITICAL = 0.05
_WORTH = 1 - 1e-9
_PROMISING = 8.0
_OFTEN, _RARELY, _OVERLAPPED = 16, 5, 16
_KEPT, _LOOK, _AT_FIRST = 64, 80, 10
_POINT, _ALONG, _AROUND, _BEND, _UV, _AT = 3, 4, 5, 6, 7, 9


@compiled()
def workspace(one, two):  # type: ignore[no-untyped-def]
    """The arrays that a search writes to, made once: control points of both nodes, a grid, an edge, and a
    spot on each body (and one more for what is asked meanwhile; frames in rows 0 to 2, then point, slopes
    along and around, second derivative along; section point and its slope; share of the wire, share of the
    edge, and the edge or −1 for a section point that is held); corners picked and their shares; room for
    Newton's method."""
    width = max(one.frame.shape[2], two.frame.shape[2], 9)
    around = max(len(one.coef), len(two.coef)) + 1
    room = max(6 * around, one.frame.shape[1], two.frame.shape[1])
    return (
        np.empty((room, 3)),
        np.empty((room, 3)),
        np.empty((6, width)),
        np.empty((around, width)),
        np.zeros((3, 10, width)),
        np.zeros((2, 4), dtype=np.int64),
        np.zeros(4),
        np.empty((11, 4)),
    )


@compiled()
def width_at(best, asked):  # type: ignore[no-untyped-def]
    """How wide the interval may be, mm: `asked` holds a least and a greatest width, a share of the gap, and
    the limit on one side of which the interval has to lie (−∞ where the value alone is sought)."""
    if best == np.inf:
        return 0.0
    return max(asked[0], min(asked[1] + asked[2] * abs(best), 0.5 * abs(best - asked[3])))


@compiled("f8[::1]", "f8[::1]")
def box_distance(a, b):  # type: ignore[no-untyped-def]
    """Distance of the boxes of two tree nodes."""
    square = 0.0
    for c in range(3):
        d = max(a[BOX + c] - b[BOX + 3 + c], b[BOX + c] - a[BOX + 3 + c], 0.0)
        square += d * d
    return math.sqrt(square)


@compiled()
def _gap_of_boxes(one, a, two, b):  # type: ignore[no-untyped-def]
    """A gap that no places of two tree nodes are below; of round wire less than zero where the boxes of its
    line are near."""
    p, q, r1, r2 = one.tree[a], two.tree[b], one.facts[RADIUS], two.facts[RADIUS]
    square = 0.0
    for c in range(3):
        d = max(p[BOX + c] - q[BOX + 3 + c], q[BOX + c] - p[BOX + 3 + c]) + r1 + r2
        square += max(d, 0.0) ** 2
    return math.sqrt(square) - r1 - r2


@compiled()
def neighbours(a_low, a_high, b_low, b_high, whole):  # type: ignore[no-untyped-def]
    """Whether the path turns by no more than NEIGHBOUR_TURN between any two places at turnings in [a_low,
    a_high] and [b_low, b_high]; around a closed path, of `whole` turning, the shorter way."""
    most = max(b_high - a_low, a_high - b_low)
    if most <= NEIGHBOUR_TURN:
        return True
    least = max(b_low - a_high, a_low - b_high, 0.0)
    return whole > 0.0 and least >= whole - NEIGHBOUR_TURN


@compiled()
def _slides(a, b):  # type: ignore[no-untyped-def]
    """Whether every place of tree node a comes nearer to every one of b by moving along the wire one way."""
    low = high = 0.0
    for c in range(3):
        v0, v1 = a[BOX + c] - b[BOX + 3 + c], a[BOX + 3 + c] - b[BOX + c]
        d0, d1 = a[PACE + c], a[PACE + 3 + c]
        p, q, r, s = v0 * d0, v0 * d1, v1 * d0, v1 * d1
        low += min(min(p, q), min(r, s))
        high += max(max(p, q), max(r, s))
    return (low > 0.0 and a[ENDS] == 0.0) or (high < 0.0 and a[ENDS + 1] == 0.0)


@compiled()
def _no_minimum(p, count, columns, q, count_q, stop_low, stop_high):  # type: ignore[no-untyped-def]
    """Whether no place of the hull of q has a nearest one among those of p as these move along the wire."""
    rows = count // columns
    d0 = d1 = d2 = 0.0
    n = (rows - 1) * columns
    for r in range(n):
        d0 += p[r + columns, 0] - p[r, 0]
        d1 += p[r + columns, 1] - p[r, 1]
        d2 += p[r + columns, 2] - p[r, 2]
    d0, d1, d2 = d0 / n, d1 / n, d2 / n
    off = longest = 0.0
    for r in range(n):
        x, y, z = p[r + columns, 0] - p[r, 0], p[r + columns, 1] - p[r, 1], p[r + columns, 2] - p[r, 2]
        off = max(off, (x - d0) ** 2 + (y - d1) ** 2 + (z - d2) ** 2)
        longest = max(longest, x * x + y * y + z * z)
    off = math.sqrt(off)
    square = 0.0
    p0 = q0 = np.inf
    p1 = q1 = -np.inf
    for c in range(3):
        a0 = b0 = np.inf
        a1 = b1 = -np.inf
        for i in range(count):
            a0, a1 = min(a0, p[i, c]), max(a1, p[i, c])
        for i in range(count_q):
            b0, b1 = min(b0, q[i, c]), max(b1, q[i, c])
        square += max(a1 - b0, b1 - a0) ** 2
    far = math.sqrt(square)
    for i in range(count):
        x = p[i, 0] * d0 + p[i, 1] * d1 + p[i, 2] * d2
        p0, p1 = min(p0, x), max(p1, x)
    for i in range(count_q):
        x = q[i, 0] * d0 + q[i, 1] * d1 + q[i, 2] * d2
        q0, q1 = min(q0, x), max(q1, x)
    if p0 - q1 - off * far > 0.0 and not stop_low:
        return True
    if p1 - q0 + off * far < 0.0 and not stop_high:
        return True
    if stop_low or stop_high or rows < 3:
        return False
    n = (rows - 2) * columns
    d0 = d1 = d2 = 0.0
    for r in range(n):
        d0 += p[r + 2 * columns, 0] - 2 * p[r + columns, 0] + p[r, 0]
        d1 += p[r + 2 * columns, 1] - 2 * p[r + columns, 1] + p[r, 1]
        d2 += p[r + 2 * columns, 2] - 2 * p[r + columns, 2] + p[r, 2]
    d0, d1, d2 = d0 / n, d1 / n, d2 / n
    off = 0.0
    for r in range(n):
        x = p[r + 2 * columns, 0] - 2 * p[r + columns, 0] + p[r, 0] - d0
        y = p[r + 2 * columns, 1] - 2 * p[r + columns, 1] + p[r, 1] - d1
        z = p[r + 2 * columns, 2] - 2 * p[r + columns, 2] + p[r, 2] - d2
        off = max(off, x * x + y * y + z * z)
    p1, q0 = -np.inf, np.inf
    for i in range(count):
        p1 = max(p1, p[i, 0] * d0 + p[i, 1] * d1 + p[i, 2] * d2)
    for i in range(count_q):
        q0 = min(q0, q[i, 0] * d0 + q[i, 1] * d1 + q[i, 2] * d2)
    return 25.0 * longest + 20.0 * (p1 - q0 + math.sqrt(off) * far) < 0.0


@compiled()
def _start(hulls, node, span, columns, points, pick, share, spot):  # type: ignore[no-untyped-def]
    """The spot on a piece at the mix of the corners that are nearest: its shares, edge and section point."""
    s = t = 0.0
    m = hulls.coef.shape[1] - 1
    spot[_UV, :m] = 0.0
    spot[_UV + 1, :m] = 0.0
    e, f = node[0], node[1]
    whole = e == 0 and f == len(hulls.edges) - 1
    held = hulls.facts[KIND] != SWEPT or (hulls.facts[CONVEX] > 0 and whole)
    edge, most = e, -1.0
    spot[_POINT, :3] = 0.0
    for k in range(4):
        if share[k] <= 0.0:
            continue
        for c in range(3):
            spot[_POINT, c] += share[k] * points[pick[k], c]
        r, j = pick[k] // columns, pick[k] % columns
        s += share[k] * r / 5.0
        if hulls.facts[KIND] != SWEPT:
            continue
        if held:
            for c in range(m):
                spot[_UV, c] += share[k] * hulls.outer[j, c]
        elif f == e + 1:
            t += share[k] * j / (columns - 1)
        elif share[k] > most:
            most = share[k]
            at = hulls.outer[j, m] if whole else hulls.edges[e, 0] + j
            edge = e
            while hulls.edges[edge + 1, 0] <= at:
                edge += 1
            t = (at - hulls.edges[edge, 0]) / (hulls.edges[edge + 1, 0] - hulls.edges[edge, 0] - 1)
    spot[_AT, 0] = span[0] + min(s, 1.0) * (span[1] - span[0])
    spot[_AT, 1] = span[2] + t * (span[3] - span[2]) if f == e + 1 else t
    spot[_AT, 2] = -1.0 if held else edge


@compiled()
def _look(hulls, i, edge, spot):  # type: ignore[no-untyped-def]
    """What piece i is at a spot: the point, its slopes along the wire and around, and its second derivative
    along."""
    kind = hulls.facts[KIND]
    if kind == FACES:
        spot[_ALONG : _BEND + 1, :3] = 0.0
        return
    frame_at(hulls, i, spot[_AT, 0], spot)
    if kind == TUBE:
        for c in range(3):
            spot[_POINT, c], spot[_ALONG, c], spot[_AROUND, c], spot[_BEND, c] = (
                spot[0, c],
                spot[1, c],
                0.0,
                spot[2, c],
            )
        return
    e, m = int(spot[_AT, 2]), hulls.coef.shape[1] - 1
    if e >= 0:
        section_at(hulls, e, spot[_AT, 1], edge, spot[_UV : _UV + 2])
    point_of(spot, spot[_UV : _UV + 1], m, 0, spot[_POINT])
    point_of(spot, spot[_UV : _UV + 1], m, 1, spot[_ALONG])
    point_of(spot, spot[_UV : _UV + 1], m, 2, spot[_BEND])
    for c in range(3):
        total = 0.0
        if e >= 0:
            for k in range(m):
                total += spot[_UV + 1, k] * spot[0, 3 + 3 * k + c]
        spot[_AROUND, c] = total


@compiled()
def _between(spots):  # type: ignore[no-untyped-def]
    square = 0.0
    for c in range(3):
        square += (spots[0, _POINT, c] - spots[1, _POINT, c]) ** 2
    return math.sqrt(square)


@compiled()
def _nearest_spots(one, i, two, j, edge, spots, room, worth, held):  # type: ignore[no-untyped-def]
    """The distance of two spots after moving both on their pieces to where it is least (Newton's method,
    damped), given up where a step twice as good as it promises would not bring it below `worth`; the first
    one keeps its place along its wire where it is `held`."""
    value, damping = np.inf, 0.0
    old, grad, gain, slopes, hess = room[0], room[1], room[2], room[3:7], room[7:11]
    for step in range(_NEWTON):
        _look(one, i, edge, spots[0])
        _look(two, j, edge, spots[1])
        new = _between(spots)
        if new > value:
            for a in range(4):
                spots[a // 2, _AT, a % 2] = old[a]
            damping = max(10.0 * damping, 1e-2)
            if damping > 1e3 or step == _NEWTON - 1:
                break
            _look(one, i, edge, spots[0])
            _look(two, j, edge, spots[1])
        else:
            gained, value = value - new, new
            damping *= 0.25
            if gained < 1e-12 * value:
                break
        bend1 = bend2 = 0.0
        for c in range(3):
            d = spots[0, _POINT, c] - spots[1, _POINT, c]
            bend1 += d * spots[0, _BEND, c]
            bend2 -= d * spots[1, _BEND, c]
            for a in range(2):
                slopes[a, c], slopes[2 + a, c] = spots[0, _ALONG + a, c], -spots[1, _ALONG + a, c]
        for a in range(4):
            old[a] = spots[a // 2, _AT, a % 2]
            grad[a] = 0.0
            for c in range(3):
                grad[a] += slopes[a, c] * (spots[0, _POINT, c] - spots[1, _POINT, c])
            for b in range(4):
                hess[a, b] = (
                    slopes[a, 0] * slopes[b, 0] + slopes[a, 1] * slopes[b, 1] + slopes[a, 2] * slopes[b, 2]
                )
        moving = 0.0
        for a in range(4):
            scale = slopes[a, 0] ** 2 + slopes[a, 1] ** 2 + slopes[a, 2] ** 2
            bend = bend1 if a == 0 else bend2 if a == 2 else 0.0
            fixed = scale <= 0.0 or (held and a == 0)
            if fixed or (old[a] <= 0.0 and grad[a] > 0.0) or (old[a] >= 1.0 and grad[a] < 0.0):
                for b in range(4):
                    hess[a, b] = hess[b, a] = 0.0
                hess[a, a], grad[a] = 1.0, 0.0
            else:
                hess[a, a] += (damping + 1e-9) * scale + (bend if scale + bend > 0.1 * scale else 0.0)
                moving = max(moving, abs(grad[a]) / math.sqrt(scale))
        if moving <= 1e-9 * value:
            break
        gain[:] = grad
        _solve(hess, grad)
        promised = 0.0
        for a in range(4):
            promised += gain[a] * grad[a]
        if damping == 0.0 and value * value - 2.0 * promised >= worth * worth:
            break
        for a in range(4):
            spots[a // 2, _AT, a % 2] = min(max(old[a] - grad[a], 0.0), 1.0)
    _look(one, i, edge, spots[0])
    _look(two, j, edge, spots[1])
    new = _between(spots)
    if new <= value:
        return new
    for a in range(4):
        spots[a // 2, _AT, a % 2] = old[a]
    _look(one, i, edge, spots[0])
    _look(two, j, edge, spots[1])
    return value


@compiled()
def _rests(hulls, i, spot, other, value):  # type: ignore[no-untyped-def]
    """Whether the distance to the other spot is least along the wire at this one, or would only fall beyond
    an end."""
    if hulls.facts[KIND] == FACES or value < 1e-12:
        return True
    pace = slope = bend = 0.0
    for c in range(3):
        d = spot[_POINT, c] - other[_POINT, c]
        pace += spot[_ALONG, c] ** 2
        slope += d * spot[_ALONG, c]
        bend += d * spot[_BEND, c]
    slope /= max(math.sqrt(pace) * value, 1e-300)
    s = spot[_AT, 0]
    if s <= 0.0 and hulls.pieces[i, STOP_LOW] > 0 and slope >= 0.0:
        return True
    if s >= 1.0 and hulls.pieces[i, STOP_HIGH] > 0 and slope <= 0.0:
        return True
    return abs(slope) <= _CRITICAL and pace + bend > -1e-6 * pace


@compiled()
def _solve(a, b):  # type: ignore[no-untyped-def]
    """b := a⁻¹ b for a (4, 4), by elimination with pivots."""
    n = len(b)
    for k in range(n):
        best = k
        for r in range(k + 1, n):
            if abs(a[r, k]) > abs(a[best, k]):
                best = r
        if abs(a[best, k]) < 1e-300:
            continue
        for c in range(n):
            a[k, c], a[best, c] = a[best, c], a[k, c]
        b[k], b[best] = b[best], b[k]
        for r in range(k + 1, n):
            f = a[r, k] / a[k, k]
            for c in range(k, n):
                a[r, c] -= f * a[k, c]
            b[r] -= f * b[k]
    for k in range(n - 1, -1, -1):
        if abs(a[k, k]) < 1e-300:
            b[k] = 0.0
            continue
        for c in range(k + 1, n):
            b[k] -= a[k, c] * b[c]
        b[k] /= a[k, k]


@compiled()
def _turned_at(hulls, i, s):  # type: ignore[no-untyped-def]
    return hulls.pieces[i, TURNED_LOW] + s * (hulls.pieces[i, TURNED_HIGH] - hulls.pieces[i, TURNED_LOW])


@compiled()
def _strangers(one, i, s1, two, j, s2):  # type: ignore[no-untyped-def]
    a, b = _turned_at(one, i, s1), _turned_at(two, j, s2)
    return not neighbours(a, a, b, b, one.facts[WHOLE])


@compiled()
def _measured(one, i, two, j, nodes, spans, columns1, columns2, same, best, work, found, held):  # type: ignore[no-untyped-def]
    """The gap of two actual spots near the nearest corners of two nodes, ∞ where it does not count, only as
    near as tells that it is not below `best`; the spots to found (8,): piece, edge and shares of both."""
    edge, spots, pick, share = work[3], work[4], work[5], work[6]
    _start(one, nodes[:2], spans[:4], columns1, work[0], pick[0], share, spots[0])
    _start(two, nodes[2:], spans[4:], columns2, work[1], pick[1], share, spots[1])
    radii = one.facts[RADIUS] + two.facts[RADIUS]
    value = _nearest_spots(one, i, two, j, edge, spots, work[7], max(best + radii, 0.0) * _WORTH, held)
    if len(one.planes) + len(two.planes) > 0:
        if not (_on_ground(one, i, spots[0], spots[2]) and _on_ground(two, j, spots[1], spots[2])):
            return np.inf
        value = _between(spots)
    if value - radii >= best:
        return np.inf
    if same:
        if not _strangers(one, i, spots[0, _AT, 0], two, j, spots[1, _AT, 0]):
            return np.inf
        if not (
            (held or _rests(one, i, spots[0], spots[1], value)) and _rests(two, j, spots[1], spots[0], value)
        ):
            return np.inf
    for side in range(2):
        found[4 * side] = j if side else i
        found[4 * side + 1] = spots[side, _AT, 2]
        found[4 * side + 2], found[4 * side + 3] = spots[side, _AT, 0], spots[side, _AT, 1]
    return value - radii


@compiled()
def _on_ground(hulls, i, spot, room):  # type: ignore[no-untyped-def]
    """Bring a spot that is ground away to the face that the grinding left; False where there is none above
    it."""
    k = beyond(hulls, i, spot[_POINT : _POINT + 1], 1, spot[_AT, 0], spot[_AT, 0])
    if k < 0:
        return True
    spot[_POINT, 2] = hulls.planes[k, 1]
    if hulls.facts[KIND] == FACES:
        return True
    for near in range(max(i - 1, 0), min(i + 2, len(hulls.frame))):
        if depth_in(hulls, near, spot[_POINT, :3], 0.0, room)[0] > 0.0:
            return True
    return False


@compiled()
def _probed(one, i, node, span, two, j, same, work):  # type: ignore[no-untyped-def]
    """How deep places in the middle of a node of piece i are inside piece j of the other body; −∞ where none
    is, or where that is not sure. Balls of one round wire that overlap tell nothing: they may be neighbours
    along it."""
    if same and one.facts[KIND] == TUBE:
        return -np.inf
    edge, spots = work[3], work[4]
    spot = spots[0]
    spot[_AT, 0], spot[_AT, 1] = 0.5 * (span[0] + span[1]), 0.5 * (span[2] + span[3])
    if one.facts[KIND] == FACES:
        for c in range(3):
            spot[_POINT, c] = one.frame[i, :, c].mean()
        return _depth_of(one, i, two, j, same, spots)
    if one.facts[KIND] == SWEPT and node[1] > node[0] + 1:
        spot[_AT, 2] = -1.0
        deepest, m = -np.inf, one.coef.shape[1] - 1
        for k in range(len(one.probes)):
            spot[_UV, :m] = one.probes[k]
            _look(one, i, edge, spot)
            deepest = max(deepest, _depth_of(one, i, two, j, same, spots))
        return deepest
    spot[_AT, 2] = node[0]
    _look(one, i, edge, spot)
    return _depth_of(one, i, two, j, same, spots)


@compiled()
def _depth_of(one, i, two, j, same, spots):  # type: ignore[no-untyped-def]
    """How deep the first spot is inside piece j, or those before and after it; −∞ where it is not, or where
    that is not sure."""
    sure = two.facts[CHORD] + one.facts[MARGIN] + two.facts[MARGIN]
    deepest = -np.inf
    if not _on_ground(one, i, spots[0], spots[2]):
        return deepest
    for k in range(max(j - 1, 0), min(j + 2, len(two.frame))):
        if (k < j and two.pieces[k, HIGH] != two.pieces[j, LOW]) or (
            k > j and two.pieces[k, LOW] != two.pieces[j, HIGH]
        ):
            continue
        leaf, beyond = two.tree[int(two.facts[LEAVES]) + k], False
        for c in range(3):
            x = spots[0, _POINT, c]
            beyond = beyond or max(leaf[BOX + c] - x, x - leaf[BOX + 3 + c]) > one.facts[RADIUS]
        if beyond:
            continue
        depth, t = depth_in(two, k, spots[0, _POINT, :3], 0.0, spots[1])
        if one.facts[KIND] == TUBE:
            depth += one.facts[RADIUS]
        depth = min(depth, above_ground(two, k, spots[0, _POINT, 2], t))
        if depth <= max(sure, deepest):
            continue
        if not same or _strangers(one, i, spots[0, _AT, 0], two, k, min(max(t, 0.0), 1.0)):
            deepest = depth
    return deepest


@compiled()
def _refined(one, i, two, j, same, best, asked, most, work, found, held):  # type: ignore[no-untyped-def]
    """The gap of a pair of pieces, halved for as long as it could be below `best` by more than the width that
    is allowed, or until `most` nodes are seen. Returns the best gap known, a bound below all gaps that were
    dropped, and the nodes seen. Where the first is `held` only its middle is looked at, and need not be
    nearest to the second."""
    nodes, spans = np.empty((_STACK, 4), dtype=np.int64), np.empty((_STACK, 8))
    node, span, trial = np.empty(4, dtype=np.int64), np.empty(8), np.empty(8)
    nodes[0, 0], nodes[0, 1], nodes[0, 2], nodes[0, 3] = 0, len(one.edges) - 1, 0, len(two.edges) - 1
    for k in range(8):
        spans[0, k] = k % 2
    if held:
        spans[0, 0] = spans[0, 1] = 0.5
    top, seen, bound = 1, 0, np.inf
    margin, radii = one.facts[MARGIN] + two.facts[MARGIN], one.facts[RADIUS] + two.facts[RADIUS]
    solid = one.facts[SOLID] > 0 and two.facts[SOLID] > 0 and asked[3] > -1e299
    while top > 0:
        top -= 1
        node[:], span[:] = nodes[top], spans[top]
        seen += 1
        if same and neighbours(
            _turned_at(one, i, span[0]),
            _turned_at(one, i, span[1]),
            _turned_at(two, j, span[4]),
            _turned_at(two, j, span[5]),
            one.facts[WHOLE],
        ):
            continue
        count1 = ground_points(one, i, node[:2], span[:4], work[2], work[3], work[0])
        count2 = ground_points(two, j, node[2:], span[4:], work[2], work[3], work[1])
        columns1, columns2 = columns_of(one, node[0], node[1]), columns_of(two, node[2], node[3])
        enough = best if seen == 1 else best - width_at(best, asked)
        least = separation(
            work[0], count1, work[1], count2, enough + radii + margin, work[5][0], work[5][1], work[6]
        )
        if len(one.planes) + len(two.planes) > 0:
            least = max(least, below_ground(one, i, work[1], count2))
            least = max(least, below_ground(two, j, work[0], count1))
        least -= radii + margin
        crossing = least <= 0.0 <= best and solid
        if least >= enough and not crossing:
            bound = min(bound, least)
            continue
        if (
            same
            and not held
            and one.facts[KIND] != FACES
            and _no_minimum(
                work[0],
                count1,
                columns1,
                work[1],
                count2,
                one.pieces[i, STOP_LOW] > 0 and span[0] <= 0.0,
                one.pieces[i, STOP_HIGH] > 0 and span[1] >= 1.0,
            )
        ):
            continue
        if (
            same
            and two.facts[KIND] != FACES
            and _no_minimum(
                work[1],
                count2,
                columns2,
                work[0],
                count1,
                two.pieces[j, STOP_LOW] > 0 and span[4] <= 0.0,
                two.pieces[j, STOP_HIGH] > 0 and span[5] >= 1.0,
            )
        ):
            continue
        if seen % _OFTEN == 1 or best - least > _PROMISING * width_at(best, asked):
            value = _measured(one, i, two, j, node, span, columns1, columns2, same, best, work, trial, held)
            if value < best:
                best = value
                found[:] = trial
        if least <= 0.0 and seen % _RARELY == 1:
            depth = _probed(one, i, node[:2], span[:4], two, j, same, work)
            if depth == -np.inf:
                depth = _probed(two, j, node[2:], span[4:], one, i, same, work)
            if -depth < best:
                best = -depth
                found[0], found[1], found[2] = i, -2.0, 0.5 * (span[0] + span[1])
                found[4], found[5], found[6] = j, -2.0, 0.5 * (span[4] + span[5])
        along1, along2 = curved(work[0], count1, columns1), curved(work[1], count2, columns2)
        around1 = spread(one, i, node[:2], span[:4], work[0], columns1)
        around2 = spread(two, j, node[2:], span[4:], work[1], columns2)
        largest = max(max(along1, along2), max(around1, around2))
        resolved = largest <= 1e-3 * margin + 1e-13
        dropped = least >= best - width_at(best, asked) and not (crossing and best >= 0.0)
        if dropped or resolved or seen >= most or top > _STACK - 4:
            bound = min(bound, least)
            continue
        for half in range(2):
            nodes[top], spans[top] = node, span
            if largest == along1:
                spans[top, 1 - half] = 0.5 * (span[0] + span[1])
            elif largest == along2:
                spans[top, 5 - half] = 0.5 * (span[4] + span[5])
            elif largest == around1:
                _halve(nodes[top], spans[top], 0, half)
            else:
                _halve(nodes[top], spans[top], 2, half)
            top += 1
    return best, bound, seen


@compiled()
def _halve(node, span, at, half):  # type: ignore[no-untyped-def]
    """Half the edges of a node, or half of its one edge."""
    e, f = node[at], node[at + 1]
    if f > e + 1:
        node[at + 1 - half] = (e + f) // 2
    else:
        span[2 * at + 3 - half] = 0.5 * (span[2 * at + 2] + span[2 * at + 3])


@compiled()
def _passed_over(one, a, two, b, same, which, held):  # type: ignore[no-untyped-def]
    """Whether a pair of tree nodes has nothing that counts; places of the first are `held` where they need
    not be nearest to those of the second."""
    p, q = one.tree[a], two.tree[b]
    if (which == LOOSE and (p[ALL] > 0 or q[ALL] > 0)) or (
        which == TOUCHING and p[SOME] == 0 and q[SOME] == 0
    ):
        return True
    if not same:
        return False
    if neighbours(p[RANGE], p[RANGE + 1], q[RANGE], q[RANGE + 1], one.facts[WHOLE]):
        return True
    if not held and one.facts[KIND] != FACES and _slides(p, q):
        return True
    return two.facts[KIND] != FACES and _slides(q, p)


@compiled(HULLS, HULLS, "b1", "b1", "b1", "i8", "f8", "f8[::1]", "i8", "i8")
def search(one, two, same, alike, carried, which, best, asked, each, most):  # type: ignore[no-untyped-def]
    """The least gap of two bodies, or of one to itself, below `best`: the best known, a bound below which
    there is none, the spots (8,), and how many nodes were seen, of `most`, far fewer once an overlap is
    known, and of `each` pair of pieces. `same` where both belong to one wire, `alike` where they are the same
    pieces; `carried` where one screw carries the runs of both; `which` tells whether places count that are
    meant to touch; `asked` as in width_at."""
    work = workspace(one, two)
    found, pair = np.full(8, np.nan), np.full(8, np.nan)
    bound, seen = np.inf, 0
    stack, far = np.empty((_STACK, 2), dtype=np.int64), np.empty(_STACK)
    leaves1, leaves2 = int(one.facts[LEAVES]), int(two.facts[LEAVES])
    margin = one.facts[MARGIN] + two.facts[MARGIN]
    solid = one.facts[SOLID] > 0 and two.facts[SOLID] > 0 and asked[3] > -1e299
    top = _pushed(one, two, 1, 1, stack, far, 0)
    while top > 0:
        top -= 1
        a, b = stack[top, 0], stack[top, 1]
        itself = alike and a == b
        crossing = far[top] <= margin and best >= 0.0 and solid
        if far[top] - margin >= best and not crossing:
            bound = min(bound, far[top] - margin)
            continue
        if not itself and _passed_over(one, a, two, b, same, which, False):
            continue
        if carried and _past_first(one, a) and _past_first(two, b):
            continue
        seen += 1
        if seen > (most if best >= 0.0 else most // _OVERLAPPED):
            bound = min(bound, far[top] - margin)
            continue
        leaf1, leaf2 = a >= leaves1, b >= leaves2
        if leaf1 and leaf2:
            if itself:
                continue
            best, low, nodes = _refined(
                one,
                a - leaves1,
                two,
                b - leaves2,
                same,
                best,
                asked,
                min(each, most - seen),
                work,
                pair,
                False,
            )
            seen += nodes
            bound = min(bound, low)
            if not np.isnan(pair[0]):
                found[:] = pair
                pair[0] = np.nan
            continue
        first = top
        if itself:
            top = _pushed(one, two, 2 * a, 2 * a, stack, far, top)
            top = _pushed(one, two, 2 * a + 1, 2 * a + 1, stack, far, top)
            top = _pushed(one, two, 2 * a, 2 * a + 1, stack, far, top)
        elif leaf2 or (not leaf1 and _size(one.tree[a]) >= _size(two.tree[b])):
            top = _pushed(one, two, 2 * a, b, stack, far, top)
            top = _pushed(one, two, 2 * a + 1, b, stack, far, top)
        else:
            top = _pushed(one, two, a, 2 * b, stack, far, top)
            top = _pushed(one, two, a, 2 * b + 1, stack, far, top)
        if top - first == 2 and far[top - 1] > far[top - 2]:
            far[top - 1], far[top - 2] = far[top - 2], far[top - 1]
            for c in range(2):
                stack[top - 1, c], stack[top - 2, c] = stack[top - 2, c], stack[top - 1, c]
    return best, bound, found, seen


@compiled()
def _past_first(hulls, node):  # type: ignore[no-untyped-def]
    """Whether all pieces of a tree node belong to the run of pieces that a screw carries into each other, but
    for its first."""
    low, high = pieces_of(hulls, node)
    return low > hulls.run[FIRST] and high <= hulls.run[LAST]


@compiled()
def _size(node):  # type: ignore[no-untyped-def]
    return node[BOX + 3] - node[BOX] + node[BOX + 4] - node[BOX + 1] + node[BOX + 5] - node[BOX + 2]


@compiled()
def _pushed(one, two, a, b, stack, far, top):  # type: ignore[no-untyped-def]
    if one.tree[a, BOX] > one.tree[a, BOX + 3] or two.tree[b, BOX] > two.tree[b, BOX + 3]:
        return top
    stack[top, 0], stack[top, 1] = a, b
    far[top] = _gap_of_boxes(one, a, two, b)
    return top + 1


@compiled(HULLS, "i8", HULLS, "i8", "b1", "f8", "f8", "i8")
def polished(one, i, two, j, same, best, width, most):  # type: ignore[no-untyped-def]
    """The gap of one pair of pieces to `width` mm, or as near as `most` nodes tell, and its spots (8,);
    `best` and NaN where it is not less."""
    found = np.full(8, np.nan)
    best, _, _ = _refined(
        one,
        i,
        two,
        j,
        same,
        best,
        np.array([width, width, 0.0, -1e300]),
        most,
        workspace(one, two),
        found,
        False,
    )
    return best, found


@compiled(HULLS, "f8[::1]")
def deepest_in(hulls, point):  # type: ignore[no-untyped-def]
    """How deep a place (3,) is inside a body; negative or −∞ outside."""
    spot = np.zeros((10, max(hulls.frame.shape[2], 9)))
    leaves, deepest = int(hulls.facts[LEAVES]), -np.inf
    stack = np.empty(_STACK, dtype=np.int64)
    stack[0], top = 1, 1
    while top > 0:
        top -= 1
        a = stack[top]
        node = hulls.tree[a]
        beyond = False
        for c in range(3):
            beyond = beyond or point[c] < node[BOX + c] or point[c] > node[BOX + 3 + c]
        if beyond:
            continue
        if a >= leaves:
            depth, share = depth_in(hulls, a - leaves, point, 1e-9, spot)
            deepest = max(deepest, min(depth, above_ground(hulls, a - leaves, point[2], share)))
            continue
        stack[top], stack[top + 1] = 2 * a, 2 * a + 1
        top += 2
    return deepest


@compiled(HULLS, "f8[:, ::1]")
def deepest_of(hulls, points):  # type: ignore[no-untyped-def]
    """The deepest of places (n, 3) inside a body, and its depth."""
    best, at = -np.inf, 0
    for k in range(len(points)):
        depth = deepest_in(hulls, points[k])
        if depth > best:
            best, at = depth, k
    return best, at


@compiled(HULLS, HULLS, "b1", "b1", "i8", "i8", "f8[::1]", "f8[::1]", "i8")
def along(one, two, same, alike, which, every, gaps, asked, most):  # type: ignore[no-untyped-def]
    """For each `every`th piece of one the gap from its middle to the other body, or to strangers of its own,
    where it is below what `gaps` (n,) holds: of places found on each piece near enough, so never less than
    it is. `asked` as in width_at; `most` nodes are seen for each piece."""
    work = workspace(one, two)
    stack, far = np.empty((_STACK, 2), dtype=np.int64), np.empty(_STACK)
    near, least = np.empty(_KEPT, dtype=np.int64), np.empty(_KEPT)
    node, span = np.array([0, len(one.edges) - 1, 0, len(two.edges) - 1]), np.empty(8)
    for k in range(8):
        span[k] = k % 2
    span[0] = span[1] = 0.5
    leaves1, leaves2 = int(one.facts[LEAVES]), int(two.facts[LEAVES])
    last = -1
    for i in range(0, len(one.frame), every):
        top = _pushed(one, two, leaves1 + i, 1, stack, far, 0)
        seen, count, next_ = 0, 0, last + every
        seeded = last >= 0 and next_ < len(two.frame)
        if seeded and not _passed_over(one, leaves1 + i, two, leaves2 + next_, same, which, True):
            near[0], least[0] = next_, -np.inf
            _nearest_of(one, i, two, near[:1], least, same, gaps, asked, most, work)
        room = most if gaps[i] < np.inf else _AT_FIRST * most
        while top > 0 and seen < room:
            top -= 1
            b = stack[top, 1]
            if (
                far[top] >= 0.99 * gaps[i]
                or (alike and leaves1 + i == b)
                or _passed_over(one, leaves1 + i, two, b, same, which, True)
            ):
                continue
            seen += 1
            if b < leaves2:
                top = _pushed(one, two, leaves1 + i, 2 * b, stack, far, top)
                top = _pushed(one, two, leaves1 + i, 2 * b + 1, stack, far, top)
                if top > 1 and far[top - 1] > far[top - 2]:
                    far[top - 1], far[top - 2] = far[top - 2], far[top - 1]
                    stack[top - 1, 1], stack[top - 2, 1] = stack[top - 2, 1], stack[top - 1, 1]
                continue
            bound = _least(one, i, two, b - leaves2, node, span, gaps[i], work)
            if bound < 0.99 * gaps[i] and (count < _KEPT or bound < least[count - 1]):
                at = min(count, _KEPT - 1)
                while at > 0 and least[at - 1] > bound:
                    near[at], least[at] = near[at - 1], least[at - 1]
                    at -= 1
                near[at], least[at] = b - leaves2, bound
                count = min(count + 1, _KEPT)
        last = _nearest_of(one, i, two, near[:count], least, same, gaps, asked, room, work)
        if last < 0 and seeded and gaps[i] < np.inf:
            last = next_


@compiled()
def _nearest_of(one, i, two, near, least, same, gaps, asked, most, work):  # type: ignore[no-untyped-def]
    """Lower the gap of piece i to that to the pieces `near` (n,), by their `least` distances; the piece to
    which it is, −1 where it stays."""
    found = np.empty(8)
    seen, last = 0, -1
    for k in range(len(near)):
        if least[k] >= 0.99 * gaps[i] or seen >= most:
            break
        value, _, nodes = _refined(one, i, two, near[k], same, gaps[i], asked, _LOOK, work, found, True)
        seen += nodes
        if value < gaps[i]:
            gaps[i], last = value, near[k]
    return last


@compiled()
def _least(one, i, two, j, node, span, best, work):  # type: ignore[no-untyped-def]
    """A gap that two nodes of pieces i and j keep for certain, no better than needed once it is `best`."""
    count1 = ground_points(one, i, node[:2], span[:4], work[2], work[3], work[0])
    count2 = ground_points(two, j, node[2:], span[4:], work[2], work[3], work[1])
    radii = one.facts[RADIUS] + two.facts[RADIUS]
    return separation(work[0], count1, work[1], count2, best + radii, work[5][0], work[5][1], work[6]) - radii
