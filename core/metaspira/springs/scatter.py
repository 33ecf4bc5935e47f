"""What comes out of the machine: the tolerances of a compression spring's wire, diameter, turns, free length
and modulus, carried through to its rate, forces, stresses and solid length.

The spring is a cylinder of even pitch of round wire between plates (EN 13906-1, or the handbook's ends),

    R = G d⁴ / (8 D³ n),   F = R (L₀ − L),   τ = 8 F D / (π d³),   n = n_t − dead turns

Three ways: the worst case, all at those ends of their tolerance that are worst together; the root of the
squares of what each does alone; and so many springs made at random, each input by the normal distribution
with three standard deviations to its tolerance (common practice, no source), the same ones each time.
"""

from __future__ import annotations

import itertools
import math
from dataclasses import dataclass
from typing import TypeGuard

import numpy as np
from numpy.typing import NDArray

from metaspira.numbers.jets import Array
from metaspira.numbers.once import cached_property
from metaspira.problems import Problem, RecipeError
from metaspira.springs.any_spring import AnySpring
from metaspira.springs.asked import Made
from metaspira.springs.compression import Compression
from metaspira.springs.shape import round_sheared
from metaspira.springs.standard import dead_turns, solid_length_of
from metaspira.springs.tolerance import tolerances_of

MADE, SEED, ENOUGH = 20_000, 13906, 0.997
_SIGMAS = 3.0
_TURNS, _MODULUS, _DIAMETER = 0.1, 1.5, 1.0
_HALVINGS = 12
_LEFT = 0.01
_PRACTICE = "common practice, no source"
_BETWEEN = [0.00135, 0.99865]

Pair = list[float]


@dataclass(frozen=True)
class Kept:
    """What is kept within a tolerance: its value and ± in `unit`, and where that is from; its share of the
    scatter of the force that binds; and the ± that would leave 99.7 % of the springs within the limits, all
    else being as it is, or None where none would."""

    key: str
    title: str
    unit: str
    value: float
    either: float
    source: str
    cost: float
    needed: float | None


@dataclass(frozen=True)
class Spread:
    """A figure of the springs that are made, `at` a length, mm, where it is of a working point: as designed;
    (least, most) in the worst case, by the root of squares, and of 99.73 % of those made at random; its
    limits, and the share of springs within them."""

    title: str
    at: float | None
    unit: str
    value: float
    worst: Pair
    squares: Pair
    random: Pair
    limits: Pair | None
    within: float | None


@dataclass(frozen=True)
class Scatter:
    """What is kept, and what becomes of it; the share of springs within all limits, None where there are
    none; and how many times as wide all tolerances may be for 99.7 % to be."""

    kept: tuple[Kept, ...]
    spreads: tuple[Spread, ...]
    within: float | None
    shrunk: float | None
    made: int


def scatters(spring: object) -> TypeGuard[Compression]:
    """Whether the tolerances of a spring can be carried through."""
    return isinstance(spring, Compression) and spring.rules != "as drawn" and spring.shape.round


def tolerances_kept(spring: Compression) -> dict[str, float]:
    """The ± of each input by its key, in the units of `Kept`."""
    return dict(zip((key for key, _, _ in _KEPT), _Made(spring).either.tolist(), strict=True))


def scatter_of(spring: AnySpring | None) -> Scatter:
    """The scatter of a spring with the tolerances that its maker keeps; limits are those of its forces by its
    grade (EN 15800). Raises RecipeError where it is no cylinder of even pitch of round wire that pushes."""
    if not scatters(spring):
        raise RecipeError(
            Problem(
                "/spring",
                "tolerances are carried through single cylinders of round wire and even pitch that push",
                "ask it of one of those",
            )
        )
    made = _Made(spring)
    alone, value = made.alone, made.figures(np.zeros((1, len(_KEPT))))[:, 0]
    root = np.sqrt((alone**2).sum(axis=1))
    every = np.ones(len(_KEPT))
    random = made.figures(made.drawn)
    held = dict(zip(made.bound, made.held(every), strict=True))
    spreads = tuple(
        Spread(
            *made.titles[k],
            float(value[k]),
            [float(made.worst[k].min()), float(made.worst[k].max())],
            [float(value[k] - root[k]), float(value[k] + root[k])],
            [float(low), float(high)],
            made.limits[k],
            float(held[k].mean()) if k in held else None,
        )
        for k, (low, high) in enumerate(np.quantile(random, _BETWEEN, axis=1).T)
    )
    binds = min(held, key=lambda k: float(held[k].mean()), default=0)
    cost = alone[binds] ** 2 / max(float(root[binds]) ** 2, 1e-300)
    kept = tuple(
        Kept(
            key,
            title,
            unit,
            at,
            either,
            source,
            float(share),
            _times(either, made.enough(np.arange(len(_KEPT)) == k)),
        )
        for k, ((key, title, unit), at, either, source, share) in enumerate(
            zip(_KEPT, made.value.tolist(), made.either.tolist(), made.sources, cost, strict=True)
        )
    )
    return Scatter(kept, spreads, made.within(every), made.enough(every > 0), MADE)


_KEPT = (
    ("wire", "Wire diameter", "mm"),
    ("diameter", "Mean diameter", "mm"),
    ("turns", "Turns in all", ""),
    ("free_length", "Free length", "mm"),
    ("modulus", "Shear modulus", "%"),
)


def _times(either: float, factor: float | None) -> float | None:
    return None if factor is None else factor * either


class _Made:
    """The springs that are made of a design, each told by how far its inputs (m, 5) are off, as shares of
    their tolerance."""

    def __init__(self, spring: Compression) -> None:
        self.spring = spring
        ends = spring.ends
        assert ends is not None
        self.ends = ends
        d, mean = spring.diameter, 2 * float(spring.turns.radii.mean())
        self.value = np.array([d, mean, spring.turns.turns, spring.free_length, 100.0])
        own, by_grade = spring.asked.made or Made(), tolerances_of(spring)
        grade = f"EN 15800, grade {spring.asked.grade}, not checked against the printed standard"
        of_diameter = by_grade.diameter if by_grade else None
        usual = (
            (spring.wire.tolerance(d), spring.wire.standard or "as typed"),
            (mean * _DIAMETER / 100, _PRACTICE) if of_diameter is None else (of_diameter, grade),
            (_TURNS, _PRACTICE),
            (by_grade.free_length if by_grade else 0.0, grade),
            (_MODULUS, _PRACTICE),
        )
        typed = own.wire, own.diameter, own.turns, own.free_length, own.modulus
        self.either = np.array([of[0] if one is None else one for one, of in zip(typed, usual, strict=True)])
        self.sources = [of[1] if one is None else "as typed" for one, of in zip(typed, usual, strict=True)]
        self._demand_less(typed)
        self.forces = by_grade.forces if by_grade else ()

    def _demand_less(self, typed: tuple[float | None, ...]) -> None:
        """Raises RecipeError where a typed tolerance is half of what it is of, or more."""
        halves = 0.5 * self.value
        halves[2] = 0.5 * self.spring.active
        problems = [
            Problem(
                f"/spring/made/{key}",
                f"± {either:.4g} {unit}".rstrip() + f" is half of the {2 * half:.4g} that it is of, or more",
                "give a smaller one",
            )
            for (key, _, unit), either, half in zip(_KEPT, typed, halves.tolist(), strict=True)
            if either is not None and either >= half
        ]
        if problems:
            raise RecipeError(problems)

    @property
    def titles(self) -> list[tuple[str, float | None, str]]:
        """Of each figure its title, length and unit."""
        lengths = [point.length for point in self.spring.points]
        forces = [("Force", length, "N") for length in lengths]
        stresses = [("Corrected stress", length, "MPa") for length in lengths]
        return [("Rate", None, "N/mm"), ("Solid length", None, "mm"), *forces, *stresses]

    @cached_property
    def limits(self) -> list[Pair | None]:
        """(least, most) of each figure, where it has them."""
        forces = [
            [point.force - either, point.force + either]
            for point, either in zip(self.spring.points, self.forces, strict=bool(self.forces))
        ]
        return [None, None, *forces, *[None] * (len(self.titles) - 2 - len(forces))]

    def figures(self, off: Array) -> Array:
        """Every figure (k, m) of springs."""
        made = np.maximum(self.value + off * self.either, _LEFT * self.value)
        d, mean, total, free, share = made.T
        active = np.maximum(total - dead_turns(self.ends), _LEFT * self.spring.active)
        mean = np.maximum(mean, d)
        rate = share / 100 * self.spring.shear_modulus * d**4 / (8 * mean**3 * active)
        rules = self.spring.rules
        solid = solid_length_of(rules, self.ends, total, d, np.zeros_like(d))
        forces = [rate * np.maximum(free - point.length, 0.0) for point in self.spring.points]
        stresses = [8 * force * mean / (math.pi * d**3) * round_sheared(mean / d) for force in forces]
        return np.array([rate, solid, *forces, *stresses])

    @cached_property
    def worst(self) -> Array:
        """Every figure (k, 32) with each input at either end of its tolerance."""
        return self.figures(np.array(list(itertools.product((-1.0, 1.0), repeat=len(_KEPT)))))

    @cached_property
    def alone(self) -> Array:
        """How far each input alone takes each figure (k, 5)."""
        ways = np.eye(len(_KEPT))
        return 0.5 * np.abs(self.figures(ways) - self.figures(-ways))

    @cached_property
    def drawn(self) -> Array:
        """Those made at random (m, 5)."""
        return np.random.default_rng(SEED).standard_normal((MADE, len(_KEPT))) / _SIGMAS

    @property
    def bound(self) -> list[int]:
        """Which figures have limits."""
        return [k for k, limit in enumerate(self.limits) if limit is not None]

    def held(self, factors: Array) -> NDArray[np.bool_]:
        """Which of the springs made at random (b, m) keep each figure that has limits within them, with
        tolerances so many times as wide (5,)."""
        figures = self.figures(self.drawn * factors)[self.bound]
        low, high = np.array([self.limits[k] for k in self.bound], dtype=float).reshape(-1, 2).T[:, :, None]
        return (low <= figures) & (figures <= high)

    def within(self, factors: Array) -> float | None:
        """The share of springs with all figures within their limits; None where there are none."""
        return float(np.mean(self.held(factors).all(axis=0))) if self.bound else None

    def enough(self, some: NDArray[np.bool_]) -> float | None:
        """How many times as wide some tolerances (5,) may be for 99.7 % of the springs to be within all
        limits, up to four; None where there are no limits, or where they cannot be so."""

        def missed(factor: float) -> bool:
            return (self.within(np.where(some, factor, 1.0)) or 0.0) < ENOUGH

        low, high = 0.0, 4.0
        if missed(low):
            return None
        for _ in range(_HALVINGS):
            middle = 0.5 * (low + high)
            low, high = (low, middle) if missed(middle) else (middle, high)
        return low
