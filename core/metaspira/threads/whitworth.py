"""Threads with the Whitworth form: BSW and BSF (BS 84), and the parallel and taper pipe threads G (ISO 228-1)
and R, Rp, Rc (ISO 7-1).

    half angle 27.5°,  H = P / (2 tan 27.5°) = 0.960491 P,  h = 2H/3,  r = 0.137329 P

BS 84 tolerances in inches, D, P and the length of engagement LE = D:

    T = 0.002 D^⅓ + 0.003 √LE + 0.005 √P
    bolts: effective ⅔T close, T medium, 1½T free; major the same + 0.01 √P; minor the same + 0.02 √P (close 0.013)
    nuts: effective T medium, 1½T normal; minor 0.2P + 0.004 (26 and finer), 0.005 (24, 22), 0.007 (coarser)
"""

from __future__ import annotations

import math
import re
from collections.abc import Iterator
from dataclasses import replace
from typing import Any

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
from metaspira.threads.thread import Gauge, Hand, Member, Side, Size, Thread

HALF_ANGLE = math.radians(27.5)
_DEPTH = 2 / 3 / (2 * math.tan(HALF_ANGLE))
_ROUND = 0.137329
_BSW = re.compile(
    (
        rf"{SIZE}(?:[ -](?P<tpi>{NUMBER}))?[ -]?(?P<series>BSW|BSF|WHIT(?:WORTH)?)(?:[ "
        rf"-](?P<class>close|medium|free|normal))?"
    ),
    re.IGNORECASE,
)
_G = re.compile(rf"G ?{SIZE}(?:[ -]?(?P<class>[AB]))?", re.IGNORECASE)
_R = re.compile(rf"(?P<kind>RP|RC|R) ?{SIZE}", re.IGNORECASE)


class Whitworth:
    key = "whitworth"
    title = "British Standard Whitworth"

    def read(self, text: str, hand: Hand) -> Thread | None:
        found = _BSW.fullmatch(text)
        if found is None:
            return None
        size, diameter = found["size"], size_in_inches(found["size"])
        series = "BSF" if found["series"].upper() == "BSF" else "BSW"
        own = {row[2] for row in rows("bs84") if row[0] == series and size_in_inches(row[1]) == diameter}
        if found["tpi"] is None and not own:
            raise ThreadError(
                f"{size} has no {series} pitch", f"write its threads per inch, as in {size}-20 {series}"
            )
        tpi = float(found["tpi"]) if found["tpi"] else own.pop()
        return whitworth(diameter, tpi, f"{size}-{plain(tpi)} {series}", hand, (found["class"] or "").lower())

    def rows(self) -> Iterator[Row]:
        for series, size, tpi in rows("bs84"):
            yield Row(
                f"{size}-{plain(tpi)} {series}", self.key, size_in_inches(size) * INCH, INCH / tpi, True
            )


class ParallelPipe:
    key = "pipe-parallel"
    title = "Pipe, parallel (ISO 228-1)"

    def read(self, text: str, hand: Hand) -> Thread | None:
        found = _G.fullmatch(text)
        if found is None:
            return None
        row = _pipe_row(found["size"], "G")
        _, tpi, major, pitch, minor, pitch_wide, minor_wide, major_wide = row[:8]
        letter = (found["class"] or "A").upper()
        external = Member(
            letter,
            Size(major, major, major - major_wide),
            Size(pitch, pitch, pitch - pitch_wide * (2 if letter == "B" else 1)),
            Size(minor, minor, None),
            minor,
        )
        internal = Member(
            "one class", Size(major, None, major), Size(pitch, pitch + pitch_wide, pitch),
            Size(minor, minor + minor_wide, minor), major,
        )  # fmt: skip
        name = f"G {row[0]}" + (f" {found['class'].upper()}" if found["class"] else "") + left_hand(hand)
        side: Side | None = "external" if found["class"] else None
        sources = (
            ("form", "ISO 228-1:2000, Whitworth form"),
            ("sizes", "ISO 228-1:2000, table not checked against the printed standard"),
            ("limits", "ISO 228-1:2000, table not checked against the printed standard"),
        )
        return _with_form(name, self, INCH / tpi, hand, external, internal, sources, side)

    def rows(self) -> Iterator[Row]:
        for row in rows("iso228_iso7"):
            yield Row(f"G {row[0]}", self.key, row[2], INCH / row[1], False)


class TaperPipe:
    key = "pipe-taper"
    title = "Pipe, pressure tight (ISO 7-1)"

    def read(self, text: str, hand: Hand) -> Thread | None:
        found = _R.fullmatch(text)
        if found is None:
            return None
        row = _pipe_row(found["size"], "R")
        _, tpi, major, pitch, minor = row[:5]
        gauge, gauge_wide, useful, internal_wide = row[8:12]
        kind = {"R": "R", "RP": "Rp", "RC": "Rc"}[found["kind"].upper()]
        turns = round(4 * internal_wide * tpi / INCH) / 4
        limits = turns * INCH / tpi / 16 if kind == "Rp" else 0.0
        external = Member("", Size(major), Size(pitch), Size(minor), minor)
        internal = Member(
            "", Size(major, None, major - limits if limits else None),
            Size(pitch, *((pitch + limits, pitch - limits) if limits else ())),
            Size(minor, *((minor + limits, minor - limits) if limits else ())), major,
        )  # fmt: skip
        source = "ISO 7-1:1994, not checked against the printed standard"
        gauges = (
            Gauge("gauge_length", "Gauge length, small end to gauge plane", gauge, source),
            Gauge("gauge_length_tolerance", "Gauge length, tolerance ±", gauge_wide, source),
            Gauge("useful_length", "Useful thread at the basic gauge length, least", useful, source),
            Gauge("fitting_allowance", "Wrenching beyond the gauge plane", useful - gauge, source),
        )
        return _with_form(
            f"{kind} {row[0]}{left_hand(hand)}", self, INCH / tpi, hand, external, internal,
            (("form", "ISO 7-1:1994, Whitworth form"), ("sizes", source), ("limits", source)),
            "external" if kind == "R" else "internal", 0.0 if kind == "Rp" else 1 / 16, gauges,
        )  # fmt: skip

    def rows(self) -> Iterator[Row]:
        for row in rows("iso228_iso7"):
            for kind in ("R", "Rc") if len(row) > 8 else ():
                yield Row(f"{kind} {row[0]}", self.key, row[2], INCH / row[1], False)


def whitworth(diameter: float, tpi: float, name: str, hand: Hand, fit: str = "") -> Thread:
    """A Whitworth thread of any diameter (inches) and threads per inch, medium fit where none is named.
    Raises ThreadError."""
    p = 1 / tpi
    demand_pitch(diameter, p, name, 0.6)
    unit = 0.002 * math.cbrt(diameter) + 0.003 * math.sqrt(diameter) + 0.005 * math.sqrt(p)
    bolt = fit if fit in ("close", "free") else "medium"
    nut = "normal" if fit in ("normal", "free") else "medium"
    wide = {"close": 2 / 3, "medium": 1.0, "free": 1.5}[bolt] * unit
    nut_wide = (1.5 if nut == "normal" else 1.0) * unit
    depth = _DEPTH * p
    pitch, minor = diameter - depth, diameter - 2 * depth
    root_wide = wide + (0.013 if bolt == "close" else 0.02) * math.sqrt(p)
    crest = 0.2 * p + (0.004 if tpi >= 26 else 0.005 if tpi > 20 else 0.007)
    external = Member(
        bolt,
        Size(diameter, diameter, diameter - wide - 0.01 * math.sqrt(p)),
        Size(pitch, pitch, pitch - wide),
        Size(minor, minor, minor - root_wide),
        minor,
    )
    internal = Member(
        nut,
        Size(diameter, None, diameter),
        Size(pitch, pitch + nut_wide, pitch),
        Size(minor, minor + crest, minor),
        diameter,
    )
    side: Side | None = "internal" if fit == "normal" else "external" if fit in ("close", "free") else None
    sources = (
        ("form", "BS 84:1956"),
        ("sizes", "BS 84:1956, series not checked against the printed standard"),
        ("limits", "BS 84:1956, formulas not checked against the printed standard"),
    )
    thread = _with_form(
        name + (f" {fit}" if fit else "") + left_hand(hand),
        Whitworth(),
        p,
        hand,
        external,
        internal,
        sources,
        side,
    )
    return in_millimetres(thread, 4)


def _pipe_row(size: str, kind: str) -> list[Any]:
    wanted = size_in_inches(size)
    known = [row for row in rows("iso228_iso7") if kind == "G" or len(row) > 8]
    near = min(known, key=lambda row: abs(size_in_inches(row[0]) - wanted))
    if size_in_inches(near[0]) != wanted:
        raise ThreadError(f"there is no {kind} {size}", f"use {kind} {near[0]}")
    return near


def _with_form(
    name: str,
    family: Whitworth | ParallelPipe | TaperPipe,
    pitch: float,
    hand: Hand,
    external: Member,
    internal: Member,
    sources: tuple[tuple[str, str], ...],
    side: Side | None,
    taper: float = 0.0,
    gauges: tuple[Gauge, ...] = (),
) -> Thread:
    radius = _ROUND * pitch
    external, internal = (replace(m, outer_round=radius, inner_round=radius) for m in (external, internal))
    return Thread(
        name, family.key, family.title, pitch, 1, hand, HALF_ANGLE, HALF_ANGLE, external, internal, sources,
        side, taper, gauges=gauges,
    )  # fmt: skip
