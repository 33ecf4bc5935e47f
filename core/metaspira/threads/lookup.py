"""From what a person writes or measures to a thread."""

from __future__ import annotations

import difflib
import math
import re
from dataclasses import dataclass
from functools import cache, lru_cache

from metaspira.problems import Fix, Problem, RecipeError
from metaspira.threads.families import FAMILIES
from metaspira.threads.family import Row, ThreadError, tidy
from metaspira.threads.thread import Side, Thread

MOST_CHARACTERS = 60
_UNLIKE = 0.5


@dataclass(frozen=True)
class Candidate:
    """A thread that a measured one may be: how far its diameter and its pitch are off, mm, and both in one
    figure, in hundredths of the pitch."""

    row: Row
    diameter_off: float
    pitch_off: float
    off: float


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


def measured(diameter: float, pitch: float, side: Side = "external", most: int = 8) -> list[Candidate]:
    """The threads of the series that a measured one may be, the nearest first; mm. Of an external thread the
    outside is measured, of an internal one the bore between its crests."""
    found = []
    for row, crest in zip(all_rows(), _crests(side), strict=True):
        pitch_off = pitch - row.pitch
        diameter_off = diameter - crest
        off = 100 * math.hypot(0.25 * diameter_off, 4 * pitch_off) / row.pitch
        found.append(Candidate(row, diameter_off, pitch_off, off))
    found.sort(key=lambda candidate: candidate.off)
    return found[:most]


@cache
def _names() -> tuple[tuple[str, Row], ...]:
    return tuple((_letters(row.designation), row) for row in all_rows())


@cache
def _crests(side: Side) -> tuple[float, ...]:
    if side == "external":
        return tuple(row.diameter for row in all_rows())
    return tuple(read_thread(row.designation).internal.minor.basic for row in all_rows())


def _natural(name: str) -> list[tuple[float, str]]:
    """A key by which numbers in names sort as numbers."""
    parts = re.findall(r"(\d+(?:\.\d+)?)|(\D+)", name)
    return [(float(number), "") if number else (math.inf, word) for number, word in parts]


def _letters(text: str) -> str:
    return re.sub(r"[\s\-]+", "", text.upper())
