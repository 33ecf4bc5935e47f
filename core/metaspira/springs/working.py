"""A spring at one load, and what all springs share."""

from __future__ import annotations

from dataclasses import dataclass

from metaspira.numbers.jets import Array


@dataclass(frozen=True)
class Working:
    """The spring at one load: length and the way from its free length (mm), force (N), the greatest stress plain and corrected (MPa),
    its share of what the wire allows, the energy stored (N mm), and the turns that are still open."""

    length: float
    force: float
    deflection: float
    stress: float
    corrected: float
    utilisation: float
    energy: float
    open_turns: float


def correction(index: Array | float) -> Array | float:
    """k = (w + 0.5) / (w − 0.75), which raises the stress at the inside of the coil (EN 13906-1)."""
    return (index + 0.5) / (index - 0.75)
