"""Compression springs, turn by turn: forces, stresses, and which turns have closed.

An element dθ of the wire at radius r closes by  dδ = F r³ dθ / (G J),  J = πd⁴/32 of round wire, until it has used up its room;
from there on it is dead. Where all turns are alike this is EN 13906-1's  R = G d⁴ / (8 D³ n). Stresses are
EN 13906-1's  τ = 8 F D / (π d³),  τₖ = k τ  with  k = (w + 0.5) / (w − 0.75),  w = D / d.
"""

from __future__ import annotations

import itertools
import math
from dataclasses import dataclass

import numpy as np

from metaspira.numbers.jets import Array
from metaspira.numbers.once import cached_property
from metaspira.paths import Path
from metaspira.springs.asked import SEATS, CompressionSpring
from metaspira.springs.deformed import edges_of, loaded_path
from metaspira.springs.standard import ALLOWED, ALLOWED_SOLID, buckles_at, gap_wanted
from metaspira.springs.working import Spring, Working


@dataclass(frozen=True, eq=False)
class Compression(Spring):
    """A compression spring, and the mass of its wire, g."""

    asked: CompressionSpring
    wire_mass: float

    @property
    def active(self) -> float:
        """Turns that take part."""
        return self.turns.active

    @cached_property
    def closing(self) -> Array:
        """The force at which each element closes, N (n,); 0 where it is dead."""
        return self.turns.room / self.yielding

    @cached_property
    def closings(self) -> tuple[Array, Array]:
        """Deflection (mm) and force (N), each (n + 1,), from free on, wherever a turn closes."""
        order = np.argsort(self.closing, kind="stable")
        force, room = self.closing[order], self.turns.room[order]
        soft = np.where(room > 0, self.yielding[order], 0.0)
        still = np.cumsum(soft[::-1])[::-1] - soft
        deflection = (np.cumsum(room) + force * still) * self.turns.step
        return np.append(0.0, deflection), np.append(0.0, force)

    def curve(self, count: int = 61) -> tuple[Array, Array]:
        """Deflection (mm) and force (N), each (count,), from free to block."""
        deflection, force = self.closings
        picked = np.linspace(0.0, deflection[-1], count)
        return picked, np.interp(picked, deflection, force)

    @property
    def deflection_to_block(self) -> float:
        """Sum of all gaps, mm."""
        return float(self.closings[0][-1])

    @property
    def block_force(self) -> float:
        """The force at which the last turn closes, N."""
        return float(self.closings[1][-1])

    @property
    def solid_length(self) -> float:
        return self.free_length - self.deflection_to_block

    @cached_property
    def rate(self) -> float:
        """Secant from 30 to 70 % of the deflection to block, N/mm (EN 13906-1)."""
        low, high = (share * self.deflection_to_block for share in (0.3, 0.7))
        return (self.force_at(high) - self.force_at(low)) / (high - low)

    @property
    def first_rate(self) -> float:
        """While every active turn is open, N/mm."""
        soft = self.yielding[self.turns.room > 0]
        return 1.0 / float(soft.sum() * self.turns.step)

    def force_at(self, deflection: float) -> float:
        """N at a deflection, mm, up to block."""
        return float(np.interp(deflection, *self.closings))

    def deflection_at(self, force: float) -> float:
        """mm under a force, N, up to block."""
        deflection, forces = self.closings
        return float(np.interp(force, forces, deflection))

    @property
    def index(self) -> float:
        """Least w = D / d of the active turns."""
        return 2 * float(self.turns.radii[self.turns.room > 0].min()) / self.shape.width

    def stresses(self, force: float) -> tuple[Array, Array]:
        """Plain and corrected stress, MPa (n,), of the elements; a closed one keeps what it had when it closed."""
        own = np.minimum(force, np.where(self.turns.room > 0, self.closing, 0.0))
        return self.stress_at(own, self.turns.radii)

    def force_at_stress(self, share: float) -> float | None:
        """The force, N, at which the greatest plain stress is a share of the strength, or None where block comes first."""
        needed = share * self.strength * self.shape.modulus / self.turns.radii
        reaching = self.closing >= needed
        return float(needed[reaching].min()) if reaching.any() else None

    def stress_along(self, effort: float, share: Array) -> Array:
        """Corrected stress, MPa (n,), under a force at shares of the turns."""
        return np.interp(share, self.turns.share, self.stresses(effort)[1])

    def at_force(self, force: float) -> Working:
        return self._working(self.deflection_at(force), force)

    def at_length(self, length: float) -> Working:
        deflection = self.free_length - length
        return self._working(deflection, self.force_at(deflection))

    def _working(self, deflection: float, force: float) -> Working:
        plain, corrected = self.stresses(force)
        deflections, forces = self.closings
        inside = np.append(deflections[deflections < deflection], deflection)
        energy = float(np.trapezoid(np.interp(inside, deflections, forces), inside))
        still_open = float(np.count_nonzero(self.closing > force)) * self.turns.step
        stress = float(plain.max())
        return Working(
            self.free_length - deflection, force, deflection, stress, float(corrected.max()), stress / self.allowed,
            energy, still_open,
        )  # fmt: skip

    @property
    def block(self) -> Working:
        return self._working(self.deflection_to_block, self.block_force)

    @property
    def set_at_block(self) -> float | None:
        """How much shorter it is once it was closed to block, mm, about; None of wire that is not round.

        The wire yields at 0.56 Rm, elastic and perfectly plastic (Timoshenko, Strength of Materials, part II, torsion
        beyond the elastic limit, from memory): twisted by x times as much as it yields at, it bears
        (4/3)(1 − 1/4x³) of the torque that it yields at, and springs back by that much alone.
        """
        if not self.shape.round:
            return None
        twist = np.maximum(self.stress_at(self.closing, self.turns.radii)[0] / self.allowed_solid, 1.0)
        back = 4 / 3 * (1 - 1 / (4 * twist**3)) / twist
        return float((self.turns.room * (1 - back)).sum() * self.turns.step)

    @property
    def allowed(self) -> float:
        """Plain shear stress allowed at rest, MPa: 0.5 Rm (EN 13906-1)."""
        return ALLOWED * self.strength

    @property
    def allowed_solid(self) -> float:
        """Plain shear stress allowed at block, MPa: 0.56 Rm (EN 13906-1, cold coiled)."""
        return ALLOWED_SOLID * self.strength

    @property
    def least_gaps(self) -> float:
        """The least sum of gaps wanted at the greatest load, mm."""
        mean = 2 * self.turns.radii[self.turns.room > 0]
        each = gap_wanted(mean, self.shape.height, self.asked.cycles is not None)
        return float(each.sum() * self.turns.step)

    @property
    def buckling(self) -> float | None:
        """The deflection, mm, at which it buckles, or None where it does not before block."""
        mean = 2 * self.turns.radii[self.turns.room > 0].mean()
        moduli = self.shear_modulus / self.elastic_modulus
        deflection = float(buckles_at(self.free_length, mean, SEATS[self.asked.seat], moduli))
        return deflection if deflection < self.deflection_to_block else None

    @property
    def frequency(self) -> float:
        """First natural frequency between fixed ends, Hz: ½ √(R / m), m the mass of the active wire (EN 13906-1)."""
        share = self.turns.active / self.turns.turns
        return 0.5 * math.sqrt(self.first_rate * 1e3 / (self.wire_mass * 1e-3 * share))

    def outside_diameter(self, deflection: float) -> float:
        """The greatest outside diameter at a deflection, mm: the wire keeps its length while its pitch falls."""
        return 2 * float(self.radii_at(self.force_at(deflection)).max()) + self.shape.width

    @property
    def span(self) -> tuple[float, float]:
        """The lengths, mm, between which it works: free, and at block."""
        return self.free_length, self.solid_length

    def force_of_length(self, length: float) -> float:
        """N at a length, mm, held to the span."""
        return self.force_at(min(max(self.free_length - length, 0.0), self.deflection_to_block))

    def path_under(self, force: float) -> Path:
        """The centre line of its turns under a force, N."""
        turns = self.turns
        edges = edges_of(turns, (turns.room > 0).astype(int) + (self.closing > force))
        middles = [0.5 * (a + b) for a, b in itertools.pairwise(edges)]
        closed = np.interp(middles, turns.share, self.closing) <= force
        touching = [
            pair for pair, is_closed in zip(itertools.pairwise(edges), closed, strict=True) if is_closed
        ]
        return loaded_path(turns, lambda share: self._pitch(share, force), edges, touching)

    def _pitch(self, share: Array, force: float) -> Array:
        """Pitch, mm a turn (n,), at any share of the turns."""
        turns = self.turns
        free = turns.pitch.value(share)
        room = np.interp(share, turns.share, turns.room) > 0
        least = np.minimum(turns.touching(share), free)
        return np.where(room, np.maximum(free - force * self.yielding_at(share), least), free)

    def pitches_at(self, force: float) -> Array:
        """Pitch, mm a turn (n,), under a force."""
        return self.turns.pitches - np.minimum(force * self.yielding, self.turns.room)

    def radii_at(self, force: float) -> Array:
        """Radius, mm (n,), under a force:  √(r² + (p² − p_F²) / 4π²)."""
        lost = self.turns.pitches**2 - self.pitches_at(force) ** 2
        return np.sqrt(self.turns.radii**2 + lost / (4 * math.pi**2))
