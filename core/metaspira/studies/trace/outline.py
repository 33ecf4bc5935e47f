"""The section whose outline was traced: the plainest kind that keeps to it, or the outline itself."""

from __future__ import annotations

import math
from collections.abc import Callable, Iterator
from dataclasses import dataclass, field
from typing import Any

import numpy as np
import shapely
from scipy.optimize import least_squares

from metaspira.numbers.jets import Array

_KEPT = 0.004
_SIDES = (3, 6, 8, 5)
_POINTS, _STRAIGHT = 90, 0.002
_STEPS = 6
_SHARP, _BLURRED = 0.03, 4


@dataclass(frozen=True)
class SectionFound:
    """A section as in a recipe, `turned` by so many radians; `off`, mm, is how far the outline is off it;
    `sizes` are the keys of its measures, with their titles."""

    recipe: dict[str, Any]
    turned: float
    off: float
    sizes: dict[str, str] = field(default_factory=dict)

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


def section_of(outline: Array, noise: float) -> SectionFound:
    """The section of an outline of radii (n,), mm, at even angles from 0, which places keep to within
    `noise`, mm."""
    ways = (np.arange(len(outline)) + 0.5) * 2 * math.pi / len(outline)
    size = float(np.median(outline))
    for found in _tried(ways, outline, noise):
        if found.off < max(_KEPT * size, 0.3 * noise):
            return found
    return _free(ways, outline)


def _tried(ways: Array, outline: Array, noise: float) -> Iterator[SectionFound]:
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
    found = _fitted(ways, outline, rectangle, [[near, high, share * near] for share in (0.02, 0.3)])
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
    yield SectionFound(recipe, float(found.x[-1]), _rms(found.fun), titles)

    def ellipse(x: Array) -> Array:
        around = np.linspace(0, 2 * math.pi, 241)
        return np.stack([x[0] * np.cos(around), x[1] * np.sin(around)], axis=1)

    found = _fitted(ways, outline, ellipse, [[far, near]])
    recipe = {
        "kind": "ellipse",
        "width": round(2 * float(found.x[0]), 4),
        "height": round(2 * float(found.x[1]), 4),
    }
    yield SectionFound(recipe, float(found.x[-1]), _rms(found.fun), both)
    for sides in _SIDES:

        def polygon(x: Array, sides: int = sides) -> Array:
            angle = (2 * np.arange(sides + 1) - 1) * math.pi / sides
            return x[0] / math.cos(math.pi / sides) * np.stack([np.cos(angle), np.sin(angle)], axis=1)

        found = _fitted(ways, outline, polygon, [[size]])
        recipe = {"kind": "polygon", "sides": sides, "across_flats": round(2 * float(found.x[0]), 4)}
        titles = {"across_flats": "Across flats"}
        yield SectionFound(recipe, float(found.x[-1]), _rms(found.fun), titles)


def _corners(a: float, b: float) -> list[tuple[float, float]]:
    return [(a, -b), (a, b), (-a, b), (-a, -b), (a, -b)]


def _fitted(ways: Array, outline: Array, shape: Callable[[Array], Array], starts: list[list[float]]) -> Any:
    """The numbers of a shape, and the angle that it is turned by, that keep closest to the outline."""
    places = outline[:, None] * np.stack([np.cos(ways), np.sin(ways)], axis=1)

    def off(x: Array) -> Array:
        back = np.array([[math.cos(x[-1]), -math.sin(x[-1])], [math.sin(x[-1]), math.cos(x[-1])]])
        ring = shapely.LinearRing(shape(x[:-1]))
        return np.asarray(shapely.distance(shapely.points(places @ back), ring))

    tries = [
        least_squares(
            off, [*start, angle], x_scale=np.maximum(np.abs([*start, 0.2]), 1e-6), diff_step=1e-4, max_nfev=40
        )
        for start in starts
        for angle in np.arange(_STEPS) * math.pi / _STEPS
    ]
    return min(tries, key=lambda found: float(found.cost))


def _rms(off: Array) -> float:
    return float(np.sqrt(np.mean(off**2)))


def _free(ways: Array, outline: Array) -> SectionFound:
    """The outline itself, by as few points as keep to it."""
    ring = shapely.Polygon(outline[:, None] * np.stack([np.cos(ways), np.sin(ways)], axis=1))
    plain = ring.simplify(_STRAIGHT * float(np.median(outline)))
    points = [[round(x, 4), round(y, 4)] for x, y in list(plain.exterior.coords)[:-1]]
    return SectionFound({"kind": "free", "loops": [{"points": points}]}, 0.0, 0.0)
