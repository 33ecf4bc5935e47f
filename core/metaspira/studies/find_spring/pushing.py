"""Springs that push: cylinders of even pitch with closed and ground ends, by EN 13906-1.

Two loads set the rate and the free length; each wire and mean diameter then sets the turns, n = G d⁴ / (8 D³
R).
"""

from __future__ import annotations

import math
from typing import Any

import numpy as np

from metaspira.materials import MATERIALS
from metaspira.numbers.jets import Array
from metaspira.recipe.model import FORMAT
from metaspira.springs.asked import SEATS
from metaspira.springs.fatigue import PUSHING, used
from metaspira.springs.shape import round_sheared
from metaspira.springs.standard import (
    ALLOWED,
    ALLOWED_SOLID,
    buckles_at,
    gap_wanted,
    guided,
)
from metaspira.springs.wire import SpringWire
from metaspira.studies.find_spring.tried import (
    Tried,
    by_diameter,
    fit_of,
    over,
    shared_uses,
    shear_stiff,
    spring_asked,
)
from metaspira.studies.find_spring.wish import Wish

stiff = shear_stiff
DEAD, POWER = 2.0, 3.0

_CHANGE = 0.5


def tried(wish: Wish, wire: SpringWire, diameter: Array, mean: Array, active: Array) -> Tried:
    """Springs and the limits that they use, named as the checks name them."""
    d, n, (long, short), (weak, strong) = diameter, active, wish.places, wish.efforts
    free = long + weak / wish.rate
    strength = by_diameter(wire.strength, d)
    travel = free - (n + DEAD) * (d + by_diameter(wire.tolerance, d))
    work = free - short
    shear = 8 * mean / (math.pi * d**3)
    pitch = d + (free - (n + DEAD) * d) / n
    fallen = np.maximum(pitch - work / n, d)
    grown = np.sqrt(mean**2 + np.maximum(pitch**2 - fallen**2, 0.0) / math.pi**2) + d
    gaps = n * gap_wanted(mean, d, wish.cycles is not None)
    uses = {
        "stress at work": shear * strong / (ALLOWED * strength),
        "stress at solid length": shear * wish.rate * np.maximum(travel, 0.0) / (ALLOWED_SOLID * strength),
        "travel left to solid length": gaps / np.maximum(travel - work, 1e-9),
        **shared_uses(wish, d, mean, n, grown, mean - d),
    }
    if wish.bore is not None:
        left = wish.bore - 2 * wish.gap - mean - d
        growth = (grown - mean - d) / np.maximum(left, 1e-9)
        uses["growth in the bore"] = np.where(growth <= 1, growth, 0.0)
    if wish.longest is not None:
        uses["free length"] = over(np.asarray(free / wish.longest))
    if wish.cycles is not None:
        line = PUSHING[wire.life, wish.peened].line(1.0, wish.cycles)
        assert line is not None
        corrected = shear * round_sheared(mean / d) / strength
        uses["life"] = used(line, corrected * weak, corrected * strong)
    moduli = by_diameter(lambda one: wire.cold_moduli(one)[1] / wire.cold_moduli(one)[0], d)
    buckles = buckles_at(free, mean, SEATS[wish.seat], moduli)
    led = guided(wish.bore, wish.rod, mean + d, mean - d, mean)
    uses["buckling"] = np.where(led | (buckles >= travel), 0.0, work / buckles)
    length = np.hypot(math.pi * mean, pitch) * n + math.pi * mean * DEAD
    mass = math.pi / 4 * d**2 * length * MATERIALS[wire.material].density
    every = np.zeros(np.shape(mass))
    active_mass = math.pi / 4 * d**2 * np.hypot(math.pi * mean, pitch) * n
    active_mass = active_mass * MATERIALS[wire.material].density
    more = {
        "solid_length": free - travel,
        "block_force": wish.rate * np.maximum(travel, 0.0),
        "frequency": 0.5e3 * np.sqrt(wish.rate / active_mass),
    }
    return Tried(d, mean, n + DEAD, free + every, short + every, mass, shear * strong, grown, uses, more)


def recipe(wish: Wish, wire: SpringWire, diameter: float, mean: float, turns: float) -> dict[str, Any]:
    """The recipe of one, in millimetres."""
    (long, short), (weak, strong) = wish.places, wish.efforts
    return {
        "format": FORMAT,
        "name": f"Spring, {weak:.4g} N at {long:.4g} mm and {strong:.4g} N at {short:.4g} mm",
        "material": wire.material,
        "fit": fit_of(wish),
        "path": {
            "kind": "coil",
            "diameter": mean,
            "turns": turns,
            "height": float(f"{long + weak / wish.rate:.9g}"),
            "closed": {"start": 1, "end": 1, "change": _CHANGE},
        },
        "section": {"kind": "round", "diameter": diameter},
        "ends": {"start": {"kind": "ground"}, "end": {"kind": "ground"}},
        "spring": spring_asked(wish, wire, seat=wish.seat, peened=wish.peened or None),
    }
