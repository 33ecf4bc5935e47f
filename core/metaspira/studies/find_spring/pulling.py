"""Springs that pull: close-wound bodies with full loops at both ends, by EN 13906-2, hooks after Shigley.

Two loads set the rate; each wire and mean diameter then sets the turns, those the length inside the hooks, L₀
= n p + 2 (b + D) − d with bends of radius b, and that the initial tension, F₀ = F₁ − R (L₁ − L₀), which has
to be one that can be wound.
"""

from __future__ import annotations

import math
from typing import Any

import numpy as np

from metaspira.materials import MATERIALS
from metaspira.numbers.jets import Array
from metaspira.recipe.model import FORMAT
from metaspira.springs.extension import BENT, BODY, TWISTED, most_initial_stress
from metaspira.springs.fatigue import BODY as BODY_LIFE
from metaspira.springs.fatigue import HOOK_BENT, HOOK_TWISTED, used
from metaspira.springs.shape import round_hooked, round_sheared
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
DEAD, POWER = 0.0, 3.0

_CLOSE = 1.005
_BEND = 0.25
_LEAST_BEND = 1.5
_LOOPS = 2 * (math.pi / 2 + 0.25 + 5 / 3 * math.pi / 2)


def _bend(diameter: Array, mean: Array) -> Array:
    return np.maximum(_BEND * mean, _LEAST_BEND * diameter)


def _free(diameter: Array, mean: Array, turns: Array) -> Array:
    """Length inside the hooks, mm."""
    return turns * _CLOSE * diameter + 2 * (_bend(diameter, mean) + mean) - diameter


def tried(wish: Wish, wire: SpringWire, diameter: Array, mean: Array, active: Array) -> Tried:
    """Springs and the limits that they use, named as the checks name them."""
    d, n, (short, long), (weak, strong) = diameter, active, wish.places, wish.efforts
    strength = by_diameter(wire.strength, d)
    free = _free(d, mean, n)
    initial = weak - wish.rate * (short - free)
    shear = 8 * mean / (math.pi * d**3)
    in_loop, in_bend = round_hooked(mean / d, 2 * _bend(d, mean) / d)
    bent, twisted = 2 * in_loop * shear + 4 / (math.pi * d**2), in_bend * shear
    uses = {
        "stress in the body": shear * strong / (BODY * strength),
        "stress in the hooks": np.maximum(bent / BENT, twisted / TWISTED) * strong / strength,
        "initial tension": np.where(initial < 0, np.inf, shear * initial / most_initial_stress(mean / d)),
        "length": over(free / short),
        **shared_uses(wish, d, mean, n, mean + d, mean - d),
    }
    if wish.longest is not None:
        uses["free length"] = over(free / wish.longest)
    if wish.cycles is not None:
        corrected = shear * round_sheared(mean / d)
        stresses = ((BODY_LIFE, corrected), (HOOK_BENT, bent), (HOOK_TWISTED, twisted))
        lines = [(life.line(1.0, wish.cycles), stress / strength) for life, stress in stresses]
        uses["life"] = np.max(
            [used(line, stress * weak, stress * strong) for line, stress in lines if line], axis=0
        )
    length = math.pi * mean * n + _LOOPS * mean
    mass = math.pi / 4 * d**2 * length * MATERIALS[wire.material].density
    return Tried(d, mean, n, free, long + 0 * free, mass, shear * strong, mean + d, uses)


def recipe(wish: Wish, wire: SpringWire, diameter: float, mean: float, turns: float) -> dict[str, Any]:
    """The recipe of one, in millimetres."""
    (short, long), (weak, strong) = wish.places, wish.efforts
    wide, mid, all_turns = (np.asarray(value) for value in (diameter, mean, turns))
    initial = weak - wish.rate * (short - float(_free(wide, mid, all_turns)))
    hook = {"kind": "hook", "bend_radius": float(f"{float(_bend(wide, mid)):.9g}")}
    return {
        "format": FORMAT,
        "name": f"Spring, {weak:.4g} N at {short:.4g} mm and {strong:.4g} N at {long:.4g} mm",
        "material": wire.material,
        "fit": fit_of(wish),
        "path": {
            "kind": "coil",
            "diameter": mean,
            "turns": turns,
            "pitch": float(f"{_CLOSE * diameter:.9g}"),
            "legs": {"start": [hook], "end": [hook]},
        },
        "section": {"kind": "round", "diameter": diameter},
        "spring": spring_asked(wish, wire, initial_tension=float(f"{max(initial, 0.0):.6g}")),
    }
