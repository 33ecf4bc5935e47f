"""Springs that turn: cylinders whose legs are held firmly, by EN 13906-3.

Two loads set the rate, R = E d⁴ / (3667 D n), and the angle from free, α = M / R; each wire and mean diameter
then sets the turns.
"""

from __future__ import annotations

import math
from typing import Any

import numpy as np

from metaspira.materials import MATERIALS
from metaspira.numbers.jets import Array
from metaspira.recipe.model import FORMAT
from metaspira.springs.fatigue import TURNING, used
from metaspira.springs.turning import ALLOWED
from metaspira.springs.wire import SpringWire
from metaspira.studies.find_spring.tried import (
    Tried,
    by_diameter,
    fit_of,
    over,
    shared_uses,
    spring_asked,
)
from metaspira.studies.find_spring.wish import Wish

DEAD, POWER = 0.0, 1.0

_OPEN = 1.03
_LEG = 1.5


def stiff(wish: Wish, wire: SpringWire, diameter: Array) -> Array:
    """n D that has the rate."""
    elastic = by_diameter(lambda d: wire.cold_moduli(d)[0], diameter)
    return elastic * diameter**4 * math.radians(1.0) / (64 * wish.rate)


def tried(wish: Wish, wire: SpringWire, diameter: Array, mean: Array, active: Array) -> Tried:
    """Springs and the limits that they use, named as the checks name them."""
    d, n, (weak, strong) = diameter, active, wish.efforts
    strength = by_diameter(wire.strength, d)
    angle = strong / wish.rate
    wound = 1 + angle / 360 / n
    bending = 32 / (math.pi * d**3)
    body = (n * wound * _OPEN + 1) * d
    uses = {
        "stress at work": bending * strong / (ALLOWED * strength),
        **shared_uses(wish, d, mean, n, mean + d, mean / wound - d),
    }
    if wish.longest is not None:
        uses["length of the body"] = over(body / wish.longest)
    if wish.cycles is not None:
        index = mean / d
        line = TURNING[wire.life, wish.peened].line(1.0, wish.cycles)
        corrected = bending * (index + 0.07) / (index - 0.75) / strength
        uses["life"] = used(line, corrected * weak, corrected * strong) if line else np.inf + 0 * corrected
    length = math.pi * mean * n + (0.0 if wish.bore else 2 * _LEG * mean)
    mass = math.pi / 4 * d**2 * length * MATERIALS[wire.material].density
    return Tried(d, mean, n, np.nan + 0 * mass, body, mass, bending * strong + 0 * mass, mean + d, uses)


def recipe(wish: Wish, wire: SpringWire, diameter: float, mean: float, turns: float) -> dict[str, Any]:
    """The recipe of one, in millimetres, with legs where no bore is in their way; its points are those of the
    torques, from free."""
    weak, strong = wish.efforts
    leg = {"kind": "straight", "length": float(f"{_LEG * mean:.6g}")}
    legs = {} if wish.bore else {"legs": {"start": [leg], "end": [leg]}}
    points = [{"angle": float(f"{effort / wish.rate:.9g}")} for effort in (weak, strong)]
    return {
        "format": FORMAT,
        "name": f"Spring, {weak:.4g} N mm and {strong:.4g} N mm {wish.way:.4g}° further",
        "material": wire.material,
        "fit": fit_of(wish),
        "path": {
            "kind": "coil",
            "diameter": mean,
            "turns": turns,
            "pitch": float(f"{_OPEN * diameter:.9g}"),
            **legs,
        },
        "section": {"kind": "round", "diameter": diameter},
        "spring": spring_asked(wish, wire, peened=wish.peened or None) | {"points": points},
    }
