"""Gauges, wires, drills and stress areas of threads."""

from __future__ import annotations

import math
from collections.abc import Iterator

from metaspira.threads.drills import tapping_drill
from metaspira.threads.gauges import limit_gauges
from metaspira.threads.gauging import best_wire, over_wires, plating, stress_area, tooth_depth
from metaspira.threads.lookup import read_thread
from metaspira.threads.thread import Side
from metaspira.verification.row import Row, near, printed

_GAUGES = (
    ("M10-6H", "Go plug", "9.0435", "9.0325"),
    ("M10-6H", "Not-go plug", "9.2170", "9.2060"),
    ("M10-6g", "Go ring", "8.9950", "8.9770"),
    ("M10-6g", "Not-go ring", "8.8620", "8.8440"),
    ("M6-6H", "Go plug", "5.3675", "5.3565"),
    ("M6-6H", "Not-go plug", "5.5110", "5.5000"),
)
_DEPTHS: tuple[tuple[str, Side, str, str], ...] = (
    ("M10", "external", "0.920", "DIN 13-1, h3"),
    ("M10", "internal", "0.812", "DIN 13-1, H1"),
    ("Tr20x4", "external", "2.25", "DIN 103-1, h3"),
    ("Tr40x7", "internal", "4.00", "DIN 103-1, H4"),
    ("G 1/2", "external", "1.162", "ISO 228-1, h"),
)
_AREAS = {"M6": "20.1", "M8": "36.6", "M10": "58.0", "M12": "84.3", "M16": "157", "M20": "245"}
_DRILLS = {
    "M3": "2.5", "M4": "3.3", "M5": "4.2", "M6": "5.0", "M8": "6.8", "M9": "7.8", "M10": "8.5", "M12": "10.2",
    "M14": "12.0", "M16": "14.0", "M18": "15.5", "M20": "17.5", "M24": "21.0", "M30": "26.5",
    "M12x1.25": "10.8", "M20x1.5": "18.5", "M10x1": "9.0",
}  # fmt: skip
_NPT = (
    ("pitch_at_small_end", "pitch diameter at the small end", "0.75843"),
    ("gauge_length", "hand-tight engagement L₁", "0.320"),
    ("effective_length", "effective thread L₂", "0.5337"),
    ("wrench_length", "wrench make-up L₃", "0.2143"),
)


def rows() -> Iterator[Row]:
    for designation, gauge, most, least in _GAUGES:
        found = {one.name: one for one in limit_gauges(read_thread(designation))}[gauge]
        for words, text, ours in (("most", most, found.most), ("least", least, found.least)):
            case = f"{designation}, {gauge.lower()}, pitch diameter, {words}"
            yield printed(("pitch_diameter",), case, text, ours, "mm", "ISO 1502, as gauge makers list them")
    for designation, text in _AREAS.items():
        area, value = stress_area(read_thread(designation)), float(text)
        yield near(("stress_area",), designation, value, area, 3e-3, "mm²", "ISO 898-1, table 4", "printed")
    for designation, text in _DRILLS.items():
        drill = tapping_drill(read_thread(designation)).diameter
        yield printed(("drill",), f"{designation}, tapping drill", text, drill, "mm", "ISO 2306")
    pipe = {gauge.key: gauge.value / 25.4 for gauge in read_thread("1/2-14 NPT").gauges}
    for key, words, text in _NPT:
        yield printed((key,), f"1/2-14 NPT, {words}", text, pipe[key], "in", "ASME B1.20.1, table 2")
    for name, side, text, source in _DEPTHS:
        key = "tooth_depth" if side == "external" else "tooth_depth_internal"
        depth = tooth_depth(read_thread(name), side).basic
        yield printed((key,), f"{name}, tooth depth, {side}", text, depth, "mm", source)
    inch = read_thread("1/4-20 UNC")
    wire, plated = best_wire(inch), plating(read_thread("M10"))
    assert wire is not None and plated is not None
    yield printed(
        ("best_wire",), "1/4-20 UNC, best wire", "0.02887", wire / 25.4, "in", "ASME B1.2, 0.57735 P"
    )
    yield printed(
        ("stress_area",), "1/4-20 UNC", "0.0318", stress_area(inch) / 25.4**2, "in²", "ASME B1.1, table 2"
    )
    yield Row(
        ("plating",),
        "M10-6g, thickest plating",
        0.032 / 4,
        plated,
        1e-6,
        "mm",
        "ISO 965-1, deviation g over 4 at 60°",
        "formula",
    )
    for designation in ("M10", "M20", "1/4-20 UNC", "3/4-10 UNC"):
        thread = read_thread(designation)
        basic = thread.external.pitch.basic
        for share in (0.52, 0.57735, 0.7):
            size = share * thread.pitch
            by_hand = basic + 3 * size - math.sqrt(3) / 2 * thread.pitch
            yield Row(
                ("over_wires",),
                f"{designation}, over wires of {share:g} P, no lead angle",
                by_hand,
                over_wires(thread, basic, size, corrected=False),
                1e-9,
                "mm",
                "M = d₂ + 3W − 0.86603 P; ASME B1.2, appendix B",
                "formula",
            )
