"""The shape of a spring that is pressed: turn by turn, each by its own softness until it meets its neighbour.

An element dθ at radius r closes in proportion to r³ until its own room is used up. It is the shape at a
length, not the force that holds it there.
"""

from __future__ import annotations

import itertools
import math
from dataclasses import dataclass

import numpy as np

from metaspira.numbers.jets import Array
from metaspira.numbers.once import cached_property
from metaspira.paths import Path
from metaspira.springs.deformed import edges_of, loaded_path
from metaspira.springs.turns import Turns


@dataclass(frozen=True, eq=False)
class Closing:
    """Turns that close; how far is told by an effort, by which an element of radius r closes r³."""

    turns: Turns

    @cached_property
    def room(self) -> float:
        """How far all of them can close, mm."""
        return float(self.turns.room.sum()) * self.turns.step

    def efforts(self, effort: float) -> Array:
        """What of an effort each element bears (n,): a closed one what it had when it closed."""
        return np.minimum(effort, np.where(self.turns.room > 0, self._closed_at, 0.0))

    @cached_property
    def _soft(self) -> Array:
        return self.turns.radii**3

    @cached_property
    def _closed_at(self) -> Array:
        """The effort at which each element has closed (n,); 0 where it is dead."""
        return self.turns.room / self._soft

    @cached_property
    def steps(self) -> tuple[Array, Array]:
        """Deflection (mm) and effort, each (n + 1,), wherever an element closes."""
        order = np.argsort(self._closed_at, kind="stable")
        effort, room = self._closed_at[order], self.turns.room[order]
        soft = np.where(room > 0, self._soft[order], 0.0)
        still = np.cumsum(soft[::-1])[::-1] - soft
        deflection = (np.cumsum(room) + effort * still) * self.turns.step
        return np.append(0.0, deflection), np.append(0.0, effort)

    def _effort(self, deflection: float) -> float:
        return float(np.interp(deflection, *self.steps))

    def radii(self, deflection: float) -> Array:
        """Radius, mm (n,), at a deflection, mm:  √(r² + (p² − p_F²) / 4π²)."""
        turns = self.turns
        fallen = turns.pitches - np.minimum(self._effort(deflection) * self._soft, turns.room)
        return np.sqrt(turns.radii**2 + (turns.pitches**2 - fallen**2) / (4 * math.pi**2))

    def path(self, deflection: float) -> Path:
        """The centre line at a deflection, mm, held to what there is room for."""
        turns, effort = self.turns, self._effort(deflection)
        edges = edges_of(turns, (turns.room > 0).astype(int) + (self._closed_at > effort))
        middles = [0.5 * (a + b) for a, b in itertools.pairwise(edges)]
        closed = np.interp(middles, turns.share, self._closed_at) <= effort
        touching = [
            pair for pair, is_closed in zip(itertools.pairwise(edges), closed, strict=True) if is_closed
        ]
        return loaded_path(turns, lambda share: self._pitch(share, effort), edges, touching)

    def _pitch(self, share: Array, effort: float) -> Array:
        """Pitch, mm a turn (n,), at any share of the turns."""
        turns = self.turns
        free = turns.pitch.value(share)
        room = np.interp(share, turns.share, turns.room) > 0
        least = np.minimum(turns.touching(share), free)
        return np.where(room, np.maximum(free - effort * turns.radius.value(share) ** 3, least), free)
