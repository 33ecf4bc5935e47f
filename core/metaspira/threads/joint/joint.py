"""What a threaded joint bears: breaking and proof load, the stripping of both threads, tightening, and the
share of the load on its first turns.

d and D the external and internal diameters, α half the sum of the flanks' angles, L the length of engagement:

    A_s    stress area;  F_break = A_s Rm,  F_proof = A_s S_p
    FED-STD-H28/2 (and ASME B1.1, appendix B):
    A_ext = π L/P · D1max [P/2 + tan α (d2min − D1max)]      across the external threads
    A_int = π L/P · dmin [P/2 + tan α (dmin − D2max)]        across the internal threads
    VDI 2230 (after Alexander, SAE 770420): the same areas with C1 (widening nut), C2, C3 (bending threads):
    C1 = 3.8 s/D − (s/D)² − 2.61, 1.4 ≤ s/D ≤ 1.9, s across flats;  R = A_int τ_int / (A_ext τ_ext)
    C2 = 0.897 (R ≤ 1), 5.594 − 13.682 R + 14.107 R² − 6.057 R³ + 0.9353 R⁴ (1 < R < 2.2)
    C3 = 0.897 (R ≥ 1), 0.728 + 1.769 R − 2.896 R² + 1.296 R³ (0.4 < R < 1)
    M = F [d2/2 tan(φ + ρ) + μ_head D_head/2],  tan ρ = μ / cos α,  φ the lead angle
    efficiency tan φ / tan(φ + ρ);  self-locking where φ ≤ ρ
    bearing pressure F P / (π d2 H1 L);  root bending 6 F (h/2) P / (π d3 b² L), b the root's width

Not checked against the printed standards.
"""

from __future__ import annotations

import math
from dataclasses import dataclass

import numpy as np

from metaspira.numbers.jets import Array
from metaspira.numbers.once import cached_property
from metaspira.threads.gauging import stress_area
from metaspira.threads.joint.asked import AskedJoint
from metaspira.threads.joint.metals import Metal, metal
from metaspira.threads.joint.turns import Pair, shares
from metaspira.threads.thread import Side, Thread

_OF_HEAD, _USUAL_FLATS = 1.3, 1.5
_LEAST_FLATS, _MOST_FLATS = 1.4, 1.9
_FIRST = 0.8
"""Pitches of a nut that hold nothing, by VDI 2230."""
_OF_YIELD = 0.9


@dataclass(frozen=True, eq=False)
class Joint:
    """A thread whose members hold each other over `length`, mm; `flats` is what the nut measures across its
    flats or outside, mm, where it is known."""

    thread: Thread
    asked: AskedJoint
    length: float
    flats: float | None = None

    @property
    def diameter(self) -> float:
        """Nominal, mm."""
        return self.thread.external.major.basic

    @property
    def outside(self) -> float:
        """What the nut measures across its flats, mm, the usual where it is not known."""
        return self.flats or _USUAL_FLATS * self.diameter

    @cached_property
    def external(self) -> Metal:
        return metal(self.asked.external, self.diameter)

    @cached_property
    def internal(self) -> Metal:
        return metal(self.asked.internal, self.diameter)

    @property
    def area(self) -> float:
        """Stress area, mm²."""
        return stress_area(self.thread)

    @property
    def proof_load(self) -> float:
        """N"""
        return self.area * self.external.proof

    @property
    def breaking_load(self) -> float:
        """N"""
        return self.area * self.external.strength

    @property
    def slope(self) -> float:
        """Mean tangent of the flank angles."""
        return 0.5 * (math.tan(self.thread.leading) + math.tan(self.thread.trailing))

    @cached_property
    def shear_areas(self) -> tuple[float, float]:
        """Across the external and the internal threads a mm of engagement, mm (FED-STD-H28/2), at the loosest
        sizes within the limits."""
        external, internal, pitch = self.thread.external, self.thread.internal, self.thread.pitch
        minor, major = internal.minor.at("max"), external.major.at("min")

        def area(at: float, flank: float) -> float:
            return math.pi / pitch * at * max(pitch / 2 + self.slope * flank, 0.0)

        return area(minor, external.pitch.at("min") - minor), area(major, major - internal.pitch.at("max"))

    @cached_property
    def ratio(self) -> float:
        """Shear strength of the internal threads to that of the external ones."""
        (outer, inner) = self.shear_areas
        return inner * self._shear(self.internal) / max(outer * self._shear(self.external), 1e-12)

    @cached_property
    def factors(self) -> tuple[float, float, float]:
        """C1, C2 and C3 (Alexander)."""
        ratio = self.ratio
        wide = min(max(self.outside / self.diameter, _LEAST_FLATS), _MOST_FLATS)
        widened = 3.8 * wide - wide**2 - 2.61
        r = min(max(ratio, 1.0), 2.2)
        outer = 0.897 if ratio <= 1 else 5.594 - 13.682 * r + 14.107 * r**2 - 6.057 * r**3 + 0.9353 * r**4
        r = min(max(ratio, 0.4), 1.0)
        inner = 0.897 if ratio >= 1 else 0.728 + 1.769 * r - 2.896 * r**2 + 1.296 * r**3
        return widened, outer, inner

    def _shear(self, of: Metal) -> float:
        return of.shear * of.strength

    @cached_property
    def strip_per_mm(self) -> dict[str, tuple[float, float]]:
        """The loads, N a mm of engagement, that strip the external and the internal threads, by each
        method."""
        plain = (
            self.shear_areas[0] * self._shear(self.external),
            self.shear_areas[1] * self._shear(self.internal),
        )
        widened, outer, inner = self.factors
        return {
            "FED-STD-H28/2": plain,
            "VDI 2230": (plain[0] * widened * outer, plain[1] * widened * inner),
        }

    def stripping(self, method: str) -> tuple[float, float]:
        """The loads, N, that strip the external and the internal threads."""
        held = max(self.length - self._idle(method), 0.0)
        outer, inner = self.strip_per_mm[method]
        return held * outer, held * inner

    def _idle(self, method: str) -> float:
        """The length, mm, that holds nothing by a method."""
        return _FIRST * self.thread.pitch if method == "VDI 2230" else 0.0

    @property
    def strips_at(self) -> float:
        """The least of all loads, N, at which a thread strips."""
        return min(min(self.stripping(method)) for method in self.strip_per_mm)

    @property
    def breaks_first(self) -> bool:
        """Whether the bolt breaks before any thread strips."""
        return self.strips_at >= self.breaking_load

    @property
    def strips_first(self) -> Side:
        """The member whose thread strips first."""
        outer, inner = self.stripping("VDI 2230")
        return "external" if outer < inner else "internal"

    def length_for(self, load: float, method: str) -> float:
        """The shortest engagement, mm, that holds a load, N."""
        return load / max(min(self.strip_per_mm[method]), 1e-12) + self._idle(method)

    def longest_needed(self, load: float) -> float:
        """The engagement, mm, that holds a load, N, by either method."""
        return max(self.length_for(load, method) for method in self.strip_per_mm)

    @property
    def friction_angle(self) -> float:
        """ρ, radians."""
        return math.atan(self.asked.friction / math.cos(math.atan(self.slope)))

    @property
    def head_diameter(self) -> float:
        """Mean diameter on which the head rubs, mm."""
        return self.asked.head_diameter or _OF_HEAD * self.diameter

    @property
    def torque_per_newton(self) -> tuple[float, float]:
        """Torque, mm, that tightens, in the thread and under the head."""
        lead, rub = self.thread.lead_angle, self.friction_angle
        thread = self.thread.external.pitch.basic / 2 * math.tan(lead + rub)
        return thread, self.asked.head_friction * self.head_diameter / 2

    @property
    def preload(self) -> float | None:
        """N; None where neither it nor a torque is told."""
        if self.asked.preload is not None:
            return self.asked.preload
        return None if self.asked.torque is None else self.asked.torque / sum(self.torque_per_newton)

    @property
    def torque(self) -> float | None:
        """N mm; None where neither it nor a preload is told."""
        return None if self.preload is None else self.preload * sum(self.torque_per_newton)

    @property
    def _stress_per_newton(self) -> float:
        """Equivalent stress, MPa, of pull and twist under 1 N of preload while it is tightened (VDI 2230)."""
        across = math.sqrt(4 * self.area / math.pi)
        twist = self.torque_per_newton[0] / (math.pi * across**3 / 16)
        return math.hypot(1 / self.area, math.sqrt(3) * twist)

    @property
    def tightening_stress(self) -> float | None:
        """Equivalent stress, MPa, while it is tightened; None where neither torque nor preload is told."""
        return None if self.preload is None else self.preload * self._stress_per_newton

    @property
    def tightening_limit(self) -> float:
        """MPa: nine tenths of the yield strength (VDI 2230)."""
        return _OF_YIELD * self.external.yields

    @property
    def usual_preload(self) -> float:
        """The preload, N, that uses all of that limit."""
        return self.tightening_limit / self._stress_per_newton

    @property
    def load(self) -> float | None:
        """The load that it has to bear, N: its own, or its preload where that is larger."""
        known = [value for value in (self.asked.load, self.preload) if value is not None]
        return max(known, default=None)

    @property
    def efficiency(self) -> float:
        """Of turning into a push."""
        return math.tan(self.thread.lead_angle) / math.tan(self.thread.lead_angle + self.friction_angle)

    @property
    def locks(self) -> bool:
        """Whether a push does not turn it."""
        return self.thread.lead_angle <= self.friction_angle

    def driving(self, load: float) -> tuple[float, float]:
        """Torque, N mm, that drives a load, N, against it and with it, in the thread alone; negative where
        the load turns it by itself."""
        half, lead, rub = self.thread.external.pitch.basic / 2, self.thread.lead_angle, self.friction_angle
        return load * half * math.tan(lead + rub), load * half * math.tan(rub - lead)

    def pressure(self, load: float) -> float:
        """Bearing pressure on the flanks, MPa, under a load, N, evenly spread."""
        thread = self.thread
        return load * thread.pitch / (math.pi * thread.external.pitch.basic * thread.depth * self.length)

    def root_bending(self, load: float) -> float:
        """Bending at the root of the external threads, MPa, under a load, N, evenly spread, as of cantilevers
        (as Shigley, section 8-2, with the root's own width)."""
        thread = self.thread
        root, pitch = thread.external.minor.basic, thread.pitch
        wide = min(pitch / 2 + self.slope * (thread.external.pitch.basic - root), pitch)
        turns = self.length / pitch
        return 6 * load * thread.depth / 2 / (math.pi * root * wide**2 * turns)

    @cached_property
    def shares(self) -> Array:
        """The share of the load on each turn of the nut, from its bearing face on."""
        thread = self.thread
        pair = Pair(
            thread.pitch, thread.external.pitch.basic, thread.external.root, self.outside,
            math.atan(self.slope), self.external.modulus, self.internal.modulus,
        )  # fmt: skip
        return shares(pair, self.length)

    @property
    def first_share(self) -> float:
        return float(np.max(self.shares))
