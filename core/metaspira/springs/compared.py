"""A spring's rate and stress by beams, beside its closed sums."""

from __future__ import annotations

import math
from dataclasses import dataclass

import numpy as np

from metaspira.springs.beam import Beams
from metaspira.springs.compression import Compression

_PER_TURN = 48
_MOST_TURNS = 60.0


@dataclass(frozen=True)
class Compared:
    """Rate (N/mm) and the greatest plain shear stress under 1 N (MPa) while every active turn is open: by beams and
    by the closed sums; and what sets them apart."""

    rate: float
    stress: float
    closed_rate: float
    closed_stress: float
    why: str


def compared(spring: Compression) -> Compared | None:
    """The spring as beams from its first active turn to its last, its ends led without turning; None where it has
    too many turns to be worth the time, or its wire is not round."""
    turns = spring.turns
    if turns.active > _MOST_TURNS or not spring.shape.round:
        return None
    active = np.flatnonzero(turns.room > 0)
    low, high = turns.share[active[0]], turns.share[active[-1]]
    share = np.linspace(low, high, math.ceil((high - low) * turns.turns * _PER_TURN) + 1)
    angle = 2 * math.pi * share * turns.turns
    pitch = turns.pitch.value(share)
    rise = np.concatenate([[0.0], np.cumsum(0.5 * (pitch[1:] + pitch[:-1]) * np.diff(share))])
    radius = turns.radius.value(share)
    nodes = np.stack([radius * np.cos(angle), radius * np.sin(angle), rise * turns.turns], axis=1)
    beams = Beams(nodes, spring.diameter, spring.elastic_modulus, spring.shear_modulus)
    last = 6 * (len(nodes) - 1)
    held = dict.fromkeys(range(6), 0.0) | {last + k: 0.0 for k in range(6)} | {last + 2: -1.0}
    moved, force = beams.solve(held, {})
    rate = -float(force[-1, 2])
    closed = float(turns.radii[active].max()) / spring.shape.modulus
    slope = math.degrees(math.atan(float(np.max(pitch / (2 * math.pi * radius)))))
    why = (
        f"The sums take torsion alone, on turns without slope. The beams bend and stretch too, rise at up to {slope:.3g}°, "
        f"and their ends are led without turning, which moves the force off the axis over {turns.active:.3g} turns"
    )
    return Compared(rate, float(beams.torsion(moved).max()) / rate, spring.first_rate, closed, why)
