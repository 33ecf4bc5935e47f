"""Limit gauges of metric threads, with their wear (ISO 1502; not checked against the printed standard), mm:

go plug       D2 + EI + Z_PL ± T_PL/2,            worn at D2 + EI + Z_PL − W_GO
not-go plug   D2 + EI + T_D2 + T_PL/2 ± T_PL/2,   worn at … − W_NG
go ring       d2 + es − Z_R ± T_R/2,              worn at d2 + es − Z_R + W_GO
not-go ring   d2 + es − T_d2 − T_R/2 ± T_R/2,     worn at … + W_NG
"""

from __future__ import annotations

from dataclasses import dataclass

from metaspira.threads.thread import Thread

SOURCE = "ISO 1502, not checked against the printed standard"
_FAMILIES = ("metric", "metric-j")
_ROWS = (
    (50, 8, 6, -4, 0, 8, 6, 10, 7),
    (80, 10, 7, -2, 2, 9.5, 7.5, 12, 9),
    (125, 14, 9, 2, 6, 12.5, 9.5, 16, 12),
    (200, 18, 11, 8, 12, 17.5, 11.5, 21, 15),
    (315, 23, 14, 12, 16, 21, 15, 25.5, 19),
    (500, 30, 18, 20, 24, 27, 19, 33, 25),
    (670, 38, 22, 28, 32, 33, 23, 41, 31),
)
"""Pitch tolerance up to; T_R, T_PL, Z_R, Z_PL; wear of the go and the not-go plug, of the go and the not-go
ring, µm."""


@dataclass(frozen=True)
class LimitGauge:
    """A gauge and its pitch diameter, mm: the most and the least that it is made at, and where it is worn."""

    name: str
    most: float
    least: float
    worn: float


def limit_gauges(thread: Thread) -> list[LimitGauge]:
    """Plugs for the internal and rings for the external member; none where no table is kept here."""
    if thread.family not in _FAMILIES:
        return []
    found = []
    inner, outer = thread.internal.pitch, thread.external.pitch
    if inner.max is not None and inner.min is not None and thread.side != "external":
        row = _row(inner.max - inner.min)
        if row is not None:
            _, plug, _, shift, go_wear, not_wear, _, _ = row
            low = inner.min + shift
            found += [
                LimitGauge("Go plug", low + plug / 2, low - plug / 2, low - go_wear),
                LimitGauge("Not-go plug", inner.max + plug, inner.max, inner.max + plug / 2 - not_wear),
            ]
    if outer.max is not None and outer.min is not None and thread.side != "internal":
        row = _row(outer.max - outer.min)
        if row is not None:
            ring, _, shift, _, _, _, go_wear, not_wear = row
            high = outer.max - shift
            found += [
                LimitGauge("Go ring", high + ring / 2, high - ring / 2, high + go_wear),
                LimitGauge("Not-go ring", outer.min, outer.min - ring, outer.min - ring / 2 + not_wear),
            ]
    return found


def _row(wide: float) -> tuple[float, ...] | None:
    """The row of a pitch tolerance, mm."""
    micrometres = round(1000 * wide, 3)
    row = next((row for row in _ROWS if micrometres <= row[0]), None)
    return None if row is None or micrometres < 24 else tuple(value / 1000 for value in row[1:])
