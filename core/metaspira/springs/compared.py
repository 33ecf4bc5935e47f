"""A spring's rate and stress by beams, or by the elastica of its strip, beside its closed sums."""

from __future__ import annotations

import math
from dataclasses import dataclass

import numpy as np

from metaspira.springs.any_spring import AnySpring
from metaspira.springs.beam import Beams
from metaspira.springs.compression import Compression
from metaspira.springs.spiral import Spiral

_PER_TURN = 48
_MOST_TURNS = 60.0
_LITTLE = 5.0


@dataclass(frozen=True)
class Compared:
    """Rate and the greatest plain stress (MPa) under an effort of 1, while every active turn is open: by the
    model and by the closed sums; what sets them apart, and the unit of the effort and of the rate."""

    rate: float
    stress: float
    closed_rate: float
    closed_stress: float
    why: str
    units: tuple[str, str]


def compared(spring: AnySpring) -> Compared | None:
    """The model that stands beside the sums of a spring: beams for one that pushes, the elastica for a
    spiral; None where there is none."""
    if isinstance(spring, Spiral):
        return _by_elastica(spring)
    return _by_beams(spring) if isinstance(spring, Compression) else None


def _by_elastica(spring: Spiral) -> Compared | None:
    """A spiral spring as the elastica of its strip, wound by a little; None where that has no shape."""
    bent = spring.bent_to(_LITTLE)
    if bent is None:
        return None
    most = float(np.abs(bent.bending(np.linspace(0.0, 1.0, 4096))).max())
    why = (
        "The sums take many turns around an axis. The elastica follows this strip between its ends, "
        "which push it aside too, so "
        "that it bends more on one side of each turn than on the other"
    )
    rate = bent.torque * spring.stiffness / _LITTLE
    stress = most / bent.torque / spring.modulus
    return Compared(rate, stress, spring.rate, spring.peak / spring.modulus, why, ("N mm", "N mm/°"))


def _by_beams(spring: Compression) -> Compared | None:
    """The spring as beams from its first active turn to its last, its ends led without turning; None where it
    has too many turns to be worth the time."""
    turns = spring.turns
    if turns.active > _MOST_TURNS:
        return None
    active = np.flatnonzero(turns.room > 0)
    low, high = turns.share[active[0]], turns.share[active[-1]]
    share = np.linspace(low, high, math.ceil((high - low) * turns.turns * _PER_TURN) + 1)
    angle = 2 * math.pi * share * turns.turns
    pitch = turns.pitch.value(share)
    radius = turns.radius.value(share)
    nodes = np.stack([radius * np.cos(angle), radius * np.sin(angle), turns.heights(share)], axis=1)
    beams = Beams(nodes, spring.shape, spring.elastic_modulus, spring.shear_modulus)
    last = 6 * (len(nodes) - 1)
    held = dict.fromkeys(range(6), 0.0) | {last + k: 0.0 for k in range(6)} | {last + 2: -1.0}
    moved, force = beams.solve(held, {})
    rate = -float(force[-1, 2])
    closed = float(turns.radii[active].max()) / spring.shape.modulus
    closed_rate = 1.0 / float(spring.yielding[active].sum() * turns.step)
    slope = math.degrees(math.atan(float(np.max(pitch / (2 * math.pi * radius)))))
    why = (
        "The sums take torsion alone, on turns without slope. The beams bend and stretch too, rise "
        f"at up to {slope:.3g}°, "
        "and their ends are led without turning, which moves the force off the axis over "
        f"{turns.active:.3g} turns"
    )
    stress = float(beams.torsion(moved).max()) / rate
    return Compared(rate, stress, closed_rate, closed, why, ("N", "N/mm"))
