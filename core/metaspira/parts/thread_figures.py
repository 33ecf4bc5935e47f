"""Figures of a threaded part, each with its formula, its inputs and its source."""

from __future__ import annotations

import math
from functools import lru_cache

import numpy as np

from metaspira.parts import AnyPart
from metaspira.parts.figures import Why, figures_of
from metaspira.parts.threaded import ThreadedPart
from metaspira.threads.drills import DRILLS, RULE, tapping_drill
from metaspira.threads.gauging import stress_area

THREAD_WHY = {
    "min_gap": Why(
        "Air to its mate", "mm", "least distance in space of two threads on one screw, with their ends", "both profiles, ends",
        "branch and bound, certain between the ends of its interval", rail="there",
    ),
    "major_diameter": Why("Major diameter", "mm", "as built", "designation, size, allowance", "the standard, or as typed"),
    "pitch_diameter": Why("Pitch diameter", "mm", "as built", "designation, size", "the standard, or as typed", rail="there"),
    "minor_diameter": Why("Minor diameter", "mm", "as built", "designation, size, allowance", "the standard, or as typed"),
    "wire_length": Why("Wire length", "mm", "", "", "a thread has no wire", rail="never"),
    "outside_diameter": Why("Outside diameter", "mm", "2 · max r", "host, thread", "over the surface"),
    "inside_diameter": Why("Inside diameter", "mm", "2 · min r of the hole", "host, thread", "over the surface"),
    "height": Why("Height", "mm", "max z − min z", "host", "over the surface"),
    "turns": Why("Full turns", "", "full length / lead", "length, ends, lead", "as laid out"),
    "pitch": Why("Pitch", "mm", "crest to crest along the axis", "designation or form", "the standard, or as typed"),
    "lead": Why("Lead", "mm", "pitch · starts", "pitch, starts", "definition"),
    "lead_angle": Why("Lead angle", "°", "atan(lead / (2π r))", "lead, mean radius of the pitch line", "unrolled screw"),
    "least_lead_angle": Why("Lead angle, least", "°", "atan(lead / (2π r))", "lead, greatest radius of the pitch line", "unrolled screw", rail="there"),
    "most_lead_angle": Why("Lead angle, most", "°", "atan(lead / (2π r))", "lead, least radius of the pitch line", "unrolled screw", rail="there"),
    "path_length": Why(
        "Developed length", "mm", "starts · ∫ √((2π r)² + lead² + (lead dr/dz)²) dz / lead", "full length, pitch line", "the pitch line on its host"
    ),
    "stress_area": Why("Stress area", "mm²", "π/4 ((d₂ + d₃)/2)²; unified π/4 (D − 0.9743 P)²", "basic sizes", "ISO 898-1; ASME B1.1", rail="there"),
    "drill": Why("Hole to drill", "mm", RULE, "basic sizes, limits", DRILLS, rail="there"),
    "min_bend_radius": Why("Tightest bend", "mm", "", "", "a thread has no wire", rail="never"),
    "section_area": Why(
        "Ridge area", "mm²", "∫ (r − r root) dz over a pitch", "profile", "exact on the profile's lines and arcs"
    ),
    "volume": Why(
        "Volume", "mm³", "∫ π/P ∮ r² dz dh", "profile, host, ends", "area of the transverse section, integrated along the axis"
    ),
    "mass": Why("Mass", "g", "volume · density", "volume, material", "density not checked against a printed table"),
}  # fmt: skip


_EVEN = 1e-6


def threaded_figures(part: ThreadedPart, air: float | None) -> dict[str, float | None]:
    """The figures of the recipe contract and those beside them; mm, mm², mm³, g, degrees. Those that a thread
    does not have are None."""
    thread, profile, body = part.thread, part.profile, part.body
    full = max(part.full[1] - part.full[0], 0.0)
    turns = full / thread.lead
    surface = body.thread
    outer, inner = surface.outer_radius, surface.inner_radius
    on_host = part.recipe.use.as_ != "body"
    member = thread.member(part.side)
    slope = math.tan(thread.leading) + math.tan(thread.trailing)
    stand = 1 / math.cos(thread.leading) + 1 / math.cos(thread.trailing)
    wider = 2 * part.recipe.thread.allowance * stand / slope if slope > 1e-9 else 0.0
    shift = -wider if part.side == "external" else wider
    first, _ = profile.moments(profile.held(np.array([-1e9]), np.array([1e9])))
    middle = member.pitch.at(part.recipe.thread.size)
    holed = len(body.loops) > 1
    varies = float(np.ptp(part.radii)) > _EVEN * float(part.radii.max())
    found = {
        "wire_length": None,
        "path_length": _developed(part, full),
        "section_area": float(first[0]) - profile.inner * profile.pitch,
        "volume": part.volume,
        "mass": part.volume * part.material.density,
        "turns": turns,
        "pitch": thread.pitch,
        "height": body.length,
        "min_gap": air,
        "min_bend_radius": None,
        "outside_diameter": 2 * body.outer_radius,
        "inside_diameter": 2 * body.loops[1].inner_radius if holed else None,
        "lead": thread.lead,
        "lead_angle": _lead_angle(part, float(part.radii.mean())),
        "least_lead_angle": _lead_angle(part, float(part.radii.max())) if varies else None,
        "most_lead_angle": _lead_angle(part, float(part.radii.min())) if varies else None,
        "major_diameter": 2 * outer if on_host else 2 * profile.outer,
        "pitch_diameter": None if on_host or thread.family == "own" else middle + shift,
        "minor_diameter": 2 * inner if on_host else 2 * profile.inner,
        "stress_area": None if thread.family == "own" or on_host else stress_area(thread),
        "drill": None if thread.family == "own" or on_host else tapping_drill(thread).diameter,
    }
    return {name: found[name] for name in THREAD_WHY}


def _lead_angle(part: ThreadedPart, radius: float) -> float:
    return math.degrees(math.atan2(part.thread.lead, 2 * math.pi * radius))


def _developed(part: ThreadedPart, full: float) -> float:
    """Length of the pitch line, mm, of all starts."""
    z, r, lead = np.linspace(0.0, full, len(part.radii)), part.radii, part.thread.lead
    steps = 2 * math.pi * 0.5 * (r[1:] + r[:-1]) * np.diff(z) / lead
    return part.thread.starts * float(np.sqrt(steps**2 + np.diff(z) ** 2 + np.diff(r) ** 2).sum())


@lru_cache(maxsize=16)
def quick_figures(part: AnyPart) -> dict[str, float | None]:
    """The figures of any part, but for its least gap and tightest bend, which take longer."""
    return threaded_figures(part, None) if isinstance(part, ThreadedPart) else figures_of(part, None, None)
