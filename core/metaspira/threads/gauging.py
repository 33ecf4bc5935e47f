"""What is cut, drilled and measured for a thread, each figure with its formula and source."""

from __future__ import annotations

import math
from collections.abc import Callable
from dataclasses import replace
from typing import Any

from metaspira.numbers.figure import Figure, Told
from metaspira.numbers.shown import unit_shown
from metaspira.threads.drills import DRILLS, RULE, drills_within, tapping_drill
from metaspira.threads.gauges import limit_gauges
from metaspira.threads.thread import Side, Size, Thread


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


def tooth_depth(thread: Thread, side: Side) -> Size:
    """From crest to root of a member, mm, with the limits that its diameters leave: h₃ of an external thread,
    H₄ of an internal one."""
    member = thread.member(side)
    major, minor = member.major, member.minor
    basic = major.basic - member.root if side == "external" else member.root - minor.basic
    most = None if major.max is None or minor.min is None else 0.5 * (major.max - minor.min)
    least = None if major.min is None or minor.max is None else 0.5 * (major.min - minor.max)
    return Size(0.5 * basic, most, least)


def plating(thread: Thread) -> float | None:
    """The thickest coat, mm, that keeps an external thread within its basic size: the flanks move by it
    square to themselves, so that the pitch diameter grows by 4 of it at 60° (ISO 965-1, ISO 4042)."""
    pitch = thread.external.pitch
    slope = math.tan(thread.leading) + math.tan(thread.trailing)
    if pitch.max is None or slope < 1e-9:
        return None
    stand = 1 / math.cos(thread.leading) + 1 / math.cos(thread.trailing)
    return (pitch.basic - pitch.max) * slope / (2 * stand)


def in_inches(figure: Told) -> Told:
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


def _by_family(unified: str, metric: str, others: str) -> Callable[[Thread], str]:
    return lambda thread: {"unified": unified, "metric": metric}.get(thread.family, others)


def _over_wires(size: Callable[[Thread], float | None]) -> Callable[[Thread], float | None]:
    def value(thread: Thread) -> float | None:
        wire, pitch = best_wire(thread), size(thread)
        return None if wire is None or pitch is None else over_wires(thread, pitch, wire)

    return value


def _correction(thread: Thread) -> float | None:
    wire = best_wire(thread)
    return None if wire is None else lead_correction(thread, wire)


def _limit(side: Side, which: str) -> Callable[[Thread], float | None]:
    return lambda thread: go_limits(thread, side)[which]


def _drill_rule(thread: Thread) -> str:
    return f"{tapping_drill(thread).name}; {RULE}"


def _drill_share(thread: Thread) -> float:
    return 100 * share_of_height(thread, tapping_drill(thread).diameter)


_WIRES = "d₂ + W (1 + 1/sin α) − P/(2 tan α) + C"
_WIRES_BY = "ASME B1.2; common three-wire formula"
_AREA = "π/4 ((d₂ + d₃)/2)²"

FIGURES: tuple[Figure[Thread], ...] = (
    Figure("lead", "Lead", "Ph", "mm", lambda t: t.lead, "pitch · starts", "pitch, starts", "definition"),
    Figure("lead_angle", "Lead angle", "φ", "°", lambda t: math.degrees(t.lead_angle), "atan(lead / (π d₂))", "lead, pitch diameter", "at the pitch diameter"),
    Figure("stress_area", "Stress area", "A_s", "mm²", stress_area, _by_family("π/4 (D − 0.9743 P)²", _AREA, _AREA), "basic sizes", _by_family("ASME B1.1", "ISO 898-1", "as ISO 898-1; common practice")),
    Figure("engagement", "Height of engagement", "H₁", "mm", lambda t: engagement(t)[0], "(d − D₁) / 2", "basic sizes", "basic sizes"),
    Figure("least_engagement", "Height of engagement, least", "", "mm", lambda t: engagement(t)[1], "(d min − D₁ max) / 2", "limits", "limits"),
    Figure("tooth_depth", "Tooth depth, external", "h₃", "mm", lambda t: tooth_depth(t, "external").basic, "(d − d₃) / 2", "basic sizes", "DIN 13-1, DIN 103-1; from memory"),
    Figure("tooth_depth_max", "Tooth depth, external, most", "", "mm", lambda t: tooth_depth(t, "external").max, "(d max − d₃ min) / 2", "limits", "limits", "there"),
    Figure("tooth_depth_min", "Tooth depth, external, least", "", "mm", lambda t: tooth_depth(t, "external").min, "(d min − d₃ max) / 2", "limits", "limits", "there"),
    Figure("tooth_depth_internal", "Tooth depth, internal", "H₄", "mm", lambda t: tooth_depth(t, "internal").basic, "(D₄ − D₁) / 2", "basic sizes", "basic sizes"),
    Figure("drill", "Hole to drill", "", "mm", lambda t: tapping_drill(t).diameter, _drill_rule, "basic sizes, limits", DRILLS),
    Figure("drill_share", "Thread height left by that hole", "", "%", _drill_share, "(d − hole) / (d − D₁)", "hole, basic sizes", "basic sizes"),
    Figure("best_wire", "Best wire for measuring", "W", "mm", best_wire, "P / (2 cos α)", "pitch, flanks", "touches at the pitch line"),
    Figure("lead_correction", "Correction for the lead angle, C", "C", "mm", _correction, "W/2 · tan²λ · cos α / tan α", "wire, lead angle, flanks", _WIRES_BY, "there"),
    Figure("over_wires", "Over wires, basic", "M", "mm", _over_wires(lambda t: t.external.pitch.basic), _WIRES, "pitch diameter, wire", _WIRES_BY, "there"),
    Figure("over_wires_max", "Over wires, most", "", "mm", _over_wires(lambda t: t.external.pitch.max), _WIRES, "pitch diameter, wire", _WIRES_BY, "there"),
    Figure("over_wires_min", "Over wires, least", "", "mm", _over_wires(lambda t: t.external.pitch.min), _WIRES, "pitch diameter, wire", _WIRES_BY, "there"),
    Figure("plating", "Coat that stays within basic size", "", "mm", plating, "(d₂ basic − d₂ max) (tan α + tan β) / 2 (1/cos α + 1/cos β)", "limits, flanks", "geometry; ISO 4042"),
    Figure("go_external", "Pitch diameter of most material, external", "", "mm", _limit("external", "go"), "what goes", "limits", "limits"),
    Figure("not_go_external", "Pitch diameter of least material, external", "", "mm", _limit("external", "not_go"), "what does not go", "limits", "limits"),
    Figure("go_internal", "Pitch diameter of most material, internal", "", "mm", _limit("internal", "go"), "what goes", "limits", "limits"),
    Figure("not_go_internal", "Pitch diameter of least material, internal", "", "mm", _limit("internal", "not_go"), "what does not go", "limits", "limits"),
)  # fmt: skip
"""In the order of use."""


def gauging(thread: Thread) -> list[Told]:
    """Every gauging figure of a thread, and those that its own standard tells beside them."""
    beside = [Told(one.key, one.title, one.value, "mm", "", "", one.source) for one in thread.gauges]
    told = [(figure, figure.told(thread)) for figure in FIGURES]
    return [*(one for figure, one in told if one.value is not None or figure.rail == "always"), *beside]
