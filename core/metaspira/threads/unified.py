"""Unified inch threads (ASME B1.1). Inches, P the pitch, D the major diameter:

H = P √3 / 2,  E = D − 3H/4,  K = D − 5H/4
T = 0.0015 D^⅓ + 0.0015 √LE + 0.015 P^⅔     class 2A pitch tolerance; 1A 1.5, 3A 0.75, 1B 1.95, 2B 1.3,
                                            3B 0.975 T
allowance 0.3 T (classes 1A and 2A)            LE = D for UNC and UNF, 9P else
external major 0.06 P^⅔ (1A: 0.09 P^⅔)
internal minor 1B, 2B: 0.25P − 0.4P² (0.15P below 4 threads an inch; finer sizes below ¼: as 3B)
internal minor 3B: 0.05 P^⅔ + 0.03 P/D − 0.002, within bounds

T is rounded to six decimals, tolerances and diameters to four; internal minor diameters from #6 on then to
three, of class 3B only the least.
"""

from __future__ import annotations

import math
import re
from collections.abc import Iterator

from metaspira.threads.family import INCH, NUMBER, SIZE, Row, ThreadError, plain, size_in_inches
from metaspira.threads.tables import rows, table
from metaspira.threads.thread import Hand, Member, Side, Size, Thread

_H = math.sqrt(3) / 2
_PATTERN = re.compile(
    rf"{SIZE}(?:[ -](?P<tpi>{NUMBER}))?(?:[ -]?(?P<series>UNC|UNF|UNEF|UNS|UN)R?)?"
    r"(?:[ -](?P<class>[123][AB]))?",
    re.IGNORECASE,
)
_PITCH_FACTOR = {"1A": 1.5, "2A": 1.0, "3A": 0.75, "1B": 1.95, "2B": 1.3, "3B": 0.975}
_NUMBER_SIX = 0.138
_PRINTED_ALLOWANCE = {(0.625, 11.0): 0.0016}
"""Where the printed allowance is not that of the formula."""
SOURCES = (
    ("form", "ASME B1.1-2003, UN form"),
    ("sizes", "ASME B1.1-2003, series not checked against the printed standard"),
    ("limits", "ASME B1.1-2003, formulas not checked against the printed standard"),
)


def rounded(value: float, digits: int) -> float:
    """Rounded as the standard does it, halves up."""
    return math.floor(value * 10**digits + 0.5 + 1e-9) / 10**digits


class Unified:
    key = "unified"
    title = "Unified inch"

    def read(self, text: str, hand: Hand) -> Thread | None:
        found = _PATTERN.fullmatch(text)
        if found is None or not (found["tpi"] or found["series"]):
            return None
        size, series = found["size"].replace("-", " "), (found["series"] or "").upper()
        known = {(row[0], size_in_inches(row[1])): row for row in rows("asme_b1_1")}
        diameter = size_in_inches(size)
        if found["tpi"] is None:
            row = known.get((series, diameter))
            if row is None:
                raise ThreadError(
                    f"{size} has no {series} pitch", f"write its threads per inch, as in {size}-20 UNS"
                )
            tpi = float(row[2])
        else:
            tpi = float(found["tpi"])
        fits = [row[0] for key, row in known.items() if key[1] == diameter and row[2] == tpi]
        if series in ("UNC", "UNF", "UNEF") and series not in fits:
            right = known.get((series, diameter))
            raise ThreadError(
                f"{size}-{plain(tpi)} is not of the series {series}",
                f"use {size}-{plain(right[2])} {series}" if right else f"write {size}-{plain(tpi)} UNS",
            )
        own = (
            fits[0] if fits else "UN" if tpi in table("asme_b1_1")["constant"] and diameter >= 0.25 else "UNS"
        )
        return unified(diameter, tpi, size, series or own, hand, (found["class"] or "").upper())

    def rows(self) -> Iterator[Row]:
        for series, size, tpi in rows("asme_b1_1"):
            yield Row(
                f"{size}-{plain(tpi)} {series}", self.key, size_in_inches(size) * INCH, INCH / tpi, True
            )


def unified(diameter: float, tpi: float, size: str, series: str, hand: Hand, tolerance: str = "") -> Thread:
    """A unified thread of any diameter (inches) and threads per inch. Raises ThreadError."""
    if not 0.02 <= diameter <= 24 or not 1 <= tpi <= 200 or 1 / tpi > 0.6 * diameter:
        raise ThreadError(f"{size}-{plain(tpi)} is no thread", "use a pitch below 0.6 of the diameter")
    side: Side | None = None
    if tolerance:
        side = "external" if tolerance.endswith("A") else "internal"
    engagement = diameter if series in ("UNC", "UNF") else 9 / tpi
    external = tolerance if side == "external" else "2A"
    internal = tolerance if side == "internal" else "2B"
    name = (
        f"{size}-{plain(tpi)} {series}"
        + (f"-{tolerance}" if tolerance else "")
        + ("-LH" if hand == "left" else "")
    )
    return Thread(
        name,
        Unified.key,
        Unified.title,
        INCH / tpi,
        1,
        hand,
        math.pi / 6,
        math.pi / 6,
        inch_member(
            *external_limits(diameter, 1 / tpi, engagement, external), external, 0.866025 * INCH / tpi / 6
        ),
        inch_member(*internal_limits(diameter, 1 / tpi, engagement, internal), internal),
        SOURCES,
        side,
        inch=True,
        digits=4,
    )


def inch_member(
    major: Size, pitch: Size, minor: Size, root: float, tolerance: str, inner_round: float = 0.0
) -> Member:
    """A member whose diameters are given in inches; the radius in mm."""
    return Member(
        tolerance,
        major.scaled(INCH),
        pitch.scaled(INCH),
        minor.scaled(INCH),
        root * INCH,
        inner_round=inner_round,
    )


def unit_tolerance(diameter: float, pitch: float, engagement: float) -> float:
    """T of the module's head, inches, to six decimals as the standard has it."""
    return rounded(
        0.0015 * math.cbrt(diameter) + 0.0015 * math.sqrt(engagement) + 0.015 * pitch ** (2 / 3), 6
    )


def external_limits(d: float, p: float, engagement: float, tolerance: str) -> tuple[Size, Size, Size, float]:
    """Major, pitch and minor diameter, and the root of the form, inches."""
    unit = unit_tolerance(d, p, engagement)
    printed = _PRINTED_ALLOWANCE.get((d, round(1 / p, 6)), rounded(0.3 * unit, 4))
    allowance = 0.0 if tolerance == "3A" else printed
    pitch = rounded(d - 0.75 * _H * p, 4)
    crest = rounded((0.09 if tolerance == "1A" else 0.06) * p ** (2 / 3), 4)
    wide = rounded(_PITCH_FACTOR[tolerance] * unit, 4)
    root = d - 17 / 12 * _H * p
    return (
        Size(d, d - allowance, d - allowance - crest),
        Size(pitch, pitch - allowance, pitch - allowance - wide),
        Size(d - 1.25 * _H * p, root - allowance, None),
        root,
    )


def internal_limits(d: float, p: float, engagement: float, tolerance: str) -> tuple[Size, Size, Size, float]:
    """Major, pitch and minor diameter, and the root of the form, inches."""
    pitch, exact = rounded(d - 0.75 * _H * p, 4), d - 1.25 * _H * p
    digits = 3 if d >= _NUMBER_SIX - 1e-9 else 4
    most = rounded(exact + rounded(_minor_tolerance(d, p, tolerance), 4), 4)
    wide = rounded(_PITCH_FACTOR[tolerance] * unit_tolerance(d, p, engagement), 4)
    return (
        Size(d, None, d),
        Size(pitch, pitch + wide, pitch),
        Size(rounded(exact, 4), rounded(most, 4 if tolerance == "3B" else digits), rounded(exact, digits)),
        d,
    )


def _minor_tolerance(d: float, p: float, tolerance: str) -> float:
    fine = 0.05 * p ** (2 / 3) + 0.03 * p / d - 0.002
    usual = 0.15 * p if p > 0.25 else 0.25 * p - 0.4 * p * p
    if tolerance != "3B":
        return usual if d >= 0.25 else min(max(fine, usual), 0.394 * p)
    least = 0.23 * p - 1.5 * p * p if p < 1 / 12.5 else 0.12 * p
    return min(max(fine, least), 0.394 * p)
