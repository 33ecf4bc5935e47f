"""The figures of a threaded part."""

from __future__ import annotations

import math
from typing import TYPE_CHECKING

import numpy as np

from metaspira.numbers.figure import Figure
from metaspira.parts.described import Known
from metaspira.threads.drills import DRILLS, RULE, tapping_drill
from metaspira.threads.gauging import stress_area

if TYPE_CHECKING:
    from metaspira.parts.threaded import ThreadedPart

_EVEN = 1e-6
_STANDARD = "the standard, or as typed"
_SURFACE = "over the surface"
_NO_WIRE = "a thread has no wire"


def _on_host(part: ThreadedPart) -> bool:
    return part.recipe.use.as_ != "body"


def _of_standard(part: ThreadedPart) -> bool:
    return part.thread.family != "own" and not _on_host(part)


def _full(part: ThreadedPart) -> float:
    return max(part.full[1] - part.full[0], 0.0)


def _inside(part: ThreadedPart) -> float | None:
    loops = part.body.loops
    return 2 * loops[1].inner_radius if len(loops) > 1 else None


def _pitch_diameter(part: ThreadedPart) -> float | None:
    """That of the size that is asked for, moved by the allowance square to the flanks."""
    if not _of_standard(part):
        return None
    thread, asked = part.thread, part.recipe.thread
    slope = math.tan(thread.leading) + math.tan(thread.trailing)
    stand = 1 / math.cos(thread.leading) + 1 / math.cos(thread.trailing)
    wider = 2 * asked.allowance * stand / slope if slope > 1e-9 else 0.0
    middle = thread.member(part.side).pitch.at(asked.size)
    return middle - wider if part.side == "external" else middle + wider


def _ridge_area(part: ThreadedPart) -> float:
    profile = part.profile
    first, _ = profile.moments(profile.held(np.array([-1e9]), np.array([1e9])))
    return float(first[0]) - profile.inner * profile.pitch


def _lead_angle(part: ThreadedPart, radius: float) -> float:
    return math.degrees(math.atan2(part.thread.lead, 2 * math.pi * radius))


def _varying_lead_angle(part: ThreadedPart, radius: float) -> float | None:
    varies = float(np.ptp(part.radii)) > _EVEN * float(part.radii.max())
    return _lead_angle(part, radius) if varies else None


def _developed(part: ThreadedPart) -> float:
    """Length of the pitch line, mm, of all starts."""
    z, r, lead = np.linspace(0.0, _full(part), len(part.radii)), part.radii, part.thread.lead
    steps = 2 * math.pi * 0.5 * (r[1:] + r[:-1]) * np.diff(z) / lead
    return part.thread.starts * float(np.sqrt(steps**2 + np.diff(z) ** 2 + np.diff(r) ** 2).sum())


FIGURES: tuple[Figure[Known[ThreadedPart]], ...] = (
    Figure("min_gap", "Air to its mate", "g", "mm", lambda known: known.min_gap, "least distance in space of two threads on one screw, with their ends", "both profiles, ends", "branch and bound, certain between the ends of its interval", "there"),
    Figure("major_diameter", "Major diameter", "d", "mm", lambda known: 2 * (known.part.body.thread.outer_radius if _on_host(known.part) else known.part.profile.outer), "as built", "designation, size, allowance", _STANDARD),
    Figure("pitch_diameter", "Pitch diameter", "d₂", "mm", lambda known: _pitch_diameter(known.part), "as built", "designation, size", _STANDARD, "there"),
    Figure("minor_diameter", "Minor diameter", "d₁", "mm", lambda known: 2 * (known.part.body.thread.inner_radius if _on_host(known.part) else known.part.profile.inner), "as built", "designation, size, allowance", _STANDARD),
    Figure("wire_length", "Wire length", "L", "mm", lambda known: None, "", "", _NO_WIRE, "never"),
    Figure("outside_diameter", "Outside diameter", "", "mm", lambda known: 2 * known.part.body.outer_radius, "2 · max r", "host, thread", _SURFACE),
    Figure("inside_diameter", "Inside diameter", "", "mm", lambda known: _inside(known.part), "2 · min r of the hole", "host, thread", _SURFACE),
    Figure("height", "Height", "h", "mm", lambda known: known.part.body.length, "max z − min z", "host", _SURFACE),
    Figure("turns", "Full turns", "n", "", lambda known: _full(known.part) / known.part.thread.lead, "full length / lead", "length, ends, lead", "as laid out"),
    Figure("pitch", "Pitch", "P", "mm", lambda known: known.part.thread.pitch, "crest to crest along the axis", "designation or form", _STANDARD),
    Figure("lead", "Lead", "Ph", "mm", lambda known: known.part.thread.lead, "pitch · starts", "pitch, starts", "definition"),
    Figure("lead_angle", "Lead angle", "φ", "°", lambda known: _lead_angle(known.part, float(known.part.radii.mean())), "atan(lead / (2π r))", "lead, mean radius of the pitch line", "unrolled screw"),
    Figure("least_lead_angle", "Lead angle, least", "", "°", lambda known: _varying_lead_angle(known.part, float(known.part.radii.max())), "atan(lead / (2π r))", "lead, greatest radius of the pitch line", "unrolled screw", "there"),
    Figure("most_lead_angle", "Lead angle, most", "", "°", lambda known: _varying_lead_angle(known.part, float(known.part.radii.min())), "atan(lead / (2π r))", "lead, least radius of the pitch line", "unrolled screw", "there"),
    Figure("path_length", "Developed length", "s", "mm", lambda known: _developed(known.part), "starts · ∫ √((2π r)² + lead² + (lead dr/dz)²) dz / lead", "full length, pitch line", "the pitch line on its host"),
    Figure("stress_area", "Stress area", "A_s", "mm²", lambda known: stress_area(known.part.thread) if _of_standard(known.part) else None, "π/4 ((d₂ + d₃)/2)²; unified π/4 (D − 0.9743 P)²", "basic sizes", "ISO 898-1; ASME B1.1", "there"),
    Figure("drill", "Hole to drill", "", "mm", lambda known: tapping_drill(known.part.thread).diameter if _of_standard(known.part) else None, RULE, "basic sizes, limits", DRILLS, "there"),
    Figure("min_bend_radius", "Tightest bend", "", "mm", lambda known: None, "", "", _NO_WIRE, "never"),
    Figure("section_area", "Ridge area", "A", "mm²", lambda known: _ridge_area(known.part), "∫ (r − r root) dz over a pitch", "profile", "exact on the profile's lines and arcs"),
    Figure("volume", "Volume", "V", "mm³", lambda known: known.part.volume, "∫ π/P ∮ r² dz dh", "profile, host, ends", "area of the transverse section, integrated along the axis"),
    Figure("mass", "Mass", "m", "g", lambda known: known.part.volume * known.part.material.density, "volume · density", "volume, material", "density not checked against a printed table"),
)  # fmt: skip
"""In the order in which they stand beside the part."""
