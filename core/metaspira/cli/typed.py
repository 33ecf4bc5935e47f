"""Values that are typed after a command's name."""

from __future__ import annotations

import math


def finite(text: str) -> float:
    """A number as typed. Raises ValueError where it is none, or not finite."""
    value = float(text)
    if not math.isfinite(value):
        raise ValueError(text)
    return value
