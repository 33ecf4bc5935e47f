"""American pipe threads (ASME B1.20.1): NPT and NPTF, on a taper of 1/16, and their
parallel relatives NPSM and NPSC. Inches, P
the pitch and D the outside diameter of the pipe:

    E₀ = D − (0.05 D + 1.1) P,  E₁ = E₀ + L₁/16,  L₂ = (0.8 D + 6.8) P,  h = 0.8 P
    L₃ = 3P up to 2 in, 2P beyond,  V = 3.47 P,  L₄ = L₂ + V
    NPSM: pitch diameter E₁; tolerances and allowance of ASME B1.1 classes 2A and 2B for an engagement of 9P
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
    in_millimetres,
    left_hand,
    plain,
    size_in_inches,
)
from metaspira.threads.tables import rows
from metaspira.threads.thread import Gauge, Hand, Member, Size, Thread
from metaspira.threads.unified import external_limits, internal_limits

_PATTERN = re.compile(
    rf"{SIZE}(?:-(?P<tpi>{NUMBER}))?[ -]?(?P<kind>NPTF?|NPSM|NPSC)|(?P<kind2>NPTF?|NPSM|NPSC) ?(?P<size2>.+)",
    re.IGNORECASE,
)
_SOURCE = "ASME B1.20.1-1983, not checked against the printed standard"


class AmericanPipe:
    key = "pipe-american"
    title = "American pipe"

    def read(self, text: str, hand: Hand) -> Thread | None:
        found = _PATTERN.fullmatch(text)
        if found is None:
            return None
        kind = (found["kind"] or found["kind2"]).upper()
        size = found["size"] or found["size2"]
        try:
            wanted = size_in_inches(size)
        except ValueError:
            return None
        row = min(rows("asme_b1_20_1"), key=lambda r: abs(size_in_inches(r[0]) - wanted))
        if size_in_inches(row[0]) != wanted or (found["tpi"] and float(found["tpi"]) != row[2]):
            raise ThreadError(f"there is no {text}", f"use {row[0]}-{plain(row[2])} {kind}")
        if kind.startswith("NPT"):
            return npt(row[0], row[1], row[2], row[3], hand, kind)
        return (npsm if kind == "NPSM" else npsc)(row[0], row[1], row[2], row[3], hand)

    def rows(self) -> Iterator[Row]:
        for size, outside, tpi, _ in rows("asme_b1_20_1"):
            for kind in ("NPT", "NPTF"):
                yield Row(f"{size}-{plain(tpi)} {kind}", self.key, outside * INCH, INCH / tpi, True)


def npt(size: str, outside: float, tpi: float, hand_tight: float, hand: Hand, kind: str = "NPT") -> Thread:
    """The taper thread; its diameters are those at the gauge plane, the length L₁ from the small end. NPTF,
    which seals dry, is told with the same sizes; how its crests and roots are cut off is not kept here."""
    p = 1 / tpi
    small = outside - (0.05 * outside + 1.1) * p
    gauge = small + hand_tight / 16
    effective = (0.8 * outside + 6.8) * p
    depth = 0.8 * p
    member = Member("", Size(gauge + depth), Size(gauge), Size(gauge - depth), gauge - depth)
    gauges = tuple(
        Gauge(key, title, value, _SOURCE)
        for key, title, value in (
            ("pitch_at_small_end", "Pitch diameter at the small end, E₀", small),
            ("gauge_length", "Hand-tight engagement, L₁", hand_tight),
            ("effective_length", "Effective thread, L₂", effective),
            ("pitch_at_effective", "Pitch diameter at L₂, E₂", small + effective / 16),
            (
                "wrench_length",
                "Wrench make-up of the internal thread, L₃",
                (3 if outside < 2.5 else 2) * p,
            ),
            ("vanish_length", "Vanish thread, V", 3.47 * p),
            ("overall_length", "Overall thread, L₄", effective + 3.47 * p),
            ("position_tolerance", "Gauge plane, tolerance ± one turn", p),
        )
    )
    name = f"{size}-{plain(tpi)} {kind}" + left_hand(hand)
    form = (
        "ASME B1.20.1-1983" if kind == "NPT" else "as NPT; the truncations of ASME B1.20.3 are not kept here"
    )
    thread = Thread(
        name, AmericanPipe.key, AmericanPipe.title, p, 1, hand, math.pi / 6, math.pi / 6, member,
        Member("", member.major, member.pitch, member.minor, member.major.basic),
        (("form", form), ("sizes", _SOURCE), ("limits", _SOURCE)),
        None, 1 / 16, gauges=gauges,
    )  # fmt: skip
    return in_millimetres(thread, 5)


def npsm(size: str, outside: float, tpi: float, hand_tight: float, hand: Hand) -> Thread:
    """The free-fitting parallel thread for mechanical joints."""
    p = 1 / tpi
    pitch = outside - (0.05 * outside + 1.1) * p + hand_tight / 16
    major = pitch + 0.75 * math.sqrt(3) / 2 * p
    external, internal = external_limits(major, p, 9 * p, "2A"), internal_limits(major, p, 9 * p, "2B")
    rounding = math.sqrt(3) / 2 * p / 6
    thread = Thread(
        f"{size}-{plain(tpi)} NPSM" + left_hand(hand),
        AmericanPipe.key,
        AmericanPipe.title,
        p,
        1,
        hand,
        math.pi / 6,
        math.pi / 6,
        Member("2A", *external, inner_round=rounding),
        Member("2B", *internal),
        (
            ("form", "ASME B1.20.1-1983, UN form"),
            ("sizes", _SOURCE),
            ("limits", "ASME B1.1-2003, formulas not checked against the printed standard"),
        ),
    )
    return in_millimetres(thread, 4)


def npsc(size: str, outside: float, tpi: float, hand_tight: float, hand: Hand) -> Thread:
    """The parallel internal thread of couplings, which seals on NPT: its pitch diameter is that of the gauge
    plane, a turn and a half of the taper to either side."""
    p = 1 / tpi
    pitch = outside - (0.05 * outside + 1.1) * p + hand_tight / 16
    depth, wide = 0.8 * p, 1.5 * p / 16
    member = Member("", Size(pitch + depth), Size(pitch), Size(pitch - depth), pitch - depth)
    internal = Member(
        "",
        Size(pitch + depth, pitch + depth + wide, pitch + depth - wide),
        Size(pitch, pitch + wide, pitch - wide),
        Size(pitch - depth, pitch - depth + wide, pitch - depth - wide),
        pitch + depth,
    )
    thread = Thread(
        f"{size}-{plain(tpi)} NPSC" + left_hand(hand), AmericanPipe.key, AmericanPipe.title, p, 1, hand,
        math.pi / 6, math.pi / 6, member, internal,
        (("form", "ASME B1.20.1-1983"), ("sizes", _SOURCE), ("limits", _SOURCE)), "internal",
    )  # fmt: skip
    return in_millimetres(thread, 4)
