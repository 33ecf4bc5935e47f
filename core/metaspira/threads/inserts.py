"""Tapped holes for wire thread inserts: EG (DIN 8140) of metric and of unified threads. The insert is wound
of wire of a rhombus, whose inside is the thread d:

    D = d + 1.29904P,  D₂ = d + 0.64952P,  D₁ = d + 0.21651P
"""

from __future__ import annotations

import re
from collections.abc import Iterator
from dataclasses import replace

from metaspira.threads.family import Row
from metaspira.threads.iso_metric import IsoMetric
from metaspira.threads.thread import Hand, Member, Size, Thread
from metaspira.threads.unified import Unified

_EG = re.compile(r"EG ?(?P<of>.+)", re.IGNORECASE)
_WIDER, _PITCH, _MINOR = 1.29904, 0.64952, 0.21651
_SOURCE = "DIN 8140-2, not checked against the printed standard"


class InsertHole:
    key = "insert"
    title = "Hole for a wire insert"

    def read(self, text: str, hand: Hand) -> Thread | None:
        found = _EG.fullmatch(text)
        if found is None:
            return None
        inner = IsoMetric().read(found["of"], hand) or Unified().read(found["of"], hand)
        if inner is None or inner.starts > 1:
            return None
        d, p = inner.external.major.basic, inner.pitch
        major, pitch, minor = d + _WIDER * p, d + _PITCH * p, d + _MINOR * p
        root = major - 17 / 12 * 0.8660254 * p
        external = Member("", Size(major), Size(pitch), Size(minor), root, inner_round=0.8660254 * p / 6)
        return replace(
            inner,
            designation=f"EG {inner.designation}",
            family=self.key,
            title=self.title,
            side="internal",
            external=external,
            internal=Member("", Size(major), Size(pitch), Size(minor), major),
            sources=(("form", "as ISO 68-1"), ("sizes", _SOURCE), ("limits", "none kept here")),
        )

    def rows(self) -> Iterator[Row]:
        for family in (IsoMetric(), Unified()):
            for row in family.rows():
                if 2 <= row.diameter <= 52:
                    wide = row.diameter + _WIDER * row.pitch
                    yield Row(f"EG {row.designation}", self.key, wide, row.pitch, row.inch)
