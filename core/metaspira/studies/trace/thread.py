"""A thread out of places on its surface: all of them folded into one axial profile."""

from __future__ import annotations

import math
from dataclasses import dataclass
from typing import Literal

import numpy as np
from scipy.optimize import minimize

from metaspira.numbers.jets import Array
from metaspira.studies.trace.scan import Mask, Scan, spread_of
from metaspira.studies.trace.screw import Screw
from metaspira.studies.trace.traced import TracedNumber
from metaspira.threads.thread import Side

_BINS = 72
_MOST_STARTS = 6
_SEARCH = {"maxfev": 500, "xatol": 1e-3, "fatol": 1e-7}
_AROUND = 48
_FEWEST, _FEW = 1000, 5
_WALL = 0.97


@dataclass(frozen=True, eq=False)
class TracedThread:
    """A thread's numbers, mm and degrees: `crest` is the diameter of what it is measured by, outside of an
    external one; `depth` of its profile; `spread` how far places lie off the one profile, as a share of the
    depth; `profile` (n,) the radius over one pitch."""

    side: Side
    hand: Literal["right", "left"]
    pitch: float
    starts: int
    crest: float
    root: float
    pitch_diameter: float
    flanks: tuple[float, float]
    length: float
    spread: float
    noise: float
    profile: Array

    @property
    def depth(self) -> float:
        return abs(self.crest - self.root) / 2

    @property
    def lead_angle(self) -> float:
        """On the pitch diameter, radians."""
        return math.atan(self.starts * self.pitch / (math.pi * self.pitch_diameter))

    @property
    def figures(self) -> list[TracedNumber]:
        sure = max(0.5 * self.noise, 2e-3)
        outer, inner = ("crest", "root") if self.side == "external" else ("root", "crest")
        return [
            TracedNumber("major_diameter", "Major diameter", getattr(self, outer), 2 * sure, "mm"),
            TracedNumber("pitch_diameter", "Pitch diameter", self.pitch_diameter, 2 * sure, "mm"),
            TracedNumber("minor_diameter", "Minor diameter", getattr(self, inner), 2 * sure, "mm"),
            TracedNumber("pitch", "Pitch", self.pitch, max(2 * sure * self.pitch / self.length, 1e-3), "mm"),
            TracedNumber("starts", "Starts", float(self.starts), 0.0, ""),
            TracedNumber("leading_flank", "Flank angle, towards the start", self.flanks[0], 1.5, "°"),
            TracedNumber("trailing_flank", "Flank angle, towards the end", self.flanks[1], 1.5, "°"),
        ]


def thread_of(scan: Scan, screw: Screw) -> TracedThread | None:
    """The thread around the axis of `screw`, outside or inside; None where the surface folds into no
    profile."""
    points = screw.upright(scan.points)
    normals = scan.normals @ screw.turned.T
    outward = np.einsum("ij,ij->i", normals[:, :2], points[:, :2])
    wall = np.abs(normals[:, 2]) < _WALL
    found: list[_Side] = []
    sides: tuple[Side, Side] = ("external", "internal")
    for side, own in zip(sides, (wall & (outward > 0), wall & (outward < 0)), strict=True):
        wave = _wave(points[own]) if own.sum() > _FEWEST else None
        if wave is not None:
            found.append(_Side(side, own, wave))
    if not found or (len(found) == 2 and _one_wire(*found)):
        return None
    best = max(found, key=lambda one: one.wave.strength)
    wave, mine = best.wave, points[best.own]
    mine = mine[(mine[:, 2] >= wave.low) & (mine[:, 2] <= wave.high)]
    if len(mine) < _FEWEST:
        return None
    mine, lead = _aligned(mine, wave.lead)
    return _measured(mine, lead, wave.starts, best.side, wave.high - wave.low)


def _one_wire(outer: _Side, inner: _Side) -> bool:
    """Whether both sides are there alike and go up and down alike, as those of a wire do."""
    alike = abs(outer.wave.lead - inner.wave.lead) < 0.05 * abs(outer.wave.lead)
    shares = outer.own.sum() / inner.own.sum(), outer.wave.strength / inner.wave.strength
    return alike and all(0.25 < share < 4 for share in shares)


@dataclass(frozen=True, eq=False)
class _Side:
    """One side of the surface: which places are of it, and how it goes up and down."""

    side: Side
    own: Mask
    wave: _Wave


@dataclass(frozen=True)
class _Wave:
    """How the radius goes up and down along the axis and around it: its `lead`, mm, how many `starts`, the
    heights between which it does, and its `strength`, mm."""

    lead: float
    starts: int
    low: float
    high: float
    strength: float


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
    if strength < 6 * noise:
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
    """The radius, mm, of the surface over height (rows) and angle, without its mean at each height; 0 where
    there is nothing."""
    rho = np.hypot(points[:, 0], points[:, 1])
    row = np.minimum(((points[:, 2] - low) / tall * rows).astype(int), rows - 1)
    column = ((np.arctan2(points[:, 1], points[:, 0]) % (2 * math.pi)) / (2 * math.pi) * _AROUND).astype(
        int
    ) % _AROUND
    cell = row * _AROUND + column
    count = np.bincount(cell, minlength=rows * _AROUND)
    picture = (np.bincount(cell, rho, rows * _AROUND) / np.maximum(count, 1)).reshape(rows, _AROUND)
    held = (count > 0).reshape(rows, _AROUND)
    mean = (picture * held).sum(axis=1, keepdims=True) / np.maximum(held.sum(axis=1, keepdims=True), 1)
    return np.where(held, picture - mean, 0.0)


def _fold(points: Array, lead: float, starts: int = 1) -> tuple[Array, Array]:
    theta = np.arctan2(points[:, 1], points[:, 0])
    period = abs(lead) / starts
    return (points[:, 2] - lead * theta / (2 * math.pi)) % period / period, np.hypot(
        points[:, 0], points[:, 1]
    )


def _scatter(phase: Array, rho: Array) -> float:
    index = np.minimum((phase * _BINS).astype(int), _BINS - 1)
    count = np.maximum(np.bincount(index, minlength=_BINS), 1)
    mean = np.bincount(index, rho, _BINS) / count
    return float(np.mean(np.abs(rho - mean[index])))


def _aligned(points: Array, lead: float) -> tuple[Array, float]:
    """The axis moved and tilted, and the lead set, until all places fold into one profile."""
    middle = points[:, 2].mean()
    some = points[:: max(1, len(points) // 6000)]

    def moved(all_of: Array, x: Array) -> Array:
        height = all_of[:, 2] - middle
        return np.stack(
            [all_of[:, 0] - x[0] - x[2] * height, all_of[:, 1] - x[1] - x[3] * height, all_of[:, 2]], axis=1
        )

    scale = np.array([0.05 * abs(lead), 0.05 * abs(lead), 2e-3, 2e-3, 0.004 * lead])

    def off(x: Array) -> float:
        y = x * scale
        return _scatter(*_fold(moved(some, y), lead + y[4]))

    best = min(
        (
            minimize(
                off,
                [0, 0, 0, 0, start],
                method="Nelder-Mead",
                options={"maxfev": 500, "xatol": 1e-3, "fatol": 1e-7},
            )
            for start in (0.0, -3.0, 3.0)
        ),
        key=lambda found: float(found.fun),
    )
    y = best.x * scale
    return moved(points, y), lead + float(y[4])


def _measured(points: Array, lead: float, starts: int, side: Side, length: float) -> TracedThread | None:
    phase, rho = _fold(points, lead, starts)
    pitch = abs(lead) / starts
    index = np.minimum((phase * _BINS).astype(int), _BINS - 1)
    profile = np.array(
        [np.median(rho[index == k]) if (index == k).sum() > 5 else np.nan for k in range(_BINS)]
    )
    if np.isnan(profile).mean() > 0.3:
        return None
    known = ~np.isnan(profile)
    around = np.concatenate([np.flatnonzero(known) + k * _BINS for k in (-1, 0, 1)])
    profile = np.interp(np.arange(_BINS), around, np.tile(profile[known], 3))
    off = rho - profile[index]
    noise = spread_of(off)
    low, high = float(np.percentile(profile, 4)), float(np.percentile(profile, 96))
    depth = high - low
    if depth < 0.02 * pitch or depth > 1.5 * pitch:
        return None
    flanks, middle = _flanks(profile, low, high, pitch)
    crest, root = (high, low) if side == "external" else (low, high)
    return TracedThread(
        side,
        "right" if lead > 0 else "left",
        pitch,
        starts,
        2 * crest,
        2 * root,
        2 * middle,
        flanks,
        length,
        noise / depth,
        noise,
        profile,
    )


def _flanks(profile: Array, low: float, high: float, pitch: float) -> tuple[tuple[float, float], float]:
    """The angles of both flanks to the plane square to the axis, by lines through their middle halves, and
    the radius at which ridge and groove are as wide as each other."""
    dense = 20 * _BINS
    around = np.interp(np.arange(dense) / 20, np.arange(_BINS + 1), np.append(profile, profile[0]))
    levels = np.linspace(low + 0.02 * (high - low), high - 0.02 * (high - low), 60)
    shares = np.array([(around > level).mean() for level in levels])
    middle = float(np.interp(0.5, shares[::-1], levels[::-1]))
    start = int(np.argmin(around))
    around = np.roll(around, -start)
    top = int(np.argmax(around))
    angles = []
    for part in (around[: top + 1], around[top:][::-1]):
        inside = (part > low + 0.25 * (high - low)) & (part < low + 0.75 * (high - low))
        at = np.flatnonzero(inside)
        if len(at) < 3:
            angles.append(0.0)
            continue
        slope = np.polyfit(part[at], at * pitch / dense, 1)[0]
        angles.append(math.degrees(math.atan(abs(slope))))
    return (angles[0], angles[1]), middle
