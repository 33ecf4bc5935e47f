"""How each kind of part is drawn: a module a kind. A new one is a module and a line here."""

from __future__ import annotations

from collections.abc import Callable
from functools import lru_cache
from typing import Any

from metaspira.drawings.kinds import compression, extension, spiral, swept, thread, torsion
from metaspira.drawings.plan import Plan
from metaspira.parts import AnyPart, Part, ThreadedPart
from metaspira.springs.any_spring import AnySpring
from metaspira.springs.compression import Compression
from metaspira.springs.extension import Extension
from metaspira.springs.nested import Nested
from metaspira.springs.spiral import Spiral
from metaspira.springs.torsion import Torsion

_SPRINGS: dict[type[AnySpring], Callable[[Any, Any], Plan]] = {
    Compression: compression.plan_of,
    Nested: compression.plan_of_nest,
    Extension: extension.plan_of,
    Torsion: torsion.plan_of,
    Spiral: spiral.plan_of,
}
_PARTS: dict[type[AnyPart], Callable[[Any], Plan]] = {Part: swept.plan_of, ThreadedPart: thread.plan_of}


@lru_cache(maxsize=1)
def plan_of(part: AnyPart) -> Plan:
    """What the drawing of a part shows; the same one for all formats that are made of a part together."""
    if part.spring is None:
        return _PARTS[type(part)](part)
    return _SPRINGS[type(part.spring)](part, part.spring)
