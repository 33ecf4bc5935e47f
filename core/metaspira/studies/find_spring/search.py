"""Find a spring: every wire, every diameter of it, and a row of mean diameters or of turns, over arrays; of
what uses no limit by more than all of it, the best, and the front of those that none is better than in all at
once."""

from __future__ import annotations

import math
from dataclasses import dataclass, replace

import numpy as np

from metaspira.numbers.jets import Array
from metaspira.springs.standard import INDEX
from metaspira.springs.wire import SpringWire
from metaspira.studies.find_spring.found import Answer, Blocking, Found, freed, on_front, order, ranked
from metaspira.studies.find_spring.tried import SPARE, Searched, Tried, bound_uses
from metaspira.studies.find_spring.wish import STEPS, Wish

PREFERRED = (
    0.2,
    0.22,
    0.25,
    0.28,
    0.3,
    0.32,
    0.34,
    0.36,
    0.38,
    0.4,
    0.43,
    0.45,
    0.48,
    0.5,
    0.53,
    0.56,
    0.6,
    0.63,
    0.65,
    0.7,
    0.75,
    0.8,
    0.85,
    0.9,
    0.95,
    1.0,
    1.05,
    1.1,
    1.2,
    1.25,
    1.3,
    1.4,
    1.5,
    1.6,
    1.7,
    1.8,
    1.9,
    2.0,
    2.1,
    2.25,
    2.4,
    2.5,
    2.6,
    2.8,
    3.0,
    3.2,
    3.4,
    3.6,
    3.8,
    4.0,
    4.25,
    4.5,
    4.75,
    5.0,
    5.3,
    5.6,
    6.0,
    6.3,
    6.5,
    7.0,
    7.5,
    8.0,
    8.5,
    9.0,
    9.5,
    10.0,
    10.5,
    11.0,
    12.0,
    12.5,
    13.0,
    14.0,
)
"""Preferred wire diameters, mm: those of EN 10270-1, not checked against the printed standard."""
_ACROSS, _FINER = 120, 41
_MOST_TURNS = 202.0
_FRONT = 40
FULL = 1 - 1e-4


@dataclass(frozen=True)
class _Row:
    """A spring that is chosen, before its numbers are rounded."""

    wire: SpringWire
    diameter: float
    mean: float
    turns: float


def search(wish: Wish, kind: Searched, most: int) -> Answer:
    """Springs of a kind that do what is wished, in base units; `most` of them beside the front."""
    every = [(wire, found) for wire in wish.allowed if (found := over_sizes(wish, kind, wire)) is not None]
    count = sum(found.mean.size for _, found in every)
    best = _best(wish, kind, every)
    front = _front(wish, every)
    good = sorted(_written(wish, kind, best), key=lambda found: order(wish, found))
    springs = _once([*_written(wish, kind, front), *good[:most], *on_front(good)])
    if springs:
        return Answer(wish, ranked(wish, springs), count, None, ())
    nearest, blocking = _in_the_way(wish, kind)
    return Answer(wish, (), count, nearest, blocking)


def tried(kind: Searched, wish: Wish, wire: SpringWire, diameter: Array, mean: Array, active: Array) -> Tried:
    """Springs and the limits that they use, those of the wish's own among them."""
    found = kind.tried(wish, wire, diameter, mean, active)
    found.uses.update(bound_uses(wish, found))
    return found


def _sizes(wish: Wish, wire: SpringWire) -> Array:
    sizes = sorted({*wish.stock}) or PREFERRED
    return np.array([d for d in sizes if wire.has(d)])[:, None]


def room(wish: Wish, diameter: Array) -> tuple[Array, Array]:
    """The least and the greatest mean diameter, mm, that index, rod and bore leave."""
    low, high = INDEX[0] * diameter, INDEX[1] * diameter
    if wish.rod is not None:
        low = np.maximum(low, wish.rod + 2 * wish.gap + diameter + SPARE)
    if wish.bore is not None:
        high = np.minimum(high, wish.bore - 2 * wish.gap - diameter - SPARE)
    return low, high


def over_sizes(wish: Wish, kind: Searched, wire: SpringWire, across: int = _ACROSS) -> Tried | None:
    """Springs of a wire: a row for each of its diameters, over `across` mean diameters or over turns."""
    diameter = _sizes(wish, wire)
    if not len(diameter):
        return None
    low, high = room(wish, diameter)
    keep = (high > low)[:, 0]
    diameter, low, high = diameter[keep], low[keep], high[keep]
    if not len(diameter):
        return None
    stiff = kind.stiff(wish, wire, diameter)
    if wish.turns == "any":
        mean = low * (high / low) ** np.linspace(0.0, 1.0, across)
        return tried(kind, wish, wire, diameter, mean, stiff / mean**kind.POWER)
    step = STEPS[wish.turns]
    first = np.ceil((stiff / high**kind.POWER + kind.DEAD) / step - 1e-9)
    last = np.floor(np.minimum(stiff / low**kind.POWER + kind.DEAD, _MOST_TURNS) / step + 1e-9)
    counts = np.arange(int(max(float((last - first).max()) + 1, 1)))
    active = np.maximum((first + counts) * step - kind.DEAD, 1e-3)
    found = tried(kind, wish, wire, diameter, (stiff / active) ** (1 / kind.POWER), active)
    found.uses["turns"] = np.where(first + counts > last, np.inf, found.uses["turns"])
    return found


def _score(wish: Wish, wire: SpringWire, found: Tried) -> Array:
    """What is best least, infinite where a limit is used by more than all of it."""
    use = found.use
    score = {
        "use": use,
        "mass": found.mass,
        "length": found.at_work + found.free_length.clip(min=0) if wish.kind != "torsion" else found.at_work,
        "price": found.mass * wish.prices.get(wire.name, math.inf) / 1e3,
    }[wish.rank]
    return np.where(use <= FULL, score, np.inf)


def _best(wish: Wish, kind: Searched, every: list[tuple[SpringWire, Tried]]) -> list[_Row]:
    """The best of each wire and diameter, found again between its neighbours where turns may be any."""
    rows = []
    for wire, found in every:
        score = _score(wish, wire, found)
        at = np.argmin(score, axis=1)
        there = np.arange(len(at))
        good = np.isfinite(score[there, at])
        if not good.any():
            continue
        diameter, at, there = found.diameter[good], at[good], there[good]
        mean = found.mean[there, at][:, None]
        if wish.turns == "any":
            low = found.mean[there, np.maximum(at - 1, 0)][:, None]
            high = found.mean[there, np.minimum(at + 1, found.mean.shape[1] - 1)][:, None]
            finer = low + (high - low) * np.linspace(0.0, 1.0, _FINER)
            again = tried(
                kind, wish, wire, diameter, finer, kind.stiff(wish, wire, diameter) / finer**kind.POWER
            )
            mean = finer[np.arange(len(at)), np.argmin(_score(wish, wire, again), axis=1)][:, None]
        turns = kind.stiff(wish, wire, diameter) / mean**kind.POWER + kind.DEAD
        rows += [
            _Row(wire, float(d), float(m), float(n))
            for d, m, n in zip(diameter[:, 0], mean[:, 0], turns[:, 0], strict=True)
        ]
    return rows


def _front(wish: Wish, every: list[tuple[SpringWire, Tried]]) -> list[_Row]:
    """Those that none is better than in use and in mass, in length or in price at once, spread over it."""
    rows: list[_Row] = []
    if not every:
        return rows
    which = np.concatenate([np.full(found.mean.size, k) for k, (_, found) in enumerate(every)])
    use = np.concatenate([found.use.ravel() for _, found in every])
    shape = [(found, np.broadcast_shapes(found.mean.shape, found.diameter.shape)) for _, found in every]

    def all_of(name: str) -> Array:
        return np.concatenate([np.broadcast_to(getattr(found, name), size).ravel() for found, size in shape])

    mass = all_of("mass")
    measures = [mass]
    if wish.prices:
        price = np.array([wish.prices.get(wire.name, np.inf) for wire, _ in every])
        measures.append(mass * price[which])
    if wish.kind != "compression":
        measures.append(all_of("at_work") if wish.kind == "torsion" else all_of("free_length"))
    diameter, mean, turns = (all_of(name) for name in ("diameter", "mean", "turns"))
    for measure in measures:
        good = np.flatnonzero((use <= FULL) & np.isfinite(measure))
        good = good[np.lexsort((use[good], measure[good]))]
        least = np.minimum.accumulate(use[good])
        on = good[np.append(True, least[1:] < least[:-1])] if len(good) else good
        picked = on[np.unique(np.linspace(0, len(on) - 1, _FRONT).round().astype(int))] if len(on) else on
        rows += [
            _Row(every[which[k]][0], float(diameter[k]), float(mean[k]), float(turns[k])) for k in picked
        ]
    return rows


def _once(springs: list[Found]) -> list[Found]:
    """Each spring once, the first of those that are the same but for a hundredth of their mean diameter."""
    kept: dict[tuple[str, float, float], Found] = {}
    for found in springs:
        kept.setdefault((found.wire, found.wire_diameter, float(f"{found.mean_diameter:.3g}")), found)
    return list(kept.values())


def _written(wish: Wish, kind: Searched, rows: list[_Row]) -> list[Found]:
    each = (_rounded(wish, kind, row) for row in rows)
    return [found for found in each if found is not None]


def _rounded(wish: Wish, kind: Searched, row: _Row, any_use: bool = False) -> Found | None:
    """The spring with numbers that can be written down, or None where they use a limit up."""
    diameter = np.array([row.diameter])
    stiff = kind.stiff(wish, row.wire, diameter)
    if wish.turns == "any":
        low, high = (float(limit[0]) for limit in room(wish, diameter))
        means = [float(f"{row.mean:.4g}"), float(f"{row.mean:.6g}")]
        tries = [
            (m, float(f"{float(stiff[0]) / m**kind.POWER + kind.DEAD:.7g}"))
            for m in means
            if low <= m <= high
        ]
    else:
        tries = [(float(f"{row.mean:.9g}"), round(row.turns, 2))]
    for mean, turns in tries:
        found = tried(kind, wish, row.wire, diameter, np.array([mean]), np.array([turns - kind.DEAD]))
        use = float(found.use[0])
        if use > FULL and not any_use:
            continue
        limit = max(found.uses, key=lambda name: float(np.ravel(found.uses[name])[0]))
        price = wish.prices.get(row.wire.name)
        mass = float(found.mass[0])
        free = float(found.free_length[0])
        return Found(
            row.wire.name,
            row.diameter,
            mean,
            turns,
            None if math.isnan(free) else free,
            wish.rate,
            mass,
            None if price is None else price * mass / 1e3,
            float(np.ravel(found.stress)[0]),
            limit,
            use,
            float(found.at_work[0]),
            False,
            kind.recipe(wish, row.wire, row.diameter, mean, turns),
        )
    return None


def _in_the_way(wish: Wish, kind: Searched) -> tuple[Found | None, tuple[Blocking, ...]]:
    """The nearest spring, searched without bore and rod in the way, and each limit that it uses up."""
    open_wish = wish.model_copy(update={"bore": None, "rod": None})
    wide = [
        (wire, found) for wire in wish.allowed if (found := over_sizes(open_wish, kind, wire)) is not None
    ]
    best: tuple[float, SpringWire, Tried, tuple[int, int]] | None = None
    for wire, found in wide:
        active = found.turns - kind.DEAD
        held = tried(kind, wish, wire, found.diameter, found.mean, active)
        use = np.where(found.use == np.inf, np.inf, held.use) if wish.turns != "any" else held.use
        k, j = divmod(int(np.argmin(use)), use.shape[1])
        if best is None or float(use[k, j]) < best[0]:
            best = float(use[k, j]), wire, held, (k, j)
    if best is None or not math.isfinite(best[0]):
        return None, ()
    _, wire, held, at = best
    uses = {name: float(np.broadcast_to(use, held.mean.shape)[at]) for name, use in held.uses.items()}
    row = _Row(wire, float(held.diameter[at[0], 0]), float(held.mean[at]), float(held.turns[at]))
    nearest = _rounded(open_wish, kind, row, any_use=True)
    if nearest is not None:
        worst = max(uses, key=lambda name: uses[name])
        recipe = kind.recipe(wish, wire, nearest.wire_diameter, nearest.mean_diameter, nearest.turns)
        nearest = replace(nearest, limit=worst, use=uses[worst], recipe=recipe)
    told = [
        Blocking(name, use, freed(wish, name, use))
        for name, use in sorted(uses.items(), key=lambda pair: -pair[1])
        if use > 1
    ]
    return nearest, tuple(told)
