"""The legs and hooks that a traced coil goes on in: of several kinds the one that keeps to what is left of
the scan at each end."""

from __future__ import annotations

import math
from collections.abc import Callable, Iterator, Sequence
from dataclasses import dataclass, replace
from functools import lru_cache
from typing import Any, Literal

import numpy as np
from pydantic import TypeAdapter
from scipy.optimize import least_squares
from scipy.spatial import cKDTree

from metaspira.numbers.jets import Array
from metaspira.numbers.once import cached_property
from metaspira.parts.wound import path_of
from metaspira.paths.legs import Leg, leg_paths
from metaspira.paths.path import JoinedPath, Path
from metaspira.problems import RecipeError
from metaspira.recipe.model import Recipe
from metaspira.recipe.reading import read_recipe
from metaspira.recipe.resolving import resolve
from metaspira.studies.trace.scan import spread_of
from metaspira.studies.trace.screw import turned_about
from metaspira.studies.trace.traced import TracedNumber

End = Literal["start", "end"]

_LEGS: TypeAdapter[tuple[Leg, ...]] = TypeAdapter(tuple[Leg, ...])

_BESIDE, _STRAY, _NEAR, _ON = 1.5, 3.0, 1.6, 0.3
_FEWEST, _LEAST_SHARE, _MOST, _MOST_BESIDE = 60, 0.005, 500, 8000
_SAMPLES, _KNOWN = 160, 4
_FIRST, _AT_LAST = (40, 1e-3), (60, 1e-6)
_BENDS = (2, 4, 8)
_FEWER = -np.arange(0.0, 0.3, 0.025)
_LAST, _FACE, _FEW, _STRETCH = 4.0, 0.75, 5, 5.0
_EXPLAINED, _SEEN = 0.9, 0.9
_FIT, _AWAY, _SHORT = 0.05, 0.3, 0.05
_POINT, _JOINT = 0.04, 0.4
_TOLD = {
    ("straight", "length"): "straight",
    ("arc", "radius"): "bend radius",
    ("arc", "angle"): "bend angle",
    ("hook", "bend_radius"): "bend radius",
    ("hook", "reach"): "reach",
    ("hook", "radius"): "loop radius",
}


@dataclass(frozen=True, eq=False)
class Legged:
    """The recipe with its legs, and the scan's places (n, 3) where its part stands; at which ends legs were
    found, what was measured of them, and of the share of the surface that is `left`."""

    recipe: dict[str, Any]
    places: Array
    found: tuple[End, ...]
    figures: list[TracedNumber]
    left: float


def with_legs(recipe: dict[str, Any], places: Array, radius: float, noise: float) -> Legged:
    """The recipe of a coil of even pitch with what its wire of `radius` goes on in, by the places (n, 3), mm,
    of the scan where its part stands."""
    path, near = _path(recipe), _near(radius, noise)
    if not isinstance(recipe["path"]["pitch"], float):
        return Legged(recipe, places, (), [], len(_left(path, places, near)) / len(places))
    above = places[:, 2] > path.derivatives(np.array([path.length / 2]), 0)[0][0, 2]
    figures: list[TracedNumber] = []
    ends: list[End] = []
    untold = 0
    both: tuple[tuple[End, Array], ...] = (("end", places[above]), ("start", places[~above]))
    for end, own in both:
        left = _left(path, own, near)
        enough = len(left) > max(_FEWEST, _LEAST_SHARE * len(places))
        found = _leg(recipe, end, own, left, radius, noise) if enough else None
        if found is None:
            untold += len(left)
            continue
        places = np.add(turned_about(places, found.turned), [0, 0, found.up])
        recipe, figures = _not_ground(found.recipe, end), found.figures + figures
        ends.append(end)
    return Legged(_sprung(recipe, ends), places, tuple(ends), figures, untold / len(places))


def _not_ground(recipe: dict[str, Any], end: End) -> dict[str, Any]:
    """The recipe without the flat face at an end for which the top of its leg was taken."""
    ends = {key: one for key, one in recipe.get("ends", {}).items() if key != end}
    others = {key: one for key, one in recipe.items() if key != "ends"}
    return {**others, **({"ends": ends} if ends else {})}


def _left(path: Path, places: Array, near: float, cut: tuple[float, float] = (0.0, 0.0)) -> Array:
    """Those of the places (n, 3) that are not `near` a path which is cut at its ends, mm."""
    stations = np.linspace(cut[0], path.length - cut[1], math.ceil(2 * path.length / near) + 2)
    return places[cKDTree(path.derivatives(stations, 0)[0]).query(places)[0] > near]


def _sprung(recipe: dict[str, Any], ends: list[End]) -> dict[str, Any]:
    """A coil with a hook at both ends is pulled, one with other legs at both is turned."""
    if len(ends) < 2:
        return recipe
    legs = recipe["path"]["legs"]
    hooks = [legs[end][-1]["kind"] == "hook" for end in ends]
    if any(hooks) and not all(hooks):
        return recipe
    return {**recipe, "spring": {"kind": "extension" if all(hooks) else "torsion"}}


@dataclass(frozen=True, eq=False)
class _Found:
    """A recipe with one leg more, by how much its part is turned, radians, and up, mm, and what was measured
    of the leg."""

    recipe: dict[str, Any]
    turned: float
    up: float
    figures: list[TracedNumber]


@dataclass(frozen=True)
class _Number:
    """A number of a kind of leg: of which of its legs it is which size, from what it starts and what it is at
    least, mm and degrees."""

    of: int
    key: str
    start: float
    least: float


@dataclass(frozen=True, eq=False)
class _Kind:
    """A kind of leg: its legs from the coil outward without their numbers, and these; and how many more turns
    it starts from."""

    legs: tuple[dict[str, Any], ...]
    numbers: tuple[_Number, ...]
    more: float = 0.0

    @property
    def start(self) -> list[float]:
        return [one.start for one in self.numbers]

    def written(self, values: Sequence[float]) -> list[dict[str, Any]]:
        """Its legs as in a recipe."""
        legs = [dict(leg) for leg in self.legs]
        for one, value in zip(self.numbers, values, strict=True):
            legs[one.of][one.key] = value
        return legs

    def resolved(self, values: Sequence[float]) -> tuple[Leg, ...]:
        """Its legs as in a resolved recipe."""
        changed: list[dict[str, float]] = [{} for _ in self.legs]
        for one, value in zip(self.numbers, values, strict=True):
            changed[one.of][one.key] = math.radians(value) if one.key == "angle" else value
        return tuple(leg.model_copy(update=own) for leg, own in zip(self._typed, changed, strict=True))

    @cached_property
    def _typed(self) -> tuple[Leg, ...]:
        return _LEGS.validate_python(self.written(self.start))


@dataclass(frozen=True, eq=False)
class _Tip:
    """Where a coil ends: its `point`, the way on, and the directions outward and up, (3,) each; and its mean
    radius, mm."""

    point: Array
    way: Array
    out: Array
    up: Array

    @property
    def coil(self) -> float:
        return float(np.hypot(*self.point[:2]))


def _tip(point: Array, way: Array) -> _Tip:
    out = np.append(point[:2], 0.0)
    out = out - (out @ way) * way
    out = out / np.linalg.norm(out)
    up = np.cross(way, out)
    return _Tip(point, way, out, up * math.copysign(1.0, up[2]))


def _kinds(at: _At, left: Array) -> Iterator[list[_Kind]]:
    """The kinds of leg, the plainest first, that may be at an end of a coil where the places (n, 3) are
    left. Those of one list are tried together."""
    tip, radius = at.tip(0.0), at.radius
    short, coil = _SHORT * radius, tip.coil
    far = float(np.linalg.norm(left - tip.point, axis=1).max())
    yield [_Kind(({"kind": "straight"},), (_Number(0, "length", far, radius),))]

    def hook(form: str) -> _Kind:
        reach = short if form == "half-loop" else coil
        bend, loop = _Number(0, "bend_radius", 2 * radius, radius), _Number(0, "radius", coil, radius)
        return _Kind(({"kind": "hook", "form": form},), (bend, _Number(0, "reach", reach, 0.0), loop))

    yield [hook(form) for form in ("half-loop", "full-loop", "side-loop")]
    more = max(_FEWER, key=lambda one: _straight_on(at.tip(one), left, radius))

    def bent(before: bool, wide: float, more: float) -> _Kind:
        arc = int(before)
        side, angle, first, last = _bend(at.tip(more), left, radius)
        legs = ({"kind": "straight"}, {"kind": "arc", "side": side}, {"kind": "straight"})
        numbers = (
            _Number(arc, "radius", wide * radius, radius),
            _Number(arc, "angle", angle, 5.0),
            _Number(arc + 1, "length", last, short),
            _Number(0, "length", first, short),
        )
        return _Kind(legs[1 - arc :], numbers[: 3 + arc], more)

    yield [bent(False, wide, 0.0) for wide in _BENDS]
    yield [bent(True, wide, one) for wide in _BENDS for one in {0.0, more}]


def _bend(tip: _Tip, left: Array, radius: float) -> tuple[str, float, float, float]:
    """Of a leg with one bend about what it bends towards, by how many degrees, and how long, mm, it goes
    before and after that."""
    straight = _straight_on(tip, left, radius)
    far = np.linalg.norm(left - tip.point, axis=1)
    last = left[far > far.max() - _STRETCH * radius]
    rest = last.mean(axis=0) - tip.point - straight * tip.way
    way = np.linalg.svd(last - last.mean(axis=0), full_matrices=False)[2][0]
    way = way * math.copysign(1.0, way @ rest)
    angle = math.degrees(math.acos(min(1.0, max(-1.0, float(way @ tip.way)))))
    sides = {"outward": tip.out, "inward": -tip.out, "up": tip.up, "down": -tip.up}
    side = max(sides, key=lambda one: float(way @ sides[one]))
    bend = _BENDS[1] * radius * math.tan(math.radians(min(angle, 120.0)) / 2)
    after = float(np.linalg.norm(rest)) + _STRETCH / 2 * radius - bend
    return side, max(angle, 10.0), max(straight - bend, radius), max(after, radius)


def _straight_on(tip: _Tip, left: Array, radius: float) -> float:
    """How far, mm, the places (n, 3) go straight on from a tip."""
    from_tip = left - tip.point
    along = from_tip @ tip.way
    aside = np.linalg.norm(from_tip - along[:, None] * tip.way, axis=1)
    on = np.sort(along[(aside < _NEAR * radius) & (along > 0)])
    gaps = np.flatnonzero(np.diff(on) > radius)
    return float(on[gaps[0]] if len(gaps) else on[-1]) if len(on) else 0.0


def _near(radius: float, noise: float) -> float:
    """How far, mm, from its line what is of a wire may be."""
    return _BESIDE * radius + _STRAY * noise


def _leg(
    recipe: dict[str, Any], end: End, places: Array, left: Array, radius: float, noise: float
) -> _Found | None:
    """The leg at an end, by the places (n, 3) on its side of the coil and those that are left of them; None
    where none of the kinds keeps to these."""
    at = _At(recipe, end, _thinned(left, _MOST), _thinned(places, _MOST_BESIDE), radius, noise)
    path, around = at.coil(0.0), 2 * math.pi * at.tip(0.0).coil
    for kinds in _kinds(at, left):
        kind, found = min(
            ((kind, _settled(at, kind, None, *_FIRST)) for kind in kinds), key=lambda one: one[1].cost
        )
        # the coil as it was traced goes on where the leg does at first
        cut = around * max(-_more(found.x), 0.0)
        freed = _left(path, places, _near(radius, noise), (0.0, cut) if end == "end" else (cut, 0.0))
        own = replace(at, places=_thinned(freed, _MOST))
        kept = _kept(own, kind, _settled(own, kind, found.x, *_AT_LAST))
        if kept is not None:
            return kept
    return None


def _thinned(places: Array, most: int) -> Array:
    return places[:: max(1, len(places) // most)]


@dataclass(frozen=True, eq=False)
class _At:
    """An end of a recipe's coil, the places (n, 3) that are left there, and all on that side (m, 3)."""

    recipe: dict[str, Any]
    end: End
    places: Array
    side: Array
    radius: float
    noise: float

    def legged(self, kind: _Kind, x: Array) -> dict[str, Any]:
        """The recipe with a leg and with more turns, by all of its numbers."""
        path = self.recipe["path"]
        legs = {**path.get("legs", {}), self.end: kind.written(x[1:].tolist())}
        return {**self.recipe, "path": {**path, "turns": path["turns"] + _more(x), "legs": legs}}

    def line(self, kind: _Kind, x: Array) -> tuple[Array, Array]:
        """Places (_SAMPLES, 3) along the leg, from the coil outward, and the tangents there. Raises
        RecipeError."""
        coil, at_end = self.coil(_more(x)), self.end == "end"
        pieces = leg_paths(coil, coil, kind.resolved(x[1:].tolist()), at_end, f"/path/legs/{self.end}")
        leg = JoinedPath(tuple(pieces if at_end else reversed(pieces)))
        ends = (0.0, leg.length) if at_end else (leg.length, 0.0)
        place, tangent = leg.derivatives(np.linspace(*ends, _SAMPLES), 1)
        return self.standing(place, tangent if at_end else -tangent, _more(x))

    def tip(self, more: float) -> _Tip:
        """Where the coil ends with so many more turns."""
        path, at_end = self.coil(more), self.end == "end"
        place, tangent = path.derivatives(np.array([path.length if at_end else 0.0]), 1)
        (point,), (way,) = self.standing(place, tangent if at_end else -tangent, more)
        return _tip(point, way / np.linalg.norm(way))

    def standing(self, place: Array, way: Array, more: float) -> tuple[Array, Array]:
        """Places and ways (n, 3) of the part of so many more turns, where the scan is."""
        turned, up = self.moved(more)
        return turned_about(place - [0, 0, up], -turned), turned_about(way, -turned)

    def off(self, kind: _Kind, x: Array) -> tuple[Array, Array]:
        """How far the places are off the leg's surface (n,), and how far places along the leg are from any
        (_SAMPLES,), beyond what is near, mm. Raises RecipeError."""
        line, tangent = self.line(kind, x)
        far, near = cKDTree(line).query(self.places)
        along = np.einsum("ij,ij->i", self.places - line[near], tangent[near])
        along[(near == 0) | (near == len(line) - 1)] = 0.0
        surface = np.sqrt(np.maximum(far**2 - along**2, 0.0)) - self.radius
        bare = np.maximum(self.tree.query(line)[0] - _NEAR * self.radius, 0.0)
        return surface, bare

    def moved(self, more: float) -> tuple[float, float]:
        """How far, radians, the part is turned and up, mm, in its recipe's place: by the turns that are wound
        before its start."""
        if self.end == "end":
            return 0.0, 0.0
        sign = 1 if self.recipe["path"]["hand"] == "right" else -1
        return sign * 2 * math.pi * more, self.pace * more

    @cached_property
    def coil(self) -> Callable[[float], Path]:
        """The path without legs, by how many more turns it has. Raises RecipeError."""
        wire = _resolved(_legless(self.recipe))
        turns = self.recipe["path"]["turns"]

        @lru_cache(_KNOWN)
        def path(more: float) -> Path:
            own = wire.path.model_copy(update={"turns": turns + more})
            return path_of(wire.model_copy(update={"path": own}))

        return path

    @cached_property
    def pace(self) -> float:
        """How far the wire climbs in a turn at its start, mm."""
        (place,), (tangent,) = self.coil(0.0).derivatives(np.zeros(1), 1)
        return float(2 * math.pi * np.hypot(*place[:2]) * tangent[2] / np.hypot(*tangent[:2]))

    @cached_property
    def tree(self) -> cKDTree:
        return cKDTree(self.side)


def _more(x: Array) -> float:
    """By how many more turns; 1 for none, so that it is tried in steps that are not too small."""
    return float(x[0]) - 1


def _settled(at: _At, kind: _Kind, start: Array | None, rounds: int, close: float) -> Any:
    """The numbers of a kind of leg, after those of how many more turns, that keep to the places best."""
    count = len(at.places)

    def off(x: Array) -> Array:
        try:
            surface, bare = at.off(kind, x)
        except RecipeError:
            return np.full(count + _SAMPLES, 10 * at.radius)
        return np.concatenate([surface, bare * math.sqrt(count / _SAMPLES)])

    return least_squares(
        off,
        [1.0 + kind.more, *kind.start] if start is None else start,
        bounds=(
            [1 - _AWAY, *(one.least for one in kind.numbers)],
            [1 + _AWAY, *(np.inf for _ in kind.numbers)],
        ),
        x_scale=np.maximum(np.abs([0.02, *kind.start]), 0.05),
        loss="soft_l1",
        f_scale=max(2 * at.noise, _FIT * at.radius),
        diff_step=1e-3,
        max_nfev=rounds,
        ftol=close,
        xtol=close,
    )


def _kept(at: _At, kind: _Kind, settled: Any) -> _Found | None:
    """The leg, as long as it is seen; None where it does not keep to the places."""
    x = settled.x
    recipe = at.legged(kind, np.round(x, 4))
    try:
        surface, bare = at.off(kind, x)
        _resolved(recipe)
    except RecipeError:
        return None
    fit = spread_of(surface)
    explained = float((np.abs(surface) < _ON * at.radius).mean())
    seen = float((bare <= 0).mean())
    if explained < _EXPLAINED or seen < _SEEN or fit > 2 * at.noise + _FIT * at.radius:
        return None
    legs = recipe["path"]["legs"][at.end]
    sure = 2 * max(fit, at.noise) * np.sqrt(np.diag(np.linalg.pinv(settled.jac.T @ settled.jac)))
    if legs[-1]["kind"] == "straight":
        line, tangent = at.line(kind, x)
        length = legs[-1]["length"] + _beyond(at, line[-1], tangent[-1])
        legs[-1]["length"] = round(max(length, at.radius), 4)
        last = [(one.of, one.key) for one in kind.numbers].index((len(legs) - 1, "length"))
        sure[1 + last] = 0.0  # its end tells, not what lies along it
    sure = sure + _POINT * at.radius
    figures = [
        TracedNumber(
            f"{at.end}_{one.of}_{one.key}",
            f"{'Hook' if leg['kind'] == 'hook' else 'Leg'} at the {at.end}: {_TOLD[leg['kind'], one.key]}",
            leg[one.key],
            float(half) + (2 * at.noise + _JOINT * at.radius if one.key == "length" else 0.0),
            "°" if one.key == "angle" else "mm",
            f"/path/legs/{at.end}/{one.of}/{one.key}",
        )
        for one, half in zip(kind.numbers, sure[1:], strict=True)
        for leg in [legs[one.of]]
    ]
    return _Found(recipe, *at.moved(_more(x)), figures)


def _beyond(at: _At, tip: Array, way: Array) -> float:
    """How far, mm, the wire goes on beyond the tip of its leg: to the middle of its end face, or where none
    was seen to the outermost places."""
    from_tip = at.places - tip
    along = from_tip @ way
    aside = np.linalg.norm(from_tip - along[:, None] * way, axis=1)
    own = along[(aside < _NEAR * at.radius) & (along > -_LAST * at.radius)]
    if not len(own):
        return 0.0
    rim = float(np.percentile(own, 99))
    face = along[(aside < _FACE * at.radius) & (np.abs(along - rim) < at.radius / 2)]
    return float(np.median(face)) if len(face) >= _FEW else rim


def _path(recipe: dict[str, Any]) -> Path:
    return path_of(_resolved(recipe))


def _resolved(recipe: dict[str, Any]) -> Recipe:
    typed = read_recipe(recipe)
    assert isinstance(typed, Recipe)
    return resolve(typed)


def _legless(recipe: dict[str, Any]) -> dict[str, Any]:
    return {**recipe, "path": {key: one for key, one in recipe["path"].items() if key != "legs"}}
