"""What comes out of the machine: the tolerances that a maker keeps, carried through to rate, loads, stresses
and solid length of the springs that are made (`made`).

Three ways: the worst case, all at those ends of their tolerance that are worst together; the root of the
squares of what each does alone; and so many springs made at random, each input by the normal distribution
with three standard deviations to its tolerance (common practice, no source), the same ones each time.
"""

from __future__ import annotations

import itertools
from dataclasses import dataclass
from typing import Any

import numpy as np
from numpy.typing import NDArray

from metaspira.numbers.jets import Array
from metaspira.numbers.once import cached_property
from metaspira.problems import Problem, RecipeError
from metaspira.springs.made import Input, MadeOf, Output, Pair, made_of
from metaspira.springs.working import WoundSpring

MADE, SEED, ENOUGH = 20_000, 13906, 0.997
_SIGMAS = 3.0
_HALVINGS = 12
_BETWEEN = [0.00135, 0.99865]


@dataclass(frozen=True)
class Kept(Input):
    """What is kept within a tolerance, and its share of the scatter of the load that binds; and the ± that
    would leave 99.7 % of the springs within the limits, all else being as it is, or None where none would."""

    cost: float
    needed: float | None


@dataclass(frozen=True)
class Spread(Output):
    """A figure of the springs that are made: as designed; (least, most) in the worst case, by the root of
    squares, and of 99.73 % of those made at random; and the share of springs within its limits."""

    value: float
    worst: Pair
    squares: Pair
    random: Pair
    within: float | None


@dataclass(frozen=True)
class Scatter:
    """What is kept, and what becomes of it; the share of springs within all limits, None where there are
    none, and where these are from; and how many times as wide all tolerances may be for 99.7 % to be."""

    kept: tuple[Kept, ...]
    spreads: tuple[Spread, ...]
    within: float | None
    limits: str
    shrunk: float | None
    made: int


def scatter_of(spring: WoundSpring | None) -> Scatter:
    """The scatter of a spring with the tolerances that its maker keeps. Raises RecipeError where it is no
    cylinder of even pitch of round wire that pushes, pulls or turns."""
    made = made_of(spring)
    if made is None:
        raise RecipeError(
            Problem(
                "/spring",
                "tolerances are carried through single cylinders of round wire and even pitch that push, "
                "by a standard’s sums, pull or turn",
                "ask it of one of those",
            )
        )
    return _Run(made).scatter


class _Run:
    """Springs made at random, each told by how far its inputs (m, n) are off, as shares of their ±."""

    def __init__(self, made: MadeOf[Any]) -> None:
        self.made = made
        self.count = len(made.inputs)
        self.bound = [k for k, one in enumerate(made.outputs) if one.limits is not None]

    @property
    def scatter(self) -> Scatter:
        made = self.made
        value = made.figures(np.zeros((1, self.count)))[:, 0]
        root = np.sqrt((self.alone**2).sum(axis=1))
        random = made.figures(self.drawn)
        every = np.ones(self.count)
        held = dict(zip(self.bound, self.held(every), strict=True))
        spreads = tuple(
            Spread(
                **vars(one),
                value=float(value[k]),
                worst=[float(self.worst[k].min()), float(self.worst[k].max())],
                squares=[float(value[k] - root[k]), float(value[k] + root[k])],
                random=[float(low), float(high)],
                within=float(held[k].mean()) if k in held else None,
            )
            for k, (one, (low, high)) in enumerate(
                zip(made.outputs, np.quantile(random, _BETWEEN, axis=1).T, strict=True)
            )
        )
        binds = min(held, key=lambda k: float(held[k].mean()), default=0)
        cost = self.alone[binds] ** 2 / max(float(root[binds]) ** 2, 1e-300)
        kept = tuple(
            Kept(
                **vars(one),
                cost=float(cost[k]),
                needed=_times(one.either, self.enough(np.arange(self.count) == k)),
            )
            for k, one in enumerate(made.inputs)
        )
        return Scatter(kept, spreads, self.within(every), made.limits_by, self.enough(every > 0), MADE)

    @cached_property
    def worst(self) -> Array:
        """Every figure (k, 2ⁿ) with each input at either end of its tolerance."""
        return self.made.figures(np.array(list(itertools.product((-1.0, 1.0), repeat=self.count))))

    @cached_property
    def alone(self) -> Array:
        """How far each input alone takes each figure (k, n)."""
        ways = np.eye(self.count)
        return 0.5 * np.abs(self.made.figures(ways) - self.made.figures(-ways))

    @cached_property
    def drawn(self) -> Array:
        """Those made at random (m, n)."""
        return np.random.default_rng(SEED).standard_normal((MADE, self.count)) / _SIGMAS

    def held(self, factors: Array) -> NDArray[np.bool_]:
        """Which of the springs made at random (b, m) keep each figure that has limits within them, with
        tolerances so many times as wide (n,)."""
        figures = self.made.figures(self.drawn * factors)[self.bound]
        limits = [self.made.outputs[k].limits for k in self.bound]
        low, high = np.array(limits, dtype=float).reshape(-1, 2).T[:, :, None]
        return (low <= figures) & (figures <= high)

    def within(self, factors: Array) -> float | None:
        """The share of springs with all figures within their limits; None where there are none."""
        return float(np.mean(self.held(factors).all(axis=0))) if self.bound else None

    def enough(self, some: NDArray[np.bool_]) -> float | None:
        """How many times as wide some tolerances (n,) may be for 99.7 % of the springs to be within all
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


def _times(either: float, factor: float | None) -> float | None:
    return None if factor is None else factor * either
