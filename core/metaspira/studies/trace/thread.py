"""A thread out of places on its surface: all of them folded into one axial profile."""

from __future__ import annotations

import math
from dataclasses import dataclass, field, replace
from typing import Literal

import numpy as np
from scipy.optimize import minimize

from metaspira.numbers.jets import Array
from metaspira.studies.trace.around import bins_of, grid_of, middles, share_around, value_at, without_gaps
from metaspira.studies.trace.cone import around_cone, beside, off_cone
from metaspira.studies.trace.scan import Scan, middle_near, spread_of
from metaspira.studies.trace.screw import TURNED_OVER, Screw
from metaspira.studies.trace.traced import LEAST_SURE, TracedNumber
from metaspira.threads.thread import Side

_BINS = 72
_MOST_STARTS = 6
_AROUND = 48
_FEWEST, _FEW, _LEAST_SEEN = 1000, 6, 0.7
_TURNED, _SEEN = 0.5, 0.3
_SEARCH = {"maxfev": 500, "xatol": 1e-3, "fatol": 1e-7}
_WALL = 0.97
_ONE_SURFACE = 1.0
_WELL = 0.03
_ROUNDS, _NEAR = 6, 0.1
_TAPERED = 0.006
_RIM, _MANY = 0.6, 5

STEEPEST = math.radians(32)
"""The lead angle from which on no thread is one; a wave that is clearly steeper is not fitted as one."""

_TOO_STEEP = math.radians(40)


@dataclass(frozen=True, eq=False)
class TracedThread:
    """A thread's numbers, mm and degrees: `crest` is the diameter of what it is measured by, outside of an
    external one; `depth` of its profile; `noise`, mm, how far places lie off the one profile; `facets`, mm,
    how far the mesh's corners do; `profile` (n,) the radius over a pitch. Its diameters grow by `taper` a mm
    along it, and are those at its middle. `places` (n, 3), mm, are those of the scan, upright about its axis,
    from its middle."""

    side: Side
    hand: Literal["right", "left"]
    pitch: float
    starts: int
    crest: float
    root: float
    pitch_diameter: float
    flanks: tuple[float | None, float | None]
    length: float
    noise: float
    facets: float
    profile: Array
    taper: float
    places: Array

    @property
    def lead(self) -> float:
        """How far it runs in a turn, mm, positive to the right."""
        return self.starts * self.pitch * (1 if self.hand == "right" else -1)

    @property
    def narrow(self) -> float:
        """By how much the diameters are less at the small end of what was seen than at the middle, mm."""
        return abs(self.taper) * self.length / 2

    @property
    def depth(self) -> float:
        return abs(self.crest - self.root) / 2

    @property
    def spread(self) -> float:
        """How far places lie off the profile, as a share of its depth."""
        return self.noise / self.depth

    @property
    def lead_angle(self) -> float:
        """On the pitch diameter, radians."""
        return math.atan(self.starts * self.pitch / (math.pi * self.pitch_diameter))

    @property
    def figures(self) -> list[TracedNumber]:
        sure = max(0.5 * self.noise, 2e-3) + self.facets
        turned = max(_TURNED, math.degrees(self.noise / self.depth))
        outer, inner = ("crest", "root") if self.side == "external" else ("root", "crest")
        flanks = zip(("leading", "trailing"), ("start", "end"), self.flanks, strict=True)
        where = " at the small end" if self.taper else ""
        diameters = {
            "major_diameter": getattr(self, outer),
            "pitch_diameter": self.pitch_diameter,
            "minor_diameter": getattr(self, inner),
        }
        leans = 4 * sure / self.length
        return [
            *(
                TracedNumber(
                    key,
                    f"{key.replace('_', ' ').capitalize()}{where}",
                    value - self.narrow,
                    2 * sure + leans * self.pitch,
                    "mm",
                )
                for key, value in diameters.items()
            ),
            *(
                [TracedNumber("taper", "Growth of the diameter in 1 mm", abs(self.taper), leans, "mm")]
                if self.taper
                else []
            ),
            TracedNumber(
                "pitch", "Pitch", self.pitch, max(2 * sure * self.pitch / self.length, LEAST_SURE), "mm"
            ),
            TracedNumber("starts", "Starts", float(self.starts), 0.0, ""),
            *(
                TracedNumber(f"{key}_flank", f"Flank angle, towards the {end}", angle, turned, "°")
                for key, end, angle in flanks
                if angle is not None
            ),
        ]


@dataclass(frozen=True)
class Steep:
    """What winds too steeply for a thread, by its `lead_angle`, radians; nothing else is known of it."""

    lead_angle: float


def thread_of(scan: Scan, screw: Screw) -> TracedThread | Steep | None:
    """The thread around the axis of `screw`, or around that of the cone next to it where the surface folds
    better there, outside or inside; None where it folds into no profile."""
    found = _thread_around(scan, screw)
    if isinstance(found, TracedThread) and found.spread <= _WELL:
        return found
    other = _thread_around(scan, around_cone(scan, screw))
    if not isinstance(other, TracedThread):
        return found or other
    return other if not isinstance(found, TracedThread) or other.spread < found.spread else found


def _thread_around(scan: Scan, screw: Screw) -> TracedThread | Steep | None:
    points = screw.upright(scan.points)
    normals = scan.normals @ screw.turned.T
    outward = np.einsum("ij,ij->i", normals[:, :2], points[:, :2])
    wall = np.abs(normals[:, 2]) < _WALL
    found: list[_Side] = []
    sides: tuple[Side, Side] = ("external", "internal")
    for side, own in zip(sides, (wall & (outward > 0), wall & (outward < 0)), strict=True):
        wave = _wave(points[own]) if own.sum() > _FEWEST else None
        if wave is not None:
            found.append(_Side(side, points[own], wave))
    if not found:
        return None
    best = max(found, key=lambda one: one.wave.strength * len(one.points))
    if len(found) == 2 and _alike(*found):
        if _apart(*found) > _ONE_SURFACE:
            return None
        best = replace(best, points=points[wall])
    if best.lead_angle > _TOO_STEEP:
        return Steep(best.lead_angle)
    steep = points[~wall]  # of its flanks, where its ends are left out
    mine, corners = (
        best.wave.between(one) for one in (np.concatenate([best.points, steep]), screw.upright(scan.corners))
    )
    if len(mine) < _FEWEST:
        return None
    growth = float(off_cone(mine)[1][5])
    if abs(growth) < _TAPERED:
        growth = 0.0
    elif (growth > 0) != (best.side == "external"):
        # a taper begins at the small end of an external thread, at the large end of an internal one
        mine, corners, growth = mine * TURNED_OVER, corners * TURNED_OVER, -growth
    pose = _refined(mine, _aligned(mine, best.wave.lead, growth), best.wave.starts)
    if growth and abs(pose.growth) < _TAPERED:
        pose = _refined(mine, replace(pose, growth=0.0), best.wave.starts)
    return _measured(mine, corners, pose, best)


def _alike(outer: _Side, inner: _Side) -> bool:
    """Whether both sides are there and go up and down alike, as those of a wire do, or of one surface whose
    noise folds its triangles over."""
    alike = abs(outer.wave.lead - inner.wave.lead) < 0.05 * abs(outer.wave.lead)
    shares = len(outer.points) / len(inner.points), outer.wave.strength / inner.wave.strength
    return alike and all(0.25 < share < 4 for share in shares)


def _apart(outer: _Side, inner: _Side) -> float:
    """How far the outer side lies out of the inner one, as a share of how far it goes up and down."""
    pose = _Pose(outer.wave.lead)
    one, other = (middles(*pose.fold(side.points, outer.wave.starts), _BINS, _FEW) for side in (outer, inner))
    return float(np.nanmedian(one - other) / max(np.nanmax(one) - np.nanmin(one), 1e-12))


@dataclass(frozen=True, eq=False)
class _Side:
    """One side of the surface: its places (n, 3), and how it goes up and down."""

    side: Side
    points: Array
    wave: _Wave

    @property
    def lead_angle(self) -> float:
        """In the middle of its surface, radians."""
        radius = float(np.median(np.hypot(self.points[:, 0], self.points[:, 1])))
        return math.atan(abs(self.wave.lead) / (2 * math.pi * radius))


@dataclass(frozen=True)
class _Wave:
    """How the radius goes up and down along the axis and around it: its `lead`, mm, how many `starts`, the
    heights between which it does, and its `strength`, mm."""

    lead: float
    starts: int
    low: float
    high: float
    strength: float

    def between(self, points: Array) -> Array:
        """Those of the places (n, 3) between its heights, where it has enough turns without those in which
        it begins and ends."""
        pitch = abs(self.lead) / self.starts
        rim = _RIM * pitch if self.high - self.low > _MANY * pitch else 0.0
        return points[(points[:, 2] >= self.low + rim) & (points[:, 2] <= self.high - rim)]


@dataclass(frozen=True, eq=False)
class _Pose:
    """The `lead`, mm, around an axis that goes through `shift` (2,), mm, at the height `middle` and is tilted
    by `tilt` (2,); radii are taken back to that height by `growth`, mm a mm."""

    lead: float
    middle: float = 0.0
    shift: Array = field(default_factory=lambda: np.zeros(2))
    tilt: Array = field(default_factory=lambda: np.zeros(2))
    growth: float = 0.0

    def moved(self, by: Array) -> _Pose:
        """The pose with `by` added to the shift, the tilt, the lead, and where it is of 6 to the growth."""
        growth = self.growth + float(by[5:].sum())
        return _Pose(self.lead + float(by[4]), self.middle, self.shift + by[:2], self.tilt + by[2:4], growth)

    def upright(self, points: Array) -> Array:
        """Places (n, 3) about its axis, from its middle."""
        across = beside(points, self.shift, self.tilt, self.middle)
        return np.column_stack([across, points[:, 2] - self.middle])

    def fold(self, points: Array, starts: int) -> tuple[Array, Array]:
        """Where in its pitch, from 0 to 1, each place (n, 3) is, and its radius, mm."""
        x, y, up = self.upright(points).T
        period = abs(self.lead) / starts
        along = up - self.lead * np.arctan2(y, x) / (2 * math.pi)
        return along % period / period, np.hypot(x, y) - self.growth * up


def _wave(points: Array) -> _Wave | None:
    """The strongest wave of the unrolled surface that runs around, by its Fourier transform in two
    directions."""
    low, tall = float(points[:, 2].min()), float(np.ptp(points[:, 2]))
    if tall < 1e-6:
        return None
    rows = min(1024, len(points) // (_AROUND * 2))
    picture = _unrolled(points, low, tall, rows)
    power = np.abs(np.fft.fft2(picture * np.hanning(rows)[:, None], s=(4 * rows, _AROUND)))
    half = power[: 2 * rows]
    half[:8] = 0  # fewer than two turns
    best: tuple[float, int, int] | None = None
    for starts in range(1, _MOST_STARTS + 1):
        for sign in (1, -1):
            column = half[:, (sign * starts) % _AROUND]
            k = int(np.argmax(column))
            if best is None or column[k] > best[0]:
                best = (float(column[k]), k, sign * starts)
    assert best is not None
    strength, k, around = best
    noise = float(np.median(half[half > 0])) if (half > 0).any() else 0.0
    if strength <= 6 * noise:
        return None
    pitch = 4 * tall / k
    # along a crest z / pitch + around · θ / 2π stays the same
    lead = -pitch * around
    height = (np.arange(rows) + 0.5) * tall / rows
    angle = (np.arange(_AROUND) + 0.5) * 2 * math.pi / _AROUND
    carrier = np.exp(-2j * math.pi * (height[:, None] / pitch + around * angle / (2 * math.pi)))
    width = max(1, round(pitch / tall * rows))
    level = np.abs(np.convolve((picture * carrier).mean(axis=1), np.ones(width) / width, mode="same"))
    strong = np.flatnonzero(level > 0.6 * np.percentile(level, 90))
    first, last = float(height[strong[0]]), float(height[strong[-1]])
    return _Wave(lead, abs(around), low + first, low + last, strength / picture.size)


def _unrolled(points: Array, low: float, tall: float, rows: int) -> Array:
    """The radius, mm, of the surface over height (rows) and angle, without that of the cone that fits it best
    around any axis; 0 where there is nothing."""
    around = share_around(np.arctan2(points[:, 1], points[:, 0]))
    return np.nan_to_num(grid_of((points[:, 2] - low) / tall, around, off_cone(points)[0], (rows, _AROUND)))


def _profile(phase: Array, rho: Array) -> Array | None:
    """The middle radius (_BINS,) at each phase; None where most of it was not seen."""
    return without_gaps(middles(phase, rho, _BINS, _FEW), _LEAST_SEEN)


def _scatter(phase: Array, rho: Array) -> float:
    index = bins_of(phase, _BINS)
    count = np.maximum(np.bincount(index, minlength=_BINS), 1)
    mean = np.bincount(index, rho, _BINS) / count
    return float(np.mean(np.abs(rho - mean[index])))


def _aligned(points: Array, lead: float, growth: float) -> _Pose:
    """The axis moved and tilted, and the lead set, until all places fold into one profile."""
    still = _Pose(lead, float(points[:, 2].mean()), growth=growth)
    some = points[:: max(1, len(points) // 6000)]
    shift = 0.05 * abs(lead)
    tilt = 2 * shift / float(np.ptp(points[:, 2]))
    scale = np.array([shift, shift, tilt, tilt, 0.004 * lead])
    best = min(
        (
            minimize(
                lambda x: _scatter(*still.moved(x * scale).fold(some, 1)),
                np.zeros(5),
                method="Nelder-Mead",
                options={**_SEARCH, "initial_simplex": np.vstack([np.zeros(5), wide * np.eye(5)])},
            )
            for wide in (0.5, -2.0)
        ),
        key=lambda found: float(found.fun),
    )
    return still.moved(best.x * scale)


def _refined(points: Array, pose: _Pose, starts: int) -> _Pose:
    """The pose and the profile that fit the places best together, by least squares that heed places less
    that are far off."""
    steps = np.array([1e-4, 1e-4, 1e-5, 1e-5, 1e-5]) * abs(pose.lead)
    if pose.growth:
        steps = np.append(steps, 1e-5)
    best, unfit = pose, math.inf
    for _ in range(_ROUNDS):
        phase, rho = pose.fold(points, starts)
        profile = _profile(phase, rho)
        if profile is None:
            break
        index = bins_of(phase, _BINS)

        def off(at: _Pose, profile: Array = profile) -> Array:
            phase, rho = at.fold(points, starts)
            return rho - value_at(profile, phase)

        here = rho - value_at(profile, phase)
        steep = np.gradient(np.pad(profile, 1, mode="wrap"))[1:-1] * _BINS * starts / abs(pose.lead)
        level = (1 / np.hypot(1.0, steep))[index]  # how far is square to the profile
        far = np.abs(here) * level
        spread = max(spread_of(far), 1e-9)
        if spread >= unfit:
            break
        best, unfit = pose, spread
        columns = np.stack([(off(pose.moved(by)) - here) / by.sum() for by in np.diag(steps)], axis=1)
        weight = level**2 / np.maximum(1.0, far / (2 * spread)) * (far < 6 * spread)
        held = np.maximum(np.bincount(index, weight, _BINS), 1e-12)
        free = [  # what the profile takes up at each phase
            one - (np.bincount(index, weight * one, _BINS) / held)[index] for one in (here, *columns.T)
        ]
        matrix = np.stack(free[1:], axis=1)
        step = np.linalg.lstsq((matrix * weight[:, None]).T @ matrix, -matrix.T @ (weight * free[0]))[0]
        pose = pose.moved(step)
    return best


def _measured(points: Array, corners: Array, pose: _Pose, of: _Side) -> TracedThread | None:
    starts, side = of.wave.starts, of.side
    phase, rho = pose.fold(points, starts)
    pitch = abs(pose.lead) / starts
    profile = _profile(phase, rho)
    if profile is None:
        return None
    off = rho - value_at(profile, phase)
    noise = spread_of(off)
    facets = _facets(profile, *pose.fold(corners, starts), noise)
    profile = profile + facets
    low, high = float(np.percentile(profile, 4)), float(np.percentile(profile, 96))
    depth = high - low
    if depth < 0.02 * pitch or depth > 1.5 * pitch:
        return None
    count = np.bincount(bins_of(phase, _BINS), minlength=_BINS).astype(float)
    leading, trailing, middle = _flanks(profile, count, low, high, pitch)
    crest, root = (high, low) if side == "external" else (low, high)
    return TracedThread(
        side,
        "right" if pose.lead > 0 else "left",
        pitch,
        starts,
        2 * crest,
        2 * root,
        2 * middle,
        (leading, trailing),
        of.wave.high - of.wave.low,
        noise,
        abs(facets),
        profile,
        2 * pose.growth,
        pose.upright(points),
    )


def _facets(profile: Array, phase: Array, rho: Array, noise: float) -> float:
    """How far, mm, the corners of the mesh lie out of the profile of its triangles, which are chords."""
    off = rho - value_at(profile, phase)
    return middle_near(off, max(6 * noise, _NEAR * float(np.ptp(profile))), _FEWEST)


def _flanks(
    profile: Array, count: Array, low: float, high: float, pitch: float
) -> tuple[float | None, float | None, float]:
    """The angles of both flanks to the plane square to the axis, by lines through their middle halves, None
    where by the `count` of places in each bin it was hardly seen; and the radius at which ridge and groove
    are as wide as each other."""
    dense = 20 * _BINS
    around = np.interp(np.arange(dense) / 20, np.arange(_BINS + 1), np.append(profile, profile[0]))
    levels = np.linspace(low + 0.02 * (high - low), high - 0.02 * (high - low), 60)
    shares = np.array([(around > level).mean() for level in levels])
    middle = float(np.interp(0.5, shares[::-1], levels[::-1]))
    start = int(np.argmin(around))
    around = np.roll(around, -start)
    seen = np.roll(np.repeat(count, 20), -start)
    top = int(np.argmax(around))
    angles: list[float | None] = []
    for part, places in ((around[: top + 1], seen[: top + 1]), (around[top:][::-1], seen[top:][::-1])):
        at = np.flatnonzero((part > low + 0.25 * (high - low)) & (part < low + 0.75 * (high - low)))
        if len(at) < 3:
            angles.append(0.0)
            continue
        slope = np.polyfit(part[at], at * pitch / dense, 1)[0]
        hidden = float(np.median(places[at])) < _SEEN * float(np.median(count))
        angles.append(None if hidden else math.degrees(math.atan(abs(slope))))
    return angles[0], angles[1], middle
