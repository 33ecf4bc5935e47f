"""The surface of a thread: a screw motion of its transverse section, with neither boolean nor trimming.

With a profile (z(v), ρ(v)), the lead L and the height h of a plane square to the axis,

    φ = ± 2π (h − z(v)) / L + 2π j / n,   r = base(h) + min(max(ρ(v), low(h)), high(h)),   j = 0 … n − 1

is the whole outline of the part in that plane: n starts, one pitch each. `base` follows the host's outline,
`high` cuts the crests off (a chamfer, an undercut), `low` fills the roots (a run-out, a shank). Planes at
which a level reaches a corner of the profile cut the surface into pieces on which every edge of the profile
is one smooth patch, and the patches of a piece meet along whole sides. The area of the section is π/P ∫ r² dz
over a pitch.

Where the thread begins blunt, a plane through the axis cuts its lobe: it stands at z = h − h₀ in the plane at
h, so that of the profile only z ≤ h − h₀ is left, and of an end likewise z ≥ h − h₀.
"""

from __future__ import annotations

import itertools
import math
from dataclasses import dataclass

import numpy as np

from metaspira.numbers.jets import Array
from metaspira.numbers.once import cached_property
from metaspira.sections.outline import Edge
from metaspira.threads.profile import Cut, Flat, Held, Kept, Profile
from metaspira.threads.thread import Hand

_NOTHING = 1e-9
_SNAP = 1e-9
_MOST_HELD = 200
_NODES, _WEIGHTS = np.polynomial.legendre.leggauss(24)


@dataclass(frozen=True, eq=False)
class Leg:
    """A stretch of the part along its axis: its outline, an edge in (r, z) whose r is the base, and both
    levels from and to, each growing evenly with the edge's parameter."""

    outline: Edge
    low: tuple[float, float] = (-1e9, -1e9)
    high: tuple[float, float] = (1e9, 1e9)

    def part(self, first: float, last: float) -> Leg:
        """The leg between two shares of itself."""

        def between(ends: tuple[float, float]) -> tuple[float, float]:
            a, b = ends
            return a + (b - a) * first, a + (b - a) * last if last < 1 else b

        return Leg(self.outline.part(first, last), between(self.low), between(self.high))

    @property
    def heights(self) -> tuple[float, float]:
        return float(self.outline.points[0, 1]), float(self.outline.points[-1, 1])


@dataclass(frozen=True)
class Slot:
    """One patch around the section: an edge of a chain, or the flat after it (`edge` −1): the outer one after
    the rising chain, the inner one after the falling; or the plane through the axis that cuts a lobe, after
    the part that it keeps or before."""

    rising: bool
    edge: int
    cut: Kept | None = None

    @property
    def is_flat(self) -> bool:
        return self.edge < 0


@dataclass(frozen=True, eq=False)
class Piece:
    """A stretch on which the patches stay the same. Its parameter q runs 0..1; `ease` says at which ends the
    height starts from rest, so that the patches are smooth where a level touches a round edge."""

    leg: Leg
    ease: tuple[bool, bool]

    def shares(self, q: Array) -> Array:
        """Share of the leg (n,) at q."""
        first, last = self.ease
        if first and last:
            return q * q * (3 - 2 * q)
        if first:
            return q * q
        return 1 - (1 - q) ** 2 if last else q

    def rates(self, q: Array) -> Array:
        """Growth of the share (n,) by q."""
        first, last = self.ease
        if first and last:
            return 6 * q * (1 - q)
        if first:
            return 2 * q
        return 2 * (1 - q) if last else np.ones_like(q)

    def values(self, q: Array) -> tuple[Array, Array, Array, Array]:
        """Height, base, low and high level (n,) at q."""
        p = self.shares(q)
        leg = self.leg
        place = leg.outline.at(p)[0]
        low, high = (
            np.where(p < 1, ends[0] + (ends[1] - ends[0]) * p, ends[1]) for ends in (leg.low, leg.high)
        )
        return place[:, 1], place[:, 0], low, high


@dataclass(frozen=True, eq=False)
class ThreadSurface:
    """The lateral surface of a threaded part, from its first plane to its last. `blunt` are the heights at
    which z = 0 of the profile is in the plane that cuts the lobe standing on the flat `rests`, at the start
    and at the end."""

    profile: Profile
    starts: int
    hand: Hand
    legs: tuple[Leg, ...]
    rests: Flat = "inner"
    blunt: tuple[float | None, float | None] = (None, None)

    @property
    def lead(self) -> float:
        return self.profile.pitch * self.starts

    @property
    def sign(self) -> float:
        return 1.0 if self.hand == "right" else -1.0

    @property
    def length(self) -> float:
        return self.legs[-1].heights[1] - self.legs[0].heights[0]

    @cached_property
    def pieces(self) -> tuple[Piece, ...]:
        found: list[Piece] = []
        for leg in self.legs:
            cuts = {0.0, 1.0}
            for ends in (leg.low, leg.high):
                if ends[0] != ends[1]:
                    shares = (self.profile.levels - ends[0]) / (ends[1] - ends[0])
                    cuts |= {float(s) for s in shares if 1e-9 < s < 1 - 1e-9}
            edges = sorted(cuts)
            parts = [self._snapped(leg.part(a, b)) for a, b in itertools.pairwise(edges)]
            found += [Piece(part, self._ease(part)) for part in parts]
        return tuple(found)

    def _snapped(self, leg: Leg) -> Leg:
        """The leg with levels that reach a corner of the profile exactly on it."""

        def snap(ends: tuple[float, float]) -> tuple[float, float]:
            first, last = (
                next((float(v) for v in self.profile.levels if abs(v - end) < _SNAP), end) for end in ends
            )
            return first, last

        return Leg(leg.outline, snap(leg.low), snap(leg.high))

    def _ease(self, leg: Leg) -> tuple[bool, bool]:
        """At which ends a level touches a round edge along its tangent."""
        touches = [False, False]
        for edge in (*self.profile.rising.edges, *self.profile.falling.edges):
            if edge.is_line:
                continue
            radii = sorted((float(edge.points[0, 1]), float(edge.points[-1, 1])))
            slope = edge.at(np.array([0.0, 1.0]))[1]
            flat = np.abs(slope[:, 1]) < 1e-6 * np.abs(slope[:, 0])
            for values in (leg.low, leg.high):
                on_edge = radii[0] - 1e-9 < min(values) and max(values) < radii[1] + 1e-9
                if values[0] == values[1] or not on_edge:
                    continue
                for k in (0, 1):
                    tops = edge.points[[0, -1], 1][flat]
                    touches[k] |= bool(np.any(np.abs(tops - values[k]) < 1e-9))
        return touches[0], touches[1]

    @cached_property
    def slots(self) -> tuple[Slot, ...]:
        """The patches around one start, by growing z."""
        profile = self.profile
        chains = {
            "inner": tuple(Slot(True, k) for k in range(len(profile.rising.edges))),
            "outer": tuple(Slot(False, k) for k in range(len(profile.falling.edges))),
        }
        found: list[Slot] = []
        for flat, chain in chains.items():
            lobe = flat == self.rests
            found.append(Slot(flat == "outer", -1))
            if lobe and self.blunt[1] is not None:
                found.append(Slot(False, 0, "after"))
            found += chain
            if not lobe and self.blunt[0] is not None:
                found.append(Slot(False, 0, "before"))
        return tuple(found)

    def _kept(self, piece: Piece) -> Kept | None:
        """What a plane through the axis leaves of the lobe on a piece."""
        first, last = self.blunt
        low, high = piece.leg.heights
        corners = self.profile.lobe(self.rests)
        if first is not None and high < first + corners[-1] + _SNAP:
            return "before"
        return "after" if last is not None and low > last + corners[0] - _SNAP else None

    def _cut_z(self, piece: Piece, keeps: Kept, q: Array) -> Array:
        """z (n,) at which the lobe is cut at q (n,)."""
        at = self.blunt[0] if keeps == "before" else self.blunt[1]
        assert at is not None
        corners = self.profile.lobe(self.rests)
        z = np.clip(piece.values(q)[0] - at, corners[0], corners[-1])
        for corner in corners:
            z = np.where(np.abs(z - corner) < _SNAP, corner, z)
        return z

    def width(self, piece: Piece, slot: Slot) -> float:
        """The greatest angle that a patch spans, radians."""
        return self._patch_facts(piece, slot)[1]

    @cached_property
    def _facts(self) -> dict[tuple[Piece, Slot], tuple[tuple[bool, bool, bool], float]]:
        return {}

    def _patch_facts(self, piece: Piece, slot: Slot) -> tuple[tuple[bool, bool, bool], float]:
        """What `is_nothing` and `width` tell of a patch, worked out once."""
        if (piece, slot) not in self._facts:
            self._facts[piece, slot] = self._nothing(piece, slot), self._width(piece, slot)
        return self._facts[piece, slot]

    def _width(self, piece: Piece, slot: Slot) -> float:
        z, _ = self._across(slot, self._held(piece, np.linspace(0, 1, 9)), np.array([0.0, 1.0]))
        return 2 * math.pi * float(np.abs(z[:, 1] - z[:, 0]).max()) / self.lead

    @cached_property
    def _holds(self) -> dict[tuple[Piece, bytes], Held]:
        return {}

    def _held(self, piece: Piece, q: Array) -> Held:
        """The profile at places q (n,) of a piece; one row stands for all where the levels stay."""
        key = piece, q.tobytes()
        if key not in self._holds:
            if len(self._holds) > _MOST_HELD:
                self._holds.clear()
            _, _, low, high = piece.values(q)
            keeps = self._kept(piece)
            stays = piece.leg.low[0] == piece.leg.low[1] and piece.leg.high[0] == piece.leg.high[1]
            rows = slice(1) if stays and keeps is None else slice(None)
            held = self.profile.held(low[rows], high[rows])
            if keeps is not None:
                held = self.profile.cut(held, self._cut_z(piece, keeps, q), keeps, self.rests)
            self._holds[key] = held
        return self._holds[key]

    def _across(self, slot: Slot, held: Held, w: Array) -> tuple[Array, Array]:
        """z and radius less base, (n, m), of a patch at shares w (m,) of its width, by growing z."""
        profile = self.profile
        low, high = held.low, held.high
        if slot.cut is not None:
            return _in_cut(held, slot.cut, w)
        if slot.is_flat:
            if slot.rising:
                first, last, own = held.rising_z[1], held.falling_z[0], profile.outer
            else:
                first, last, own = held.falling_z[1] - profile.pitch, held.rising_z[0], profile.inner
            radius = np.minimum(np.maximum(own, low), high)
            return first[:, None] + (last - first)[:, None] * w, np.repeat(radius[:, None], len(w), 1)
        chain, (a, b) = (profile.rising, held.rising) if slot.rising else (profile.falling, held.falling)
        if held.cut is not None and held.cut.chain is chain and chain.is_upright:
            return _down(held.cut, w)
        a, b = a[slot.edge], b[slot.edge]
        t = a[:, None] + (b - a)[:, None] * w
        point = chain.edges[slot.edge].at(t.ravel())[0].reshape(*t.shape, 2)
        radius = np.minimum(np.maximum(point[..., 1], low[:, None]), high[:, None])
        return point[..., 0], radius

    def patch(self, piece: Piece, slot: Slot, start: int, q: Array, w: Array) -> Array:
        """Places (n, m, 3) on a patch at q (n,) and at shares w (m,) of its width by growing angle."""
        place = piece.leg.outline.at(piece.shares(q))[0]
        height, base = place[:, 1], place[:, 0]
        z, radius = self._across(slot, self._held(piece, q), w if self.hand == "left" else 1 - w)
        angle = self._angle(height[:, None], z, start)
        r = base[:, None] + radius
        return np.stack(
            [r * np.cos(angle), r * np.sin(angle), np.broadcast_to(height[:, None], r.shape)], axis=-1
        )

    def _angle(self, height: Array, z: Array, start: int) -> Array:
        turn = 2 * math.pi
        return self.sign * turn * (height - z) / self.lead + turn * start / self.starts

    def around(self) -> list[tuple[int, Slot]]:
        """Every patch of a piece, (start, slot), by growing angle all the way around."""
        slots = self.slots if self.hand == "left" else self.slots[::-1]
        return [(start, slot) for start in range(self.starts) for slot in slots]

    def is_nothing(self, piece: Piece, slot: Slot) -> tuple[bool, bool, bool]:
        """Whether a patch has no width at the first plane of a piece, along it, and at the last one."""
        return self._patch_facts(piece, slot)[0]

    def _nothing(self, piece: Piece, slot: Slot) -> tuple[bool, bool, bool]:
        held = self._held(piece, np.array([0.0, 0.5, 1.0]))
        z, radius = self._across(slot, held, np.array([0.0, 1.0]))
        wide = np.hypot(z[:, 1] - z[:, 0], radius[:, 1] - radius[:, 0]) > _NOTHING * self.profile.pitch
        first, middle, last = wide if len(wide) == 3 else (wide[0],) * 3
        return not first, not middle, not last

    def area(self, piece: Piece, q: Array) -> Array:
        """Area (n,) enclosed at q, mm²."""
        base = piece.values(q)[1]
        first, second = self.profile.moments(self._held(piece, q))
        return math.pi * (base**2 + (2 * base * first + second) / self.profile.pitch)

    @cached_property
    def volume(self) -> float:
        """Volume enclosed between the first plane and the last, mm³: ∫ area dh."""
        q = 0.5 * (1 + _NODES)
        total = 0.0
        for piece in self.pieces:
            rise = piece.leg.outline.at(piece.shares(q))[1][:, 1] * piece.rates(q)
            total += 0.5 * float((self.area(piece, q) * rise) @ _WEIGHTS)
        return total

    @cached_property
    def outer_radius(self) -> float:
        return max(self._radius(leg, self.profile.outer) for leg in self.legs)

    @cached_property
    def inner_radius(self) -> float:
        return min(self._radius(leg, self.profile.inner, most=False) for leg in self.legs)

    def _radius(self, leg: Leg, own: float, most: bool = True) -> float:
        base = leg.outline.at(np.linspace(0, 1, 33))[0][:, 0]
        low, high = (np.linspace(*ends, 33) for ends in (leg.low, leg.high))
        radius = base + np.minimum(np.maximum(own, low), high)
        return float(radius.max() if most else radius.min())


def _in_cut(held: Held, keeps: Kept, w: Array) -> tuple[Array, Array]:
    """z and radius (n, m) of the patch in the plane that cuts a lobe, nothing where it does not, or where an
    upright flank stands there."""
    cut = held.cut
    if cut is None or cut.keeps != keeps or cut.chain.is_upright:
        nothing = np.zeros((len(held.low), len(w)))
        return nothing, nothing
    return _down(cut, w)


def _down(cut: Cut, w: Array) -> tuple[Array, Array]:
    """z and radius (n, m) of a lobe's cut from its top to its foot, or up where the lobe lies after it."""
    first, last = (cut.top, cut.foot) if cut.keeps == "before" else (cut.foot, cut.top)
    radius = first[:, None] + (last - first)[:, None] * w
    return np.broadcast_to(cut.z[:, None], radius.shape), radius
