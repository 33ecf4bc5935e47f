"""Threads with a round root for fatigue: MJ (ISO 5855) and UNJ (ASME B1.15), ISO metric and unified threads
but for

    d₃ = d − 1.15470P, rounded by 0.18042P;   D₁ = d − 0.97428P
"""

from __future__ import annotations

import re
from collections.abc import Iterator
from dataclasses import replace

from metaspira.threads.family import INCH, NUMBER, SIZE, Family, Row, ThreadError, plain, size_in_inches
from metaspira.threads.iso_metric import coarse_pitch, metric
from metaspira.threads.tables import rows
from metaspira.threads.thread import Hand, Side, Size, Thread
from metaspira.threads.unified import Unified

_ROOT, _MINOR, _ROUND = 1.15470, 0.97428, 0.18042
_MOST = 39.0
_FINE_PITCH = 0.8
_MJ = re.compile(
    rf"MJ ?(?P<d>{NUMBER})(?:X(?P<p>{NUMBER}))?(?:[ -](?P<class>[34][A-Z](?:[4-6][A-Z])?))?", re.IGNORECASE
)
_UNJ = re.compile(
    rf"{SIZE}(?:[ -](?P<tpi>{NUMBER}))?[ -]?UNJ(?P<series>C|F|EF|S)?(?:[ -](?P<class>3[AB]))?", re.IGNORECASE
)
_UNCHECKED = "not checked against the printed standard"


def _round_rooted(thread: Thread) -> Thread:
    """A metric or unified thread with the root of the J form and the minor diameter that clears it."""
    d, p = thread.external.major.basic, thread.pitch
    external, internal = thread.external, thread.internal
    root, minor = d - _ROOT * p, d - _MINOR * p
    upper = external.pitch.at("max") - external.pitch.basic
    lower = external.pitch.at("min") - external.pitch.basic
    wide = internal.minor.at("max") - internal.minor.at("min")
    shift = internal.pitch.at("min") - internal.pitch.basic
    return replace(
        thread,
        external=replace(
            external,
            minor=Size(root, root + upper, root + lower),
            root=root,
            inner_round=_ROUND * p * (1 - 1e-6),
        ),
        internal=replace(internal, minor=Size(minor, minor + shift + wide, minor + shift)),
    )


def _of_family(
    family: Family, thread: Thread, name: str, tolerance: str, side: Side, **sources: str
) -> Thread:
    """The thread under its own name; of the `side` alone where a class of it is named."""
    return replace(
        thread,
        designation=name + (f"-{tolerance}" if tolerance else "") + ("-LH" if thread.hand == "left" else ""),
        family=family.key,
        title=family.title,
        side=side if tolerance else None,
        sources=tuple((what, f"{source}, {_UNCHECKED}") for what, source in sources.items()),
    )


class RoundRootMetric:
    key = "metric-j"
    title = "Metric with a round root"

    def read(self, text: str, hand: Hand) -> Thread | None:
        found = _MJ.fullmatch(text)
        if found is None:
            return None
        d = float(found["d"])
        pitch = float(found["p"]) if found["p"] else coarse_pitch(d)
        if pitch is None:
            raise ThreadError(f"MJ{plain(d)} has no coarse pitch", f"write its pitch, as in MJ{plain(d)}x1")
        usual = "4h6h", "4H6H" if pitch <= _FINE_PITCH else "4H5H"
        named = found["class"] or ""
        inside = named[1:2].isupper()
        external, internal = (usual[0], named) if inside else (named or usual[0], usual[1])
        thread = _round_rooted(metric(d, pitch, 1, hand, (external, internal)))
        return _of_family(
            self,
            thread,
            f"MJ{plain(d)}x{plain(pitch)}",
            named,
            "internal" if inside else "external",
            form="ISO 5855-1",
            sizes="ISO 5855-2; series of ISO 261",
            limits="ISO 5855-2, tolerances of ISO 965-1",
        )

    def rows(self) -> Iterator[Row]:
        for diameter, coarse, _ in rows("iso261"):
            if coarse and 1.6 <= diameter <= _MOST:
                yield Row(f"MJ{plain(diameter)}x{plain(coarse)}", self.key, diameter, coarse, False)


class RoundRootUnified:
    key = "unified-j"
    title = "Unified with a round root"

    def read(self, text: str, hand: Hand) -> Thread | None:
        found = _UNJ.fullmatch(text)
        if found is None:
            return None
        series, named = (found["series"] or "").upper(), (found["class"] or "").upper()
        if not found["tpi"] and not series:
            raise ThreadError(f"{found['size']} UNJ has no pitch", f"write {found['size']} UNJC or UNJF")
        written = f"-{found['tpi']}" if found["tpi"] else ""
        of = f" UN{series}" if series else ""
        base = Unified()
        external = base.read(f"{found['size']}{written}{of}-3A", hand)
        internal = base.read(f"{found['size']}{written}{of}-3B", hand)
        if external is None or internal is None:
            return None
        thread = _round_rooted(replace(external, internal=internal.internal))
        kind = external.designation.split(" UN")[1].split("-")[0]
        size = external.designation.rsplit(" ", 1)[0]
        return _of_family(
            self,
            thread,
            f"{size} UNJ{kind}",
            named,
            "internal" if named == "3B" else "external",
            form="ASME B1.15",
            sizes="series of ASME B1.1",
            limits="ASME B1.15, tolerances of ASME B1.1 classes 3A and 3B",
        )

    def rows(self) -> Iterator[Row]:
        for series, size, tpi in rows("asme_b1_1"):
            name = f"{size}-{plain(tpi)} UNJ{series.removeprefix('UN')}"
            yield Row(name, self.key, size_in_inches(size) * INCH, INCH / tpi, True)
