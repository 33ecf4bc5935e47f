"""Springs that were found: what each is, which of them are on the front, and what is in the way of more."""

from __future__ import annotations

import math
from dataclasses import dataclass, replace
from typing import Any

from metaspira.numbers.shown import sentence_shown
from metaspira.studies.find_spring.wish import Wish


@dataclass(frozen=True)
class Inner:
    """The inner spring of a pair: diameter of its wire and mean diameter, mm; turns in all; and its share of
    the load."""

    wire_diameter: float
    mean_diameter: float
    turns: float
    share: float


@dataclass(frozen=True)
class Found:
    """A spring that does it: wire, its diameter and the mean one (mm), turns in all, free length (mm, None of
    one that turns), rate (N/mm or N mm/°), mass (g), price of its wire (None where none is known), the plain
    stress at the second load (MPa), the limit that is used most and how much of it, the length that it takes
    at work (mm), whether none of all is better in use and in mass, length or price at once; its recipe, in
    millimetres; and of a pair the inner spring, where what is told of one is of the outer."""

    wire: str
    wire_diameter: float
    mean_diameter: float
    turns: float
    free_length: float | None
    rate: float
    mass: float
    price: float | None
    stress: float
    limit: str
    use: float
    at_work: float
    front: bool
    recipe: dict[str, Any]
    inner: Inner | None = None


@dataclass(frozen=True)
class Blocking:
    """A limit that is in the way where nothing is found: how much of it the nearest spring uses, and what
    would free it, in words."""

    limit: str
    use: float
    free: str


@dataclass(frozen=True)
class Answer:
    """The wish in base units; the springs that do it, the best first, and how many were tried; where there is
    none, the nearest one, and what is in the way."""

    wish: Wish
    springs: tuple[Found, ...]
    tried: int
    nearest: Found | None
    blocking: tuple[Blocking, ...]


def on_front(springs: list[Found]) -> list[Found]:
    """Those that none is better than in use and in mass, in room at work or in price at once."""
    on: dict[int, Found] = {}
    for measure in ("mass", "at_work", "price"):
        least = math.inf
        known = [one for one in springs if getattr(one, measure) is not None]
        for found in sorted(known, key=lambda one: (getattr(one, measure), one.use)):
            if found.use < least:
                least, on[id(found)] = found.use, found
    return list(on.values())


def ranked(wish: Wish, springs: list[Found]) -> tuple[Found, ...]:
    """Those on the front marked, the best first."""
    on = {id(found) for found in on_front(springs)}
    marked = [replace(found, front=id(found) in on) for found in springs]
    return tuple(sorted(marked, key=lambda found: order(wish, found)))


def order(wish: Wish, found: Found) -> tuple[float, ...]:
    first = {
        "use": found.use,
        "mass": found.mass,
        "length": found.at_work + (found.free_length or 0.0),
        "price": math.inf if found.price is None else found.price,
    }[wish.rank]
    return first, found.use, found.mass


_FREES = {
    "bore": ("bore", "a bore of {:.4g} mm"),
    "rod": ("rod", "a rod of {:.4g} mm"),
    "free length": ("longest", "{:.4g} mm of length when free"),
    "length of the body": ("longest", "{:.4g} mm of length"),
}
_WAYS = {
    "stress at work": "less force, or a stronger wire",
    "stress at solid length": "less way to solid length, by a stiffer first load or more room at the second",
    "travel left to solid length": "a longer second length, or less force",
    "growth in the bore": "a wider bore, or less way",
    "buckling": "a rod or a bore that guides it, seats that hold it, or less length",
    "life": "fewer cycles, shot-peening, or a smaller range of force",
    "spring index": "thicker or thinner wire, or other room",
    "turns": "another rate",
    "stress in the body": "less force, or a stronger wire",
    "stress in the hooks": "less force, or a stronger wire",
    "initial tension": "a longer first length, or another force there",
    "length": "a longer first length",
}


def freed(wish: Wish, name: str, use: float) -> str:
    """What would free a limit that is used up, in words, in the units of the wish."""
    return sentence_shown(_freed(wish, name, use), wish.unit)


def _freed(wish: Wish, name: str, use: float) -> str:
    if name in _FREES:
        field, words = _FREES[name]
        now = getattr(wish, field)
        return words.format(now / use if name == "rod" else now * use)
    bound = next((bound for bound in wish.limits if name in bound.sides), None)
    if bound is not None:
        end, title = name.split(" ", 1)
        limit = bound.sides[name]
        value = f"{limit * use if end == 'most' else limit / use:.4g} {bound.unit}".rstrip()
        return f"{title} up to {value}" if end == "most" else f"{title} from {value} on"
    return _WAYS.get(name, "other loads")
