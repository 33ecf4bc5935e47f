"""Size: does the section shrink to nothing anywhere?"""

from __future__ import annotations

import numpy as np

from metaspira.checks.check import Check, Window, spans_below
from metaspira.part import Part

_LEAST = 1e-3


def check_size(part: Part, window: Window) -> Check:
    sweep = part.sweep
    s = np.linspace(0, sweep.length, 65)
    size = sweep.size(s)[0]
    least = float(size.min())
    stops = least < _LEAST
    if stops:
        why = f"The section shrinks to {least:.4g} of its size, and nothing of it would be left"
    elif sweep.size.constant:
        why = f"The section keeps {least:.4g} of its size all along"
    else:
        why = f"The section goes from {sweep.size.start:.4g} to {sweep.size.end:.4g} of its size"
    return Check(
        id="size",
        title="Size",
        verdict="stop" if stops else "clear",
        value=least,
        limit=_LEAST,
        unit="",
        why=why,
        margin=least - _LEAST,
        where=spans_below(s, size, _LEAST),
    )
