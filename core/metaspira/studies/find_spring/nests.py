"""Pairs of springs that push, one in the other between the same plates, of one kind of wire and wound by
opposite hands.

Both are as long when free, so that each bears the same share of both loads; for each share every outer spring
is paired with the best inner one that stands in it.
"""

from __future__ import annotations

import math
from dataclasses import dataclass, replace
from typing import Any

import numpy as np

from metaspira.numbers.jets import Array
from metaspira.springs.wire import SpringWire
from metaspira.studies.find_spring import pushing
from metaspira.studies.find_spring.found import Answer, Blocking, Found, Inner, freed, order, ranked
from metaspira.studies.find_spring.search import FULL, over_sizes, tried
from metaspira.studies.find_spring.tried import SPARE, bound_uses, spring_asked
from metaspira.studies.find_spring.wish import Wish

_SHARES = tuple(round(0.1 + 0.05 * k, 2) for k in range(17))
_ALMOST = 1.06
_LEVELS = (0.5, 0.6, 0.7, 0.8, 0.9, FULL, _ALMOST)
_BEYOND = (1.1, 1.3, 1.6, 2.0, 3.0)
_ACROSS, _KEPT = 32, 4
_NEAR = np.linspace(-1.0, 1.0, 7)
_SHARE_STEP, _MEAN_STEP = 0.05, 0.06
_PASSES, _DEAR = 4, 20


@dataclass(frozen=True)
class _Side:
    """Springs that bear a share of the loads, each array (n,), `sizes` diameters of wire one after the other:
    mm, g, and the most used limit's share."""

    sizes: int
    diameter: Array
    mean: Array
    active: Array
    use: Array
    mass: Array
    outside: Array


@dataclass(frozen=True)
class _Pair:
    """An outer and an inner spring, (wire diameter, mean diameter, active turns), and the share of the loads
    that the outer one bears."""

    wire: SpringWire
    share: float
    outer: tuple[float, float, float]
    inner: tuple[float, float, float]
    use: float
    mass: float


def search(wish: Wish, most: int) -> Answer:
    """Pairs that do what is wished, in base units; `most` of them beside the front."""
    count, pairs = 0, []
    for wire in wish.allowed:
        sides = {share: _side(_alone(wish, share), wire) for share in _SHARES}
        count += sum(side.mean.size for side in sides.values() if side is not None)
        pairs += _paired(wish, wire, sides, _LEVELS)
    chosen = sorted(_chosen(wish, pairs, most), key=lambda pair: (pair.use, pair.mass))
    found = [one for pair in chosen for one, _ in (_written(wish, _refined(wish, pair)),) if one.use <= FULL]
    springs = _once(sorted(found, key=lambda one: order(wish, one)))
    if springs:
        return Answer(wish, ranked(wish, springs), count, None, ())
    nearest, blocking = _in_the_way(wish)
    return Answer(wish, (), count, nearest, blocking)


def _alone(wish: Wish, share: float) -> Wish:
    """What a spring that bears a share has to do by itself."""
    loads = tuple(load.model_copy(update={"force": share * (load.force or 0.0)}) for load in wish.loads)
    limits = tuple(bound for bound in wish.limits if bound.figure != "mass")
    return wish.model_copy(update={"kind": "compression", "loads": loads, "limits": limits})


def _side(alone: Wish, wire: SpringWire, held: Wish | None = None) -> _Side | None:
    """Springs of a wire in the room of `alone`; their use is that in the room of `held`."""
    found = over_sizes(alone, pushing, wire, _ACROSS)
    if found is None:
        return None
    if held is not None:
        within = tried(pushing, held, wire, found.diameter, found.mean, found.turns - pushing.DEAD)
        found = replace(found, uses=within.uses)
    each = (
        found.diameter,
        found.mean,
        found.turns - pushing.DEAD,
        found.use,
        found.mass,
        found.outside,
    )
    return _Side(len(found.use), *(np.broadcast_to(one, found.use.shape).ravel() for one in each))


def _paired(
    wish: Wish, wire: SpringWire, sides: dict[float, _Side | None], levels: tuple[float, ...]
) -> list[_Pair]:
    """For each share the pairs of least use, and those of least mass that use no limit by more than each
    level, each of another outer wire."""
    pairs = []
    for share in _SHARES:
        outer, inner = sides[share], sides[round(1 - share, 2)]
        if outer is None or inner is None:
            continue
        by = np.argsort(inner.outside, kind="stable")
        within = outer.mean - outer.diameter - 2 * wish.gap - SPARE
        fitting = np.searchsorted(inner.outside[by], within, "right")
        last = np.maximum(fitting - 1, 0)
        lone = np.where(fitting > 0, outer.use, np.inf)

        inside = by[_first_least(inner.use[by])][last]
        picks = [(inside, np.maximum(lone, inner.use[inside]))]
        for level in levels:
            inside = by[_first_least(np.where(inner.use <= level, inner.mass, np.inf)[by])][last]
            fits = (lone <= level) & (inner.use[inside] <= level)
            picks.append((inside, np.where(fits, outer.mass + inner.mass[inside], np.inf)))
        for inside, score in picks:
            by_size = score.reshape(outer.sizes, -1)
            best = by_size.argmin(axis=1) + np.arange(outer.sizes) * by_size.shape[1]
            for i in best[np.argsort(score[best])][:_KEPT]:
                if math.isfinite(score[i]):
                    pairs.append(_pair(wire, share, outer, int(i), inner, int(inside[i])))
    return pairs


def _pair(wire: SpringWire, share: float, outer: _Side, i: int, inner: _Side, j: int) -> _Pair:
    use = max(float(outer.use[i]), float(inner.use[j]))
    return _Pair(wire, share, _spring(outer, i), _spring(inner, j), use, float(outer.mass[i] + inner.mass[j]))


def _first_least(values: Array) -> Array:
    """Where the least of all up to each place (n,) stands."""
    new = np.append(True, values[1:] < np.minimum.accumulate(values)[:-1])
    return np.maximum.accumulate(np.where(new, np.arange(len(values)), 0))


def _spring(side: _Side, k: int) -> tuple[float, float, float]:
    return float(side.diameter[k]), float(side.mean[k]), float(side.active[k])


def _score(wish: Wish, pair: _Pair) -> float:
    """What is best least; a pair a little beyond its limits may come within them when it is refined."""
    price = wish.prices.get(pair.wire.name, math.inf)
    beyond = max(pair.use / FULL, 1.0) ** _DEAR
    return {"mass": pair.mass * beyond, "price": pair.mass * price * beyond}.get(wish.rank, pair.use)


def _chosen(wish: Wish, pairs: list[_Pair], most: int) -> list[_Pair]:
    """The best of each wire's diameters, up to `most`, and those that none is better than in use and mass."""
    good = sorted(
        (pair for pair in pairs if pair.use <= _ALMOST), key=lambda pair: (_score(wish, pair), pair.mass)
    )
    best: dict[tuple[str, float, float], _Pair] = {}
    for pair in good:
        best.setdefault((pair.wire.name, pair.outer[0], pair.inner[0]), pair)
    kept, least = list(best.values())[:most], math.inf
    for pair in sorted(good, key=lambda pair: (pair.mass, pair.use)):
        if pair.use < least:
            least = pair.use
            kept.append(pair)
    return list({id(pair): pair for pair in kept}.values())


def _refined(wish: Wish, pair: _Pair) -> _Pair:
    """The best between its neighbours: of least use where that ranks, otherwise of least mass that uses no
    more of any limit."""
    most = None if wish.rank in {"use", "length"} else min(pair.use, FULL)
    for k in range(_PASSES):
        close = 0.4**k
        shares = (pair.share + close * _SHARE_STEP * _NEAR).clip(0.02, 0.98)
        tries = [_about(wish, pair, float(share), close, most) for share in shares]
        pair = min(tries, key=lambda each: each[0])[1]
    return pair


def _about(wish: Wish, pair: _Pair, share: float, close: float, most: float | None) -> tuple[float, _Pair]:
    """The best pair of these wires about these mean diameters that bears so much outside, and its score: its
    use, or its mass, dearer where it uses more than `most`."""
    outer = _around(wish, pair.wire, share, pair.outer, close)
    inner = _around(wish, pair.wire, 1 - share, pair.inner, close)
    fits = inner.outside[None, :] <= (outer.mean - outer.diameter - 2 * wish.gap - SPARE)[:, None]
    score = np.maximum(outer.use[:, None], inner.use[None, :])
    if most is not None:
        mass = outer.mass[:, None] + inner.mass[None, :]
        score = mass * np.maximum(score / most, 1.0) ** _DEAR
    score = np.where(fits, score, np.inf)
    i, j = np.unravel_index(int(np.argmin(score)), score.shape)
    best = float(score[i, j])
    return best, _pair(pair.wire, share, outer, int(i), inner, int(j)) if math.isfinite(best) else pair


def _around(
    wish: Wish, wire: SpringWire, share: float, spring: tuple[float, float, float], close: float
) -> _Side:
    diameter, mean, active = spring
    alone = _alone(wish, share)
    wide = np.full(len(_NEAR) if wish.turns == "any" else 1, diameter)
    stiff = pushing.stiff(alone, wire, wide)
    if wish.turns == "any":
        means = mean * (1 + close * _MEAN_STEP * _NEAR)
        turns = stiff / means**pushing.POWER
    else:
        turns = np.array([active])
        means = (stiff / turns) ** (1 / pushing.POWER)
    found = tried(pushing, alone, wire, wide, means, turns)
    return _Side(1, wide, means, turns, found.use, found.mass, found.outside)


def _written(wish: Wish, pair: _Pair) -> tuple[Found, dict[str, float]]:
    """The pair with numbers that can be written down, and how much of each limit it uses."""
    share = round(pair.share, 4)
    each, recipes, tries = [], [], []
    for portion, (diameter, mean, active) in ((share, pair.outer), (1 - share, pair.inner)):
        alone = _alone(wish, portion)
        wide = np.array([diameter])
        stiff = float(pushing.stiff(alone, pair.wire, wide)[0])
        if wish.turns == "any":
            mean = float(f"{mean:.4g}")
            turns = float(f"{stiff / mean**pushing.POWER + pushing.DEAD:.7g}")
        else:
            turns = round(active + pushing.DEAD, 2)
            mean = float(f"{(stiff / active) ** (1 / pushing.POWER):.9g}")
        tries.append(
            tried(pushing, alone, pair.wire, wide, np.array([mean]), np.array([turns - pushing.DEAD]))
        )
        each.append((diameter, mean, turns))
        recipes.append(pushing.recipe(alone, pair.wire, diameter, mean, turns))
    outer, inner = tries
    both = replace(outer, mass=outer.mass + inner.mass)
    heavy = {name: use for name, use in bound_uses(wish, both).items() if name.endswith("mass")}
    uses = {
        name: max(float(np.ravel(found.get(name, 0.0))[0]) for found in (outer.uses, inner.uses, heavy))
        for name in {**outer.uses, **heavy}
    }
    limit = max(uses, key=lambda name: uses[name])
    price = wish.prices.get(pair.wire.name)
    mass = float(both.mass[0])
    found = Found(
        pair.wire.name,
        *each[0],
        float(outer.free_length[0]),
        wish.rate,
        mass,
        None if price is None else price * mass / 1e3,
        max(float(np.ravel(one.stress)[0]) for one in tries),
        limit,
        uses[limit],
        wish.places[1],
        False,
        _recipe(wish, pair.wire, *recipes),
        Inner(*each[1], round(1 - share, 4)),
    )
    return found, uses


def _recipe(wish: Wish, wire: SpringWire, outer: dict[str, Any], inner: dict[str, Any]) -> dict[str, Any]:
    (long, short), (weak, strong) = wish.places, wish.efforts
    within = {key: inner[key] for key in ("path", "section", "ends")}
    within["path"] = within["path"] | {"hand": "left"}
    whole = wish.model_copy(update={"kind": "compression"})
    return outer | {
        "name": f"Pair of springs, {weak:.4g} N at {long:.4g} mm and {strong:.4g} N at {short:.4g} mm",
        "wires": [{"name": "inner spring", **within}],
        "spring": spring_asked(whole, wire, seat=wish.seat, peened=wish.peened or None),
    }


def _once(springs: list[Found]) -> list[Found]:
    """Each pair once, the first of those whose wires are the same and whose masses differ by less than a
    hundredth."""
    kept: dict[tuple[str, float, float | None, float], Found] = {}
    for found in springs:
        within = found.inner.wire_diameter if found.inner else None
        kept.setdefault((found.wire, found.wire_diameter, within, float(f"{found.mass:.2g}")), found)
    return list(kept.values())


def _in_the_way(wish: Wish) -> tuple[Found | None, tuple[Blocking, ...]]:
    """The nearest pair, searched without bore and rod in the way, and each limit that it uses up."""
    wide = wish.model_copy(update={"bore": None, "rod": None})
    pairs = []
    for wire in wish.allowed:
        sides = {share: _side(_alone(wide, share), wire, _alone(wish, share)) for share in _SHARES}
        pairs += _paired(wish, wire, sides, _BEYOND)
    near = sorted((pair for pair in pairs if math.isfinite(pair.use)), key=lambda pair: pair.use)
    heavy = [bound.most for bound in wish.limits if bound.figure == "mass" and bound.most]
    if heavy:
        near.sort(key=lambda pair: max(pair.use, pair.mass / min(heavy)))
    if not near:
        return None, ()
    nearest, uses = _written(wish, near[0])
    told = [
        Blocking(name, use, freed(wish, name, use))
        for name, use in sorted(uses.items(), key=lambda pair: -pair[1])
        if use > FULL
    ]
    return nearest, tuple(told)
