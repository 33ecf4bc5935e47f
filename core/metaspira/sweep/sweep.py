"""The swept shape: a section carried along a path.

    X(s; u, v) = o(s) + u a(s) + v b(s),   J = ± (a × b) · ∂X/∂s,
    volume = ∫∫ J du dv ds = ∫ ± (a × b) · (A o' + M_u a' + M_v b') ds

J is affine in (u, v), so area A and first moments M give the volume exactly (Pappus–Guldin is the case
of constant frames); a section that changes adds nothing, since it moves within its own plane. The shape
folds over where J ≤ 0.
"""

from __future__ import annotations

import itertools
import math
from collections.abc import Iterator
from dataclasses import dataclass

import numpy as np

from metaspira.numbers.jets import Array
from metaspira.numbers.once import cached_property
from metaspira.numbers.quadrature import RunningIntegral, gauss_points
from metaspira.numbers.vectors import cross
from metaspira.paths import Path
from metaspira.schedules import Varying
from metaspira.sections import Outline, SectionAlong
from metaspira.sweep.along import Changes
from metaspira.sweep.ends import EndShape
from metaspira.sweep.frames import Frames
from metaspira.sweep.stances import Stand

_TURN = 2 * math.pi
_PIECE_TURNS = 0.25
_DOUBLINGS = 6
_FLAT = EndShape("flat")


@dataclass(frozen=True)
class Stretch:
    """A smooth piece of the wire, from `low` to `high` mm, and what shapes its end, if anything does:
    the tip at its start (`tip` −1) or at its end (+1). Asked by p in 0..1, in which it is smooth."""

    low: float
    high: float
    shape: EndShape = _FLAT
    tip: int = 0

    def place(self, p: Array) -> tuple[Array, Array]:
        """True length at p (n,), and its change by p."""
        span = self.high - self.low
        if self.tip == 0:
            return self.low + span * p, np.full_like(p, span)
        if self.tip > 0:
            x, pace = self.shape.along(p)
            return self.low + span * x, span * pace
        x, pace = self.shape.along(1 - p)
        return self.high - span * x, span * pace


@dataclass(frozen=True, eq=False)
class Sweep:
    """A section along the wire, on a path, with its stance, what changes, and its ends."""

    path: Path
    section: SectionAlong
    stand: Stand
    changes: Changes
    ends: tuple[EndShape, EndShape] = (_FLAT, _FLAT)
    is_tube: bool = False
    """A round section square to the wire with its centre on the path: distances are exact."""

    @property
    def length(self) -> float:
        return self.path.length

    @property
    def closed(self) -> bool:
        """The wire ends as it starts, and has no end faces."""
        return self.path.closed

    @property
    def outline(self) -> Outline:
        """The outline at the start of the wire, without what changes along it."""
        return self.section.first

    def share(self, s: Array) -> Array:
        """The share of the wire's length, 0..1."""
        return s / self.length

    def rigid(self, s: Array) -> Frames:
        """Frames of unit axes, with twist and tilt in them, at true length s (n,)."""
        frames = self.stand.frames(s)
        changes = self.changes
        if changes.twist.constant != 0:
            frames = frames.turned(*self._per_mm(changes.twist, s))
        if changes.tilt.constant != 0:
            frames = frames.tilted(*self._per_mm(changes.tilt, s))
        return frames

    def scale(self, s: Array) -> tuple[Array, Array, Array, Array]:
        """Factor on the width and its change per mm, and the same for the depth, (n,) each."""
        size, d_size = self._per_mm(self.changes.size, s)
        width, d_width = self._per_mm(self.changes.width, s)
        depth, d_depth = self._per_mm(self.changes.depth, s)
        width, d_width = width * size, d_width * size + width * d_size
        depth, d_depth = depth * size, d_depth * size + depth * d_size
        if self.stand.stretch is not None:
            factor, change = self.stand.stretch(s)
            width, d_width = width * factor, d_width * factor + width * change
            if self.stand.both:
                depth, d_depth = depth * factor, d_depth * factor + depth * change
        if self._shaped:
            factor, change = self._end_scale(s)
            width, d_width = width * factor, d_width * factor + width * change
            depth, d_depth = depth * factor, d_depth * factor + depth * change
        return width, d_width, depth, d_depth

    def frames(self, s: Array) -> Frames:
        """Frames with all that changes the section in them, at true length s (n,)."""
        frames = self.rigid(s)
        return frames if self.keeps_size else frames.scaled(*self.scale(s))

    @cached_property
    def keeps_size(self) -> bool:
        """The section is as large as typed, everywhere."""
        factors = (self.changes.size, self.changes.width, self.changes.depth)
        return all(f.constant == 1 for f in factors) and self.stand.stretch is None and not self._shaped

    @property
    def _shaped(self) -> bool:
        return any(end.length > 0 for end in self.ends)

    def _per_mm(self, varying: Varying, s: Array) -> tuple[Array, Array]:
        if varying.constant is not None:
            return np.full_like(s, varying.constant), np.zeros_like(s)
        value, rate = varying(s / self.length)
        return value, rate / self.length

    def _end_scale(self, s: Array) -> tuple[Array, Array]:
        factor, change = np.ones_like(s), np.zeros_like(s)
        for end, from_tip, sign in ((self.ends[0], s, -1.0), (self.ends[1], self.length - s, 1.0)):
            on = from_tip < end.length
            if end.length > 0 and on.any():
                value, rate = end.scale(1 - np.maximum(from_tip[on], 0.0) / end.length)
                factor[on], change[on] = value, sign * rate / end.length
        return factor, change

    def uv(self, points: Array, s: Array) -> Array:
        """Section points (outlines, k, 2) as they are at s: (k, 2), or (n, k, 2) where they change."""
        if not self.section.varies:
            return points[0]
        return self.section.spread(points, self.changes.shape.value(s / self.length))

    def ring(self, s: Array, facets: int, line_pieces: int = 1) -> Array:
        """Points of the outer loop at s: (k, 2), or (n, k, 2) where they change."""
        return self.uv(self.section.rings(facets, line_pieces)[0].points, s)

    def reach(self) -> float:
        """Distance of the farthest point of the section from the path, mm, anywhere."""
        s = np.linspace(0.0, self.length, 65)
        width, _, depth, _ = self.scale(s)
        return self.section.reach() * float(np.maximum(np.abs(width), np.abs(depth)).max())

    @cached_property
    def orientation(self) -> float:
        """+1 where (first, second, tangent) is right-handed at the start, −1 where it is left-handed."""
        frames = self.rigid(np.zeros(1))
        return float(np.sign(np.einsum("ij,ij->i", frames.normal, frames.d_origin)[0]) or 1.0)

    def jacobian(self, frames: Frames, uv: Array) -> Array:
        """J (n, k) at section points uv (k, 2) or (n, k, 2); for a unit section on a straight path it is
        1."""
        normal = self.orientation * frames.normal
        return (
            np.einsum("ij,ij->i", normal, frames.d_origin)[:, None]
            + np.einsum("ij,ij->i", normal, frames.d_first)[:, None] * uv[..., 0]
            + np.einsum("ij,ij->i", normal, frames.d_second)[:, None] * uv[..., 1]
        )

    @cached_property
    def volume(self) -> float:
        """Predicted volume, mm³, by the integral at the head of the module."""
        total = 0.0
        for stretch in self.stretches:
            pieces = self.pieces_of(stretch)
            found = self._volume_of(stretch, pieces)
            for _ in range(_DOUBLINGS):
                before, pieces = found, 2 * pieces
                found = self._volume_of(stretch, pieces)
                if abs(found - before) <= 1e-11 * abs(found):
                    break
            total += found
        return total

    def _volume_of(self, stretch: Stretch, pieces: int) -> float:
        p, weights = gauss_points(0.0, 1.0, pieces)
        total = 0.0
        for block in np.array_split(np.arange(len(p)), max(1, len(p) // 20_000)):
            s, pace = stretch.place(p[block])
            area, first_u, first_v = self.section.moments(self.changes.shape.value(s / self.length))
            frames = self.frames(s)
            moving = (
                area[:, None] * frames.d_origin
                + first_u[:, None] * frames.d_first
                + first_v[:, None] * frames.d_second
            )
            total += float((weights[block] * pace) @ np.einsum("ij,ij->i", frames.normal, moving))
        return self.orientation * total

    @cached_property
    def lateral_area(self) -> float:
        """Predicted area of the surface along the wire, mm², without end faces: ∫∫ |∂X/∂s × ∂X/∂t|."""
        nodes, node_weights = gauss_points(0.0, 1.0, 1)
        total = 0.0
        for stretch in self.stretches:
            p, weights = gauss_points(0.0, 1.0, self.pieces_of(stretch))
            s, pace = stretch.place(p)
            frames = self.frames(s)
            for loop in range(len(self.outline.loops)):
                for index in range(len(self.outline.loops[loop].edges)):
                    at = [o.loops[loop].edges[index].at(nodes) for o in self.section.outlines]
                    point, slope = (self.uv(np.stack([a[k] for a in at]), s) for k in (0, 1))
                    along = frames.speeds(point) + self.flow(frames, s, np.stack([a[0] for a in at]))
                    around = (
                        slope[..., 0:1] * frames.first[:, None] + slope[..., 1:2] * frames.second[:, None]
                    )
                    density = np.linalg.norm(cross(around, along), axis=2) @ node_weights
                    total += float((weights * pace) @ density)
        return total

    def flow(self, frames: Frames, s: Array, at: Array) -> Array | float:
        """How fast section points `at` (outlines, k, 2) move within a section that changes, per mm, in
        space (n, k, 3)."""
        if not self.section.varies:
            return 0.0
        place, pace = self.changes.shape(s / self.length)
        rates = self.section.rates(place) * (pace / self.length)[:, None]
        return frames.slopes(np.tensordot(rates, at, axes=1))

    @cached_property
    def wire_length(self) -> float:
        """Length of the line through the sections' centroids, mm."""
        u, v = self.outline.centroid
        if not self.section.varies and math.hypot(u, v) < 1e-12 * self.outline.reach:
            return self.length

        def speed(s: Array) -> Array:
            centroid = self.section.centroids(self.changes.shape.value(s / self.length))[:, None]
            return np.linalg.norm(self.frames(s).speeds(centroid)[:, 0], axis=1)

        total = 0.0
        for stretch in self.stretches:
            s, weights = gauss_points(stretch.low, stretch.high, self.pieces_of(stretch))
            if not self.section.varies and stretch.tip == 0:
                total += RunningIntegral(speed, stretch.low, stretch.high).total
            else:
                total += float(weights @ speed(s))
        return total

    @cached_property
    def stretches(self) -> tuple[Stretch, ...]:
        """The smooth pieces of the wire, in their order."""
        low, high = self.ends[0].length, self.length - self.ends[1].length
        places = [*self.path.breaks, *(b * self.length for b in self.changes.breaks)]
        if self.section.varies:
            places += self._blend_breaks()
        margin = 1e-7 * self.length
        inner = sorted(p for p in places if low + margin < p < high - margin)
        cuts = [low]
        for place in inner:
            if place - cuts[-1] > margin:
                cuts.append(place)
        cuts.append(high)
        pieces = [Stretch(a, b) for a, b in itertools.pairwise(cuts)]
        if low > 0:
            pieces.insert(0, Stretch(0.0, low, self.ends[0], -1))
        if high < self.length:
            pieces.append(Stretch(high, self.length, self.ends[1], 1))
        return tuple(pieces)

    def _blend_breaks(self) -> list[float]:
        """Places where the blend's own breaks are met, on an even or rising way through it."""
        share = np.linspace(0.0, 1.0, 4097)
        value = self.changes.shape.value(share)
        found = []
        for wanted in self.section.breaks:
            crossing = np.flatnonzero(np.diff(np.sign(value - wanted)) != 0)
            for i in crossing:
                step = value[i + 1] - value[i]
                t = share[i] + (wanted - value[i]) / step * (share[i + 1] - share[i]) if step else share[i]
                found.append(float(t) * self.length)
        return found

    @cached_property
    def turning(self) -> float:
        """Angle, radians, by which the frame turns from start to end (with the path and the twist)."""
        return float(self.turned(np.array([self.length]))[0])

    def turned(self, s: Array) -> Array:
        """Angle by which the frame turns, and as much as all else that changes asks for, from 0 to s (n,)."""
        twist = self.changes.twist
        share = s / self.length
        if twist.constant is not None:
            twisting: Array | float = 0.0
        elif twist.pieces <= 1:
            first, last = twist.ends
            twisting = abs(last - first) * share
        else:
            twisting = np.interp(share, *self._twisting)
        return self.path.turned(s) + twisting + self._busy * share

    @cached_property
    def _busy(self) -> float:
        changes = self.changes
        others = (changes.size, changes.width, changes.depth, changes.tilt)
        pieces = sum(v.pieces for v in others if v.constant is None and v.pieces > 1)
        pieces += 2 * sum(1 for v in others if v.constant is None and v.pieces == 1)
        if self.section.varies:
            pieces += 2 * self.section.pieces * max(1, changes.shape.pieces)
        return pieces * _PIECE_TURNS * _TURN + self.stand.turning

    @cached_property
    def _twisting(self) -> tuple[Array, Array]:
        share = np.linspace(0.0, 1.0, 2049)
        rate = np.abs(np.diff(self.changes.twist.value(share)))
        return share, np.concatenate([[0.0], np.cumsum(rate)])

    def stations(self, per_turn: float, least: int = 2) -> Array:
        """True lengths (n,) from 0 to the length, `per_turn` of them for each turn of the frame, and
        every place among them where the shape is not smooth."""
        known = self._stations_known.get((per_turn, least))
        if known is None:
            known = self._stations_known[per_turn, least] = self._new_stations(per_turn, least)
        return known

    @cached_property
    def _stations_known(self) -> dict[tuple[float, int], Array]:
        return {}

    def _new_stations(self, per_turn: float, least: int) -> Array:
        if self._even:
            count = max(least, math.ceil(per_turn * self.turning / _TURN - 1e-9) + 1)
            return np.linspace(0.0, self.length, count)
        found = [s for _, _, s in self.stations_by_stretch(per_turn, least)]
        return np.unique(np.concatenate(found))

    def stations_by_stretch(self, per_turn: float, least: int = 2) -> Iterator[tuple[Stretch, Array, Array]]:
        """Each smooth piece with parameters p (n,) and true lengths s (n,), both of its ends among them."""
        for stretch in self.stretches:
            if stretch.tip:
                p = np.linspace(0.0, 1.0, max(least, math.ceil(per_turn / 4), 6) + 1)
                yield stretch, p, stretch.place(p)[0]
                continue
            low, high = self.turned(np.array([stretch.low, stretch.high]))
            count = max(least, math.ceil(per_turn * (high - low) / _TURN - 1e-9) + 1)
            p = np.linspace(0.0, 1.0, count)
            if not self._even and count > 2:
                fine = np.linspace(0.0, 1.0, 4 * count)
                weight = self.turned(stretch.place(fine)[0])
                weight = weight + 0.02 * max(high - low, 1e-9) * fine
                p = np.interp(np.linspace(weight[0], weight[-1], count), weight, fine)
                p[0], p[-1] = 0.0, 1.0
            s = stretch.place(p)[0]
            s[0], s[-1] = stretch.low, stretch.high
            yield stretch, p, s

    @cached_property
    def _even(self) -> bool:
        """Turning is even in true length, in one smooth piece."""
        return self.path.even and self.changes.twist.pieces <= 1 and len(self.stretches) == 1

    def pieces_of(self, stretch: Stretch) -> int:
        """Pieces for Gauss–Legendre quadrature over a stretch."""
        if stretch.tip:
            return 4
        low, high = self.turned(np.array([stretch.low, stretch.high]))
        return max(4, math.ceil((high - low) / math.pi))
