"""The section whose outline was traced: the plainest kind that keeps to it, or the outline itself."""

from __future__ import annotations

import math
from collections.abc import Callable, Iterator
from dataclasses import dataclass, field, replace
from typing import Any

import numpy as np
import shapely
from scipy.optimize import least_squares

from metaspira.numbers.jets import Array
from metaspira.studies.trace.scan import Mask

_KEPT, _KEPT_ABOUT = 0.004, 0.008
_SIDES = (3, 6, 8, 5)
_POINTS, _STRAIGHT = 90, 0.002
_STEPS = 6
_SHARP, _BLURRED = 0.03, 4
_UPRIGHT = math.radians(2)


@dataclass(frozen=True)
class SectionFound:
    """A section as in a recipe, `turned` by so many radians, its middle `at` (2,), mm; `off`, mm, is how far
    the outline is off it; `sizes` are the keys of its measures, with their titles."""

    recipe: dict[str, Any]
    turned: float
    off: float
    sizes: dict[str, str] = field(default_factory=dict)
    at: tuple[float, float] = (0.0, 0.0)

    def scaled(self, factor: float) -> SectionFound:
        """The section so many times as large."""
        recipe = {
            key: round(value * factor, 4) if key in self.sizes else value
            for key, value in self.recipe.items()
        }
        if "loops" in recipe:
            loop = recipe["loops"][0]
            points = [[round(c * factor, 4) for c in point] for point in loop["points"]]
            recipe["loops"] = [{**loop, "points": points}]
        return SectionFound(recipe, self.turned, self.off * factor, self.sizes)


def section_of(outline: Array, noise: float, seen: Mask) -> SectionFound:
    """The section of an outline of radii (n,), mm, at even angles from 0, about its middle, which places keep
    to within `noise`, mm, by the ways (n,) at which it was `seen`; where that is of no kind it goes straight
    on between them."""
    ways, outline = ways_of(len(outline))[seen], outline[seen]
    return _plainest(ways, outline, noise, np.zeros(0), _KEPT) or _free(ways, outline)


def section_about(outline: Array, noise: float, seen: Mask) -> SectionFound:
    """The section of an outline as in `section_of`, by the ways (n,) at which it was `seen`, wherever its
    middle is."""
    ways = ways_of(len(outline))
    found = _plainest(ways[seen], outline[seen], noise, np.zeros(2), _KEPT_ABOUT)
    return found or _free(ways, outline)


def ways_of(count: int) -> Array:
    """The angles (count,) of an outline's radii."""
    return np.asarray((np.arange(count) + 0.5) * 2 * math.pi / count)


def places_around(ways: Array, outline: Array) -> Array:
    """The places (n, 2), mm, of an outline of radii (n,) at the angles `ways` (n,)."""
    return outline[:, None] * np.stack([np.cos(ways), np.sin(ways)], axis=1)


def same_around(section: dict[str, Any]) -> int:
    """How many times, turned once around, a section in a recipe is the same."""
    return {"rectangle": 2, "ellipse": 2}.get(section["kind"]) or int(section.get("sides", 1))


def upright(section: SectionFound) -> SectionFound:
    """The section turned by as little as shows it the same: width and height change places by a quarter."""
    recipe = section.recipe
    if recipe["kind"] in ("round", "free"):
        return section
    part = 2 * math.pi / recipe.get("sides", 4)
    parts = round(section.turned / part)
    if "width" in recipe and parts % 2:
        recipe = {**recipe, "width": recipe["height"], "height": recipe["width"]}
    turned = section.turned - parts * part
    return replace(section, recipe=recipe, turned=0.0 if abs(turned) < _UPRIGHT else turned)


def _plainest(ways: Array, outline: Array, noise: float, middle: Array, kept: float) -> SectionFound | None:
    """The first kind of section that the outline keeps to, within the share `kept` of its size."""
    most = max(kept * float(np.median(outline)), 0.3 * noise)
    return next((one for one in _tried(ways, outline, noise, middle) if one.off < most), None)


def _tried(ways: Array, outline: Array, noise: float, middle: Array) -> Iterator[SectionFound]:
    """The kinds of section that fit best; where `middle` is (2,), theirs is moved as well."""
    size = float(np.median(outline))
    mean = float(outline.mean())
    off = float(np.sqrt(np.mean((outline - mean) ** 2)))
    yield SectionFound({"kind": "round", "diameter": round(2 * mean, 4)}, 0.0, off, {"diameter": "Diameter"})
    both = {"width": "Width", "height": "Height"}
    far, near = float(outline.max()), float(outline.min())

    def rectangle(x: Array) -> Array:
        a, b = np.abs(x[:2])
        r = float(np.clip(x[2], 0.0, 0.98 * min(a, b)))
        inner = shapely.box(r - a, r - b, a - r, b - r)
        return np.asarray(inner.buffer(r, quad_segs=12).exterior.coords if r > 1e-6 * a else _corners(a, b))

    high = math.sqrt(max(far**2 - near**2, near**2 / 4))
    found = _fitted(ways, outline, middle, rectangle, [[near, high, share * near] for share in (0.02, 0.3)])
    a, b = np.abs(found.x[:2])
    r = float(np.clip(found.x[2], 0.0, 0.98 * min(a, b)))
    corner = {"corner_radius": round(r, 4)} if r > max(_SHARP * min(a, b), _BLURRED * noise) else {}
    recipe = {
        "kind": "rectangle",
        "width": round(2 * float(a), 4),
        "height": round(2 * float(b), 4),
        **corner,
    }
    titles = {**both, **({"corner_radius": "Corner radius"} if corner else {})}
    yield SectionFound(recipe, float(found.x[-1]), _rms(found.fun), titles, _at(found.x, middle))

    def ellipse(x: Array) -> Array:
        around = np.linspace(0, 2 * math.pi, 241)
        return np.stack([x[0] * np.cos(around), x[1] * np.sin(around)], axis=1)

    found = _fitted(ways, outline, middle, ellipse, [[far, near]])
    recipe = {
        "kind": "ellipse",
        "width": round(2 * abs(float(found.x[0])), 4),
        "height": round(2 * abs(float(found.x[1])), 4),
    }
    yield SectionFound(recipe, float(found.x[-1]), _rms(found.fun), both, _at(found.x, middle))
    for sides in _SIDES:

        def polygon(x: Array, sides: int = sides) -> Array:
            angle = (2 * np.arange(sides + 1) - 1) * math.pi / sides
            return x[0] / math.cos(math.pi / sides) * np.stack([np.cos(angle), np.sin(angle)], axis=1)

        found = _fitted(ways, outline, middle, polygon, [[size]])
        recipe = {"kind": "polygon", "sides": sides, "across_flats": round(2 * float(found.x[0]), 4)}
        titles = {"across_flats": "Across flats"}
        yield SectionFound(recipe, float(found.x[-1]), _rms(found.fun), titles, _at(found.x, middle))


def _corners(a: float, b: float) -> list[tuple[float, float]]:
    return [(a, -b), (a, b), (-a, b), (-a, -b), (a, -b)]


def _at(x: Array, middle: Array) -> tuple[float, float]:
    return (float(x[-3]), float(x[-2])) if len(middle) else (0.0, 0.0)


def _fitted(
    ways: Array, outline: Array, middle: Array, shape: Callable[[Array], Array], starts: list[list[float]]
) -> Any:
    """The numbers of a shape, its middle where that is moved, and the angle that it is turned by, that keep
    closest to the outline."""
    places = places_around(ways, outline)

    def off(x: Array) -> Array:
        back = np.array([[math.cos(x[-1]), -math.sin(x[-1])], [math.sin(x[-1]), math.cos(x[-1])]])
        ring = shapely.LinearRing(shape(x[: -1 - len(middle)]))
        return np.asarray(shapely.distance(shapely.points((places - _at(x, middle)) @ back), ring))

    tries = [
        least_squares(
            off,
            [*start, *middle, angle],
            x_scale=np.maximum(np.abs([*start, *(middle + start[0]), 0.2]), 1e-6),
            diff_step=1e-4,
            max_nfev=40,
        )
        for start in starts
        for angle in np.arange(_STEPS) * math.pi / _STEPS
    ]
    return min(tries, key=lambda found: float(found.cost))


def _rms(off: Array) -> float:
    return float(np.sqrt(np.mean(off**2)))


def _free(ways: Array, outline: Array) -> SectionFound:
    """The outline itself, by as few points as keep to it."""
    ring = shapely.Polygon(places_around(ways, outline))
    plain = ring.simplify(_STRAIGHT * float(np.median(outline)))
    points = [[round(x, 4), round(y, 4)] for x, y in list(plain.exterior.coords)[:-1]]
    return SectionFound({"kind": "free", "loops": [{"points": points}]}, 0.0, 0.0)
