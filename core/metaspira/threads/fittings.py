"""Threads of fittings: steel conduit Pg (DIN 40430), lamp caps E (DIN 40400, IEC 60061), and hose couplings
NH (ASME B1.20.7).

    Pg: 80°, rounded by 0.1P
    E: two arcs of one radius a half pitch, which meet on the pitch line
    NH: UN form
"""

from __future__ import annotations

import math
import re
from collections.abc import Iterator
from dataclasses import replace

from metaspira.threads.family import (
    INCH,
    NUMBER,
    SIZE,
    Row,
    ThreadError,
    in_millimetres,
    left_hand,
    plain,
    size_in_inches,
)
from metaspira.threads.thread import Hand, Member, Size, Thread

_PG = re.compile(rf"PG ?(?P<n>{NUMBER})", re.IGNORECASE)
_E = re.compile(r"E ?(?P<n>\d+)", re.IGNORECASE)
_NH = re.compile(rf"{SIZE}(?:-(?P<tpi>{NUMBER}))?[ -]?NHR?", re.IGNORECASE)
_CONDUIT = {
    "7": (12.5, 11.28, 20), "9": (15.2, 13.86, 18), "11": (18.6, 17.26, 18), "13.5": (20.4, 19.06, 18),
    "16": (22.5, 21.16, 18), "21": (28.3, 26.78, 16), "29": (37.0, 35.48, 16), "36": (47.0, 45.48, 16),
    "42": (54.0, 52.48, 16), "48": (59.3, 57.78, 16),
}  # fmt: skip
"""Major and minor diameter, mm, and threads an inch."""
_CAPS = {
    "5": (5.33, 4.77, 1.0), "10": (9.53, 8.51, 1.814), "14": (13.89, 12.29, 2.822),
    "27": (26.45, 24.26, 3.629), "40": (39.50, 35.95, 6.350),
}  # fmt: skip
"""Major and minor diameter of the cap and pitch, mm."""
_HOSES = {
    "3/4": (1.0625, 11.5), "1": (1.3750, 8), "1 1/2": (1.9900, 9), "2 1/2": (3.0686, 7.5),
    "3": (3.6239, 6), "3 1/2": (4.2439, 6), "4": (5.0109, 4), "4 1/2": (5.7609, 4), "5": (6.2600, 4),
    "6": (7.0250, 4),
}  # fmt: skip
"""Major diameter of the nipple, inches, and threads an inch."""
_UNCHECKED = "not checked against the printed standard"
_H = math.sqrt(3) / 2


class Conduit:
    key = "conduit"
    title = "Steel conduit"

    def read(self, text: str, hand: Hand) -> Thread | None:
        found = _PG.fullmatch(text)
        if found is None:
            return None
        if found["n"] not in _CONDUIT:
            raise ThreadError(f"there is no Pg {found['n']}", f"use one of {', '.join(_CONDUIT)}")
        major, minor, tpi = _CONDUIT[found["n"]]
        p, half = INCH / tpi, math.radians(40)
        member = Member("", Size(major), Size(0.5 * (major + minor)), Size(minor), minor)
        external = replace(member, outer_round=0.1 * p, inner_round=0.1 * p)
        return Thread(
            f"Pg{found['n']}{left_hand(hand)}", self.key, self.title, p, 1, hand, half, half, external,
            replace(external, root=major),
            (("form", f"DIN 40430, {_UNCHECKED}"), ("sizes", f"DIN 40430, {_UNCHECKED}"), ("limits", "none kept here")),
        )  # fmt: skip

    def rows(self) -> Iterator[Row]:
        for name, (major, _, tpi) in _CONDUIT.items():
            yield Row(f"Pg{name}", self.key, major, INCH / tpi, False)


class LampCap:
    key = "lamp"
    title = "Lamp cap"

    def read(self, text: str, hand: Hand) -> Thread | None:
        found = _E.fullmatch(text)
        if found is None:
            return None
        if found["n"] not in _CAPS:
            raise ThreadError(f"there is no E{found['n']}", f"use one of {', '.join(f'E{n}' for n in _CAPS)}")
        major, minor, p = _CAPS[found["n"]]
        half_depth = (major - minor) / 4
        radius = ((p / 4) ** 2 + half_depth**2) / (2 * half_depth)
        flank = math.pi / 2 - math.asin(p / 4 / radius)
        member = Member(
            "", Size(major), Size(0.5 * (major + minor)), Size(minor), minor, 0.999 * radius, 0.999 * radius
        )
        return Thread(
            f"E{found['n']}{left_hand(hand)}", self.key, self.title, p, 1, hand, flank, flank, member,
            replace(member, root=major),
            (("form", f"DIN 40400, {_UNCHECKED}"), ("sizes", f"DIN 40400, {_UNCHECKED}"), ("limits", "none kept here")),
        )  # fmt: skip

    def rows(self) -> Iterator[Row]:
        for name, (major, _, p) in _CAPS.items():
            yield Row(f"E{name}", self.key, major, p, False)


class Hose:
    key = "hose"
    title = "Hose coupling"

    def read(self, text: str, hand: Hand) -> Thread | None:
        found = _NH.fullmatch(text)
        if found is None:
            return None
        wanted = size_in_inches(found["size"])
        size = min(_HOSES, key=lambda name: abs(size_in_inches(name) - wanted))
        major, tpi = _HOSES[size]
        if size_in_inches(size) != wanted or (found["tpi"] and float(found["tpi"]) != tpi):
            raise ThreadError(f"there is no {text}", f"use {size}-{plain(tpi)} NH")
        p = 1 / tpi
        pitch, minor, root = major - 0.75 * _H * p, major - 1.25 * _H * p, major - 17 / 12 * _H * p
        thread = Thread(
            f"{size}-{plain(tpi)} NH{left_hand(hand)}", self.key, self.title, p, 1, hand, math.pi / 6, math.pi / 6,
            Member("", Size(major), Size(pitch), Size(minor), root, inner_round=_H * p / 6),
            Member("", Size(major), Size(pitch), Size(minor), major),
            (("form", f"ASME B1.20.7, UN form, {_UNCHECKED}"), ("sizes", f"ASME B1.20.7 and NFPA 1963, {_UNCHECKED}"), ("limits", "none kept here")),
        )  # fmt: skip
        return in_millimetres(thread, 4)

    def rows(self) -> Iterator[Row]:
        for size, (major, tpi) in _HOSES.items():
            yield Row(f"{size}-{plain(tpi)} NH", self.key, major * INCH, INCH / tpi, True)
