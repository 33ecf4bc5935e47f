"""The swept shape: a section carried along a path.

    X(s; u, v) = o(s) + u a(s) + v b(s),   J = ± (a × b) · ∂X/∂s,
    volume = ∫∫ J du dv ds = ∫ ± (a × b) · (A o' + M_u a' + M_v b') ds

J is affine in (u, v), so area A and first moments M give the volume exactly (Pappus–Guldin is the case
of constant frames). The shape folds over where J ≤ 0.
"""

from __future__ import annotations

import math
from dataclasses import dataclass
from functools import cached_property

import numpy as np

from metaspira.paths.path import Path
from metaspira.paths.quadrature import Array, RunningIntegral, gauss_points
from metaspira.sections.outline import Outline
from metaspira.sweep.frames import Frames
from metaspira.sweep.schedules import Linear
from metaspira.sweep.stances import FrameAt


@dataclass(frozen=True, eq=False)
class Sweep:
    """A section's outline on a path, with its stance, twist (radians) and size (factor)."""

    path: Path
    outline: Outline
    stance: FrameAt
    twist: Linear
    size: Linear
    is_tube: bool
    """A round section square to the wire with its centre on the path: distances are exact."""

    @property
    def length(self) -> float:
        return self.path.length

    def frames(self, s: Array) -> Frames:
        """Frames with twist and size in them, at true length s (n,)."""
        frames = self.stance(s)
        if not (self.twist.constant and self.twist.start == 0):
            frames = frames.turned(*self.twist(s))
        if not (self.size.constant and self.size.start == 1):
            frames = frames.scaled(*self.size(s))
        return frames

    @cached_property
    def orientation(self) -> float:
        """+1 where (first, second, tangent) is right-handed at the start, −1 where it is left-handed."""
        frames = self.frames(np.zeros(1))
        return float(np.sign(np.einsum("ij,ij->i", frames.normal, frames.d_origin)[0]) or 1.0)

    def jacobian(self, frames: Frames, uv: Array) -> Array:
        """J (n, k) at the section points uv (k, 2); for a unit section on a straight path it is 1."""
        normal = self.orientation * frames.normal
        return (
            np.einsum("ij,ij->i", normal, frames.d_origin)[:, None]
            + np.einsum("ij,ij->i", normal, frames.d_first)[:, None] * uv[None, :, 0]
            + np.einsum("ij,ij->i", normal, frames.d_second)[:, None] * uv[None, :, 1]
        )

    @cached_property
    def volume(self) -> float:
        """Predicted volume, mm³, by the integral at the head of the module."""
        area, first_u, first_v = self.outline.moments
        s, weights = gauss_points(0.0, self.length, self._pieces)
        frames = self.frames(s)
        moving = area * frames.d_origin + first_u * frames.d_first + first_v * frames.d_second
        density = np.einsum("ij,ij->i", frames.normal, moving)
        return self.orientation * float(weights @ density)

    @cached_property
    def wire_length(self) -> float:
        """Length of the line through the sections' centroids, mm."""
        u, v = self.outline.centroid
        if math.hypot(u, v) < 1e-12 * self.outline.reach:
            return self.length
        centroid = np.array([[u, v]])
        return RunningIntegral(
            lambda s: np.linalg.norm(self.frames(s).speeds(centroid)[:, 0], axis=1),
            0.0,
            self.length,
            tolerance=1e-12,
        ).total

    @cached_property
    def turning(self) -> float:
        """Angle, radians, by which the frame turns from start to end (with the path and the twist)."""
        return float(self._turned(np.array([self.length]))[0])

    def stations(self, per_turn: int, least: int = 2) -> Array:
        """True lengths (n,) from 0 to the length, `per_turn` of them for each turn of the frame."""
        count = max(least, math.ceil(per_turn * self.turning / (2 * math.pi) - 1e-9) + 1)
        even = np.linspace(0.0, self.length, count)
        if self._turning_is_even:
            return even
        fine = np.linspace(0.0, self.length, 4 * count)
        stations = np.interp(np.linspace(0.0, self.turning, count), self._turned(fine), fine)
        stations[-1] = self.length
        return stations

    @property
    def _turning_is_even(self) -> bool:
        coil = self.path.coil
        return coil is None or coil.start_radius == coil.end_radius

    @property
    def _pieces(self) -> int:
        return max(4, math.ceil(self.turning / math.pi))

    def _turned(self, s: Array) -> Array:
        """Angle turned from the start to true length s (n,)."""
        twisting = abs(self.twist.rate) * s
        return twisting if self.path.coil is None else self.path.parameter(s) + twisting
