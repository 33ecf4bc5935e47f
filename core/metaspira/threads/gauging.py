"""What is cut, drilled and measured for a thread, each figure with its formula and source."""

from __future__ import annotations

import math
from dataclasses import dataclass, replace
from typing import Any

from metaspira.numbers.shown import unit_shown
from metaspira.threads.drills import DRILLS, RULE, drills_within, tapping_drill
from metaspira.threads.gauges import limit_gauges
from metaspira.threads.thread import Side, Thread


@dataclass(frozen=True)
class Gauged:
    """A figure: its value in `unit`, and what stands behind it."""

    key: str
    title: str
    value: float | None
    unit: str
    formula: str
    source: str


def stress_area(thread: Thread) -> float:
    """Area, mm², that carries a pull.

    Metric: π/4 ((d₂ + d₃)/2)² (ISO 898-1). Unified: π/4 (D − 0.9743 P)² (ASME B1.1). Others as metric.
    """
    external = thread.external
    if thread.family == "unified":
        return math.pi / 4 * (external.major.basic - 0.9743 * thread.pitch) ** 2
    return math.pi / 4 * (0.5 * (external.pitch.basic + external.root)) ** 2


def share_of_height(thread: Thread, hole: float) -> float:
    """How much of the basic height of engagement a drilled hole leaves, 1 for all of it."""
    return (thread.external.major.basic - hole) / (2 * thread.depth)


def best_wire(thread: Thread) -> float | None:
    """Diameter of the wire, mm, that touches a standard's symmetric thread at its pitch line: P / (2 cos
    α)."""
    if not _symmetric(thread) or thread.leading == 0 or thread.family == "own":
        return None
    return thread.pitch / 2 / math.cos(thread.leading)


def over_wires(thread: Thread, pitch_diameter: float, wire: float, corrected: bool = True) -> float:
    """Size over three wires, mm, of an external thread:

        M = d₂ + W (1 + 1 / sin α) − P / (2 tan α) + C,   C = W/2 · tan²λ · cos α / tan α

    C is the correction for the lead angle λ (ASME B1.2, after Berndt); α the half angle.
    """
    half = thread.leading
    plain = pitch_diameter + wire * (1 + 1 / math.sin(half)) - thread.pitch / (2 * math.tan(half))
    return plain + (lead_correction(thread, wire) if corrected else 0.0)


def lead_correction(thread: Thread, wire: float) -> float:
    """C of `over_wires`, mm."""
    half = thread.leading
    return wire / 2 * math.tan(thread.lead_angle) ** 2 * math.cos(half) / math.tan(half)


def engagement(thread: Thread) -> tuple[float, float | None]:
    """Height, mm, in which the flanks meet: basic, and least within the limits."""
    major, minor = thread.external.major.min, thread.internal.minor.max
    return thread.depth, None if major is None or minor is None else 0.5 * (major - minor)


def gauging(thread: Thread) -> list[Gauged]:
    """Every gauging figure of a thread, in the order of use."""
    basic, least = engagement(thread)
    drill = tapping_drill(thread)
    external = thread.external.pitch
    wire = best_wire(thread)
    found = [
        Gauged("lead", "Lead", thread.lead, "mm", "pitch · starts", "definition"),
        Gauged("lead_angle", "Lead angle", math.degrees(thread.lead_angle), "°", "atan(lead / (π d₂))", "at the pitch diameter"),
        Gauged("stress_area", "Stress area", stress_area(thread), "mm²",
               "π/4 (D − 0.9743 P)²" if thread.family == "unified" else "π/4 ((d₂ + d₃)/2)²",
               "ASME B1.1" if thread.family == "unified" else "ISO 898-1" if thread.family == "metric" else "as ISO 898-1; common practice"),
        Gauged("engagement", "Height of engagement", basic, "mm", "(d − D₁) / 2", "basic sizes"),
        Gauged("least_engagement", "Height of engagement, least", least, "mm", "(d min − D₁ max) / 2", "limits"),
        Gauged("drill", "Hole to drill", drill.diameter, "mm", f"{drill.name}; {RULE}", DRILLS),
        Gauged("drill_share", "Thread height left by that hole", 100 * share_of_height(thread, drill.diameter), "%", "(d − hole) / (d − D₁)", "basic sizes"),
        Gauged("best_wire", "Best wire for measuring", wire, "mm", "P / (2 cos α)", "touches at the pitch line"),
    ]  # fmt: skip
    if wire is not None:
        rule = "d₂ + W (1 + 1/sin α) − P/(2 tan α) + C"
        source = "ASME B1.2; common three-wire formula"
        found.append(
            Gauged(
                "lead_correction",
                "Correction for the lead angle, C",
                lead_correction(thread, wire),
                "mm",
                "W/2 · tan²λ · cos α / tan α",
                source,
            )
        )
        for key, title, value in (
            ("over_wires", "Over wires, basic", external.basic),
            ("over_wires_max", "Over wires, most", external.max),
            ("over_wires_min", "Over wires, least", external.min),
        ):
            size = None if value is None else over_wires(thread, value, wire)
            found.append(Gauged(key, title, size, "mm", rule, source))
    found.append(
        Gauged(
            "plating", "Coat that stays within basic size", plating(thread), "mm",
            "(d₂ basic − d₂ max) (tan α + tan β) / 2 (1/cos α + 1/cos β)", "geometry; ISO 4042",
        )
    )  # fmt: skip
    sides: tuple[Side, ...] = ("external", "internal")
    for side in sides:
        limits = go_limits(thread, side)
        found += [
            Gauged(f"go_{side}", f"Pitch diameter of most material, {side}", limits["go"], "mm", "what goes", "limits"),
            Gauged(
                f"not_go_{side}", f"Pitch diameter of least material, {side}", limits["not_go"], "mm",
                "what does not go", "limits",
            ),
        ]  # fmt: skip
    found += [Gauged(g.key, g.title, g.value, "mm", "", g.source) for g in thread.gauges]
    return found


def plating(thread: Thread) -> float | None:
    """The thickest coat, mm, that keeps an external thread within its basic size: the flanks move by it
    square to themselves, so that the pitch diameter grows by 4 of it at 60° (ISO 965-1, ISO 4042)."""
    pitch = thread.external.pitch
    slope = math.tan(thread.leading) + math.tan(thread.trailing)
    if pitch.max is None or slope < 1e-9:
        return None
    stand = 1 / math.cos(thread.leading) + 1 / math.cos(thread.trailing)
    return (pitch.basic - pitch.max) * slope / (2 * stand)


def in_inches(figure: Gauged) -> Gauged:
    """A figure of a thread that is made in inches, as it is measured there."""
    size, unit = unit_shown(figure.unit, "in")
    return replace(figure, value=None if figure.value is None else figure.value / size, unit=unit)


def go_limits(thread: Thread, side: Side) -> dict[str, float | None]:
    """Pitch diameters, mm, of the go and not-go gauges, and the crest's limits."""
    member = thread.member(side)
    pitch, crest = member.pitch, member.major if side == "external" else member.minor
    go, not_go = (pitch.max, pitch.min) if side == "external" else (pitch.min, pitch.max)
    return {"go": go, "not_go": not_go, "crest_max": crest.max, "crest_min": crest.min}


def as_dict(thread: Thread) -> dict[str, Any]:
    """The recipe contract's keys of a thread, in mm and degrees, with what stands behind them."""
    told_figures = gauging(thread)
    told: dict[str, Any] = {
        "designation": thread.designation,
        "family": thread.family,
        "title": thread.title,
        "side": thread.side,
        "hand": thread.hand,
        "pitch": thread.pitch,
        "starts": thread.starts,
        "lead": thread.lead,
        "lead_angle": math.degrees(thread.lead_angle),
        "flank_angles": [math.degrees(thread.leading), math.degrees(thread.trailing)],
        "taper": thread.taper,
        "external": thread.external.as_dict(1.0, 6 if thread.inch else thread.digits),
        "internal": thread.internal.as_dict(1.0, 6 if thread.inch else thread.digits),
        "stress_area": stress_area(thread),
        "gauging": [vars(figure) for figure in told_figures],
        "drills": [
            {**vars(drill), "share": share_of_height(thread, drill.diameter)}
            for drill in drills_within(thread)
        ],
        "gauges": [vars(gauge) for gauge in limit_gauges(thread)],
        "go": {side: go_limits(thread, side) for side in ("external", "internal")},
        "sources": dict(thread.sources),
    }
    if thread.inch:
        told["inch"] = {
            "pitch": thread.pitch / 25.4,
            "lead": thread.lead / 25.4,
            "external": thread.external.as_dict(1 / 25.4, thread.digits),
            "internal": thread.internal.as_dict(1 / 25.4, thread.digits),
            "gauging": [vars(in_inches(figure)) for figure in told_figures],
        }
    return told


def _symmetric(thread: Thread) -> bool:
    return abs(thread.leading - thread.trailing) < 1e-12
