"""Trapezoidal threads: ISO metric Tr, Acme and stub Acme, and square.

Tr (ISO 2901, 2904): 30°,  d₂ = d − P/2,  d₃ = d − P − 2a,  D₁ = d − P,  D₄ = d + 2a,
    a = 0.15 for P 1.5, 0.25 up to 5, 0.5 up to 12, 1 above (mm)
Tr limits (ISO 2903): T_d2 and T_D2 by the formulas of ISO 965-1, of more starts than one times 1.12, 1.25,
    1.4 (2, 3, 4) or 1.6 (more); e and c positions from its table
Acme (ASME B1.5): 29°, height P/2; stub (B1.8): 0.3 P; inches:
    pitch tolerance 0.03 √P + 0.006 √D (2G), 0.014 √P + 0.0028 √D (3G), 0.01 √P + 0.002 √D (4G)
    allowance 0.008 √D (2G), 0.006 √D (3G), 0.004 √D (4G); clearance 0.02 (0.01 finer than 10 an inch)
    centralising (C): external major − 0.0035, 0.0015, 0.001 √D, internal major + 0.001 √D …
square: 0°, height and width P/2 (common practice, no source)
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
from metaspira.threads.iso_metric import pitch_tolerance
from metaspira.threads.tables import preferred, rows
from metaspira.threads.thread import Hand, Member, Side, Size, Thread

_TR = re.compile(
    rf"TR ?(?P<d>{NUMBER})X(?P<lead>{NUMBER})(?: ?\(? ?P ?(?P<p>{NUMBER})\)?)?(?:[ -](?P<class>[6-9][A-HJ-Z]))?",
    re.IGNORECASE,
)
_ACME = re.compile(
    rf"{SIZE}-(?P<tpi>{NUMBER})(?:-(?P<lead>{NUMBER})L)?[ -](?P<kind>STUB ACME|ACME)(?:[ -](?P<class>[2-4][GC]))?"
    r"(?:[ -](?P<starts>\d) ?STARTS?)?",
    re.IGNORECASE,
)
_SQUARE = re.compile(
    rf"SQ(?:UARE)? ?(?P<d>{NUMBER})X(?P<lead>{NUMBER})(?: ?P ?(?P<p>{NUMBER}))?", re.IGNORECASE
)
_OF_STARTS, _OF_MANY = {1: 1.0, 2: 1.12, 3: 1.25, 4: 1.4}, 1.6
_ACME_TOLERANCE = {"2": (0.030, 0.006, 0.008), "3": (0.014, 0.0028, 0.006), "4": (0.010, 0.002, 0.004)}
_CENTRED = {"2": (0.0035, 0.0035), "3": (0.0015, 0.0035), "4": (0.0010, 0.0020)}


class Trapezoidal:
    key = "trapezoidal"
    title = "ISO metric trapezoidal"

    def read(self, text: str, hand: Hand) -> Thread | None:
        found = _TR.fullmatch(text)
        if found is None:
            return None
        lead = float(found["lead"])
        pitch = float(found["p"]) if found["p"] else lead
        return trapezoidal(float(found["d"]), pitch, starts_of(lead, pitch), hand, found["class"] or "")

    def rows(self) -> Iterator[Row]:
        for diameter, _, pitches in rows("iso2902"):
            for pitch in pitches:
                yield Row(f"Tr{plain(diameter)}x{plain(pitch)}", self.key, diameter, pitch, False)


class Acme:
    key = "acme"
    title = "Acme"

    def read(self, text: str, hand: Hand) -> Thread | None:
        found = _ACME.fullmatch(text)
        if found is None:
            return None
        diameter, tpi = size_in_inches(found["size"]), float(found["tpi"])
        starts = int(found["starts"] or 1)
        if found["lead"]:
            starts = starts_of(float(found["lead"]), 1 / tpi, 2e-2)
        stub = found["kind"].upper().startswith("STUB")
        return acme(
            diameter,
            tpi,
            found["size"],
            stub,
            (found["class"] or "2G").upper(),
            starts,
            hand,
            bool(found["class"]),
        )

    def rows(self) -> Iterator[Row]:
        for kind in ("ACME", "STUB ACME"):
            for size, tpi in rows("asme_b1_5"):
                name = f"{size}-{plain(tpi)} {kind}"
                yield Row(name, self.key, size_in_inches(size) * INCH, INCH / tpi, True)


class Square:
    key = "square"
    title = "Square"

    def read(self, text: str, hand: Hand) -> Thread | None:
        found = _SQUARE.fullmatch(text)
        if found is None:
            return None
        d, lead = float(found["d"]), float(found["lead"])
        pitch = float(found["p"]) if found["p"] else lead
        starts = starts_of(lead, pitch)
        demand_pitch(d, pitch, f"Sq{plain(d)}x{plain(lead)}")
        member = Member("", Size(d), Size(d - pitch / 2), Size(d - pitch), d - pitch)
        practice = "common practice, no source"
        return Thread(
            f"Sq{plain(d)}x{plain(lead)}" + (f"P{plain(pitch)}" if starts > 1 else "") + left_hand(hand), self.key, self.title,
            pitch, starts, hand, 0.0, 0.0, member, Member("", member.major, member.pitch, member.minor, d),
            (("form", practice), ("sizes", practice), ("limits", "none set")),
        )  # fmt: skip

    def rows(self) -> Iterator[Row]:
        return iter(())


def starts_of(lead: float, pitch: float, near: float = 1e-6) -> int:
    """How many starts a lead has. Raises ThreadError where it is no multiple of the pitch."""
    starts = round(lead / pitch)
    if starts < 1 or abs(starts * pitch - lead) > near * pitch:
        raise ThreadError(
            f"a lead of {plain(lead)} is no multiple of the pitch {plain(pitch)}",
            f"use {plain(pitch * max(starts, 1))}",
        )
    return starts


def trapezoidal(d: float, pitch: float, starts: int = 1, hand: Hand = "right", tolerance: str = "") -> Thread:
    """An ISO metric trapezoidal thread; 7e and 7H where no class is named. Raises ThreadError."""
    name = f"Tr{plain(d)}x{plain(pitch * starts)}" + (f"P{plain(pitch)}" if starts > 1 else "")
    demand_pitch(d, pitch, name)
    side: Side | None = None
    external, internal = "7e", "7H"
    if tolerance:
        side = "internal" if tolerance[1].isupper() else "external"
        if side == "internal":
            internal = tolerance
        else:
            external = tolerance
    for text, known in ((external, "ech"), (internal, "H")):
        if text[1] not in known:
            raise ThreadError(f"“{text}” is no tolerance class of Tr", "use 7e, 8c or 7H")
    a = 0.15 if pitch < 2 else 0.25 if pitch <= 5 else 0.5 if pitch <= 12 else 1.0
    d2, d3, inner = d - pitch / 2, d - pitch - 2 * a, d - pitch
    row = min(rows("iso2903"), key=lambda r: abs(r[0] - pitch))
    exact = row[0] == pitch
    internal_crest = (row[1] if exact else preferred(230 * pitch**0.7 * 0.63)) / 1000
    external_crest = (
        row[2] if exact else preferred((180 * pitch ** (2 / 3) - 3.15 / math.sqrt(pitch)) * 0.63)
    ) / 1000
    es = {
        "c": -row[3] / 1000,
        "e": -row[4] / 1000 if exact else -preferred(50 + 11 * pitch) / 1000,
        "h": 0.0,
    }[external[1]]
    of_starts = _OF_STARTS.get(starts, _OF_MANY)
    wide, inner_wide = (
        round(of_starts * pitch_tolerance(d, pitch, int(named[0]), inside), 3)
        for named, inside in ((external, False), (internal, True))
    )
    return Thread(
        name + (f"-{tolerance}" if tolerance else "") + ("-LH" if hand == "left" else ""), Trapezoidal.key, Trapezoidal.title,
        pitch, starts, hand, math.radians(15), math.radians(15),
        Member(
            external, Size(d, d, d - external_crest), Size(d2, d2 + es, d2 + es - wide),
            Size(d3, d3, d3 + es - 1.25 * wide), d3,
        ),
        Member(
            internal, Size(d + 2 * a, None, d + 2 * a),
            Size(d2, d2 + inner_wide, d2),
            Size(inner, inner + internal_crest, inner), d + 2 * a,
        ),
        (("form", "ISO 2901:1993"), ("sizes", "ISO 2904:1977; series ISO 2902:1977, not checked against the printed standard"), ("limits", "ISO 2903:1993, not checked against the printed standard")),
        side,
    )  # fmt: skip


def acme(
    d: float, tpi: float, size: str, stub: bool = False, tolerance: str = "2G", starts: int = 1, hand: Hand = "right",
    named: bool = False,
) -> Thread:  # fmt: skip
    """An Acme or stub Acme thread of a diameter in inches. Raises ThreadError."""
    p = 1 / tpi
    kind = "STUB ACME" if stub else "ACME"
    name = f"{size}-{plain(tpi)}" + (f"-{plain(starts * p)}L" if starts > 1 else "") + f" {kind}"
    demand_pitch(d, p, name)
    if stub and tolerance.endswith("C"):
        raise ThreadError("stub Acme has no centralising class", "use 2G")
    height = 0.3 * p if stub else 0.5 * p
    by_pitch, by_size, allowance = _ACME_TOLERANCE[tolerance[0]]
    wide = by_pitch * math.sqrt(p) + by_size * math.sqrt(d)
    free = allowance * math.sqrt(d)
    clear = 0.02 if tpi <= 10 else 0.01
    pitch, minor = d - height, d - 2 * height
    crest = max(0.05 * p, 0.005)
    if tolerance.endswith("C"):
        outside, bore = _CENTRED[tolerance[0]]
        major = Size(d, d, d - outside * math.sqrt(d))
        inner_major = Size(d, d + (0.001 + bore) * math.sqrt(d), d + 0.001 * math.sqrt(d))
        root = d + 0.001 * math.sqrt(d)
    else:
        major = Size(d, d, d - crest)
        inner_major = Size(d + clear, d + 2 * clear, d + clear)
        root = d + clear
    thread = Thread(
        name + (f"-{tolerance}" if named else "") + left_hand(hand), Acme.key, "Stub Acme" if stub else Acme.title, p, starts, hand,
        math.radians(14.5), math.radians(14.5),
        Member(tolerance, major, Size(pitch, pitch - free, pitch - free - wide),
               Size(minor - clear, minor - clear, minor - clear - 1.5 * wide), minor - clear),
        Member(tolerance, inner_major, Size(pitch, pitch + wide, pitch), Size(minor, minor + crest, minor), root),
        (("form", "ASME B1.8-1988" if stub else "ASME B1.5-1997"), ("sizes", "series not checked against the printed standard"), ("limits", "formulas not checked against the printed standard")),
    )  # fmt: skip
    return in_millimetres(thread, 4)
