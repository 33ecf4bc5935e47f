"""How springs that are made depart from their design: by what a maker keeps of the wire, of the coiling and
of the modulus, each within a tolerance, and what becomes of rate, loads and stress.

Cylinders of even pitch of round wire, by the sums of their kinds, of which all that is not kept stays:

    pushing   R = G d⁴ / (8 D³ n),  n = n_t − dead turns,  F = R (L₀ − L),  τ = 8 F D / (π d³)
    pulling   R = G d⁴ / (8 D³ n),  F = F₀ + R (L − L₀)
    turning   R ~ E d⁴ / L of wire that bends,  M = R (α − α₀),  σ = 32 M / (π d³)
"""

from __future__ import annotations

import math
from abc import ABC, abstractmethod
from collections.abc import Callable
from dataclasses import dataclass
from typing import Any, Generic, TypeVar

import numpy as np

from metaspira.numbers.jets import Array
from metaspira.numbers.once import cached_property
from metaspira.problems import Problem, RecipeError
from metaspira.springs.asked import Made
from metaspira.springs.compression import Compression
from metaspira.springs.extension import Extension
from metaspira.springs.shape import round_bent, round_sheared
from metaspira.springs.standard import dead_turns, solid_length_of
from metaspira.springs.tolerance import Tolerances, tolerances_of
from metaspira.springs.torsion import Torsion
from metaspira.springs.working import WorkedPoint, WoundSpring

Pair = list[float]

_LEFT = 0.01
_TURNS, _MODULUS, _DIAMETER, _FREE, _INITIAL = 0.1, 1.5, 1.0, 2.0, 15.0
_ANGLES = ((3.0, 8.0), (10.0, 10.0), (20.0, 15.0), (math.inf, 20.0))
"""± of the angle between the legs of a spring that turns, degrees, up to so many turns."""

PRACTICE, TYPED = "common practice, no source", "as typed"

S = TypeVar("S", Compression, Extension, Torsion)


@dataclass(frozen=True)
class Input:
    """What a maker keeps: its value and ± in `unit`, and where that is from."""

    key: str
    title: str
    unit: str
    value: float
    either: float
    source: str


@dataclass(frozen=True)
class Output:
    """A figure of the springs that are made, `at` a place where it is of a working point, mm or degrees as
    `at_unit` says; and its limits (least, most), where it has any."""

    title: str
    at: float | None
    at_unit: str
    unit: str
    limits: Pair | None


class MadeOf(ABC, Generic[S]):
    """The springs that are made of a design. Raises RecipeError where a typed tolerance is half of what it is
    of, or more."""

    modulus = "Shear modulus"
    effort, stress = "Force", "Corrected stress"

    def __init__(self, spring: S) -> None:
        self.spring: S = spring
        self.own: Made = spring.asked.made or Made()
        self.d, self.mean = spring.diameter, 2 * float(spring.turns.radii.mean())
        self.total = spring.turns.turns
        self._problems: list[Problem] = []
        self.inputs = self._inputs()
        if self._problems:
            raise RecipeError(self._problems)

    @property
    def known(self) -> bool:
        """Whether its maker or a standard says how it is made."""
        return self.spring.asked.made is not None or self.graded is not None

    @cached_property
    def graded(self) -> Tolerances | None:
        """The tolerances of a standard, where there is one."""
        return None

    @property
    def by_grade(self) -> str:
        """Where they are from."""
        return ""

    @property
    def coiled(self) -> float:
        """Turns that the wire's give goes by."""
        return self.total

    def _inputs(self) -> tuple[Input, ...]:
        wire, mean = self.spring.wire, self.mean
        graded = self.graded.diameter if self.graded else None
        of_diameter = (mean * _DIAMETER / 100, PRACTICE) if graded is None else (graded, self.by_grade)
        return (
            self._kept("wire", "Wire diameter", "mm", self.d, wire.tolerance(self.d), wire.standard or TYPED),
            self._kept("diameter", "Mean diameter", "mm", mean, *of_diameter),
            self._kept("turns", "Turns in all", "", self.total, _TURNS, PRACTICE, self.coiled),
            *self._more(),
            self._kept("modulus", self.modulus, "%", 100.0, _MODULUS, PRACTICE),
        )

    @abstractmethod
    def _more(self) -> tuple[Input, ...]:
        """What is kept of this kind beside wire, diameter, turns and modulus."""

    def _kept(
        self,
        key: str,
        title: str,
        unit: str,
        value: float,
        usual: float,
        source: str,
        whole: float | None = None,
    ) -> Input:
        """An input; a typed ± is to be less than half of the `whole`, its value where none is given."""
        typed, whole = self._typed(key), value if whole is None else whole
        if typed is None:
            return Input(key, title, unit, value, usual, source)
        if typed >= whole / 2:
            either = f"± {typed:.4g} {unit}".rstrip()
            reason = f"{either} is half of the {whole:.4g} that it is of, or more"
            self._problems.append(Problem(f"/spring/made/{key}", reason, "give a smaller one"))
        return Input(key, title, unit, value, typed, TYPED)

    def _typed(self, key: str) -> float | None:
        """A ± that the recipe tells, in the unit of its input."""
        return getattr(self.own, key, None)

    @cached_property
    def outputs(self) -> tuple[Output, ...]:
        """Every figure, in the order of `figures`."""
        place, effort = self.spring.units
        points: tuple[WorkedPoint, ...] = self.spring.points
        loads: list[Output] = [
            Output(self.effort, point.place, place, effort, limits)
            for point, limits in zip(points, self.limits, strict=True)
        ]
        stresses: list[Output] = [Output(self.stress, point.place, place, "MPa", None) for point in points]
        return Output("Rate", None, "", f"{effort}/{place}", None), *self._own_outputs(), *loads, *stresses

    def _own_outputs(self) -> tuple[Output, ...]:
        return ()

    @property
    def limits_by(self) -> str:
        """By what the loads have limits; nothing where they have none."""
        if self.own.load is not None:
            return TYPED
        return self.by_grade if self.graded else ""

    @cached_property
    def limits(self) -> list[Pair | None]:
        """(least, most) of the load at each working point."""
        efforts = [point.effort for point in self.spring.points]
        eithers: list[float] | None = None
        if self.own.load is not None:
            eithers = [abs(effort) * self.own.load / 100 for effort in efforts]
        elif self.graded is not None:
            eithers = list(self.graded.forces)
        if eithers is None:
            return [None] * len(efforts)
        return [[effort - e, effort + e] for effort, e in zip(efforts, eithers, strict=True)]

    def figures(self, off: Array) -> Array:
        """Every figure (k, m) of springs whose inputs (m, n) are so far off, as shares of their ±."""
        value = np.array([one.value for one in self.inputs])
        made = value + off * np.array([one.either for one in self.inputs])
        made = np.where(value > 0, np.maximum(made, _LEFT * value), made)
        named = dict(zip((one.key for one in self.inputs), made.T, strict=True))
        named["diameter"] = np.maximum(named["diameter"], named["wire"])
        return np.array(self._figures(named))

    @abstractmethod
    def _figures(self, made: dict[str, Array]) -> list[Array]:
        """Every figure (m,) of springs, by their inputs (m,)."""


def _twisted(force: Array, made: dict[str, Array]) -> Array:
    """Corrected stress, MPa."""
    d, mean = made["wire"], made["diameter"]
    return 8 * force * mean / (math.pi * d**3) * round_sheared(mean / d)


class _Pushing(MadeOf[Compression]):
    @cached_property
    def graded(self) -> Tolerances | None:
        return tolerances_of(self.spring)

    @property
    def by_grade(self) -> str:
        return f"EN 15800, grade {self.spring.asked.grade}, not checked against the printed standard"

    @property
    def coiled(self) -> float:
        return self.spring.active

    def _more(self) -> tuple[Input, ...]:
        graded = self.graded.free_length if self.graded else 0.0
        return (
            self._kept("free_length", "Free length", "mm", self.spring.free_length, graded, self.by_grade),
        )

    def _own_outputs(self) -> tuple[Output, ...]:
        return (Output("Solid length", None, "", "mm", None),)

    def _figures(self, made: dict[str, Array]) -> list[Array]:
        spring, ends = self.spring, self.spring.ends
        assert ends is not None
        d, mean, total = made["wire"], made["diameter"], made["turns"]
        active = np.maximum(total - dead_turns(ends), _LEFT * spring.active)
        rate = made["modulus"] / 100 * spring.shear_modulus * d**4 / (8 * mean**3 * active)
        solid = solid_length_of(spring.rules, ends, total, d, np.zeros_like(d))
        forces = [rate * np.maximum(made["free_length"] - point.length, 0.0) for point in spring.points]
        return [rate, solid, *forces, *(_twisted(force, made) for force in forces)]


class _Pulling(MadeOf[Extension]):
    def _more(self) -> tuple[Input, ...]:
        free = self.spring.free_length
        length = self._kept("free_length", "Free length", "mm", free, free * _FREE / 100, PRACTICE)
        if self.spring.initial == 0:
            return (length,)
        return length, self._kept("initial_tension", "Initial tension", "%", 100.0, _INITIAL, PRACTICE)

    def _figures(self, made: dict[str, Array]) -> list[Array]:
        spring, d = self.spring, made["wire"]
        active = made["turns"] + spring.active - self.total
        rate = made["modulus"] / 100 * spring.shear_modulus * d**4 / (8 * made["diameter"] ** 3 * active)
        initial = spring.initial * made.get("initial_tension", np.array(100.0)) / 100
        ways = [point.length - made["free_length"] for point in spring.points]
        forces = [np.where(way > 0, initial + rate * way, 0.0) for way in ways]
        return [rate, *forces, *(_twisted(force, made) for force in forces)]


class _Turning(MadeOf[Torsion]):
    modulus = "Elastic modulus"
    effort, stress = "Torque", "Corrected bending stress"

    def _more(self) -> tuple[Input, ...]:
        usual = next(either for most, either in _ANGLES if self.total <= most)
        return (self._kept("angle", "Angle between its legs", "°", 0.0, usual, PRACTICE, math.inf),)

    def _typed(self, key: str) -> float | None:
        typed = super()._typed(key)
        return math.degrees(typed) if key == "angle" and typed is not None else typed

    def _figures(self, made: dict[str, Array]) -> list[Array]:
        spring, d, mean = self.spring, made["wire"], made["diameter"]
        legs = spring.length - spring.coiled
        length = legs + spring.coiled * (mean / self.mean) * (made["turns"] / self.total)
        rate = spring.rate * made["modulus"] / 100 * (d / self.d) ** 4 * spring.length / length
        torques = [rate * (point.angle - made["angle"]) for point in spring.points]
        bent = 32 / (math.pi * d**3) * round_bent(mean / d)
        return [rate, *torques, *(np.abs(torque) * bent for torque in torques)]


def made_of(spring: WoundSpring | None) -> MadeOf[Any] | None:
    """The springs that are made of a design; None of what is no cylinder of even pitch of round wire by a
    standard's sums. Raises RecipeError as they do."""
    return _KINDS[type(spring)](spring) if scatters(spring) else None


def scatters(spring: WoundSpring | None) -> bool:
    """Whether tolerances are carried through a spring."""
    if spring is None or type(spring) not in _KINDS:
        return False
    return spring.shape.round and spring.turns.cylindrical and spring.rules != "as drawn"


_KINDS: dict[type, Callable[[Any], MadeOf[Any]]] = {
    Compression: _Pushing,
    Extension: _Pulling,
    Torsion: _Turning,
}
