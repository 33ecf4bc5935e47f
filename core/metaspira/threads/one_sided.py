"""Threads that bear on one flank, and round ones: metric buttress S (DIN 513), American buttress (ASME B1.9),
round Rd (DIN 405), and BA (BS 93).

    S 3°/30° (DIN 513): d₂ = d − 0.75P,  d₃ = d − 1.73554P,  D₁ = d − 1.5P,  R = 0.12427P
    Butt 7°/45° (B1.9): pitch d − 0.6P,  minor d − 1.2P,  external root d − 1.32542P,  root radius 0.0714P;
        tolerance (class 2) 0.002 D^⅓ + 0.00278 √(10P) + 0.00854 √P, class 3 two thirds of it; the class 3
        tolerance is the allowance (inches)
    Rd (DIN 405): 30°, a = 0.05P,  d₂ = d − P/2,  d₃ = d − P,  D₁ = d − 0.9P,  D₄ = d + 0.1P,
        R₁ = 0.23851P (external crest and root),  R₂ = 0.25597P (internal crest),  R₃ = 0.22105P (internal root)
    BA (BS 93): 47.5°, height 0.6P rounded to 0.005, radii 2P/11; tolerances (mm) of the bolt, close: major 0.15P,
        pitch 0.08P + 0.02, minor 0.16P + 0.04; normal: 0.2P (0.25P from 11 BA on), 0.1P + 0.025, 0.2P + 0.05, all
        less an allowance of 0.025 up to 10 BA; of the nut: pitch 0.12P + 0.03, minor 0.375P
"""

from __future__ import annotations

import math
import re
from collections.abc import Iterator

from metaspira.threads.family import (
    INCH,
    NUMBER,
    SIZE,
    Row,
    ThreadError,
    demand_pitch,
    in_millimetres,
    left_hand,
    plain,
    size_in_inches,
)
from metaspira.threads.tables import rows
from metaspira.threads.thread import Hand, Member, Size, Thread
from metaspira.threads.trapezoidal import starts_of

_S = re.compile(rf"S ?(?P<d>{NUMBER})X(?P<lead>{NUMBER})(?: ?P ?(?P<p>{NUMBER}))?", re.IGNORECASE)
_BUTT = re.compile(
    rf"{SIZE}-(?P<tpi>{NUMBER})[ -](?:PUSH-|PULL-)?BUTT(?:RESS)?(?:[ -](?P<class>[23])A?)?",
    re.IGNORECASE,
)
_RD = re.compile(rf"RD ?(?P<d>{NUMBER})X(?P<p>{NUMBER})(?P<inch>/\d+)?", re.IGNORECASE)
_BA = re.compile(r"(?P<n>\d+) ?BA(?:[ -]+(?P<class>CLOSE|NORMAL))?", re.IGNORECASE)
_S_ROWS = tuple(
    (float(d), float(p))
    for d, p in ((10, 2), (12, 3), (14, 3), (16, 4), (18, 4), (20, 4), (22, 5), (24, 5), (26, 5), (28, 5), (30, 6), (32, 6),
                 (36, 6), (40, 7), (44, 7), (48, 8), (52, 8), (60, 9), (70, 10), (80, 10), (90, 12), (100, 12))
)  # fmt: skip


class Buttress:
    key = "buttress"
    title = "Metric buttress"

    def read(self, text: str, hand: Hand) -> Thread | None:
        found = _S.fullmatch(text)
        if found is None:
            return None
        d, lead = float(found["d"]), float(found["lead"])
        p = float(found["p"]) if found["p"] else lead
        starts = starts_of(lead, p)
        demand_pitch(d, p, text)
        name = f"S{plain(d)}x{plain(lead)}" + (f"P{plain(p)}" if starts > 1 else "") + left_hand(hand)
        return Thread(
            name, self.key, self.title, p, starts, hand, math.radians(3), math.radians(30),
            Member("", Size(d), Size(d - 0.75 * p), Size(d - 1.73554 * p), d - 1.73554 * p, inner_round=0.12427 * p),
            Member("", Size(d), Size(d - 0.75 * p), Size(d - 1.5 * p), d),
            (("form", "DIN 513-1:1985"), ("sizes", "DIN 513-2:1985, series not checked against the printed standard"), ("limits", "none kept here")),
        )  # fmt: skip

    def rows(self) -> Iterator[Row]:
        for d, p in _S_ROWS:
            yield Row(f"S{plain(d)}x{plain(p)}", self.key, d, p, False)


class AmericanButtress:
    key = "buttress-american"
    title = "American buttress"

    def read(self, text: str, hand: Hand) -> Thread | None:
        found = _BUTT.fullmatch(text)
        if found is None:
            return None
        d, p = size_in_inches(found["size"]), 1 / float(found["tpi"])
        demand_pitch(d, p, text)
        standard = 0.002 * math.cbrt(d) + 0.00278 * math.sqrt(10 * p) + 0.00854 * math.sqrt(p)
        grade = found["class"] or "2"
        wide, allowance = standard if grade == "2" else standard * 2 / 3, standard * 2 / 3
        pitch, minor, root = d - 0.6 * p, d - 1.2 * p, d - 1.32542 * p
        name = (
            f"{found['size']}-{plain(1 / p)} BUTT" + (f"-{grade}" if found["class"] else "") + left_hand(hand)
        )
        thread = Thread(
            name, self.key, self.title, p, 1, hand, math.radians(7), math.radians(45),
            Member(grade, Size(d, d - allowance, d - allowance - wide),
                   Size(pitch, pitch - allowance, pitch - allowance - wide), Size(minor, root - allowance, None), root,
                   inner_round=0.0714 * p),
            Member(grade, Size(d, None, d), Size(pitch, pitch + wide, pitch), Size(minor, minor + wide, minor), d),
            (("form", "ASME B1.9-1973"), ("sizes", "ASME B1.9-1973"), ("limits", "ASME B1.9-1973, formulas not checked against the printed standard")),
        )  # fmt: skip
        return in_millimetres(thread, 4)

    def rows(self) -> Iterator[Row]:
        for size, tpi in (
            ("1/2", 20),
            ("5/8", 20),
            ("3/4", 16),
            ("1", 16),
            ("1 1/2", 12),
            ("2", 10),
            ("3", 8),
            ("4", 6),
        ):
            yield Row(f"{size}-{tpi} BUTT", self.key, size_in_inches(size) * INCH, INCH / tpi, True)


class Round:
    key = "round"
    title = "Round"

    def read(self, text: str, hand: Hand) -> Thread | None:
        found = _RD.fullmatch(text)
        if found is None:
            return None
        d = float(found["d"])
        p = INCH / float(found["inch"][1:]) * float(found["p"]) if found["inch"] else float(found["p"])
        demand_pitch(d, p, text)
        written = f"{found['p']}{found['inch']}" if found["inch"] else plain(p)
        d2 = d - 0.5 * p
        return Thread(
            f"Rd{plain(d)}x{written}{left_hand(hand)}", self.key, self.title, p, 1, hand, math.radians(15), math.radians(15),
            Member("", Size(d), Size(d2), Size(d - p), d - p, outer_round=0.23851 * p, inner_round=0.23851 * p),
            Member("", Size(d + 0.1 * p), Size(d2), Size(d - 0.9 * p), d + 0.1 * p, outer_round=0.22105 * p,
                   inner_round=0.25597 * p),
            (("form", "DIN 405-1:1997"), ("sizes", "DIN 405-1:1997, not checked against the printed standard"), ("limits", "none kept here")),
        )  # fmt: skip

    def rows(self) -> Iterator[Row]:
        for d, tpi in ((8, 10), (10, 10), (12, 10), (14, 8), (16, 8), (20, 8), (24, 8), (28, 8), (32, 8), (36, 8), (40, 6), (50, 6),
                       (60, 6), (80, 6), (100, 6), (120, 4), (160, 4), (200, 4)):  # fmt: skip
            yield Row(f"Rd{d}x1/{tpi}", self.key, float(d), INCH / tpi, False)


class BritishAssociation:
    key = "ba"
    title = "British Association"

    def read(self, text: str, hand: Hand) -> Thread | None:
        found = _BA.fullmatch(text)
        if found is None:
            return None
        row = next((row for row in rows("bs93") if row[0] == int(found["n"])), None)
        if row is None:
            raise ThreadError(
                f"there is no {found['n']} BA here",
                f"use {rows('bs93')[-1][0]} BA, or another from 0 on",
            )
        number, d, p = row
        radius, height = 2 * p / 11, round(0.6 * p / 0.005) * 0.005
        pitch, minor = d - height, d - 2 * height
        half = math.radians(23.75)
        fit = (found["class"] or "normal").lower()
        if fit == "close":
            wide, allowance = (0.15 * p, 0.08 * p + 0.02, 0.16 * p + 0.04), 0.0
        else:
            wide = (0.2 * p if number <= 10 else 0.25 * p, 0.1 * p + 0.025, 0.2 * p + 0.05)
            allowance = 0.025 if number <= 10 else 0.0
        major_size, pitch_size, minor_size = (
            Size(basic, basic - allowance, basic - allowance - tolerance)
            for basic, tolerance in zip((d, pitch, minor), wide, strict=True)
        )
        nut = (
            Size(d, None, d),
            Size(pitch, pitch + 0.12 * p + 0.03, pitch),
            Size(minor, minor + 0.375 * p, minor),
        )
        named = f" {fit}" if found["class"] else ""
        return Thread(
            f"{number} BA{named}{left_hand(hand)}", self.key, self.title, p, 1, hand, half, half,
            Member(fit, major_size, pitch_size, minor_size, minor, radius, radius), Member("one class", *nut, d, radius, radius),
            (("form", "BS 93:1951"), ("sizes", "BS 93:1951, not checked against the printed standard"),
             ("limits", "BS 93:1951, formulas not checked against the printed standard")),
            "external" if found["class"] else None,
        )  # fmt: skip

    def rows(self) -> Iterator[Row]:
        for number, d, p in rows("bs93"):
            yield Row(f"{number} BA", self.key, d, p, False)
