"""What each family of threads answers, and how the ways of writing a thread are made one."""

from __future__ import annotations

import re
from collections.abc import Iterator
from dataclasses import dataclass, replace
from fractions import Fraction
from functools import lru_cache
from typing import Protocol

from metaspira.threads.thread import Hand, Member, Thread

INCH = 25.4

_VULGAR = {
    "½": "1/2",
    "⅓": "1/3",
    "⅔": "2/3",
    "¼": "1/4",
    "¾": "3/4",
    "⅛": "1/8",
    "⅜": "3/8",
    "⅝": "5/8",
    "⅞": "7/8",
}

SIZE = r"(?P<size>#\d+|\d+ \d+/\d+|\d+-\d+/\d+|\d+/\d+|\d*\.\d+|\d+)"
NUMBER = r"\d+(?:\.\d+)?|\.\d+"


@dataclass(frozen=True)
class Row:
    """One size of a family's series: as it is written, its major diameter and pitch in mm."""

    designation: str
    family: str
    diameter: float
    pitch: float
    inch: bool


class Family(Protocol):
    """One family of threads. A new one is a module and a line in `families.FAMILIES`."""

    key: str
    title: str

    def read(self, text: str, hand: Hand) -> Thread | None:
        """The thread that a tidied designation names; None where it is not one of this family.
        Raises ThreadError where it is one, but cannot be."""
        ...

    def rows(self) -> Iterator[Row]:
        """The family's series."""
        ...


class ThreadError(Exception):
    """A designation of a known family that names no thread: reason and remedy."""

    def __init__(self, reason: str, remedy: str):
        super().__init__(f"{reason}; {remedy}")
        self.reason = reason
        self.remedy = remedy


def tidy(text: str) -> tuple[str, Hand]:
    """A designation in upper case with plain fractions, points for decimals, `X` for ×, and single spaces;
    classes keep their case; its hand, taken out of it."""
    found = text.strip()
    for sign, plain in _VULGAR.items():
        found = re.sub(rf"(?<=\d){sign}", f" {plain}", found).replace(sign, plain)
    found = found.replace("⁄", "/").replace("×", "x").replace("–", "-").replace("−", "-").replace("*", "x")
    found = re.sub(r"[\"″”“]|''|\bin(?:ch(?:es)?)?\b\.?", " ", found)
    found = re.sub(r"(?<=\d),(?=\d)", ".", found)
    hand: Hand = "right"
    for pattern, which in (
        (r"[\s-]*\b(?:LH|left(?:[ -]hand)?)\b", "left"),
        (r"[\s-]*\b(?:RH|right(?:[ -]hand)?)\b", "right"),
    ):
        found, count = re.subn(pattern, " ", found, flags=re.IGNORECASE)
        if count:
            hand = "left" if which == "left" else "right"
    found = re.sub(r"\s+", " ", found).strip(" -")
    found = re.sub(r"\s*([x/-])\s*", lambda m: m[1], found, flags=re.IGNORECASE)
    return found, hand


@lru_cache(maxsize=1024)
def size_in_inches(text: str) -> float:
    """The diameter of “#10”, “1 1/4”, “1-1/4”, “3/8” or “.5”, inches."""
    if text.startswith("#"):
        return 0.060 + 0.013 * int(text[1:])
    return float(sum(Fraction(part) for part in re.split(r"[ -]", text)))


def plain(value: float) -> str:
    """A number as it is written in a designation."""
    return f"{value:.6g}"


def left_hand(hand: Hand) -> str:
    """What a designation says of its hand."""
    return " LH" if hand == "left" else ""


def demand_pitch(diameter: float, pitch: float, name: str, share: float = 0.5) -> None:
    """Raises ThreadError where a pitch is no thread's on a diameter."""
    if not 0 < pitch < share * diameter or not 0.02 <= diameter <= 1000:
        raise ThreadError(f"{name} is no thread", f"use a pitch below {plain(share * diameter)}")


def in_millimetres(thread: Thread, digits: int) -> Thread:
    """A thread whose lengths were given in inches."""

    def scaled(member: Member) -> Member:
        return Member(
            member.tolerance, member.major.scaled(INCH), member.pitch.scaled(INCH), member.minor.scaled(INCH),
            member.root * INCH, member.outer_round * INCH, member.inner_round * INCH,
        )  # fmt: skip

    gauges = tuple(replace(gauge, value=gauge.value * INCH) for gauge in thread.gauges)
    return replace(
        thread, pitch=thread.pitch * INCH, external=scaled(thread.external), internal=scaled(thread.internal),
        inch=True, digits=digits, gauges=gauges,
    )  # fmt: skip
