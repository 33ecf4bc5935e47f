"""Find a spring: closed and ground compression springs that push with two forces at two lengths in a given space.

Two loads set the rate and the free length; each wire and mean diameter then sets the turns, n = G d⁴ / (8 D³ R), and
every limit is a share used of it (EN 13906-1). The share that is used most is made least over the diameter, for
every wire and thickness; the best are then drawn, and their turns and height set so that the drawn spring, turn by
turn, has the two forces.
"""

from __future__ import annotations

import math
from collections.abc import Iterator
from dataclasses import dataclass, replace
from typing import Any, Literal

import numpy as np
import scipy
from pydantic import Field

from metaspira.materials import MATERIALS
from metaspira.numbers.fields import Distance, Force, Length
from metaspira.numbers.jets import Array
from metaspira.numbers.kind import Kind
from metaspira.paths.coil import ClosedTurns, Coil
from metaspira.problems import Problem, RecipeError, nearest
from metaspira.recipe.model import FORMAT, Document, Fit
from metaspira.recipe.resolving import resolve
from metaspira.springs.asked import SEATS, CompressionSpring, Cycles, Seat, WorkingPoint
from metaspira.springs.compression import Compression
from metaspira.springs.fatigue import endurance_of
from metaspira.springs.limits import limits_of
from metaspira.springs.shape import WireShape
from metaspira.springs.standard import (
    ALLOWED,
    ALLOWED_SOLID,
    INDEX,
    LEAST_TURNS,
    buckles_at,
    gap_wanted,
)
from metaspira.springs.turns import turns_of
from metaspira.springs.wire import SpringWire, wires

PREFERRED = (
    0.2, 0.22, 0.25, 0.28, 0.3, 0.32, 0.34, 0.36, 0.38, 0.4, 0.43, 0.45, 0.48, 0.5, 0.53, 0.56, 0.6, 0.63, 0.65, 0.7,
    0.75, 0.8, 0.85, 0.9, 0.95, 1.0, 1.05, 1.1, 1.2, 1.25, 1.3, 1.4, 1.5, 1.6, 1.7, 1.8, 1.9, 2.0, 2.1, 2.25, 2.4, 2.5,
    2.6, 2.8, 3.0, 3.2, 3.4, 3.6, 3.8, 4.0, 4.25, 4.5, 4.75, 5.0, 5.3, 5.6, 6.0, 6.3, 6.5, 7.0, 7.5, 8.0, 8.5, 9.0, 9.5,
    10.0, 10.5, 11.0, 12.0, 12.5, 13.0, 14.0,
)  # fmt: skip
"""Preferred wire diameters, mm: those of EN 10270-1, from memory."""

Ranking = Literal["stress", "mass", "on-hand"]

_DIAMETERS = 160
_DRAWN = 12
_CLOSE = 5e-3
_SPARE = 0.02
_CHANGE = 0.5
_MOST_TURNS = 200.0


class Load(Kind):
    """A force at a length."""

    length: Length
    force: Force


class Wish(Document):
    """What the spring has to do: two loads, the longer length first; the bore around it and the rod inside it with
    the air to both; the longest free length; the life; the wires it may be of, all where none is named; and
    diameters of wire on hand, the only ones where they are ranked by. Numbers as in a recipe."""

    loads: tuple[Load, Load]
    bore: Length | None = None
    rod: Length | None = None
    gap: Distance = 0.0
    longest: Length | None = None
    cycles: Cycles | None = None
    peened: bool = False
    seat: Seat = "guided"
    wires: tuple[str, ...] = Field(default=(), max_length=40)
    on_hand: tuple[Length, ...] = Field(default=(), max_length=60)
    rank: Ranking = "stress"

    @property
    def lengths(self) -> tuple[float, float]:
        return self.loads[0].length, self.loads[1].length

    @property
    def forces(self) -> tuple[float, float]:
        return self.loads[0].force, self.loads[1].force

    @property
    def rate(self) -> float:
        return (self.forces[1] - self.forces[0]) / (self.lengths[0] - self.lengths[1])

    @property
    def free_length(self) -> float:
        return self.lengths[0] + self.forces[0] / self.rate


@dataclass(frozen=True)
class Found:
    """A spring that does it: wire, thickness and mean diameter (mm), turns and rise of the centre line, mass (g), the
    plain stress at the second length (MPa), and the limit that is used most with its share."""

    wire: str
    thickness: float
    diameter: float
    turns: float
    height: float
    mass: float
    stress: float
    limit: str
    use: float
    on_hand: bool

    def recipe(self, wish: Wish) -> dict[str, Any]:
        """The recipe of it, in millimetres, for a resolved wish."""
        fit = {"bore": wish.bore, "rod": wish.rod, "gap": wish.gap or None}
        spring = {
            "kind": "compression", "wire": self.wire, "seat": wish.seat, "cycles": wish.cycles, "peened": wish.peened or None,
            "points": [{"length": length} for length in wish.lengths],
        }  # fmt: skip
        (long, short), (weak, strong) = wish.lengths, wish.forces
        return {
            "format": FORMAT,
            "name": f"Spring, {weak:.4g} N at {long:.4g} mm and {strong:.4g} N at {short:.4g} mm",
            "material": wires()[self.wire].material,
            "fit": {key: value for key, value in fit.items() if value is not None},
            "path": {
                "kind": "coil", "diameter": self.diameter, "turns": self.turns, "height": self.height,
                "closed": {"start": 1, "end": 1, "change": _CHANGE},
            },
            "section": {"kind": "round", "diameter": self.thickness},
            "ends": {"start": {"kind": "ground"}, "end": {"kind": "ground"}},
            "spring": {key: value for key, value in spring.items() if value is not None},
        }  # fmt: skip


@dataclass(frozen=True)
class Answer:
    """The wish in millimetres and newtons; the springs that do it, the best first; and where there is none, the
    nearest one, whose limit is used by more than all."""

    wish: Wish

    springs: tuple[Found, ...]
    nearest: Found | None


def find_springs(typed: Wish, most: int = 12) -> Answer:
    """Search every wire that is allowed. Raises RecipeError where the wish makes no sense."""
    wish = resolve(typed)
    _demand(wish)
    found = [spring for wire in _allowed(wish) for spring in _of_wire(wish, wire)]
    good = sorted(
        (spring for spring in found if spring.use <= 1), key=lambda spring: _order(wish, spring)
    )
    drawn = [spring for rough in good[:_DRAWN] if (spring := _drawn(wish, rough)) is not None]
    if drawn:
        return Answer(wish, tuple(sorted(drawn, key=lambda spring: _order(wish, spring))[:most]), None)
    return Answer(wish, (), min(found, key=lambda spring: spring.use, default=None))


def _order(wish: Wish, spring: Found) -> tuple[float, ...]:
    if wish.rank == "mass":
        return (spring.mass,)
    return (
        0.0 if wish.rank == "on-hand" and spring.on_hand else float(wish.rank == "on-hand"),
        spring.use,
    )


def _demand(wish: Wish) -> None:
    first, second = wish.lengths
    faults = [
        (second >= first, "/loads/1/length", "the second length is to be the shorter one", "exchange them, with their forces"),
        (wish.forces[1] <= wish.forces[0], "/loads/1/force", "the shorter spring has to push harder", "give it the larger force"),
        (wish.bore is not None and wish.rod is not None and wish.bore - wish.rod <= 4 * wish.gap, "/bore",
         "bore and rod leave no room for a wire", "use a larger bore or a thinner rod"),
    ]  # fmt: skip
    problems = [Problem(place, reason, remedy) for wrong, place, reason, remedy in faults if wrong]
    if problems:
        raise RecipeError(problems)


def _allowed(wish: Wish) -> list[SpringWire]:
    for index, name in enumerate(wish.wires):
        if name not in wires():
            near = nearest(name, tuple(wires())) or next(iter(wires()))
            raise RecipeError(
                Problem(f"/wires/{index}", f"there is no wire “{name}” here", f"use “{near}”")
            )
    return [
        wire
        for name, wire in wires().items()
        if (name in wish.wires if wish.wires else wire.form == "wire")
    ]


def _of_wire(wish: Wish, wire: SpringWire) -> Iterator[Found]:
    """For every thickness of a wire the mean diameter at which the most used limit is used least."""
    sizes = sorted(
        {*PREFERRED, *wish.on_hand} if wish.rank != "on-hand" or not wish.on_hand else {*wish.on_hand}
    )
    for d in sizes:
        if not wire.has(d):
            continue
        low = max(INDEX[0] * d, 0.0 if wish.rod is None else wish.rod + 2 * wish.gap + d + _SPARE)
        high = min(
            INDEX[1] * d, math.inf if wish.bore is None else wish.bore - 2 * wish.gap - d - _SPARE
        )
        if high <= low:
            continue
        diameters = np.linspace(low, high, _DIAMETERS)
        uses, turns = _uses(wish, wire, d, diameters)
        names = list(uses)
        table = np.stack([uses[name] for name in names])
        worst = table.max(axis=0)
        k = int(np.argmin(worst))
        if not np.isfinite(worst[k]):
            continue
        rounded = float(f"{diameters[k]:.3g}")
        mean = rounded if low <= rounded <= high else float(diameters[k])
        mass = float(
            math.pi / 4 * d**2 * math.pi * mean * (turns[k] + 2) * MATERIALS[wire.material].density
        )
        stress = 8 * wish.forces[1] * mean / (math.pi * d**3)
        yield Found(
            wire.name, d, mean, float(turns[k]) + 2, wish.free_length, mass, stress, names[int(np.argmax(table[:, k]))],
            float(worst[k]), d in wish.on_hand,
        )  # fmt: skip


def _uses(wish: Wish, wire: SpringWire, d: float, mean: Array) -> tuple[dict[str, Array], Array]:
    """How much of each limit is used, by its name, over mean diameters (n,), and the active turns (n,)."""
    rate, free, shape = wish.rate, wish.free_length, WireShape(d, d, True)
    n = wire.G * d**4 / (8 * mean**3 * rate)
    strength = wire.strength(d)
    solid = (n + 2) * d
    gaps = n * gap_wanted(mean, d, wish.cycles is not None)
    left = np.maximum(wish.lengths[1] - solid, 1e-9)
    shear = mean / 2 / shape.modulus
    block = rate * np.maximum(free - solid, 0.0)
    uses = {
        "stress at work": shear * wish.forces[1] / (ALLOWED * strength),
        "stress at block": shear * block / (ALLOWED_SOLID * strength),
        "travel left to block": gaps / left,
        "turns": np.maximum(LEAST_TURNS / n, n / _MOST_TURNS),
    }
    pitch = d + (free - solid) / n
    grown = np.sqrt(mean**2 + (pitch**2 - d**2) / math.pi**2) + d
    if wish.bore is not None:
        uses["bore"] = _over((grown + 2 * wish.gap) / wish.bore)
    if wish.longest is not None:
        uses["free length"] = _over(np.full(len(mean), free / wish.longest))
    if wish.cycles is not None:
        endurance, breaking = endurance_of(wire, strength, wish.cycles, wish.peened)
        corrected = [shear * shape.correction(mean / d) * force for force in wish.forces]
        uses["life"] = (corrected[1] - corrected[0]) / 2 / endurance + (
            corrected[1] + corrected[0]
        ) / 2 / breaking
    if wish.bore is None and wish.rod is None:
        buckles = buckles_at(free, mean, SEATS[wish.seat], wire.G / wire.E)
        uses["buckling"] = (free - wish.lengths[1]) / buckles
    return uses, n


def _over(share: Array) -> Array:
    """The share of a room that is used, where it is more than there is; what fits, fits."""
    return np.where(share > 1, share, 0.0)


def _drawn(wish: Wish, rough: Found) -> Found | None:
    """The same as it is drawn, its turns and height set so that both forces are met and its limits read from it, or
    None where it cannot be or a limit is used up."""
    wire = wires()[rough.wire]
    d = rough.thickness
    asked = CompressionSpring(
        kind="compression", wire=rough.wire, seat=wish.seat, cycles=wish.cycles, peened=wish.peened,
        points=tuple(WorkingPoint(length=length) for length in wish.lengths),
    )  # fmt: skip

    def spring(turns: float, height: float) -> Compression:
        coil = Coil(
            kind="coil", diameter=rough.diameter, turns=turns, height=height, base=None,
            closed=ClosedTurns(start=1.0, end=1.0, change=_CHANGE),
        )  # fmt: skip
        path = coil.path("/path", ((d / 2, d / 2, d),) * 2)
        return Compression(
            asked, wire, turns_of(path, WireShape(d, d, True), (0.0, 0.0)), lambda: height, rough.mass
        )

    def off(x: Array) -> Array:
        try:
            found = spring(float(x[0]), float(x[1]))
        except RecipeError:
            return np.full(2, 1e3)
        forces = [point.force for point in found.points]
        return np.array([force / wanted - 1 for force, wanted in zip(forces, wish.forces, strict=True)])

    solved = scipy.optimize.root(
        off, [rough.turns, rough.height], method="hybr", options={"xtol": 1e-7, "eps": 1e-4}
    )
    turns, height = (float(f"{value:.5g}") for value in solved.x)
    if np.abs(off(np.array([turns, height]))).max() > _CLOSE:
        return None
    fit = Fit(bore=wish.bore, rod=wish.rod, gap=wish.gap or None)
    worst = limits_of(spring(turns, height), fit)[0]
    mass = rough.mass * turns / rough.turns
    if worst.use > 1:
        return None
    return replace(
        rough, turns=turns, height=height, mass=mass, limit=worst.title.lower(), use=worst.use
    )
