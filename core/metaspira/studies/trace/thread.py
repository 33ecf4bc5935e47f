"""A thread out of places on its surface: all of them folded into one axial profile."""

from __future__ import annotations

import math
from dataclasses import dataclass
from typing import Literal

import numpy as np
from scipy.optimize import minimize

from metaspira.numbers.jets import Array
from metaspira.studies.trace.scan import Scan
from metaspira.studies.trace.screw import Screw
from metaspira.studies.trace.traced import Measured

_BINS = 72
_MOST_STARTS = 6


@dataclass(frozen=True, eq=False)
class TracedThread:
    """A thread's numbers, mm and degrees: `crest` is the diameter of what it is measured by, outside of an
    external one; `depth` of its profile; `spread` how far places lie off the one profile, as a share of the
    depth."""

    side: Literal["external", "internal"]
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

    @property
    def depth(self) -> float:
        return abs(self.crest - self.root) / 2

    @property
    def figures(self) -> list[Measured]:
        sure = max(0.5 * self.noise, 2e-3)
        outer, inner = ("crest", "root") if self.side == "external" else ("root", "crest")
        return [
            Measured("major_diameter", "Major diameter", getattr(self, outer), 2 * sure, "mm"),
            Measured("pitch_diameter", "Pitch diameter", self.pitch_diameter, 2 * sure, "mm"),
            Measured("minor_diameter", "Minor diameter", getattr(self, inner), 2 * sure, "mm"),
            Measured("pitch", "Pitch", self.pitch, max(2 * sure * self.pitch / self.length, 1e-3), "mm"),
            Measured("starts", "Starts", float(self.starts), 0.0, ""),
            Measured("leading_flank", "Flank angle, towards the start", self.flanks[0], 1.5, "°"),
            Measured("trailing_flank", "Flank angle, towards the end", self.flanks[1], 1.5, "°"),
        ]


def thread_of(scan: Scan, screw: Screw) -> TracedThread | None:
    """The thread around the axis of `screw`; None where the surface folds into no profile."""
    points = screw.upright(scan.points)
    normals = scan.normals @ screw.turned.T
    wall = np.abs(normals[:, 2]) < 0.97
    points, normals = points[wall], normals[wall]
    lead = screw.lead
    if len(points) < 2000 or abs(lead) < 1e-6:
        return None
    own = _threaded(points, normals, abs(lead))
    if own.sum() < 1000:
        return None
    points, normals = points[own], normals[own]
    length = float(np.ptp(points[:, 2]))
    points, lead = _aligned(points, lead)
    starts = _starts(points, lead)
    return _measured(points, normals, lead, starts, length)


def _threaded(points: Array, normals: Array, lead: float) -> Array:
    """The places (n,) where the surface slopes up and down along the axis: not a shank, a head or a chamfer."""
    height = points[:, 2]
    low = float(height.min())
    count = max(1, math.ceil(float(np.ptp(height)) / lead * 2))
    index = np.minimum(((height - low) / (float(np.ptp(height)) + 1e-12) * count).astype(int), count - 1)
    rho = np.hypot(points[:, 0], points[:, 1])
    steep = np.bincount(index, np.abs(normals[:, 2]) > 0.25, count) / np.maximum(np.bincount(index, minlength=count), 1)
    depth = np.array([np.ptp(np.percentile(rho[index == k], [10, 90])) if (index == k).sum() > 20 else 0 for k in range(count)])
    wanted = (steep > 0.5 * np.median(steep[steep > 0.1]) if (steep > 0.1).any() else steep > 1) & (
        depth < 1.6 * np.median(depth) + 1e-9
    )
    return np.asarray(wanted[index])


def _fold(points: Array, lead: float, starts: int = 1) -> tuple[Array, Array]:
    theta = np.arctan2(points[:, 1], points[:, 0])
    period = abs(lead) / starts
    return (points[:, 2] - lead * theta / (2 * math.pi)) % period / period, np.hypot(points[:, 0], points[:, 1])


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
            minimize(off, [0, 0, 0, 0, start], method="Nelder-Mead", options={"maxfev": 500, "xatol": 1e-3, "fatol": 1e-7})
            for start in (0.0, -3.0, 3.0)
        ),
        key=lambda found: float(found.fun),
    )
    y = best.x * scale
    return moved(points, y), lead + float(y[4])


def _starts(points: Array, lead: float) -> int:
    """Of how many equal grooves a turn is made: the most that fold as well as one does."""
    scatter = [_scatter(*_fold(points, lead, starts)) for starts in range(1, _MOST_STARTS + 1)]
    return max(k + 1 for k, value in enumerate(scatter) if value < 1.25 * scatter[0] + 1e-6)


def _measured(points: Array, normals: Array, lead: float, starts: int, length: float) -> TracedThread | None:
    phase, rho = _fold(points, lead, starts)
    pitch = abs(lead) / starts
    out = np.einsum("ij,ij->i", normals[:, :2], points[:, :2]) / np.maximum(rho, 1e-12)
    side: Literal["external", "internal"] = "external" if float(out.mean()) > 0 else "internal"
    index = np.minimum((phase * _BINS).astype(int), _BINS - 1)
    profile = np.array([np.median(rho[index == k]) if (index == k).sum() > 5 else np.nan for k in range(_BINS)])
    if np.isnan(profile).mean() > 0.3:
        return None
    known = ~np.isnan(profile)
    around = np.concatenate([np.flatnonzero(known) + k * _BINS for k in (-1, 0, 1)])
    profile = np.interp(np.arange(_BINS), around, np.tile(profile[known], 3))
    off = rho - profile[index]
    noise = 1.4826 * float(np.median(np.abs(off)))
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
    )


def _flanks(profile: Array, low: float, high: float, pitch: float) -> tuple[tuple[float, float], float]:
    """The angles of both flanks to the plane square to the axis, by lines through their middle halves, and the
    radius at which ridge and groove are as wide as each other."""
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

