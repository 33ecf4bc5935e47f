"""From what a person writes or measures to a thread."""

from __future__ import annotations

import difflib
import math
import re
from dataclasses import dataclass, replace
from functools import cache, lru_cache

from metaspira.problems import Fix, Problem, RecipeError
from metaspira.threads.families import FAMILIES
from metaspira.threads.family import Row, ThreadError, tidy
from metaspira.threads.thread import Side, Thread

MOST_CHARACTERS = 60
_UNLIKE = 0.5
_WORN, _RARE = 0.05, 0.2
_SPECIAL = ("metric-j", "unified-j", "insert", "conduit", "lamp", "hose", "square", "buttress-american")


@dataclass(frozen=True)
class Candidate:
    """A thread that a measured one may be: how far its diameter and its pitch are off, mm, and both in one
    figure, in hundredths of the pitch; and how probable it is among all that are known."""

    row: Row
    diameter_off: float
    pitch_off: float
    off: float
    probable: float = 0.0


@lru_cache(maxsize=4096)
def read_thread(designation: str, place: str = "") -> Thread:
    """The thread that a designation names, as people write it. Raises RecipeError, which names the
    nearest."""
    if len(designation) > MOST_CHARACTERS:
        raise RecipeError(Problem(place, "the designation is too long", "write it as in “M10x1.25-6g”"))
    text, hand = tidy(designation)
    for family in FAMILIES:
        try:
            found = family.read(text, hand)
        except ThreadError as error:
            near = nearest_threads(designation, 1)
            raise RecipeError(
                Problem(place, error.reason, error.remedy, Fix(place, near[0].designation) if near else None)
            ) from None
        except (ZeroDivisionError, OverflowError):
            found = None
        if found is not None:
            return found
    near = nearest_threads(designation, 3)
    raise RecipeError(
        Problem(
            place,
            f"“{designation}” is not a thread known here",
            f"did you mean {' or '.join(f'“{row.designation}”' for row in near)}"
            if near
            else "write it as in “M10x1.25-6g”",
            Fix(place, near[0].designation) if near else None,
        )
    )


@cache
def all_rows() -> tuple[Row, ...]:
    """Every size of every family's series."""
    return tuple(row for family in FAMILIES for row in family.rows())


def nearest_threads(text: str, most: int = 8) -> list[Row]:
    """The sizes of the series that are written most like `text`, the likest first; those that begin so in
    their natural order, M10x1.25 before M100."""
    wanted = _letters(tidy(text)[0])
    if not wanted:
        return []

    def unlike(name: str) -> float:
        return 1 - difflib.SequenceMatcher(None, wanted, name, autojunk=False).ratio()

    begin = [(name, row) for name, row in _names() if name.startswith(wanted)]
    found = [row for _, row in sorted(begin, key=lambda item: _natural(item[0]))][:most]
    others = [(unlike(name), row) for name, row in _names() if not name.startswith(wanted)]
    others.sort(key=lambda item: item[0])
    return found + [row for off, row in others[: most - len(found)] if off < _UNLIKE]


def measured(
    diameter: float,
    pitch: float,
    side: Side = "external",
    most: int = 8,
    diameter_error: float = 0.1,
    pitch_error: float = 0.02,
) -> list[Candidate]:
    """The threads of the series that a measured one may be, the most probable first; mm. Of an external
    thread the outside is measured, of an internal one the bore between its crests, each reading within its
    error 19 times of 20. A made crest lies within its limits, or is worn beyond them by up to a twentieth of
    its pitch; families of special uses are a fifth as common as others (common practice, no source)."""
    found, weights = [], []
    for row, crest, low, high in _crests(side):
        pitch_off, diameter_off = pitch - row.pitch, diameter - crest
        beyond = max(low - diameter, diameter - high, 0.0)
        far = (2 * beyond / diameter_error) ** 2 + (2 * pitch_off / pitch_error) ** 2
        weights.append((_RARE if row.family in _SPECIAL else 1.0) * math.exp(-0.5 * min(far, 1400.0)))
        found.append(_candidate(row, diameter_off, pitch_off))
    return _likeliest(found, weights, most)


def tapered(
    between: tuple[float, float], pitch: float, side: Side, most: int = 8, pitch_error: float = 0.02
) -> list[Candidate]:
    """The taper threads that a measured one may be, the most probable first; mm. Its pitch diameter was seen
    `between` two values; that of a made one goes from a turn below the small end to three turns beyond the
    gauge plane (common practice, no source)."""
    found, weights = [], []
    for row in all_rows():
        thread = read_thread(row.designation)
        if not thread.taper or side not in thread.sides:
            continue
        basic = thread.member(side).pitch.basic
        turn, reach = thread.taper * thread.pitch, thread.taper * thread.gauge_plane
        beyond = max(basic - reach - turn - between[0], 0.0) + max(between[1] - basic - 3 * turn, 0.0)
        diameter_off = min(max(basic, between[0]), between[1]) - basic
        pitch_off = pitch - thread.pitch
        far = (beyond / turn) ** 2 + (2 * pitch_off / pitch_error) ** 2
        weights.append(math.exp(-0.5 * min(far, 1400.0)))
        found.append(_candidate(row, diameter_off, pitch_off))
    return _likeliest(found, weights, most)


def _candidate(row: Row, diameter_off: float, pitch_off: float) -> Candidate:
    off = 100 * math.hypot(0.25 * diameter_off, 4 * pitch_off) / row.pitch
    return Candidate(row, diameter_off, pitch_off, off)


def _likeliest(found: list[Candidate], weights: list[float], most: int) -> list[Candidate]:
    whole = sum(weights) or 1.0
    known = [replace(one, probable=weight / whole) for one, weight in zip(found, weights, strict=True)]
    return sorted(known, key=lambda candidate: (-round(candidate.probable, 9), candidate.off))[:most]


@cache
def _names() -> tuple[tuple[str, Row], ...]:
    return tuple((_letters(row.designation), row) for row in all_rows())


@cache
def _crests(side: Side) -> tuple[tuple[Row, float, float, float], ...]:
    """The threads of a side: of each its basic crest, and between which diameters a made one lies, mm."""
    found = []
    for row in all_rows():
        thread = read_thread(row.designation)
        if side not in thread.sides:
            continue
        wear = _WORN * thread.pitch
        if side == "external":
            size = thread.external.major
            low = size.at("min") if size.min is not None else size.basic - 2 * wear
            found.append((row, size.basic, low - wear, size.at("max")))
        else:
            size = thread.internal.minor
            high = size.at("max") if size.max is not None else size.basic + 2 * wear
            found.append((row, size.basic, size.at("min"), high + wear))
    return tuple(found)


def _natural(name: str) -> list[tuple[float, str]]:
    """A key by which numbers in names sort as numbers."""
    parts = re.findall(r"(\d+(?:\.\d+)?)|(\D+)", name)
    return [(float(number), "") if number else (math.inf, word) for number, word in parts]


def _letters(text: str) -> str:
    return re.sub(r"[\s\-]+", "", text.upper())
