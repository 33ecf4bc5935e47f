"""A straight bar that is twisted, or grows thicker or thinner: cut into slices, each turned and scaled until
its outline is that of all of them."""

from __future__ import annotations

import math
from dataclasses import dataclass, replace
from typing import Any

import numpy as np
import shapely
from numpy.typing import NDArray

from metaspira.numbers.jets import Array
from metaspira.studies.trace.around import (
    between,
    bins_of,
    equations_by_bin,
    grid_of,
    middles,
    share_around,
    slope_around,
    value_at,
    without_gaps,
)
from metaspira.studies.trace.cone import around_cone, beside, toward
from metaspira.studies.trace.outline import SectionFound, places_around, same_around, section_of, ways_of
from metaspira.studies.trace.scan import Mask, Scan, middle_near, spread_of
from metaspira.studies.trace.screw import TURNED_OVER, Screw, turned_about
from metaspira.studies.trace.traced import TracedNumber

_SLICES, _WAYS = 60, 180
_WALL, _CAP, _CAPS = 0.9, 0.95, 30
_LEAST_SEEN = 0.5
_SLENDER = 2.0
_REACH = math.radians(30)
_ROUNDS, _PATIENT, _BETTER = 40, 4, 0.97
_FEW, _FEWEST = 12, 4
_FITS = 0.02
_TWISTED, _TAPERED = math.radians(3), 0.01
_EVEN, _POINTS, _CLOSES = math.radians(1.5), 9, math.radians(3)
_LEANS = 0.1
_EVEN_SIZE, _MOST = 0.004, 95
_BIN = 2 * math.pi / _WAYS
_RIM, _ASIDE, _UNSEEN = 3, 0.3, 0.5
_WAYS_OF = ways_of(_WAYS)


@dataclass(frozen=True, eq=False)
class TracedBar:
    """The recipe of a bar along z, from 0; `places` (n, 3), mm, are those of the scan where it stands;
    `seen` is the share of the way around at which there are any; `plain` says
    that nothing is twisted or tapered in it."""

    recipe: dict[str, Any]
    places: Array
    size: float
    seen: float
    plain: bool
    figures: list[TracedNumber]


def bar_of(scan: Scan, screw: Screw) -> TracedBar | None:
    """The bar around the axis of `screw`, or along the longest way of the surface; None where its slices are
    not one outline, or it is no longer than wide."""
    longest = _longest(scan)
    axes = (screw, longest, around_cone(scan, longest))
    found = [cut for axis in axes if (cut := cut_along(scan, axis)) is not None]
    if not found:
        return None
    slices = min(found, key=lambda one: one.off / one.size)
    if not slices.fits:
        return None
    # it begins where it is thickest
    return described(slices.turned_over if slices.scale[-1] > 1 + _TAPERED else slices)


@dataclass(frozen=True, eq=False)
class Slices:
    """Places (n, 3) upright, from the start of a bar of `length`, mm; at the heights `at` (k,) it is turned
    by `turn` (k,), radians, and `scale` (k,) as large as the outline of radii `outline` (_WAYS,), mm, of
    which what is `known` (_WAYS,) was seen, and its places are so far `beside` (k, 2) it, mm; `off` is how
    far places lie off it, mm, and `facets` how far the mesh's corners do. `line` (4,) is by how much its axis
    is shifted, mm, and leans, and `low` where along the one that it was cut along it begins, mm; `unseen`,
    mm, is how far its ends may lie off where no face of them was seen. One that is `closed` goes on at its
    end where it began."""

    places: Array
    length: float
    turn: Array
    scale: Array
    outline: Array
    known: Mask
    off: float
    beside: Array
    line: Array
    low: float = 0.0
    unseen: float = 0.0
    facets: float = 0.0
    closed: bool = False

    @property
    def fits(self) -> bool:
        return self.off <= _FITS * self.size

    @property
    def at(self) -> Array:
        return _heights(self.length)

    @property
    def lead(self) -> float:
        """The length in which it turns once, mm."""
        rate = _rate(self)[0]
        return 2 * math.pi / rate if rate else math.inf

    @property
    def seen(self) -> float:
        """The share of the way around that was seen."""
        return float(self.known.mean())

    @property
    def closes(self) -> bool:
        """Whether its section comes back, at the end, as it began."""
        return not self.closed or abs(math.remainder(_rate(self)[0] * self.length, 2 * math.pi)) < _CLOSES

    @property
    def size(self) -> float:
        return float(np.median(self.outline))

    @property
    def turned_over(self) -> Slices:
        """The bar from its other end, turned over about x."""
        return replace(
            self,
            places=self.places * TURNED_OVER + [0, 0, self.length],
            turn=-self.turn[::-1],
            scale=self.scale[::-1] / self.scale[-1],
            outline=self.outline[::-1] * self.scale[-1],
            known=self.known[::-1],
        )

    @property
    def middle(self) -> Array:
        """Places (k + 2, 3) of the middle of the bar, from end to end, beside what it was cut along, mm."""
        heights = np.concatenate([[0.0], self.at, [self.length]])
        own = slice(_RIM, -_RIM)  # some places of the outermost slices are of the end faces
        within = between(heights, self.at[own], self.beside[own])
        leans = self.line[:2] + np.outer(heights - self.length / 2, self.line[2:])
        # with its outline shifted one way and the curve the other, the bar would be the same
        centre = complex(*shapely.Polygon(places_around(_WAYS_OF, self.outline)).centroid.coords[0])
        turned = (
            centre
            * np.interp(heights, self.at, self.scale)
            * np.exp(1j * np.interp(heights, self.at, self.turn))
        )
        return np.column_stack(
            [within + leans + np.stack([turned.real, turned.imag], axis=1), heights + self.low]
        )


def _longest(scan: Scan) -> Screw:
    middle = scan.points.mean(axis=0)
    axis = np.linalg.svd(scan.points[::10] - middle, full_matrices=False)[2][0]
    return Screw(axis, middle, math.inf, 1.0)


def cut_along(scan: Scan, screw: Screw, even: bool = False, around: float | None = None) -> Slices | None:
    """The slices of what lies along the axis of `screw`, turned and scaled evenly where that is asked for;
    None where they are not one outline, or it is no longer than wide. What was laid straight from `around` a
    line that closes, of that length, mm, has no ends."""
    points, across, corners = (
        screw.upright(scan.points),
        scan.normals @ screw.axis,
        screw.upright(scan.corners),
    )
    if around is None:
        (low, below), (high, above) = (_end(points[:, 2], across, way) for way in (-1, 1))
    else:
        low, below, high, above = 0.0, 0.0, around, 0.0
        for one in (points, corners):
            one[:, 2] %= around
    length = high - low
    wall = points[(np.abs(across) < _WALL) & (points[:, 2] > low) & (points[:, 2] < high)] - [0, 0, low]
    wide = 2 * float(np.median(np.hypot(wall[:, 0], wall[:, 1]))) if len(wall) else math.inf
    if length < _SLENDER * wide:
        return None
    rate = 2 * math.pi / screw.lead if abs(screw.lead) > 1e-6 * length else 0.0
    picture = _picture(wall, length, rate)
    if np.isnan(picture).mean() > _LEAST_SEEN:
        return None
    turn, scale = _turned(picture)
    begun = Slices(
        points - [0, 0, low],
        length,
        turn + rate * _heights(length),
        scale,
        np.zeros(0),
        np.zeros(0, dtype=bool),
        math.inf,
        np.zeros((0, 2)),
        np.zeros(4),
        low,
        below + above,
        closed=around is not None,
    )
    return _settled(begun, wall, corners - [0, 0, low], even)


def _facets(slices: Slices, line: Array, corners: Array) -> float:
    """How far, mm, the corners of the mesh lie off the outline of its triangles, which are chords."""
    moved = _along(corners, line, slices.length)
    way = np.arctan2(moved[:, 1], moved[:, 0]) - np.interp(moved[:, 2], slices.at, slices.turn)
    rho = np.hypot(moved[:, 0], moved[:, 1]) / np.interp(moved[:, 2], slices.at, slices.scale)
    off = rho - value_at(slices.outline, share_around(way))
    return abs(middle_near(off, max(6 * slices.off, _FITS * slices.size), _FEW))


def _end(height: Array, across: Array, way: int) -> tuple[float, float]:
    """Where the bar ends, mm: at the middle of its end face; where none was seen, as far beyond the outermost
    places as those lie apart; and how far off that may be."""
    last, before = np.percentile(height, (99, 98) if way > 0 else (1, 2))
    apart = float(last - before)
    rim = float(last) + apart
    near = 0.02 * float(np.ptp(height))
    cap = height[(across * way > _CAP) & (np.abs(height - rim) < near)]
    return (float(np.median(cap)), 0.0) if len(cap) > _CAPS else (rim, _UNSEEN * abs(apart))


def _heights(length: float) -> Array:
    """The middles of the slices (_SLICES,) of a bar, mm."""
    return (np.arange(_SLICES) + 0.5) * length / _SLICES


def _picture(wall: Array, length: float, rate: float) -> Array:
    """The middle radius, mm, of each slice at each way around (_SLICES, _WAYS), turned back by `rate` radians
    a mm; not a number where nothing is."""
    way = np.arctan2(wall[:, 1], wall[:, 0]) - rate * wall[:, 2]
    rho = np.hypot(wall[:, 0], wall[:, 1])
    return grid_of(wall[:, 2] / length, share_around(way), rho, (_SLICES, _WAYS))


def _turned(picture: Array) -> tuple[Array, Array]:
    """By what each slice is turned (k,), radians, and how large it is (k,), from the middle one on."""
    turn, scale = np.zeros(_SLICES), np.ones(_SLICES)
    middle = _SLICES // 2
    size = float(np.nanmedian(picture))
    for way in (range(middle + 1, _SLICES), range(middle - 1, -1, -1)):
        known = picture[middle].copy()
        steps = round(_REACH / _BIN)
        before = 0
        for k in way:
            if np.isfinite(picture[k]).mean() < 1 - _LEAST_SEEN:
                turn[k], scale[k] = before * _BIN, scale[k - 1 if k > middle else k + 1]
                continue
            tries = np.arange(before - steps, before + steps + 1)
            laid = picture[k][(np.arange(_WAYS) + tries[:, None]) % _WAYS]
            best, scale[k] = _likest(laid, known, size)
            before = int(tries[best])
            turn[k] = before * _BIN
            laid = np.roll(picture[k], -before) / scale[k]
            known = np.where(np.isnan(known), laid, np.where(np.isnan(laid), known, 0.8 * known + 0.2 * laid))
    return turn, scale


def _likest(laid: Array, known: Array, size: float) -> tuple[int, float]:
    """Which of outlines (t, n) is most like a `known` one (n,), where both are known, and how large it is
    beside that."""
    both = np.isfinite(laid) & np.isfinite(known)
    few = both.sum(axis=1)
    laid, held = np.where(both, laid, 0.0), np.where(both, known, 0.0)
    scale = np.einsum("tn,tn->t", laid, held) / np.maximum(np.einsum("tn,tn->t", held, held), 1e-300)
    scale = np.where(few < _FEW, 1.0, scale)
    off = np.einsum("tn,tn->t", *[laid / scale[:, None] - held] * 2) / np.maximum(few, 1) / size**2
    best = int(np.argmin(np.where(few < _FEW, math.inf, off)))
    return best, float(scale[best])


def _settled(slices: Slices, wall: Array, corners: Array, even: bool) -> Slices | None:
    """The slices turned, scaled and moved by least squares until their places lie on one outline; the axis
    is moved with them."""
    at, length = slices.at, slices.length
    row = bins_of(wall[:, 2] / length, _SLICES)
    turn, scale, line = slices.turn, slices.scale, slices.line
    offs: list[float] = []
    for _ in range(_ROUNDS):
        moved = _along(wall, line, length)
        way = np.arctan2(moved[:, 1], moved[:, 0]) - np.interp(wall[:, 2], at, turn)
        factor = np.interp(wall[:, 2], at, scale)
        rho = np.hypot(moved[:, 0], moved[:, 1]) / factor
        known = middles(share_around(way), rho, _WAYS, _FEWEST)
        outline = without_gaps(known, _LEAST_SEEN)
        if outline is None:
            return None
        share = share_around(way)
        here, steep = value_at(outline, share), value_at(slope_around(outline), share)
        off = rho - here
        spread = max(spread_of(off), 1e-9)
        weight = (np.abs(off) < 5 * spread) / (1 + (steep / here) ** 2)
        # turned by a, the outline lies −a times its slope farther out; 1 + s as large, s times its radius
        columns = np.stack([-steep, here], axis=1)
        step = _by_slice(row, columns, off, weight)
        turn, scale = turn + step[:, 0], scale * (1 + step[:, 1])
        turn, scale = (_straight(at, one) if even else _smooth(one) for one in (turn, scale))
        line = line + _shifted(moved, off * factor, weight, length) * ([1, 1, 0, 0] if slices.closed else 1)
        near = (np.abs(off) < _ASIDE * here).astype(float)
        slices = replace(
            slices,
            turn=turn,
            scale=scale,
            outline=outline,
            known=np.isfinite(known),
            off=spread_of(off * factor),
            beside=_by_slice(row, toward(moved, moved[:, 2])[:, :2], off * factor, near),
            line=line,
        )
        offs.append(slices.off)
        if len(offs) > _PATIENT and offs[-1] > _BETTER * offs[-_PATIENT]:
            break
    first = float(scale[0])
    slices = replace(
        slices,
        places=_along(slices.places, line, length),
        scale=scale / first,
        outline=slices.outline * first,
    )
    return replace(slices, facets=_facets(slices, line, corners))


def _along(points: Array, line: Array, length: float) -> Array:
    """Places (n, 3) beside an axis that goes through `line[:2]` half way up, and leans by `line[2:]`."""
    return np.column_stack([beside(points, line[:2], line[2:], length / 2), points[:, 2]])


def _shifted(moved: Array, off: Array, weight: Array, length: float) -> Array:
    """The shift and the lean of the axis that make up for what lies off on one side and not on the other."""
    columns = toward(moved, moved[:, 2] - length / 2)
    matrix = (columns * weight[:, None]).T
    return np.asarray(np.linalg.lstsq(matrix @ columns, matrix @ off, rcond=None)[0])


def _by_slice(row: NDArray[np.int_], columns: Array, off: Array, weight: Array) -> Array:
    """The step (k, 2) of each slice that makes its places lie closest."""
    normal, right = equations_by_bin(row, columns, off, weight, _SLICES)
    normal += 1e-6 * np.eye(2) * max(float(np.trace(normal.mean(axis=0))), 1e-12)
    return np.einsum("kij,kj->ki", np.linalg.inv(normal), right)


def _straight(at: Array, values: Array) -> Array:
    return np.asarray(np.polyval(np.polyfit(at, values, 1), at))


def _smooth(values: Array) -> Array:
    """Values without those that jump, by the middle of each three."""
    three = np.stack([np.roll(values, 1), values, np.roll(values, -1)])
    middle = np.median(three, axis=0)
    middle[0], middle[-1] = values[0], values[-1]
    return np.asarray(middle)


def described(slices: Slices) -> TracedBar:
    """The straight bar that slices are of."""
    bar = _Measured.of(slices)
    recipe = bar.recipe({"kind": "straight", "length": round(slices.length, 4)}, bar.along)
    places = turned_about(slices.places, -bar.begins)
    return TracedBar(recipe, places, slices.size, slices.seen, not bar.along, bar.figures)


def described_along(slices: Slices, path: dict[str, Any], places: Array) -> TracedBar | None:
    """The bar along a path that slices are of which were laid straight along it; `places` (n, 3), mm, are
    those of the scan. None around one that closes where the section does not."""
    bar = _Measured.of(slices)
    turns = bar.section.recipe["kind"] != "round"
    if turns and not slices.closes:
        return None
    same = 360 / same_around(bar.section.recipe)
    lean = round(math.remainder(math.degrees(bar.begins) - 90, same), 2)  # cut upright, its x is where −y was
    twist = bar.along.get("twist", {"total": 0.0})
    if "points" in twist:
        leaning = {**twist, "points": [[at, round(angle + lean, 4)] for at, angle in twist["points"]]}
    else:
        leaning = {"from": lean, "to": round(lean + twist["total"], 3)}
    leans = turns and ("twist" in bar.along or abs(lean) > _LEANS)
    along = {**bar.along, "twist": leaning} if leans else bar.along
    figures = [replace(one, input=None) if one.key in ("length", "twist") else one for one in bar.figures]
    return TracedBar(bar.recipe(path, along), places, slices.size, slices.seen, False, figures)


@dataclass(frozen=True, eq=False)
class _Measured:
    """The section of slices, how it goes along them, the angle that it begins at, radians, and figures."""

    section: SectionFound
    along: dict[str, Any]
    begins: float
    figures: list[TracedNumber]

    @classmethod
    def of(cls, slices: Slices) -> _Measured:
        section = section_of(slices.outline, max(slices.off, 1e-3 * slices.size), slices.known)
        twist, begins, total = (None, 0.0, 0.0) if section.recipe["kind"] == "round" else _twist(slices)
        growth, first, grown = _growth(slices)
        section = section.scaled(first)
        along = {key: one for key, one in (("twist", twist), ("size", growth)) if one}
        return cls(section, along, begins + section.turned, _figures(slices, section, along, total, grown))

    def recipe(self, path: dict[str, Any], along: dict[str, Any]) -> dict[str, Any]:
        return {
            "format": "metaspira/1",
            "unit": "mm",
            "path": path,
            "section": self.section.recipe,
            **({"along": along} if along else {}),
        }


def _rate(slices: Slices) -> tuple[float, float]:
    """How much the bar twists, radians a mm, and the angle that it begins at, where that is even."""
    rate, begins = np.polyfit(slices.at[1:-1], slices.turn[1:-1], 1)
    return float(rate), float(begins)


def _twist(slices: Slices) -> tuple[dict[str, Any] | None, float, float]:
    """The twist as in a recipe, even where it is; the angle that it begins at, radians; and its total,
    degrees."""
    at, turn = slices.at[1:-1], slices.turn[1:-1]
    rate, begins = _rate(slices)
    total = rate * slices.length
    if slices.closed:
        whole = 2 * math.pi * round(total / (2 * math.pi))
        begins, rate, total = begins + (total - whole) / 2, whole / slices.length, whole
    if float(np.percentile(np.abs(turn - begins - rate * at), _MOST)) > _EVEN:
        angles = _even(slices.at, slices.turn, slices.length)
        if slices.closed:
            angles[-1] = angles[0] + total
        degrees = np.degrees(angles - angles[0])
        return {"points": _points(degrees), "ease": "smooth"}, float(angles[0]), float(degrees[-1])
    even = {"total": round(math.degrees(total), 3)} if abs(total) > _TWISTED else None
    return even, begins, math.degrees(total)


def _growth(slices: Slices) -> tuple[dict[str, Any] | None, float, float]:
    """The size as in a recipe, even where it is; how large the outline is at the start; and how many times
    that at the end."""
    share, scale = slices.at[1:-1] / slices.length, slices.scale[1:-1]
    grows, first = (0.0, float(scale.mean())) if slices.closed else np.polyfit(share, scale, 1)
    if float(np.percentile(np.abs(scale - first - grows * share), _MOST)) > _EVEN_SIZE:
        sizes = _even(slices.at, slices.scale, slices.length)
        if slices.closed:
            sizes[[0, -1]] = sizes[[0, -1]].mean()
        points = {"points": _points(sizes / sizes[0]), "ease": "smooth"}
        return points, float(sizes[0]), float(sizes[-1] / sizes[0])
    grown = float((first + grows) / first)
    even = {"from": 1, "to": round(grown, 5)} if abs(grown - 1) > _TAPERED else None
    return even, float(first), grown


def _figures(
    slices: Slices, section: SectionFound, along: dict[str, Any], total: float, grown: float
) -> list[TracedNumber]:
    """What was measured, each with half the width (95 %) of its interval: by how far places lie off and how
    many each stands on, and by how far the section is off the outline."""
    places = len(slices.places) / _SLICES
    point = 2 * slices.off / math.sqrt(max(places, 1.0)) + 2 * section.off + slices.facets
    long = 2 * slices.off + point + slices.unseen
    found = [TracedNumber("length", "Length", slices.length, long, "mm", "/path/length")]
    for key, title in section.sizes.items():
        found.append(TracedNumber(key, title, section.recipe[key], 2 * point, "mm", f"/section/{key}"))
    if "twist" in along:
        sure = math.degrees(2 * point / slices.size) + 0.1 + abs(total) * slices.unseen / slices.length
        place = "/along/twist/total" if "total" in along["twist"] else None
        found.append(TracedNumber("twist", "Twist from end to end", total, sure, "°", place))
    if "size" in along:
        place = "/along/size/to" if "to" in along["size"] else None
        found.append(
            TracedNumber(
                "size", "Size at the end, beside the start", grown, 2 * point / slices.size, "", place
            )
        )
    return found


def _even(at: Array, values: Array, length: float) -> Array:
    """What goes by slices at (k,) at even places (_POINTS,) from end to end, straight on beyond the last."""
    first, last = (np.polyfit(at[part], values[part], 1) for part in (slice(1, 6), slice(-6, -1)))
    ends = np.polyval(first, 0.0), np.polyval(last, length)
    even = np.linspace(0, length, _POINTS)
    return np.interp(even, [0, *at, length], [ends[0], *values, ends[1]])


def _points(values: Array) -> list[list[float]]:
    share = np.linspace(0, 1, len(values))
    return [[round(float(at), 4), round(float(value), 4)] for at, value in zip(share, values, strict=True)]
