"""The two planes of a section on a coil, and how one is found from the other.

A section is seen *across* the wire (square to it) or *axially* (in the plane that contains the axis).
On a helix of radius r and lead angle α, with p = 2π r tan α, the point (u, v) across the wire, screwed
back by δ into the axial plane, stands at

    tan δ = v sin α / (r + u),   ρ = hypot(r + u, v sin α) − r,   z = v cos α + p δ / 2π

and the way back solves (r + ρ) sin δ cos α = (z − p δ / 2π) sin α for δ.
"""

from __future__ import annotations

import numpy as np

from metaspira.numbers.jets import Array

_TURN = 2 * np.pi


def axial_from_across(points: Array, radius: float, pitch: float) -> Array:
    """Points (k, 2) in the plane through the axis, from points (k, 2) square to the wire; mm."""
    lead_angle = np.arctan2(pitch, _TURN * radius)
    u, v = points[:, 0], points[:, 1]
    inward, sideways = radius + u, v * np.sin(lead_angle)
    back = np.arctan2(sideways, inward)
    return np.stack(
        [np.hypot(inward, sideways) - radius, v * np.cos(lead_angle) + pitch * back / _TURN], axis=1
    )


def across_from_axial(points: Array, radius: float, pitch: float) -> Array:
    """Points (k, 2) square to the wire, from points (k, 2) in the plane through the axis; mm."""
    lead_angle = np.arctan2(pitch, _TURN * radius)
    cos, sin = np.cos(lead_angle), np.sin(lead_angle)
    rho, z = radius + points[:, 0], points[:, 1]
    turn = np.zeros_like(rho)
    for _ in range(50):
        rise = z - pitch * turn / _TURN
        error = rho * np.sin(turn) * cos - rise * sin
        slope = rho * np.cos(turn) * cos + pitch / _TURN * sin
        step = error / slope
        turn = turn - step
        if np.all(np.abs(step) < 1e-15):
            break
    rise = z - pitch * turn / _TURN
    return np.stack([rho * np.cos(turn) - radius, rho * np.sin(turn) * sin + rise * cos], axis=1)
