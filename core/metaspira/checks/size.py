"""Size: does the section shrink to nothing anywhere?"""

from __future__ import annotations

import numpy as np

from metaspira.checks.check import Check, Window, spans_below
from metaspira.checks.question import Question, of_wire
from metaspira.numbers.jets import Array
from metaspira.parts import Part
from metaspira.schedules import least_of

_LEAST = 1e-3


def check_size(part: Part, window: Window) -> Check:
    sweep, changes = part.sweep, part.sweep.changes
    breaks = changes.breaks
    share = np.unique(np.concatenate([np.linspace(0.0, 1.0, 257), breaks]))

    def factors(at: Array) -> Array:
        return changes.size.value(at) * np.stack([changes.width.value(at), changes.depth.value(at)])

    size = factors(share).min(axis=0)
    every = (changes.size, changes.width, changes.depth)
    least, most = float(size.min()), float(factors(share).max())
    if any(factor.constant is None for factor in every):
        pieces = sum(factor.pieces for factor in every)
        least = least_of(lambda at: factors(at).min(axis=0), breaks, pieces)
        most = -least_of(lambda at: -factors(at).max(axis=0), breaks, pieces)
    stops = least < _LEAST
    if stops:
        why = f"The section shrinks to {least:.4g} of its size, and nothing of it would be left"
    elif least == most:
        why = f"The section keeps {least:.4g} of its size all along"
    else:
        why = (
            f"The section is between {least:.4g} and {most:.4g} of its size, from {size[0]:.4g} to "
            f"{size[-1]:.4g}"
        )
    return Check(
        id="size",
        title="Size",
        verdict="stop" if stops else "clear",
        value=least,
        limit=_LEAST,
        unit="",
        why=why,
        margin=least - _LEAST,
        where=spans_below(share * sweep.length, size, _LEAST),
    )


QUESTIONS = (
    Question(
        "size",
        check_size,
        of_wire,
        "wire",
        13,
        "least size factor",
        "below 0.001",
        cures=("/along/size", "/along/width", "/along/depth"),
    ),
)
