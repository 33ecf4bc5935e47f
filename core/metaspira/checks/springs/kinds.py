"""Which spring a part is, for the checks of its kind."""

from __future__ import annotations

from metaspira.part import Part
from metaspira.springs.compression import Compression
from metaspira.springs.extension import Extension
from metaspira.springs.torsion import Torsion


def pushing(part: Part) -> Compression:
    """Its compression spring. Raises TypeError where it is none."""
    if not isinstance(part.spring, Compression):
        raise TypeError("the part is no compression spring")
    return part.spring


def turning(part: Part) -> Torsion:
    """Its torsion spring. Raises TypeError where it is none."""
    if not isinstance(part.spring, Torsion):
        raise TypeError("the part is no torsion spring")
    return part.spring


def pulling(part: Part) -> Extension:
    """Its extension spring. Raises TypeError where it is none."""
    if not isinstance(part.spring, Extension):
        raise TypeError("the part is no extension spring")
    return part.spring
